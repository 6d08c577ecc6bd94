"""JSON of `leadsman solve`: the steady state."""

from typing import Literal

from leadsman.core.report.base import Report
from leadsman.core.route_flow import OpenToAir
from leadsman.core.solve import LineAnswer, LineState, OutletAnswer, OutletState, SteadyState
from leadsman.core.units import kpa_from_pa, lpm_from_m3s, pa_from_head_m
from leadsman.core.wording import plain


class LineReport(Report):
    flow_lpm: float
    velocity_ms: float
    loss_m: float
    state: LineState


class NodeReport(Report):
    head_m: float | None
    pressure_kpa: float | None


class OpenToAirReport(Report):
    """The two answers where the running grade falls below the pipe, and which one judgements use."""

    at_m: float
    pressure_kpa: float
    full_pipe_lpm: float | None
    open_lpm: float
    used: Literal["full_pipe", "open_to_air"]


class OutletReport(Report):
    flow_lpm: float
    pressure_kpa: float | None
    head_m: float | None
    state: OutletState
    reason: str
    below_atmospheric: OpenToAirReport | None = None


class SolveReport(Report):
    """JSON of `leadsman solve`."""

    converged: bool
    feasible: bool
    friction: Literal["darcy"]
    lines: dict[str, LineReport]
    nodes: dict[str, NodeReport]
    outlets: dict[str, OutletReport]


def solve_report(state: SteadyState) -> SolveReport:
    """Return the steady state in the document's units."""
    layout, density = state.layout, state.water.density_kgm3
    nodes = {}
    for node_id, head_m in state.heads_m.items():
        datum_m = head_m if node_id in layout.vessels else layout.places[node_id].ground_m
        pressure = None if head_m is None or datum_m is None else kpa_from_pa(pa_from_head_m(head_m - datum_m, density))
        nodes[node_id] = NodeReport(head_m=head_m, pressure_kpa=pressure)
    return SolveReport(
        converged=state.converged,
        feasible=state.feasible,
        friction="darcy",
        lines={line_id: _line(answer) for line_id, answer in state.lines.items()},
        nodes=nodes,
        outlets={
            outlet_id: _outlet(answer, layout.outlet_height_m(layout.outlets[outlet_id]), density)
            for outlet_id, answer in state.outlets.items()
        },
    )


def _line(answer: LineAnswer) -> LineReport:
    return LineReport(
        flow_lpm=lpm_from_m3s(answer.flow_m3s), velocity_ms=answer.velocity_ms, loss_m=answer.loss_m, state=answer.state
    )


def _outlet(answer: OutletAnswer, height_m: float, density: float) -> OutletReport:
    head_m = answer.head_m
    return OutletReport(
        flow_lpm=lpm_from_m3s(answer.flow_m3s),
        pressure_kpa=None if head_m is None else kpa_from_pa(pa_from_head_m(head_m - height_m, density)),
        head_m=head_m,
        state=answer.state,
        reason=plain(answer.reason),
        below_atmospheric=_open_to_air(answer.below_atmospheric, density) if answer.below_atmospheric else None,
    )


def _open_to_air(below: OpenToAir, density: float) -> OpenToAirReport:
    return OpenToAirReport(
        at_m=below.at_m,
        pressure_kpa=kpa_from_pa(pa_from_head_m(below.pressure_head_m, density)),
        full_pipe_lpm=None if below.full_pipe_m3s is None else lpm_from_m3s(below.full_pipe_m3s),
        open_lpm=lpm_from_m3s(below.open_m3s),
        used="open_to_air" if below.used_m3s == below.open_m3s else "full_pipe",
    )
