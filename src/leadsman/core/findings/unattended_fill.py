"""Vessels that are filled by something that does not stop by itself."""

from collections.abc import Iterator
from functools import partial

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import DAY_S, HOUR_S, LITRE_M3, MINUTE_S
from leadsman.core.base.wording import Quantity, say
from leadsman.core.design import label
from leadsman.core.findings.registry import Finding, Question, Severity, judgement
from leadsman.core.findings.remedies import more_flow


@judgement(
    "unattended-fill", "A vessel is filled by something that does not stop by itself", Question.HOW_LONG_DOES_IT_LAST
)
def unattended_fill(analysis: Analysis) -> Iterator[Finding]:
    """Yield each vessel that an outlet without a float fills, the time until it runs over, and what is lost.

    A spring or a ram that runs through a vessel with an overflow is meant to.
    """
    for fill in analysis.unattended_fills:
        if fill.has_float or fill.by_design or fill.full_s is None or fill.over_m3s <= 0.0:
            continue
        yield Finding(
            severity=Severity.WATCH,
            where=fill.outlet.id,
            value=fill.full_s / MINUTE_S,
            limit=None,
            unit="min",
            headline=say(
                "{} overflows after {}", label(fill.vessel), Quantity(value=fill.full_s / MINUTE_S, unit="min")
            ),
            why=say(
                "{} does not stop by itself: left open, {} overflow each hour after that. Fit a float valve, or stay "
                "with it.",
                label(fill.outlet),
                Quantity(value=fill.over_m3s * HOUR_S / LITRE_M3, unit="L"),
            ),
        )


@judgement("pond-sinks", "A pond loses more than its feed brings", Question.HOW_LONG_DOES_IT_LAST)
def pond_sinks(analysis: Analysis) -> Iterator[Finding]:
    """Yield each vessel that loses more in a day than comes in with its outlet wide open all day."""
    for fill in analysis.unattended_fills:
        if not fill.sinks:
            continue
        lost, comes = (Quantity(value=flow * DAY_S / LITRE_M3, unit="L/d") for flow in (fill.lost_m3s, fill.inflow_m3s))
        yield Finding(
            severity=Severity.FIX,
            where=fill.outlet.id,
            value=lost.value,
            limit=comes.value,
            unit="L/d",
            headline=say("The level of {} falls: it loses {}, and {} can come in", label(fill.vessel), lost, comes),
            why=say(
                "{}, open all day, does not make up for evaporation, seepage and discharge. More flow, a second "
                "source or a liner helps.",
                label(fill.outlet),
            ),
            try_remedies=partial(more_flow, analysis, fill.outlet),
        )
