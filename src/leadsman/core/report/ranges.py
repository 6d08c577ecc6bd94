"""Ranges in the document's units."""

from leadsman.core.analysis.ranges import Answer, Range, all_answers, ranges
from leadsman.core.base.units import kpa_from_pa, lpm_from_m3s, pa_from_head_m
from leadsman.core.report.steady import RangeReport, RangesReport
from leadsman.core.steady.answer import SteadyState


def ranges_report(state: SteadyState) -> RangesReport:
    """Return the range of every answer of a state: of the flows that judgements go by."""
    flow = state.solved.used
    found = ranges(flow, all_answers(flow)) if state.converged and flow.converged else {}
    report = RangesReport(outlets={}, lines={}, nodes={})
    for answer, range_ in found.items():
        match answer.kind:
            case "outlet_flow":
                report.outlets.setdefault(answer.part_id, {})["flow_lpm"] = range_in_lpm(range_)
            case "outlet_head":
                report.outlets.setdefault(answer.part_id, {})["pressure_kpa"] = _over_outlet(state, answer, range_)
            case "line_flow":
                report.lines[answer.part_id] = {"flow_lpm": range_in_lpm(range_)}
            case "node_head":
                report.nodes[answer.part_id] = {
                    "head_m": RangeReport(likely=range_.likely, worst=range_.worst, best=range_.best)
                }
    return report


def range_in_lpm(range_: Range) -> RangeReport:
    """Return the range of a flow in L/min."""
    return RangeReport(
        likely=lpm_from_m3s(range_.likely), worst=lpm_from_m3s(range_.worst), best=lpm_from_m3s(range_.best)
    )


def _over_outlet(state: SteadyState, answer: Answer, range_: Range) -> RangeReport:
    """Return the gauge pressure at an outlet, whose own height is part of what is uncertain."""
    height_m = state.layout.outlet_height_m(state.layout.outlets[answer.part_id])
    likely, worst, best = (
        kpa_from_pa(pa_from_head_m(head - height_m, state.water.density_kgm3))
        for head in (range_.likely, range_.worst, range_.best)
    )
    return RangeReport(likely=likely, worst=worst, best=best)
