"""The three ways through a winter: trench, work, water and days of each by hand, and what it takes to say no."""

from datetime import date
from typing import Any

import pytest

from leadsman.core.base.wording import plain
from leadsman.core.design.site_costs import trench_price_per_m
from leadsman.core.parts.work_plan import DIG_MIN_PER_M
from leadsman.core.report.winter import WinterReport, winter_answer
from leadsman.core.winter.ways import Way, ways
from leadsman.core.winter.winter import winter
from systems import farm, judged, line

FROST = {"from": "2031-12-01", "to": "2031-12-10", "air_c": -10.0, "water_c": 6.0, "depth_m": 0.5}


def told(document: dict[str, Any], **frost: Any) -> tuple[Way, Way, Way]:
    """Buried, left running, drained."""
    analysis = judged({**document, "frost": {**FROST, **frost}})
    found = winter(analysis)
    assert found is not None
    bury, run, drain = ways(analysis, found)
    return bury, run, drain


def report(document: dict[str, Any]) -> WinterReport:
    found = winter_answer(judged(document), date(2031, 11, 1)).winter
    assert found is not None
    return found


def two_lines(cover_m: float) -> dict[str, Any]:
    """One falls all the way to its trough, the other dips on its way."""
    return farm(
        [line("falls", "a", "x", cover_m=cover_m, points=[[0, 120.0], [100, 100.0]]),
         line("dips", "b", "y", cover_m=cover_m, points=[[0, 120.0], [50, 95.0], [70, 104.0], [100, 100.0]])]
    )  # fmt: skip


def test_what_is_dug_is_what_lies_too_shallow_and_costs_what_its_trench_does() -> None:
    document = two_lines(0.2)
    bury, _, _ = told(document)
    assert (bury.dig_m, bury.does) == (200.0, True)
    assert bury.work_h == pytest.approx(200.0 * DIG_MIN_PER_M * 0.5 / 0.3 / 60.0)
    metre = trench_price_per_m(judged(document).document).price
    assert metre is not None
    assert bury.price == pytest.approx(200.0 * metre)
    by_machine = told({**document, "costs": {"digging": "hired machine", "machine_per_day": 300.0,
                                             "machine_m_per_day": 90.0}})  # fmt: skip
    assert by_machine[0].price == 3 * 300.0
    assert told({**document, "costs": {"digging": "by hand"}})[0].price == 0.0
    document["lines"][0]["cover_m"] = 0.5  # just deep enough
    assert told(document)[0].dig_m == 100.0
    deep, running, _ = told(two_lines(0.6))
    assert (deep.dig_m, deep.work_h, deep.price) == (0.0, 0.0, 0.0)
    assert "already" in plain(deep.means)
    assert running.water_lpd == 0.0 or running.water_lpd < told(two_lines(0.2))[1].water_lpd / 5


def test_drained_it_does_only_where_nothing_stays_and_nobody_is_watered_for_as_long() -> None:
    _, _, wet = told(two_lines(0.2))
    assert (wet.does, wet.days_without) == (False, 10)
    assert wet.stays_l > 5.0
    document = two_lines(0.2)
    document["lines"][1]["inline"] = [{"kind": "drain", "at_m": 50.0}]
    _, _, dry = told(document)
    assert (dry.does, dry.stays_l) == (True, 0.0)
    assert dry.work_h < wet.work_h  # no low point to empty by hand, though a drain to open and shut
    assert "1400 L a day" in plain(dry.means)


@pytest.mark.parametrize(
    ("changes", "frost", "does", "text"),
    [
        ({}, {"water_c": 0.3}, False, "too cold"),
        ({"bore_mm": 5.0}, {}, False, "passes"),
        ({}, {}, False, "can spare"),
        ({"cover_m": 3.0}, {}, True, "must not stop"),
    ],
)
def test_why_it_is_not_left_running(changes: dict[str, Any], frost: dict[str, Any], does: bool, text: str) -> None:
    """The spring brings 720 L a day and 400 are needed: a bare line takes more, one below the frost none."""
    document = farm([line("ax", "a", "x", **changes)], {"a": 120.0}, {"x": 100.0})
    if "cover_m" in changes:
        document["outlets"][0]["height_m"] = -2.9  # and comes up nowhere
    _, run, _ = told(document, **frost)
    assert run.does is does
    assert text in plain(run.means)


@pytest.mark.parametrize(
    ("foam_mm", "does", "text"),
    [
        (0.0, False, "passes"),
        (10.0, False, "All together"),
        (15.0, None, "All together"),
        (30.0, True, "must not stop"),
    ],
)
def test_each_end_passes_more_by_itself_than_both_do(foam_mm: float, does: bool | None, text: str) -> None:
    """A thin main of 400 m: 2.4 L/min come at one end, half of that at each of two; foam takes less and less."""
    main = line("main", "a", "at-j", length_m=400.0, bore_mm=10.0, lagging_mm=foam_mm)
    ends = [line(end, "at-j", to, length_m=30.0, lagging_mm=foam_mm) for end, to in (("left", "x"), ("right", "y"))]
    document = farm([main, *ends], {"a": 120.0}, {"x": 100.0, "y": 100.0})
    document["places"].append({"id": "at-j", "east_m": 10, "north_m": 10, "ground_m": 100.0})
    document["inflows"][0]["claimed_lpm"] = 500.0
    _, run, _ = told(document, wind_mps=5.0)
    assert run.does is does
    assert text in plain(run.means)


@pytest.mark.parametrize(("spring_lpm", "does"), [(0.0, False), (0.8, None), (5.0, True)])
def test_left_running_is_only_denied_where_the_heat_that_pipe_loses_is_known_well_enough(
    spring_lpm: float, does: bool | None
) -> None:
    """What keeps it open is between 0.7 and 1 of what the source gives: the answer is open."""
    document = farm([line("ax", "a", "x", cover_m=0.2, points=[[0, 120.0], [100, 99.6]])], {"a": 120.0}, {"x": 99.0})
    document["frost"] = {"from": "2031-12-01", "to": "2031-12-10", "air_c": -8.0, "water_c": 6.0, "depth_m": 0.5}
    bled_lpm = report(document).ways[1].water_lpd / 1_440.0
    document["herds"] = []
    document["inflows"][0]["claimed_lpm"] = max(spring_lpm * bled_lpm, 1e-3)
    assert report(document).ways[1].does is does
