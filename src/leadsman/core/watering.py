"""How the herds of a design fare at their troughs: mobs over time, and peaks where water is near."""

from collections.abc import Sequence
from dataclasses import dataclass

from leadsman.core.answer import SteadyState
from leadsman.core.design import FloatValveOutlet, Vessel
from leadsman.core.drinking import Habit, Mob, NearWater, habit_of, mob_of, near_water, rim_m, shared_rim
from leadsman.core.need import HerdNeed
from leadsman.core.store import shape_of
from leadsman.core.trough_run import MobRun, Trough, TroughRun, trough_runs
from leadsman.core.units import LITRE_M3


@dataclass(frozen=True)
class Visit:
    """A mob of one herd at its trough, and how it fares."""

    need: HerdNeed
    habit: Habit
    mob: Mob
    run: MobRun


@dataclass(frozen=True)
class Watering:
    """A trough with the herds that drink there: visits of mobs with the trough's run, and herds with water near."""

    outlet: FloatValveOutlet
    vessel: Vessel
    rim_m: float
    visits: tuple[Visit, ...]
    run: TroughRun | None
    near: tuple[tuple[HerdNeed, Habit, NearWater], ...]


def waterings(herds: Sequence[HerdNeed], outlets: Sequence[FloatValveOutlet], state: SteadyState) -> list[Watering]:
    """Return how every trough serves the herds that are said to drink there; all mobs come at once.

    Left out are herds of which nothing is said, without heads, or at an outlet that fills no vessel. Of several
    stops in a day the first counts.

    Args:
        outlets: float valves that are not shut.
        state: what else draws, and where the tanks stand.
    """
    drawing = {outlet.id: outlet for outlet in outlets}
    needs: dict[str, list[tuple[HerdNeed, Habit]]] = {}
    for need in herds:
        outlet = drawing.get(need.outlets[0])
        if outlet and outlet.fills and need.herd.drinking and need.head > 0 and need.per_head_lpd > 0.0:
            needs.setdefault(outlet.id, []).append((need, habit_of(need.herd)))
    troughs: dict[str, Trough] = {}
    for outlet_id, own in needs.items():
        outlet = drawing[outlet_id]
        vessel = state.layout.vessels[outlet.fills or ""]
        mobs = [_mob(need, habit, vessel) for need, habit in own if habit.pattern == "mob"]
        if mobs and all(mob.places >= 1.0 for mob in mobs):
            troughs[outlet_id] = Trough(outlet, vessel, tuple(shared_rim(mobs)))
    flow = state.solved.used
    runs = trough_runs(flow.model, flow.case, list(troughs.values())) if troughs and flow.converged else []
    by_outlet = {run.trough.outlet.id: run for run in runs}
    served = []
    for outlet_id, own in needs.items():
        outlet, run = drawing[outlet_id], by_outlet.get(outlet_id)
        vessel = state.layout.vessels[outlet.fills or ""]
        mobbing = [(need, habit) for need, habit in own if habit.pattern == "mob"]
        served.append(
            Watering(
                outlet=outlet,
                vessel=vessel,
                rim_m=rim_m(vessel),
                visits=tuple(
                    Visit(need, habit, mob, one)
                    for (need, habit), mob, one in zip(mobbing, run.trough.mobs, run.mobs, strict=True)
                )
                if run
                else (),
                run=run,
                near=tuple(
                    (need, habit, _near(state, outlet, vessel, need, habit))
                    for need, habit in own
                    if habit.pattern == "near"
                ),
            )
        )
    return served


def _mob(need: HerdNeed, habit: Habit, vessel: Vessel) -> Mob:
    return mob_of(need.head, need.per_head_lpd, habit, rim_m(vessel), vessel.nipples)


def _near(state: SteadyState, outlet: FloatValveOutlet, vessel: Vessel, need: HerdNeed, habit: Habit) -> NearWater:
    inflow = state.outlets[outlet.id].judged_flow_m3s
    full_m = min(outlet.valve.closes_at_m, vessel.brim_m)
    return near_water(need.daily_l * LITRE_M3, habit, inflow, shape_of(vessel).volume_m3(full_m))
