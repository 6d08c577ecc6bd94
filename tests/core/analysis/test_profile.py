"""The shape of any pipe: high and low points in turn, falls and volumes that add up, air that vents only help."""

from itertools import pairwise
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from examples import one_line
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.first_water import first_water
from leadsman.core.analysis.profile import PROMINENT_M, PipeProfile
from leadsman.core.base.wording import plain
from leadsman.core.design.file import read_design
from leadsman.core.findings.settling import what_would_settle
from properties import examples

heights = st.lists(st.floats(min_value=70.0, max_value=119.0).map(lambda h: round(h, 2)), min_size=1, max_size=9)


def analysis(grounds: list[float], **changes: Any) -> Analysis:
    step = 210.0 / (len(grounds) + 1)
    inner = [[round(step * (i + 1), 2), ground] for i, ground in enumerate(grounds)]
    points = [[0, 120], *inner, [210, 101]]
    return Analysis(read_design(one_line(**{"lines.0.points": points, **changes})))


def profile_of(told: Analysis) -> PipeProfile:
    route = told.routes["valve"]
    assert route is not None
    return PipeProfile(told.model, route)


@given(heights)
@examples(60)
def test_high_points_and_low_points_come_in_turn_and_each_counts(grounds: list[float]) -> None:
    profile = profile_of(analysis(grounds))
    turns = profile.extremes
    assert [turn.is_high for turn in turns] == [i % 2 == 0 for i in range(len(turns))]
    for before, after in pairwise(turns):
        assert before.at_m < after.at_m
        assert abs(before.pipe_m - after.pipe_m) > PROMINENT_M
    for low_point in profile.deep_low_points(0.5):
        upstream = max(height for at_m, height, _ in profile.stations if at_m < low_point.at_m)
        downstream = max(height for at_m, height, _ in profile.stations if at_m > low_point.at_m)
        assert min(upstream, downstream) >= low_point.pipe_m + 0.5
        assert any(low_point.number == one.number for one in profile.low_points)
    assert len(profile.low_points) <= len(turns) // 2 + 1


@given(heights, st.floats(min_value=0.0, max_value=1.0), st.floats(min_value=0.0, max_value=1.0))
@examples(40)
def test_falls_and_volumes_of_two_stretches_are_those_of_both(grounds: list[float], a: float, b: float) -> None:
    profile = profile_of(analysis(grounds))
    cut, end = sorted((210.0 * a, 210.0 * b))
    whole = profile.pieces(0.0, end)
    parts = [*profile.pieces(0.0, cut), *profile.pieces(cut, end)]
    for number in (0, 1):
        assert sum(part[number] for part in parts) == pytest.approx(sum(one[number] for one in whole), abs=1e-9)
    high = profile.volume_over_m3(0.0, end, 60.0)
    assert high == pytest.approx(sum(volume for _, volume in whole), abs=1e-12)
    assert 0.0 <= profile.volume_over_m3(0.0, end, 100.0) <= high
    assert profile.volume_over_m3(0.0, end, 125.0) == 0.0


@given(heights)
@examples(40)
def test_a_vent_never_makes_the_first_water_harder_and_no_line_needs_less_than_its_highest_high_point(
    grounds: list[float],
) -> None:
    told = analysis(grounds)
    first = first_water(told, told.design.outlets[0])
    if first is None:
        assert profile_of(told).extremes == []
        return
    bare, everywhere = first.filled(()), first.filled(range(len(first.profile.high_points)))
    highest = max(turn.pipe_m for turn in first.profile.extremes)
    assert highest - 1e-9 <= everywhere.needed_m <= bare.needed_m + 1e-9
    assert everywhere.needed_m == pytest.approx(highest)
    assert bare.needed_m <= bare.naive_m + 1e-9
    for number in range(len(first.profile.high_points)):
        assert first.filled((number,)).needed_m <= bare.needed_m + 1e-9
    assert [pocket.squeezed_m <= pocket.leg_m + 1e-9 for pocket in bare.pockets] == [True] * len(bare.pockets)


@pytest.mark.parametrize(
    ("margin_m", "causes", "said"),
    [
        (0.4, [(0.5, "Knoll"), (0.1, "Low")], "It keeps within this by 0.40 m only, and the height of Knoll alone may"),
        (-0.4, [(0.5, "Knoll")], "It misses this by 0.40 m only, and the height of Knoll alone may move it by 0.50 m:"),
        (0.4, [(0.3, "Knoll"), (0.05, "Low")], ""),  # together they cannot turn it
        (-3.0, [(0.5, "Knoll")], ""),
        (0.0, [], ""),
    ],
)  # fmt: skip
def test_a_height_is_to_be_levelled_only_where_it_could_turn_the_verdict(
    margin_m: float, causes: list[tuple[float, str]], said: str
) -> None:
    told = plain(what_would_settle(margin_m, causes))
    assert told.startswith(said)
    assert bool(told) is bool(said)
