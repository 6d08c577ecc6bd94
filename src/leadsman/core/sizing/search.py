"""The cheapest plan found where flows are not known beforehand: loops, and floats that run freely."""

from collections.abc import Sequence

import numpy as np

from leadsman.core.base.array import Ints
from leadsman.core.sizing.trials import TOGETHER, Trials

SEED = 27
LONGEST_REPAIR = 3  # changes for each line
MOST_PAIRS = 4_000  # of lines tried at once, one narrower and one wider
SHAKES = (1, 1, 3)  # sizes by which lines are changed for a fresh start
PATIENCE, WORSE_SHARE = 40, 0.02  # fresh starts that find nothing; how much dearer a plan they may go on from


def cheapest_of_all(trials: Trials) -> Ints | None:
    """Return the cheapest of all plans there are that gives what is required; None where none does."""
    every = np.indices(tuple((trials.most + 1).tolist())).reshape(len(trials.most), -1).T
    every = every[np.argsort(trials.costs(every), kind="stable")]
    for first in range(0, len(every), TOGETHER):
        works = np.flatnonzero(trials.tried(every[first : first + TOGETHER]).lacks == 0.0)
        if len(works):
            return np.asarray(every[first + int(works[0])])
    return None


def feasible_from(trials: Trials, starts: Sequence[Ints]) -> list[Ints]:
    """Return the plans that come of some starts, each made to give what is required; without those that cannot be.

    More pipe is not always better: a wide branch to a low float takes what a higher one needs.
    """
    return [row for start in starts if (row := _repaired(trials, start)) is not None]


def improved(trials: Trials, starts: Sequence[Ints], most_tries: int) -> Ints:
    """Return the cheapest plan found from some that do, by steps down, exchanges and fresh starts around the best.

    The fresh starts are the same each time. Stopping: after so many plans solved, at the end of a step.
    """
    chance = np.random.default_rng(SEED)
    plans = [_down(trials, start) for start in starts]
    best = min(plans, key=lambda row: float(trials.costs(row[None])[0]))
    best_cost = float(trials.costs(best[None])[0])
    here, here_cost = best, best_cost
    fails = 0
    while trials.count < most_tries:
        shaken = here.copy()
        many = min(len(here), int(chance.integers(2, max(5, len(here) // 4 + 1))))
        far = int(chance.choice(SHAKES))
        for line in chance.choice(len(here), size=many, replace=False):
            shaken[line] = np.clip(shaken[line] + chance.integers(-far, far + 1), 0, trials.most[line])
        feasible = _repaired(trials, shaken)
        if feasible is None:
            continue
        found = _down(trials, feasible, chance)
        cost = float(trials.costs(found[None])[0])
        fails = 0 if cost < here_cost - 1e-9 else fails + 1
        if cost <= here_cost * (1.0 + WORSE_SHARE * min(1.0, fails / PATIENCE)):
            here, here_cost = found, cost
        if cost < best_cost - 1e-9:
            best, best_cost = found, cost
        if fails > PATIENCE:
            here, here_cost, fails = best, best_cost, 0
    return best


def _repaired(trials: Trials, row: Ints) -> Ints | None:
    """Return a plan changed line by line, each time where least money helps most, until it gives what is required."""
    row = row.copy()
    lacks = float(trials.tried(row[None]).lacks[0])
    for _ in range(LONGEST_REPAIR * len(row)):
        if lacks == 0.0:
            return row
        tried = np.concatenate([_steps_up(trials, row), _steps_down(row)])
        after = trials.tried(tried).lacks
        cost = float(trials.costs(row[None])[0])
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
    saving = float(trials.costs(row[None])[0]) - trials.costs(tried)
    tried, saving = tried[saving > 1e-9], saving[saving > 1e-9]
    order = np.argsort(-saving) if chance is None else chance.permutation(len(tried))
    for first in range(0, len(order), TOGETHER):
        batch = tried[order[first : first + TOGETHER]]
        works = np.flatnonzero(trials.tried(batch).lacks == 0.0)
        if len(works):
            return np.asarray(batch[works[0]])
    return None


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
    return np.array(found[:MOST_PAIRS], dtype=np.intp).reshape(-1, len(row))
