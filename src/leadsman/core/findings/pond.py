"""Ponds that never catch up, that overflow by waves, get untreated water, or whose top-up hides a leak."""

from collections.abc import Iterator
from functools import partial

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import DAY_S, LITRE_M3, MILLIMETRE_M, MINUTE_S, lpm_from_m3s
from leadsman.core.base.wording import Quantity, Unit, duration, say
from leadsman.core.design import OutletBase, label
from leadsman.core.findings.pond_pump import lowered
from leadsman.core.findings.registry import Finding, Question, Remedy, Severity, judgement
from leadsman.core.findings.remedies import Candidate, more_flow, that_end
from leadsman.core.pond.levels import depth
from leadsman.core.pond.pond import Pond, chlorine_passes, ponds

LASTS = Question.HOW_LONG_DOES_IT_LAST


@judgement("never-catches-up", "A pond loses more than its feed brings, or is not full before the next change", LASTS)
def never_catches_up(analysis: Analysis) -> Iterator[Finding]:
    """Yield each vessel that loses more in a day than can come in, and each whose change of water is not made up."""
    sinking = set()
    for fill in analysis.unattended_fills:
        if fill.sinks:
            sinking.add(fill.vessel.id)
            lost, comes = (
                Quantity(value=flow * DAY_S / LITRE_M3, unit="L/d") for flow in (fill.lost_m3s, fill.inflow_m3s)
            )
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
    for pond in ponds(analysis):
        if pond.change is None or pond.outlet is None or pond.vessel.id in sinking or pond.change.catches_up:
            continue
        yield _change_not_made_up(analysis, pond, pond.outlet)


def _change_not_made_up(analysis: Analysis, pond: Pond, outlet: OutletBase) -> Finding:
    change = pond.change
    assert change is not None, "only asked of ponds whose water is changed"
    takes_s = None if change.refill_s is None else change.refill_s + (change.out_s or 0.0)
    between = duration(change.between_s)
    takes = say("never") if takes_s is None else say("after {}", duration(takes_s))
    return Finding(
        severity=Severity.FIX,
        where=outlet.id,
        value=None if takes_s is None else takes_s / MINUTE_S,
        limit=change.between_s / MINUTE_S,
        unit="min",
        headline=say("{} is full again {}, and the next change comes after {}", label(pond.vessel), takes, between),
        why=say(
            "Each change takes {} out; {} brings that back, less what the pond loses meanwhile. Change less, or give "
            "it more water.",
            Quantity(value=change.volume_l, unit="L"), label(outlet),
        ),
        try_remedies=partial(_sooner_full, analysis, pond, outlet),
    )  # fmt: skip


def _waves_under_brim(pond: Pond) -> float:
    return -(pond.waves_over_m or 0.0)


def _sooner_full(analysis: Analysis, pond: Pond, outlet: OutletBase) -> list[Remedy]:
    """Return more flow, or, where the chlorine remover holds it back, one for all that the feed brings."""
    remover_lpm, feed_lpm = pond.pond.remover_lpm, lpm_from_m3s(pond.feed_m3s)
    if remover_lpm is None or remover_lpm >= feed_lpm:
        return more_flow(analysis, outlet)
    text = say("a chlorine remover for {}", Quantity(value=feed_lpm, unit="L/min"))
    patch = [{"op": "replace", "path": f"/ponds/{pond.number}/remover_lpm", "value": round(feed_lpm + 0.05, 1)}]
    effect = "then it is full again in time"
    return that_end(analysis, [Candidate(text, patch)], never_catches_up, outlet.id, effect)


