"""Lines in a frost: which freeze first, what keeps them open, by hand and by other ways of working it out."""

import math
from typing import Any

import numpy as np
import pytest
from scipy.integrate import solve_ivp

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.fault import DesignFaults
from leadsman.core.base.wording import plain
from leadsman.core.findings.registry import judge
from leadsman.core.winter.bleed import LEAST_C, run_together
from leadsman.core.winter.line_frost import LineFrost
from leadsman.core.winter.winter import Winter, winter
from systems import farm, judged, line

FROST = {"from": "2031-12-01", "to": "2031-12-10", "air_c": -10.0, "wind_mps": 5.0, "water_c": 6.0}


def in_frost(lines: list[dict[str, Any]], frost: dict[str, Any] | None = None, **changes: Any) -> Winter:
    troughs = {"x": 100.0, "y": 100.0}
    ends = {end for one in lines for end in (one["from"], one["to"])}
    document = farm(lines, {"a": 120.0}, {id_: h for id_, h in troughs.items() if id_ in ends})
    if "at-j" in ends:
        document["places"].append({"id": "at-j", "east_m": 10, "north_m": 10, "ground_m": 110.0})
    document |= {"frost": {**FROST, **(frost or {})}, **changes}
    found = winter(judged(document))
    assert found is not None
    return found


def only(found: Winter) -> LineFrost:
    (own,) = found.lines
    return own


def test_no_frost_no_winter() -> None:
    assert winter(judged(farm([line("ax", "a", "x")], {"a": 120.0}, {"x": 100.0}))) is None


def test_a_bare_line_on_the_ground_freezes_within_hours() -> None:
    """A 27.2 mm bore of 32 mm in 5 m/s at 10 below: 327 s to 0 °C from 6, about an hour and a half to ice."""
    own = only(in_frost([line("ax", "a", "x")]))
    assert own.cold_s == pytest.approx(327.0, rel=0.05)
    assert own.frozen_s == pytest.approx(1.6 * 3600, rel=0.08)
    lagged = only(in_frost([line("ax", "a", "x", lagging_mm=19.0)]))
    assert lagged.cold_s == pytest.approx(1.11 * 3600, rel=0.05)


@pytest.mark.parametrize(
    ("cover_m", "depth_m", "freezes"),
    [(0.6, 0.5, False), (0.5, 0.5, False), (0.45, 0.5, True), (0.0, 0.0, True), (0.3, 0.0, False)],
)
def test_below_the_frost_it_stays_open_and_a_hand_higher_it_does_not(
    cover_m: float, depth_m: float, freezes: bool
) -> None:
    ends = [line("ax", "a", "at-j", cover_m=cover_m)]
    assert only(in_frost(ends, {"depth_m": depth_m})).freezes is freezes


def test_what_is_buried_comes_out_of_the_ground_at_its_valve_and_freezes_there_first() -> None:
    own = only(in_frost([line("ax", "a", "x", cover_m=1.2)], {"depth_m": 0.8}))
    assert own.riser == "x"
    assert own.cold_s < 3600
    assert own.loss_wk < only(in_frost([line("ax", "a", "x")])).loss_wk / 50


def test_frost_takes_as_long_to_a_pipe_as_the_ground_lets_it() -> None:
    shallow = only(in_frost([line("ax", "a", "at-j", cover_m=0.2)], {"depth_m": 0.8}))
    deeper = only(in_frost([line("ax", "a", "at-j", cover_m=0.4)], {"depth_m": 0.8}))
    assert shallow.cold_s == pytest.approx(10 * 86_400 * (0.2 / 0.8) ** 2)
    assert deeper.cold_s == pytest.approx(4 * shallow.cold_s)


