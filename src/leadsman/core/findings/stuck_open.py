"""What a valve that sticks open costs by the next look."""

from collections.abc import Iterator
from functools import partial

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.leak import Leak, leak_of
from leadsman.core.analysis.refill import Refill
from leadsman.core.base.units import DAY_S, HOUR_S, LITRE_M3, MINUTE_S
from leadsman.core.base.wording import Quantity, Wording, duration, say
from leadsman.core.design import label
from leadsman.core.findings.registry import Finding, Question, Remedy, Severity, judgement
from leadsman.core.findings.remedies import smaller_valves, that_help

LASTS = Question.HOW_LONG_DOES_IT_LAST
LONGEST_IN_HOURS_D = 2.0


@judgement("leak-empties-store", "A valve stuck open empties the store before the next look", LASTS)
def leak_empties_store(analysis: Analysis) -> Iterator[Finding]:
    """Yield the float valve that, stuck open by itself, empties the store soonest, where that is before the next look.

    A full flow keeps a mob's trough up, a small one loses little: both are told.
    """
    leaks = [leak for outlet in analysis.fed_outlets if (leak := leak_of(analysis, outlet)) is not None]
    soon = [leak for leak in leaks if leak.empties]
    for leak in sorted(soon, key=lambda candidate: candidate.empty_s or 0.0)[:1]:
        others = f" So do {len(soon) - 1} others, later." if len(soon) > 2 else " So does another." if soon[1:] else ""
        refill = analysis.refill(leak.outlet)
        yield Finding(
            severity=Severity.WATCH,
            where=leak.outlet.id,
            value=(leak.empty_s or 0.0) / MINUTE_S,
            limit=leak.look_s / MINUTE_S,
            unit="min",
            headline=say(
                "If {} sticks open, the store is empty in {}", label(leak.outlet), duration(leak.empty_s or 0.0)
            ),
            why=(
                *say(
                    "Stuck open it loses {} by the next look, {} on.{} ",
                    Quantity(value=leak.lost_m3 / LITRE_M3, unit="L"),
                    looks(leak.look_s),
                    others,
                ),
                *(
                    say(
                        "A smaller valve loses less, but {} takes longer than {} to fill: choose between a small loss "
                        "and a fast refill. ",
                        label(refill.vessel),
                        duration(refill.time_s),
                    )
                    if refill and refill.time_s
                    else ()
                ),
                *(
                    say(
                        "Animals die within days without water: look daily, and keep two days of water apart "
                        "from this store."
                    )
                    if (system := analysis.system_of(leak.outlet.id)) and analysis.waters_animals(system)
                    else say("Look daily.")
                ),
            ),
            try_remedies=partial(_smaller_valves, analysis, leak),
        )


def looks(look_s: float) -> str:
    """Return a time between looks in words: hours up to two days, else days."""
    days, hours = look_s / DAY_S, look_s / HOUR_S
    if days > LONGEST_IN_HOURS_D:
        return f"{days:.3g} days"
    return "1 hour" if hours == 1.0 else f"{hours:.3g} hours"


def _smaller_valves(analysis: Analysis, leak: Leak) -> list[Remedy]:
    outlet, wanted = leak.outlet, analysis.wanted_m3s(leak.outlet) or 0.0
    told: dict[float, Wording] = {}

    def lasts_min(after: Analysis) -> float | None:
        changed = next(candidate for candidate in after.fed_outlets if candidate.id == outlet.id)
        left = leak_of(after, changed)
        if left is None or after.answer(changed).judged_flow_m3s < wanted:
            return None  # it would no longer give what is wanted
        lasts = (left.look_s if left.empty_s is None else min(left.empty_s, left.look_s)) / MINUTE_S
        told[lasts] = _both_costs(left, after.refill(changed))
        return lasts

    return that_help(
        analysis, smaller_valves(analysis, outlet), lasts_min, lambda lasts: told[lasts], leak.look_s / MINUTE_S
    )


def _both_costs(left: Leak, refill: Refill | None) -> Wording:
    """Say what a valve loses when it sticks, and how long it takes to fill its vessel."""
    lost = Quantity(value=left.lost_m3 / LITRE_M3, unit="L")
    says = say("loses {} by the next look", lost)
    if left.empties:
        says = (*says, *say(", all there is after {}", duration(left.empty_s or 0.0)))
    if refill is not None and refill.time_s is not None:
        says = (*says, *say("; fills in {}", duration(refill.time_s)))
    return says
