"""A system over time, against integrations by other means, by hand, and properties that hold whatever the farm."""

import math
from collections.abc import Callable
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from examples import Document, one_line, worked_example
from leadsman.core.base.errors import OutOfRange, UnknownName
from leadsman.core.dayrun.run import DayRun, day_run, times_to_tell
from leadsman.core.design import Design
from leadsman.core.design.file import read_design
from leadsman.core.design.store import shape_of
from leadsman.core.physics.vessel import level_m
from leadsman.core.steady.solve import solve
from leadsman.demo import tamsel_ridge
from properties import examples
from runs import HOUR_S, OPEN_END, TANK, farm, run


def integrated(design: Design, hours: float, gains: Callable[[Any, Design], list[float]], count: int = 13) -> Any:
    """The same by scipy, tightly: the steady state solved anew at each level; levels, shape (vessels, times)."""
    shapes = [shape_of(vessel) for vessel in design.vessels]
    start = [shape.volume_m3(vessel.level_m) for shape, vessel in zip(shapes, design.vessels, strict=True)]

    def rate(_: float, volumes: Any) -> list[float]:
        held = [
            min(max(volume, 0.0), shape.volume_m3(shape.height_m))
            for shape, volume in zip(shapes, volumes, strict=True)
        ]
        levels = [level_m(shape, volume) for shape, volume in zip(shapes, held, strict=True)]
        vessels = [one.model_copy(update={"level_m": level}) for one, level in zip(design.vessels, levels, strict=True)]
        now = design.model_copy(update={"vessels": vessels})
        return gains(solve(now), now)

    times = np.linspace(0.0, hours * HOUR_S, count)
    found = solve_ivp(rate, (0.0, hours * HOUR_S), start, "LSODA", times, rtol=1e-7, atol=1e-9)
    return np.array([[level_m(shape, v) for v in row] for shape, row in zip(shapes, found.y, strict=True)])


@pytest.mark.parametrize(
    "shape",
    [
        {"kind": "upright_cylinder", "diameter_m": 1.2, "height_m": 2.0},
        {"kind": "lying_cylinder", "diameter_m": 2.0, "length_m": 1.5},
        {"kind": "frustum", "bottom_diameter_m": 0.8, "top_diameter_m": 1.6, "height_m": 2.0},
    ],
)
def test_a_tank_empties_as_scipy_integrates_it(shape: Document) -> None:
    design = farm(vessels=[{**TANK, "shape": shape}])
    told = run(design, 0.4)
    wanted = integrated(design, 0.4, lambda state, _: [-state.outlets["tap"].flow_m3s])
    np.testing.assert_allclose(told.levels_m[:, 0], wanted[0], atol=1e-3)
    assert told.levels_m[-1, 0] < 1.4
    assert told.mass_error < 1e-6


def test_a_tank_empties_by_torricelli_where_the_orifice_takes_all() -> None:
    """A short wide pipe to a narrow end: the head is all velocity head, t = 2 A (sqrt h0 - sqrt h1) / (a sqrt 2g)."""
    end = {**OPEN_END, "height_m": 0.0, "bore_mm": 6.0}
    places = [
        {"id": "top", "east_m": 0, "north_m": 0, "ground_m": 100.0},
        {"id": "end", "east_m": 1, "north_m": 0, "ground_m": 100.0},
    ]
    line = {"id": "line", "from": "tank", "to": "end", "bore_mm": 400.0, "roughness_mm": 0.001, "length_m": 1.0}
    design = farm(vessels=[{**TANK, "outlet_m": 0.0}], outlets=[end], places=places, lines=[line])
    area, hole = math.pi * 0.36, math.pi * 0.003**2
    hours = 2 * area * (math.sqrt(1.8) - math.sqrt(0.4)) / (hole * math.sqrt(2 * 9.80665)) / HOUR_S
    assert run(design, hours).levels_m[-1, 0] == pytest.approx(0.4, abs=2e-3)


def test_a_trough_fills_through_its_float_as_scipy_integrates_it() -> None:
    design = read_design(worked_example())
    told = run(design, 0.5, 31)

    def gains(state: Any, _: Design) -> list[float]:
        valve = state.outlets["low-valve"].flow_m3s
        return [-state.lines["main"].flow_m3s, valve]

    wanted = integrated(design, 0.5, gains, 31)
    np.testing.assert_allclose(told.levels_m.T, wanted, atol=1e-3)
    assert told.mass_error < 1e-6


