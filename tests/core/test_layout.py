"""How a document hangs together: heights of pipe, ways to nodes, peaks and dips."""

import pytest

from examples import Document, changed, one_line, worked_example
from leadsman.core.design_file import read_design
from leadsman.core.layout import Layout, line_profile
from leadsman.core.route import Point, Route, peaks_and_dips
from leadsman.core.water import water_at

WATER = water_at(10.0)


def layout_of(document: Document) -> Layout:
    return Layout(read_design(document))


def route_of(document: Document, node: str) -> Route:
    return layout_of(document).route_to(node, WATER)


def test_the_pipe_lies_under_its_cover_but_at_its_ends_where_vessel_and_outlet_have_it() -> None:
    document = one_line(**{"lines.0.cover_m": 0.5, "vessels.0.stand_m": 1.0, "vessels.0.outlet_m": 0.1})
    layout = layout_of(document)
    profile = line_profile(layout, layout.design.lines[0])
    assert profile == [(0.0, 120, 121.1), (70, 112, 111.5), (140, 108, 107.5), (210.0, 101, 101.6)]


def test_a_line_without_points_runs_straight_between_its_ends() -> None:
    layout = layout_of(worked_example())
    profile = line_profile(layout, layout.design.lines[1])
    assert profile == [(0.0, 251.2, 251.2), (130.0, 246.9, pytest.approx(247.4))]


def test_a_last_point_within_a_hundredth_of_the_length_counts_as_the_end() -> None:
    layout = layout_of(one_line(**{"lines.0.length_m": 211.5}))
    assert line_profile(layout, layout.design.lines[0])[-1][0] == 211.5


def test_the_way_to_an_outlet_leads_from_its_vessel_over_every_node() -> None:
    route = route_of(worked_example(), "low-valve")
    assert route.node_ids == ("header", "fork", "low-valve")
    assert route.node_at_m == (0.0, 224.0, 354.0)
    assert [line.id for line in route.lines] == ["main", "spur"]
    assert route.surface_m == pytest.approx(270.6)


def test_an_outlet_without_a_line_of_its_own_draws_from_the_junction_at_its_place() -> None:
    layout = layout_of(worked_example())
    assert layout.node_of_outlet == {"low-valve": "low-valve", "drip": "drip", "washout": "fork"}


def test_where_two_lines_meet_the_earlier_head_is_before_the_laters_fittings() -> None:
    document = changed(worked_example(), {"lines.1.fittings": [{"k": 50.0}]})
    route, flow = route_of(document, "low-valve"), 5e-4
    before, after = route.point_heads_m(flow)[2:4]
    velocity_head = (flow / (3.141592653589793 * 0.0272**2 / 4)) ** 2 / (2 * 9.80665)
    assert before - after == pytest.approx(50 * velocity_head)
    assert route.node_head_m(1, flow) == pytest.approx(before)
    assert route.surface_m - route.node_head_m(2, flow) == pytest.approx(route.loss_m(flow)[0])


@pytest.mark.parametrize(
    ("heights", "marks"),
    [
        ([9, 5, 7, 3], {1: "dip", 2: "peak"}),
        ([9, 7, 5], {}),
        ([9, 5, 5, 7, 1], {1: "dip", 3: "peak"}),  # a level stretch counts once
        ([3, 3, 3], {}),
        ([5], {}),
    ],
)
def test_peaks_and_dips_of_the_pipe(heights: list[float], marks: dict[int, str]) -> None:
    points = tuple(Point(0, 10.0 * index, height, height) for index, height in enumerate(heights))
    assert peaks_and_dips(points) == marks
