"""The first water through a line of a design, against the published examples, and the shape of its pipe."""

from typing import Any

import numpy as np
import pytest

from examples import Document, one_line
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.first_water import FirstWater
from leadsman.core.analysis.profile import PipeProfile
from leadsman.core.design.file import read_design
from leadsman.core.findings.registry import judge

# source 100, high A 95, low B 80, high C 90, low D 70, outlet E 85 m; even bore and slope, at the sea
EXAMPLE: Document = {
    "site.altitude_m": 0, "places.0.ground_m": 99.0, "places.1.ground_m": 85.0, "outlets.0.height_m": 0.0,
    "vessels.1.stand_m": -1.0, "lines.0.product": "pe100-sdr11-63", "outlets.0.valve.kv_m3h": 0.2,
    "lines.0.points": [[0, 99], [20, 94], [30, 95], [70, 80], [100, 90], [150, 70], [210, 85]],
}  # fmt: skip


def first(**changes: Any) -> FirstWater:
    return Analysis(read_design(one_line(**{**EXAMPLE, **changes}))).first_waters["valve"]


@pytest.mark.parametrize(
    ("vents", "needed_m"),
    [([], 104.69), ([100], 100.06), ([30], 96.95), ([30, 100], 95.0)],
    ids=["none", "at C", "at A", "both"],
)
def test_the_four_ways_to_vent_the_example(vents: list[float], needed_m: float) -> None:
    found = first(**{"lines.0.inline": [{"kind": "vent", "at_m": at_m} for at_m in vents]})
    assert found.surface_m == pytest.approx(100.0)
    assert found.filling.needed_m == pytest.approx(needed_m, abs=0.02)  # of water at 10 °C, 10.335 m for 10.33
    if not vents:
        assert found.filling.naive_m == pytest.approx(120.0)


def test_a_vent_at_the_first_high_point_alone_is_enough_and_is_what_is_offered() -> None:
    cures = first().cures
    assert [[high_point.at_m for high_point in cure] for cure in cures] == [[30.0]]


def test_the_altitude_case() -> None:
    """In thinner air a pocket is squeezed more easily: a line needs less, never less than its high points."""
    low, high = first(), first(**{"site.altitude_m": 2500})
    assert 95.0 < high.filling.needed_m < low.filling.needed_m


def test_small_high_points_are_neither_high_points_nor_low_points_and_a_reversed_line_is_the_same() -> None:
    points = [[0, 120], [30, 112.05], [50, 112.0], [70, 112.08], [140, 108], [210, 101]]
    profile = PipeProfile(*_model_and_route(one_line(**{"lines.0.points": points})))
    assert profile.extremes == []
    assert profile.low_points == []
    wavy = [[0, 120], [60, 110], [100, 112], [140, 105], [170, 106], [210, 101]]
    back = [[210 - at, ground] for at, ground in reversed(wavy)]
    one = PipeProfile(*_model_and_route(one_line(**{"lines.0.points": wavy})))
    other = PipeProfile(
        *_model_and_route(one_line(**{"lines.0.points": back, "lines.0.from": "valve", "lines.0.to": "tank"}))
    )
    assert [(x.at_m, x.is_high) for x in one.extremes] == [(100, True), (140, False), (170, True)]
    assert [(x.at_m, x.is_high) for x in other.extremes] == [(x.at_m, x.is_high) for x in one.extremes]
    assert [x.at_m for x in one.low_points] == [60, 140]
    assert one.spot(100) == ("line", 100)
    assert other.spot(100) == ("line", 110)


def test_volumes_and_falls_of_a_stretch_add_up_over_changes_of_bore() -> None:
    runs = [{"product": "pe100-sdr13.6-32", "length_m": 90.0}, {"product": "pe100-sdr13.6-40", "length_m": 120.0}]
    profile = PipeProfile(*_model_and_route(one_line(**{"lines.0.product": None, "lines.0.runs": runs})))
    pieces = profile.pieces(0.0, 210.0)
    assert sum(fall for fall, _ in pieces) == pytest.approx(profile.height_m(0.0) - profile.height_m(210.0))
    litres = 1000 * 3.14159265 / 4 * (90 * 0.0272**2 + 120 * 0.034**2)
    assert sum(volume for _, volume in pieces) * 1000 == pytest.approx(litres, rel=1e-6)
    assert profile.bore_m(89.0) == pytest.approx(0.0272)
    assert profile.bore_m(91.0) == pytest.approx(0.034)


def _model_and_route(document: Document) -> tuple[Any, Any]:
    analysis = Analysis(read_design(document))
    return analysis.model, analysis.routes["valve"]


def codes(**changes: Any) -> set[str]:
    return {finding.code for finding in judge(Analysis(read_design(one_line(**changes))))}


@pytest.mark.parametrize(
    ("changes", "air"),
    [
        ({"places.1.ground_m": 121.0, "lines.0.points": [[0, 120], [100, 110], [210, 121]]}, False),  # the end too high
        ({"lines.0.points": [[0, 120], [60, 100], [90, 121.5], [120, 100], [210, 101]]}, False),  # the high point is
        ({"lines.0.points": [[0, 120], [60, 112], [90, 120.5], [150, 80], [180, 120.5], [210, 101]]}, True),
    ],
)
def test_where_the_source_stands_below_the_pipe_it_is_not_air_that_blocks(changes: dict[str, Any], air: bool) -> None:
    """The water stands at 121 m: over 120.5 m it runs, were it not for air behind the first of two high points."""
    found = codes(**changes, **{"outlets.0.height_m": 0.1})
    assert ("air-lock" in found) is air
    assert air or "dry-outlet" in found


@pytest.mark.parametrize(("error_m", "high_points"), [(None, 1), (0.4, 1), (0.6, 0)])
def test_a_high_point_lower_than_twice_its_error_is_no_high_point(error_m: float | None, high_points: int) -> None:
    wave = {"lines.0.points": [[0, 120], [70, 110], [100, 111], [210, 101]], "lines.0.points_error_m": error_m}
    analysis = Analysis(read_design(one_line(**wave)))
    route = analysis.routes["valve"]
    assert route is not None
    assert len(PipeProfile(analysis.model, route).high_points) == high_points


def test_a_track_of_thousands_of_high_points_is_judged_whole() -> None:
    rng = np.random.default_rng(3)
    ats = np.linspace(0.0, 4_000.0, 2_000).round(2)
    heights = (120.0 - 60.0 * ats / 4_000.0 + rng.uniform(-0.4, 0.4, 2_000)).round(2)
    points = [[0.0, 120.0], *[[float(at), float(height)] for at, height in zip(ats[1:-1], heights[1:-1], strict=True)]]
    changes = {"lines.0.points": [*points, [4_000.0, 60.0]], "lines.0.length_m": 4_000.0, "places.1.ground_m": 60.0}
    found = Analysis(read_design(one_line(**changes))).first_waters["valve"]
    assert len(found.profile.high_points) > 300
    assert found.margin_m < 0.0
    assert found.cures == []  # no three vents let its water through
    assert "air-lock" in codes(**changes)
