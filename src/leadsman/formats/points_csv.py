"""Points as comma-, semicolon- or tab-separated values: columns in any order, a unit row, decimal comma or point."""

import csv
import io
import re
from dataclasses import dataclass

from leadsman.core.base.fault import DesignFaults, Fault
from leadsman.core.base.spreadsheet import text_cell, text_of_cell
from leadsman.core.design import Design, label
from leadsman.core.survey.survey_file import WGS84, FilePoint, SurveyFile, refuse
from leadsman.formats.limits import require_few
from leadsman.formats.placed import anchor_of
from leadsman.formats.projection import Plane

# what people call a column -> what it is; compared without case, units and everything but letters
CALLED = {
    "id": ("id", "nr", "no", "number"),
    "name": ("name", "point", "place", "label", "pt", "station", "description", "desc"),
    "latitude": ("latitude", "lat", "latitudedeg", "ycoorddeg"),
    "longitude": ("longitude", "lon", "long", "lng", "longitudedeg"),
    "east": ("east", "easting", "e", "x", "eastm", "xm", "eastingm", "rechtswert"),
    "north": ("north", "northing", "n", "y", "northm", "ym", "northingm", "hochwert"),
    "height": ("height", "h", "z", "ele", "elev", "elevation", "altitude", "alt", "ground", "groundm", "level", "rl",
               "heightm", "zm", "elevationm", "altitudem"),
}  # fmt: skip
FOOT_M = 0.3048
FEET = {"ft", "feet", "foot", "ftus"}
UNITS = FEET | {"m", "metre", "metres", "meter", "meters", "deg", "degrees", "degree", "d", "°", "-", ""}
MOST_COLUMNS = 200


@dataclass(frozen=True, kw_only=True)
class _Table:
    place: dict[str, int]
    feet: set[str]
    rows: list[tuple[int, list[str]]]


def read_points_csv(data: bytes) -> SurveyFile:
    """Return the points of a table; in degrees where it has latitude and longitude, else in a system to be asked for.

    Raises:
        DesignFaults: no header that says where the points lie, or cells that are no numbers; says in which line.
    """
    table = _table(_text(data))
    in_degrees = "latitude" in table.place
    x_key, y_key = ("longitude", "latitude") if in_degrees else ("east", "north")
    spots: list[FilePoint] = []
    faults: list[Fault] = []
    require_few(len(table.rows))
    for number, row in table.rows:
        try:
            x, y = (_number(_cell(row, table, key), key, table) for key in (x_key, y_key))
            height = _cell(row, table, "height")
            height_m = _number(height, "height", table) if height else None
        except ValueError as wrong:
            faults.append(Fault(path=f"line {number}", code="no_number", found=str(wrong), allowed="a number"))
            continue
        named = text_of_cell(_cell(row, table, "name")) or _cell(row, table, "id") or f"Point {len(spots) + 1}"
        spots.append(FilePoint(name=named[:120], x=x, y=y, height_m=height_m, part_id=_cell(row, table, "id") or None))
    if faults:
        raise DesignFaults(faults[:20])
    notes = ["Heights in feet were turned into metres."] if "height" in table.feet else []
    return SurveyFile(format="CSV", system=WGS84 if in_degrees else None, spots=spots, notes=notes)


def _text(data: bytes) -> str:
    for encoding in ("utf-8-sig", "utf-16") if data[:2] in (b"\xff\xfe", b"\xfe\xff") else ("utf-8-sig", "cp1252"):
        try:
            return data.decode(encoding)
        except UnicodeDecodeError:
            continue
    raise refuse("", "not_text", "bytes that are no text", "text in UTF-8")


