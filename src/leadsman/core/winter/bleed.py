"""Water that is left running so that lines stay open: how little is enough, and what it arrives with."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from leadsman.core.analysis.running import Running
from leadsman.core.analysis.sounding import ROUNDING_M, soundings
from leadsman.core.base.units import m3s_from_lpm
from leadsman.core.design import OutletBase
from leadsman.core.design.frost import Frost
from leadsman.core.design.outlet_law import FULLY_OPEN
from leadsman.core.physics.pipe_heat import least_flow_m3s, warmth_left_c
from leadsman.core.steady.solve import solve_cases
from leadsman.core.winter.line_frost import LineFrost, source_c

LEAST_C = 0.5  # what water is to have left at the end: what slush and gauges are good for; ours, no source
ROUNDS, HALVINGS = 60, 30
MOST_SHARED = 200  # outlets beyond which each has what it needs by itself
STILL_M3S, WITHIN_C = 1e-9, 1e-4


@dataclass(frozen=True, kw_only=True)
class LineBleed:
    """The flow at an outlet that keeps its whole way open [m3/s]; what was asked for, and what either arrives with.

    `least_m3s` is None where no flow does, because the source is too cold; 0 where nothing of the way freezes.
    `passes_m3s` is what comes out of it wide open by itself; `asked_m3s` is no more than that, nor than the lines pass
    with all that is left running.
    `asked_c` is how warm what runs by the plan arrives [°C], below 0 where it freezes on the way; None without any.
    """

    outlet: OutletBase
    least_m3s: float | None
    passes_m3s: float
    asked_m3s: float
    asked_c: float | None

    @property
    def is_too_much(self) -> bool:
        """Whether less comes out of it, wide open, than would keep its way open."""
        return self.least_m3s is not None and self.least_m3s > self.passes_m3s


def bleeds(running: Running, frost: Frost, frosts: Sequence[LineFrost]) -> list[LineBleed]:
    """Return what keeps the way to each outlet open, all bled together: shared pipe carries what all behind it take."""
    loss = {one.line.id: one.loss_wk for one in frosts}
    ways = {
        outlet.id: [(leg.line.id, loss[leg.line.id] * _share(leg.end_m - leg.start_m, leg.line.pipe_length_m))
                    for leg in route.legs]
        for outlet in running.fed_outlets
        if (route := running.routes[outlet.id]) is not None
    }  # fmt: skip
    warm_c = source_c(running, frost)
    least = _least(ways, warm_c, frost.air_c)
    passes = {outlet: running.flows_alone_m3s.get(outlet, 0.0) for outlet in ways}
    asked = _as_runs(
        running,
        {one.outlet: min(m3s_from_lpm(one.flow_lpm), passes[one.outlet])
         for one in frost.bleeds if passes.get(one.outlet)},
    )  # fmt: skip
    told = _arrives(ways, asked, warm_c, frost.air_c)
    return [
        LineBleed(
            outlet=outlet,
            least_m3s=least[outlet.id],
            passes_m3s=passes[outlet.id],
            asked_m3s=asked.get(outlet.id, 0.0),
            asked_c=told.get(outlet.id),
        )
        for outlet in running.fed_outlets
        if outlet.id in ways
    ]


def run_together(running: Running, flows_m3s: Mapping[str, float]) -> bool:
    """Return whether outlets give some flows all at once: whether the head left at each is what it needs for its own.

    Where there is no answer they do not.
    """
    outlets = [outlet for outlet in running.fed_outlets if flows_m3s.get(outlet.id, 0.0) > 0.0]
    if not outlets:
        return True
    open_ = running.standing.with_openings({outlet.id: FULLY_OPEN for outlet in outlets})
    drawn = {outlet.id: flows_m3s[outlet.id] for outlet in outlets}
    (flow,) = running.model.full_flows([replace(open_, draws_m3s=drawn)])
    if not flow.converged or not running.state.converged:
        return False
    found = soundings(running.state.flow.ways, flow, outlets, list(drawn.values()))
    return all(one.margin_m >= -ROUNDING_M for one in found.values())


def _as_runs(running: Running, asked: Mapping[str, float]) -> dict[str, float]:
    """Return what runs of the flows that are asked for [m3/s]: all of it where it comes at once.

    Else no more of each than comes while the others stand wide open: the least that it may be.
    """
    if run_together(running, asked):
        return dict(asked)
    case = running.standing.with_openings(dict.fromkeys(asked, FULLY_OPEN))
    told = solve_cases(running.model, {"open": case})["open"]
    return {outlet: min(flow, told.outlets[outlet].judged_flow_m3s) for outlet, flow in asked.items()}


Ways = Mapping[str, list[tuple[str, float]]]


def _share(part_m: float, whole_m: float) -> float:
    return part_m / whole_m if whole_m > 0.0 else 1.0


def _least(ways: Ways, warm_c: float, air_c: float) -> dict[str, float | None]:
    """Return a flow for each outlet with which water arrives everywhere with `LEAST_C` and no more."""
    if warm_c <= LEAST_C:
        return {outlet: 0.0 if _loss(way) == 0.0 else None for outlet, way in ways.items()}
    alike: dict[tuple[tuple[str, float], ...], list[str]] = {}
    for outlet, way in ways.items():
        alike.setdefault(tuple(way), []).append(outlet)
    if len(alike) < len(ways):  # at one end of pipe they share what is needed there
        shared = _least({outlets[0]: list(way) for way, outlets in alike.items()}, warm_c, air_c)
        return {one: (shared[outlets[0]] or 0.0) / len(outlets) for outlets in alike.values() for one in outlets}
    flows = {outlet: least_flow_m3s(warm_c, air_c, _loss(way), LEAST_C) for outlet, way in ways.items()}
    users = _users(ways)
    for _ in range(ROUNDS if len(ways) <= MOST_SHARED else 0):
        carried, needed = _by_line(ways, flows), {}
        for outlet, way in ways.items():
            comes_c = _after([(line, loss) for line, loss in way if users[line] > 1], carried, warm_c, air_c)
            own = sum(loss for line, loss in way if users[line] == 1)
            needed[outlet] = least_flow_m3s(comes_c, air_c, own, LEAST_C) if comes_c > LEAST_C else 2.0 * flows[outlet]
        # half of the way there, for shared pipe cools more as soon as less runs in it
        flows = {outlet: 0.5 * (flows[outlet] + needed[outlet]) for outlet in ways}
    more = _times_open(ways, flows, warm_c, air_c)
    return {outlet: more * flow if _loss(ways[outlet]) > 0.0 else 0.0 for outlet, flow in flows.items()}


def _times_open(ways: Ways, flows: Mapping[str, float], warm_c: float, air_c: float) -> float:
    """Return the least factor on all flows with which every way stays open."""
    low, high = 0.0, 1.0
    while not _all_open(ways, {outlet: high * flow for outlet, flow in flows.items()}, warm_c, air_c):
        low, high = high, 2.0 * high
    for _ in range(HALVINGS):
        middle = 0.5 * (low + high)
        is_open = _all_open(ways, {outlet: middle * flow for outlet, flow in flows.items()}, warm_c, air_c)
        low, high = (low, middle) if is_open else (middle, high)
    return high


def _loss(way: list[tuple[str, float]]) -> float:
    return sum(loss for _, loss in way)


def _users(ways: Ways) -> dict[str, int]:
    found: dict[str, int] = {}
    for way in ways.values():
        for line, _ in way:
            found[line] = found.get(line, 0) + 1
    return found


def _by_line(ways: Ways, flows: Mapping[str, float]) -> dict[str, float]:
    """Return what runs in each line [m3/s]."""
    found: dict[str, float] = {}
    for outlet, flow in flows.items():
        for line, _ in ways[outlet]:
            found[line] = found.get(line, 0.0) + flow
    return found


def _after(way: Sequence[tuple[str, float]], carried: Mapping[str, float], warm_c: float, air_c: float) -> float:
    """Return how warm water is after some lines [°C]."""
    for line, loss in way:
        flow = carried.get(line, 0.0)
        warm_c = warmth_left_c(warm_c, air_c, loss, flow) if flow > STILL_M3S else (warm_c if loss == 0.0 else air_c)
    return warm_c


def _all_open(ways: Ways, flows: Mapping[str, float], warm_c: float, air_c: float) -> bool:
    carried = _by_line(ways, flows)
    return all(_after(way, carried, warm_c, air_c) >= LEAST_C - WITHIN_C for way in ways.values() if _loss(way) > 0.0)


def _arrives(ways: Ways, asked: Mapping[str, float], warm_c: float, air_c: float) -> dict[str, float]:
    """Return how warm what runs arrives at each outlet where some does [°C]."""
    carried = _by_line(ways, asked)
    return {outlet: _after(ways[outlet], carried, warm_c, air_c) for outlet, flow in asked.items() if flow > STILL_M3S}