def arrives_c(losses: list[float], flows: list[float], air_c: float, warm_c: float) -> float:
    """Return how warm water arrives after stretches of one metre's loss times length [W/K], by its heat balance."""
    for loss, flow in zip(losses, flows, strict=True):

        def cools(_: float, warm: np.ndarray, loss: float = loss, flow: float = flow) -> np.ndarray:
            return -loss * (warm - air_c) / (4.2e6 * flow)

        warm_c = float(solve_ivp(cools, (0.0, 1.0), [warm_c], rtol=1e-9, atol=1e-9).y[0, -1])
    return warm_c


def _through(loss: float, flow: float, warm_c: float) -> float:
    return -10.0 + (warm_c + 10.0) * math.exp(-loss / (4.2e6 * flow))


BRANCHED = [
    line("main", "a", "at-j", length_m=120.0, lagging_mm=13.0),
    line("left", "at-j", "x", length_m=60.0, lagging_mm=13.0),
    line("right", "at-j", "y", length_m=200.0, lagging_mm=13.0),
]


def test_what_is_bled_keeps_every_end_open_and_is_near_the_least_there_is() -> None:
    found = in_frost(BRANCHED)
    loss = {own.line.id: own.loss_wk for own in found.lines}
    flows = {one.outlet.id: one.least_m3s or 0.0 for one in found.bleeds}

    def ends(left: float, right: float) -> tuple[float, float]:
        return (
            arrives_c([loss["main"], loss["left"]], [left + right, left], -10.0, 6.0),
            arrives_c([loss["main"], loss["right"]], [left + right, right], -10.0, 6.0),
        )

    assert min(ends(flows["x"], flows["y"])) >= LEAST_C - 1e-3
    alone = [in_frost([BRANCHED[0], BRANCHED[number]]) for number in (1, 2)]
    by_itself = [one.bleeds[0].least_m3s or 0.0 for one in alone]
    assert flows["x"] < by_itself[0]
    assert flows["y"] < by_itself[1]
    least = min(
        left + right
        for left in np.linspace(0.4, 1.0, 90) * by_itself[0]
        for right in np.linspace(0.4, 1.0, 90) * by_itself[1]
        if min(
            _through(loss["left"], left, _through(loss["main"], left + right, 6.0)),
            _through(loss["right"], right, _through(loss["main"], left + right, 6.0)),
        )
        >= LEAST_C
    )
    assert least * 0.98 <= flows["x"] + flows["y"] <= 1.03 * least


@pytest.mark.parametrize("bore_mm", [10.0, 13.0, 16.0])
def test_more_foam_on_a_fork_never_takes_more_water_and_none_of_it_is_too_much(bore_mm: float) -> None:
    def least(foam_mm: float) -> tuple[float, Winter]:
        ends = [line(end, "at-j", to, length_m=30.0, lagging_mm=foam_mm) for end, to in (("left", "x"), ("right", "y"))]
        main = line("main", "a", "at-j", length_m=400.0, bore_mm=bore_mm, lagging_mm=foam_mm)
        found = in_frost([main, *ends])
        return sum(one.least_m3s or 0.0 for one in found.bleeds), found

    needed = [least(foam_mm)[0] for foam_mm in (5.0, 15.0, 25.0, 38.0, 40.0, 42.0, 60.0)]
    assert needed == sorted(needed, reverse=True)
    flow, found = least(40.0)
    loss = {one.line.id: one.loss_wk for one in found.lines}
    for share, warm in ((1.0, True), (0.995, False)):
        runs = share * flow
        comes_c = arrives_c([loss["main"], loss["left"]], [runs, runs / 2.0], -10.0, 6.0)
        assert (comes_c >= LEAST_C - 1e-3) is warm


