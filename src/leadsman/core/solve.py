"""Steady flow of a design: what runs, what stands still, and why.

This version solves one vessel, one way, and one open outlet on it; everything else of the document
must be shut or stand still. A design beyond that is refused by name, never half answered.
"""

from collections.abc import Callable
from dataclasses import dataclass, field, replace
from enum import StrEnum

from leadsman.core.design import Design, FixedOutlet, FloatValveOutlet, OutletBase, label
from leadsman.core.layout import Layout
from leadsman.core.line import not_solved_yet
from leadsman.core.outlet import head_to_pass_m, least_head_m, opening
from leadsman.core.route import Point, Route
from leadsman.core.units import head_m_from_pa, m3s_from_lpm
from leadsman.core.water import Water, atmospheric_pressure_pa, water_at
from leadsman.core.wording import Quantity, Wording, say

ENERGY_WITHIN_M = 1e-9
ITERATIONS = 60
FIRST_GUESS_M3S = 1e-4
DISSOLVED_AIR_MARGIN_M = 1.0


class OutletState(StrEnum):
    """What an outlet does."""

    RUNNING = "running"
    DRY = "dry"
    SHUT = "shut"
    SHORT = "short"


class LineState(StrEnum):
    """What a line does."""

    RUNNING = "running"
    STILL = "still"
    SHUT = "shut"
    CUT_OFF = "cut_off"


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


@dataclass(frozen=True)
class OutletAnswer:
    """State of one outlet; heads on the datum [m]; None where it is cut off."""

    state: OutletState
    reason: Wording
    flow_m3s: float
    head_m: float | None
    static_head_m: float | None
    route: Route | None
    below_atmospheric: OpenToAir | None = None

    @property
    def judged_flow_m3s(self) -> float:
        """The flow [m3/s] that judgements go by: the smaller where the line sucks air."""
        return self.flow_m3s if self.below_atmospheric is None else self.below_atmospheric.used_m3s


@dataclass(frozen=True)
class LineAnswer:
    """State of one line: flow [m3/s] and loss [m] positive from `from` to `to`, greatest velocity [m/s]."""

    state: LineState
    flow_m3s: float = 0.0
    loss_m: float = 0.0
    velocity_ms: float = 0.0


@dataclass
class SteadyState:
    """The answer for the whole design; node heads [m on the datum] are None where cut off."""

    water: Water
    layout: Layout
    converged: bool = True
    feasible: bool = True
    heads_m: dict[str, float | None] = field(default_factory=dict)
    lines: dict[str, LineAnswer] = field(default_factory=dict)
    outlets: dict[str, OutletAnswer] = field(default_factory=dict)


def solve(design: Design, *, all_open: bool = False) -> SteadyState:
    """Return the steady state of a design.

    Args:
        all_open: every float valve that is not shut stands at x = 1.
    Stopping: energy balance of the route within 1e-9 m, or 60 Newton steps (then `converged` is False).
    Raises:
        DesignFaults: the design needs more than this version solves; names what and where.
        UnknownName: a product is not in the catalogue.
        OutOfRange: a pipe is rougher than its bore allows.
    """
    layout, water = Layout(design), water_at(design.site.water_c)
    state = SteadyState(water, layout)
    drawing = _drawing_outlets(design, layout, water, all_open)
    routes = {outlet.id: layout.route_to(layout.node_of_outlet[outlet.id], water) for outlet in drawing}
    for outlet in drawing:
        answer, converged = _run(outlet, routes[outlet.id], layout, design, all_open)
        state.outlets[outlet.id] = answer
        state.converged &= converged
        state.feasible &= answer.state is not OutletState.SHORT
    for outlet in design.outlets:
        if outlet.id not in state.outlets:
            state.outlets[outlet.id] = _still_outlet(outlet, layout, water, all_open)
    _fill_lines_and_heads(state, design)
    return state


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
    density, bore_m = route.water.density_kgm3, last_bore_m(route)
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


def last_bore_m(route: Route) -> float:
    """Return the bore [m] of the pipe that ends at the route's end."""
    return route.reaches[-1].pipe.bore_m if route.reaches else 1.0


def open_to_air(route: Route, flow_m3s: float, altitude_m: float) -> OpenToAir | None:
    """Return what happens where the running grade falls below the pipe, or None where it nowhere does.

    The point judged is the one that, opened to air, passes least. The full-pipe flow is withheld where
    the absolute pressure would be under vapour pressure plus 1 m of water for dissolved air.
    """
    below = [(point, head - point.pipe_m) for point, head in route.inner_points(flow_m3s)]
    sucking = [(point, head) for point, head in below if head < -1e-6]
    if not sucking:
        return None
    water = route.water
    floor_m = (
        head_m_from_pa(water.vapour_pressure_pa - atmospheric_pressure_pa(altitude_m), water.density_kgm3)
        + DISSOLVED_AIR_MARGIN_M
    )
    flows = [(flow_with_point_open_m3s(route, point)[0], point, head) for point, head in sucking]
    open_m3s, point, head_m = min(flows, key=lambda entry: entry[0])
    boils = min(head for _, head in sucking) < floor_m
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


def _drawing_outlets(design: Design, layout: Layout, water: Water, all_open: bool) -> list[OutletBase]:
    drawing: list[OutletBase] = []
    vessel_of: dict[str, str] = {}
    for index, outlet in enumerate(design.outlets):
        visit = layout.visits.get(layout.node_of_outlet[outlet.id])
        if visit is None or _why_still(outlet, layout, water, all_open) is not None:
            continue
        if visit.vessel_id in vessel_of:
            raise not_solved_yet(
                f"/outlets/{index}",
                f"{outlet.id!r} open beside {vessel_of[visit.vessel_id]!r}",
                "one open outlet at a time",
            )
        vessel_of[visit.vessel_id] = outlet.id
        drawing.append(outlet)
    for index, place in enumerate(design.places):
        if place.draw_lpm and place.id in layout.visits:
            raise not_solved_yet(f"/places/{index}/draw_lpm", f"{place.draw_lpm:g}", "no draw at a junction")
    return drawing


