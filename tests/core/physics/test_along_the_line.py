"""What goes wrong along a line, against outside values: hammer, siphons, trapped air, floats on arms, warm pipe."""

import math
from dataclasses import dataclass

import pytest
from hypothesis import given
from hypothesis import strategies as st

from leadsman.core.base.errors import OutOfRange
from leadsman.core.physics.air_lock import filling
from leadsman.core.physics.ball_arm import BallArm
from leadsman.core.physics.clearing import air_clearing_velocity_ms
from leadsman.core.physics.fittings import bore_area_m2, kv_m3h_from_k
from leadsman.core.physics.orifice import clogged_kv_m3h, held_open_m2, kv_of_opening_m3h, orifice_flow_m3s, seat_bore_m
from leadsman.core.physics.pressure_class import POLYETHYLENE, PVC, share_of_class
from leadsman.core.physics.siphon import crest_pressure_head_m, siphon_limit_m
from leadsman.core.physics.surge import joukowsky_pa, quick_below_s, rigid_column_pa, wave_speed_ms
from leadsman.core.physics.water import water_at

DENSITY = 998.2


@dataclass(frozen=True)
class Case:
    """A value from outside with the tolerance of its last printed digit."""

    found: float
    expected: float
    within: float
    source: str


RECOMPUTED = "recomputed with water of 2.19 GPa and 998.2 kg/m3"
ARM = BallArm(seat_bore_m=0.006, valve_arm_m=0.015, float_arm_m=0.3, float_kg=0.2, float_diameter_m=0.115)
WIDE = BallArm(seat_bore_m=0.012, valve_arm_m=0.015, float_arm_m=0.3, float_kg=0.2, float_diameter_m=0.115)
CASES = {
    "wave in PE of 0.8 GPa": Case(wave_speed_ms(0.0272, 0.0024, 0.8e9, DENSITY), 261.7, 0.05, RECOMPUTED),
    "wave in PE of 1.0 GPa": Case(wave_speed_ms(0.0272, 0.0024, 1.0e9, DENSITY), 291.5, 0.05, RECOMPUTED),
    "wave in 1 in. schedule 40": Case(wave_speed_ms(0.02664, 0.00338, 2.8e9, DENSITY), 553.0, 1.0, RECOMPUTED),
    "stopped at once": Case(joukowsky_pa(261.7, 0.8605, DENSITY) / 1e5, 2.248, 5e-4, "Joukowsky 1898, " + RECOMPUTED),
    "quick": Case(quick_below_s(200.0, 261.7), 1.53, 5e-3, RECOMPUTED),
    "stopped in 5 s": Case(rigid_column_pa(200.0, 0.8605, 5.0, DENSITY) / 1e5, 0.344, 5e-4, RECOMPUTED),
    **{
        f"siphon at {altitude} m, {celsius} °C": Case(
            siphon_limit_m(altitude, water_at(celsius)), limit, 6e-3, "(p_atm − p_v)/ρg, IAPWS and standard atmosphere"
        )
        for altitude, limits in ((0, (10.21, 10.11, 9.94)), (1_000, (9.04, 8.94, 8.77)), (2_000, (7.98, 7.88, 7.71)))
        for celsius, limit in zip((10.0, 20.0, 30.0), limits, strict=True)
    },
    "force at the float": Case(ARM.float_force_n(300e3), 0.424, 5e-4, "levers, recomputed"),
    "it sinks": Case((ARM.sinks_m(300e3, DENSITY) or 0.0) * 1e3, 42.27, 5e-3, "cap of a sphere, recomputed"),
    "half sunk it holds": Case(ARM.greatest_pressure_pa(DENSITY) / 1e3, 1370.0, 5.0, "levers, recomputed"),
    "a seat twice as wide": Case(WIDE.greatest_pressure_pa(DENSITY) / 1e3, 342.0, 1.0, "goes with 1/seat²"),
    "two high points, stiff air": Case(
        filling([95, 80, 90, 70, 85], 10.33).naive_m, 120.0, 1e-9, "Jordan, from memory"
    ),
    "two high points": Case(filling([95, 80, 90, 70, 85], 10.33).needed_m, 104.69, 5e-3, "Boyle, recomputed"),
    "vent at the second": Case(filling([95, 80, 90, 70, 85], 10.33, {1}).needed_m, 100.06, 6e-3, "Boyle, recomputed"),
    "vent at the first": Case(filling([95, 80, 90, 70, 85], 10.33, {0}).needed_m, 96.95, 5e-3, "Boyle, recomputed"),
    "vents at both": Case(filling([95, 80, 90, 70, 85], 10.33, {0, 1}).needed_m, 95.0, 1e-9, "the high point itself"),
    "one high point": Case(filling([50, 30, 45], 10.33).needed_m, 56.95, 5e-3, "Boyle, recomputed"),
    "one high point, stiff air": Case(filling([50, 30, 45], 10.33).naive_m, 65.0, 1e-9, "Jordan, from memory"),
    "PE at 30 °C": Case(share_of_class(POLYETHYLENE, 30.0) or 0.0, 0.87, 1e-9, "EN 12201 / ISO 13761, from memory"),
    "PE at 40 °C": Case(share_of_class(POLYETHYLENE, 40.0) or 0.0, 0.74, 1e-9, "EN 12201 / ISO 13761, from memory"),
    "PVC at 100 °F": Case(share_of_class(PVC, 37.8) or 0.0, 0.62, 1e-9, "makers of PVC, from memory"),
}


