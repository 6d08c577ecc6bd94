"""Plans of networks with loops: the flows of one plan taken as given, every line sized anew for them, and again."""

from itertools import combinations
from math import comb

import numpy as np

from leadsman.core.base.array import Floats, Ints
from leadsman.core.design import Design
from leadsman.core.sizing.proof import proven
from leadsman.core.sizing.skeleton import skeleton_of
from leadsman.core.sizing.trials import Trials

TANKS = "tanks"
MOST_TREES, BEST_TREES = 200, 12


def chords(design: Design, flows_m3s: Floats) -> frozenset[int]:
    """Return the numbers of the lines without which nothing loops or joins tanks: those with least flow."""
    root: dict[str, str] = {vessel.id: TANKS for vessel in design.vessels}

    def top(node: str) -> str:
        while root.setdefault(node, node) != node:
            node = root[node]
        return node

    left_out = set()
    for number in np.argsort(-np.abs(flows_m3s), kind="stable").tolist():
        a, b = (top(end) for end in (design.lines[number].from_, design.lines[number].to))
        if a == b:
            left_out.add(number)
        else:
            root[a] = b
    return frozenset(left_out)


def respread(trials: Trials, row: Ints, rounds: int) -> list[Ints]:
    """Return the plans met on the way: each the cheapest for the flows of the one before; chords as narrow as may be.

    It ends where a plan comes again, or where none gives what is required at the flows of the one before.
    """
    found = list[Ints]()
    for _ in range(rounds):
        flows = trials.flows_m3s(row)
        left_out = chords(trials.problem.design, flows)
        plan = _of_tree(trials, left_out, flows)
        if plan is None:
            break
        row = plan[1]
        if any(np.array_equal(row, before) for before in found):
            break
        found.append(row)
    return found


def of_all_trees(trials: Trials) -> list[Ints]:
    """Return for each tree in a small network with loops the cheapest plan of it, the chords as narrow as may be."""
    design = trials.problem.design
    lines = len(design.lines)
    count = len(chords(design, np.ones(lines)))
    if not count or comb(lines, count) > MOST_TREES:
        return []
    found: list[tuple[float, Ints]] = []
    for left_out in combinations(range(lines), count):
        flows = np.ones(lines)
        flows[list(left_out)] = 0.0
        if chords(design, flows) != set(left_out):
            continue  # what is left loops still
        plan = _of_tree(trials, frozenset(left_out), None)
        if plan is not None:
            found.append(plan)
    return [row for _, row in sorted(found, key=lambda one: one[0])[:BEST_TREES]]


def _of_tree(trials: Trials, left_out: frozenset[int], flows_m3s: Floats | None) -> tuple[float, Ints] | None:
    """Return the cheapest plan of the tree without some lines, these as narrow as may be, and what the program says.

    At the required flows, or at others that are given; None where no plan of it gives what is required.
    """
    problem = trials.problem
    skeleton = skeleton_of(problem, left_out)
    plan = None if skeleton is None else proven(problem, skeleton, flows_m3s=flows_m3s)
    trials.check_cancelled()
    if plan is None:
        return None
    gone, row = {problem.design.lines[number].id for number in left_out}, plan.row
    for at, one in enumerate(problem.lines):
        row[at] = 0 if one.line.id in gone else row[at]
    return plan.cost, row
