"""The ways of the water in a solved case: from a vessel to every node, one line after another."""

from collections import deque
from typing import NamedTuple, Protocol

import numpy as np

from leadsman.core.base.array import Bools, Floats, Ints
from leadsman.core.base.cached import cached_property
from leadsman.core.steady.case import Case
from leadsman.core.steady.loading import Loader

STILL_BELOW_M3S = 1e-12


class Step(NamedTuple):
    """Nodes as many lines from a vessel as each other: for each the node before it, the line between, and its sense.

    Shapes: (nodes,). `forward` tells that the water goes from the line's `from` to its `to`.
    """

    nodes: Ints
    before: Ints
    line: Ints
    forward: Bools


class LineFlows(Protocol):
    """What the ways are found from: a case, and the flow of each line in it."""

    @property
    def case(self) -> Case:
        """The case."""

    @property
    def loader(self) -> Loader:
        """What put it on the network."""

    @property
    def flows_of_lines_m3s(self) -> Floats:
        """Flow of each line [m3/s], positive from its `from` to its `to`, shape (lines,)."""


class Ways:
    """How water comes to each node: over the line that brings most; where none runs, over the fewest open lines.

    A node without running water hangs on the nearest one that has some, on a vessel that gives, or else on an empty
    vessel.

    Attributes:
        reached: whether a way leads to each node, shape (nodes,); `running` whether water runs on all of it.
        steps: the nodes by the number of lines on their way, nearest first.
    """

    def __init__(self, flows: LineFlows) -> None:
        self._flows = flows
        plumbing = flows.loader.plumbing
        self._plumbing = plumbing
        nodes = plumbing.network.junctions + plumbing.network.fixed
        self._vessels = np.array(list(plumbing.vessels.values()), dtype=np.intp)
        self._before = np.full(nodes, -1, dtype=np.intp)
        self._line = np.full(nodes, -1, dtype=np.intp)
        self._forward = np.zeros(nodes, dtype=bool)
        self.is_vessel = np.zeros(nodes, dtype=bool)
        self.is_vessel[self._vessels] = True
        self.reached = self.is_vessel.copy()
        self._follow_the_water()
        self.running = self.reached.copy()
        if not self.reached[plumbing.line_nodes].all():
            self._follow_open_lines()

    def _follow_the_water(self) -> None:
        """Walk from vessels on, at each node over the line that brings it most."""
        through, (start, end) = self._flows.flows_of_lines_m3s, self._plumbing.line_nodes
        forward = through > 0.0
        into, out_of = np.where(forward, end, start), np.where(forward, start, end)
        runs = np.flatnonzero(np.abs(through) > STILL_BELOW_M3S)
        most_last = runs[np.argsort(np.abs(through[runs]), kind="stable")]
        line = np.full(len(self.reached), -1, dtype=np.intp)
        line[into[most_last]] = most_last
        left = np.flatnonzero((line >= 0) & ~self.reached)
        while len(left):
            near = self.reached[out_of[line[left]]]
            step = left[near]
            if not len(step):
                break  # they run in circles, or from where no water comes
            by = line[step]
            self._line[step], self._before[step], self._forward[step] = by, out_of[by], forward[by]
            self.reached[step] = True
            left = left[~near]

    def _follow_open_lines(self) -> None:
        """Hang nodes that no water runs to on the nearest others, along open lines the way they pass."""
        plumbing, loader, case = self._plumbing, self._flows.loader, self._flows.case
        passages = open_passages(loader, case)
        giving = [number for vessel_id, number in plumbing.vessels.items() if loader.gives(vessel_id, case)]
        started = {*np.flatnonzero(self.running).tolist()} - {*self._vessels.tolist()} | {*giving}
        for starts in (started, self._vessels.tolist()):
            queue = deque(starts)
            while queue:
                here = queue.popleft()
                for other, line, forward in passages.get(here, ()):
                    if not self.reached[other]:
                        self.reached[other] = True
                        self._line[other], self._before[other], self._forward[other] = line, here, forward
                        queue.append(other)

    @cached_property
    def steps(self) -> list[Step]:
        """The nodes by the number of lines on their way."""
        left, done = np.flatnonzero(self.reached & ~self.is_vessel), self.is_vessel.copy()
        steps = []
        while len(left):
            near = done[self._before[left]]
            nodes = left[near]
            steps.append(Step(nodes, self._before[nodes], self._line[nodes], self._forward[nodes]))
            done[nodes] = True
            left = left[~near]
        return steps

    @cached_property
    def sources(self) -> Ints:
        """The vessel from which the way to each node leads, shape (nodes,); -1 where none does."""
        source = np.where(self.is_vessel, np.arange(len(self.reached)), -1)
        for nodes, before, _, _ in self.steps:
            source[nodes] = source[before]
        return source

    def lines_to(self, node: int) -> list[tuple[int, bool]]:
        """Return numbers of lines, and whether each is taken forward, from a vessel to a node; none to a vessel."""
        way: list[tuple[int, bool]] = []
        while self._line[node] >= 0:
            way.append((int(self._line[node]), bool(self._forward[node])))
            node = int(self._before[node])
        return way[::-1]


def open_passages(loader: Loader, case: Case) -> dict[int, list[tuple[int, int, bool]]]:
    """Return, by the node it starts from, every way that an open line passes water: end, line, whether forward."""
    plumbing = loader.plumbing
    passages: dict[int, list[tuple[int, int, bool]]] = {}
    starts, ends = (nodes.tolist() for nodes in plumbing.line_nodes)
    for number, (line_id, links) in enumerate(plumbing.of_line.items()):
        if line_id in case.shut_lines:
            continue
        start, end = starts[number], ends[number]
        passages.setdefault(start, []).append((end, number, True))
        segments = plumbing.segments[links.start : links.stop]
        if not any(segment.one_way or segment.control is not None for segment in segments):
            passages.setdefault(end, []).append((start, number, False))
    return passages
