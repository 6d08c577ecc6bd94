"""Solved cases: the network full of water, and again with open to air whatever point would suck.

A full-pipe answer holds only in an airtight, primed line. Where the running grade falls below the pipe, the
case is solved once more with the water open to air there; the lines that are declared siphons stay full
unless the water in them would boil.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import NamedTuple

import numpy as np

from leadsman.core.along import Along
from leadsman.core.case import Case
from leadsman.core.design import Design
from leadsman.core.friction import Floats
from leadsman.core.gradient import CLOSED, ENERGY_WITHIN_M, Solution
from leadsman.core.layout import Layout
from leadsman.core.loading import Figures, FrictionMaker, Loader, darcy
from leadsman.core.moved import Moved, moved_between
from leadsman.core.network import Bools, Cases
from leadsman.core.pipe import Pipe
from leadsman.core.plumbing import AirPoint, Plumbing
from leadsman.core.siphon import DISSOLVED_AIR_MARGIN_M, siphon_limit_m
from leadsman.core.water import Water

SUCKS_BELOW_M = -1e-6
STILL_BELOW_M3S = 1e-12
MOST_AIR_ROUNDS = 6
ENERGY_IN_PASSING_M = 1e-6  # what an answer that counts as converged may be off in a link
MOST_TOGETHER = 200  # cases; measured: more of them no longer fit near the processor, and take half as long again


class LeastOverPipe(NamedTuple):
    """The least height of the grade over the pipe of a line [m]: of all its points, and without its ends."""

    all_m: float
    but_first_m: float
    but_last_m: float
    inner_m: float


@dataclass(frozen=True)
class Flow:
    """One solved case on one network: heads [m] by node and flows [m3/s] by link, as numbers of its plumbing."""

    model: "NetworkModel"
    case: Case
    heads_m: Floats
    flows_m3s: Floats
    pressed_shut: Bools
    control_states: dict[int, int]
    point_heads_m: Floats
    friction_m: Floats
    reached: Bools
    converged: bool
    iterations: int

    def head_m(self, node_id: str) -> float | None:
        """Return the head [m] at a place, an outlet's own end or a vessel; None where no water gets to."""
        plumbing = self.model.plumbing
        if node_id in plumbing.vessels:
            return self._heads_m[plumbing.vessels[node_id]]
        number = plumbing.junctions[node_id]
        if not self._reached[number]:
            return None
        head_m = self._heads_m[number]
        return max(head_m, self.model.air_at[node_id]) if node_id in self.model.air_at else head_m

    # numbers are taken out of a list five times as fast as out of an array
    @cached_property
    def _heads_m(self) -> list[float]:
        return self.heads_m.tolist()  # type: ignore[no-any-return]

    @cached_property
    def _reached(self) -> list[bool]:
        return self.reached.tolist()  # type: ignore[no-any-return]

    @cached_property
    def _flows_m3s(self) -> list[float]:
        still = np.abs(self.flows_m3s) < STILL_BELOW_M3S
        return np.where(still, 0.0, self.flows_m3s).tolist()  # type: ignore[no-any-return]

    def line_flow_m3s(self, line_id: str) -> float:
        """Return the flow [m3/s] of a line, positive from `from` to `to`."""
        plumbing = self.model.plumbing
        first = plumbing.of_line[line_id].start
        flow = self._flows_m3s[first]
        return flow if plumbing.segments[first].forward else -flow

    @cached_property
    def greatest_inflows(self) -> dict[str, tuple[str, str, bool]]:
        """For each node that water runs to, the line that brings most: its id, the node before, whether forward."""
        inflows: dict[str, tuple[float, str, str, bool]] = {}
        for line in self.model.layout.design.lines:
            through = self.line_flow_m3s(line.id)
            if abs(through) > STILL_BELOW_M3S:
                forward = through > 0.0
                start, end = (line.from_, line.to) if forward else (line.to, line.from_)
                inflows[end] = max(inflows.get(end, (0.0, "", "", True)), (abs(through), line.id, start, forward))
        return {end: (line_id, start, forward) for end, (_, line_id, start, forward) in inflows.items()}

    def outlet_flow_m3s(self, outlet_id: str) -> float:
        """Return the flow [m3/s] out of an outlet."""
        if outlet_id in self.case.draws_m3s:
            return self._drawn(outlet_id, self.case.draws_m3s[outlet_id])
        link = self.model.plumbing.outlet_link.get(outlet_id, self.model.plumbing.limited_link.get(outlet_id))
        if link is None:
            wanted = self.model.loader.fixed_flows[outlet_id] if self.case.openings[outlet_id] > 0.0 else 0.0
            return self._drawn(outlet_id, wanted)
        return max(self._flows_m3s[link], 0.0)

    def outlet_head_m(self, outlet_id: str) -> float | None:
        """Return the head [m] at the junction that an outlet draws from."""
        return self.head_m(self.model.plumbing.layout.node_of_outlet[outlet_id])

    def point_head_m(self, number: int) -> float | None:
        """Return the head [m] at a surveyed point by its number along the lines; None where no water gets to."""
        net, along = self.model.plumbing.network, self.model.along
        start, end = int(net.start[along.link[number]]), int(net.end[along.link[number]])
        wet = [node >= net.junctions or bool(self.reached[node]) for node in (start, end)]
        on_its_side = wet[1] if along.behind_door[number] else wet[0]  # a line to where no water gets is closed
        return float(self.point_heads_m[number]) if all(wet) or on_its_side else None

    @cached_property
    def over_pipe_m(self) -> Floats:
        """Height of the grade over the pipe [m] at each surveyed point, negative where it lies below."""
        return np.asarray(self.point_heads_m - self.model.along.pipe_m)

    @cached_property
    def least_over_pipe_m(self) -> dict[str, "LeastOverPipe"]:
        """The least height of the grade over the pipe [m] along each line."""
        first, last = self.model.along.line_ends
        if not len(first):
            return {}
        least = [
            np.minimum.reduceat(np.where(left_out, np.inf, self.over_pipe_m), np.flatnonzero(first)).tolist()
            for left_out in (False, first, last, first | last)
        ]
        return dict(zip(self.model.along.of_line, map(LeastOverPipe, *least), strict=True))

    @cached_property
    def line_losses_m(self) -> dict[str, tuple[float, float]]:
        """What each line's pipe takes and what its fittings, parts and controls take [m], signed as its flow.

        What a pump adds counts as neither.
        """
        plumbing, lines = self.model.plumbing, self.model.layout.design.lines
        if not lines:
            return {}
        heads_m, wet = self.heads_m.copy(), self.reached.copy()
        wet[len(plumbing.junctions) :] = True
        for node_id, air_m in self.model.air_at.items():
            heads_m[plumbing.junctions[node_id]] = max(heads_m[plumbing.junctions[node_id]], air_m)
        start, end = plumbing.line_nodes
        runs = (np.array(self._flows_m3s)[plumbing.first_link] != 0.0) & wet[start] & wet[end]
        pipe = np.add.reduceat(self.friction_m, plumbing.first_link) * plumbing.line_sign
        losses = np.where(runs, [pipe, heads_m[start] - heads_m[end] - pipe], 0.0).tolist()
        found = dict(zip(plumbing.of_line, zip(*losses, strict=True), strict=True))
        for number, line in enumerate(lines):
            if line.pump is not None:
                flow = self.line_flow_m3s(line.id)
                lumps = sum(sum(segment.taken_per_flow2) for segment in plumbing.laid[number].segments)
                found[line.id] = float(pipe[number]), lumps * flow * abs(flow)
        return found

    def _drawn(self, outlet_id: str, wanted_m3s: float) -> float:
        return wanted_m3s if self.outlet_head_m(outlet_id) is not None else 0.0


