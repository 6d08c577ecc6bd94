"""Troughs that do not keep up with the animals that come: empty, slow to recover, or too few places."""

from collections.abc import Iterator
from functools import partial

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.watering import Visit, Watering
from leadsman.core.base.units import LITRE_M3, MINUTE_S, lpm_from_m3s
from leadsman.core.base.wording import Quantity, Wording, duration, say
from leadsman.core.design import OutletBase, label
from leadsman.core.findings.registry import Finding, Question, Remedy, Severity, judgement
from leadsman.core.findings.remedies import larger_pipes, larger_valves, more_flow, that_help

LEFT_WAITING_SHARE = 0.05  # of a mob: more than this many left waiting is a finding


@judgement("trough-runs-empty", "A trough runs empty when they come", Question.HOW_FAST, at_rest=True)
def trough_runs_empty(analysis: Analysis) -> Iterator[Finding]:
    """Yield each trough that its mobs drink empty, or that a peak near water empties."""
    for watering in analysis.waterings:
        if watering.run and watering.run.runs_empty:
            heads = sum(visit.mob.heads for visit in watering.visits)
            wanted_l = sum(visit.mob.heads * visit.mob.draught_m3 for visit in watering.visits) / LITRE_M3
            served = [visit.run.served_s for visit in watering.visits]
            served_min = None if None in served else max(s for s in served if s is not None) / MINUTE_S
            yield Finding(
                severity=Severity.FIX if served_min is not None else Severity.STOP,
                where=watering.outlet.id,
                value=watering.run.lowest_level_m,
                limit=0.0,
                unit="m",
                headline=say("{} runs empty when " + f"{heads:.0f} come", label(watering.vessel)),
                why=(
                    *say(
                        "They need {} at once; it holds {} and its valve delivers {}. ",
                        Quantity(value=wanted_l, unit="L"),
                        Quantity(value=watering.run.full_m3 / LITRE_M3, unit="L"),
                        Quantity(value=lpm_from_m3s(float(watering.run.inflow_m3s.max())), unit="L/min"),
                    ),
                    *(
                        say("All are watered after {}.", Quantity(value=served_min, unit="min"))
                        if served_min is not None
                        else say("Not all are watered after 12 hours.")
                    ),
                ),
                try_remedies=partial(_that_serve_sooner, analysis, watering.outlet),
            )
        for demand, _, near in watering.near:
            if near.runs_empty:
                yield Finding(
                    severity=Severity.FIX,
                    where=watering.outlet.id,
                    value=lpm_from_m3s(near.inflow_m3s),
                    limit=lpm_from_m3s(near.peak_m3s),
                    unit="L/min",
                    headline=say("{} runs empty in the busiest hours", label(watering.vessel)),
                    why=say(
                        "{} drink {} then, {} comes in, and what it holds, {}, does not last two hours.",
                        label(demand.herd),
                        Quantity(value=lpm_from_m3s(near.peak_m3s), unit="L/min"),
                        Quantity(value=lpm_from_m3s(near.inflow_m3s), unit="L/min"),
                        Quantity(value=near.holds_m3 / LITRE_M3, unit="L"),
                    ),
                    try_remedies=partial(more_flow, analysis, watering.outlet),
                )


