"""Where the fall goes: from the source's water down to an outlet, while it takes the flow that is wanted."""

import math
from typing import NamedTuple

from leadsman.core.analysis.route import Leg, Route
from leadsman.core.design import FixedOutlet, OutletBase
from leadsman.core.design.outlet_law import least_head_m
from leadsman.core.steady.flow import Flow


class Sounding(NamedTuple):
    """Heads [m] while an outlet takes a flow [m3/s]: what pipe and fittings take, and what the outlet needs.

    `surface_m` is the height from which the fall is counted: the source's water, with what pumps on the way add.
    `least_over_pipe_m` is the least height of the grade over the pipe between the route's ends, negative where
    the line would suck; None where it has no point in between or is a declared siphon.

    Source of the margin: head available at the wanted flow less (Q/Kv)² turned into metres.
    """

    flow_m3s: float
    surface_m: float
    outlet_m: float
    pipe_loss_m: float
    fitting_loss_m: float
    valve_needs_m: float
    least_over_pipe_m: float | None

    @property
    def left_m(self) -> float:
        """Head left above the outlet [m]; negative where the water does not get there at this flow."""
        return self.surface_m - self.outlet_m - self.pipe_loss_m - self.fitting_loss_m

    @property
    def margin_m(self) -> float:
        """Head left over what the outlet needs [m]; negative where it is short."""
        return self.left_m - self.valve_needs_m


class Losses(NamedTuple):
    """Heads lost along the legs of a way [m], and the least height of the grade over their pipe [m].

    `least_but_first_m` is of all legs but the first, `least_inner_m` of those between the first and the last,
    `least_last_m` of the last one's points without its far end, and `least_first_m` of the first one's without its
    beginning.
    """

    pipe_m: float
    fitting_m: float
    least_but_first_m: float
    least_inner_m: float
    least_last_m: float
    least_first_m: float


NOTHING = Losses(0.0, 0.0, math.inf, math.inf, math.inf, math.inf)


class LossesBefore:
    """What the ways of one solved case take, told by their last leg: ways that begin alike share their legs."""

    def __init__(self, flow: Flow) -> None:
        self.flow = flow
        self._of: dict[int, tuple[Leg, Losses]] = {}

    def __call__(self, legs: tuple[Leg, ...]) -> Losses:
        """Return what some legs take, from the first on."""
        known = len(legs)
        while known and id(legs[known - 1]) not in self._of:
            known -= 1
        lost = self._of[id(legs[known - 1])][1] if known else NOTHING
        for number in range(known, len(legs)):
            leg = legs[number]
            pipe, fitting = self.flow.line_losses_m[leg.line.id]
            sign, before = 1.0 if leg.forward else -1.0, lost.least_but_first_m
            least = self.flow.least_over_pipe_m[leg.line.id]
            but_begin, but_end = least.but_first_m, least.but_last_m
            if not leg.forward:
                but_begin, but_end = but_end, but_begin
            lost = Losses(
                lost.pipe_m + sign * pipe,
                lost.fitting_m + sign * fitting,
                min(before, least.all_m) if number else math.inf,
                before,
                but_end if number else least.inner_m,
                lost.least_first_m if number else but_begin,
            )
            self._of[id(leg)] = leg, lost
        return lost


def sounding(
    flow: Flow, route: Route, outlet: OutletBase, flow_m3s: float, losses: LossesBefore | None = None
) -> Sounding | None:
    """Return the sounding of an outlet in a case in which it takes a flow [m3/s], above 0; None where cut off.

    Args:
        losses: of the same case, where many outlets are sounded.
    """
    model = flow.model
    head_m = flow.outlet_head_m(outlet.id)
    if head_m is None:
        return None
    losses = losses or LossesBefore(flow)
    lost = losses(route.legs)
    pipe_m, fitting_m = lost.pipe_m, lost.fitting_m
    law = model.plumbing.law_of(outlet)
    works_from_m = least_head_m(outlet, model.water.density_kgm3) if isinstance(outlet, FixedOutlet) else 0.0
    return Sounding(
        flow_m3s=flow_m3s,
        surface_m=head_m + pipe_m + fitting_m,
        outlet_m=model.layout.outlet_height_m(outlet),
        pipe_loss_m=pipe_m,
        fitting_loss_m=fitting_m,
        valve_needs_m=max(law.head_m(flow_m3s), works_from_m),
        least_over_pipe_m=None if route.siphon else _least_over_pipe_m(lost, len(route.legs)),
    )


def _least_over_pipe_m(lost: Losses, legs: int) -> float | None:
    """Return the least height [m] of the grade over the pipe between the ends of a route; None without a point."""
    least = min(lost.least_inner_m, lost.least_last_m, lost.least_first_m if legs > 1 else math.inf)
    return least if least < math.inf else None
