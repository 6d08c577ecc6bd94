"""The units that a reader wants: metric as in the document, US customary, or imperial gallons. Converted here only.

The page reads the same table (`leadsman units`).
Source: NIST SP 811, exact factors; of Kv to Cv IEC 60534 by the definitions of both.
"""

import json
from dataclasses import dataclass
from math import sqrt
from typing import Literal, get_args

from leadsman.core.base.wording import DIGITS, SPOKEN, TRICKLE_LPM, Quantity, Unit, Wording, with_unit

System = Literal["metric", "us", "imperial"]
SYSTEMS: tuple[System, ...] = get_args(System)

FOOT_M, INCH_MM, US_GALLON_L, IMPERIAL_GALLON_L = 0.3048, 25.4, 3.785411784, 4.54609
PSI_KPA, POUND_KG = 6.894757293168, 0.45359237


@dataclass(frozen=True, kw_only=True)
class ShownUnit:
    """How a quantity is shown: figure = document's figure × factor + offset; `trim` leaves out decimals of zero."""

    unit: str
    factor: float = 1.0
    offset: float = 0.0
    digits: int = 0
    trim: bool = False


METRIC: dict[Unit, ShownUnit] = {
    "m": ShownUnit(unit="m", digits=2),
    "mm": ShownUnit(unit="mm", digits=1),
    "mm rain": ShownUnit(unit="mm", digits=1, trim=True),
    "m²": ShownUnit(unit="m²"),
    "L/min": ShownUnit(unit="L/min", digits=1),
    "L": ShownUnit(unit="L"),
    "L/d": ShownUnit(unit="L/day"),
    "kPa": ShownUnit(unit="kPa", digits=1, trim=True),
    "min": ShownUnit(unit="min"),
    "d": ShownUnit(unit="days", digits=1, trim=True),
    "°C": ShownUnit(unit="°C", digits=1, trim=True),
    "kg": ShownUnit(unit="kg"),
    "m³/h": ShownUnit(unit="m³/h at 1 bar", digits=2),
    "s": ShownUnit(unit="s"),
    "count": ShownUnit(unit=""),
    "m/s": ShownUnit(unit="m/s", digits=2),
}
US: dict[Unit, ShownUnit] = {
    **METRIC,
    "m": ShownUnit(unit="ft", factor=1 / FOOT_M, digits=1),
    "mm": ShownUnit(unit="in", factor=1 / INCH_MM, digits=3),
    "mm rain": ShownUnit(unit="in", factor=1 / INCH_MM, digits=2, trim=True),
    "m²": ShownUnit(unit="ft²", factor=1 / FOOT_M**2),
    "L/min": ShownUnit(unit="gal/min", factor=1 / US_GALLON_L, digits=2),
    "L": ShownUnit(unit="gal", factor=1 / US_GALLON_L),
    "L/d": ShownUnit(unit="gal/day", factor=1 / US_GALLON_L),
    "kPa": ShownUnit(unit="psi", factor=1 / PSI_KPA, digits=1, trim=True),
    "°C": ShownUnit(unit="°F", factor=1.8, offset=32.0),
    "kg": ShownUnit(unit="lb", factor=1 / POUND_KG),
    "m/s": ShownUnit(unit="ft/s", factor=1 / FOOT_M, digits=1),
    "m³/h": ShownUnit(unit="gal/min at 1 psi", factor=1000 / 60 / US_GALLON_L / sqrt(100 / PSI_KPA), digits=2),
}
# heat and weight stay metric, as they are used with imperial gallons
IMPERIAL: dict[Unit, ShownUnit] = {
    **US,
    "L/min": ShownUnit(unit="imp gal/min", factor=1 / IMPERIAL_GALLON_L, digits=2),
    "L": ShownUnit(unit="imp gal", factor=1 / IMPERIAL_GALLON_L),
    "L/d": ShownUnit(unit="imp gal/day", factor=1 / IMPERIAL_GALLON_L),
    "°C": METRIC["°C"],
    "kg": METRIC["kg"],
    "m³/h": METRIC["m³/h"],
}
TABLES: dict[System, dict[Unit, ShownUnit]] = {"metric": METRIC, "us": US, "imperial": IMPERIAL}


def quantity_text(quantity: Quantity, system: System) -> str:
    """Return a quantity as text in the units of a system; in metric ones as the document has it."""
    if system == "metric":
        return str(quantity)
    shown = TABLES[system][quantity.unit]
    usual = DIGITS[quantity.unit] if shown == METRIC[quantity.unit] else shown.digits
    trickle = quantity.unit == "L/min" and abs(quantity.value) < TRICKLE_LPM
    digits = usual + trickle if quantity.digits is None else quantity.digits
    figure = f"{quantity.value * shown.factor + shown.offset:.{digits}f}"
    named = SPOKEN.get(quantity.unit, shown.unit) if shown == METRIC[quantity.unit] else shown.unit
    return with_unit(figure, quantity.unit, named)


def worded(wording: Wording, system: System) -> str:
    """Return a wording as one line of text in the units of a system."""
    return "".join(part if isinstance(part, str) else quantity_text(part, system) for part in wording)


def units_text() -> str:
    """Return the table as JSON that the page reads, by system and unit of the document."""
    table = {
        system: {
            unit: {key: value for key, value in vars(shown).items() if value not in (False, 0.0) or key == "digits"}
            for unit, shown in table.items()
        }
        for system, table in TABLES.items()
    }
    return json.dumps(table, indent=2, ensure_ascii=False) + "\n"