def _why_still(outlet: OutletBase, layout: Layout, water: Water, all_open: bool) -> tuple[OutletState, Wording] | None:
    """Return the state and reason of an outlet that cannot run, or None where it can."""
    filled = layout.vessels.get(outlet.fills or "")
    if outlet.shut:
        return OutletState.SHUT, say("shut by hand")
    if opening(outlet, filled, all_open) <= 0.0:
        return OutletState.SHUT, say("{} is full: its float has closed the valve", label(filled) if filled else "")
    visit = layout.visits.get(layout.node_of_outlet[outlet.id])
    if visit is None:
        return OutletState.DRY, say("cut off: no open line brings water from a tank")
    vessel = layout.vessels[visit.vessel_id]
    if vessel.level_m <= vessel.outlet_m:
        return OutletState.DRY, say("{} is down to its outlet and gives nothing", label(vessel))
    static_m = layout.surface_m(vessel) - layout.outlet_height_m(outlet)
    if static_m <= 0.0:
        return OutletState.DRY, say("it stands {} above the water that feeds it", Quantity(-static_m, "m"))
    least_m = least_head_m(outlet, water.density_kgm3)
    if isinstance(outlet, FloatValveOutlet) and static_m < least_m:
        return OutletState.SHUT, say(
            "its valve needs {} of head to open and gets {}", Quantity(least_m, "m"), Quantity(static_m, "m")
        )
    return None


def _run(outlet: OutletBase, route: Route, layout: Layout, design: Design, all_open: bool) -> tuple[OutletAnswer, bool]:
    height_m = layout.outlet_height_m(outlet)
    valve_opening = opening(outlet, layout.vessels.get(outlet.fills or ""), all_open)
    flow, converged = steady_flow_m3s(route, outlet, height_m, valve_opening)
    below = open_to_air(route, flow, design.site.altitude_m)
    if below is not None and below.full_pipe_m3s is None:
        flow = below.open_m3s
    head_m = route.surface_m - route.loss_m(flow)[0]
    state, reason = OutletState.RUNNING, say("open {} %", f"{100 * valve_opening:.0f}")
    least_m = least_head_m(outlet, route.water.density_kgm3)
    if isinstance(outlet, FixedOutlet) and head_m - height_m < least_m:
        state = OutletState.SHORT
        reason = say("needs {} of head and has {}", Quantity(least_m, "m"), Quantity(head_m - height_m, "m"))
    return OutletAnswer(state, reason, flow, head_m, route.surface_m, route, below), converged


def _still_outlet(outlet: OutletBase, layout: Layout, water: Water, all_open: bool) -> OutletAnswer:
    why = _why_still(outlet, layout, water, all_open)
    assert why is not None, "an outlet that can run has been solved"
    node = layout.node_of_outlet[outlet.id]
    route = layout.route_to(node, water) if node in layout.visits else None
    head_m = None  # set with the node heads
    return OutletAnswer(*why, 0.0, head_m, route.surface_m if route else None, route)


def _fill_lines_and_heads(state: SteadyState, design: Design) -> None:
    layout = state.layout
    flows: dict[str, tuple[Route, float]] = {}
    on_route: dict[str, float] = {}
    for answer in state.outlets.values():
        if answer.route is not None and answer.flow_m3s > 0.0:
            for index, node_id in enumerate(answer.route.node_ids):
                on_route[node_id] = answer.route.node_head_m(index, answer.flow_m3s)
            flows |= {line.id: (answer.route, answer.flow_m3s) for line in answer.route.lines}

    def head_m(node_id: str) -> float | None:
        while node_id not in on_route:
            visit = layout.visits.get(node_id)
            if visit is None:
                return None
            if visit.before is None:
                vessel = layout.vessels[visit.vessel_id]
                return layout.surface_m(vessel) if vessel.level_m > vessel.outlet_m else None
            node_id = visit.before
        return on_route[node_id]

    for node_id in layout.places:
        state.heads_m[node_id] = head_m(node_id)
    for vessel in design.vessels:
        state.heads_m[vessel.id] = layout.surface_m(vessel)
    for outlet_id, answer in state.outlets.items():
        if answer.flow_m3s == 0.0:
            state.outlets[outlet_id] = replace(answer, head_m=head_m(layout.node_of_outlet[outlet_id]))
    for line in design.lines:
        state.lines[line.id] = _line_answer(line.id, line.shut, flows, layout)


def _line_answer(line_id: str, shut: bool, flows: dict[str, tuple[Route, float]], layout: Layout) -> LineAnswer:
    if shut:
        return LineAnswer(LineState.SHUT)
    if line_id not in flows:
        reached = any(visit.line is not None and visit.line.id == line_id for visit in layout.visits.values())
        return LineAnswer(LineState.STILL if reached else LineState.CUT_OFF)
    route, flow = flows[line_id]
    leg = next(i for i, line in enumerate(route.lines) if line.id == line_id)
    sign = 1.0 if route.lines[leg].to == route.node_ids[leg + 1] else -1.0
    velocity = max(reach.pipe.velocity_ms(flow) for reach in route.reaches if reach.leg == leg)
    loss = route.node_head_m(leg, flow) - route.node_head_m(leg + 1, flow)
    return LineAnswer(LineState.RUNNING, sign * flow, sign * loss, sign * velocity)
