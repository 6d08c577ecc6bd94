"""The cheapest plan found where flows are not known beforehand: loops, and floats that run freely."""

from collections.abc import Callable, Sequence

import numpy as np

from leadsman.core.base.array import Ints
from leadsman.core.sizing.respread import respread
from leadsman.core.sizing.trials import TOGETHER_SOLVED, Trials

SEED = 4
SAME_COST = 1e-9
LONGEST_REPAIR = 3  # changes for each line
SHAKES = (1, 1, 2, 3)  # sizes by which choices are changed for a fresh start
SHAKEN_ONLY, OF_MANY, MANY = 0.6, 0.2, 12  # of the fresh starts, and where more is chosen; others by their flows
FROM_BEST = 0.7  # of the times that it begins anew; the others at any plan
LEAST_PATIENCE, WORSE_SHARE = 8, 0.02  # fresh starts that find nothing; how much dearer a plan they may go on from


def cheapest_of_all(trials: Trials, bound: float = 0.0) -> Ints | None:
    """Return the cheapest of all plans there are that gives what is required; None where none does.

    Args:
        bound: what no such plan costs less than.
    """
    every = np.indices(tuple((trials.most + 1).tolist())).reshape(len(trials.most), -1).T
    costs = trials.costs(every)
    every = every[np.argsort(costs, kind="stable")][int((costs < bound * (1.0 - SAME_COST)).sum()) :]
    return first_that_works(trials, every)


def first_that_works(trials: Trials, rows: Ints) -> Ints | None:
    """Return the first of some plans that gives what is required; None where none does."""
    for first in range(0, len(rows), TOGETHER_SOLVED):
        works = np.flatnonzero(trials.tried(rows[first : first + TOGETHER_SOLVED]).lacks == 0.0)
        if len(works):
            return np.asarray(rows[first + int(works[0])])
    return None


def feasible_from(trials: Trials, starts: Sequence[Ints]) -> list[Ints]:
    """Return the plans that come of some starts, each made to give what is required; without those that cannot be.

    More pipe is not always better: a wide branch to a low float takes what a higher one needs.
    """
    return [row for start in starts if (row := _repaired(trials, start)) is not None]


def stepped_down(trials: Trials, starts: Sequence[Ints]) -> Ints | None:
    """Return the cheapest plan that steps down and exchanges lead to from some that give what is required."""
    return min((_down(trials, start) for start in starts), key=trials.cost, default=None)


def improved(trials: Trials, best: Ints, most_tries: int, bound: float, tell: Callable[[float, Ints], None]) -> Ints:
    """Return the cheapest plan found by fresh starts around one that does, and from others where that leads nowhere.

    The fresh starts are the same each time. Stopping: after so many plans solved, at the end of a step; or where one
    costs no more than `bound`, which none is under. `tell` hears how far it is and of the best so far.
    """
    chance = np.random.default_rng(SEED)
    here, here_cost, best_cost, fails = best, trials.cost(best), trials.cost(best), 0
    patience = max(LEAST_PATIENCE, len(best) // 2)
    while trials.count < most_tries and best_cost > bound * (1.0 + SAME_COST):
        tell(min(trials.count / most_tries, 1.0), best)
        if fails > patience and chance.random() < FROM_BEST:
            here, here_cost, fails = best, best_cost, 0
        elif fails > patience:
            here, here_cost, fails = chance.integers(0, trials.most + 1), np.inf, 0
        fails += 1
        for feasible in feasible_from(trials, _fresh(trials, here, here_cost < np.inf, chance)):
            found = _down(trials, feasible, chance)
            cost = trials.cost(found)
            fails = 0 if cost < here_cost - 1e-9 else fails
            if here_cost == np.inf or cost <= here_cost * (1.0 + WORSE_SHARE * min(1.0, fails / patience)):
                here, here_cost = found, cost
            if cost < best_cost - 1e-9:
                best, best_cost = found, cost
    return best


def _fresh(trials: Trials, row: Ints, is_plan: bool, chance: np.random.Generator) -> list[Ints]:
    """Return plans to start from: a plan with some choices changed; most times sized anew for its flows."""
    shaken = row.copy()
    if is_plan:
        many = min(len(row), int(chance.integers(2, max(5, len(row) // 3 + 1))))
        far = int(chance.choice(SHAKES))
        for slot in chance.choice(len(row), size=many, replace=False):
            shaken[slot] = np.clip(shaken[slot] + chance.integers(-far, far + 1), 0, trials.most[slot])
    if chance.random() < (OF_MANY if len(row) > MANY else SHAKEN_ONLY):
        return [shaken]
    return respread(trials, shaken, int(chance.integers(1, 4)))[-2:] or [shaken]


def _repaired(trials: Trials, row: Ints) -> Ints | None:
    """Return a plan changed line by line, each time where least money helps most, until it gives what is required."""
    row = row.copy()
    lacks = float(trials.tried(row[None]).lacks[0])
    for _ in range(LONGEST_REPAIR * len(row)):
        if lacks == 0.0:
            return row
        tried = np.concatenate([_steps_up(trials, row), _steps_down(row)])
        after = trials.tried(tried).lacks
        cost = trials.cost(row)
        dearer = np.maximum(trials.costs(tried) - cost, 1e-3 * max(cost, 1e-9))
        best = int(np.argmax((lacks - after) / dearer))
        if after[best] >= lacks - 1e-12:
            return None
        row, lacks = tried[best], float(after[best])
    return row if lacks == 0.0 else None


def _steps_up(trials: Trials, row: Ints) -> Ints:
    found = [row + (np.arange(len(row)) == line) for line in range(len(row)) if row[line] < trials.most[line]]
    return np.array(found, dtype=np.intp).reshape(len(found), len(row))


def _down(trials: Trials, row: Ints, chance: np.random.Generator | None = None) -> Ints:
    """Return a plan from which no cheaper step down or exchange of two lines still gives what is required."""
    row = row.copy()
    while True:
        step = _first_that_works(trials, row, _steps_down(row), chance)
        if step is None:
            step = _first_that_works(trials, row, _exchanges(trials, row), None)
        if step is None:
            return row
        row = step


def _first_that_works(trials: Trials, row: Ints, tried: Ints, chance: np.random.Generator | None) -> Ints | None:
    """Return the plan that saves most of those that give what is required; any of them where chance chooses."""
    if not len(tried):
        return None
    saving = trials.cost(row) - trials.costs(tried)
    tried, saving = tried[saving > 1e-9], saving[saving > 1e-9]
    order = np.argsort(-saving) if chance is None else chance.permutation(len(tried))
    return first_that_works(trials, tried[order])


def _steps_down(row: Ints) -> Ints:
    found = [row - (np.arange(len(row)) == line) for line in range(len(row)) if row[line] > 0]
    return np.array(found, dtype=np.intp).reshape(len(found), len(row))


def _exchanges(trials: Trials, row: Ints) -> Ints:
    """Return every plan with one line narrower, by one or two, and another wider by one."""
    found = []
    for down in range(len(row)):
        for by in (1, 2):
            if row[down] < by:
                continue
            for up in range(len(row)):
                if up != down and row[up] < trials.most[up]:
                    changed = row.copy()
                    changed[down] -= by
                    changed[up] += 1
                    found.append(changed)
    return np.array(found, dtype=np.intp).reshape(-1, len(row))