def test_two_tanks_level_through_a_pipe_and_stay_so() -> None:
    vessels = [
        {**TANK, "outlet_m": 0.0},
        {**TANK, "id": "low", "place": "end", "outlet_m": 0.0, "level_m": 0.3,
         "shape": {"kind": "upright_cylinder", "diameter_m": 0.8, "height_m": 2.0}},
    ]  # fmt: skip
    places = [
        {"id": "top", "east_m": 0, "north_m": 0, "ground_m": 100.0},
        {"id": "end", "east_m": 50, "north_m": 0, "ground_m": 100.0},
    ]
    line = {"id": "line", "from": "tank", "to": "low", "bore_mm": 40.0, "roughness_mm": 0.01, "length_m": 51.0}
    design = farm(vessels=vessels, places=places, lines=[line], outlets=[])
    told = run(design, 1.0, 25)
    wanted = integrated(design, 1.0, lambda state, _: [-state.lines["line"].flow_m3s, state.lines["line"].flow_m3s], 25)
    np.testing.assert_allclose(told.levels_m.T, wanted, atol=1.5e-3)
    level = (1.8 * 0.36 + 0.3 * 0.16) / 0.52
    assert run(design, 12.0).levels_m[-1] == pytest.approx([level, level], abs=1e-3)


def test_a_spring_box_that_is_drawn_down_gives_just_what_comes_in() -> None:
    spring = {"id": "spring", "kind": "spring", "fills": "tank", "claimed_lpm": 6.0}
    told = run(farm(inflows=[spring]), 24.0)
    assert told.outlets_m3s[0, 0] * 60_000 > 20.0
    assert told.outlets_m3s[-1, 0] * 60_000 == pytest.approx(6.0, rel=1e-6)
    assert told.levels_m[-1, 0] == pytest.approx(0.1, abs=1e-6)
    (dry,) = told.events
    assert (dry.kind, dry.where) == ("runs-dry", "tank")
    whole = told.passed_m3[0]
    assert whole == pytest.approx(math.pi * 0.36 * 1.7 + 6.0 * 1_440 / 1_000, rel=1e-6)
    assert told.mass_error < 1e-9


def test_what_comes_into_a_full_tank_runs_over() -> None:
    spring = {"id": "spring", "kind": "spring", "fills": "tank", "claimed_lpm": 6.0}
    told = run(farm(inflows=[spring], outlets=[]), 5.0)
    begins_s = math.pi * 0.36 * 0.2 / (6.0 / 60_000)
    (begins,) = told.events
    assert begins.kind == "overflows"
    assert begins.time_s == pytest.approx(begins_s, rel=1e-6)
    assert told.over_m3[0] == pytest.approx(6.0 / 60_000 * (5 * HOUR_S - begins_s), rel=1e-6)


def test_a_draw_takes_what_there_is_and_no_more() -> None:
    draw = {"vessel": "tank", "from_s": 600.0, "to_s": 7_800.0, "flow_lpm": 100.0}
    told = run(farm(outlets=[], draws=[draw]), 4.0)
    litres = math.pi * 360 * 1.8
    *before, empty = told.events
    assert [event.kind for event in before] == ["runs-dry", "below-outlet"]
    assert empty.kind == "empty"
    assert empty.time_s == pytest.approx(600.0 + litres / 100.0 * 60.0, rel=1e-6)
    assert told.drawn_m3[0] * 1_000 == pytest.approx(litres, rel=1e-6)
    assert told.levels_m[-1, 0] == pytest.approx(0.0, abs=1e-6)


def test_a_pond_that_loses_more_than_it_is_fed_falls_by_the_difference() -> None:
    """5 by 4 m, 8 mm a day to air and ground, fed 60 L a day: 100 L a day are missing, 5 mm."""
    pond = {"id": "tank", "place": "top", "role": "pond", "level_m": 0.5,
            "shape": {"kind": "box", "length_m": 5.0, "width_m": 4.0, "height_m": 1.0}}  # fmt: skip
    losses = [{"vessel": "tank", "evaporation_mm_d": 6.0, "seepage_mm_d": 2.0}]
    spring = {"id": "spring", "kind": "spring", "fills": "tank", "claimed_lpm": 60 / 1_440}
    told = run(farm(vessels=[pond], outlets=[], ponds=losses, inflows=[spring]), 240.0)
    assert told.levels_m[-1, 0] == pytest.approx(0.5 - 10 * 0.005, abs=1e-6)
    assert told.mass_error < 1e-9


