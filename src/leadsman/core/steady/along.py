"""Along the lines: every surveyed point's place in the network, and the head there in a solved case."""

from collections.abc import Iterator, Sequence
from typing import NamedTuple

import numpy as np

from leadsman.core.base.array import Bools, Floats, Ints
from leadsman.core.base.cached import cached_property
from leadsman.core.design import InlinePart
from leadsman.core.design.layout import line_profile
from leadsman.core.solver.network import Cases, Control
from leadsman.core.steady.plumbing import Plumbing
from leadsman.core.steady.segment import Segment

BEFORE_PUMP_M = -1.0  # along a line: all of it lies behind its pump


class LinePoint(NamedTuple):
    """A surveyed point of a line: distance from its `from` end, heights of ground and pipe [m]."""

    line_id: str
    at_m: float
    ground_m: float
    pipe_m: float


class Along:
    """All surveyed points of a network; arrays have one column for each, line after line in document order.

    Attributes:
        points: the points, `of_line` their numbers for each line, and `points_in_line` how many they are.
        line_of_point: the number of each point's line.
        pipe_m: height of the pipe [m]; `area_m2` its open area.
        link, forward: the link that each point lies on, and whether that runs with its line.
        downstream_of_valve: whether the point lies beyond where its line is closed, as its link runs.
        inner: whether it is not the end of a line at a vessel or at an outlet's own end.
    """

    def __init__(self, plumbing: Plumbing) -> None:
        self.plumbing = plumbing
        layout = plumbing.layout
        lines = layout.design.lines
        profiles = [line_profile(layout, line) for line in lines]
        counts = np.array([len(profile) for profile in profiles], dtype=np.intp)
        self.points_in_line, self._first = counts, np.cumsum(counts) - counts
        self.line_of_point = np.repeat(np.arange(len(lines)), counts)
        self.points = [
            LinePoint(line.id, *point) for line, profile in zip(lines, profiles, strict=True) for point in profile
        ]
        starts = self._first.tolist()
        self.of_line = {
            line.id: range(start, start + count)
            for line, start, count in zip(lines, starts, counts.tolist(), strict=True)
        }
        at_m = np.array([point.at_m for point in self.points])
        self.pipe_m = np.array([point.pipe_m for point in self.points])
        self.forward = (plumbing.line_sign > 0.0)[self.line_of_point]
        length_m = np.array([line.pipe_length_m for line in lines])
        valve_m = np.zeros(len(lines))
        for number, line in enumerate(lines):
            if line.inline:
                valve_m[number] = _valve_m(line.inline, length_m[number])
            if line.pump is not None:
                valve_m[number] = BEFORE_PUMP_M
        self._distance_m = np.where(self.forward, at_m, length_m[self.line_of_point] - at_m)
        closed_at_m = np.where(self.forward, valve_m[self.line_of_point], (length_m - valve_m)[self.line_of_point])
        self.downstream_of_valve = self._distance_m > closed_at_m
        self.link = self._links()
        self.area_m2 = self._areas_m2(at_m)
        self.passed, self.passed_back = self._lump_shares()
        self._share_the_pieces()
        self.inner = self._inner()

    @cached_property
    def errors_m(self) -> Floats:
        """Half-width of the error of each point's height [m]: its place's at an end, else the line's."""
        layout, errors = self.plumbing.layout, np.zeros(len(self.points))
        for line in layout.design.lines:
            own = self.of_line[line.id]
            ends = [layout.place_of_end(end).height_error_m or 0.0 for end in (line.from_, line.to)]
            errors[own.start : own.stop] = max(ends) if line.points_error_m is None else line.points_error_m
            errors[own.start], errors[own.stop - 1] = ends
        return errors

    def _links(self) -> Ints:
        """Return the link of each point; where two meet, the one before."""
        plumbing = self.plumbing
        link = plumbing.first_link[self.line_of_point]
        for number in plumbing.divided:
            own = self._numbers(number)
            ends_m = [segment.to_m for segment in plumbing.line_layouts[number].segments[:-1]]
            link[own] += np.searchsorted(ends_m, self._distance_m[own], side="left")
        return link

    def _numbers(self, line: int) -> slice:
        """Return the numbers of a line's points."""
        after = self._first[line + 1] if line + 1 < len(self._first) else len(self.line_of_point)
        return slice(int(self._first[line]), int(after))

    def _areas_m2(self, at_m: Floats) -> Floats:
        """Return the open area [m2] of the pipe that each point stands on; where two sizes meet, of the later."""
        plumbing = self.plumbing
        areas = np.array([pipe.area_m2 for pipe in plumbing.reaches])
        reach = plumbing.first_reach[self.line_of_point]
        for number, (pipes, _) in enumerate(plumbing.line_layouts):
            if len(pipes) > 1:
                own = self._numbers(number)
                on = np.searchsorted(np.cumsum([pipe.length_m for pipe in pipes]), at_m[own], side="right")
                reach[own] += np.minimum(on, len(pipes) - 1)
        return areas[reach] if len(areas) else np.zeros(0)

    def _lump_shares(self) -> tuple[Floats, Floats]:
        """Return the share of its link's lumped losses that lies before each point, itself counted and not."""
        segments = self.plumbing.segments
        passed, passed_back = np.zeros(len(self.points)), np.zeros(len(self.points))
        lumped = np.array([bool(segment.lumps) for segment in segments], dtype=bool)
        for number in np.flatnonzero(lumped[self.link]).tolist():
            segment, at_m = segments[self.link[number]], self._distance_m[number]
            passed[number] = _lump_share(segment, at_m, inclusive=True)
            passed_back[number] = _lump_share(segment, at_m, inclusive=False)
        return passed, passed_back

    def _share_the_pieces(self) -> None:
        """Take up which share of each piece of its link lies before each point, one point's after the other's."""
        plumbing = self.plumbing
        begins_m = np.cumsum(plumbing.piece_length_m) - plumbing.piece_length_m  # along all pieces of the network
        from_m = np.array([segment.from_m for segment in plumbing.segments])
        each = plumbing.pieces_in_segment[self.link]
        first = plumbing.first_piece[self.link]
        self.share_piece = np.repeat(first - (np.cumsum(each) - each), each) + np.arange(each.sum())
        link = np.repeat(self.link, each)
        along_link_m = begins_m[self.share_piece] - begins_m[plumbing.first_piece[link]] + from_m[link]
        passed_m = np.repeat(self._distance_m, each) - along_link_m
        self.share = np.clip(passed_m / plumbing.piece_length_m[self.share_piece], 0.0, 1.0)
        self.shared = np.flatnonzero(each)
        self.share_starts = (np.cumsum(each) - each)[self.shared]

    def friction_m(self, cases: Cases, flows_m3s: Floats) -> Floats:
        """Return the friction loss [m] of each piece of pipe, signed as its flow, shape (cases, pieces)."""
        flow = flows_m3s[:, self.plumbing.network.piece_link]
        return cases.friction(np.abs(flow))[0] * np.sign(flow) if flow.size else flow

    def by_link(self, friction_m: Floats) -> Floats:
        """Return the friction loss [m] of each link, shape (cases, links)."""
        net = self.plumbing.network
        loss = np.zeros((len(friction_m), net.links))
        if len(net.piece_link):
            links, starts = np.unique(net.piece_link, return_index=True)
            loss[:, links] = np.add.reduceat(friction_m, starts, axis=1)
        return loss

    def heads_m(self, cases: Cases, heads_m: Floats, flows_m3s: Floats, friction_m: Floats, closed: Bools) -> Floats:
        """Return the head [m] at each point, shape (cases, points); a part that sits there is passed.

        Args:
            friction_m: as `friction_m` returns.
            closed: links that pass nothing: there the head is that of the end on the point's side of the valve.
        """
        net = self.plumbing.network
        flow = flows_m3s[:, self.link]
        start, end = heads_m[:, net.start[self.link]], heads_m[:, net.end[self.link]]
        lost = np.where(flow >= 0.0, self.passed, self.passed_back) * self._fitting_share(cases) * flow * np.abs(flow)
        if len(self.share_piece):
            summed = np.add.reduceat(friction_m[:, self.share_piece] * self.share, self.share_starts, axis=1)
            lost[:, self.shared] += summed
        for link, lift_m in self._lifts_m(cases, heads_m, flows_m3s, friction_m):
            lost -= np.where(self.link == link, lift_m[:, None], 0.0)
        at_valve = np.where(self.downstream_of_valve, end, start)
        return np.where(closed[:, self.link], at_valve, start - lost)

    def _lifts_m(
        self, cases: Cases, heads_m: Floats, flows_m3s: Floats, friction_m: Floats
    ) -> Iterator[tuple[int, Floats]]:
        """Yield each pump's link and what it adds [m], shape (cases,): by its curve, or what its given flow takes."""
        net = self.plumbing.network
        for pump in net.pumps:
            yield pump.link, pump.head_m(flows_m3s[:, pump.link])[0]
        for link in net.controls[net.control_kinds == Control.FIXED_FLOW].tolist():
            flow = flows_m3s[:, link]
            lost = friction_m[:, net.piece_link == link].sum(axis=1) + cases.square[:, link] * flow * np.abs(flow)
            yield link, heads_m[:, net.end[link]] - heads_m[:, net.start[link]] + lost

    def _fitting_share(self, cases: Cases) -> Floats:
        """Return what all fittings of each point's link take over flow squared."""
        return cases.square[:, self.link]

    def velocities_ms(self, flows_m3s: Floats) -> Floats:
        """Return the velocity [m/s] at each point of one case, positive from its line's `from` end."""
        flow = flows_m3s[self.link]
        return np.asarray(np.where(self.forward, flow, -flow) / self.area_m2)

    @cached_property
    def line_ends(self) -> tuple[Bools, Bools]:
        """Which points are the first of their line, and which the last."""
        first, last = np.zeros(len(self.points), dtype=bool), np.zeros(len(self.points), dtype=bool)
        first[[points.start for points in self.of_line.values()]] = True
        last[[points.stop - 1 for points in self.of_line.values()]] = True
        return first, last

    def _inner(self) -> Bools:
        """Return which points are not the end of a line at a vessel or at an outlet's own end."""
        first, last = self.line_ends
        places = self.plumbing.layout.places
        lines = self.plumbing.layout.design.lines
        inner = np.ones(len(self.points), dtype=bool)
        inner[first] = [line.from_ in places for line in lines]
        inner[last] &= np.array([line.to in places for line in lines], dtype=bool)
        return inner

    def upstream_end(self, flows_m3s: Floats) -> Bools:
        """Return which points are the end of their line that the water comes from, shape (cases, points)."""
        first, last = self.line_ends
        with_line = (flows_m3s[:, self.link] >= 0.0) == self.forward
        return np.where(with_line, first, last)


def _lump_share(segment: Segment, along_m: float, *, inclusive: bool) -> float:
    """Return the share of a segment's lumped losses that lies before a distance."""
    if not segment.lumps:
        return 0.0
    whole = sum(lump.per_flow2 for lump in segment.lumps)
    before = sum(
        lump.per_flow2 for lump in segment.lumps if lump.at_m < along_m or (inclusive and lump.at_m <= along_m)
    )
    return before / whole if whole > 0.0 else 0.0


def _valve_m(inline: Sequence[InlinePart], length_m: float) -> float:
    """Return where a line that passes nothing is closed: at its check valve, else isolating valve, else start."""
    for kind in ("check_valve", "isolating_valve"):
        for part in inline:
            if part.kind == kind:
                return float(min(part.at_m, length_m))
    return 0.0
