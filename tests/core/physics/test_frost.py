"""Ice, pipes in frost and ground that freezes: outside values, other ways of working them out, and what must hold."""

import math
from collections.abc import Callable

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import solve_ivp
from scipy.optimize import brentq

from leadsman.core.base.errors import OutOfRange
from leadsman.core.physics.frost_depth import SOILS, degree_days_to, frost_depth_m
from leadsman.core.physics.ice import ICE_KGM3, ICE_WMK, MELTING_JKG, ice_thickness_m, surface_wm2k
from leadsman.core.physics.pipe_heat import (
    Wall,
    freezing_s,
    least_flow_m3s,
    loss_in_air_wmk,
    loss_in_ground_wmk,
    standing_s,
    warmth_left_c,
    wind_wm2k,
)

DAY_S, WATER_J = 86_400.0, 4.2e6
BARE = Wall(bore_m=0.0272, outer_m=0.032, wall_wmk=0.4)
FOAMED = Wall(bore_m=0.0272, outer_m=0.032, wall_wmk=0.4, foam_m=0.019, foam_wmk=0.038)
THIN = Wall(bore_m=0.032, outer_m=0.032, wall_wmk=0.4)


@pytest.mark.parametrize(
    ("found", "told", "within"),
    [
        (100 * ice_thickness_m(1.0), 3.557, 0.001),
        (100 * ice_thickness_m(100.0), 35.6, 0.002),
        (100 * ice_thickness_m(100.0, 1 / 20.0), 26.1, 0.002),
        (wind_wm2k(5.0, 0.032, -10.0), 45.2, 0.03),
        (loss_in_air_wmk(BARE, 5.0, -10.0), 3.509, 0.03),
        (warmth_left_c(6.0, -10.0, 350.9, 0.2e-3), 0.54, 0.02),
        (warmth_left_c(6.0, -10.0, 350.9, 0.5e-3), 3.54, 0.01),
        (standing_s(BARE, 3.509, 6.0, -10.0), 327.0, 0.01),
        (freezing_s(BARE, 3.509, -10.0) / 3600, 1.5, 0.05),
        (loss_in_air_wmk(FOAMED, 5.0, -10.0), 0.287, 0.03),
        (1e3 * least_flow_m3s(6.0, -10.0, 28.7, 0.5), 0.0162, 0.01),
        (standing_s(FOAMED, 0.287, 6.0, -10.0) / 3600, 1.11, 0.01),
        (loss_in_ground_wmk(THIN, 0.3, 1.5), 2.60, 0.01),
    ],
)
def test_values_from_outside(found: float, told: float, within: float) -> None:
    assert found == pytest.approx(told, rel=within)


def by_finite_differences_m(air_c: float, days: float, surface_m2kw: float) -> float:
    """Return the ice on water at 0 °C by the heat that each thin layer holds: nothing of Stefan's formula in it."""
    layer_m, layers, warmth_j = 0.008, 75, 2_050.0 * ICE_KGM3
    melting_j = MELTING_JKG * ICE_KGM3
    held = np.full(layers, melting_j)  # 0: ice at 0 °C; all of its melting heat: water at 0 °C
    step_s = 0.4 * layer_m**2 * warmth_j / ICE_WMK
    for _ in range(round(days * DAY_S / step_s)):
        degrees = np.where(held < 0.0, held / warmth_j, 0.0)
        flow = ICE_WMK * np.diff(degrees) / layer_m
        top = (degrees[0] - air_c) / (surface_m2kw + layer_m / 2 / ICE_WMK)
        held[0] += step_s / layer_m * ((flow[0] if layers > 1 else 0.0) - top)
        held[1:-1] += step_s / layer_m * np.diff(flow)
        held[-1] -= step_s / layer_m * flow[-1]
    return float(layer_m * np.sum(1.0 - np.clip(held / melting_j, 0.0, 1.0)))


@pytest.mark.parametrize(
    ("air_c", "days", "surface_m2kw"), [(-10.0, 10.0, 0.0), (-5.0, 6.0, 0.05), (-20.0, 3.0, 0.3), (-3.0, 15.0, 0.1)]
)
def test_ice_grows_as_by_finite_differences(air_c: float, days: float, surface_m2kw: float) -> None:
    told = ice_thickness_m(-air_c * days, surface_m2kw)
    assert by_finite_differences_m(air_c, days, surface_m2kw) == pytest.approx(told, rel=0.02)


