"""Steady flow of a design: what runs, what stands still, and why.

This version solves one vessel, one way, and one open outlet on it; everything else of the document
must be shut or stand still. A design beyond that is refused by name, never half answered.
"""

from dataclasses import dataclass, field, replace
from enum import StrEnum

from leadsman.core.design import Design, FixedOutlet, FloatValveOutlet, OutletBase, label
from leadsman.core.layout import Layout
from leadsman.core.line import not_solved_yet
from leadsman.core.outlet import least_head_m, opening
from leadsman.core.route import Route
from leadsman.core.route_flow import OpenToAir, open_to_air, steady_flow_m3s
from leadsman.core.water import Water, water_at
from leadsman.core.wording import Quantity, Wording, say


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
    if static_m <= 0.0 and not isinstance(outlet, FixedOutlet):  # a fixed draw takes its flow whatever the head
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
    return OutletAnswer(*why, 0.0, None, route.surface_m if route else None, route)  # its head comes with the nodes


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
