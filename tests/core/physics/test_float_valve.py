"""A float valve: Kv against outside values, opening by level."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from leadsman.core.base.units import lpm_from_m3s
from leadsman.core.physics.float_valve import FloatValve
from leadsman.core.physics.water import water_at

VALVE = FloatValve(kv_m3h=1.0, closes_at_m=0.45, band_m=0.06)


@pytest.mark.parametrize(("head_m", "lpm"), [(1, 5.22), (5, 11.67), (10, 16.50), (30, 28.6)])
def test_kv_one_passes(head_m: float, lpm: float) -> None:
    # definition of Kv, recomputed at 10 °C
    flow = VALVE.flow_m3s(head_m, 1.0, water_at(10.0).density_kgm3)
    assert lpm_from_m3s(flow) == pytest.approx(lpm, rel=1e-3)


@pytest.mark.parametrize(
    ("level", "opening"), [(0.0, 1.0), (0.39, 1.0), (0.42, 0.5), (0.45, 0.0), (0.5, 0.0), (0.44999, 0.0)]
)
def test_opening_follows_the_level(level: float, opening: float) -> None:
    assert VALVE.opening(level) == pytest.approx(opening, abs=1e-9)


@given(st.floats(1e-3, 60), st.floats(0.01, 1))
def test_head_and_flow_are_inverse(head_m: float, opening: float) -> None:
    flow = VALVE.flow_m3s(head_m, opening, 999.7)
    assert VALVE.head_to_pass_m(flow, opening, 999.7) == pytest.approx(head_m, rel=1e-9)


def test_shut_or_without_head_it_passes_nothing() -> None:
    assert VALVE.flow_m3s(10.0, 0.0, 1000.0) == VALVE.flow_m3s(-1.0, 1.0, 1000.0) == 0.0
