"""Along the lines: every surveyed point's place in the network, and the head there in a solved case."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np

from leadsman.core.design import InlinePart, Line
from leadsman.core.friction import Floats
from leadsman.core.layout import LINES_KEPT, line_profile
from leadsman.core.network import Bools, Cases
from leadsman.core.pipe import Pipe
from leadsman.core.plumbing import Plumbing, Segment
from leadsman.core.same import Same


@dataclass(frozen=True)
class LinePoint:
    """A surveyed point of a line: distance from its `from` end, heights of ground and pipe [m]."""

    line_id: str
    at_m: float
    ground_m: float
    pipe_m: float


class Along:
    """All surveyed points of a network; arrays have one column for each, line after line in document order."""

    def __init__(self, plumbing: Plumbing) -> None:
        self.plumbing = plumbing
        layout = plumbing.layout
        self.points: list[LinePoint] = []
        self.of_line: dict[str, range] = {}
        link: list[int] = []
        distance: list[float] = []
        door: list[float] = []
        for line in layout.design.lines:
            before, segments = len(self.points), plumbing.of_line[line.id]
            points, valve_m = _points(Same(line), line_profile(layout, line))
            self.points += points
            if len(segments) == 1 and plumbing.segments[segments[0]].forward:
                link += [segments[0]] * len(points)
                distance += [point.at_m for point in points]
                door += [valve_m] * len(points)
            else:
                forward = plumbing.segments[segments[0]].forward
                for point in points:
                    along = point.at_m if forward else line.pipe_length_m - point.at_m
                    beyond = (s for s in segments if along <= plumbing.segments[s].to_m or s == segments[-1])
                    link.append(next(beyond))
                    distance.append(along)
                    door.append(valve_m if forward else line.pipe_length_m - valve_m)
            self.of_line[line.id] = range(before, len(self.points))
        self.link = np.array(link, dtype=np.intp)
        self.pipe_m = np.array([point.pipe_m for point in self.points])
        self.forward = np.array([plumbing.segments[s].forward for s in link], dtype=bool)
        self.behind_door = np.array(distance) > np.array(door)
        self._weigh(distance)
        self.inner = self._inner()
        self.area_m2 = self._areas()

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

    def _weigh(self, distance: list[float]) -> None:
        """Work out, for each point, what share of which pieces and which lumps lie before it in its segment."""
        first: dict[int, int] = {}
        for piece, link in enumerate(self.plumbing.network.piece_link.tolist()):
            first.setdefault(link, piece)
        share: list[tuple[int, int, float]] = []
        passed, passed_back = [0.0] * len(distance), [0.0] * len(distance)
        for index, (link, along) in enumerate(zip(self.link.tolist(), distance, strict=True)):
            segment = self.plumbing.segments[link]
            at = segment.from_m
            for number, piece in enumerate(segment.pieces, first.get(link, 0)):
                if along <= at:
                    break
                end = at + piece.length_m
                share.append((index, number, (along - at) / piece.length_m if along < end else 1.0))
                at = end
            if segment.lumps:
                passed[index] = _lump_share(segment, along, inclusive=True)
                passed_back[index] = _lump_share(segment, along, inclusive=False)
        self.share_piece = np.array([piece for _, piece, _ in share], dtype=np.intp)
        self.share = np.array([part for *_, part in share])
        self.shared, self.share_starts = np.unique([index for index, *_ in share], return_index=True)
        self.passed, self.passed_back = np.array(passed), np.array(passed_back)

    def _fitting_share(self, cases: Cases) -> Floats:
        """Return what all fittings of each point's link take over flow squared."""
        return cases.square[:, self.link]

    def velocities_ms(self, flows_m3s: Floats) -> Floats:
        """Return the velocity [m/s] at each point of one case, positive from its line's `from` end."""
        flow = flows_m3s[self.link]
        return np.asarray(np.where(self.forward, flow, -flow) / self.area_m2)

    def _areas(self) -> Floats:
        """Return the open area [m2] of the pipe that each point stands on; where two sizes meet, of the later."""
        areas: list[float] = []
        reaches: dict[str, list[Pipe]] = {}
        lines = self.plumbing.layout.design.lines
        for pipe, line in zip(self.plumbing.reaches, self.plumbing.reach_line, strict=True):
            reaches.setdefault(lines[line].id, []).append(pipe)
        for line_id, numbers in self.of_line.items():
            own = reaches[line_id]
            if len(own) == 1:
                areas += [own[0].area_m2] * len(numbers)
                continue
            at_m = np.array([self.points[number].at_m for number in numbers])
            on = np.searchsorted(np.cumsum([pipe.length_m for pipe in own]), at_m, side="right")
            areas += [own[min(int(i), len(own) - 1)].area_m2 for i in on]
        return np.array(areas)

    @cached_property
    def line_ends(self) -> tuple[Bools, Bools]:
        """Which points are the first of their line, and which the last."""
        first, last = np.zeros(len(self.points), dtype=bool), np.zeros(len(self.points), dtype=bool)
        for points in self.of_line.values():
            first[points[0]], last[points[-1]] = True, True
        return first, last

    def _inner(self) -> Bools:
        """Return which points are not the end of a line at a vessel or at an outlet's own end."""
        inner = [True] * len(self.points)
        places = self.plumbing.layout.places
        for line in self.plumbing.layout.design.lines:
            points = self.of_line[line.id]
            for end, point in ((line.from_, points[0]), (line.to, points[-1])):
                inner[point] &= end in places
        return np.array(inner, dtype=bool)

    def upstream_end(self, flows_m3s: Floats) -> Bools:
        """Return which points are the end of their line that the water comes from, shape (cases, points)."""
        first, last = self.line_ends
        with_line = (flows_m3s[:, self.link] >= 0.0) == self.forward
        return np.where(with_line, first, last)


@lru_cache(maxsize=LINES_KEPT)
def _points(line: Same[Line], profile: tuple[tuple[float, float, float], ...]) -> tuple[tuple[LinePoint, ...], float]:
    """Return the points of a line, and where it is closed where it passes nothing [m]."""
    points = tuple(LinePoint(line.it.id, at, ground, pipe) for at, ground, pipe in profile)
    return points, _valve_m(line.it.inline, line.it.pipe_length_m)


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
