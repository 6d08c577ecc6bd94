"""Solved cases: the network full of water, and again with open to air whatever point would suck.

A full-pipe answer holds only in an airtight, primed line. Where the running grade falls below the pipe, the
case is solved once more with the water open to air there; the lines that are declared siphons stay full
unless the water in them would boil.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from leadsman.core.base.array import Bools
from leadsman.core.design import Design
from leadsman.core.design.layout import Layout
from leadsman.core.design.moved import Moved, moved_between
from leadsman.core.physics.pipe import Pipe
from leadsman.core.physics.siphon import DISSOLVED_AIR_MARGIN_M, siphon_limit_m
from leadsman.core.physics.water import Water
from leadsman.core.solver.gradient import CLOSED, ENERGY_WITHIN_M, KEEPING, Solution
from leadsman.core.solver.network import Cases, Control
from leadsman.core.steady.along import Along
from leadsman.core.steady.case import Case
from leadsman.core.steady.flow import STILL_BELOW_M3S, Flow, Solved, Suction
from leadsman.core.steady.loading import Figures, FrictionMaker, Loader, darcy
from leadsman.core.steady.plumbing import AirPoint, Plumbing

SUCKS_BELOW_M = -1e-6
MOST_AIR_ROUNDS = 6
ENERGY_IN_PASSING_M = 1e-6  # what an answer that counts as converged may be off in a link
MOST_TOGETHER = 200  # cases; measured: more of them no longer fit near the processor, and take half as long again


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
        self._aired: frozenset[int] = frozenset()

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
        model._last, model._aired = self._last, self._aired
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
        points = np.where(self._part_full(solution), np.maximum(points, self.along.pipe_m), points)
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

    def _part_full(self, solution: Solution) -> Bools:
        """Return which points, in which cases, are of lines in which air stands, shape (cases, points)."""
        net, first = self.plumbing.network, self.plumbing.first_link
        aired = (solution.control_state == KEEPING) & (net.control_kinds == Control.SUSTAINER)
        part_full = np.zeros((len(aired), len(first)), dtype=bool)
        cases, controls = np.nonzero(aired)
        part_full[cases, np.searchsorted(first, net.controls[controls], side="right") - 1] = True
        return np.repeat(part_full, [len(points) for points in self.along.of_line.values()], axis=1)

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
        siphon = {line.id for line in self.layout.design.lines if line.siphon}
        known = self._aired if in_passing and not siphon else frozenset()
        opened = self._open(full, suctions, in_passing, known)
        if known and not opened.converged:  # the more may open, the more states there are to settle
            opened = self._open(full, suctions, in_passing)
        broken = [one for one in suctions if one in boiling or self.along.points[one.point].line_id not in siphon]
        used = full if not broken else opened if len(broken) == len(suctions) else self._open(full, broken, in_passing)
        return Solved(full, suctions, opened, used, bool(boiling))

    def _open(
        self, full: Flow, suctions: Sequence[Suction], in_passing: bool, known: frozenset[int] = frozenset()
    ) -> Flow:
        """Return the case with points open to air, and with those that suck once they are.

        Args:
            known: numbers of points to open at once. Where the grade keeps above the pipe no air enters, so that they
                may be more than need be, as those that were opened before something moved.
        """
        opened = {self.air_point(full, Suction(number, 0.0)) for number in known}
        found, flow, model = suctions, full, self
        for _ in range(MOST_AIR_ROUNDS):
            fresh = {model.air_point(flow, one) for one in found} - opened
            if not fresh and model is not self:
                break
            opened |= fresh
            known |= {one.point for one in found}
            model = self._model_open_at(frozenset(opened))
            flow = model.full_flows([full.case], in_passing=in_passing)[0]
            found = model.suctions(flow) if flow.converged else ()
        if in_passing:
            self._aired = known
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