@judgement("flow-below-pattern", "The flow is too low for how the animals drink", Question.HOW_FAST, at_rest=True)
def flow_below_pattern(analysis: Analysis) -> Iterator[Finding]:
    """Yield each trough that is not full again when the mob comes next, or gets less than a peak draws."""
    for watering in analysis.waterings:
        staying = [visit for visit in watering.visits if len(visit.demand.outlets) == 1]  # who moves on leaves it a day
        if watering.run and staying:
            next_s = min(visit.habit.daylight_s / visit.habit.visits for visit in staying)
            if watering.run.recovered_s is None or watering.run.recovered_s > next_s:
                took = (
                    say("after 12 hours it is not full again")
                    if watering.run.recovered_s is None
                    else say("it is full again after {}", duration(watering.run.recovered_s))
                )
                yield Finding(
                    severity=Severity.FIX,
                    where=watering.outlet.id,
                    value=None if watering.run.recovered_s is None else watering.run.recovered_s / MINUTE_S,
                    limit=next_s / MINUTE_S,
                    unit="min",
                    headline=say("{} is not full again before the next visit", label(watering.vessel)),
                    why=(
                        *say("They come again after {}; ", duration(next_s)),
                        *took,
                        *say("."),
                    ),
                    try_remedies=partial(more_flow, analysis, watering.outlet),
                )
        for demand, _, near in watering.near:
            if near.peak_m3s > near.inflow_m3s and not near.runs_empty:
                yield Finding(
                    severity=Severity.WATCH,
                    where=watering.outlet.id,
                    value=lpm_from_m3s(near.inflow_m3s),
                    limit=lpm_from_m3s(near.peak_m3s),
                    unit="L/min",
                    headline=say("{} falls in the busiest hours", label(watering.vessel)),
                    why=say(
                        "{} drink {} then and {} comes in: of what it holds they take {} in two hours.",
                        label(demand.herd),
                        Quantity(value=lpm_from_m3s(near.peak_m3s), unit="L/min"),
                        Quantity(value=lpm_from_m3s(near.inflow_m3s), unit="L/min"),
                        Quantity(value=near.taken_m3 / LITRE_M3, unit="L"),
                    ),
                )


@judgement("rim-too-short", "Too little trough space", Question.HOW_FAST, at_rest=True)
def rim_too_short(analysis: Analysis) -> Iterator[Finding]:
    """Yield each mob of which more than a twentieth wait longer than their patience while there is water."""
    for watering in analysis.waterings:
        for visit in watering.visits:
            too_few = visit.run.left_waiting_share > LEFT_WAITING_SHARE
            if too_few and watering.run is not None and not watering.run.runs_empty:
                yield Finding(
                    severity=Severity.FIX,
                    where=watering.outlet.id,
                    value=visit.run.longest_wait_s / MINUTE_S,
                    limit=visit.habit.patience_s / MINUTE_S,
                    unit="min",
                    headline=say("{} wait too long at {}", label(visit.demand.herd), label(watering.vessel)),
                    why=_room(watering, visit),
                )
        # without room for one there is no run to judge
        crowded = [
            demand
            for demand in analysis.herds
            if not watering.run and demand.head and {outlet.id for outlet in watering.outlets} & set(demand.outlets)
        ]
        for demand in crowded:
            if demand.herd.drinking and demand.herd.drinking.pattern == "mob":
                yield Finding(
                    severity=Severity.STOP, where=watering.outlet.id, value=watering.rim_m, limit=None, unit="m",
                    headline=say("{} has no room for any animal", label(watering.vessel)),
                    why=say("Its usable edge, {}, has no room for one.", Quantity(value=watering.rim_m, unit="m")),
                )  # fmt: skip


def _room(watering: Watering, visit: Visit) -> Wording:
    at_once = f"{visit.mob.places:.0f} of {visit.mob.heads:.0f} drink at a time at "
    waiting = f"{100.0 * visit.run.left_waiting_share:.0f} % wait more than "
    return say(
        at_once
        + "{} of edge; "
        + waiting
        + "{}. More trough edge or a second trough shortens the wait; more flow does not.",
        Quantity(value=watering.rim_m, unit="m", digits=1),
        duration(visit.habit.patience_s),
    )


def _that_serve_sooner(analysis: Analysis, outlet: OutletBase) -> list[Remedy]:
    """Return the pipes and the valve with which the last animal has drunk sooner."""

    def per_second(changed: Analysis) -> float | None:
        served = [
            visit.run.served_s
            for watering in changed.waterings
            if outlet.id in {valve.id for valve in watering.outlets}
            for visit in watering.visits
        ]
        times = [time for time in served if time is not None]
        return 1.0 / max(times) if times and len(times) == len(served) else None

    def effect(per_second: float) -> Wording:
        return say("all watered after {}", duration(1.0 / per_second))

    return that_help(analysis, [*larger_pipes(analysis, outlet), *larger_valves(analysis, outlet)], per_second, effect)
