"""What lies under the plan: height models, what a source reaches over them, pictures pinned by known points."""

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from examples import worked_example
from leadsman.core.base.errors import OutOfRange
from leadsman.core.catalogue import pipe_product
from leadsman.core.design import Design
from leadsman.core.design.file import read_design
from leadsman.core.farm.grazing import farthest_of_fence_m, walking_limit_m
from leadsman.core.survey.pinning import pinned
from leadsman.core.survey.reach import loss_per_m, reach
from leadsman.core.survey.relief import Relief, heights_of, mesh_over, relief_over, rows_of
from leadsman.demo import tamsel_relief, tamsel_ridge

FLOW = 0.5e-3


def example() -> Design:
    return read_design(worked_example())


def slope(fall: float, design: Design) -> Relief:
    """A plane that falls so much a metre to the south, under the example's tank at its ground."""
    west, south, step, spots = mesh_over(design)
    knoll = next(place for place in design.places if place.id == "knoll")
    heights = knoll.ground_m + fall * (spots[..., 1] - knoll.north_m)
    return Relief(east_m=west, north_m=south, step_m=step, heights_m=heights, source="a plane")


@given(st.floats(-150, 150), st.floats(-150, 150))
def test_between_its_points_a_plane_stays_a_plane(east: float, north: float) -> None:
    design = example()
    told = slope(0.07, design).at(np.array([[east, north]]))
    assert told[0] == pytest.approx(268.4 + 0.07 * north, abs=1e-9)


def test_outside_and_beside_gaps_nothing_is_known() -> None:
    heights = np.array([[1.0, 2.0, 3.0], [2.0, np.nan, 4.0], [3.0, 4.0, 5.0], [4.0, 5.0, 6.0]])
    relief = Relief(east_m=0.0, north_m=0.0, step_m=10.0, heights_m=heights, source="made up")
    told = relief.at(np.array([[0.0, 0.0], [5.0, 5.0], [-0.1, 0.0], [20.0, 30.0], [20.1, 30.0], [15.0, 25.0]]))
    assert told[0] == 1.0
    assert np.isnan(told[[1, 2, 4]]).all()
    assert told[3] == 6.0
    assert told[5] == pytest.approx(5.0)
    assert np.array_equal(heights_of(rows_of(relief.heights_m)), heights, equal_nan=True)


def test_a_model_is_brought_to_the_heights_of_the_plan() -> None:
    design = example()
    west, south, _, _ = mesh_over(design)
    flat = relief_over(design, (west, south), 10.0, np.full((100, 100), 40.0), "another datum")
    grounds = sorted(place.ground_m for place in design.places)
    assert flat.shift_m == pytest.approx((grounds[1] + grounds[2]) / 2 - 40.0)
    beside = relief_over(design, (1e5, 1e5), 10.0, np.full((5, 5), 40.0), "far away")
    assert beside.shift_m == 0.0
    with pytest.raises(OutOfRange):
        relief_over(design, (0.0, 0.0), 10.0, np.full((1, 5), 40.0), "a row")


def test_the_demonstration_lies_on_its_hill() -> None:
    design = tamsel_ridge()
    relief = tamsel_relief(design)
    told = relief.at(np.array([(place.east_m, place.north_m) for place in design.places]))
    off = np.abs(told - np.array([place.ground_m for place in design.places]))
    assert not np.isnan(told).any()
    assert float(off.max()) < 2.0


def test_down_an_even_slope_water_gets_as_far_as_the_pipe_loses_less_than_the_ground_falls() -> None:
    design = example()
    header, product = design.vessels[0], pipe_product("pe100-sdr17-32")
    loss = loss_per_m(product, FLOW, design.site.water_c)
    assert loss == pytest.approx(0.0327, rel=0.01)  # the library's Colebrook for 28.0 mm, 0.007 mm, 10 C
    steep, gentle = slope(1.5 * loss, design), slope(0.5 * loss, design)
    found = reach(design, steep, header, product, FLOW, 1.0)
    rows = [round((north - steep.north_m) / steep.step_m) for north in (-50, -150)]
    column = round(-steep.east_m / steep.step_m)
    near, far = (float(found.spare_m[row, column]) for row in rows)
    assert far > near > 0.0  # every metre farther leaves more
    for row, got in zip(rows, (near, far), strict=True):
        run = abs(steep.north_m + steep.step_m * row)
        along = math.hypot(run, 1.5 * loss * run)
        expected = found.surface_m - loss * along - (268.4 - 1.5 * loss * run) - 1.0
        assert got == pytest.approx(expected, abs=0.02)
    level = reach(design, gentle, header, product, FLOW, 1.0)
    assert float(level.spare_m[0, column]) < float(level.spare_m[rows[0], column])