@pytest.mark.parametrize("name", CASES)
def test_it_is_the_value_from_outside(name: str) -> None:
    case = CASES[name]
    assert case.found == pytest.approx(case.expected, abs=case.within), case.source


def test_pockets_are_squeezed_as_boyle_says() -> None:
    first, second = filling([95, 80, 90, 70, 85], 10.33).pockets
    assert (first.squeezed_m, second.squeezed_m) == pytest.approx((7.739, 11.954), abs=1e-3)
    push = 85 - 90 + second.squeezed_m  # gauge, by the water beyond
    assert 10.33 * second.leg_m == pytest.approx((10.33 + push) * second.squeezed_m)


HEIGHTS = st.lists(st.tuples(st.floats(20.0, 100.0), st.floats(0.5, 30.0)), min_size=1, max_size=5)


@given(HEIGHTS, st.floats(20.0, 100.0), st.floats(7.0, 10.4))
def test_air_never_helps_and_stiff_air_is_the_worst(legs: list[tuple[float, float]], outlet: float, air: float) -> None:
    high_points = [high_point for high_point, _ in legs] + [outlet]
    profile = [high_points[0]]
    for (_, depth), before, beyond in zip(legs, high_points, high_points[1:], strict=False):
        profile += [min(before, beyond) - depth, beyond]
    filled = filling(profile, air)
    assert max(high_points) - 1e-9 <= filled.needed_m <= filled.naive_m + 1e-9
    assert all(0.0 < pocket.squeezed_m <= pocket.leg_m + 1e-9 for pocket in filled.pockets)
    whole = filling(profile, air, range(len(legs)))
    assert whole.needed_m == pytest.approx(max(high_points))
    for vent in range(len(legs)):
        assert filling(profile, air, {vent}).needed_m <= filled.needed_m + 1e-9
    assert filling(profile, air * 0.8).needed_m <= filled.needed_m + 1e-9  # thin air is squeezed more easily


def test_higher_up_and_warmer_a_siphon_reaches_less_and_its_crest_has_what_is_left() -> None:
    limits = [siphon_limit_m(altitude, water_at(15.0)) for altitude in (0, 500, 1_500, 3_000)]
    assert limits == sorted(limits, reverse=True)
    water = water_at(15.0)
    still = crest_pressure_head_m(0.0, water, siphon_limit_m(0.0, water), 0.0, 0.0)
    assert still == pytest.approx(water.vapour_pressure_pa / water.density_kgm3 / 9.80665)
    assert crest_pressure_head_m(0.0, water, 3.0, 0.4, 1.2) < crest_pressure_head_m(0.0, water, 3.0, 0.4, 0.0)


def test_a_float_that_does_not_carry_itself_holds_nothing() -> None:
    heavy = BallArm(seat_bore_m=0.006, valve_arm_m=0.015, float_arm_m=0.3, float_kg=2.0, float_diameter_m=0.115)
    assert heavy.greatest_pressure_pa(DENSITY) == 0.0
    assert heavy.sinks_m(0.0, DENSITY) is None
    assert (ARM.sinks_m(0.0, DENSITY) or math.inf) < (ARM.sinks_m(300e3, DENSITY) or 0.0)


def test_pipe_hotter_than_the_table_has_no_class_and_cold_pipe_has_all() -> None:
    assert share_of_class(POLYETHYLENE, 45.0) is None
    assert share_of_class(POLYETHYLENE, 5.0) == 1.0
    shares = [share_of_class(PVC, celsius) or 0.0 for celsius in range(10, 49)]
    assert shares == sorted(shares, reverse=True)


@pytest.mark.parametrize(
    "wrong",
    [
        lambda: wave_speed_ms(math.nan, 0.002, 1e9, DENSITY),
        lambda: joukowsky_pa(261.7, -1.0, DENSITY),
        lambda: rigid_column_pa(200.0, 0.8, 0.0, DENSITY),
        lambda: siphon_limit_m(math.nan, water_at(10.0)),
        lambda: crest_pressure_head_m(0.0, water_at(10.0), 3.0, -0.1, 0.0),
        lambda: filling([50, 60, 45], 10.33),
        lambda: filling([50, 30, 45], 0.0),
        lambda: BallArm(seat_bore_m=0.006, valve_arm_m=0.3, float_arm_m=0.015, float_kg=0.2, float_diameter_m=0.115),
        lambda: ARM.greatest_pressure_pa(DENSITY, 1.5),
        lambda: share_of_class(PVC, math.nan),
    ],
)
def test_figures_out_of_range_are_named(wrong) -> None:  # type: ignore[no-untyped-def]
    with pytest.raises(OutOfRange):
        wrong()