@pytest.mark.parametrize(("flow_lps", "loss_wmk"), [(0.02, 0.287), (0.2, 3.509), (0.05, 2.6), (1.0, 12.0)])
def test_water_cools_along_a_pipe_as_its_heat_balance_says(flow_lps: float, loss_wmk: float) -> None:
    def falls(_: float, warm: np.ndarray) -> np.ndarray:
        return -loss_wmk * (warm + 8.0) / (WATER_J * flow_lps * 1e-3)

    along = solve_ivp(falls, (0.0, 250.0), [7.0], rtol=1e-9, atol=1e-9)
    assert warmth_left_c(7.0, -8.0, 250.0 * loss_wmk, flow_lps * 1e-3) == pytest.approx(along.y[0, -1], abs=1e-5)
    least = least_flow_m3s(7.0, -8.0, 250.0 * loss_wmk, 0.5)
    root = brentq(lambda flow: warmth_left_c(7.0, -8.0, 250.0 * loss_wmk, flow) - 0.5, 1e-9, 1.0, xtol=1e-16)
    assert least == pytest.approx(root, rel=1e-6)


cold = st.floats(-40.0, -0.5)
cover = st.floats(0.05, 3.0)
soil = st.sampled_from(sorted(SOILS))


@given(air=cold, less=cover, more=cover, kind=soil, warm=st.floats(0.5, 15.0))
def test_more_cover_never_freezes_sooner(air: float, less: float, more: float, kind: str, warm: float) -> None:
    low, high = sorted((less, more))
    ground = SOILS[kind]
    shallow, deep = (loss_in_ground_wmk(BARE, at, ground.conducts_wmk) for at in (low, high))
    assert deep <= shallow
    assert standing_s(BARE, deep, warm, air) >= standing_s(BARE, shallow, warm, air)
    assert degree_days_to(high, ground) >= degree_days_to(low, ground)


@given(air=cold, flows=st.lists(st.floats(1e-6, 1e-2), min_size=2, max_size=2), loss=st.floats(0.1, 2_000.0))
def test_more_flow_never_arrives_colder(air: float, flows: list[float], loss: float) -> None:
    little, much = sorted(flows)
    assert warmth_left_c(5.0, air, loss, much) >= warmth_left_c(5.0, air, loss, little) - 1e-9


@given(air=cold, foam=st.floats(0.0, 0.1), wind=st.floats(0.0, 30.0))
def test_foam_and_still_air_never_cost_heat(air: float, foam: float, wind: float) -> None:
    lagged = Wall(bore_m=0.0272, outer_m=0.032, wall_wmk=0.4, foam_m=foam)
    assert loss_in_air_wmk(lagged, wind, air) <= loss_in_air_wmk(BARE, wind, air) * 1.000001 or foam < 0.004
    assert loss_in_air_wmk(BARE, wind, air) >= loss_in_air_wmk(BARE, 0.0, air)


@given(days=st.floats(0.0, 5_000.0), kind=soil)
def test_frost_comes_as_deep_as_its_degree_days_take_it(days: float, kind: str) -> None:
    ground = SOILS[kind]
    assert degree_days_to(frost_depth_m(days, ground), ground) == pytest.approx(days, abs=1e-6)


@given(some=st.floats(0.0, 3_000.0), more=st.floats(0.0, 3_000.0), layer=st.floats(0.0, 5.0))
def test_more_frost_makes_more_ice_and_a_layer_over_it_less(some: float, more: float, layer: float) -> None:
    assert ice_thickness_m(some + more, layer) >= ice_thickness_m(some, layer)
    assert ice_thickness_m(some, layer) <= ice_thickness_m(some) + 1e-12


def test_what_cannot_be_is_refused_and_what_never_freezes_takes_for_ever() -> None:
    assert standing_s(BARE, 3.5, 6.0, 0.0) == math.inf
    assert freezing_s(BARE, 3.5, 1.0) == math.inf
    asked: list[Callable[[], float]] = [
        lambda: ice_thickness_m(-1.0),
        lambda: ice_thickness_m(math.nan),
        lambda: surface_wm2k(-1.0),
        lambda: wind_wm2k(1.0, 0.0, -5.0),
        lambda: loss_in_ground_wmk(BARE, 0.01, 1.5),
        lambda: warmth_left_c(6.0, -10.0, 10.0, 0.0),
        lambda: least_flow_m3s(0.4, -10.0, 10.0, 0.5),
    ]
    for one in asked:
        with pytest.raises(OutOfRange):
            one()
