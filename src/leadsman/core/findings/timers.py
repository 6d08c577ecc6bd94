"""Timers whose zones starve a trough or each other."""

from collections.abc import Iterator
from functools import partial

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.timers import Clash, starts_that_starve_none
from leadsman.core.base.units import lpm_from_m3s
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import label
from leadsman.core.findings.registry import Finding, Question, Remedy, Severity, judgement
from leadsman.core.findings.remedies import Candidate, that_help


@judgement("timers-clash", "Timers leave too little for a trough or for each other", Question.HOW_FAST, at_rest=True)
def timers_clash(analysis: Analysis) -> Iterator[Finding]:
    """Yield each outlet that gets too little while timers run though it has enough without them, at its worst."""
    worst: dict[str, Clash] = {}
    for clash in analysis.timer_clashes:
        held = worst.get(clash.outlet)
        if held is None or clash.gets_m3s / clash.wanted_m3s < held.gets_m3s / held.wanted_m3s:
            worst[clash.outlet] = clash
    crops = {crop.id: label(crop) for crop in analysis.design.crops}
    for clash in worst.values():
        outlet = analysis.model.layout.outlets[clash.outlet]
        vessel = analysis.model.layout.vessels.get(outlet.fills or "")
        gets = Quantity(value=lpm_from_m3s(clash.gets_m3s), unit="L/min")
        yield Finding(
            severity=Severity.FIX,
            where=clash.outlet,
            value=gets.value,
            limit=lpm_from_m3s(clash.wanted_m3s),
            unit="L/min",
            headline=say("{} gets too little while timers run", label(vessel or outlet)),
            why=say(
                "From {} to {}, while {} runs, it gets {} of {}.",
                clock(clash.since),
                clock(clash.until),
                " with ".join(crops[crop] for crop in clash.crops),
                gets,
                Quantity(value=lpm_from_m3s(clash.wanted_m3s), unit="L/min"),
            ),
            try_remedies=partial(_that_starve_none, analysis),
        )


def clock(minutes: float) -> str:
    """Return the time of day so many minutes after midnight, as 06:30; 24:00 at the day's end."""
    whole = round(minutes)
    return f"{whole // 60:02d}:{whole % 60:02d}"


def _that_starve_none(analysis: Analysis) -> list[Remedy]:
    """Return other starts for the timers, where some are found that starve nothing."""
    starts = starts_that_starve_none(analysis.timer_watch, analysis.timer_runs, analysis.float_calls)
    if starts is None:
        return []
    moved = [
        (index, timer)
        for index, timer in enumerate(analysis.design.timers)
        if starts.get(timer.id, timer.starts) != timer.starts
    ]
    patch = [{"op": "replace", "path": f"/timers/{index}/starts", "value": starts[timer.id]} for index, timer in moved]
    text = "; ".join(f"{label(timer)} at {starts[timer.id]}" for _, timer in moved)

    def unstarved(changed: Analysis) -> float:
        return 1.0 / (1.0 + len(changed.timer_clashes))

    def effect(_: float) -> Wording:
        return say("all get enough while they run")

    return that_help(analysis, [Candidate(say(text), patch)], unstarved, effect)
