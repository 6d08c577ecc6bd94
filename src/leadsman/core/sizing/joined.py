"""Plans of the core, of what loops or joins tanks: what each costs, and the head that it leaves to the trees."""

from dataclasses import dataclass, replace
from math import prod

import numpy as np

from leadsman.core.base.array import Floats
from leadsman.core.base.cancel import CancelCheck
from leadsman.core.base.units import lpm_from_m3s
from leadsman.core.design.layout import Layout
from leadsman.core.sizing.problem import Problem
from leadsman.core.sizing.skeleton import Skeleton, flows_at
from leadsman.core.sizing.trials import Trials
from leadsman.core.sizing.wanted import Must

MOST_CORE = 8_000  # plans of the core that are taken each by itself


@dataclass(frozen=True, kw_only=True)
class Joined:
    """Plans of the core: what each costs, its choices by slot, and the head [m] at each node where a tree begins.

    `whole` tells that they are all there are; else one stands for all, which no plan has more head or less cost than.
    """

    costs: Floats
    choices: list[dict[int, int]]
    heads_m: dict[str, Floats]
    whole: bool


def joined_plans(problem: Problem, skeleton: Skeleton, layout: Layout, check_cancelled: CancelCheck) -> Joined:
    """Return the plans of the core, without those that cost more than another and leave no more head anywhere."""
    design = problem.design
    lines = [design.lines[number] for number in skeleton.core]
    names = {line.id for line in lines}
    slots = [at for at, one in enumerate(problem.lines) if one.line.id in names]
    stands = [problem.first_stand + at for at in range(len(problem.stands))]
    roots = {skeleton.way(node)[0] for node in skeleton.nodes}
    tanks = {root for root in roots if root in layout.vessels}
    places = [place for place in design.places if place.id in roots]
    count = prod(len(problem.slots[at].choices) for at in (*slots, *stands))
    drawn = flows_at(problem, layout)
    below = dict.fromkeys(roots, 0.0)
    for node, flow in drawn.items():
        root = skeleton.way(node)[0]
        if root in below:
            below[root] += flow
    if count > MOST_CORE or len(places) + len(tanks) < len(roots):
        rise = {stand.vessel.id: stand.choices[-1].rise_m for stand in problem.stands}
        most = max(layout.surface_m(vessel) + rise.get(vessel.id, 0.0) for vessel in layout.vessels.values())
        cheapest = sum(problem.least_price(problem.slots[at]) for at in (*slots, *stands))
        least = dict.fromkeys((*slots, *stands), 0)
        return Joined(
            costs=np.array([cheapest]), choices=[least], heads_m=dict.fromkeys(roots, np.array([most])), whole=False
        )
    ends = {end for line in lines for end in (line.from_, line.to)}
    kept = [
        place.model_copy(update={"draw_lpm": lpm_from_m3s(below.get(place.id, 0.0)) if place.id in roots else 0.0})
        for place in design.places
    ]
    own = replace(
        problem, valves=(), filters=(), lines=tuple(problem.lines[at] for at in slots),
        musts=tuple(Must(where=place.id, pressure_m=0.0) for place in places),
        design=design.model_copy(update={"lines": lines, "outlets": [], "places": kept,
            "vessels": [one for one in design.vessels if one.id in ends or one.id in tanks]}),
        stands=tuple(one for one in problem.stands),
    )  # fmt: skip
    trials = Trials(own, check_cancelled)
    rows = (
        np.indices(tuple(len(problem.slots[at].choices) for at in (*slots, *stands)))
        .reshape(len(slots) + len(stands), -1)
        .T
    )
    spare = trials.tried(rows).spare
    costs = np.array([sum(problem.slots[at].price(int(index)) for at, index in zip((*slots, *stands), row, strict=True))
                      for row in rows])  # fmt: skip
    heads = {place.id: spare[:, number] + place.ground_m for number, place in enumerate(places)}
    for tank in tanks:
        surface = layout.surface_m(layout.vessels[tank])
        at = next((slots_at for slots_at, one in enumerate(problem.stands) if one.vessel.id == tank), None)
        rises = (
            0.0
            if at is None
            else np.array([problem.stands[at].choices[int(i)].rise_m for i in rows[:, len(slots) + at]])
        )
        heads[tank] = surface + rises * np.ones(len(rows))
    in_shed = any(one.takes(index)[0] in problem.shed for one in (problem.slots[at] for at in slots)
                  for index in range(len(one.choices)))  # fmt: skip
    every = list(range(len(rows)))
    best = every if in_shed else _not_beaten(costs, np.array([heads[root] for root in sorted(roots)]))
    return Joined(
        costs=costs[best], whole=True, heads_m={root: heads[root][best] for root in roots},
        choices=[dict(zip((*slots, *stands), map(int, rows[at]), strict=True)) for at in best],
    )  # fmt: skip


def _not_beaten(costs: Floats, heads: Floats) -> list[int]:
    """Return the plans that no other beats: one that costs no more and leaves as much head at every node."""
    order, kept = np.lexsort((-heads.sum(axis=0), costs)), list[int]()
    for at in order.tolist():
        if not any(np.all(heads[:, other] >= heads[:, at]) for other in kept):
            kept.append(at)
    return kept
