"""Lines declared siphons: how high their crest may stand, when they break, and what primes them."""

from typing import Any

import pytest

from examples import one_line
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.siphon_line import SiphonLine, siphon_lines
from leadsman.core.base.wording import plain
from leadsman.core.design.file import read_design
from leadsman.core.findings.registry import judge
from leadsman.core.report.steady import solve_report


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


@pytest.mark.parametrize(("crest_m", "severity"), [(133.0, "stop"), (130.3, "stop"), (129.9, None)])
def test_out_of_reach_it_says_so_and_names_no_pressure_that_water_cannot_have(
    crest_m: float, severity: str | None
) -> None:
    """At sea level and 10 °C water can be drawn up 9.21 m with our metre kept; it stands at 121."""
    document = one_line(**{"lines.0.siphon": True, "outlets.0.valve.kv_m3h": 0.05, "site.altitude_m": 0,
                           "lines.0.points": [[0, 120], [40, crest_m], [140, 108], [210, 101]]})  # fmt: skip
    analysis = Analysis(read_design(document))
    (outlet,) = analysis.fed_outlets
    found = [finding for finding in judge(analysis) if finding.code == "dry-outlet"]
    assert [finding.severity for finding in found] == ([severity] if severity else [])
    for finding in found:
        assert plain(finding.headline) == "valve is out of reach of the siphon"
        assert f"highest point is {crest_m - 121:.2f} m above the water" in plain(finding.why)
        assert "the water breaks off at the crest of line, 40 m along it" in plain(analysis.answer(outlet).reason)
    told = solve_report(analysis.state, section="line")
    kpa = [point.pressure_kpa for point in told.section.points] if told.section else []
    assert all(pressure is None or pressure > -101.325 for pressure in kpa)
    assert (kpa[1] is None) is (crest_m > 131.3)  # from there on no liquid water could stand there at all


def test_losses_alone_can_put_it_out_of_reach() -> None:
    """Still water could be drawn over this crest; what a wide valve lets run loses too much before it."""
    changes = {"lines.0.siphon": True, "site.altitude_m": 0, "outlets.0.valve.kv_m3h": 8.0,
               "lines.0.points": [[0, 120], [150, 129.0], [210, 95]], "places.1.ground_m": 95}  # fmt: skip
    found = {finding.code: finding for finding in judge(Analysis(read_design(one_line(**changes))))}
    assert "running it would lose" in plain(found["dry-outlet"].why)
