"""An outlet that runs, but gives less than was asked of it."""

from collections.abc import Iterator
from functools import partial

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.sounding import Sounding
from leadsman.core.base.units import lpm_from_m3s
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import OutletBase, label
from leadsman.core.findings.registry import Finding, Question, Severity, judgement
from leadsman.core.findings.remedies import more_flow
from leadsman.core.findings.settling import is_settled, suction_causes, what_would_settle
from leadsman.core.steady.answer import OpenToAir, OutletState

HALF = 0.5


@judgement("flow-below-wanted", "Less than the wanted flow", Question.HOW_FAST)
def flow_below_wanted(analysis: Analysis) -> Iterator[Finding]:
    """Yield each running outlet whose judged flow is under the wanted flow; under half of it is a stop."""
    for outlet in analysis.fed_outlets:
        answer, wanted = analysis.answer(outlet), analysis.wanted_m3s(outlet)
        flow = answer.judged_flow_m3s
        if wanted is None or answer.state is not OutletState.RUNNING or not 0.0 < flow < wanted:
            continue
        at_wanted = analysis.sounding(outlet)
        if at_wanted is None:
            continue
        most = flow + _heights_move_m3s(analysis, outlet)
        found = analysis.flow_range(outlet)
        if most >= wanted and found is not None and found.best >= wanted:
            continue  # the heights decide, and `flow-uncertain` says so
        yield Finding(
            severity=Severity.WATCH if most >= wanted else Severity.STOP if most < HALF * wanted else Severity.FIX,
            where=outlet.id,
            value=lpm_from_m3s(flow),
            limit=lpm_from_m3s(wanted),
            unit="L/min",
            headline=say(
                "{} gets {} of the {} wanted",
                label(outlet),
                Quantity(value=lpm_from_m3s(flow), unit="L/min"),
                Quantity(value=lpm_from_m3s(wanted), unit="L/min"),
            ),
            why=_at_the_high_point(analysis, answer.below_atmospheric) or _where_the_fall_goes(at_wanted),
            try_remedies=partial(more_flow, analysis, outlet),
        )


def _heights_move_m3s(analysis: Analysis, outlet: OutletBase) -> float:
    """Return by how much more an outlet may give [m3/s], were every height at the better end of its error."""
    found, answer = analysis.flow_range(outlet), analysis.answer(outlet)
    if found is None:
        return 0.0
    more = sum(cause.effect for cause in found.causes if cause.kind == "place_rise_m")
    below = answer.below_atmospheric
    if below is not None and not is_settled(below.pressure_head_m, suction_causes(analysis, below)):
        more += answer.flow_m3s - answer.judged_flow_m3s  # whether the line suction at all is open
    return more


def _at_the_high_point(analysis: Analysis, below: OpenToAir | None) -> Wording | None:
    """Where a high point decides the flow, more fall at the outlet would not help: say what does."""
    if below is None or below.used_m3s != below.open_m3s:
        return None
    return (
        *say(
            "The high point at {} along {} draws air in, and only what gets over it arrives. Bury it {} lower, or "
            "lose less pressure before it. ",
            Quantity(value=below.at_m, unit="m", digits=0),
            label(analysis.model.layout.lines[below.line_id]),
            Quantity(value=-below.pressure_head_m, unit="m"),
        ),
        *what_would_settle(below.pressure_head_m, suction_causes(analysis, below)),
    )


def _where_the_fall_goes(at_wanted: Sounding) -> Wording:
    fall_m = at_wanted.surface_m - at_wanted.outlet_m
    takers = [
        ("the pipe", at_wanted.pipe_loss_m),
        ("the fittings", at_wanted.fitting_loss_m),
        ("the valve", at_wanted.valve_needs_m),
    ]
    taker, most_m = max(takers, key=lambda entry: entry[1])
    return say(
        "At the wanted flow {} would use {} of the {} of fall; {} more fall would give it.",
        taker,
        Quantity(value=most_m, unit="m"),
        Quantity(value=fall_m, unit="m"),
        Quantity(value=max(0.0, -at_wanted.margin_m), unit="m"),
    )
