"""Sentences with numbers in them."""

import pytest

from leadsman.core.base.wording import DIGITS, Quantity, plain, say


def test_a_wording_keeps_its_numbers_apart_and_prints_them_in_the_documents_units() -> None:
    wording = say("{} gets {} of the {} wanted", "Low trough", Quantity(5.125, "L/min"), Quantity(9, "L/min"))
    assert wording[2] == Quantity(5.125, "L/min")
    assert plain(wording) == "Low trough gets 5.1 L/min of the 9.0 L/min wanted"


@pytest.mark.parametrize(
    ("quantity", "text"),
    [
        (Quantity(23.4, "min"), "23 minutes"),
        (Quantity(4.25, "d"), "4.2 days"),
        (Quantity(1736.2, "L/d"), "1736 L a day"),
        (Quantity(-16.5, "kPa"), "-16.5 kPa"),
        (Quantity(323.6, "m", digits=0), "324 m"),
    ],
)
def test_units_are_spoken(quantity: Quantity, text: str) -> None:
    assert str(quantity) == text
    assert quantity.unit in DIGITS


@pytest.mark.parametrize(("template", "values"), [("{} and {}", ("one",)), ("none", ("one",)), ("{}", ())])
def test_a_gap_too_many_or_too_few_is_refused(template: str, values: tuple[str, ...]) -> None:
    with pytest.raises(ValueError, match="gaps"):
        say(template, *values)