@dataclass(frozen=True)
class Suction:
    """A point whose pipe lies over the running grade: its number along the lines, and how far [m], negative."""

    point: int
    head_over_pipe_m: float


@dataclass(frozen=True)
class Solved:
    """A case: `full` with every pipe full; `opened` with every sucking point open to air, None where none sucks.

    `used` is what judgements go by: like `opened`, but for declared siphons in which the water does not boil.
    `boils` tells that somewhere the full-pipe answer asks for less pressure than liquid water has.
    """

    full: Flow
    suctions: tuple[Suction, ...]
    opened: Flow | None
    used: Flow
    boils: bool


class NetworkModel:
    """A design's network with its points along the lines, ready to solve cases."""

    def __init__(
        self, layout: Layout, water: Water, friction: FrictionMaker = darcy, air_points: Sequence[AirPoint] = ()
    ) -> None:
        plumbing = Plumbing(layout, water, air_points)
        self._take(water, friction, plumbing, Loader(plumbing, friction), Along(plumbing))

    def _take(self, water: Water, friction: FrictionMaker, plumbing: Plumbing, loader: Loader, along: Along) -> None:
        layout = plumbing.layout
        self.layout, self.water, self.friction = layout, water, friction
        self.plumbing, self.loader, self.along = plumbing, loader, along
        self.boils_below_m = DISSOLVED_AIR_MARGIN_M - siphon_limit_m(layout.design.site.altitude_m, water)
        laid = zip(layout.design.lines, self.plumbing.laid, strict=True)
        self._reaches = {line.id: list(one.pipes) for line, one in laid}
        self.air_at = self._air_at_places()
        self._opened: dict[frozenset[AirPoint], NetworkModel] = {}
        self._before: _Before | None = None
        self._last: Solution | None = None

    def moved_to(self, design: Design) -> "NetworkModel | None":
        """Return the network of a design in which only places and lines have other figures; None of any other.

        It is as one made anew, in a tenth of the time: what hangs on the structure alone is shared.
        """
        moved = moved_between(self.layout.design, design)
        if moved is None:
            return None
        again = moved.lines_at(design)
        model = self._moved_to(self.layout.moved_to(design, moved), moved, again)
        if model:
            model._before = _Before(list(self._opened.values()), moved, again)
        return model

    def _moved_to(
        self, layout: Layout, moved: Moved, again: Sequence[int], air_points: Sequence[AirPoint] = ()
    ) -> "NetworkModel | None":
        plumbing = self.plumbing.moved_to(layout, moved, air_points)
        along = plumbing and self.along.moved_to(plumbing, {*again, *plumbing.divided})
        if not plumbing or not along:
            return None
        model = NetworkModel.__new__(NetworkModel)
        model._take(self.water, self.friction, plumbing, self.loader.moved_to(plumbing), along)
        model._last = self._last
        return model

    def _air_at_places(self) -> dict[str, float]:
        """Return the height [m] of the water at places where it stands open to air; below, it runs part-full."""
        heights: dict[str, float] = {}
        for point in self.plumbing.air_points:
            line = self.layout.lines[point.line_id]
            end_m, end = (line.pipe_length_m, line.to) if point.forward else (0.0, line.from_)
            if point.at_m == end_m:
                heights[end] = max(heights.get(end, point.pipe_m), point.pipe_m)
        return heights

    def reaches_of_line(self, line_id: str) -> list[Pipe]:
        """Return the pieces of pipe of a line from its `from` end."""
        return self._reaches[line_id]

    def full_flows(
        self, wanted: Sequence[Case], figures: Figures | None = None, *, in_passing: bool = False
    ) -> list[Flow]:
        """Return every case with all pipes full, in one batch over one structure.

        Args:
            in_passing: start from the answer of before something moved, where as many cases were solved then, and
                stop as soon as no more is asked of an answer.
        """
        cases = self.loader.cases(wanted, figures)
        start = self._last if in_passing and self._last and len(self._last.flows_m3s) == len(wanted) else None
        within_m = ENERGY_IN_PASSING_M if in_passing else ENERGY_WITHIN_M
        solution = self.plumbing.solver.solve(cases, start, within_m)
        if in_passing:
            self._last = solution
        return self.flows(wanted, cases, solution)

    def flows(self, wanted: Sequence[Case], cases: Cases, solution: Solution) -> list[Flow]:
        """Return a solution case by case."""
        net = self.plumbing.network
        closed = np.broadcast_to(cases.closed, solution.flows_m3s.shape) | solution.shut
        closed[:, net.controls] |= solution.control_state == CLOSED
        friction = self.along.friction_m(cases, solution.flows_m3s)
        points = self.along.heads_m(cases, solution.heads_m, solution.flows_m3s, friction, closed)
        opened = {point.line_id for point in self.plumbing.air_points}
        part_full = np.array([point.line_id in opened for point in self.along.points], dtype=bool)
        points = np.where(part_full, np.maximum(points, self.along.pipe_m), points)
        by_link = self.along.by_link(friction)
        states = [dict(zip(net.controls.tolist(), row, strict=True)) for row in solution.control_state.tolist()]
        return [
            Flow(
                model=self,
                case=case,
                heads_m=solution.heads_m[row],
                flows_m3s=solution.flows_m3s[row],
                pressed_shut=closed[row] & ~cases.closed[row],
                control_states=states[row],
                point_heads_m=points[row],
                friction_m=by_link[row],
                reached=self.loader.reached(case),
                converged=bool(solution.converged[row]),
                iterations=int(solution.iterations[row]),
            )
            for row, case in enumerate(wanted)
        ]

    def solve(self, wanted: Sequence[Case], heed: Callable[[], None] = lambda: None) -> list[Solved]:
        """Return every case, full and, where it sucks, open to air; `heed` is called before each part of many."""
        solved = []
        for first in range(0, len(wanted), MOST_TOGETHER):
            heed()
            solved += [self.with_air(flow) for flow in self.full_flows(wanted[first : first + MOST_TOGETHER])]
        return solved

    def suctions(self, flow: Flow) -> tuple[Suction, ...]:
        """Return the points at which the running grade lies below the pipe, the upstream end of a line left out."""
        along = self.along
        over = flow.over_pipe_m
        runs = np.abs(flow.flows_m3s[along.link]) > STILL_BELOW_M3S
        counted = along.inner & runs & ~along.upstream_end(flow.flows_m3s[None])[0]
        numbers = np.flatnonzero(counted & (over < SUCKS_BELOW_M))
        return tuple(Suction(int(number), float(over[number])) for number in numbers)

    def with_air(self, full: Flow, *, in_passing: bool = False) -> Solved:
        """Return a full-pipe flow with its other answer, open to air wherever it sucks.

        Args:
            in_passing: as in `full_flows`.
        """
        suctions = self.suctions(full) if full.converged else ()
        if not suctions:
            return Solved(full, (), None, full, False)
        boiling = [one for one in suctions if one.head_over_pipe_m < self.boils_below_m]
        opened = self._open(full, suctions, in_passing)
        siphon = {line.id for line in self.layout.design.lines if line.siphon}
        broken = [one for one in suctions if one in boiling or self.along.points[one.point].line_id not in siphon]
        used = full if not broken else opened if len(broken) == len(suctions) else self._open(full, broken, in_passing)
        return Solved(full, suctions, opened, used, bool(boiling))

    def _open(self, full: Flow, suctions: Sequence[Suction], in_passing: bool) -> Flow:
        """Return the case with points open to air, and with those that suck once they are."""
        opened: set[AirPoint] = set()
        found, flow, model = suctions, full, self
        for _ in range(MOST_AIR_ROUNDS):
            fresh = {model.air_point(flow, one) for one in found} - opened
            if not fresh:
                break
            opened |= fresh
            model = self._model_open_at(frozenset(opened))
            flow = model.full_flows([full.case], in_passing=in_passing)[0]
            found = model.suctions(flow) if flow.converged else ()
        return flow

    def air_point(self, flow: Flow, suction: Suction) -> AirPoint:
        """Return the point of a suction as one open to air, the water running as it does."""
        point, link = self.along.points[suction.point], self.along.link[suction.point]
        forward = (float(flow.flows_m3s[link]) >= 0.0) == bool(self.along.forward[suction.point])
        return AirPoint(point.line_id, point.at_m, point.pipe_m, forward)

    def _model_open_at(self, points: frozenset[AirPoint]) -> "NetworkModel":
        if points not in self._opened:
            ordered = sorted(points, key=lambda point: (point.line_id, point.at_m))
            model = self._before and self._before.opened_at(ordered, self.layout)
            self._opened[points] = model or NetworkModel(self.layout, self.water, self.friction, ordered)
        return self._opened[points]


@dataclass(frozen=True)
class _Before:
    """Networks that were opened to air before something moved, and what moved since: numbers of lines too."""

    opened: list[NetworkModel]
    moved: Moved
    again: Sequence[int]

    def opened_at(self, points: Sequence[AirPoint], layout: Layout) -> NetworkModel | None:
        """Return the network open at points of its lines, made of one that was open on the same lines, if any was."""
        lines = [point.line_id for point in points]
        for model in self.opened:
            if [point.line_id for point in model.plumbing.air_points] == lines:
                found = model._moved_to(layout, self.moved, self.again, points)
                if found:
                    return found
        return None
