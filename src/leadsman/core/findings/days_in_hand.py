"""The store does not last as long as wanted when refill stops."""

from collections.abc import Iterator

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import LITRE_M3
from leadsman.core.base.wording import Quantity, say
from leadsman.core.findings.registry import Finding, Question, Severity, judgement

LESS_THAN_A_DAY = 1.0


@judgement("days-in-hand", "Fewer days in hand than wanted", Question.HOW_LONG_DOES_IT_LAST)
def days_in_hand(analysis: Analysis) -> Iterator[Finding]:
    """Yield each system whose usable store lasts less than wanted; under a day is a stop."""
    wanted, is_default = analysis.wanted_days
    for system, day in zip(analysis.systems, analysis.balances, strict=True):
        days = day.days_in_hand
        if days is None or days >= wanted:
            continue
        lacking_m3 = (wanted - days) * day.need_m3_per_day
        of = f" of {name}" if (name := analysis.name_among(system)) else ""
        yield Finding(
            severity=Severity.STOP if days < LESS_THAN_A_DAY else Severity.FIX,
            where=system.stores[0].id,
            value=days,
            limit=wanted,
            unit="d",
            headline=say(
                f"The store{of} lasts {{}} with no refill; {{}} wanted",
                Quantity(value=days, unit="d"),
                Quantity(value=wanted, unit="d"),
            ),
            why=say(
                "Animals die within days without water: look daily. {} more in store would do.{}",
                Quantity(value=lacking_m3 / LITRE_M3, unit="L"),
                " The wanted days are our default, from common practice." if is_default else "",
            ),
        )
