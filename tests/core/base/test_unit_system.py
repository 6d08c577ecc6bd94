"""Units of the reader: factors against Pint, singular and plural, and words that hold quantities and words."""

import pint
import pytest

from leadsman.core.base.unit_system import TABLES, System, quantity_text, worded
from leadsman.core.base.wording import DIGITS, Quantity, Unit, listed, plain, say

REGISTRY: "pint.UnitRegistry[float]" = pint.UnitRegistry()
IN_PINT: dict[str, str] = {
    "m": "m", "mm": "mm", "mm rain": "mm", "m²": "m**2", "L/min": "L/min", "L": "L", "L/d": "L/day", "kPa": "kPa",
    "kg": "kg", "m/s": "m/s", "ft": "ft", "in": "in", "ft²": "ft**2", "gal/min": "gal/min", "gal": "gal",
    "gal/day": "gal/day", "psi": "psi", "lb": "lb", "ft/s": "ft/s", "imp gal/min": "imperial_gallon/min",
    "imp gal": "imperial_gallon", "imp gal/day": "imperial_gallon/day",
}  # fmt: skip


@pytest.mark.parametrize("system", ["us", "imperial"])
def test_factors_agree_with_pint(system: System) -> None:
    compared = 0
    for unit, shown in TABLES[system].items():
        if unit in IN_PINT and shown.unit in IN_PINT:
            compared += 1
            expected = REGISTRY.Quantity(1.0, IN_PINT[unit]).to(IN_PINT[shown.unit]).magnitude
            assert shown.factor == pytest.approx(expected, rel=1e-9), unit
    assert compared >= 10
    assert TABLES["us"]["m³/h"].factor == pytest.approx(1 / 0.86498, rel=1e-5)  # Kv to Cv, IEC 60534
    assert quantity_text(Quantity(value=37.0, unit="°C"), "us") == "99 °F"


@pytest.mark.parametrize(
    ("quantity", "us", "imperial"),
    [
        (Quantity(value=10.0, unit="L/min"), "2.64 gal/min", "2.20 imp gal/min"),
        (Quantity(value=0.5, unit="L/min"), "0.132 gal/min", "0.110 imp gal/min"),
        (Quantity(value=100.0, unit="m²"), "1076 ft²", "1076 ft²"),
        (Quantity(value=25.4, unit="mm rain"), "1.00 in", "1.00 in"),
        (Quantity(value=300.0, unit="m", digits=0), "984 ft", "984 ft"),
        (Quantity(value=1.0, unit="min"), "1 minute", "1 minute"),
        (Quantity(value=60.0, unit="min"), "60 minutes", "60 minutes"),
        (Quantity(value=1.0, unit="d", digits=0), "1 day", "1 day"),
        (Quantity(value=20.0, unit="kg"), "44 lb", "20 kg"),
    ],
)
def test_a_quantity_is_told_in_the_readers_units(quantity: Quantity, us: str, imperial: str) -> None:
    assert quantity_text(quantity, "us") == us
    assert quantity_text(quantity, "imperial") == imperial
    assert quantity_text(quantity, "metric") == str(quantity)


def test_every_unit_is_in_every_table() -> None:
    units: set[Unit] = set(DIGITS)
    assert all(set(table) == units for table in TABLES.values())


@pytest.mark.parametrize(
    ("minutes", "text"), [(1.0, "1 minute"), (0.6, "1 minute"), (2.0, "2 minutes"), (0.0, "0 minutes")]
)
def test_one_of_it_is_said_in_the_singular(minutes: float, text: str) -> None:
    assert str(Quantity(value=minutes, unit="min")) == text


def test_wordings_are_put_into_one_another_and_one_after_the_other() -> None:
    at = [say("{} along {}", Quantity(value=metres, unit="m", digits=0), "main") for metres in (10.0, 300.0)]
    vents = say("vents at {}", listed(at))
    assert plain(vents) == "vents at 10 m along main and 300 m along main"
    assert worded(vents, "us") == "vents at 33 ft along main and 984 ft along main"
    assert plain(listed([("a",), ("b",), ("c",)])) == "a, b and c"
    assert listed([]) == ()
