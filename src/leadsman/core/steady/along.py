"""Along the lines: every surveyed point's place in the network, and the head there in a solved case."""

import copy
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import accumulate
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

from leadsman.core.base.array import Bools, Floats, Ints
from leadsman.core.base.kept import Kept
from leadsman.core.design import InlinePart, Line
from leadsman.core.design.layout import Profile, line_profile
from leadsman.core.physics.pipe import Pipe
from leadsman.core.solver.network import Cases
from leadsman.core.steady.plumbing import Plumbing
from leadsman.core.steady.segment import Laid, Segment

T = TypeVar("T", bound=np.generic)


@dataclass(frozen=True)
class LinePoint:
    """A surveyed point of a line: distance from its `from` end, heights of ground and pipe [m]."""

    line_id: str
    at_m: float
    ground_m: float
    pipe_m: float


FIGURES = ("pipe_m", "area_m2", "passed", "passed_back")  # of each point


class Along:
    """All surveyed points of a network; arrays have one column for each, line after line in document order."""

    pipe_m: Floats
    area_m2: Floats
    passed: Floats
    passed_back: Floats

    def __init__(self, plumbing: Plumbing) -> None:
        self.plumbing = plumbing
        layout = plumbing.layout
        lines = layout.design.lines
        own = [
            _line_points(line, laid, line_profile(layout, line))
            for line, laid in zip(lines, plumbing.laid, strict=True)
        ]
        self.own = own
        self.points = [point for one in own for point in one.points]
        counts = np.array([len(one.points) for one in own], dtype=np.intp)
        after = np.cumsum(counts).tolist()
        self.of_line = {
            line.id: range(end - len(one.points), end) for line, one, end in zip(lines, own, after, strict=True)
        }
        first_link = np.array([plumbing.of_line[line.id].start for line in lines], dtype=np.intp)
        self.link = np.repeat(first_link, counts) + _joined([one.segment for one in own], np.intp)
        self.forward = np.repeat(np.array([one.forward for one in own], dtype=bool), counts)
        for name in FIGURES:
            setattr(self, name, _joined([getattr(one, name) for one in own]))
        self.behind_door = _joined([one.behind_door for one in own], np.bool_)
        shares = np.array([len(one.share) for one in own], dtype=np.intp)
        self.share_piece = np.repeat(np.array(plumbing.first_piece, dtype=np.intp), shares)
        self.share_piece += _joined([one.share_piece for one in own], np.intp)
        self.share = _joined([one.share for one in own])
        self.first_share = (np.cumsum(shares) - shares).tolist()
        each = _joined([one.shares for one in own], np.intp)
        self.shared = np.flatnonzero(each)
        self.share_starts = (np.cumsum(each) - each)[self.shared]
        self.inner = self._inner()

    def moved_to(self, plumbing: Plumbing, again: Iterable[int]) -> "Along | None":
        """Return the points of a network that `Plumbing.moved_to` made of this one's; None where they do not fit.

        Args:
            again: numbers of the lines that have other figures, or end where something has.
        """
        other = copy.copy(self)
        other.plumbing = plumbing
        arrays = {name: getattr(self, name).copy() for name in (*FIGURES, "behind_door", "share")}
        vars(other).update(own=self.own.copy(), points=self.points.copy(), **arrays)
        for number in again:
            line = plumbing.layout.design.lines[number]
            old, new = self.own[number], _line_points(line, plumbing.laid[number], line_profile(plumbing.layout, line))
            if new is old:
                continue
            if not new.fits(old):
                return None
            numbers, first = self.of_line[line.id], self.first_share[number]
            at = slice(numbers.start, numbers.stop)
            other.own[number], other.points[at] = new, new.points
            for name in (*FIGURES, "behind_door"):
                arrays[name][at] = getattr(new, name)
            arrays["share"][first : first + len(new.share)] = new.share
        return other

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
        for pump in net.pumps:
            lift = pump.head_m(flows_m3s[:, pump.link])[0]
            lost -= np.where(self.link == pump.link, lift[:, None], 0.0)
        at_valve = np.where(self.behind_door, end, start)
        return np.where(closed[:, self.link], at_valve, start - lost)

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


