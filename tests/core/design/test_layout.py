"""How a document hangs together: heights of pipe, ways to nodes, high and low points."""

import math

import pytest

from examples import Document, changed, one_line, worked_example
from leadsman.core.analysis.route import Route, high_and_low_points, route_to
from leadsman.core.analysis.section import route_section
from leadsman.core.design.file import read_design
from leadsman.core.design.layout import Layout, along_way, line_profile
from leadsman.core.steady.solve import solve
from leadsman.core.survey.line_profile import stations
from leadsman.formats.placed import anchor_of, placed
from leadsman.formats.projection import Plane


def layout_of(document: Document) -> Layout:
    return Layout(read_design(document))


def route_of(document: Document, node: str) -> Route:
    route = route_to(solve(read_design(document)).flow, node)
    assert route is not None
    return route


def test_the_pipe_lies_under_its_cover_but_at_its_ends_where_vessel_and_outlet_have_it() -> None:
    document = one_line(**{"lines.0.cover_m": 0.5, "vessels.0.stand_m": 1.0, "vessels.0.outlet_m": 0.1})
    layout = layout_of(document)
    profile = line_profile(layout, layout.design.lines[0])
    assert profile == ((0.0, 120, 121.1), (70, 112, 111.5), (140, 108, 107.5), (210.0, 101, 101.6))


def test_a_line_without_points_runs_straight_between_its_ends() -> None:
    layout = layout_of(worked_example())
    profile = line_profile(layout, layout.design.lines[1])
    assert list(profile) == [(0.0, 251.2, 251.2), (130.0, 246.9, pytest.approx(247.4))]


def test_a_last_point_within_a_hundredth_of_the_length_counts_as_the_end() -> None:
    layout = layout_of(one_line(**{"lines.0.length_m": 211.5}))
    assert line_profile(layout, layout.design.lines[0])[-1][0] == 211.5


def test_the_way_to_an_outlet_leads_from_its_vessel_over_every_node() -> None:
    route = route_of(worked_example(), "low-valve")
    assert route.vessel.id == "header"
    assert [(leg.line.id, leg.forward, leg.start_m, leg.end_m) for leg in route.legs] == [
        ("main", True, 0.0, 224.0),
        ("spur", True, 224.0, 354.0),
    ]
    assert [point.at_m for point in route.points] == [0.0, 90.0, 224.0, 224.0, 354.0]


def test_an_outlet_without_a_line_of_its_own_draws_from_the_junction_at_its_place() -> None:
    layout = layout_of(worked_example())
    assert layout.node_of_outlet == {"low-valve": "low-valve", "drip": "drip", "washout": "fork"}


def test_where_two_lines_meet_the_earlier_head_is_before_the_laters_fittings() -> None:
    state = solve(read_design(changed(worked_example(), {"lines.1.fittings": [{"k": 50.0}]})))
    route = route_to(state.flow, "low-valve")
    assert route is not None
    points = route_section(route, state.flow, state.shut)
    before, after = (points[i].running_head_m or 0.0 for i in (2, 3))
    velocity_head = (state.lines["spur"].flow_m3s / (math.pi * 0.0272**2 / 4)) ** 2 / (2 * 9.80665)
    assert before - after == pytest.approx(50 * velocity_head)
    assert before == pytest.approx(state.heads_m["fork"])
    assert points[-1].running_head_m == pytest.approx(state.outlets["low-valve"].head_m)


def test_a_route_takes_a_line_against_its_drawing_and_where_nothing_runs_the_open_way() -> None:
    turned = changed(worked_example(), {"lines.1.from": "low-valve", "lines.1.to": "fork"})
    assert [leg.forward for leg in route_of(turned, "low-valve").legs] == [True, False]
    still = changed(turned, {"outlets.0.shut": True, "outlets.1.shut": True})
    assert [leg.forward for leg in route_of(still, "low-valve").legs] == [True, False]


@pytest.mark.parametrize(
    ("heights", "marks"),
    [
        ([9, 5, 7, 3], {1: "low", 2: "high"}),
        ([9, 7, 5], {}),
        ([9, 5, 5, 7, 1], {1: "low", 3: "high"}),  # a level stretch counts once
        ([3, 3, 3], {}),
        ([5], {}),
    ],
)
def test_high_points_and_low_points_of_the_pipe(heights: list[float], marks: dict[int, str]) -> None:
    assert high_and_low_points(heights) == marks


@pytest.mark.parametrize(
    ("share", "spot"),
    [(0.0, (0.0, 0.0)), (3 / 14, (30.0, 0.0)), (5 / 14, (30.0, 20.0)), (0.5, (30.0, 40.0)), (0.75, (65.0, 40.0)),
     (1.0, (100.0, 40.0))],
)  # fmt: skip
def test_a_way_is_followed_by_its_length(share: float, spot: tuple[float, float]) -> None:
    way = [(0.0, 0.0), (30.0, 0.0), (30.0, 40.0), (100.0, 40.0)]
    assert along_way(way, [share]) == [pytest.approx(spot)]


def test_a_way_of_no_length_is_a_point() -> None:
    assert along_way([(3.0, 4.0), (3.0, 4.0)], [0.0, 0.5, 1.0]) == [(3.0, 4.0)] * 3


def test_a_line_with_corners_is_surveyed_and_handed_out_along_them() -> None:
    document = one_line()
    document["site"]["anchor"] = {"latitude_deg": 46.5, "longitude_deg": -31.2}
    document["lines"][0] |= {"way": [[0.0, 60.0], [200.0, 60.0]], "length_m": 330.0, "points": [[0, 120], [330, 101]]}
    design = read_design(document)
    layout = Layout(design)
    pairs = stations(layout, layout.lines["line"])
    assert (pairs[0], pairs[-1]) == ((0.0, 0.0), (200.0, 0.0))
    assert max(north for _, north in pairs) == pytest.approx(60.0, abs=1.0)
    (walk,) = placed(design).walks
    metres = Plane(anchor_of(design)).metres([(x, y) for x, y, _ in walk.points])
    assert metres == [pytest.approx(spot, abs=1e-6) for spot in ((0, 0), (0, 60), (200, 60), (200, 0))]
    heights = [height for *_, height in walk.points]
    assert heights == pytest.approx([120.0, 120 - 19 * 60 / 320, 120 - 19 * 260 / 320, 101.0])
