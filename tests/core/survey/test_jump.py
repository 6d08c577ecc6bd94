"""Where a level book that does not close goes wrong, by heights that are known otherwise."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from leadsman.core.design import StaffReading
from leadsman.core.survey.level_book import jump_between, reduced_book
from properties import examples

KNOWN = {"a": 100.0, "b": 98.6, "c": 97.1, "d": 99.0}


def book(slips: dict[int, float], places: str = "abcda", noise_m: tuple[float, ...] = ()) -> list[StaffReading]:
    """A closed book over places, a set-up at each; the fore sight of a reading is off by its slip."""
    readings = [StaffReading(place=places[0], back_m=1.5)]
    for number in range(1, len(places)):
        fall = KNOWN[places[number - 1]] - KNOWN[places[number]]
        fore = 1.5 + fall + slips.get(number, 0.0) + (noise_m[number - 1] if noise_m else 0.0)
        last = number == len(places) - 1
        readings.append(StaffReading(place=places[number], fore_m=round(fore, 3), back_m=None if last else 1.5))
    return readings


@pytest.mark.parametrize("wrong", [1, 2, 3, 4])
@pytest.mark.parametrize("slip_m", [0.1, -0.5, 1.0])
def test_the_two_readings_about_a_slip_are_named(wrong: int, slip_m: float) -> None:
    found = jump_between(reduced_book(book({wrong: slip_m}), 100.0, 100.0), KNOWN)
    assert found == (wrong - 1, wrong)


@examples(60)
@given(
    wrong=st.integers(1, 4), noise=st.tuples(*[st.floats(-0.02, 0.02)] * 4), slip_m=st.sampled_from([0.5, -0.5, 1.0])
)
def test_noise_on_every_sight_names_no_other(wrong: int, noise: tuple[float, ...], slip_m: float) -> None:
    found = jump_between(reduced_book(book({wrong: slip_m}, noise_m=noise), 100.0, 100.0), KNOWN)
    assert found in ((wrong - 1, wrong), None)


def test_two_slips_of_a_size_name_nothing() -> None:
    assert jump_between(reduced_book(book({1: 0.1, 3: 0.1}), 100.0, 100.0), KNOWN) is None


def test_without_a_known_height_on_the_way_nothing_is_said() -> None:
    readings = book({2: 0.5})
    assert jump_between(reduced_book(readings, 100.0, 100.0), {"a": 100.0}) is None
    assert jump_between(reduced_book(book({}), 100.0, 100.0), KNOWN) is None
    assert jump_between(reduced_book(readings, 100.0), KNOWN) is None  # it does not come back
