"""What animals drink in a day, from a published table."""

from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import accumulate

from leadsman.core.catalogue import IntakeRow, animals, intake_rows
from leadsman.core.errors import OutOfRange, UnknownName, require_between

HOTTEST_C = 50.0


@dataclass(frozen=True)
class Intake:
    """Daily intake of one animal [L/d]; `beyond_table` where it is carried on above the hottest row."""

    litres_per_day: float
    beyond_table: bool
    source_id: str
    note: str


def daily_intake(animal: str, weight_kg: float, air_c: float, path: str = "") -> Intake:
    """Return what one animal drinks in a day.

    Straight lines between rows of weight and of temperature. Never less in heat: each row counts for
    every hotter one too. Colder than the first row counts as the first; hotter than the last is carried
    on at the steepest rise of the table and marked. A weight outside the class's rows is refused.

    Args:
        animal: class, as `animals` lists them.
        weight_kg: live weight [kg], within the class's rows.
        air_c: temperature of the air [°C], −40 to 50.
        path: JSON pointer of the herd, for the error.
    Raises:
        UnknownName: no such class.
        OutOfRange: weight or temperature outside its limits.
    Source: the table's own rows, each with its source.
    """
    rows = [row for row in intake_rows() if row.animal == animal]
    if not rows:
        raise UnknownName("class of animal", animal, animals(), f"{path}/class")
    weights = sorted({row.weight_kg for row in rows})
    low, high = (weights[0] * 0.95, weights[-1] * 1.05) if len(weights) == 1 else (weights[0], weights[-1])
    if not low <= weight_kg <= high:
        raise OutOfRange("weight_kg", weight_kg, low, high, f"{path}/weight_kg")
    require_between("air temperature [°C]", air_c, -40.0, HOTTEST_C)
    by_weight = [_at_temperature([row for row in rows if row.weight_kg == weight], air_c) for weight in weights]
    litres = interpolated(weight_kg, weights, by_weight)
    return Intake(litres, air_c > max(row.air_c for row in rows), rows[0].source_id, rows[0].note)


def _at_temperature(rows: list[IntakeRow], air_c: float) -> float:
    temperatures = [row.air_c for row in rows]
    litres = list(accumulate((row.intake_lpd for row in rows), max))
    if air_c <= temperatures[-1]:
        return interpolated(air_c, temperatures, litres)
    rises = [(litres[i] - litres[i - 1]) / (temperatures[i] - temperatures[i - 1]) for i in range(1, len(litres))]
    return litres[-1] + max(rises) * (air_c - temperatures[-1])


def interpolated(x: float, xs: Sequence[float], ys: Sequence[float]) -> float:
    """Return y at x on straight lines between points whose x rise; the end values hold beyond the ends."""
    if x <= xs[0] or len(xs) == 1:
        return ys[0]
    if x >= xs[-1]:
        return ys[-1]
    upper = bisect_right(xs, x)
    share = (x - xs[upper - 1]) / (xs[upper] - xs[upper - 1])
    return ys[upper - 1] + share * (ys[upper] - ys[upper - 1])