def test_two_valves_at_one_end_share_what_keeps_it_open_and_one_on_the_way_needs_none() -> None:
    document = farm([line("ax", "a", "at-j"), line("jx", "at-j", "x")], {"a": 120.0}, {"x": 100.0})
    document["places"].append({"id": "at-j", "east_m": 10, "north_m": 10, "ground_m": 110.0})
    valve = document["outlets"][0]
    document["outlets"] += [{**valve, "id": "x2", "place": "at-j"}, {**valve, "id": "x3", "place": "at-j"}]
    document["frost"] = FROST
    found = winter(judged(document))
    assert found is not None
    flows = {one.outlet.id: one.least_m3s or 0.0 for one in found.bleeds}
    assert flows["x2"] == flows["x3"] == pytest.approx(0.0, abs=1e-9)
    alone = in_frost([line("ax", "a", "at-j"), line("jx", "at-j", "x")])
    assert flows["x"] == pytest.approx(alone.bleeds[0].least_m3s)


def test_what_runs_by_the_plan_arrives_as_warm_as_its_balance_says_and_below_zero_it_freezes() -> None:
    asked = [{"outlet": "x", "flow_lpm": 0.9}, {"outlet": "y", "flow_lpm": 0.4}]
    found = in_frost(BRANCHED, {"bleeds": asked})
    loss = {own.line.id: own.loss_wk for own in found.lines}
    left, right = 0.9e-3 / 60, 0.4e-3 / 60
    told = {one.outlet.id: one.asked_c or 0.0 for one in found.bleeds}
    assert told["x"] == pytest.approx(
        arrives_c([loss["main"], loss["left"]], [left + right, left], -10.0, 6.0), abs=1e-4
    )
    assert told["y"] == pytest.approx(
        arrives_c([loss["main"], loss["right"]], [left + right, right], -10.0, 6.0), abs=1e-4
    )
    assert told["y"] < told["x"] < 0.0
    (source,) = found.sources
    assert source.by_plan
    assert source.bled_m3 == pytest.approx(1.3e-3 * 1440)


@pytest.mark.parametrize(("bore_mm", "runs"), [(4.0, False), (12.0, True)])
def test_a_tube_that_passes_less_than_keeps_it_open_is_not_left_running(bore_mm: float, runs: bool) -> None:
    """A thin tube loses nearly as much heat as a wider one and passes a hundredth: by hand from its flow alone."""
    document = farm([line("ax", "a", "x", bore_mm=bore_mm)], {"a": 120.0}, {"x": 100.0})
    document["frost"] = {**FROST, "bleeds": [{"outlet": "x", "flow_lpm": 900.0}]}
    analysis = judged(document)
    found = winter(analysis)
    assert found is not None
    (bled,) = found.bleeds
    passes = analysis.flows_alone_m3s["x"]
    assert bled.asked_m3s == bled.passes_m3s == passes  # no more than that comes out, whatever is asked for
    assert bled.is_too_much is not runs
    assert bled.asked_c == pytest.approx(_through(found.lines[0].loss_wk, passes, 6.0))
    assert bled.asked_c is not None
    assert (bled.asked_c >= LEAST_C) is runs
    del document["frost"]["bleeds"]
    (frozen,) = [one for one in judge(judged(document)) if one.code == "line-freezes"]
    offered = [plain(remedy.text) for remedy in frozen.try_remedies()]
    assert any("left running" in text for text in offered) is runs


@pytest.mark.parametrize(("share", "at_once"), [(0.3, True), (0.48, True), (0.6, False), (0.95, False)])
def test_what_two_outlets_are_left_running_is_no_more_than_their_main_passes(share: float, at_once: bool) -> None:
    """A long thin main and two short ends alike: each alone gets what the main passes, both together half of it."""
    lines = [line("main", "a", "at-j", length_m=400.0, bore_mm=10.0),
             line("left", "at-j", "x", length_m=2.0), line("right", "at-j", "y", length_m=2.0)]  # fmt: skip
    document = farm(lines, {"a": 120.0}, {"x": 100.0, "y": 100.0})
    document["places"].append({"id": "at-j", "east_m": 10, "north_m": 10, "ground_m": 100.0})
    alone = judged(document).flows_alone_m3s["x"]
    each_lpm = share * alone * 60_000.0
    document["frost"] = {**FROST, "bleeds": [{"outlet": end, "flow_lpm": each_lpm} for end in ("x", "y")]}
    analysis = judged(document)
    assert run_together(analysis, {"x": share * alone, "y": share * alone}) is at_once
    found = winter(analysis)
    assert found is not None
    half = analysis.state.outlets["x"].judged_flow_m3s
    assert half == pytest.approx(alone / 2.0, rel=0.02)
    for one in found.bleeds:
        assert one.asked_m3s == pytest.approx(share * alone if at_once else half, rel=1e-3)
    main = next(one.loss_wk for one in found.lines if one.line.id == "main")
    ends = next(one.loss_wk for one in found.lines if one.line.id == "left")
    runs = found.bleeds[0].asked_m3s
    assert found.bleeds[0].asked_c == pytest.approx(arrives_c([main, ends], [2 * runs, runs], -10.0, 6.0), abs=1e-3)