def test_a_rise_between_stops_the_water_though_the_end_lies_low() -> None:
    design = example()
    relief = slope(0.08, design)
    ridge = relief.heights_m.copy()
    row = round((-60 - relief.north_m) / relief.step_m)
    ridge[row - 1 : row + 2, :] = 280.0
    product = pipe_product("pe100-sdr17-40")
    column, end = round(-relief.east_m / relief.step_m), round((-120 - relief.north_m) / relief.step_m)
    open_way = reach(design, relief, design.vessels[0], product, FLOW, 1.0)
    high_point = replace(relief, heights_m=ridge)
    over = reach(design, high_point, design.vessels[0], product, FLOW, 1.0)
    assert float(open_way.spare_m[end, column]) > 0.0 > float(over.spare_m[end, column])


@pytest.mark.parametrize(("flow", "needs"), [(0.0, 1.0), (-1.0, 1.0), (math.nan, 1.0), (FLOW, -0.1), (FLOW, math.nan)])
def test_a_reach_wants_a_flow_and_a_demand(flow: float, needs: float) -> None:
    design = example()
    with pytest.raises(OutOfRange):
        reach(design, slope(0.05, design), design.vessels[0], pipe_product("pe100-sdr17-32"), flow, needs)


@given(st.floats(-3.1, 3.1), st.floats(0.05, 5.0), st.floats(-500, 500), st.floats(-500, 500))
def test_a_picture_that_was_turned_scaled_and_shifted_lies_where_it_was_taken(
    turn: float, scale: float, east: float, north: float
) -> None:
    pixels = [(10.0, 20.0), (800.0, 60.0), (420.0, 610.0)]
    cos, sin = scale * math.cos(turn), scale * math.sin(turn)
    metres = [(east + cos * x + sin * y, north + sin * x - cos * y) for x, y in pixels]
    lies = pinned(pixels, metres)
    for (x, y), (e, n), off in zip(pixels, metres, lies.off_m, strict=True):
        assert lies.a * x + lies.b * y + lies.c == pytest.approx(e, abs=1e-6)
        assert lies.d * x + lies.e * y + lies.f == pytest.approx(n, abs=1e-6)
        assert off < 1e-6
    assert pinned(pixels[:2], metres[:2]).a == pytest.approx(lies.a, abs=1e-9)


def test_three_pins_that_disagree_say_by_how_much() -> None:
    lies = pinned([(0, 0), (100, 0), (0, 100)], [(0, 0), (50, 0), (0, -56)])
    assert lies.off_m == pytest.approx((1.5 * math.sqrt(2.0), 1.5, 1.5))  # worked by hand: turn 0.53 + 0.015i


@pytest.mark.parametrize(
    ("pixels", "metres"),
    [
        ([(0, 0)], [(0, 0)]),
        ([(0, 0), (1, 1)], [(0, 0), (9, 9)]),
        ([(0, 0), (90, 90)], [(5, 5), (5, 5)]),
        ([(0, 0), (90, 90)], [(5, 5)]),
        ([(float(i), 0.0) for i in range(31)], [(float(i), 0.0) for i in range(31)]),
    ],
)
def test_pins_that_tell_nothing_are_refused(
    pixels: list[tuple[float, float]], metres: list[tuple[float, float]]
) -> None:
    with pytest.raises(OutOfRange):
        pinned(pixels, metres)


def test_the_farthest_grass_follows_from_the_fence_and_the_limit_from_the_season() -> None:
    fence = [[320.0, -120.0], [320.0, 80.0], [170.0, 80.0]]
    document = {**worked_example(), "paddocks": [{"id": "far", "outlet": "low-valve", "corners": fence}]}
    design = read_design(document)
    assert farthest_of_fence_m(design, design.paddocks[0]) == pytest.approx(250.0)
    bare = design.paddocks[0].model_copy(update={"corners": []})
    assert farthest_of_fence_m(design, bare) is None


@pytest.mark.parametrize(
    ("animal", "june_m", "january_m"),
    [("growing cattle", 244, 1609), ("dairy cow in milk", 180, 180), ("ewe dry", 400, 1609), ("laying hen", 150, 150),
     ("yak of our own", 244, 1609)],
)  # fmt: skip
def test_how_far_they_walk_goes_by_class_season_and_side_of_the_equator(
    animal: str, june_m: float, january_m: float
) -> None:
    june, january = "2026-06-01", "2026-01-15"
    assert [walking_limit_m(animal, day) for day in (june, january)] == [june_m, january_m]
    assert [walking_limit_m(animal, day, southern=True) for day in (january, june)] == [june_m, january_m]
