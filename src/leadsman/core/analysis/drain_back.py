"""What runs back out of a rising line when its feed stops and a trough on the way is drunk down."""

from dataclasses import dataclass

from leadsman.core.analysis.profile import PipeProfile
from leadsman.core.analysis.route import Leg, Route
from leadsman.core.analysis.running import Running
from leadsman.core.design import OutletBase, Vessel

STANDS_OVER_M = 0.1  # what lies less over the outlet is not counted; ours, no source


@dataclass(frozen=True, kw_only=True)
class DrainBack:
    """Water that runs back past a tee [m3], and how long the feed takes to fill that pipe again [s]; None: never.

    `tee_leg` is the first line after the tee, on the way up.
    """

    vessel: Vessel
    outlet: OutletBase
    tee_leg: Leg
    volume_m3: float
    again_s: float | None


def drain_backs(running: Running) -> list[DrainBack]:
    """Return what runs back on every way that rises past a tee into the top of a vessel, no check valve after it.

    A vessel that a line enters under its water is no such: it gives back what it holds, and is meant to.
    """
    found: dict[str, DrainBack] = {}
    for feed in running.feeds:
        vessel = running.model.layout.vessels[feed.end]
        if running.model.loader.gives(vessel.id, running.standing):
            continue
        for outlet in running.fed_outlets:
            back = _past_tee(running, feed, vessel, outlet)
            if back and back.volume_m3 > (found[feed.end].volume_m3 if feed.end in found else 0.0):
                found[feed.end] = back
    return list(found.values())


def _past_tee(running: Running, feed: Route, vessel: Vessel, outlet: OutletBase) -> DrainBack | None:
    route, node = running.routes[outlet.id], running.model.layout.node_of_outlet[outlet.id]
    own = {leg.line.id for leg in route.legs} if route else set()
    shared = [leg for leg in feed.legs if leg.line.id in own]
    tee = shared[-1].end_m if shared else 0.0
    after = [leg for leg in feed.legs if leg.start_m >= tee]
    on_way = bool(shared) and bool(after) and (len(own) > len(shared) or node == _end(shared[-1]))
    if not on_way or any(part.kind == "check_valve" for leg in after for part in leg.line.inline):
        return None
    height = running.model.layout.outlet_height_m(outlet)
    volume = PipeProfile(running.model, feed).volume_over_m3(tee, feed.length_m, height + STANDS_OVER_M)
    through = abs(running.state.flow.line_flow_m3s(after[0].line.id))
    return DrainBack(
        vessel=vessel,
        outlet=outlet,
        tee_leg=after[0],
        volume_m3=volume,
        again_s=volume / through if through > 0.0 else None,
    )


def _end(leg: Leg) -> str:
    return leg.line.to if leg.forward else leg.line.from_
