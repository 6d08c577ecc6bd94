"""Where the fall goes: from the source's water down to an outlet, at one flow."""

from dataclasses import dataclass

from leadsman.core.design import OutletBase
from leadsman.core.outlet import FULLY_OPEN, head_to_pass_m
from leadsman.core.route import Route


@dataclass(frozen=True)
class Sounding:
    """Heads [m] at a flow [m3/s]: the whole fall, what pipe and fittings take, what the outlet needs.

    `least_over_pipe_m` is the least height of the grade over the pipe between its ends, negative where the
    line would suck; None where it has no point in between or is a declared siphon.

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


def sounding(route: Route, outlet: OutletBase, outlet_m: float, flow_m3s: float) -> Sounding:
    """Return the sounding of an outlet fully open at a flow [m3/s], above 0."""
    end, leg = route.length_m, len(route.lines) - 1
    over_pipe_m = [head_m - point.pipe_m for point, head_m in route.inner_points(flow_m3s)]
    return Sounding(
        flow_m3s=flow_m3s,
        surface_m=route.surface_m,
        outlet_m=outlet_m,
        pipe_loss_m=route.pipe_loss_to_m(end, flow_m3s),
        fitting_loss_m=route.fitting_loss_to_m(end, leg, flow_m3s),
        valve_needs_m=head_to_pass_m(outlet, flow_m3s, FULLY_OPEN, route.last_bore_m, route.water.density_kgm3)[0],
        least_over_pipe_m=None if route.siphon else min(over_pipe_m, default=None),
    )
