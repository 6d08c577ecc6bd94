"""What happens in a run, in words: when each event begins and is seen, what runs dry, who finds no water."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

import numpy as np

from leadsman.core.base.units import DAY_S, HOUR_S, MINUTE_S
from leadsman.core.base.wording import Quantity, Wording, duration, say
from leadsman.core.dayrun.happening import end_s, next_look_s
from leadsman.core.dayrun.record import Event
from leadsman.core.dayrun.run import DayRun
from leadsman.core.design import DayEvent, Design, EventBase, HerdMoved, Leak, Vessel, label
from leadsman.core.design.vessel import FILLED_BY_FLOATS

Weight = Literal["stop", "fix", "watch", "told"]

BEGINS = {
    "source_lost": "{} brings nothing",
    "stuck_open": "{} sticks open",
    "stuck_shut": "{} sticks shut",
    "partly_blocked": "{} is partly blocked",
    "hose_off": "{} comes off at its end",
    "split": "{} splits",
    "tap_open": "A tap is left open at {}",
    "leak": "{} leaks",
    "herd_moved": "{} drink elsewhere",
    "freeze": "{} freezes",
    "check_valve_failed": "The check valve of {} lets water back",
    "tipped": "{} is tipped over",
    "shut_by_hand": "{} is shut by hand",
    "siphon_primed": "{} is primed",
}
SEEN = {
    "source_lost": "no water comes in from {}",
    "stuck_open": "{} runs and does not stop",
    "stuck_shut": "nothing comes out of {}",
    "partly_blocked": "{} runs slower than before",
    "hose_off": "water on the ground at the end of {}",
    "split": "wet ground along {}",
    "tap_open": "a tap is running at {}",
    "leak": "wet ground below {}",
    "herd_moved": "{} drink elsewhere",
    "freeze": "{} is frozen",
    "check_valve_failed": "{} has drained back",
    "tipped": "{} lies on its side",
    "shut_by_hand": "{} is shut",
    "siphon_primed": "{} runs again",
}
PLAIN = ("hot_spell", "herd_moved", "shut_by_hand", "siphon_primed")  # nobody has to search for these


@dataclass(frozen=True, kw_only=True)
class Happening:
    """One line of what happens: when [s], what kind of thing, to which part, in words, and how bad it is."""

    time_s: float
    kind: str
    where: str
    told: Wording
    weight: Weight


@dataclass(frozen=True, kw_only=True)
class Waiting:
    """Animals that find no water: which herd, at which vessel, from when to when [s]."""

    herd: str
    vessel: str
    head: int
    from_s: float
    to_s: float

    @property
    def animal_hours(self) -> float:
        return self.head * (self.to_s - self.from_s) / HOUR_S


@dataclass(frozen=True, kw_only=True)
class Story:
    """A run as it is told, its lines in order of time.

    `lost_m3` is what left without being used: over the brims of vessels, out of holes, taps and hoses, by leaks.
    `least_store_m3` is the least that the stores of one system held above their outlets, at `least_at_s`, of
    `most_store_m3`: of the system that comes lowest for its size; `store` is its largest vessel, None without any.
    """

    happenings: list[Happening]
    waiting: list[Waiting]
    lost_m3: float
    store: str | None
    least_store_m3: float
    least_at_s: float
    most_store_m3: float
    sentence: Wording
    weight: Weight


def story_of(design: Design, run: DayRun, length_s: float) -> Story:
    """Return a run as it is told."""
    names = {part.id: label(part) for part in _parts(design)}
    waiting = list(_waiting(design, run, run.ended_s or length_s))
    lines = [line for event in run.events if (line := _line(design, names, waiting, event)) is not None]
    lines += [line for event in design.events for line in _seen(design, names, event, length_s)]
    store, least, at_s, most = _store(design, run)
    sentence, weight = _verdict(design, names, run, waiting)
    return Story(
        happenings=sorted(lines, key=lambda line: line.time_s),
        waiting=waiting,
        lost_m3=_lost_m3(design, run),
        store=store,
        least_store_m3=least,
        least_at_s=at_s,
        most_store_m3=most,
        sentence=sentence,
        weight=weight,
    )


def clock(time_s: float) -> str:
    """Return a time from midnight on as a clock shows it, with its day where it is not the first."""
    minutes = int(time_s / MINUTE_S + 1e-6)
    day, rest = divmod(minutes, int(DAY_S / MINUTE_S))
    told = f"{rest // 60:02d}:{rest % 60:02d}"
    return told if day == 0 else f"day {day + 1}, {told}"


def _parts(design: Design) -> list:  # type: ignore[type-arg]
    return [*design.places, *design.vessels, *design.lines, *design.outlets, *design.inflows, *design.herds]


def _line(design: Design, names: dict[str, str], waiting: list[Waiting], event: Event) -> Happening | None:
    told, weight = _told(design, names, waiting, event)
    if told is None:
        return None
    return Happening(time_s=event.time_s, kind=event.kind, where=event.where, told=told, weight=weight)


def _told(design: Design, names: dict[str, str], waiting: list[Waiting], event: Event) -> tuple[Wording | None, Weight]:
    name = names.get(event.where, event.where)
    if event.kind in ("begins", "ends"):
        (own,) = [own for own in design.events if own.id == event.where]
        if event.kind == "begins":
            return _begins(own, names), "told" if own.kind in PLAIN else "fix"
        return None if own.until_look else say("Over: {}", _begins(own, names)), "told"  # else the look tells it
    vessel = next((vessel for vessel in design.vessels if vessel.id == event.where), None)
    match event.kind:
        case "overflows" if vessel is not None:
            return _overflows(vessel, names)
        case "runs-dry" if vessel is not None:
            return say("{} is down to its outlet and gives only what comes in", name), _of_a_store(vessel)
        case "below-outlet" if vessel is not None:
            return say("{} falls below its outlet and gives nothing", name), _of_a_store(vessel)
        case "empty":
            there = [one for one in waiting if one.vessel == event.where and one.from_s == event.time_s]
            if not there:
                return say("{} is empty", name), "fix"
            who = ", ".join(f"{names[one.herd]}, {one.head} animals," for one in there)
            return say("{} is empty: {} find no water", name, who), "stop"
        case "wet-again":
            return say("{} has water again", name), "told"
        case "siphon-breaks":
            return say("The siphon {} draws air: nothing runs until it is primed", name), "stop"
    return say(SAID.get(event.kind, "{}"), name), "told"


DRY = ("runs-dry", "empty", "below-outlet")
SAID = {
    "overflow-ends": "{} no longer runs over",
    "gives-again": "{} gives water again",
    "pump-starts": "{} starts",
    "pump-stops": "{} stops",
}


def _of_a_store(vessel: Vessel) -> Weight:
    """How bad it is that a vessel is down to its outlet: a chamber of a spring is there to pass on what comes."""
    return "told" if vessel.role == "chamber" else "fix"


def _overflows(vessel: Vessel, names: dict[str, str]) -> tuple[Wording, Weight]:
    name = label(vessel)
    if vessel.overflow_into is not None:
        return say("{} runs over into {}", name, names[vessel.overflow_into]), "told"
    if vessel.overflow_onto == "drain":
        return say("{} runs over into its drain", name), "told"
    if vessel.overflow_onto == "ground":
        return say("{} runs over onto the ground where animals stand: mud, and ice in frost", name), "watch"
    return say("{} runs over; where that water goes is unknown", name), "watch"


def _phrase(event: EventBase, phrases: dict[str, str]) -> str:
    return phrases.get(event.kind, "{}")  # type: ignore[attr-defined]


def _where(event: DayEvent, names: dict[str, str]) -> str:
    where = getattr(event, "where", None)
    return "Everything" if where is None else names.get(where, where)


def _begins(event: DayEvent, names: dict[str, str]) -> Wording:
    match event:
        case HerdMoved():
            return say("{} drink at {} from now on", names[event.where], names[event.to])
        case Leak():
            rate = Quantity(value=event.flow_lpm, unit="L/min")
            return say("{} leaks {}", names[event.where], rate)
    if event.kind == "hot_spell":
        return say("It is {}", Quantity(value=event.air_c, unit="°C"))
    return say(_phrase(event, BEGINS), _where(event, names))


def _seen(design: Design, names: dict[str, str], event: DayEvent, length_s: float) -> Iterator[Happening]:
    """Yield the look at which an event is noticed, where it still lasts then."""
    look = next_look_s(design, event.at_s, length_s)
    if event.kind in PLAIN or look is None or end_s(design, event, length_s) < look:
        return
    what = say(_phrase(event, SEEN), _where(event, names))
    told = say("Next look, {} later: {}", duration(look - event.at_s), what)
    if event.until_look:
        told = say("{}; it is put right", told)
    yield Happening(time_s=look, kind="look", where=event.id, told=told, weight="told" if event.until_look else "fix")


def _waiting(design: Design, run: DayRun, length_s: float) -> Iterator[Waiting]:
    """Yield the spells in which herds want to drink and their vessel is empty."""
    fills = {outlet.id: outlet.fills for outlet in design.outlets}
    at = {herd.id: {fills.get(herd.outlet)} for herd in design.herds}
    for moved in design.events:
        if isinstance(moved, HerdMoved):
            at[moved.where].add(fills.get(moved.to))
    open_since: dict[str, float] = {}
    ends = [Event(time_s=length_s, kind="wet-again", where=vessel.id) for vessel in design.vessels]
    for event in [*run.events, *ends]:
        if event.kind == "empty":
            open_since[event.where] = event.time_s
        elif event.kind == "wet-again" and event.where in open_since:
            began = open_since.pop(event.where)
            for herd in design.herds:
                if event.where in at[herd.id] and event.time_s > began and _drinks(run, herd.id, began, event.time_s):
                    yield Waiting(herd=herd.id, vessel=event.where, head=herd.head, from_s=began, to_s=event.time_s)


def _drinks(run: DayRun, herd_id: str, from_s: float, to_s: float) -> bool:
    """Whether a herd wants to drink in a time."""
    return any(begins < to_s and ends > from_s for begins, ends in run.wanting_s.get(herd_id, []))


def _lost_m3(design: Design, run: DayRun) -> float:
    over = sum(
        float(run.over_m3[number]) for number, vessel in enumerate(design.vessels) if vessel.overflow_into is None
    )
    leaks = sum(run.beside_m3.get(event.id, 0.0) for event in design.events if isinstance(event, Leak))
    return over + sum(run.escaped_m3.values()) + leaks


def _store(design: Design, run: DayRun) -> tuple[str | None, float, float, float]:
    """Return of the system that comes lowest its largest store, the least it held [m3], when [s], and the most."""
    lowest: tuple[float, str, float, float, float] | None = None
    number = {vessel.id: index for index, vessel in enumerate(design.vessels)}
    for group in _stores(design) if len(run.times_s) else []:
        held = run.usable_m3[:, [number[vessel] for vessel in group]]
        together = held.sum(axis=1)
        least, most = int(np.argmin(together)), float(together.max())
        share = float(together[least]) / most if most > 0.0 else 0.0
        if lowest is None or share < lowest[0]:
            largest = group[int(np.argmax(held.max(axis=0)))]
            lowest = share, largest, float(together[least]), float(run.times_s[least]), most
    return lowest[1:] if lowest else (None, 0.0, 0.0, 0.0)


def _stores(design: Design) -> list[list[str]]:
    """Return the vessels that give to lines and that no float fills, those together that lines join."""
    filled = {outlet.fills for outlet in design.outlets}
    joined: dict[str, set[str]] = {}
    for line in design.lines:
        joined.setdefault(line.from_, set()).add(line.to)
        joined.setdefault(line.to, set()).add(line.from_)
    groups, seen = [], set[str]()
    for vessel in design.vessels:
        if vessel.id in seen or vessel.id not in joined:
            continue
        reached, queue = {vessel.id}, [vessel.id]
        while queue:
            fresh = joined.get(queue.pop(), set()) - reached
            reached |= fresh
            queue += fresh
        seen |= reached
        stores = [
            other.id
            for other in design.vessels
            if other.id in reached and other.id not in filled and other.role not in FILLED_BY_FLOATS
        ]
        groups += [stores] if stores else []
    return groups


def _verdict(design: Design, names: dict[str, str], run: DayRun, waiting: list[Waiting]) -> tuple[Wording, Weight]:
    """Return whether it lasts, in one sentence."""
    if run.why:
        return say("The run ends at {}: {}", clock(run.ended_s or 0.0), WHY[run.why]), "stop"
    if waiting:
        worst = max(waiting, key=lambda one: one.animal_hours)
        own = [one for one in waiting if (one.vessel, one.herd) == (worst.vessel, worst.herd)]
        hours = duration(sum(one.to_s - one.from_s for one in own))
        text = "No: {} is empty from {}. {}, {} animals, find no water there for {}"
        values = (names[worst.vessel], clock(own[0].from_s), names[worst.herd], str(worst.head), hours)
        return say(text, *values), "stop"
    chambers = {vessel.id for vessel in design.vessels if vessel.role == "chamber"}
    dry = [event for event in run.events if event.kind in DRY and event.where not in chambers]
    if dry:
        text = f"{'All drink, but ' if design.herds else ''}{{}} is down to its outlet at {{}}"
        return say(text, names.get(dry[0].where, dry[0].where), clock(dry[0].time_s)), "fix"
    over = [event for event in run.events if event.kind == "overflows" and _unwanted(design, event.where)]
    if over:
        return say("Yes; {} runs over from {}", names[over[0].where], clock(over[0].time_s)), "watch"
    return say("Yes: nothing runs dry{}", ", and every herd drinks" if design.herds else ""), "told"


WHY = {
    "no-answer": "the network has no solution there",
    "steps": "it takes more steps than a run may",
}


def _unwanted(design: Design, vessel_id: str) -> bool:
    (vessel,) = [vessel for vessel in design.vessels if vessel.id == vessel_id]
    return vessel.overflow_into is None and vessel.overflow_onto != "drain"