def test_a_pond_with_leaning_banks_loses_less_as_its_surface_shrinks() -> None:
    """dV/dt = −e A(h) makes dh/dt = −e, whatever the shape: 8 mm a day for 30 days, by each day's surface."""
    pond = {"id": "tank", "place": "top", "role": "pond", "level_m": 0.9,
            "shape": {"kind": "frustum", "bottom_diameter_m": 2.0, "top_diameter_m": 8.0, "height_m": 1.0}}  # fmt: skip
    losses = [{"vessel": "tank", "evaporation_mm_d": 8.0}]
    told = run(farm(vessels=[pond], outlets=[], ponds=losses), 720.0)
    assert told.levels_m[-1, 0] == pytest.approx(0.9 - 0.24, abs=0.004)
    assert told.mass_error < 1e-9


@pytest.mark.parametrize(("least_kpa", "opens"), [(4.0, True), (6.5, False)])
def test_a_valve_that_needs_pressure_opens_no_more_once_its_tank_has_fallen(least_kpa: float, opens: bool) -> None:
    """The tank stands 1.8 m and its floor 0.4 m over the valve; 1.6 m are drawn off before the animals come."""
    tank = {**TANK, "level_m": 1.8}
    trough = {"id": "trough", "role": "trough", "place": "end", "level_m": 0.4,
              "shape": {"kind": "box", "length_m": 1.0, "width_m": 0.5, "height_m": 0.5}}  # fmt: skip
    valve = {"id": "valve", "kind": "float_valve", "place": "end", "fills": "trough", "height_m": 0.5, "valve": {
        "kv_m3h": 2.0, "closes_at_m": 0.4, "band_m": 0.05, "min_pressure_kpa": least_kpa}}  # fmt: skip
    places = [{"id": "top", "east_m": 0, "north_m": 0, "ground_m": 100.9},
              {"id": "end", "east_m": 20, "north_m": 0, "ground_m": 100.0}]  # fmt: skip
    line = {"id": "line", "from": "tank", "to": "valve", "bore_mm": 40.0, "roughness_mm": 0.01, "length_m": 20.0}
    area = np.pi * 0.36
    drawn = {"vessel": "tank", "from_s": 0.0, "to_s": 4 * 3600.0, "flow_lpm": 1.6 * area * 1000 / 240}
    drunk = {"vessel": "trough", "from_s": 8 * 3600.0, "to_s": 9 * 3600.0, "flow_lpm": 2.0}
    told = run(
        farm(places=places, vessels=[tank, trough], lines=[line], outlets=[valve], draws=[drawn, drunk]), 12.0, 13
    )
    refilled = float(told.passed_m3[0]) * 1000.0
    assert (refilled > 60.0) is opens
    assert (refilled < 1.0) is not opens


def cistern(**changes: Any) -> Design:
    """A cistern from which a pump on float switches fills the tank, which is drawn from."""
    low = {**TANK, "id": "cistern", "place": "end", "level_m": 1.9,
           "shape": {"kind": "box", "length_m": 4.0, "width_m": 3.0, "height_m": 2.0}}  # fmt: skip
    pump = {"id": "pump", "kind": "pump", "fills": "tank", "draws_from": "cistern", "flow_lpm": 30.0,
            "cut_in_m": 0.9, "cut_out_m": 1.7}  # fmt: skip
    draw = {"vessel": "tank", "from_s": 0.0, "to_s": 90 * 86_400.0, "flow_lpm": 12.0}
    return farm(outlets=[], vessels=[TANK, low], inflows=[pump], draws=[draw], **changes)


