"""Water, friction, pipe and fittings against outside values; limits and shapes by property."""

import math

import fluids
import fluids.friction
import pytest
from hypothesis import given
from hypothesis import strategies as st

from cases import half_last_digit, table
from leadsman.core.base import units
from leadsman.core.base.errors import OutOfRange
from leadsman.core.catalogue import fittings
from leadsman.core.physics import fittings as fit
from leadsman.core.physics.friction import darcy_friction_factor, scaled_loss
from leadsman.core.physics.pipe import Pipe
from leadsman.core.physics.water import atmospheric_pressure_pa, water_at


@pytest.mark.parametrize("row", table("water"), ids=lambda row: f"{row['temperature_c']} °C")
def test_water_agrees_with_iapws(row: dict[str, str]) -> None:
    water = water_at(float(row["temperature_c"]))
    assert water.density_kgm3 == pytest.approx(float(row["density_kgm3"]), rel=1e-4)
    assert water.kinematic_viscosity_m2s * 1e6 == pytest.approx(float(row["kinematic_mm2s"]), rel=0.01)
    assert water.vapour_pressure_pa == pytest.approx(float(row["vapour_pa"]), rel=1e-3)


@pytest.mark.parametrize(
    ("altitude_m", "kpa"), [(0, "101.325"), (1000, "89.876"), (2000, "79.501"), (3000, "70.121")]
)  # U.S. Standard Atmosphere 1976, recomputed with fluids 1.3.1
def test_air_pressure_agrees_with_the_standard_atmosphere(altitude_m: float, kpa: str) -> None:
    assert atmospheric_pressure_pa(altitude_m) / 1000 == pytest.approx(float(kpa), rel=1e-4)


@pytest.mark.parametrize(
    "row", table("friction"), ids=lambda row: f"Re {row['reynolds']} e/D {row['relative_roughness']}"
)
def test_friction_agrees_with_colebrook(row: dict[str, str]) -> None:
    factor = darcy_friction_factor(float(row["reynolds"]), float(row["relative_roughness"]))
    assert factor == pytest.approx(float(row["factor"]), abs=half_last_digit(row["factor"]) + 1e-12)


@given(st.floats(4000, 1e8), st.floats(0, 0.05))
def test_friction_agrees_with_an_independent_colebrook(reynolds: float, roughness: float) -> None:
    ours = darcy_friction_factor(reynolds, roughness)
    assert ours == pytest.approx(fluids.friction.Colebrook(reynolds, roughness, tol=-1), rel=1e-9)


@given(st.floats(0.1, 1e7), st.floats(1.0005, 1.5), st.floats(0, 0.05))
def test_loss_rises_with_flow_everywhere(reynolds: float, factor: float, roughness: float) -> None:
    less, slope = scaled_loss(reynolds, roughness)
    more, _ = scaled_loss(reynolds * factor, roughness)
    assert more > less
    assert slope > 0


@given(st.floats(1900, 4200), st.floats(0, 0.05))
def test_slope_of_loss_is_the_derivative_across_the_bridge(reynolds: float, roughness: float) -> None:
    step = reynolds * 1e-5
    if any(abs(reynolds - corner) < 2 * step for corner in (2000, 4000)):
        return
    central = (scaled_loss(reynolds + step, roughness)[0] - scaled_loss(reynolds - step, roughness)[0]) / (2 * step)
    assert scaled_loss(reynolds, roughness)[1] == pytest.approx(central, rel=1e-5)


@pytest.mark.parametrize("corner", [2000.0, 4000.0])
@pytest.mark.parametrize("roughness", [0.0, 2.6e-4, 0.05])
def test_bridge_meets_its_neighbours_with_their_slope(corner: float, roughness: float) -> None:
    below, above = (scaled_loss(corner * (1 + side), roughness) for side in (-1e-9, 1e-9))
    assert below == pytest.approx(above, rel=1e-6)


@pytest.mark.parametrize(("reynolds", "roughness"), [(math.nan, 0.0), (-5.0, 0.0), (1e5, -1e-4), (1e5, 0.051)])
def test_friction_refuses_nonsense(reynolds: float, roughness: float) -> None:
    with pytest.raises(OutOfRange):
        darcy_friction_factor(reynolds, roughness)


@pytest.mark.parametrize(
    "row", table("pipe_loss"), ids=lambda row: f"{row['material']} {row['bore_mm']} {row['water_c']} °C"
)
def test_loss_in_100_m_agrees(row: dict[str, str]) -> None:
    pipe = Pipe(length_m=100.0, bore_m=float(row["bore_mm"]) / 1000, roughness_m=float(row["roughness_mm"]) / 1000)
    flow = float(row["flow_lps"]) / 1000
    loss, _ = pipe.friction_loss_m(flow, water_at(float(row["water_c"])).kinematic_viscosity_m2s)
    assert loss == pytest.approx(float(row["loss_m_per_100m"]), rel=0.005)
    assert pipe.velocity_ms(flow) == pytest.approx(float(row["velocity_ms"]), abs=half_last_digit(row["velocity_ms"]))
    assert pipe.friction_loss_m(-flow, 1e-6)[0] == -pipe.friction_loss_m(flow, 1e-6)[0]


@pytest.mark.parametrize("row", table("minor_loss"), ids=lambda row: f"{row['bore_mm']} mm")
def test_fittings_agree_with_crane(row: dict[str, str]) -> None:
    factor = fit.crane_full_turbulence_factor(float(row["bore_mm"]) / 1000)
    assert factor == pytest.approx(float(row["f_t"]), rel=0.05)
    for product in set(row) - {"bore_mm", "f_t", "source"}:
        times = fittings()[product].times_ft
        assert times is not None
        assert times * factor == pytest.approx(float(row[product]), rel=0.05)


def test_entrances_and_steps_agree_with_textbook_values() -> None:
    # Crane TP-410 and Borda–Carnot; fluids' own defaults differ on purpose, see its documentation
    assert fit.sudden_expansion_k(0.02, 0.04) == pytest.approx(0.5625)
    assert fit.sudden_contraction_k(0.04, 0.02) == pytest.approx(0.375)
    assert fittings()["entrance-flush"].k == fit.FLUSH_ENTRANCE_K == 0.5
    assert fittings()["entrance-projecting"].k == fit.PROJECTING_ENTRANCE_K
    assert fittings()["entrance-rounded"].k == 0.04  # r/D of 0.15 or more
    assert fit.sudden_expansion_k(0.02, 0.04) == pytest.approx(fluids.diffuser_sharp(0.02, 0.04))


def test_kv_agrees_with_an_independent_conversion() -> None:
    assert fit.kv_m3h_from_k(10.0, 0.02664) == pytest.approx(8.977, rel=5e-4)  # fluids 1.3.1, whose constant is rounded
    assert fit.kv_m3h_from_k(3.0, 0.02) == pytest.approx(fluids.K_to_Kv(3.0, 0.02), rel=2e-3)


def test_conversions_agree_with_pint() -> None:
    import pint

    registry: pint.UnitRegistry[float] = pint.UnitRegistry()
    assert units.m3s_from_lpm(1.0) == pytest.approx(registry("1 L/min").to("m^3/s").magnitude, rel=1e-12)
    assert units.lpm_from_m3s(1.0) == pytest.approx(registry("1 m^3/s").to("L/min").magnitude, rel=1e-12)
    assert units.head_m_from_pa(1e5, 998.207) == pytest.approx(10.215, abs=0.0005)  # 1 bar at 20 °C
    assert registry("1 g_0").to("m/s^2").magnitude == units.GRAVITY_MS2
