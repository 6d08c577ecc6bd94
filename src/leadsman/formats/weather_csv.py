"""Daily weather from comma- or semicolon-separated values."""

import csv
from datetime import date, timedelta

from leadsman.core.base.fault import DesignFaults, Fault
from leadsman.core.design import Weather
from leadsman.core.design.file import read_weather

COLUMNS = {
    "date": ("date", "day"),
    "rain_mm": ("rain_mm", "rain", "precipitation_mm", "precip_mm"),
    "most_c": ("most_c", "max_c", "tmax_c", "t_max_c"),
    "least_c": ("least_c", "min_c", "tmin_c", "t_min_c"),
}
LARGEST_CHARACTERS = 2_000_000


def read_weather_csv(text: str, source: str = "") -> Weather:
    """Return the weather of a table: a header, then a row for each day on end; decimal comma or point.

    Raises:
        DesignFaults: what is wrong, with the line it stands in; nothing is taken of a table with a fault.
    """
    if len(text) > LARGEST_CHARACTERS:
        raise DesignFaults(
            [Fault(path="", code="too_large", found=f"{len(text)} characters", allowed=f"at most {LARGEST_CHARACTERS}")]
        )
    lines = [line for line in text.lstrip("\ufeff").splitlines() if line.strip()]
    if not lines:
        raise DesignFaults([Fault(path="", code="empty", found="nothing", allowed="a header and a row for each day")])
    delimiter = ";" if ";" in lines[0] else "\t" if "\t" in lines[0] else ","
    try:
        rows = list(csv.reader(lines, delimiter=delimiter))
    except csv.Error as error:
        found = str(error)[:80]
        raise DesignFaults([Fault(path="", code="not_csv", found=found, allowed="rows of separated values")]) from None
    header = [name.strip().lower() for name in rows[0]]
    place = {key: next((header.index(n) for n in names if n in header), None) for key, names in COLUMNS.items()}
    missing = [key for key in ("date", "rain_mm") if place[key] is None]
    if missing:
        found = ", ".join(header[:6])
        raise DesignFaults(
            [Fault(path="line 1", code="missing_column", found=found, allowed=f"a column {' and one '.join(missing)}")]
        )
    return _weather(rows[1:], {key: at for key, at in place.items() if at is not None}, source)


def _weather(rows: list[list[str]], place: dict[str, int], source: str) -> Weather:
    faults: list[Fault] = []
    days: list[date] = []
    series: dict[str, list[float]] = {key: [] for key in place if key != "date"}
    for number, row in enumerate(rows, start=2):
        try:
            days.append(date.fromisoformat(_cell(row, place["date"])))
        except ValueError:
            faults.append(
                Fault(
                    path=f"line {number}", code="no_day", found=_cell(row, place["date"]), allowed="a day as 2026-05-31"
                )
            )
            continue
        if len(days) > 1 and days[-1] != days[-2] + timedelta(days=1):
            after = (days[-2] + timedelta(days=1)).isoformat()
            faults.append(
                Fault(path=f"line {number}", code="not_the_next_day", found=days[-1].isoformat(), allowed=after)
            )
        for key, values in series.items():
            try:
                values.append(float(_cell(row, place[key]).replace(",", ".")))
            except ValueError:
                faults.append(
                    Fault(
                        path=f"line {number}",
                        code="no_number",
                        found=_cell(row, place[key]),
                        allowed=f"a number for {key}",
                    )
                )
    if faults or not days:
        raise DesignFaults(
            faults[:20] or [Fault(path="line 2", code="empty", found="nothing", allowed="a row for each day")]
        )
    return read_weather({"from": days[0].isoformat(), "source": source, **series})


def _cell(row: list[str], at: int) -> str:
    return row[at].strip() if at < len(row) else ""