@pytest.mark.parametrize(
    ("narrow", "squeezed_more"),
    [(0.25, True), (1.0, None), (4.0, False)],
)
def test_where_the_bore_changes_the_air_is_squeezed_by_volume(narrow: float, squeezed_more: bool | None) -> None:
    """One high point, its falling leg in two pieces; the lower holds `narrow` times what the upper does."""
    even = filling([50.0, 30.0, 45.0], 10.33)
    found = filling([50.0, 30.0, 45.0], 10.33, legs=[[(10.0, 1.0), (10.0, narrow)]])
    (pocket,) = found.pockets
    # Boyle: what the leg held at the air's own pressure is held squeezed by what stands beyond and its own height
    held = min(pocket.squeezed_m, 10.0) / 10.0 + narrow * max(0.0, pocket.squeezed_m - 10.0) / 10.0
    assert held * (10.33 + 45.0 - 50.0 + pocket.squeezed_m) == pytest.approx(10.33 * (1.0 + narrow), rel=1e-6)
    assert even.needed_m == pytest.approx(56.95, abs=0.005)
    if squeezed_more is None:
        assert found.needed_m == pytest.approx(even.needed_m, rel=1e-9)
    else:
        assert (found.needed_m < even.needed_m) is squeezed_more


@pytest.mark.parametrize("bore_m", [0.01, 0.03, 0.1])
def test_air_is_carried_down_a_steeper_and_wider_pipe_only_by_faster_water(bore_m: float) -> None:
    speeds = [air_clearing_velocity_ms(bore_m, slope) for slope in (0.0, 0.01, 0.1, 0.5, 1.0)]
    assert speeds == sorted(speeds)
    assert air_clearing_velocity_ms(4 * bore_m, 0.1) == pytest.approx(2 * air_clearing_velocity_ms(bore_m, 0.1))
    with pytest.raises(OutOfRange):
        air_clearing_velocity_ms(bore_m, 1.01)


def test_openings_of_valves_agree_with_their_kv() -> None:
    assert kv_of_opening_m3h(19.64e-6, 1.0) == pytest.approx(1.0, rel=1e-3)  # Kv 1 is Cd·A 19.64 mm²
    assert kv_m3h_from_k(10.0, 0.02664) == pytest.approx(8.977, rel=1e-3)
    for head_m, lpm in ((1.0, 5.22), (5.0, 11.67), (10.0, 16.50), (30.0, 28.6)):  # Kv 1, by the library's definition
        area = 19.64e-6 / 0.6
        assert orifice_flow_m3s(head_m, area) * 60_000 == pytest.approx(lpm, rel=2e-3)
    assert seat_bore_m(kv_of_opening_m3h(bore_area_m2(0.0048))) == pytest.approx(0.0048)
    assert held_open_m2(0.02, 0.005) == pytest.approx(bore_area_m2(0.02))  # a quarter of the bore: as good as open
    assert held_open_m2(0.02, 0.05) == pytest.approx(bore_area_m2(0.02))
    assert held_open_m2(0.02, 0.0) == 0.0
    assert clogged_kv_m3h(2.0, 0.4) == pytest.approx(0.8)


def by_stages_m(heights: list[float], air_m: float, vented: set[int]) -> float:
    """What brings water to the outlet, and to each high point on the way in turn, each leg's air by halving."""
    most = -math.inf
    for end in range(0, len(heights), 2):
        above, most = 0.0, max(most, heights[end])
        for i in range(end - 2, -1, -2):
            push = above + heights[i + 2] - heights[i]
            leg = heights[i] - heights[i + 1]
            above = max(0.0, push) if i // 2 in vented else push + halved_m(leg, air_m, push)
            most = max(most, heights[i] + above)
    return most


def halved_m(leg_m: float, air_m: float, push_m: float) -> float:
    low, high = 0.0, leg_m
    for _ in range(80):
        middle = (low + high) / 2
        low, high = (middle, high) if middle / leg_m * (air_m + push_m + middle) < air_m else (low, middle)
    return high


@given(
    st.lists(st.tuples(st.floats(0.1, 30.0), st.floats(0.1, 30.0)), min_size=1, max_size=8), st.sets(st.integers(0, 7))
)
def test_what_fills_a_line_is_what_brings_water_to_each_high_point_in_turn(
    waves: list[tuple[float, float]], vented: set[int]
) -> None:
    heights = [100.0]
    for down, up in waves:
        heights += [heights[-1] - down, heights[-1] - down + up]
    told = filling(heights, 10.1, vented).needed_m
    assert told == pytest.approx(by_stages_m(heights, 10.1, vented), abs=1e-6)
