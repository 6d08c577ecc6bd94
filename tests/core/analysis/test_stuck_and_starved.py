"""A valve that sticks open, a line that drains back, and a low outlet that leaves a high one dry."""

from typing import Any

import pytest

from examples import LOW_AND_HIGH, PAST_A_TEE, one_line
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.drain_back import drain_backs
from leadsman.core.analysis.leak import leak_of
from leadsman.core.analysis.narrow import worst_neck
from leadsman.core.analysis.schools import schools
from leadsman.core.analysis.starved import starved_outlets
from leadsman.core.base.wording import plain
from leadsman.core.design.file import read_design
from leadsman.core.findings.registry import judge


def analysis(**changes: Any) -> Analysis:
    return Analysis(read_design(one_line(**changes)))


def test_a_stuck_valve_empties_the_store_less_what_comes_in() -> None:
    told = analysis()
    leak = leak_of(told, told.design.outlets[0])
    assert leak is not None
    flow, comes = told.flows_alone_m3s["valve"], 1.0 / 60_000  # the spring gives a litre a minute
    assert leak.flow_m3s == flow
    assert leak.empty_s == pytest.approx(3.14159265 / (flow - comes), rel=1e-4)
    assert leak.empties
    assert leak.lost_m3 == pytest.approx(3.14159265 + comes * 43_200, rel=1e-4)


def test_what_comes_in_as_fast_as_it_leaks_never_empties_it() -> None:
    strong = {"id": "spring", "kind": "spring", "fills": "tank", "timings": [{"volume_l": 100, "time_s": 60}]}
    told = analysis(**{"inflows.0": strong})
    leak = leak_of(told, told.design.outlets[0])
    assert leak is not None
    assert (leak.empty_s, leak.empties) == (None, False)
    assert leak.lost_m3 == pytest.approx(leak.flow_m3s * 43_200)


def test_a_leak_of_nothing_is_none() -> None:
    shut = analysis(**{"lines.0.shut": True})
    assert leak_of(shut, shut.design.outlets[0]) is None
    tap = analysis(**{"outlets.0": {"id": "valve", "place": "end", "kind": "open_end", "height_m": 0.6, "bore_mm": 20},
                      "requirements.0.refill_min": None})  # fmt: skip
    assert leak_of(tap, tap.design.outlets[0]) is None  # it is left open, and does not stick


def test_the_schools_and_the_finding_count_a_leak_alike() -> None:
    told = analysis()
    leak, own = leak_of(told, told.design.outlets[0]), schools(told, "valve")[1]
    assert leak is not None
    assert own.lost_m3 == pytest.approx(leak.lost_m3)
    assert own.empties_store is leak.empties


@pytest.mark.parametrize("hours", [1.0, 12.0, 24.0, 400.0])
def test_what_is_lost_goes_by_the_users_time_between_looks(hours: float) -> None:
    """The tank holds out for some hours: until then the flow runs on, afterwards only what its spring brings."""
    told = analysis(**{"site.look_every_h": hours, "outlets.0.valve.kv_m3h": 0.1})
    leak = leak_of(told, told.design.outlets[0])
    assert leak is not None
    assert leak.empty_s is not None
    runs_h = min(hours, leak.empty_s / 3600)
    comes = 10 / 600_000
    assert leak.lost_m3 == pytest.approx((leak.flow_m3s * runs_h + comes * (hours - runs_h)) * 3600, rel=1e-3)
    found = [finding for finding in judge(told) if finding.code == "leak-empties-store"]
    assert bool(found) == (leak.empty_s <= hours * 3600)