def _table(text: str) -> _Table:
    lines = [(number, line) for number, line in enumerate(text.splitlines(), start=1) if line.strip(" \t;,")]
    lines = [(number, line) for number, line in lines if not line.lstrip().startswith("#")]
    if not lines:
        raise refuse("", "empty", "nothing", "a header and a row for each point")
    if "\x00" in text:
        raise refuse("", "not_text", "bytes that are no text", "text in UTF-8")
    delimiter = max(";\t,", key=lambda mark: (lines[0][1].count(mark), mark == ";"))
    try:
        rows = [next(csv.reader([line], delimiter=delimiter)) for _, line in lines]
    except csv.Error as error:
        raise refuse("", "not_csv", str(error)[:80], "rows of separated values") from None
    header = [_plain(name) for name in rows[0][:MOST_COLUMNS]]
    place = {key: next((header.index(name) for name in names if name in header), -1) for key, names in CALLED.items()}
    place = {key: at for key, at in place.items() if at >= 0}
    if not ({"latitude", "longitude"} <= set(place) or {"east", "north"} <= set(place)):
        raise refuse("line 1", "missing_column", ", ".join(rows[0][:8])[:120],
                     "a header with latitude and longitude, or east and north")  # fmt: skip
    body = list(zip([number for number, _ in lines[1:]], rows[1:], strict=True))
    feet = {key for key, at in place.items() if _unit(rows[0][at]) in FEET}
    if body and _is_unit_row(body[0][1], place):
        feet |= {key for key, at in place.items() if at < len(body[0][1]) and _letters(body[0][1][at]) in FEET}
        body = body[1:]
    return _Table(place=place, feet=feet, rows=body)


def _plain(name: str) -> str:
    """Return a column's name without unit, case and all but letters: "Height (ft)" and "height_ft" are height."""
    bare = re.sub(r"[(\[].*?[)\]]", "", name).strip().lower()
    bare = re.sub(r"[_ ](m|ft|feet|metres?|deg|degrees)$", "", bare)
    return re.sub(r"[^a-zäöü]", "", bare)


def _unit(name: str) -> str:
    found = re.search(r"[(\[](.*?)[)\]]\s*$|[_ ](ft|feet)$", name.strip().lower())
    return _letters(found[1] or found[2]) if found else ""


def _letters(text: str) -> str:
    return re.sub(r"[^a-z°-]", "", text.strip().lower())


def _is_unit_row(row: list[str], place: dict[str, int]) -> bool:
    cells = [row[at].strip("[]() ") if at < len(row) else "" for key, at in place.items() if key not in ("id", "name")]
    return any(cells) and all(_letters(cell) in UNITS and not any(c.isdigit() for c in cell) for cell in cells)


def _cell(row: list[str], table: _Table, key: str) -> str:
    at = table.place.get(key, -1)
    return row[at].strip() if 0 <= at < len(row) else ""


def _number(text: str, key: str, table: _Table) -> float:
    """Return a number with a decimal point or comma, in metres where it is in feet.

    Raises:
        ValueError: it is none; says which.
    """
    plain = re.sub("[\u202f\xa0']", "", text)
    if plain.rfind(",") > plain.rfind("."):
        plain = plain.replace(".", "").replace(",", ".")
    try:
        value = float(plain.replace(",", ""))
    except ValueError:
        raise ValueError(f"{key} {text[:40]!r}") from None
    if not abs(value) < 1e12:
        raise ValueError(f"{key} {text[:40]!r}")
    return value * FOOT_M if key in table.feet else value


def write_points_csv(design: Design) -> bytes:
    """Return a row for each place: local metres always, degrees where the plan has a position on the globe."""
    metres = [(place.east_m, place.north_m) for place in design.places]
    degrees = Plane(anchor_of(design)).degrees(metres) if design.site.anchor else [None] * len(metres)
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(["id", "name", "east_m", "north_m", *(["latitude", "longitude"] if design.site.anchor else []),
                     "ground_m", "height_error_m", "height_from"])  # fmt: skip
    for place, pair in zip(design.places, degrees, strict=True):
        writer.writerow([
            place.id, text_cell(label(place)), place.east_m, place.north_m, *([pair[1], pair[0]] if pair else []),
            place.ground_m, "" if place.height_error_m is None else place.height_error_m,
            text_cell(place.height_from or ""),
        ])  # fmt: skip
    return out.getvalue().encode("utf-8-sig")
