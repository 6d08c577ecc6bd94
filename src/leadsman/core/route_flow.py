"""Flow down one route: the steady full-pipe flow, and the flow with a point open to air."""

from collections.abc import Callable
from dataclasses import dataclass

from leadsman.core.design import FixedOutlet, OutletBase
from leadsman.core.outlet import head_to_pass_m
from leadsman.core.route import Point, Route
from leadsman.core.units import head_m_from_pa, m3s_from_lpm
from leadsman.core.water import atmospheric_pressure_pa

ENERGY_WITHIN_M = 1e-9
ITERATIONS = 60
FIRST_GUESS_M3S = 1e-4
DISSOLVED_AIR_MARGIN_M = 1.0
SUCKS_BELOW_M = -1e-6


@dataclass(frozen=True)
class OpenToAir:
    """Where the grade falls below the pipe: the full-pipe flow, and the flow with that point open to air."""

    at_m: float
    pressure_head_m: float
    full_pipe_m3s: float | None
    open_m3s: float
    siphon: bool

    @property
    def used_m3s(self) -> float:
        """The flow [m3/s] that judgements go by."""
        if self.siphon and self.full_pipe_m3s is not None:
            return self.full_pipe_m3s
        return self.open_m3s


def steady_flow_m3s(
    route: Route,
    outlet: OutletBase,
    outlet_height_m: float,
    valve_opening: float,
    near_m3s: float | None = None,
) -> tuple[float, bool]:
    """Return the flow [m3/s] down a full pipe to an outlet, and whether Newton's method converged.

    The sum of losses rises with flow without a corner, so there is one answer; `near_m3s` is a guess at it.
    """
    available_m = route.surface_m - outlet_height_m
    density, bore_m = route.water.density_kgm3, route.last_bore_m
    if isinstance(outlet, FixedOutlet):
        return m3s_from_lpm(outlet.flow_lpm), True
    if available_m <= 0.0 or valve_opening <= 0.0:
        return 0.0, True

    def needed(flow: float) -> tuple[float, float]:
        (pipe, pipe_slope), (out, out_slope) = (
            route.loss_m(flow),
            head_to_pass_m(outlet, flow, valve_opening, bore_m, density),
        )
        return pipe + out, pipe_slope + out_slope

    return _flow_where(needed, available_m, near_m3s)


def flow_with_point_open_m3s(route: Route, point: Point) -> tuple[float, bool]:
    """Return the flow [m3/s] that reaches a point of the line where the water stands open to air."""
    available_m = route.surface_m - point.pipe_m
    if available_m <= 0.0:
        return 0.0, True
    return _flow_where(route.cut_at(point).loss_m, available_m)


def open_to_air(route: Route, flow_m3s: float, altitude_m: float) -> OpenToAir | None:
    """Return what happens where the running grade falls below the pipe, or None where it nowhere does.

    The point judged is the one that, opened to air, passes least. The full-pipe flow is withheld where
    the absolute pressure would be under vapour pressure plus 1 m of water for dissolved air.
    """
    below = [(point, head - point.pipe_m) for point, head in route.inner_points(flow_m3s)]
    sucking = [(point, head) for point, head in below if head < SUCKS_BELOW_M]
    if not sucking:
        return None
    least_pa = route.water.vapour_pressure_pa - atmospheric_pressure_pa(altitude_m)
    least_m = head_m_from_pa(least_pa, route.water.density_kgm3) + DISSOLVED_AIR_MARGIN_M
    flows = [(flow_with_point_open_m3s(route, point)[0], point, head) for point, head in sucking]
    open_m3s, point, head_m = min(flows, key=lambda entry: entry[0])
    boils = min(head for _, head in sucking) < least_m
    return OpenToAir(point.at_m, head_m, None if boils else flow_m3s, min(open_m3s, flow_m3s), route.siphon)


def _flow_where(
    needed: Callable[[float], tuple[float, float]], available_m: float, near_m3s: float | None = None
) -> tuple[float, bool]:
    """Return the flow at which the rising head `needed` equals what is available, and whether it was met.

    Doubles a flow until it is too much, then takes Newton's steps, halving the bracket instead where a
    step would leave it.
    """
    low, high = 0.0, 1.1 * near_m3s if near_m3s else FIRST_GUESS_M3S
    while needed(high)[0] < available_m:
        low, high = high, 2.0 * high
    flow = near_m3s if near_m3s is not None and low < near_m3s < high else high
    for _ in range(ITERATIONS):
        value, slope = needed(flow)
        gap = value - available_m
        if abs(gap) <= ENERGY_WITHIN_M:
            return flow, True
        low, high = (low, flow) if gap > 0.0 else (flow, high)
        step = flow - gap / slope
        flow = step if low < step < high else (low + high) / 2.0
    return flow, False
