"""Ice in tanks and troughs: against Stefan's formula, the heat that left, and what must hold whatever the vessel."""

import math
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from leadsman.core.design import Frost, Vessel
from leadsman.core.physics.ice import ice_thickness_m, surface_wm2k
from leadsman.core.winter.vessel_ice import Ice, VesselIce, vessel_ice

ROUND = {"kind": "upright_cylinder", "diameter_m": 2.0, "height_m": 1.6}
FLAT = {"kind": "upright_cylinder", "diameter_m": 30.0, "height_m": 2.0}


def frost(**changes: Any) -> Frost:
    return Frost.model_validate({"from": "2031-12-01", "to": "2031-12-20", "air_c": -8.0, "wind_mps": 3.0} | changes)


def ice(shape: dict[str, Any] = ROUND, drawn_m3: float = 0.0, refilled: bool = False, warm_c: float = 4.0,
        cold: dict[str, Any] | None = None, **changes: Any) -> VesselIce:  # fmt: skip
    told = {"id": "v", "place": "p", "shape": shape, "level_m": 1.4, "outlet_m": 0.1, "stand_m": 0.5, **changes}
    return vessel_ice(frost(**(cold or {})), Vessel.model_validate(told), drawn_m3, refilled, warm_c)


@pytest.mark.parametrize("snow_m", [0.0, 0.05, 0.2])
def test_on_wide_water_it_is_as_thick_as_stefan_says(snow_m: float) -> None:
    found = ice(FLAT, warm_c=0.0, cold={"snow_m": snow_m})
    told = ice_thickness_m(8.0 * 20, 1 / surface_wm2k(3.0) + snow_m / 0.2)
    assert found.likely.top_m == pytest.approx(told, rel=0.01)


def test_the_last_of_a_small_tank_is_solid_and_of_a_large_one_not() -> None:
    assert ice({**ROUND, "diameter_m": 0.6}).likely.solid_s is not None
    large = ice({**ROUND, "diameter_m": 4.0}).likely
    assert large.solid_s is None
    assert large.core_m3 > 5.0


def test_the_outlet_closes_when_ice_comes_down_to_it_or_the_draw_comes_down_to_the_ice() -> None:
    assert ice(outlet_m=0.1).likely.closed_s is None
    high = ice(outlet_m=1.3).likely.closed_s
    drawn = ice(outlet_m=0.1, drawn_m3=0.3).likely.closed_s
    assert high is not None
    assert drawn is not None
    assert drawn == pytest.approx((1.4 - 0.1 - 0.1) * 3.14 / 0.3 * 86_400, rel=0.15)
    assert ice(outlet_m=0.1, drawn_m3=0.3, refilled=True).likely.closed_s is None


def test_refills_bring_heat_for_as_much_as_they_are_warm() -> None:
    none, some, much = (ice(drawn_m3=drawn, refilled=True, warm_c=8.0).likely for drawn in (0.0, 0.3, 9.0))
    assert none.top_m > some.top_m > much.top_m
    assert much.top_m == 0.0  # 9 m3 at 8 °C bring 3.5 kW, and it loses 2
    cold = ice(drawn_m3=0.3, refilled=True, warm_c=0.0).likely
    assert cold.top_m == pytest.approx(ice(warm_c=0.0).likely.top_m)


def test_no_ice_grows_from_walls_in_the_ground() -> None:
    """By hand: sunk to its level only the top freezes, so the core is the whole floor under it."""
    open_, half, sunk = (ice(stand_m=stand).likely for stand in (0.0, -0.7, -1.4))
    assert open_.wall_m == pytest.approx(half.wall_m, rel=0.02)  # it cools to 0 °C a little later
    assert sunk.core_m3 == pytest.approx(3.1416 * (1.4 - sunk.top_m), rel=1e-3)
    ring = 1.0 - (1.0 - half.wall_m) ** 2  # of a floor 1 m around, beside what stands over the ground
    assert half.core_m3 == pytest.approx(3.1416 * (1.4 - half.top_m - ring * (0.7 - half.top_m)), rel=1e-3)
    assert open_.core_m3 < half.core_m3 < sunk.core_m3
    deeper = ice(stand_m=-3.0).likely
    assert deeper.core_m3 == pytest.approx(sunk.core_m3)


