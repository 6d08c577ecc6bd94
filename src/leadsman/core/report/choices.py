"""JSON of choices laid side by side: the pipes of a line, the valves of an outlet."""

from typing import Any

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.choices import pipe_choices, valve_choices
from leadsman.core.base.errors import UnknownName
from leadsman.core.base.fault import DesignFaults, Fault
from leadsman.core.base.units import LITRE_M3, MILLIMETRE_M, MINUTE_S, kpa_from_pa, lpm_from_m3s
from leadsman.core.catalogue import FloatValveProduct, PipeProduct
from leadsman.core.design import FloatValveOutlet, OutletBase, label
from leadsman.core.findings.registry import judge
from leadsman.core.findings.remedies import other_valve
from leadsman.core.findings.verdict import tightest_outlet
from leadsman.core.report.base import Report


class PipeChoiceReport(Report):
    """A pipe that a line could be laid in; `limit_kpa` at the pipe's temperature."""

    product: PipeProduct
    bore_mm: float
    limit_kpa: float | None
    holds: bool | None
    price: float | None
    flows_lpm: list[float]


class OutletNowReport(Report):
    """What an outlet gets now, all drawing, and what is wanted of it."""

    id: str
    name: str
    flow_lpm: float
    wanted_lpm: float | None


class PipeChoicesReport(Report):
    """Pipes of about a line's size, and what the plan's tightest outlet, and the line's own, get with each."""

    line: str
    outlets: list[OutletNowReport]
    currency: str
    choices: list[PipeChoiceReport]


class ValveChoiceReport(Report):
    """A float valve at an outlet, by itself; `patch` puts it there."""

    product: FloatValveProduct
    opens: bool
    opens_surely: bool
    shuts: bool
    flow_lpm: float
    share: float | None
    fills_min: float | None
    lost_l: float | None
    empties_min: float | None
    price: float | None
    patch: list[dict[str, Any]]


class ValveChoicesReport(Report):
    """Float valves side by side at one outlet: what stands on them all shut, what the pipe passes by itself."""

    outlet: str
    shut_kpa: float | None
    pipe_lpm: float
    wanted_lpm: float | None
    currency: str
    choices: list[ValveChoiceReport]


def pipe_choices_report(analysis: Analysis, line_id: str, own: list[PipeProduct]) -> PipeChoicesReport:
    """Return the choices of pipe for a line.

    Raises:
        UnknownName: the design has no such line.
        DesignFaults: it has no outlet that runs.
    """
    lines = {line.id: line for line in analysis.design.lines}
    if line_id not in lines:
        raise UnknownName("line", line_id, list(lines), "/line")
    tightest = tightest_outlet(analysis, judge(analysis, at_rest=False))
    if tightest is None:
        allowed = "an outlet to which water comes: by what it gets the pipes are compared"
        raise DesignFaults(
            [Fault(path="/document/outlets", code="nothing_runs", found="none that runs", allowed=allowed)]
        )
    behind = [outlet for outlet, *_ in analysis.ways_over[line_id] if analysis.standing.openings[outlet.id] > 0.0]
    outlets = [tightest, *(other for other in behind[:1] if other is not tightest)]
    return PipeChoicesReport(
        line=line_id,
        outlets=[_now(analysis, outlet) for outlet in outlets],
        currency=analysis.design.site.currency,
        choices=[
            PipeChoiceReport(
                product=choice.product,
                bore_mm=round(choice.product.bore_m / MILLIMETRE_M, 3),
                limit_kpa=None if choice.limit_pa is None else kpa_from_pa(choice.limit_pa),
                holds=choice.holds,
                price=choice.price,
                flows_lpm=[lpm_from_m3s(flow) for flow in choice.flows_m3s],
            )
            for choice in pipe_choices(analysis, lines[line_id], outlets, own)
        ],
    )


def _now(analysis: Analysis, outlet: OutletBase) -> OutletNowReport:
    wanted = analysis.wanted_m3s(outlet)
    return OutletNowReport(
        id=outlet.id,
        name=label(outlet),
        flow_lpm=lpm_from_m3s(analysis.answer(outlet).judged_flow_m3s),
        wanted_lpm=None if wanted is None else lpm_from_m3s(wanted),
    )


def valve_choices_report(analysis: Analysis, outlet_id: str, own: list[FloatValveProduct]) -> ValveChoicesReport:
    """Return the choices of float valve at an outlet.

    Raises:
        UnknownName: the design has no such float valve.
    """
    valves = {fitted.id: fitted for fitted in analysis.design.outlets if isinstance(fitted, FloatValveOutlet)}
    if outlet_id not in valves:
        raise UnknownName("float valve", outlet_id, list(valves), "/outlet")
    outlet = valves[outlet_id]
    found, wanted = valve_choices(analysis, outlet, own), analysis.wanted_m3s(outlet)
    return ValveChoicesReport(
        outlet=outlet_id,
        shut_kpa=None if found.stands_pa is None else kpa_from_pa(found.stands_pa),
        pipe_lpm=lpm_from_m3s(found.pipe_m3s),
        wanted_lpm=None if wanted is None else lpm_from_m3s(wanted),
        currency=analysis.design.site.currency,
        choices=[
            ValveChoiceReport(
                product=choice.product,
                opens=choice.opens,
                opens_surely=choice.opens_surely,
                shuts=choice.shuts,
                flow_lpm=lpm_from_m3s(choice.flow_m3s),
                share=choice.share,
                fills_min=None if choice.fills_s is None else choice.fills_s / MINUTE_S,
                lost_l=None if choice.leak is None else choice.leak.lost_m3 / LITRE_M3,
                empties_min=None
                if choice.leak is None or choice.leak.empty_s is None
                else choice.leak.empty_s / MINUTE_S,
                price=choice.price,
                patch=other_valve(analysis, outlet, choice.product).patch,
            )
            for choice in found.choices
        ],
    )
