"""Where the fall goes: from the source's water down to an outlet, while it takes the flow that is wanted."""

from dataclasses import dataclass

from leadsman.core.design import FixedOutlet, OutletBase
from leadsman.core.outlet import least_head_m, outlet_law
from leadsman.core.route import Route
from leadsman.core.steady import Flow


@dataclass(frozen=True)
class Sounding:
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


def sounding(flow: Flow, route: Route, outlet: OutletBase, flow_m3s: float) -> Sounding | None:
    """Return the sounding of an outlet in a case in which it takes a flow [m3/s], above 0; None where cut off."""
    model = flow.model
    head_m = flow.outlet_head_m(outlet.id)
    if head_m is None:
        return None
    pipe_m = fitting_m = 0.0
    for leg in route.legs:
        pipe, fitting = flow.line_losses_m[leg.line.id]
        pipe_m += pipe if leg.forward else -pipe
        fitting_m += fitting if leg.forward else -fitting
    node = model.layout.node_of_outlet[outlet.id]
    law = outlet_law(outlet, model.plumbing.bores.get(node, 1.0), model.water.density_kgm3)
    works_from_m = least_head_m(outlet, model.water.density_kgm3) if isinstance(outlet, FixedOutlet) else 0.0
    return Sounding(
        flow_m3s=flow_m3s,
        surface_m=head_m + pipe_m + fitting_m,
        outlet_m=model.layout.outlet_height_m(outlet),
        pipe_loss_m=pipe_m,
        fitting_loss_m=fitting_m,
        valve_needs_m=max(law.head_m(flow_m3s), works_from_m),
        least_over_pipe_m=None if route.siphon else _least_over_pipe_m(flow, route),
    )


def _least_over_pipe_m(flow: Flow, route: Route) -> float | None:
    """Return the least height [m] of the grade over the pipe between the ends of a route; None without a point."""
    inner = [flow.least_over_pipe_m[leg.line.id] for leg in route.legs[1:-1]]
    for leg in {id(leg): leg for leg in (route.legs[0], route.legs[-1])}.values():
        for number in flow.model.along.of_line[leg.line.id]:
            at_m = leg.at_m(flow.model.along.points[number].at_m)
            if 0.0 < at_m < route.length_m:
                inner.append(float(flow.over_pipe_m[number]))
    return min(inner, default=None)
