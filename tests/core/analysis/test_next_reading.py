"""What to measure next: never widens, settles what it says it settles, and is silent where nothing turns on it."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from examples import Document, one_line
from leadsman.core.analysis.next_reading import NextReading, next_readings
from leadsman.core.analysis.running import Running
from leadsman.core.design.file import read_design
from properties import examples


def readings(top: float | None, end: float | None, wanted: float, **more: object) -> list[NextReading]:
    """Of the plain line, with heights good to so much [m] and a flow wanted [L/min]."""
    document: Document = one_line(**more)
    for place, error in zip(document["places"], (top, end), strict=True):
        place.pop("height_error_m", None)
        if error is not None:
            place["height_error_m"] = error
    document["requirements"] = [{"outlet": "valve", "flow_lpm": wanted}]
    return next_readings(Running(read_design(document)))


@examples(40)
@given(st.floats(0.05, 4), st.floats(0.05, 4), st.floats(5, 80))
def test_a_reading_narrows_and_settles_only_what_it_brings_to_one_side(top: float, end: float, wanted: float) -> None:
    for reading in readings(top, end, wanted):
        (worst, best), (low, high) = reading.before, reading.after
        assert worst - 1e-12 <= low <= high <= best + 1e-12
        assert 0.0 < reading.narrows <= 1.0
        assert reading.turns == (worst < reading.limit_m3s <= best)
        assert reading.settles == (reading.turns and not low < reading.limit_m3s <= high)
        assert reading.outlet_id == "valve"


def test_the_worse_height_comes_first_and_a_good_one_is_left_out() -> None:
    heights = [reading.part_id for reading in readings(3.0, 0.4, 38.0) if reading.kind == "height"]
    assert heights[0] == "top"
    assert [reading.part_id for reading in readings(0.02, 3.0, 38.0) if reading.kind == "height"] == ["end"]


@pytest.mark.parametrize(("wanted", "turning"), [(1.0, False), (38.0, True), (500.0, False)])
def test_nothing_is_worth_it_where_every_answer_stands(wanted: float, turning: bool) -> None:
    listed = readings(1.0, 1.0, wanted)
    assert any(one.turns for one in listed) is turning
    assert listed  # what it would narrow is told all the same


def test_an_outlet_of_which_no_flow_is_wanted_has_to_run_at_all() -> None:
    document = one_line()
    document["requirements"] = []
    document["lines"][0]["points"] = []
    document["places"][1] |= {"ground_m": 120.3, "height_error_m": 2.0}
    document["outlets"][0]["height_m"] = 0.2
    (first, *_) = next_readings(Running(read_design(document)))
    assert (first.kind, first.part_id, first.limit_m3s) == ("height", "end", 0.0)
    assert first.before[0] <= 0.0 < first.before[1]
    assert first.turns


def test_a_height_that_nobody_judged_is_named_as_such() -> None:
    listed = {reading.part_id: reading for reading in readings(None, 0.2, 38.0) if reading.kind == "height"}
    assert not listed["top"].is_stated
    assert listed["end"].is_stated
    assert listed["top"].narrows > listed["end"].narrows