def test_a_narrow_sunk_tank_keeps_its_low_outlet_open_where_one_in_the_air_is_solid() -> None:
    narrow = {**ROUND, "diameter_m": 0.6}
    assert ice(narrow, stand_m=0.0).likely.closed_s is not None
    assert ice(narrow, stand_m=-1.4).likely.closed_s is None


@pytest.mark.parametrize(
    ("lid", "foam_mm", "stand_m", "wide_m"),
    [(False, 0.0, 0.5, 2.0), (True, 0.0, 0.5, 1.2), (True, 40.0, 0.0, 1.0), (False, 20.0, -0.6, 3.0)],
)
def test_top_and_walls_freeze_as_another_integrator_says(
    lid: bool, foam_mm: float, stand_m: float, wide_m: float
) -> None:
    """Water at 0 °C, each face by its own series of resistances: dx/dt = degrees / (resistance · density · melting)."""
    found = ice({**ROUND, "diameter_m": wide_m}, warm_c=0.0, lid=lid, lagging_mm=foam_mm, stand_m=stand_m).likely
    air, foam = 1.0 / surface_wm2k(3.0), foam_mm / 1_000.0 / 0.038
    over, beside = air + (0.17 + foam if lid else 0.0), air + foam

    def grows(_: float, thick_m: Any) -> list[float]:
        return [8.0 / ((skin + thick / 2.24) * 917.0 * 333_550.0)
                for skin, thick in zip((over, beside), thick_m, strict=True)]  # fmt: skip

    top_m, wall_m = solve_ivp(grows, (0.0, 20 * 86_400.0), [0.0, 0.0], rtol=1e-8, atol=1e-9).y[:, -1]
    assert found.top_m == pytest.approx(top_m, rel=0.01)
    assert found.wall_m == pytest.approx(min(wall_m, wide_m / 2.0), rel=0.01)
    sunk_m = max(0.0, -stand_m)
    core_m3 = 3.14159 / 4.0 * (wide_m**2 * sunk_m + (wide_m - 2.0 * wall_m) ** 2 * (1.4 - sunk_m - top_m))
    assert found.core_m3 == pytest.approx(core_m3, rel=0.02)


@pytest.mark.parametrize(("warm_c", "wide_m"), [(6.0, 2.0), (9.0, 3.0), (12.0, 2.0)])
def test_water_cools_to_freezing_in_the_time_of_its_exponential(warm_c: float, wide_m: float) -> None:
    """Mixed water behind one conductance UA: it is at 0 °C after c·m/UA · ln((warm + 8) / 8)."""
    air, foam = 1.0 / surface_wm2k(3.0), 0.04 / 0.038
    top_m2, wall_m2 = 3.14159 / 4.0 * wide_m**2, 3.14159 * wide_m * 1.4
    heat_wk = top_m2 / (air + 0.17 + foam) + (wall_m2 + top_m2) / (air + foam)  # on legs: its floor is in the air too
    cools_s = 1e3 * 4_200.0 * top_m2 * 1.4 / heat_wk * math.log((warm_c + 8.0) / 8.0)
    days = math.floor(cools_s / 86_400.0)
    assert days >= 1

    def after(to_day: int) -> Ice:
        cold = {"to": f"2031-12-{to_day:02}"}
        return ice({**ROUND, "diameter_m": wide_m}, warm_c=warm_c, cold=cold, lid=True, lagging_mm=40.0).likely

    assert after(days).top_m == 0.0
    assert after(days + 2).top_m > 0.0
    left_d = 28.0 - cools_s / 86_400.0  # what is left of the frost makes ice
    assert after(28).top_m == pytest.approx(ice_thickness_m(8.0 * left_d, air + 0.17 + foam), rel=0.02)


def test_the_days_left_are_the_core_over_the_draw() -> None:
    found = ice(drawn_m3=0.02, refilled=True)
    assert found.left_d is not None
    assert found.left_d[1] == pytest.approx(found.likely.core_m3 / 0.02)
    assert found.left_d[0] <= found.left_d[1] <= found.left_d[2]
    assert ice().left_d is None