@dataclass(frozen=True)
class _LinePoints:
    """The surveyed points of one line, by themselves: `segment` and `share_piece` count from the line's first.

    `passed` and `passed_back` are the shares of a segment's lumps that lie before each point, `share` of each piece
    (`share_piece`) that lies before it, one point's after the other's, as many as `shares` says.
    """

    points: tuple[LinePoint, ...]
    forward: bool
    segment: Ints
    pipe_m: Floats
    behind_door: Bools
    area_m2: Floats
    passed: Floats
    passed_back: Floats
    share_piece: Ints
    share: Floats
    shares: Ints

    def fits(self, other: "_LinePoints") -> bool:
        """Whether the points hang on the same links and pieces."""
        return (
            self.forward == other.forward
            and np.array_equal(self.segment, other.segment)
            and np.array_equal(self.share_piece, other.share_piece)
            and np.array_equal(self.shares, other.shares)
        )


_kept: Kept[_LinePoints] = Kept()


def _line_points(line: Line, laid: Laid, profile: Profile) -> _LinePoints:
    """Return the points of a line; of one that is laid as before, and lies as before, the very same."""
    return _kept.get(line, laid, profile) or _kept.keep(_new_line_points(line, laid, profile), line, laid, profile)


def _new_line_points(line: Line, laid: Laid, profile: Profile) -> _LinePoints:
    segments, length = laid.segments, line.pipe_length_m
    forward = segments[0].forward
    points = tuple(LinePoint(line.id, at, ground, pipe) for at, ground, pipe in profile)
    distance = [point.at_m if forward else length - point.at_m for point in points]
    valve_m = _valve_m(line.inline, length)
    door_m = valve_m if forward else length - valve_m
    last = len(segments) - 1
    numbers = [next(i for i, one in enumerate(segments) if along <= one.to_m or i == last) for along in distance]
    first = list(accumulate((len(one.pieces) for one in segments), initial=0))
    shares = [
        list(_piece_shares(segments[number], first[number], along))
        for number, along in zip(numbers, distance, strict=True)
    ]
    passed, passed_back = (
        [_lump_share(segments[number], at, inclusive=way) for number, at in zip(numbers, distance, strict=True)]
        for way in (True, False)
    )
    return _LinePoints(
        points=points,
        forward=forward,
        segment=np.array(numbers, dtype=np.intp),
        pipe_m=np.array([point.pipe_m for point in points]),
        behind_door=np.array(distance) > door_m,
        area_m2=_areas_m2(laid.pipes, points),
        passed=np.array(passed),
        passed_back=np.array(passed_back),
        share_piece=np.array([piece for own in shares for piece, _ in own], dtype=np.intp),
        share=np.array([share for own in shares for _, share in own]),
        shares=np.array([len(own) for own in shares], dtype=np.intp),
    )


def _piece_shares(segment: Segment, first: int, along_m: float) -> Iterator[tuple[int, float]]:
    """Yield the number of each piece of a segment that begins before a distance, and what share of it lies before."""
    at = segment.from_m
    for number, piece in enumerate(segment.pieces, first):
        if along_m <= at:
            return
        end = at + piece.length_m
        yield number, (along_m - at) / piece.length_m if along_m < end else 1.0
        at = end


def _areas_m2(pipes: Sequence[Pipe], points: Sequence[LinePoint]) -> Floats:
    """Return the open area [m2] of the pipe that each point stands on; where two sizes meet, of the later."""
    areas = np.array([pipe.area_m2 for pipe in pipes])
    at_m = np.array([point.at_m for point in points])
    on = np.searchsorted(np.cumsum([pipe.length_m for pipe in pipes]), at_m, side="right")
    return np.asarray(areas[np.minimum(on, len(pipes) - 1)])


def _joined(arrays: Sequence[NDArray[T]], kind: type[T] = np.float64) -> NDArray[T]:  # type: ignore[assignment]
    """Return arrays one after the other; none of them is an empty one."""
    return np.concatenate([np.zeros(0, dtype=kind), *arrays])


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
