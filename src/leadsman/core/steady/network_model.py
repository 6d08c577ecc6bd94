"""Solved cases: the network full of water, and again with open to air at every point of suction.

A full-pipe answer holds only in an airtight, primed line. Where the running grade falls below the pipe, the
case is solved once more with the water open to air there; the lines that are declared siphons stay full
unless the water in them would boil.
"""

from collections.abc import Sequence

import numpy as np

from leadsman.core.base.array import Bools, Floats
from leadsman.core.base.cancel import CancelCheck, never_cancelled
from leadsman.core.base.units import pa_from_head_m
from leadsman.core.design.layout import Layout
from leadsman.core.physics.pipe import Pipe
from leadsman.core.physics.siphon import DISSOLVED_AIR_MARGIN_M, siphon_limit_m
from leadsman.core.physics.water import Water, atmospheric_pressure_pa
from leadsman.core.solver.gradient import CLOSED, ENERGY_WITHIN_M, KEEPING, Solution
from leadsman.core.solver.network import Cases, Control
from leadsman.core.steady.along import Along
from leadsman.core.steady.case import Case
from leadsman.core.steady.flow import Flow, Solved, Suction
from leadsman.core.steady.loading import FrictionMaker, Loader, darcy
from leadsman.core.steady.near import start_near
from leadsman.core.steady.plumbing import AirPoint, Plumbing
from leadsman.core.steady.way import STILL_BELOW_M3S

SUCTION_BELOW_M = -1e-6
MOST_AIR_ROUNDS = 6
MOST_TOGETHER = 64  # cases; measured: more of them no longer fit near the processor, and take half as long again


