"""Trees whose outlets take their required flow: the cheapest pipes, proven by mixed-integer programming (HiGHS)."""

from collections import deque
from collections.abc import Iterable
from dataclasses import dataclass
from itertools import combinations
from math import comb

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, milp

from leadsman.core.base.units import BAR_PA, HOUR_S, MILLIMETRE_M, head_m_from_pa, m3s_from_lpm
from leadsman.core.design import FixedOutlet, FloatValveOutlet
from leadsman.core.design.layout import Layout
from leadsman.core.design.line_pipe import line_lumps
from leadsman.core.physics.friction import DarcyWeisbach, HazenWilliams
from leadsman.core.physics.water import Water
from leadsman.core.sizing.problem import Must, Problem

ONE_SIDED = ("check_valve", "reducer")  # what makes a line more than pipe and losses
MOST_TREES, MOST_DRAWN = 400, 20_000
SHARE_WITHIN = 1e-7  # a share of a line below this is none of it


@dataclass(frozen=True, kw_only=True)
class TreePlan:
    """The cheapest plan at the required flows: shares of each line in each of its choices, and its cost."""

    shares: tuple[tuple[float, ...], ...]
    cost: float


@dataclass(frozen=True, kw_only=True)
class Tree:
    """A tree of lines from one tank: flows in the lines [m3/s], and what each requirement leaves for the way to it.

    `ways` are the numbers of the sized lines on the way to each requirement, `room_m` the head they may take together.
    """

    flows_m3s: tuple[float, ...]
    ways: tuple[tuple[int, ...], ...]
    room_m: tuple[float, ...]


def tree_of(problem: Problem, density_kgm3: float, without: frozenset[int] = frozenset()) -> Tree | None:
    """Return a problem as a tree at its required flows; None where it is none, or a line is more than pipe.

    Args:
        without: numbers of sized lines that are left out, so that no loops are left.

    Floats that run freely pass their required flow or more: what a tree costs at those flows is then a bound.
    """
    design = problem.design
    layout = Layout(design)
    if len(problem.lines) != sum(not line.shut for line in design.lines) or design.pressure_sources:
        return None
    if any(line.pump or any(part.kind in ONE_SIDED for part in line.inline) for line in design.lines if not line.shut):
        return None
    feeding = [vessel for vessel in design.vessels if any(vessel.id in (line.line.from_, line.line.to)
                                                          for line in problem.lines)]  # fmt: skip
    if len(feeding) != 1:
        return None
    root = feeding[0]
    up: dict[str, tuple[str, int]] = {}
    waiting, seen = deque([root.id]), {root.id}
    while waiting:
        here = waiting.popleft()
        for number, one in enumerate(problem.lines):
            ends = (one.line.from_, one.line.to)
            if number in without or here not in ends or up.get(here, ("", -1))[1] == number:
                continue
            there = ends[1] if ends[0] == here else ends[0]
            if there in seen:
                return None  # a loop
            seen.add(there)
            up[there] = (here, number)
            waiting.append(there)
    drawn = _drawn(problem, layout)
    if drawn is None or any(node not in seen for node in drawn):
        return None
    flows = [0.0] * len(problem.lines)
    for node, flow in drawn.items():
        for number in _way(up, node):
            flows[number] += flow
    surface_m = layout.surface_m(root)
    ways, room = [], []
    for must in problem.musts:
        node, needs_m = _needs(layout, must, density_kgm3)
        if node not in seen:
            return None
        ways.append(tuple(_way(up, node)))
        room.append(surface_m - needs_m)
    return Tree(flows_m3s=tuple(flows), ways=tuple(ways), room_m=tuple(room))


def trees_in(problem: Problem, seed: int) -> list[frozenset[int]]:
    """Return sets of lines without which a problem of loops is a tree: every one, or so many of them by chance."""
    ends = [(one.line.from_, one.line.to) for one in problem.lines]
    nodes = {node for pair in ends for node in pair}
    chords = len(ends) - len(nodes) + 1
    if chords <= 0:
        return []
    every: Iterable[tuple[int, ...]] = combinations(range(len(ends)), chords)
    if comb(len(ends), chords) > MOST_DRAWN:
        chance = np.random.default_rng(seed)
        drawn = {tuple(sorted(chance.choice(len(ends), chords, replace=False).tolist())) for _ in range(MOST_DRAWN)}
        every = sorted(drawn)
    found = []
    for left_out in every:
        if _joins_all(nodes, [pair for number, pair in enumerate(ends) if number not in left_out]):
            found.append(frozenset(left_out))
            if len(found) == MOST_TREES:
                break
    return found


