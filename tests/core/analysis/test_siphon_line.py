"""Lines declared siphons: how high their crest may stand, when they break, and what primes them."""

from typing import Any

import pytest

from examples import one_line
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.siphon_line import SiphonLine, siphon_lines
from leadsman.core.design.file import read_design


def siphon(crest_m: float, **changes: Any) -> SiphonLine:
    """A line over a bank 40 m from its pond, falling 17 m behind it."""
    document = one_line(**{"lines.0.siphon": True, "outlets.0.valve.kv_m3h": 0.05, "vessels.0.role": "pond",
                           "lines.0.points": [[0, 120], [40, crest_m], [140, 108], [210, 101]], **changes})  # fmt: skip
    (found,) = siphon_lines(Analysis(read_design(document)))
    return found


@pytest.mark.parametrize(
    ("altitude_m", "water_c", "limit_m"),
    [(0, 10, 10.21), (0, 20, 10.11), (0, 30, 9.94), (1000, 10, 9.04), (1000, 30, 8.77), (2000, 20, 7.88)],
)
def test_the_limit_is_the_published_one_less_our_metre(altitude_m: float, water_c: float, limit_m: float) -> None:
    found = siphon(123.0, **{"site.altitude_m": altitude_m, "scenarios.0.water_c": water_c})
    assert found.limit_m == pytest.approx(limit_m - 1.0, abs=0.006)
    assert found.lift_m == pytest.approx(2.0)  # the water stands at 121
    # hardly anything runs: what is left at the crest is the limit less the lift
    assert found.spare_m == pytest.approx(found.limit_m - 2.0, abs=0.02)


@pytest.mark.parametrize(("crest_m", "breaks"), [(129.9, False), (130.3, True)])
def test_it_breaks_just_over_its_limit(crest_m: float, breaks: bool) -> None:
    changes = {"site.altitude_m": 0, "scenarios.0.water_c": 10.0}
    found = siphon(crest_m, **changes)
    assert (found.spare_m < 0.0) is breaks
    assert found.crest_at_m == pytest.approx(40.0)


def test_a_full_flow_takes_pressure_at_the_crest() -> None:
    slow, fast = siphon(123.0), siphon(123.0, **{"outlets.0.valve.kv_m3h": 3.0})
    assert fast.lift_m == slow.lift_m
    assert fast.spare_m < slow.spare_m - 2.0


def test_what_primes_it_is_the_leg_that_falls_and_with_a_foot_valve_the_rise_above_the_water() -> None:
    found, area = siphon(123.0), 3.14159265 / 4 * 0.0272**2
    assert found.falling_m3 == pytest.approx(170.0 * area, rel=1e-6)
    assert found.rising_m3 == pytest.approx(40.0 * 2.0 / 3.0 * area, rel=1e-6)  # from 121 to 123, of 120 to 123
    back = siphon(123.0, **{"lines.0.from": "valve", "lines.0.to": "tank",
                            "lines.0.points": [[0, 101], [70, 108], [170, 123], [210, 120]]})  # fmt: skip
    assert back.falling_m3 == pytest.approx(found.falling_m3)
    assert back.rising_m3 == pytest.approx(found.rising_m3)
    assert back.crest_at_m == pytest.approx(170.0)


def test_lines_that_are_none_are_left_out() -> None:
    assert siphon_lines(Analysis(read_design(one_line()))) == []
