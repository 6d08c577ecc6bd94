"""Timers that water plants: when each zone runs, which floats call for water meanwhile, and starts that starve none."""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

from leadsman.core.base.units import m3s_from_lpm
from leadsman.core.design import EmitterOutlet, FixedOutlet, FloatValveOutlet, OutletBase, Timer
from leadsman.core.design.outlet_law import FULLY_OPEN
from leadsman.core.farm.day_demand import drinking_spells
from leadsman.core.farm.demand import HerdDemand
from leadsman.core.farm.watering_spells import DAY_MIN, Spell
from leadsman.core.steady.answer import OutletState, SteadyState
from leadsman.core.steady.case import Case
from leadsman.core.steady.network_model import NetworkModel
from leadsman.core.steady.solve import solve_cases

STEP_MIN = 15  # between the starts that are tried
ENOUGH_SHARE = 0.9  # of its rating an emitter is to give; of what it gets without the timers, a float of no requirement


@dataclass(frozen=True, kw_only=True)
class Clash:
    """A time at which zones starve an outlet that gets enough without them: it gets, and wants [m3/s]."""

    since: float
    until: float
    crops: tuple[str, ...]
    timers: tuple[str, ...]
    outlet: str
    gets_m3s: float
    wanted_m3s: float


def float_calls(herds: Iterable[HerdDemand], floats: dict[str, FloatValveOutlet]) -> list[Spell]:
    """Return when floats call for water on the day: while the herds drink there, each at all of its stops."""
    return [
        Spell(outlet=outlet, since=since * 60.0, until=(since + length) * 60.0)
        for demand in herds
        if demand.daily_l > 0.0
        for since, length, _ in drinking_spells(demand)
        for outlet in demand.outlets
        if outlet in floats
    ]


class Watch:
    """What timers do to the other outlets of a network, each state of open zones and floats solved once.

    Args:
        wanted_m3s: flow wanted of an outlet where one is stated.
        standing: the chosen case: what it shuts stays shut.
    """

    def __init__(
        self, model: NetworkModel, standing: Case, outlets: Sequence[OutletBase], wanted_m3s: dict[str, float]
    ) -> None:
        self.model, self.standing, self.wanted_m3s = model, standing, wanted_m3s
        self.outlets = {outlet.id: outlet for outlet in outlets}
        self._states: dict[frozenset[str], SteadyState] = {}

    def clashes(self, spells: Sequence[tuple[Timer, Spell]], calls: Sequence[Spell]) -> list[Clash]:
        """Return every time at which an outlet has too little because of the zones that run then."""
        found: list[Clash] = []
        for since, until in pairwise(_turns([*(spell for _, spell in spells), *calls])):
            running = [
                (timer, spell) for timer, spell in spells if spell.outlet in self.outlets and _runs(spell, since)
            ]
            calling = frozenset(call.outlet for call in calls if _runs(call, since) and call.outlet in self.outlets)
            zones = frozenset(spell.outlet for _, spell in running)
            for outlet, gets, wanted in self._starved(zones, calling) if zones else ():
                crops = tuple(dict.fromkeys(spell.part_id for _, spell in running))
                timers = tuple(dict.fromkeys(timer.id for timer, _ in running))
                last = found[-1] if found else None
                if last and (last.outlet, last.crops, last.until) == (outlet, crops, since):
                    found[-1] = replace(last, until=until)
                else:
                    found.append(
                        Clash(
                            since=since,
                            until=until,
                            crops=crops,
                            timers=timers,
                            outlet=outlet,
                            gets_m3s=gets,
                            wanted_m3s=wanted,
                        )
                    )
        return found

    def _starved(self, zones: frozenset[str], calling: frozenset[str]) -> Iterator[tuple[str, float, float]]:
        """Yield outlets that get too little with all of these open, though each has enough without the zones' doing."""
        state = self._state(zones | calling)
        for outlet_id in sorted(zones | calling):
            without = frozenset({outlet_id}) if outlet_id in zones else calling - zones
            enough = self._enough_m3s(outlet_id, self._state(without))
            gets = state.outlets[outlet_id].judged_flow_m3s
            short = state.outlets[outlet_id].state in (OutletState.SHORT, OutletState.DRY)
            if enough is not None and (short or gets < enough * (1.0 - 1e-6)):
                yield outlet_id, 0.0 if short else gets, enough

    def _enough_m3s(self, outlet_id: str, without: SteadyState) -> float | None:
        """Return what is enough for an outlet [m3/s]; None where it has not enough even without the others."""
        outlet, alone = self.outlets[outlet_id], without.outlets[outlet_id]
        if alone.state is not OutletState.RUNNING:
            return None
        stated = self.wanted_m3s.get(outlet_id)
        if stated is None:
            stated = ENOUGH_SHARE * alone.judged_flow_m3s if not isinstance(outlet, FixedOutlet) else alone.flow_m3s
            if isinstance(outlet, EmitterOutlet):
                stated = min(stated, ENOUGH_SHARE * m3s_from_lpm(outlet.flow_lpm))
        return stated if alone.judged_flow_m3s >= stated * (1.0 - 1e-6) else None

    def _state(self, drawing: frozenset[str]) -> SteadyState:
        if drawing not in self._states:
            openings = {opening: FULLY_OPEN if opening in drawing else 0.0 for opening in self.standing.openings}
            self._states[drawing] = solve_cases(self.model, {"": replace(self.standing, openings=openings)})[""]
        return self._states[drawing]


def starts_that_starve_none(
    watch: Watch, runs: Sequence[tuple[Timer, list[Spell]]], calls: Sequence[Spell]
) -> dict[str, str] | None:
    """Return a start for each timer at which nothing is starved, each near its own; or None if there is none.

    The timers are placed one after the other, the longest first, each at the nearest quarter of an hour that works
    with those before it.
    """
    placed: list[tuple[Timer, Spell]] = []
    starts: dict[str, str] = {}
    for timer, spells in sorted(runs, key=lambda run: -sum(spell.until - spell.since for spell in run[1])):
        for moved_min in sorted(range(-DAY_MIN // 2, DAY_MIN // 2, STEP_MIN), key=lambda by: (abs(by), by > 0)):
            own = [(timer, _moved(spell, moved_min)) for spell in spells]
            if not watch.clashes([*placed, *own], calls):
                placed += own
                at = (timer.starts_min + moved_min) % DAY_MIN
                starts[timer.id] = f"{at // 60:02d}:{at % 60:02d}"
                break
        else:
            return None
    return starts


def _moved(spell: Spell, by_min: float) -> Spell:
    since = (spell.since + by_min) % DAY_MIN
    return replace(spell, since=since, until=since + spell.until - spell.since)


def _runs(spell: Spell, at_min: float) -> bool:
    return (at_min + 1e-6 - spell.since) % DAY_MIN < min(spell.until - spell.since, DAY_MIN) - 1e-9


def _turns(spells: Iterable[Spell]) -> list[float]:
    """Return the minutes of the day at which anything begins or ends, with midnight at both ends."""
    ends = {end % DAY_MIN for spell in spells for end in (spell.since, spell.until)}
    return sorted(ends | {0.0, float(DAY_MIN)})
