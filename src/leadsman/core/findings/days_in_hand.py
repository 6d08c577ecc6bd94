"""The store does not last as long as wanted when refill stops."""

from collections.abc import Iterator

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import LITRE_M3
from leadsman.core.base.wording import Quantity, say
from leadsman.core.findings.registry import Finding, Question, Severity, judgement

LESS_THAN_A_DAY = 1.0


@judgement("days-in-hand", "Fewer days in hand than wanted", Question.HOW_LONG_DOES_IT_LAST)
def days_in_hand(analysis: Analysis) -> Iterator[Finding]:
    """Yield one finding where the usable store lasts less than wanted; under a day is a stop."""
    days, (wanted, is_default) = analysis.balance.days_in_hand, analysis.wanted_days
    if days is None or days >= wanted or not analysis.sources_of_outlets:
        return
    lacking_m3 = (wanted - days) * analysis.balance.need_m3_per_day
    yield Finding(
        severity=Severity.STOP if days < LESS_THAN_A_DAY else Severity.FIX,
        where=analysis.sources_of_outlets[0].id,
        value=days,
        limit=wanted,
        unit="d",
        headline=say(
            "The store lasts {} with no refill; {} wanted",
            Quantity(value=days, unit="d"),
            Quantity(value=wanted, unit="d"),
        ),
        why=say(
            "Animals die within days without water: look daily. {} more in store would do.{}",
            Quantity(value=lacking_m3 / LITRE_M3, unit="L"),
            " The wanted days are our default, from common practice." if is_default else "",
        ),
    )
