"""Shapes, and filling and emptying over time, against closed forms and independent integration."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from leadsman.core.base.array import Floats
from leadsman.core.base.errors import OutOfRange
from leadsman.core.base.integrator import run_until
from leadsman.core.base.units import GRAVITY_MS2
from leadsman.core.physics.filling import time_to_level_s
from leadsman.core.physics.pipe import Pipe
from leadsman.core.physics.vessel import Frustum, Linked, LyingCylinder, Prism, Shape, StageTable, level_m
from leadsman.core.physics.water import water_at

TANK = Prism(math.pi * 1.5**2 / 4, 2.5)
SHAPES: list[Shape] = [
    TANK,
    LyingCylinder(1.2, 2.0),
    Frustum(bottom_diameter_m=0.8, top_diameter_m=1.4, height_m=0.7),
    StageTable([0.0, 0.3, 1.0], [0.0, 0.2, 1.5]),
    Linked(Prism(1.0, 1.0), 3),
]


def hole_m3s(level: float) -> float:
    """Torricelli through a 25 mm hole, Cd 0.62."""
    return -0.62 * math.pi * 0.025**2 / 4 * math.sqrt(2 * GRAVITY_MS2 * max(level, 0.0))


@pytest.mark.parametrize(("level", "litres"), [(0.3, 442.21), (0.6, 1130.97), (0.9, 1819.73), (1.2, 2261.95)])
def test_lying_cylinder_holds(level: float, litres: float) -> None:
    # circular segment times length, recomputed
    assert LyingCylinder(1.2, 2.0).volume_m3(level) * 1000 == pytest.approx(litres, abs=0.005)


@pytest.mark.parametrize("shape", SHAPES, ids=lambda shape: type(shape).__name__)
@given(share=st.floats(0, 1))
def test_level_and_volume_are_inverse(shape: Shape, share: float) -> None:
    volume = share * shape.volume_m3(shape.height_m)
    assert shape.volume_m3(level_m(shape, volume)) == pytest.approx(volume, abs=1e-8)


@pytest.mark.parametrize("shape", SHAPES, ids=lambda shape: type(shape).__name__)
@given(share=st.floats(0.01, 0.99))
def test_the_surface_is_what_a_film_of_water_takes(shape: Shape, share: float) -> None:
    level, film = share * shape.height_m, 1e-6
    if all(abs(level - corner) > film for corner in shape.corners_m):
        taken = shape.volume_m3(level + film / 2) - shape.volume_m3(level - film / 2)
        assert shape.surface_m2(level) == pytest.approx(taken / film, rel=1e-4)


@pytest.mark.parametrize("shape", SHAPES, ids=lambda shape: type(shape).__name__)
@pytest.mark.parametrize("level", [-0.01, 99.0, math.nan])
def test_level_outside_the_shape_is_refused(shape: Shape, level: float) -> None:
    with pytest.raises(OutOfRange):
        shape.volume_m3(level)
    with pytest.raises(OutOfRange):
        shape.surface_m2(level)


@pytest.mark.parametrize(
    ("shape", "start", "stop", "seconds"),
    [  # Torricelli's closed forms, recomputed
        (TANK, 2.0, 0.5, 1854.2),
        (TANK, 2.0, 0.0, 3708.3),
        (LyingCylinder(1.2, 2.0), 1.2, 0.0, 2600.8),
    ],
)
def test_emptying_through_a_hole(shape: Shape, start: float, stop: float, seconds: float) -> None:
    assert time_to_level_s(shape, start, stop, hole_m3s, 1e5) == pytest.approx(seconds, rel=2e-4)


def test_tank_empties_through_a_line() -> None:
    # 100 m of 27.2 mm falling 10 m, K 1.5, 10 °C, 2 m to empty: 3,908.9 s, 0.9502 to 0.8584 L/s (scipy 1.17.1)
    water, pipe = water_at(10.0), Pipe(length_m=100.0, bore_m=0.0272, roughness_m=7e-6)

    def out_m3s(level: float) -> float:
        low, high = 0.0, 0.01
        for _ in range(60):
            flow = (low + high) / 2
            loss = pipe.friction_loss_m(flow, water.kinematic_viscosity_m2s)[0]
            loss += 1.5 * pipe.velocity_ms(flow) ** 2 / (2 * GRAVITY_MS2)
            low, high = (flow, high) if loss < level + 10.0 else (low, flow)
        return -low

    assert -out_m3s(2.0) * 1000 == pytest.approx(0.9502, rel=0.005)
    assert -out_m3s(0.0) * 1000 == pytest.approx(0.8584, rel=0.005)
    assert time_to_level_s(TANK, 2.0, 0.0, out_m3s, 1e5) == pytest.approx(3908.9, rel=0.005)


@pytest.mark.parametrize("flow", [0.0, 1e-4])
def test_level_that_is_never_met_has_no_time(flow: float) -> None:
    assert time_to_level_s(TANK, 1.0, 0.5, lambda _: flow, 1e6) is None
    assert time_to_level_s(TANK, 1.0, 1.0, lambda _: flow, 1e6) == 0.0


def test_filling_that_takes_too_long_has_no_time() -> None:
    assert time_to_level_s(TANK, 0.0, 1.0, lambda _: 1e-3, 100.0) is None


def test_integrator_agrees_with_scipy_on_two_vessels() -> None:
    def rate(state: Floats) -> Floats:
        upper, lower = state
        over = 0.01 * math.sqrt(max(upper, 0.0))
        return np.array([-over, over - 0.006 * math.sqrt(max(lower, 0.0))])

    reached = run_until(rate, [2.0, 0.5], lambda s: float(s[0]) - 0.2, 1e4, 10.0, 0.0, [1e-8, 1e-8])

    def event(_t: float, y: np.ndarray) -> float:
        return float(y[0]) - 0.2

    event.terminal = True  # type: ignore[attr-defined]
    oracle = solve_ivp(lambda _t, y: rate(y), (0, 1e4), [2.0, 0.5], events=event, rtol=1e-11, atol=1e-12)
    assert reached.happened
    assert oracle.t_events is not None
    assert oracle.y_events is not None
    assert reached.time_s == pytest.approx(oracle.t_events[0][0], rel=1e-6)
    assert reached.state == pytest.approx(tuple(oracle.y_events[0][0]), rel=1e-5)
