"""Until it is mended: what to shut so that the fewest animals go without, how long water lasts, what helps out."""

from dataclasses import dataclass

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.downstream import behind_line, drawing_from
from leadsman.core.analysis.reserve import Reserve, reserves
from leadsman.core.base.units import LITRE_M3, lpm_from_m3s
from leadsman.core.base.wording import Quantity, Wording, duration, listed, say
from leadsman.core.design import FloatValveOutlet, HaulInflow, label
from leadsman.core.trouble.cause import Cause
from leadsman.core.trouble.kinds import ISOLATE, KINDS, Symptom

DAY_S = 86_400.0
RUNS_AWAY: tuple[Symptom, ...] = ("overflow", "wet", "pump")
TOTE_L = 1_000.0  # a usual tote; from memory


@dataclass(frozen=True, kw_only=True)
class Relief:
    """`shut`: the tap that leaves the fewest without; `without`: who goes without then; `lasts`, `standby`, `lost`."""

    shut: Wording
    lasts: list[Wording]
    standby: Wording
    lost: Wording


def relief(analysis: Analysis, symptom: Symptom, part: str, cause: Cause | None) -> Relief:
    """Return what holds until it is mended; only where water runs away, or something is opened, is anything shut."""
    opened = cause is not None and (cause.kind == "filter" or ISOLATE in KINDS[cause.kind].mend)
    urgent = opened or symptom in RUNS_AWAY
    shut, without = _shut(analysis, part, cause) if urgent else ((), frozenset())
    affected = without | (cause.short if cause else frozenset())
    own = _outlets_of(analysis, part)
    stands = reserves(analysis.design, analysis.scenario)
    waiting = [one for one in stands if _filled_by(analysis, one) & (affected | own)]
    waiting.sort(key=lambda one: not _filled_by(analysis, one) & own)
    dry = symptom in ("low", "nothing")
    return Relief(
        shut=shut,
        lasts=[_lasts(one, dry=dry and bool(_filled_by(analysis, one) & own)) for one in waiting],
        standby=_standby(analysis, waiting),
        lost=_lost(analysis, symptom, own),
    )


def _outlets_of(analysis: Analysis, part: str) -> frozenset[str]:
    return frozenset(one.id for one in analysis.fed_outlets if part in (one.id, one.fills))


def _filled_by(analysis: Analysis, reserve: Reserve) -> frozenset[str]:
    return frozenset(one.id for one in analysis.document.outlets if one.fills == reserve.vessel.id)


def _shut(analysis: Analysis, part: str, cause: Cause | None) -> tuple[Wording, frozenset[str]]:
    """Return the last tap before a fault, and the outlets behind it; all of the store's where there is no tap."""
    layout = analysis.model.layout
    target = cause.part if cause is not None and (cause.part in layout.lines or cause.part in layout.outlets) else part
    reached = behind_line(analysis, target) if target in layout.lines else _outlets_of(analysis, target)
    route = next((analysis.routes[name] for name in sorted(reached) if analysis.routes[name] is not None), None)
    if route is None:
        return (), frozenset()
    best = None
    for leg in route.legs:
        reverse = not leg.forward
        for tap in sorted(leg.line.inline, key=lambda one: one.at_m, reverse=reverse):
            if tap.kind != "isolating_valve":
                continue
            at_fault = leg.line.id == target and cause is not None and cause.at_m is not None
            beyond = at_fault and ((tap.at_m >= cause.at_m) != reverse)  # type: ignore[union-attr, operator]
            if not beyond:
                best = (leg.line, tap.at_m)
        if leg.line.id == target:
            break
    if best is None:
        without = drawing_from(analysis, route.vessel.id)
        told = say("No tap sits before it: shut the outlet of {}. {}", label(route.vessel), _who(analysis, without))
        return told, without
    line, at_m = best
    without = behind_line(analysis, line.id)
    at = Quantity(value=at_m, unit="m", digits=0)
    return say("Shut the tap of {} at {}. {}", label(line), at, _who(analysis, without)), without


def _who(analysis: Analysis, without: frozenset[str]) -> Wording:
    layout = analysis.model.layout
    names = [label(layout.outlets[name]) for name in sorted(without)]
    heads = sum(demand.head for demand in analysis.herds if set(demand.outlets) & without)
    if not names:
        return say("Nobody goes without.")
    animals = say(", {} animals", str(heads)) if heads else ()
    return say("Without water then: {}{}.", ", ".join(names), animals)


def _lasts(reserve: Reserve, *, dry: bool) -> Wording:
    heads = sum(demand.head for demand in reserve.herds)
    full = say("{} animals at {}: a full trough lasts them {}", str(heads), label(reserve.vessel),
        duration(reserve.days * DAY_S))  # fmt: skip
    return say("{}; it is low, so they need water now.", full) if dry else say("{}.", full)


def _standby(analysis: Analysis, waiting: list[Reserve]) -> Wording:
    """Return what could bring water meanwhile, and for how long it does."""
    daily_l = sum(one.daily_m3 for one in waiting) / LITRE_M3
    if daily_l <= 0.0:
        return ()
    hauls = [one for one in analysis.document.inflows if isinstance(one, HaulInflow)]
    ways = [
        say("a trip of {} lasts them {}", Quantity(value=one.trip_l, unit="L"), duration(one.trip_l / daily_l * DAY_S))
        for one in hauls
    ]
    tote = Quantity(value=TOTE_L, unit="L")
    ways = ways or [say("a tote of {} on a trailer lasts them {}", tote, duration(TOTE_L / daily_l * DAY_S))]
    return say("Standby: {}; ask also for a neighbour's tap.", listed(ways, " or "))


def _lost(analysis: Analysis, symptom: Symptom, own: frozenset[str]) -> Wording:
    if symptom != "overflow":
        return ()
    runs = [one for one in analysis.fed_outlets if one.id in own and isinstance(one, FloatValveOutlet)]
    if not runs:
        return ()
    lpm = lpm_from_m3s(max(analysis.flows_alone_m3s.get(one.id, 0.0) for one in runs))
    hourly = Quantity(value=60.0 * lpm, unit="L")
    return say("At most {} run away in an hour if the valve stands wide open.", hourly)