@pytest.mark.parametrize(("valve_over_m", "rest"), [(0.5, 10.9 - 0.6), (5.5, 10.9 - 5.6), (12.0, 0.0)])
def test_only_what_stands_over_the_outlet_drains_back(valve_over_m: float, rest: float) -> None:
    told = analysis(**{**PAST_A_TEE, "outlets.0.height_m": valve_over_m})
    found = drain_backs(told)
    litres = 0.2 * 3.14159265 / 4 * 27.2**2 * rest / 10.9  # 200 m of pipe that rise by 10.9 m
    assert sum(one.volume_m3 for one in found) * 1000 == pytest.approx(litres, rel=1e-3, abs=1e-6)
    for one in found:
        assert (one.filled.id, one.outlet.id, one.tee_leg.line.id) == ("upper", "valve", "rise")
        assert one.again_s == pytest.approx(one.volume_m3 / told.state.flow.line_flow_m3s("rise"))


@pytest.mark.parametrize(
    "changes",
    [
        {"lines.1.inline": [{"kind": "check_valve", "at_m": 150}]},
        {"vessels.2.outlet_m": 0.0},  # filled under its water: it gives back, and is meant to
        {"lines.1.shut": True},
    ],
)
def test_held_back_or_never_filled_nothing_drains(changes: dict[str, Any]) -> None:
    assert drain_backs(analysis(**{**PAST_A_TEE, **changes})) == []


def test_the_one_that_takes_it_all_is_named_with_what_comes_back_without_it() -> None:
    told = analysis(**LOW_AND_HIGH)
    (found,) = starved_outlets(told)
    assert (found.outlet.id, found.taker.id) == ("valve", "tap")
    assert found.together_m3s < 0.5 * found.enough_m3s <= found.enough_m3s <= found.without_m3s
    without = analysis(**{**LOW_AND_HIGH, "outlets.1.shut": True})
    assert found.without_m3s == pytest.approx(without.state.outlets["valve"].judged_flow_m3s, rel=1e-9)
    assert found.alone_m3s == pytest.approx(told.flows_alone_m3s["valve"])


def test_where_nothing_is_wanted_half_of_its_own_flow_is_enough() -> None:
    told = analysis(**{**LOW_AND_HIGH, "requirements.0.flow_lpm": None})
    (found,) = starved_outlets(told)
    assert found.enough_m3s == pytest.approx(0.5 * found.alone_m3s)


def test_of_necks_the_worst_is_told_whichever_way_the_line_is_drawn() -> None:
    forward = {"lines.0.fittings": [{"k": 1.4, "bore_mm": 8}, {"product": "elbow-90", "count": 2}],
               "lines.0.inline": [{"kind": "filter", "at_m": 100, "kv_m3h": 6}]}  # fmt: skip
    told = analysis(**forward)
    found = worst_neck(told, told.design.outlets[0])
    assert found is not None
    assert (found.part, found.at_m) == (("fittings", 0), 0.0)
    flow, area = told.state.flow.line_flow_m3s("line"), 3.14159265 / 4 * 0.008**2
    assert found.loss_m == pytest.approx(1.4 * (flow / area) ** 2 / 2 / 9.80665, rel=1e-6)
    filtered = analysis(**{**forward, "lines.0.inline.0.kv_m3h": 0.8})
    sieve = worst_neck(filtered, filtered.design.outlets[0])
    assert sieve is not None
    assert (sieve.part, sieve.at_m, plain(sieve.name)) == (("inline", 0), 100, "filter")


def test_a_short_thin_end_is_a_neck_and_a_long_one_is_the_pipe_that_was_chosen() -> None:
    def runs(thin_m: float) -> dict[str, Any]:
        return {"lines.0.product": None, "lines.0.runs": [
            {"product": "pe100-sdr13.6-32", "length_m": 210 - thin_m}, {"product": "hose-0.5", "length_m": thin_m}],
            "lines.0.inline": []}  # fmt: skip

    short, long = analysis(**runs(20.0)), analysis(**runs(22.0))
    found = worst_neck(short, short.design.outlets[0])
    assert found is not None
    assert (found.part, found.at_m, plain(found.name)) == (("runs", 1), 190.0, "13 mm of bore")
    assert worst_neck(long, long.design.outlets[0]) is None