def test_a_pump_on_switches_runs_as_often_as_by_hand_and_creates_no_water() -> None:
    told = run(cistern(), 24.0)
    between = math.pi * 360 * 0.8
    cycle_s = (between / (30.0 - 12.0) + between / 12.0) * 60.0
    starts = [event.time_s for event in told.events if event.kind == "pump-starts"]
    assert starts[0] == pytest.approx(math.pi * 360 * 0.9 / 12.0 * 60.0, rel=1e-6)
    assert np.diff(starts) == pytest.approx([cycle_s] * (len(starts) - 1), rel=1e-6)
    assert len(starts) == 1 + int((24 * HOUR_S - starts[0]) // cycle_s)
    lost = 12_000 * (1.9 - told.levels_m[-1, 1])
    assert lost == pytest.approx(told.brought_m3[0] * 1_000, rel=1e-9)


def test_a_pump_brings_no_more_than_its_cistern_holds() -> None:
    told = run(cistern(), 90 * 24.0)
    assert told.levels_m[-1] == pytest.approx([0.0, 0.0], abs=1e-6)
    assert told.drawn_m3.sum() - told.brought_m3.sum() == pytest.approx((math.pi * 0.36 * 1.8 + 12 * 1.9), rel=1e-6)
    assert told.mass_error < 1e-9


def test_the_herd_drinks_by_day_and_the_float_fills_by_night() -> None:
    herd = {"id": "herd", "class": "growing cattle", "head": 30, "outlet": "valve", "intake_lpd": 40.0,
            "drinking": {"pattern": "near"}}  # fmt: skip
    spring = {"id": "spring", "kind": "spring", "fills": "tank", "claimed_lpm": 8.0}
    told = run(read_design(one_line(herds=[herd], inflows=[{**spring, "fills": "tank"}])), 48.0, 49)
    assert told.drawn_m3[1] == pytest.approx(2 * 30 * 0.040, rel=1e-6)
    assert told.mass_error < 1e-6


def test_two_systems_in_one_plan_run_each_by_itself() -> None:
    """The second farm's tank starts empty, with a spring of its own: nothing of it reaches the first."""
    alone = farm()
    other = one_line()
    document = alone.model_dump(mode="json", by_alias=True, exclude_unset=True)
    spring = {"id": "spring", "kind": "spring", "fills": "two-tank", "claimed_lpm": 9.0}
    rename = {"top": "two-top", "end": "two-end", "tank": "two-tank", "trough": "two-trough", "line": "two-line"}

    def renamed(part: Document) -> Document:
        named = ("id", "place", "from", "to", "fills")
        return {key: rename.get(value, value) if key in named else value for key, value in part.items()}

    for kind in ("places", "vessels", "lines", "outlets"):
        document[kind] = [*document[kind], *(renamed(part) for part in other[kind])]
    document["vessels"][1]["level_m"] = 0.0
    document["inflows"] = [spring]
    both, single = run(read_design(document), 6.0), run(alone, 6.0)
    np.testing.assert_allclose(both.levels_m[:, 0], single.levels_m[:, 0], atol=1e-3)
    assert both.mass_error < 1e-9
    assert both.brought_m3[1] == pytest.approx(9.0 * 0.360, rel=1e-9)
    assert both.passed_m3[1] > 0.0  # it fills its trough, though nothing was there to begin with


def test_the_demonstration_runs_a_day_without_fluttering() -> None:
    told = run(tamsel_ridge(), 24.0, 25)
    assert told.ended_s is None
    assert told.mass_error < 1e-6
    assert len(told.events) < 40
    assert (told.levels_m >= -1e-9).all()


@examples(30)
@given(
    st.floats(0.3, 1.9), st.floats(0.0, 40.0), st.floats(0.0, 60.0), st.floats(0.5, 30.0),
    st.sampled_from([13.0, 20.4, 40.0]),
)  # fmt: skip
def test_no_water_is_lost_or_made_and_a_larger_tank_lasts_longer(
    level: float, spring_lpm: float, draw_lpm: float, hours: float, bore: float
) -> None:
    line = {"id": "line", "from": "tank", "to": "end", "bore_mm": bore, "roughness_mm": 0.01, "length_m": 202.0}
    more: Document = {"lines": [line]}
    if spring_lpm > 0.01:
        more["inflows"] = [{"id": "spring", "kind": "spring", "fills": "tank", "claimed_lpm": spring_lpm}]
    if draw_lpm > 0.01:
        more["draws"] = [{"vessel": "tank", "from_s": 0.0, "to_s": hours * HOUR_S, "flow_lpm": draw_lpm}]
    small = run(farm(vessels=[{**TANK, "level_m": level}], **more), hours)
    assert small.mass_error < 1e-6
    assert ((small.levels_m >= -1e-9) & (small.levels_m <= 2.0 + 1e-9)).all()
    wide = {"kind": "upright_cylinder", "diameter_m": 1.8, "height_m": 2.0}
    large = run(farm(vessels=[{**TANK, "level_m": level, "shape": wide}], **more), hours)

    def dry_s(told: DayRun) -> float:
        return next((event.time_s for event in told.events if event.kind in ("runs-dry", "empty")), math.inf)

    assert dry_s(large) >= dry_s(small) * (1 - 1e-6)


def test_when_it_is_told_changes_nothing() -> None:
    design = read_design(worked_example())
    often, seldom = run(design, 20.0, 481), run(design, 20.0, 5)
    np.testing.assert_allclose(often.levels_m[::120], seldom.levels_m, atol=1e-3)
    assert [(one.kind, one.where) for one in often.events] == [(one.kind, one.where) for one in seldom.events]
    assert [one.time_s for one in often.events] == pytest.approx([one.time_s for one in seldom.events], rel=1e-3)


@pytest.mark.parametrize("hours", [0.0, -1.0, 91 * 24.0, math.nan])
def test_a_run_is_of_minutes_to_ninety_days(hours: float) -> None:
    with pytest.raises(OutOfRange, match=r"allowed is 0\.01 to 2160"):
        times_to_tell(hours, None)


@pytest.mark.parametrize(("at", "error"), [("0,x", UnknownName), ("-1", OutOfRange), ("3601", OutOfRange)])
def test_times_are_numbers_within_the_run(at: str, error: type[Exception]) -> None:
    with pytest.raises(error):
        times_to_tell(1.0, at)


def test_a_timer_opens_its_zones_one_after_the_other_and_only_then() -> None:
    """Two zones of 6 L/min from 23:30: 90 L take the first 15 minutes, 240 L the second 40, over midnight."""
    drips = [
        {"id": name, "kind": "fixed", "place": "end", "flow_lpm": 6.0} for name in ("rows", "beds")
    ]  # fmt: skip
    crops = [
        {"id": "hops", "outlet": "rows", "litres_lpd": 90.0},
        {"id": "leeks", "outlet": "beds", "litres_lpd": 240.0},
    ]
    timer = {"id": "clock", "starts": "23:30", "crops": ["hops", "leeks"]}
    design = farm(outlets=drips, crops=crops, timers=[timer])
    times = [hour * HOUR_S for hour in (0.2, 0.5, 23.4, 23.6, 23.8, 24.3, 24.5)]
    told = day_run(design, 48.0 * HOUR_S, times)
    on = (told.outlets_m3s * 60_000.0 > 5.9).tolist()
    assert on == [
        [False, True], [False, False], [False, False], [True, False], [False, True], [False, True], [False, False],
    ]  # fmt: skip
    assert told.passed_m3 * 1e3 == pytest.approx([180.0, 150.0 + 240.0 + 90.0], rel=1e-3)  # what lies within two days
    assert told.mass_error < 1e-6


def test_plants_without_a_timer_are_watered_in_the_morning_and_take_from_the_vessel_that_they_stand_at() -> None:
    pot: Document = {"id": "pot", "role": "bucket_row", "place": "end", "level_m": 0.3,
                     "shape": {"kind": "box", "length_m": 1.0, "width_m": 1.0, "height_m": 0.5}}  # fmt: skip
    valve = {"kv_m3h": 0.5, "closes_at_m": 0.4, "band_m": 0.02}
    outlets = [
        {"id": "rows", "kind": "fixed", "place": "end", "flow_lpm": 3.0},
        {"id": "v", "kind": "float_valve", "place": "end", "fills": "pot", "valve": valve},
    ]
    crops = [
        {"id": "hops", "outlet": "rows", "litres_lpd": 180.0},
        {"id": "basil", "outlet": "v", "litres_lpd": 26.0},
    ]
    told = day_run(
        farm(outlets=outlets, vessels=[TANK, pot], crops=crops), 24.0 * HOUR_S, [21_540.0, 21_660.0, 25_140.0, 25_260.0]
    )
    assert (told.outlets_m3s[:, 0] > 0.0).tolist() == [False, True, True, False]  # six to seven o'clock
    assert told.drawn_m3[1] == pytest.approx(0.026, rel=1e-6)


def test_plants_of_which_the_need_is_unknown_leave_their_outlet_as_it_is() -> None:
    """An area times a crop factor, and no day that tells the air's pull: nothing is made up, and the run goes on."""
    drip = {"id": "rows", "kind": "fixed", "place": "end", "flow_lpm": 3.0}
    crop = {"id": "hops", "outlet": "rows", "area_m2": 50.0, "crop_factor": 0.9}
    told = run(farm(outlets=[drip], crops=[crop]), 2.0)
    assert told.passed_m3[0] == pytest.approx(0.36, rel=1e-6)
