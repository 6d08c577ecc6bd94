"""For how long animals have water once every source is lost, by running the plan over time."""

from collections.abc import Callable, Collection, Iterable, Sequence
from dataclasses import dataclass

from leadsman.core.base.units import HOUR_S
from leadsman.core.dayrun.record import Event
from leadsman.core.dayrun.run import Wanting, day_run
from leadsman.core.dayrun.story import DRY
from leadsman.core.design import Design, FloatValveOutlet, Scenario, SourceLost

LOOKED_AT_EVERY_S = 2.0 * HOUR_S
WITHOUT_S = 3.0 * HOUR_S  # a trough that a mob empties for less is too small, not without refill; ours, no source


@dataclass(frozen=True, kw_only=True)
class NoRefill:
    """When water first lacks [s], by vessel, of those where it does; for how long that was looked at [s].

    It lacks where a vessel that animals drink from is empty for three hours or more, from when a herd wants to drink
    then; in a plan without animals, where a vessel is down to its outlet or empty.
    """

    lacks_s: dict[str, float]
    length_s: float

    @property
    def first(self) -> tuple[str, float] | None:
        """Where water lacks first, and when [s]; None where it does not."""
        return min(self.lacks_s.items(), key=lambda vessel: vessel[1], default=None)


def no_refill(
    design: Design,
    scenario: Scenario | None,
    length_s: float,
    groups: Iterable[Collection[str]] | None = None,
    watch: Callable[[float], None] = lambda _: None,
) -> NoRefill:
    """Return when water lacks with every source lost from midnight on, and nothing else happening.

    What floats fill is full at first, as on any other day; stores stand as the document or the case has them.

    Args:
        length_s: for how long it is looked at [s]; it ends sooner where water lacks in each group.
        groups: vessels at which animals drink, those of each system together; all together where None.
        watch: as for `day_run`.
    Raises: as `day_run`.
    """
    sources = [*design.inflows, *design.pressure_sources]
    lost = [
        SourceLost(id=f"no-refill-{number}", kind="source_lost", where=source.id, at_s=0.0)
        for number, source in enumerate(sources)
    ]
    alone = with_floats_shut(design).model_copy(update={"events": lost})
    there = drinking_vessels(design)
    wanted = [set(group) for group in groups] if groups is not None else [set(there)]

    def all_lack(events: Sequence[Event], wanting_s: Wanting, time_s: float) -> bool:
        if not there:
            return any(event.kind in DRY for event in events)
        lacks = _lacks_s(design, events, wanting_s, time_s)
        return all(group & lacks.keys() for group in wanted)

    run = day_run(alone, length_s, [0.0], scenario, watch=watch, stop=all_lack, looks_s=LOOKED_AT_EVERY_S)
    lacks = _lacks_s(design, run.events, run.wanting_s, run.length_s) if there else first_dry_s(run.events)
    return NoRefill(lacks_s=lacks, length_s=run.length_s if run.ended_s is None else run.ended_s)


def with_floats_shut(design: Design) -> Design:
    """Return a design in which each vessel that a float fills stands where its highest float shuts, or higher."""
    shuts_m: dict[str, float] = {}
    for outlet in design.outlets:
        if isinstance(outlet, FloatValveOutlet) and outlet.fills is not None and not outlet.shut:
            shuts_m[outlet.fills] = max(outlet.valve.closes_at_m, shuts_m.get(outlet.fills, 0.0))
    vessels = [
        vessel.model_copy(update={"level_m": min(max(shuts_m[vessel.id], vessel.level_m), vessel.brim_m)})
        if vessel.id in shuts_m
        else vessel
        for vessel in design.vessels
    ]
    return design.model_copy(update={"vessels": vessels})


def drinking_vessels(design: Design) -> list[str]:
    """Return the vessels that herds drink from."""
    fills = {outlet.id: outlet.fills for outlet in design.outlets}
    return sorted({vessel for herd in design.herds if herd.head > 0 and (vessel := fills.get(herd.outlet))})


def first_dry_s(events: Iterable[Event]) -> dict[str, float]:
    """Return when each vessel first was down to its outlet or empty [s]."""
    found: dict[str, float] = {}
    for event in events:
        if event.kind in DRY:
            found.setdefault(event.where, event.time_s)
    return found


def _lacks_s(design: Design, events: Sequence[Event], wanting_s: Wanting, until_s: float) -> dict[str, float]:
    fills = {outlet.id: outlet.fills for outlet in design.outlets}
    found: dict[str, float] = {}
    for vessel, begins, ends in _spells(events, until_s):
        for herd in design.herds:
            wants = wanting_s.get(herd.id, ()) if fills.get(herd.outlet) == vessel else ()
            first = min((max(begins, since) for since, until in wants if until > begins and since < ends), default=None)
            if first is not None:
                found[vessel] = min(first, found.get(vessel, first))
    return found


def _spells(events: Sequence[Event], until_s: float) -> list[tuple[str, float, float]]:
    """Return each vessel that is empty for long enough, from when to when [s]."""
    since: dict[str, float] = {}
    found = []
    ends = [Event(time_s=until_s, kind="wet-again", where=vessel) for vessel in {event.where for event in events}]
    for event in [*events, *ends]:
        if event.kind == "empty":
            since.setdefault(event.where, event.time_s)
        elif event.kind == "wet-again" and event.where in since:
            begins = since.pop(event.where)
            if event.time_s - begins >= WITHOUT_S:
                found.append((event.where, begins, event.time_s))
    return found
