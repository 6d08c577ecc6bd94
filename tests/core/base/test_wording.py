"""Sentences with numbers in them."""

import pytest

from leadsman.core.base.wording import DIGITS, Quantity, plain, say


def test_a_wording_keeps_its_numbers_apart_and_prints_them_in_the_documents_units() -> None:
    wording = say(
        "{} gets {} of the {} wanted",
        "Low trough",
        Quantity(value=5.125, unit="L/min"),
        Quantity(value=9, unit="L/min"),
    )
    assert wording[2] == Quantity(value=5.125, unit="L/min")
    assert plain(wording) == "Low trough gets 5.1 L/min of the 9.0 L/min wanted"


@pytest.mark.parametrize(
    ("quantity", "text"),
    [
        (Quantity(value=23.4, unit="min"), "23 minutes"),
        (Quantity(value=4.25, unit="d"), "4.2 days"),
        (Quantity(value=1736.2, unit="L/d"), "1736 L a day"),
        (Quantity(value=-16.5, unit="kPa"), "-16.5 kPa"),
        (Quantity(value=323.6, unit="m", digits=0), "324 m"),
    ],
)
def test_units_are_spoken(quantity: Quantity, text: str) -> None:
    assert str(quantity) == text
    assert quantity.unit in DIGITS


@pytest.mark.parametrize(("template", "values"), [("{} and {}", ("one",)), ("none", ("one",)), ("{}", ())])
def test_a_gap_too_many_or_too_few_is_refused(template: str, values: tuple[str, ...]) -> None:
    with pytest.raises(ValueError, match="gaps"):
        say(template, *values)
