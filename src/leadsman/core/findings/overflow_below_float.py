"""A float set over its overflow: the vessel runs over, and the valve never shuts."""

from collections.abc import Iterator
from functools import partial

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import FloatValveOutlet, Vessel, label
from leadsman.core.findings.registry import Finding, Question, Remedy, Severity, judgement
from leadsman.core.findings.remedies import that_set_lower

SAME_M = 1e-6
BELOW_OVERFLOW_M = 0.05  # of a float that is offered; ours, no source


@judgement("overflow-below-float", "A vessel overflows before its float shuts", Question.DOES_IT_RUN)
def overflow_below_float(analysis: Analysis) -> Iterator[Finding]:
    """Yield each float that closes at or over the overflow of its vessel: the water runs for ever."""
    for outlet in analysis.fed_outlets:
        vessel = analysis.model.layout.vessels.get(outlet.fills or "")
        if vessel is None or not isinstance(outlet, FloatValveOutlet):
            continue
        what = "its rim" if vessel.overflow_m is None else "the overflow"
        if outlet.valve.closes_at_m < vessel.brim_m:
            if vessel.brim_m - outlet.valve.closes_at_m < outlet.valve.band_m - SAME_M:
                yield _close_under(outlet, vessel, what)
            continue
        yield Finding(
            severity=Severity.STOP,
            where=outlet.id,
            value=outlet.valve.closes_at_m,
            limit=vessel.brim_m,
            unit="m",
            headline=say("{} overflows before the float of {} shuts", label(vessel), label(outlet)),
            why=say(
                "The float closes at {} and {} is at {} over the floor: the valve never shuts, and the water runs away "
                "day and night.",
                Quantity(value=outlet.valve.closes_at_m, unit="m"),
                what,
                Quantity(value=vessel.brim_m, unit="m"),
            ),
            try_remedies=partial(_float_lower, analysis, outlet, vessel.brim_m),
        )


def _close_under(outlet: FloatValveOutlet, vessel: Vessel, what: str) -> Finding:
    """Return that waves reach the overflow: less than the float's band is left (common practice, no source)."""
    under_m = vessel.brim_m - outlet.valve.closes_at_m
    return Finding(
        severity=Severity.WATCH,
        where=outlet.id,
        value=under_m,
        limit=outlet.valve.band_m,
        unit="m",
        headline=say("The float of {} shuts close under {} of {}", label(outlet), what, label(vessel)),
        why=say(
            "Only {} lies between the closing level and {}, less than the {} over which the float closes: waves and a "
            "float that lags send water over it (common practice, no source).",
            Quantity(value=under_m, unit="m"), what, Quantity(value=outlet.valve.band_m, unit="m"),
        ),
    )  # fmt: skip


def _float_lower(analysis: Analysis, outlet: FloatValveOutlet, brim_m: float) -> list[Remedy]:
    def effect(under: float) -> Wording:
        return say("then it closes {} below the overflow", Quantity(value=under, unit="m"))

    return that_set_lower(analysis, outlet, round(brim_m - BELOW_OVERFLOW_M, 3), brim_m, effect)
