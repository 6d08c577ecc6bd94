"""JSON of `leadsman solve`: the steady state."""

from typing import Literal

from leadsman.core.analysis.section import Mark, line_section
from leadsman.core.base.errors import UnknownName
from leadsman.core.base.units import kpa_from_pa, lpm_from_m3s
from leadsman.core.base.wording import plain
from leadsman.core.report.base import Report, Words, words
from leadsman.core.steady.answer import LineAnswer, LineState, OpenToAir, OutletAnswer, OutletState, SteadyState

Friction = Literal["darcy", "hazen-williams"]


class LineReport(Report):
    flow_lpm: float
    velocity_ms: float
    loss_m: float
    state: LineState
    reason: str
    reason_words: Words
    reynolds: float
    hazen_williams_ratio: float | None


class NodeReport(Report):
    head_m: float | None
    pressure_kpa: float | None


class OpenToAirReport(Report):
    """The two answers where the running grade falls below the pipe, and which one judgements use.

    `at_m` is the distance along the line; pressure and `full_pipe_lpm` are null where the water would boil.
    """

    line: str
    at_m: float
    pressure_kpa: float | None
    full_pipe_lpm: float | None
    open_lpm: float
    used: Literal["full_pipe", "open_to_air"]


class OutletReport(Report):
    flow_lpm: float
    pressure_kpa: float | None
    head_m: float | None
    state: OutletState
    reason: str
    reason_words: Words
    below_atmospheric: OpenToAirReport | None = None


class SectionReport(Report):
    """The grade along one line, from its `from` end; heads and pressures null where no water gets to."""

    line: str
    points: list["LinePointReport"]


class LinePointReport(Report):
    at_m: float
    ground_m: float
    pipe_m: float
    head_m: float | None
    shut_head_m: float | None
    pressure_kpa: float | None
    shut_kpa: float | None
    velocity_ms: float
    mark: Mark | None


class RangeReport(Report):
    """One answer: likely, worst (least) and best (greatest) over what is uncertain."""

    likely: float
    worst: float
    best: float


class RangesReport(Report):
    """Ranges by part: outlets' flow and pressure, lines' flow, nodes' head."""

    outlets: dict[str, dict[Literal["flow_lpm", "pressure_kpa"], RangeReport]]
    lines: dict[str, dict[Literal["flow_lpm"], RangeReport]]
    nodes: dict[str, dict[Literal["head_m"], RangeReport]]


class SolveReport(Report):
    """JSON of `leadsman solve`."""

    converged: bool
    feasible: bool
    reason: str
    reason_words: Words
    friction: Friction
    lines: dict[str, LineReport]
    nodes: dict[str, NodeReport]
    outlets: dict[str, OutletReport]
    section: SectionReport | None = None
    ranges: RangesReport | None = None


def solve_report(state: SteadyState, friction: Friction = "darcy", section: str | None = None) -> SolveReport:
    """Return the steady state in the document's units, with the section of a line where one is named.

    Raises:
        UnknownName: no line is called so.
    """
    layout = state.layout
    nodes = {}
    for node_id, head_m in state.heads_m.items():
        datum_m = head_m if node_id in layout.vessels else layout.places[node_id].ground_m
        nodes[node_id] = NodeReport(head_m=head_m, pressure_kpa=_kpa(state, head_m, datum_m))
    if section is not None and section not in layout.lines:
        raise UnknownName("line", section, list(layout.lines))
    return SolveReport(
        converged=state.converged,
        feasible=state.feasible,
        reason=plain(state.why),
        reason_words=words(state.why),
        friction=friction,
        lines={line_id: _line(answer) for line_id, answer in state.lines.items()},
        nodes=nodes,
        outlets={
            outlet_id: _outlet(state, answer, layout.outlet_height_m(layout.outlets[outlet_id]))
            for outlet_id, answer in state.outlets.items()
        },
        section=_section(state, section) if section else None,
    )


def _section(state: SteadyState, line_id: str) -> SectionReport:
    return SectionReport(
        line=line_id,
        points=[
            LinePointReport(
                at_m=point.at_m,
                ground_m=point.ground_m,
                pipe_m=point.pipe_m,
                head_m=point.running_head_m,
                shut_head_m=point.shut_head_m,
                pressure_kpa=None if point.running_pa is None else kpa_from_pa(point.running_pa),
                shut_kpa=None if point.shut_pa is None else kpa_from_pa(point.shut_pa),
                velocity_ms=point.velocity_ms,
                mark=point.mark,
            )
            for point in line_section(state.model, line_id, state.flow, state.shut)
        ],
    )


def _line(answer: LineAnswer) -> LineReport:
    return LineReport(
        flow_lpm=lpm_from_m3s(answer.flow_m3s),
        velocity_ms=answer.velocity_ms,
        loss_m=answer.loss_m,
        state=answer.state,
        reason=plain(answer.reason),
        reason_words=words(answer.reason),
        reynolds=answer.reynolds,
        hazen_williams_ratio=answer.hazen_williams_ratio,
    )


def _outlet(state: SteadyState, answer: OutletAnswer, height_m: float) -> OutletReport:
    head_m = answer.head_m
    return OutletReport(
        flow_lpm=lpm_from_m3s(answer.flow_m3s),
        pressure_kpa=_kpa(state, head_m, height_m),
        head_m=head_m,
        state=answer.state,
        reason=plain(answer.reason),
        reason_words=words(answer.reason),
        below_atmospheric=_open_to_air(state, answer.below_atmospheric) if answer.below_atmospheric else None,
    )


def _open_to_air(state: SteadyState, below: OpenToAir) -> OpenToAirReport:
    return OpenToAirReport(
        line=below.line_id,
        at_m=below.at_m,
        pressure_kpa=_kpa(state, below.pressure_head_m, 0.0),
        full_pipe_lpm=None if below.full_pipe_m3s is None else lpm_from_m3s(below.full_pipe_m3s),
        open_lpm=lpm_from_m3s(below.open_m3s),
        used="open_to_air" if below.used_m3s == below.open_m3s else "full_pipe",
    )


def _kpa(state: SteadyState, head_m: float | None, height_m: float | None) -> float | None:
    """Return the pressure [kPa, gauge] under a head at a height; None where there is none."""
    pressure_pa = state.model.gauge_pressure_pa(head_m, height_m)
    return None if pressure_pa is None else kpa_from_pa(pressure_pa)
