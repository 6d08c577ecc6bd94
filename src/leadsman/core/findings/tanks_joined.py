"""Tanks that a line joins, one so high over the other that it empties over the other's overflow."""

from collections.abc import Iterator
from functools import partial

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.route import Leg, Route, feeds
from leadsman.core.base.units import lpm_from_m3s
from leadsman.core.base.wording import Quantity, say
from leadsman.core.design import HaulInflow, RainInflow, Vessel, label
from leadsman.core.design.fitted import part_document
from leadsman.core.findings.registry import Finding, Question, Remedy, Severity, judgement
from leadsman.core.findings.remedies import sold_part, that_end, with_parts

NEAR_END_M = 1.0
TRICKLE_LPM = 0.05  # less than this is what a joint may weep; ours, no source


@judgement("tank-empties-over", "A tank empties over the overflow of another", Question.HOW_LONG_DOES_IT_LAST)
def tank_empties_over(analysis: Analysis) -> Iterator[Finding]:
    """Yield each tank from which water runs into another that is full, all shut: it is lost over that one's overflow.

    Not where a spring or the like fills the higher one and nothing draws from it alone: what it cannot hold runs on by
    design. A watch where only the errors of the two places' heights could make it so.
    """
    flow = analysis.brimful
    found: dict[tuple[str, str], Route] = {}
    for route in feeds(flow) if flow else ():
        found.setdefault((route.vessel.id, route.end), route)
    for (high_id, low_id), route in found.items():
        high, low = (analysis.model.layout.vessels[vessel_id] for vessel_id in (high_id, low_id))
        last = route.legs[-1]
        runs_lpm = lpm_from_m3s(abs(flow.line_flow_m3s(last.line.id))) if flow else 0.0
        if (
            high_id == low_id
            or not low.gives_water
            or runs_lpm < TRICKLE_LPM
            or _runs_on_by_design(analysis, high, low)
        ):
            continue
        over_m = _brim_m(analysis, high) - _brim_m(analysis, low)
        doubt_m = sum(analysis.model.layout.places[vessel.place].height_error_m or 0.0 for vessel in (high, low))
        certain = over_m > doubt_m
        yield Finding(
            severity=Severity.FIX if certain else Severity.WATCH,
            where=high_id,
            value=runs_lpm,
            limit=0.0,
            unit="L/min",
            headline=say(
                "{} empties over the overflow of {}" if certain else "{} may empty over the overflow of {}",
                label(high),
                label(low),
            ),
            why=say(
                "Its overflow is {} higher, and an open line joins them: with everything shut and both full, {} "
                "overflow and are lost. Fill {} through a float valve, bring both to one height, or fit a check "
                "valve where water should only flow out of it.",
                Quantity(value=over_m, unit="m"),
                Quantity(value=runs_lpm, unit="L/min"),
                label(low),
            ),
            try_remedies=partial(_check_valve, analysis, high_id, last),
        )


def _brim_m(analysis: Analysis, vessel: Vessel) -> float:
    return analysis.model.layout.floor_m(vessel) + vessel.brim_m


def _runs_on_by_design(analysis: Analysis, high: Vessel, low: Vessel) -> bool:
    """Whether a steady source fills the higher one, and what draws from it draws from the lower one too."""
    own = [inflow for inflow in analysis.design.inflows if inflow.fills == high.id]
    steady = any(not isinstance(inflow, RainInflow | HaulInflow) for inflow in own)
    system = analysis.system_of(high.id)
    reached = system.down_to_m if system else {}
    return steady and set(reached.get(high.id, ())) <= set(reached.get(low.id, ()))


def _check_valve(analysis: Analysis, where: str, last: Leg) -> list[Remedy]:
    """Return a check valve where the lower tank is drawn from, which lets nothing back into it."""
    if last.forward:
        return []  # the line is drawn into the lower tank: it is meant to fill it
    bore_m = analysis.model.reaches_of_line(last.line.id)[0].bore_m
    product = sold_part("check_valve", bore_m)
    if product is None:
        return []
    at_m = min(NEAR_END_M, last.line.pipe_length_m / 2.0)
    added = [(last.line, part_document(product, at_m, bore_m))]
    candidate = with_parts(
        analysis,
        say("{} at {} along {}", product.spoken, Quantity(value=at_m, unit="m", digits=1), label(last.line)),
        added,
    )
    return that_end(analysis, [candidate], tank_empties_over, where, "then nothing runs back into it")
