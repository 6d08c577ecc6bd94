"""How the herds of a design fare at their troughs: mobs over time, and high points where water is near."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from leadsman.core.analysis.trough_run import MobRun, Trough, TroughRun, trough_runs
from leadsman.core.base.units import LITRE_M3
from leadsman.core.design import FloatValveOutlet, Vessel
from leadsman.core.design.store import kept_m3, shape_of
from leadsman.core.farm.demand import HerdDemand
from leadsman.core.farm.drinking import (
    Habit,
    Mob,
    NearWater,
    habit_of,
    mob_of,
    near_water,
    out_of_reach_m3,
    rim_m,
    shared_rim,
)
from leadsman.core.physics.vessel import level_m
from leadsman.core.steady.answer import SteadyState


@dataclass(frozen=True, kw_only=True)
class Visit:
    """A mob of one herd at its trough, and how it fares."""

    demand: HerdDemand
    habit: Habit
    mob: Mob
    run: MobRun


@dataclass(frozen=True, kw_only=True)
class Watering:
    """A trough with the herds that drink there: visits of mobs with the trough's run, and herds with water near.

    `outlets` are all float valves that fill it; `outlet` is the first at which a herd is said to drink.
    """

    outlet: FloatValveOutlet
    outlets: tuple[FloatValveOutlet, ...]
    vessel: Vessel
    rim_m: float
    visits: tuple[Visit, ...]
    run: TroughRun | None
    near: tuple[tuple[HerdDemand, Habit, NearWater], ...]

    @property
    def lowest_m3(self) -> float:
        """What it holds when it is lowest while they drink [m3]."""
        full_m3 = _kept_m3(self.vessel, self.outlets)
        lowest = [self.run.lowest_m3] if self.run else []
        return min([*lowest, *(max(0.0, full_m3 - near.taken_m3) for *_, near in self.near)], default=full_m3)

    @property
    def lowest_kg(self) -> float | None:
        """What it weighs then, with its water [kg]; None where its own weight is unknown."""
        if self.vessel.empty_kg is None:
            return None
        return self.vessel.empty_kg * self.vessel.count + self.lowest_m3 / LITRE_M3

    @property
    def over_nipples_m(self) -> float | None:
        """Water over its nipples then [m], negative below them; None where it has none."""
        if not self.vessel.nipples:
            return None
        return level_m(shape_of(self.vessel), self.lowest_m3) - self.vessel.nipples_m

    @property
    def heads(self) -> float:
        """How many come to it: of mobs those that arrive together, of herds with water near all."""
        return sum(visit.mob.heads for visit in self.visits) + sum(demand.head for demand, *_ in self.near)


def waterings(herds: Sequence[HerdDemand], outlets: Sequence[FloatValveOutlet], state: SteadyState) -> list[Watering]:
    """Return how every trough serves the herds that are said to drink there; all mobs arrive together.

    Left out are herds of which nothing is said, without heads, or at an outlet that fills no vessel. A herd that
    moves in the day comes to each of its stops, one round after the other; of a trough that serves more than once,
    the time with most heads counts.

    Args:
        outlets: float valves that are not shut.
        state: what else draws, and where the tanks stand.
    """
    drawing = {outlet.id: outlet for outlet in outlets}
    rounds = max((len(demand.outlets) for demand in herds if demand.herd.drinking), default=0)
    found: dict[str, Watering] = {}
    first: dict[str, FloatValveOutlet] = {}
    for number in range(rounds):
        needs: dict[str, list[tuple[HerdDemand, Habit]]] = {}
        for demand in herds:
            outlet = drawing.get(demand.outlets[min(number, len(demand.outlets) - 1)])
            if outlet and outlet.fills and demand.herd.drinking and demand.head > 0 and demand.per_head_lpd > 0.0:
                needs.setdefault(outlet.fills, []).append((demand, habit_of(demand.herd)))
                first.setdefault(outlet.fills, outlet)
        for watering in _at_once(needs, first, outlets, state):
            if watering.vessel.id not in found or watering.heads > found[watering.vessel.id].heads:
                found[watering.vessel.id] = watering
    return list(found.values())


def _at_once(
    needs: dict[str, list[tuple[HerdDemand, Habit]]],
    first: dict[str, FloatValveOutlet],
    outlets: Sequence[FloatValveOutlet],
    state: SteadyState,
) -> list[Watering]:
    """Return how each vessel serves the herds that are at it at one time, through all the valves that fill it."""
    troughs: dict[str, Trough] = {}
    valves = {vessel_id: tuple(outlet for outlet in outlets if outlet.fills == vessel_id) for vessel_id in needs}
    for vessel_id, own in needs.items():
        vessel = state.layout.vessels[vessel_id]
        mobs = [_mob(demand, habit, vessel) for demand, habit in own if habit.pattern == "mob"]
        if mobs and all(mob.places >= 1.0 for mob in mobs):
            troughs[vessel_id] = Trough(outlets=valves[vessel_id], vessel=vessel, mobs=tuple(shared_rim(mobs)))
    flow = state.solved.used
    runs = trough_runs(flow.model, flow.case, list(troughs.values())) if troughs and flow.converged else []
    by_vessel = {run.trough.vessel.id: run for run in runs}
    return [
        _watering(first[vessel_id], valves[vessel_id], own, by_vessel.get(vessel_id), state)
        for vessel_id, own in needs.items()
    ]


def _watering(
    outlet: FloatValveOutlet,
    outlets: tuple[FloatValveOutlet, ...],
    own: list[tuple[HerdDemand, Habit]],
    run: TroughRun | None,
    state: SteadyState,
) -> Watering:
    vessel = state.layout.vessels[outlet.fills or ""]
    mobbing = [(demand, habit) for demand, habit in own if habit.pattern == "mob"]
    visits = zip(mobbing, run.trough.mobs, run.mobs, strict=True) if run else ()
    return Watering(
        outlet=outlet,
        outlets=outlets,
        vessel=vessel,
        rim_m=rim_m(vessel),
        visits=tuple(
            Visit(demand=demand, habit=habit, mob=mob, run=mob_run) for (demand, habit), mob, mob_run in visits
        ),
        run=run,
        near=tuple(
            (demand, habit, _near(state, outlets, vessel, demand, habit))
            for demand, habit in own
            if habit.pattern == "near"
        ),
    )


def _mob(demand: HerdDemand, habit: Habit, vessel: Vessel) -> Mob:
    visits = max(habit.visits, float(len(demand.outlets)))  # at least one at each stop of the day
    return mob_of(demand.head, demand.per_head_lpd, replace(habit, visits=visits), rim_m(vessel), vessel.nipples)


def _near(
    state: SteadyState, outlets: Sequence[FloatValveOutlet], vessel: Vessel, demand: HerdDemand, habit: Habit
) -> NearWater:
    inflow = sum(state.outlets[outlet.id].judged_flow_m3s for outlet in outlets)
    holds_m3 = max(0.0, _kept_m3(vessel, outlets) - out_of_reach_m3(vessel))
    return near_water(demand.daily_l * LITRE_M3, habit, inflow, holds_m3)


def _kept_m3(vessel: Vessel, outlets: Sequence[FloatValveOutlet]) -> float:
    """Return what a vessel holds [m3] where the last of its valves has it full."""
    return max(kept_m3(vessel, outlet.valve) for outlet in outlets)
