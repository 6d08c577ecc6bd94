"""When herds drink and how fast: mobs as whole animals that find a place at the rim, others over the day."""

import math
from collections.abc import Iterator
from dataclasses import replace

import numpy as np

from leadsman.core.base.array import Floats
from leadsman.core.base.units import HOUR_S, LITRE_M3
from leadsman.core.dayrun.spell import Spell
from leadsman.core.design import Design, Scenario, Vessel
from leadsman.core.farm.day_demand import drinking_spells
from leadsman.core.farm.demand import HerdDemand, herd_demands
from leadsman.core.farm.drinking import Habit, Mob, habit_of, mob_of, rim_m
from leadsman.core.farm.mob_queue import MobQueues

PIECE_S, MOST_PIECES = 180.0, 8  # of even flow, alike for all mobs: they then turn together


def herd_spells(design: Design, scenario: Scenario) -> Iterator[Spell]:
    """Yield when each herd drinks in a day at the vessels that its outlets fill; what it does not find it still wants.

    Raises: as `herd_demands`.
    """
    fills = {outlet.id: outlet.fills for outlet in design.outlets}
    vessels = {vessel.id: vessel for vessel in design.vessels}
    for demand in herd_demands(design, scenario):
        there = [vessels[filled] for outlet in demand.outlets if (filled := fills.get(outlet)) is not None]
        if not there:
            continue
        for number, (start_h, length_h, litres) in enumerate(drinking_spells(demand)):
            vessel, begins_s = there[number % len(there)], start_h * HOUR_S
            for since_s, until_s, flow_m3s in _pieces(demand, vessel, length_h * HOUR_S, litres * LITRE_M3):
                yield Spell(
                    of=demand.herd.id,
                    begins_s=begins_s + since_s,
                    ends_s=begins_s + until_s,
                    flow_m3s=flow_m3s,
                    from_=vessel.id,
                    thirst=True,
                )


def _pieces(
    demand: HerdDemand, vessel: Vessel, length_s: float, volume_m3: float
) -> Iterator[tuple[float, float, float]]:
    """Yield pieces of even flow [m3/s] of one spell, from and to [s after it begins]."""
    habit = habit_of(demand.herd) if demand.herd.drinking else None
    mob = _mob(demand, habit, vessel) if habit and habit.pattern == "mob" and demand.head > 0 else None
    if mob is None or mob.places < 1.0 or mob.draught_m3 <= 0.0:
        if length_s > 0.0:
            yield 0.0, length_s, volume_m3 / length_s
        return
    times_s, drunk = served(mob)
    scale = volume_m3 / drunk[-1]
    for since_s, until_s, before, after in zip(times_s, times_s[1:], drunk, drunk[1:], strict=False):
        yield since_s, until_s, float((after - before) * scale / (until_s - since_s))


def _mob(demand: HerdDemand, habit: Habit, vessel: Vessel) -> Mob:
    visits = max(habit.visits, float(len(demand.outlets)))
    return mob_of(demand.head, demand.per_head_lpd, replace(habit, visits=visits), rim_m(vessel), vessel.nipples)


def served(mob: Mob, piece_s: float = PIECE_S) -> tuple[list[float], Floats]:
    """Return what a mob has drunk [m3] at evenly spread times [s] until all have, where the trough gives enough.

    Args:
        piece_s: how far apart [s]; twice, four times and so on as far where it takes long.

    Source: as `MobQueues`, whose clock then runs all the time.
    """
    queue = MobQueues([mob])
    queue.let_come(0.0, float("inf"))
    last = float(queue.starts_m3[0][queue.exists[0]].max()) + mob.draught_m3
    while last / mob.drinks_m3s > MOST_PIECES * piece_s:
        piece_s *= 2.0
    pieces = max(1, math.ceil(last / mob.drinks_m3s / piece_s - 1e-9))
    times_s = piece_s * np.arange(pieces + 1)
    return times_s.tolist(), np.array([float(queue.drunk_m3(np.array([mob.drinks_m3s * at]))[0]) for at in times_s])
