"""A plan from a few numbers: what is drawn is what was told, and the answer is that of a line drawn by hand."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.fault import DesignFaults
from leadsman.core.design import Design
from leadsman.core.design.edit.first_line import FirstLine, with_first_line
from leadsman.core.design.start import new_design
from leadsman.core.design.store import volume_between_m3
from leadsman.core.findings.registry import judge
from properties import examples

TOLD = {"fall_m": 6.0, "distance_m": 250.0, "product": "pe100-sdr17-32", "animal": "growing cattle", "head": 25}


def made(**changes: float | str) -> Design:
    told = FirstLine.model_validate({**TOLD, "trough_l": 500.0, **changes})
    return with_first_line(new_design("Tamsel Ridge", "tank", "Hill", 300.0), told)


@examples(60)
@given(
    fall_m=st.floats(-40, 40), distance_m=st.floats(41, 3_000), head=st.integers(1, 500), trough_l=st.floats(20, 9_000)
)
def test_what_is_drawn_is_what_was_told(fall_m: float, distance_m: float, head: int, trough_l: float) -> None:
    design = made(fall_m=fall_m, distance_m=distance_m, head=head, trough_l=trough_l)
    start, end = design.places
    assert start.ground_m - end.ground_m == pytest.approx(fall_m, abs=0.006)
    plan_m = math.hypot(end.east_m - start.east_m, end.north_m - start.north_m)
    assert math.hypot(plan_m, fall_m) == pytest.approx(distance_m, abs=0.01)
    (line,) = design.lines
    assert line.length_m == distance_m
    trough = next(vessel for vessel in design.vessels if vessel.role == "trough")
    brim_m = trough.shape.height_m  # type: ignore[union-attr]
    assert volume_between_m3(trough, 0.0, brim_m) * 1000.0 == pytest.approx(trough_l, rel=0.01)
    assert design.herds[0].head == head


def test_more_fall_brings_more_water_and_none_brings_none() -> None:
    flows = [
        next(iter(Analysis(made(fall_m=fall_m)).state.outlets.values())).judged_flow_m3s for fall_m in (-3.0, 2.0, 6.0)
    ]
    assert flows[0] == 0.0 < flows[1] < flows[2]


def test_a_small_fall_over_a_long_way_is_told_to_fail_the_animals_and_a_large_one_not() -> None:
    def fails(fall_m: float) -> bool:
        return "trough-runs-empty" in {finding.code for finding in judge(Analysis(made(fall_m=fall_m)))}

    assert fails(0.8)
    assert not fails(25.0)


@pytest.mark.parametrize(
    ("change", "allowed"),
    [
        ({"fall_m": 300.0}, "no more than the pipe is long"),
        ({"product": "none"}, "the id of a pipe"),
        ({"animal": "unicorn"}, "class"),
    ],
)
def test_what_cannot_be_drawn_is_refused_with_the_reason(change: dict[str, float | str], allowed: str) -> None:
    with pytest.raises(DesignFaults) as refusal:
        made(**change)
    assert allowed in refusal.value.faults[0].allowed
