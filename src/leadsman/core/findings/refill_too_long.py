"""A trough that does not fill again in the time there is."""

from collections.abc import Iterator
from functools import partial

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import DAY_S, LITRE_M3, MINUTE_S
from leadsman.core.base.wording import Quantity, Wording, duration, say
from leadsman.core.design import OutletBase, label
from leadsman.core.findings.registry import Finding, Question, Remedy, Severity, judgement
from leadsman.core.findings.remedies import larger_pipes, larger_valves, that_help


@judgement("refill-too-long", "Refill takes longer than the time there is", Question.HOW_FAST)
def refill_too_long(analysis: Analysis) -> Iterator[Finding]:
    """Yield each vessel whose refill takes longer than stated, or never ends."""
    for outlet in analysis.fed_outlets:
        wanted_s, refill = analysis.wanted_refill_s(outlet), analysis.refills.get(outlet.id)
        if wanted_s is None or refill is None or (refill.time_s is not None and refill.time_s <= wanted_s):
            continue
        name, volume = label(refill.vessel), Quantity(value=refill.volume_m3 / LITRE_M3, unit="L")
        wanted = duration(wanted_s)
        if refill.time_s is None:
            slow_s = analysis.refill_with_what_comes_s(outlet)
            if slow_s is None or slow_s > wanted_s:
                yield _runs_out_first(outlet, name, volume, wanted_s, slow_s)
            continue
        took = duration(refill.time_s)
        yield Finding(
            severity=Severity.FIX,
            where=outlet.id,
            value=refill.time_s / MINUTE_S,
            limit=wanted_s / MINUTE_S,
            unit="min",
            headline=say("{} takes {} to fill; the target is {}", name, took, wanted),
            why=say("It needs {}, and the float throttles the last part.", volume),
            try_remedies=partial(_that_fill_sooner, analysis, outlet),
        )


def _runs_out_first(outlet: OutletBase, name: str, volume: Quantity, wanted_s: float, slow_s: float | None) -> Finding:
    """Return that a tank runs down before a vessel is full: it never fills, or as slowly as water comes in."""
    empty = say("The {} that it needs are not all in store: the tank is down at its outlet first", volume)
    took = None if slow_s is None else Quantity(value=slow_s / DAY_S, unit="d")
    return Finding(
        severity=Severity.STOP if slow_s is None else Severity.FIX,
        where=outlet.id,
        value=None if slow_s is None else slow_s / MINUTE_S,
        limit=wanted_s / MINUTE_S,
        unit="min",
        headline=say("{} never fills", name) if took is None else say("{} takes {} to fill", name, took),
        why=(*empty, *say(", and nothing comes in." if took is None else "; the rest comes as its sources bring it.")),
    )


def _that_fill_sooner(analysis: Analysis, outlet: OutletBase) -> list[Remedy]:
    def per_second(changed: Analysis) -> float | None:
        refill = changed.refill(outlet)
        return 1.0 / refill.time_s if refill and refill.time_s else None

    def effect(per_second: float) -> Wording:
        return say("fills in {}", duration(1.0 / per_second))

    candidates = [*larger_pipes(analysis, outlet), *larger_valves(analysis, outlet)]
    wanted_s = analysis.wanted_refill_s(outlet)
    return that_help(analysis, candidates, per_second, effect, 1.0 / wanted_s if wanted_s else None)