class NetworkModel:
    """A design's network with its points along the lines, ready to solve cases."""

    def __init__(
        self,
        layout: Layout,
        water: Water,
        friction: FrictionMaker = darcy,
        air_points: Sequence[AirPoint] = (),
        closed: Plumbing | None = None,
        check_cancelled: CancelCheck = never_cancelled,
    ) -> None:
        """Build the network.

        Args:
            air_points, closed, check_cancelled: as for `Plumbing`.
        """
        self.layout, self.water, self.friction, self.check_cancelled = layout, water, friction, check_cancelled
        self.plumbing = Plumbing(layout, water, air_points, closed, check_cancelled)
        self.loader, self.along = Loader(self.plumbing, friction), Along(self.plumbing)
        self.boils_below_m = DISSOLVED_AIR_MARGIN_M - siphon_limit_m(layout.design.site.altitude_m, water)
        self.siphons = {line.id for line in layout.design.lines if line.siphon}
        self._on_siphon = np.array([point.line_id in self.siphons for point in self.along.points], dtype=bool)
        self.air_at = self._air_at_places()
        self._opened: dict[frozenset[AirPoint], NetworkModel] = {}

    def _air_at_places(self) -> dict[str, float]:
        """Return the height [m] of the water at places where it stands open to air; below, it runs part-full."""
        heights: dict[str, float] = {}
        for point in self.plumbing.air_points:
            line = self.layout.lines[point.line_id]
            end_m, end = (line.pipe_length_m, line.to) if point.forward else (0.0, line.from_)
            if point.at_m == end_m:
                heights[end] = max(heights.get(end, point.pipe_m), point.pipe_m)
        return heights

    def gauge_pressure_pa(self, head_m: float | None, height_m: float | None) -> float | None:
        """Return the pressure [Pa, gauge] of water under a head at a height; None without water, or where it boils."""
        if head_m is None or height_m is None:
            return None
        pressure = pa_from_head_m(head_m - height_m, self.water.density_kgm3)
        atmosphere = atmospheric_pressure_pa(self.layout.design.site.altitude_m)
        return pressure if pressure >= self.water.vapour_pressure_pa - atmosphere else None

    def reaches_of_line(self, line_id: str) -> list[Pipe]:
        """Return the pieces of pipe of a line from its `from` end."""
        return list(self.plumbing.line_layouts[self.layout.line_number[line_id]].pipes)

    def full_flows(self, wanted: Sequence[Case], within_m: float = ENERGY_WITHIN_M) -> list[Flow]:
        """Return every case with all pipes full, in batches over one structure.

        Args:
            within_m: what a solution may be off in a link [m].
        """
        flows: list[Flow] = []
        for first in range(0, len(wanted), MOST_TOGETHER):
            batch = wanted[first : first + MOST_TOGETHER]
            cases = self.loader.cases(batch)
            flows += self.flows(batch, cases, self.plumbing.solver.solve(cases, None, within_m))
        return flows

    def near(self, other: Flow) -> Flow:
        """Return the case of a flow in which other points are open to air, with those of this network open.

        It starts from that flow; where that comes to no answer, from nothing.
        """
        cases = self.loader.cases([other.case])
        solution = self.plumbing.solver.solve(cases, start_near(self.plumbing, other))
        if not solution.converged[0]:
            solution = self.plumbing.solver.solve(cases)
        return self.flows([other.case], cases, solution)[0]

    def flows(self, wanted: Sequence[Case], cases: Cases, solution: Solution) -> list[Flow]:
        """Return a solution case by case."""
        net = self.plumbing.network
        closed, friction, points = self._along(cases, solution)
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

    def _along(self, cases: Cases, solution: Solution) -> tuple[Bools, Floats, Floats]:
        """Return which links pass nothing, what the pieces of pipe take [m], and the heads at all points [m]."""
        closed = np.broadcast_to(cases.closed, solution.flows_m3s.shape) | solution.shut
        closed[:, self.plumbing.network.controls] |= solution.control_state == CLOSED
        friction = self.along.friction_m(cases, solution.flows_m3s)
        points = self.along.heads_m(cases, solution.heads_m, solution.flows_m3s, friction, closed)
        points = np.where(self._part_full(solution), np.maximum(points, self.along.pipe_m), points)
        return closed, friction, points

    def letting_air_in(self, cases: Cases, solution: Solution) -> tuple[Bools, float]:
        """Return in which cases of a solution air comes in anywhere, shape (cases,), and by how much it does not [m].

        While the same links run the same way, and no node's head is lower by that much, none comes in.
        """
        over = self._along(cases, solution)[2] - self.along.pipe_m
        tight = np.where(self._on_siphon, self.boils_below_m, SUCTION_BELOW_M)
        spare = np.where(self._counted(solution.flows_m3s), over - tight, np.inf)
        return np.asarray((spare < 0.0).any(axis=1)), float(spare.min(initial=np.inf))

    def _counted(self, flows_m3s: Floats) -> Bools:
        """Return at which points water runs that is not just entering its line there, shape (cases, points)."""
        runs = np.abs(flows_m3s[:, self.along.link]) > STILL_BELOW_M3S
        return np.asarray(self.along.inner & runs & ~self.along.upstream_end(flows_m3s))

    def _part_full(self, solution: Solution) -> Bools:
        """Return which points, in which cases, are of lines in which air stands, shape (cases, points)."""
        net, first = self.plumbing.network, self.plumbing.first_link
        aired = (solution.control_state == KEEPING) & (net.control_kinds == Control.SUSTAINER)
        part_full = np.zeros((len(aired), len(first)), dtype=bool)
        cases, controls = np.nonzero(aired)
        part_full[cases, np.searchsorted(first, net.controls[controls], side="right") - 1] = True
        return np.repeat(part_full, self.along.points_in_line, axis=1)

    def solve(self, wanted: Sequence[Case]) -> list[Solved]:
        """Return every case, full and, where there is suction, open to air."""
        return [self.with_air(flow) for flow in self.full_flows(wanted)]

    def suctions(self, flow: Flow) -> tuple[Suction, ...]:
        """Return the points at which the running grade lies below the pipe, the upstream end of a line left out."""
        over = flow.over_pipe_m
        counted = self._counted(flow.flows_m3s[None])[0]
        numbers = np.flatnonzero(counted & (over < SUCTION_BELOW_M))
        return tuple(Suction(int(number), float(over[number])) for number in numbers)

    def with_air(self, full: Flow, expected: frozenset[int] = frozenset()) -> Solved:
        """Return a full-pipe flow with its other answer, open to air wherever there is suction.

        Args:
            expected: numbers of points to open at once, where there is suction. They may be more than necessary: no air
                enters where the grade keeps above the pipe.
        """
        suctions = self.suctions(full) if full.converged else ()
        if not suctions:
            return Solved(full=full, suctions=(), opened=None, used=full, boils=False)
        boiling = any(suction.head_over_pipe_m < self.boils_below_m for suction in suctions)
        opened = self._open(full, suctions, expected if not self.siphons else frozenset())
        if expected and not opened.converged:  # the more may open, the more states there are to settle
            opened = self._open(full, suctions)
        broken = [suction for suction in suctions if self.lets_air_in(suction)]
        used = full if not broken else opened if len(broken) == len(suctions) else self._open(full, broken)
        return Solved(full=full, suctions=suctions, opened=opened, used=used, boils=boiling)

    def lets_air_in(self, suction: Suction) -> bool:
        """Whether water cannot stay there: not on a declared siphon, or less pressure than liquid water has."""
        line_id = self.along.points[suction.point].line_id
        return line_id not in self.siphons or suction.head_over_pipe_m < self.boils_below_m

    def _open(self, full: Flow, suctions: Sequence[Suction], expected: frozenset[int] = frozenset()) -> Flow:
        """Return the case with points open to air, and with those that draw air in then."""
        opened = {self.air_point(full, Suction(number, 0.0)) for number in expected}
        found, flow, model = suctions, full, self
        for _ in range(MOST_AIR_ROUNDS):
            fresh = {model.air_point(flow, suction) for suction in found} - opened
            if not fresh and model is not self:
                break
            opened |= fresh
            model = self.open_at(frozenset(opened))
            flow = model.full_flows([full.case])[0] if flow is full else model.near(flow)
            found = model.suctions(flow) if flow.converged else ()
        return flow

    def air_point(self, flow: Flow, suction: Suction) -> AirPoint:
        """Return the point of a suction as one open to air, the water running as it does."""
        point, link = self.along.points[suction.point], self.along.link[suction.point]
        forward = (float(flow.flows_m3s[link]) >= 0.0) == bool(self.along.forward[suction.point])
        return AirPoint(point.line_id, point.at_m, point.pipe_m, forward)

    def open_at(self, points: frozenset[AirPoint]) -> "NetworkModel":
        """Return the network with some points open to air, made once for each set of points."""
        if points not in self._opened:
            ordered = sorted(points, key=lambda point: (point.line_id, point.at_m))
            self._opened[points] = NetworkModel(
                self.layout, self.water, self.friction, ordered, self.plumbing, self.check_cancelled
            )
        return self._opened[points]