@judgement("waves-reach-overflow", "Waves run over the overflow of a pond, and its float makes up for it", LASTS)
def waves_reach_overflow(analysis: Analysis) -> Iterator[Finding]:
    """Yield each pond whose waves reach its overflow while the float is shut."""
    for pond in ponds(analysis):
        over_m = pond.waves_over_m
        if over_m is None or over_m <= 0.0 or pond.pond.wave_mm <= 0.0 or pond.keeps_m is None:
            continue
        yield Finding(
            severity=Severity.WATCH,
            where=pond.vessel.id,
            value=pond.pond.wave_mm,
            limit=pond.pond.wave_mm - over_m / MILLIMETRE_M,
            unit="mm",
            headline=say("Waves of {} reach {} over the overflow of {}", depth(pond.pond.wave_mm * MILLIMETRE_M),
                         depth(over_m), label(pond.vessel)),
            why=say(
                "What they carry out the float lets in again, unseen. Close it lower, or put it into a chamber of its "
                "own, where the water is still.",
            ),
            try_remedies=partial(lowered, analysis, pond, over_m, _waves_under_brim),
        )  # fmt: skip


@judgement("top-up-hides-leak", "A pond is topped up by more than it should lose", LASTS)
def top_up_hides_leak(analysis: Analysis) -> Iterator[Finding]:
    """Yield each pond whose measured top-up is more than evaporation, seepage, changes and discharge explain."""
    for pond in ponds(analysis):
        top_up = pond.top_up
        if not top_up.hides_leak or top_up.measured_lpd is None:
            continue
        leak_lpd = top_up.unexplained_lpd or 0.0
        yield Finding(
            severity=Severity.FIX,
            where=pond.vessel.id,
            value=top_up.measured_lpd,
            limit=top_up.most_lpd,
            unit="L/d",
            headline=say("{} leaks {} or more, and the float makes up for it", label(pond.vessel),
                         Quantity(value=leak_lpd, unit="L/d")),
            why=say(
                "{} come in on a day without rain; evaporation, seepage, changes and discharge explain {} to {} "
                "(evaporation taken as good to 30 %: ours). Shut the feed for a day and mark the level: more than {} a "
                "day is a leak. Look at liner, waterfall edge and pipes one after the other.",
                Quantity(value=top_up.measured_lpd, unit="L/d"), Quantity(value=top_up.least_lpd, unit="L/d"),
                Quantity(value=top_up.most_lpd, unit="L/d"), depth(top_up.most_lpd * LITRE_M3 / top_up.area_m2),
            ),
        )  # fmt: skip


@judgement("chlorine-passes", "More treated water comes than its chlorine remover takes", LASTS)
def chlorine_left(analysis: Analysis) -> Iterator[Finding]:
    """Yield each pond that gets treated water faster, or more of it at once, than its chlorine remover takes."""
    for pond in ponds(analysis):
        found = chlorine_passes(pond)
        if found is None or pond.outlet is None:
            continue
        value, limit, unit = found
        yield Finding(
            severity=Severity.FIX,
            where=pond.outlet.id,
            value=value,
            limit=limit,
            unit=unit,
            headline=say("The chlorine remover of {} takes {}, and {} come", label(pond.vessel),
                         Quantity(value=limit, unit=unit), Quantity(value=value, unit=unit)),
            why=say(
                "What is more reaches fish and filter untreated. {}. Chloramine needs a remover of its own.",
                "Throttle the feed, or fit a larger one" if unit == "L/min" else
                "Change less at once, or treat the pond for all of it first",
            ),
            try_remedies=partial(_wider_remover, analysis, pond, value, unit),
        )  # fmt: skip


def _wider_remover(analysis: Analysis, pond: Pond, value: float, unit: Unit) -> list[Remedy]:
    """Return a chlorine remover for all that comes."""
    key, size = ("remover_lpm", value + 0.05) if unit == "L/min" else ("remover_l", value + 0.5)
    patch = [{"op": "replace", "path": f"/ponds/{pond.number}/{key}", "value": round(size, 1)}]
    text = say("a chlorine remover for {}", Quantity(value=value, unit=unit))
    outlet = pond.outlet.id if pond.outlet is not None else ""
    return that_end(analysis, [Candidate(text, patch)], chlorine_left, outlet, "then it takes all of it")