@given(
    air=st.floats(-40.0, -0.2), wind=st.floats(0.0, 20.0), days=st.integers(1, 28), warm=st.floats(0.0, 12.0),
    drawn=st.floats(0.0, 3.0), refilled=st.booleans(), wide=st.floats(0.3, 6.0), foam=st.floats(0.0, 80.0),
)  # fmt: skip
def test_what_must_hold(
    air: float, wind: float, days: int, warm: float, drawn: float, refilled: bool, wide: float, foam: float
) -> None:
    cold = {"air_c": air, "wind_mps": wind, "to": f"2031-12-{days:02}"}
    asked: dict[str, Any] = {"drawn_m3": drawn, "refilled": refilled, "warm_c": warm, "cold": cold}
    shape = {**ROUND, "diameter_m": wide}
    found = ice(shape, **asked)
    assert found.best.core_m3 >= found.likely.core_m3 - 1e-9 >= found.worst.core_m3 - 2e-9
    assert found.best.top_m <= found.likely.top_m + 1e-9 or found.likely.solid_s is not None
    assert 0.0 <= found.likely.core_m3 <= 3.15 / 4 * wide**2 * 1.4
    kept = ice(shape, lagging_mm=foam, lid=True, **asked)
    assert kept.likely.core_m3 >= found.likely.core_m3 - 1e-9


def test_dark_walls_in_the_sun_keep_more_liquid_than_light_ones_and_the_sun_needs_a_place() -> None:
    def on_stand(dark: bool | None, latitude: float | None = 47.0, **cold: Any) -> VesselIce:
        told = {"id": "v", "place": "p", "shape": ROUND, "level_m": 1.4, "stand_m": 0.5, "dark": dark}
        return vessel_ice(frost(**cold), Vessel.model_validate(told), 0.0, False, 2.0, latitude)

    dark, light, unknown = on_stand(True), on_stand(False), on_stand(None)
    assert dark.likely.wall_m < light.likely.wall_m < unknown.likely.wall_m
    assert dark.worst == unknown.worst  # no sun comes there
    assert on_stand(True, None).likely == on_stand(None, None).likely
    # at 47 degrees the sun of December gives 0.5 · 10.0 MJ/m2, 57 W/m2; half a north-bound winter farther there is less
    assert on_stand(True, 60.0).likely.wall_m > dark.likely.wall_m
    # in the south the sun of December stands high: the same days take no ice on dark walls
    assert on_stand(True, -47.0).likely.wall_m < dark.likely.wall_m


def test_what_must_be_drunk_to_keep_it_open_is_the_heat_that_open_water_loses() -> None:
    found = ice(FLAT, drawn_m3=1.0, refilled=True, warm_c=6.0)
    loss_w = 8.0 * (3.14159265 / 4 * 30.0**2 * surface_wm2k(3.0) * 2 + 3.14159265 * 30.0 * 1.4 * surface_wm2k(3.0))
    assert found.open_m3 == pytest.approx(loss_w * 86_400 / (1000 * 4186 * 6.0), rel=0.01)  # over, beside and under it
    assert not found.kept_open
    for share, frozen in ((0.95, True), (1.05, False)):
        drunk = ice(FLAT, drawn_m3=share * (found.open_m3 or 0.0), refilled=True, warm_c=6.0)
        assert (drunk.likely.top_m > 0.0) is frozen
        assert drunk.kept_open is not frozen
    assert ice(drawn_m3=1.0, refilled=True, warm_c=0.0).open_m3 is None


def test_a_trough_that_nothing_comes_into_is_drunk_empty_and_not_called_ice() -> None:
    found = ice({**ROUND, "diameter_m": 1.0}, drawn_m3=0.5, warm_c=6.0).likely
    assert found.solid_s is None
    assert found.empty_s == pytest.approx(1.4 * 3.14159 / 4 / 0.5 * 86_400, rel=0.2)  # a little sooner: some is ice
    assert ice({**ROUND, "diameter_m": 1.0}, drawn_m3=0.5, refilled=True).likely.empty_s is None