def test_a_source_as_cold_as_ice_keeps_nothing_open() -> None:
    found = in_frost([line("ax", "a", "x")], {"water_c": 0.2})
    assert [one.least_m3s for one in found.bleeds] == [None]
    assert [one.bled_m3 for one in found.sources] == [None]


@pytest.mark.parametrize("foam_mm", [0.0, 10.0, 30.0])
@pytest.mark.parametrize("air_c", [-1.0, -8.0, -25.0])
def test_colder_air_never_needs_less_and_foam_never_more(air_c: float, foam_mm: float) -> None:
    def least(air: float, foam: float) -> float:
        found = in_frost([line("ax", "a", "x", lagging_mm=foam)], {"air_c": air})
        return found.bleeds[0].least_m3s or 0.0

    assert least(air_c - 5.0, foam_mm) > least(air_c, foam_mm)
    assert least(air_c, foam_mm + 10.0) < least(air_c, foam_mm)


@pytest.mark.parametrize(
    ("change", "path"),
    [
        ({"to": None}, "/frost/to"),
        ({"from": None}, "/frost/from"),
        ({"to": "2031-11-30"}, "/frost/to"),
        ({"to": "2033-11-30"}, "/frost/to"),
        ({"soil": "gravel"}, "/frost/soil"),
        ({"air_c": 0.0}, "/frost/air_c"),
        ({"air_c": 3.0}, "/frost/air_c"),
        ({"wind_mps": -1.0}, "/frost/wind_mps"),
        ({"bleeds": [{"outlet": "gone", "flow_lpm": 1.0}]}, "/frost/bleeds/0/outlet"),
        ({"bleeds": [{"outlet": "x", "flow_lpm": 0.0}]}, "/frost/bleeds/0/flow_lpm"),
    ],
)
def test_a_frost_that_cannot_be_is_refused_by_name(change: dict[str, Any], path: str) -> None:
    document = farm([line("ax", "a", "x")], {"a": 120.0}, {"x": 100.0})
    document["frost"] = {key: value for key, value in {**FROST, **change}.items() if value is not None}
    with pytest.raises(DesignFaults) as refused:
        judged(document)
    assert path in [fault.path for fault in refused.value.faults]


def test_frosts_of_two_systems_are_their_own() -> None:
    document = farm([line("ax", "a", "x"), line("by", "b", "y", cover_m=2.0)])
    document["frost"] = FROST
    found = winter(Analysis(judged(document).document))
    assert found is not None
    assert [source.vessel.id for source in found.sources] == ["a", "b"]
    assert math.isinf(found.lines[1].reached_s)
    assert (found.sources[0].bled_m3 or 0.0) > 20 * (found.sources[1].bled_m3 or 0.0)


def test_a_line_that_runs_empty_does_not_freeze_if_it_falls_all_the_way() -> None:
    sagging = [[0, 120], [40, 104], [60, 106], [100, 100]]
    assert only(in_frost([line("ax", "a", "x")])).freezes
    assert not only(in_frost([line("ax", "a", "x", empties=True)])).freezes
    assert only(in_frost([line("ax", "a", "x", empties=True, points=sagging)])).freezes
