"""Vessels that are filled by something that does not stop by itself."""

from collections.abc import Iterator

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import HOUR_S, LITRE_M3, MINUTE_S
from leadsman.core.base.wording import Quantity, duration, say
from leadsman.core.design import label
from leadsman.core.findings.registry import Finding, Question, Severity, judgement


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
            headline=say("{} overflows after {}", label(fill.vessel), duration(fill.full_s)),
            why=say(
                "{} does not stop by itself: left open, {} overflow each hour after that. Fit a float valve, or stay "
                "with it.",
                label(fill.outlet),
                Quantity(value=fill.over_m3s * HOUR_S / LITRE_M3, unit="L"),
            ),
        )
