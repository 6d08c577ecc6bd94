"""What runs back out of a rising line when its feed stops and a trough on the way is drunk down."""

from collections.abc import Iterator
from dataclasses import dataclass

from leadsman.core.analysis.profile import PipeProfile
from leadsman.core.analysis.route import Leg, Route, feeds
from leadsman.core.analysis.running import Running
from leadsman.core.design import OutletBase, Vessel
from leadsman.core.steady.flow import Flow

STANDS_OVER_M = 0.1  # what lies less over the outlet is not counted; ours, no source


@dataclass(frozen=True, kw_only=True)
class DrainBack:
    """Water that runs back past a tee [m3], and how long the feed takes to fill that pipe again [s]; None: never.

    `filled` is what the upper line fills: a vessel over its top, or an outlet. `takes_all` tells that nothing comes up
    there while the lower outlet draws: it runs back each time, not only when the feed stops. `tee_leg` is the first
    line after the tee, on the way up.
    """

    filled: Vessel | OutletBase
    outlet: OutletBase
    takes_all: bool
    tee_leg: Leg
    volume_m3: float
    again_s: float | None


@dataclass(frozen=True, kw_only=True)
class _Riser:
    """A way to what may be filled past a tee, and the flow that runs up it."""

    filled: Vessel | OutletBase
    way: Route
    flow: Flow
    takes_all: bool


def drain_backs(running: Running) -> list[DrainBack]:
    """Return what runs back on every way that rises past a tee to what it fills over the top, no check valve after it.

    A vessel that a line enters under its water is no such: it gives back what it holds, and is meant to. Nor is an
    outlet that runs beside the lower one, where no pump's stopping takes its feed away.
    """
    found: dict[str, DrainBack] = {}
    for riser in [*_risers_to_vessels(running), *_risers_to_outlets(running)]:
        for outlet in running.fed_outlets:
            back = _past_tee(running, riser, outlet) if outlet.id != riser.filled.id else None
            known = found.get(riser.filled.id)
            if back and back.volume_m3 > (known.volume_m3 if known else 0.0):
                found[riser.filled.id] = back
    return list(found.values())


def _risers_to_vessels(running: Running) -> Iterator[_Riser]:
    """Yield the ways on which lines fill vessels over their top: with all drawing, else once all else is shut."""
    vessels, seen = running.model.layout.vessels, set()
    for flow, takes_all in ((running.state.flow, False), (running.state.shut, True)):
        for way in running.feeds if not takes_all else feeds(flow):
            if way.end not in seen and not running.model.loader.gives(way.end, running.standing):
                yield _Riser(filled=vessels[way.end], way=way, flow=flow, takes_all=takes_all)
            seen.add(way.end)


def _risers_to_outlets(running: Running) -> Iterator[_Riser]:
    """Yield the ways to outlets that fill a vessel and get nothing while all draw, or whose feed is a pump."""
    for outlet in running.fed_outlets:
        way = running.routes[outlet.id]
        if way is None or outlet.fills is None:
            continue
        alone = running.state_of(outlet, together=False).flow
        starved = running.state.flow.outlet_flow_m3s(outlet.id) <= 0.0 < alone.outlet_flow_m3s(outlet.id)
        if starved or any(leg.line.pump for leg in way.legs):
            yield _Riser(filled=outlet, way=way, flow=alone, takes_all=starved)


def _past_tee(running: Running, riser: _Riser, outlet: OutletBase) -> DrainBack | None:
    route, node = running.routes[outlet.id], running.model.layout.node_of_outlet[outlet.id]
    own = {leg.line.id for leg in route.legs} if route else set()
    shared = [leg for leg in riser.way.legs if leg.line.id in own]
    tee = shared[-1].end_m if shared else 0.0
    after = [leg for leg in riser.way.legs if leg.start_m >= tee]
    on_way = bool(shared) and bool(after) and (len(own) > len(shared) or node == _end(shared[-1]))
    if not on_way or any(part.kind == "check_valve" for leg in after for part in leg.line.inline):
        return None
    height = running.model.layout.outlet_height_m(outlet)
    volume = PipeProfile(running.model, riser.way).volume_over_m3(tee, riser.way.length_m, height + STANDS_OVER_M)
    through = abs(riser.flow.line_flow_m3s(after[0].line.id))
    return DrainBack(
        filled=riser.filled,
        outlet=outlet,
        takes_all=riser.takes_all,
        tee_leg=after[0],
        volume_m3=volume,
        again_s=volume / through if through > 0.0 else None,
    )


def _end(leg: Leg) -> str:
    return leg.line.to if leg.forward else leg.line.from_
