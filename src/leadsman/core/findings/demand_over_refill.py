"""More is drunk in a day than comes back."""

from collections.abc import Iterator

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import LITRE_M3
from leadsman.core.base.wording import Quantity, say
from leadsman.core.findings.registry import Finding, Question, Severity, judgement


@judgement("demand-over-refill", "Demand is more than refill", Question.HOW_LONG_DOES_IT_LAST)
def demand_over_refill(analysis: Analysis) -> Iterator[Finding]:
    """Yield one finding where a day's need is more than a day's refill."""
    day = analysis.balance
    if day.spare_m3_per_day >= 0.0 or not analysis.sources_of_outlets:
        return
    need, refill = (Quantity(value=m3 / LITRE_M3, unit="L/d") for m3 in (day.need_m3_per_day, day.refill_m3_per_day))
    gap_m3 = -day.spare_m3_per_day
    yield Finding(
        severity=Severity.FIX,
        where=analysis.sources_of_outlets[0].id,
        value=need.value,
        limit=refill.value,
        unit="L/d",
        headline=say("More is drunk than comes back: {} against {}", need, refill),
        why=say(
            "The store makes up {} and is empty after {}. A second source of that much would close it, "
            "or fewer animals on this water.",
            Quantity(value=gap_m3 / LITRE_M3, unit="L/d"),
            Quantity(value=day.usable_m3 / gap_m3, unit="d"),
        ),
    )
