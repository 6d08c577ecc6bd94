"""The lines of a problem as trees that hang on a core: what loops, or joins tanks, and all else."""

from collections import defaultdict, deque
from dataclasses import dataclass

from leadsman.core.base.units import m3s_from_lpm
from leadsman.core.design import FixedOutlet
from leadsman.core.design.layout import Layout
from leadsman.core.sizing.problem import Problem
from leadsman.core.sizing.wanted import TOGETHER, Must

ONE_SIDED = ("check_valve", "reducer")  # what makes a line more than pipe and losses


@dataclass(frozen=True, kw_only=True)
class Skeleton:
    """Lines by their number in the design: those of the core, and of the trees with the node that each leads up to.

    `up` gives for each node of a tree the node next to it on the way to the core or to a tank, and the line between.
    `nodes` are those that water can get to.
    """

    core: tuple[int, ...]
    up: dict[str, tuple[str, int]]
    nodes: frozenset[str]

    def way(self, node: str) -> tuple[str, list[int]]:
        """Return where the tree of a node begins, and the lines from the node to there."""
        found = []
        while node in self.up:
            node, line = self.up[node]
            found.append(line)
        return node, found


def skeleton_of(problem: Problem, without: frozenset[int] = frozenset()) -> Skeleton | None:
    """Return the skeleton of a problem; None where a line is more than pipe and losses.

    Args:
        without: numbers of lines that are left out.
    """
    design = problem.design
    if any(line.pump or any(part.kind in ONE_SIDED for part in line.inline) for line in design.lines):
        return None
    at: dict[str, set[int]] = defaultdict(set)
    for number, line in enumerate(design.lines):
        if number not in without:
            at[line.from_].add(number)
            at[line.to].add(number)
    tanks = {vessel.id for vessel in design.vessels} & set(at)
    left = {number for number in range(len(design.lines)) if number not in without}
    up: dict[str, tuple[str, int]] = {}
    waiting = deque(node for node in at if node not in tanks and len(at[node]) == 1)
    while waiting:
        node = waiting.popleft()
        if len(at[node]) != 1:
            continue
        (number,) = at[node]
        line = design.lines[number]
        other = line.to if line.from_ == node else line.from_
        up[node] = other, number
        left.discard(number)
        at[node].clear()
        at[other].discard(number)
        if other not in tanks and len(at[other]) == 1:
            waiting.append(other)
    core = tuple(sorted(left))
    ends = {end for number in core for end in (design.lines[number].from_, design.lines[number].to)}
    roots = tanks | _joined_to(tanks, [(design.lines[n].from_, design.lines[n].to) for n in core]) & (ends | tanks)
    nodes = set(roots)
    for node in up:
        top = node
        while top in up:
            top = up[top][0]
        if top in roots:
            nodes.add(node)
    return Skeleton(core=core, up=up, nodes=frozenset(nodes))


def _joined_to(start: set[str], pairs: list[tuple[str, str]]) -> set[str]:
    found, more = set(start), True
    while more:
        grown = found | {b for a, b in pairs if a in found} | {a for a, b in pairs if b in found}
        more, found = grown != found, grown
    return found


def flows_at(problem: Problem, layout: Layout, only: Must | None = None) -> dict[str, float]:
    """Return what is drawn at each node [m3/s] while every outlet draws what is required of it, and no more.

    With `only`, what that draws alone. An outlet that runs freely and of which no flow is required counts nothing: in
    any plan that gives what is required at least so much is drawn.
    """
    drawn: dict[str, float] = defaultdict(float)
    if only is not None:
        drawn[layout.node_of_outlet[only.where]] = only.flow_m3s or 0.0
        return drawn
    wanted: dict[str, float] = defaultdict(float)
    for must in problem.musts:
        if must.flow_m3s is not None and must.when == TOGETHER:
            wanted[must.where] = max(wanted[must.where], must.flow_m3s)
    for place in problem.design.places:
        drawn[place.id] += m3s_from_lpm(place.draw_lpm)
    for outlet in problem.design.outlets:
        if not outlet.shut:
            own = m3s_from_lpm(outlet.flow_lpm) if isinstance(outlet, FixedOutlet) else wanted[outlet.id]
            drawn[layout.node_of_outlet[outlet.id]] += own
    return drawn