def _joins_all(nodes: set[str], pairs: list[tuple[str, str]]) -> bool:
    root = {node: node for node in nodes}

    def top(node: str) -> str:
        while root[node] != node:
            root[node] = root[root[node]]
            node = root[node]
        return node

    for a, b in pairs:
        root[top(a)] = top(b)
    return len({top(node) for node in nodes}) == 1


def _way(up: dict[str, tuple[str, int]], node: str) -> list[int]:
    found = []
    while node in up:
        node, number = up[node]
        found.append(number)
    return found


def _drawn(problem: Problem, layout: Layout) -> dict[str, float] | None:
    """Return what is drawn at each node [m3/s]; None where an outlet runs freely and no flow is required of it."""
    wanted = {must.where: must.flow_m3s for must in problem.musts if must.flow_m3s is not None}
    drawn: dict[str, float] = {}
    for place in problem.design.places:
        if place.draw_lpm:
            drawn[place.id] = drawn.get(place.id, 0.0) + m3s_from_lpm(place.draw_lpm)
    for outlet in problem.design.outlets:
        if outlet.shut:
            continue
        node = layout.node_of_outlet[outlet.id]
        if isinstance(outlet, FixedOutlet):
            flow: float | None = m3s_from_lpm(outlet.flow_lpm)
        elif isinstance(outlet, FloatValveOutlet):
            flow = wanted.get(outlet.id)
        else:
            flow = None
        if flow is None:
            return None
        drawn[node] = drawn.get(node, 0.0) + flow
    return drawn


def _needs(layout: Layout, must: Must, density_kgm3: float) -> tuple[str, float]:
    """Return the node of a requirement and the head [m on the datum] that it needs there."""
    outlet = layout.outlets.get(must.where)
    if outlet is None:
        return must.where, layout.places[must.where].ground_m + (must.pressure_m or 0.0)
    height_m = layout.outlet_height_m(outlet)
    node = layout.node_of_outlet[outlet.id]
    if must.flow_m3s is None or not isinstance(outlet, FloatValveOutlet):
        return node, height_m + (must.pressure_m or 0.0)
    valve_m = head_m_from_pa(BAR_PA * (must.flow_m3s * HOUR_S / outlet.valve.kv_m3h) ** 2, density_kgm3)
    return node, height_m + valve_m


def cheapest(problem: Problem, tree: Tree, water: Water) -> TreePlan | None:
    """Return the cheapest plan of a tree at its flows, proven; None where no plan gives what is required.

    Each line is of one choice, or, where runs may be split, of shares of them (of which two are enough).
    A split line takes what its fittings do at each bore by its share of it.

    Source: shares x of line l in choice p; the cost is linear in them, and so is the head that a way takes.
    """
    sizes = [len(one.choices) for one in problem.lines]
    first = np.concatenate([[0], np.cumsum(sizes)])
    cost, loss = np.zeros(first[-1]), np.zeros(first[-1])
    for number, one in enumerate(problem.lines):
        for index, choice in enumerate(one.choices):
            at = first[number] + index
            cost[at] = one.price(index)
            length = [one.line.pipe_length_m]
            laid = one.line.model_copy(
                update={"product": None, "runs": [], "length_m": length[0], "bore_mm": choice.bore_m / MILLIMETRE_M,
                        "roughness_mm": choice.roughness_m / MILLIMETRE_M}
            )  # fmt: skip
            lumped = sum(lump.per_flow2 for lump in line_lumps(laid, f"/lines/{number}", water))
            law = (
                DarcyWeisbach(length, [choice.bore_m], [choice.roughness_m], water.kinematic_viscosity_m2s)
                if problem.coefficient is None
                else HazenWilliams(length, [choice.bore_m], [problem.coefficient])
            )
            flow = tree.flows_m3s[number]
            loss[at] = float(law(np.array([[flow]]))[0].ravel()[0]) + lumped * flow**2
    one_each = np.zeros((len(sizes), first[-1]))
    for number in range(len(sizes)):
        one_each[number, first[number] : first[number + 1]] = 1.0
    takes = np.zeros((len(tree.ways), first[-1]))
    for row, way in enumerate(tree.ways):
        for number in way:
            takes[row, first[number] : first[number + 1]] = loss[first[number] : first[number + 1]]
    found = milp(
        cost,
        constraints=[
            LinearConstraint(one_each, 1.0, 1.0),
            LinearConstraint(takes, -np.inf, np.array(tree.room_m)),
        ],
        bounds=Bounds(0.0, 1.0),
        integrality=np.zeros(first[-1]) if problem.split else np.ones(first[-1]),
        options={"mip_rel_gap": 0.0},
    )
    if found.x is None:
        return None
    shares = tuple(
        tuple(float(share) if problem.split else float(round(share)) for share in
              found.x[first[number] : first[number + 1]])
        for number in range(len(sizes))
    )  # fmt: skip
    return TreePlan(shares=shares, cost=float(found.fun))
