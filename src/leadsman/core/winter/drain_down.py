"""Water that stays in the lines when they are drained: in low points from which no way leads down to an opening."""

import heapq
from collections.abc import Iterable
from dataclasses import dataclass
from itertools import pairwise

from leadsman.core.analysis.running import Running
from leadsman.core.base.units import LITRE_M3
from leadsman.core.design import Line
from leadsman.core.design.layout import line_profile

OPENED = ("drain", "tap_point")  # parts in a line that are opened to empty it
LEAST_L = 0.05  # less than this in a low point is no matter: it freezes and has room; ours


@dataclass(frozen=True, kw_only=True)
class Held:
    """Water that stays in a low point of a line: from and to along it, and its lowest point [m from its `from` end]."""

    line: Line
    from_m: float
    to_m: float
    low_m: float
    litres: float


@dataclass(frozen=True)
class _Point:
    """A point of the pipes: its height [m], the line it is on and where along it [m]."""

    pipe_m: float
    line: str
    at_m: float


def held_water(running: Running, lines: Iterable[str] | None = None, *, ends_open: bool = True) -> list[Held]:
    """Return what stays in the lines once taps at the vessels are shut and all that opens is open.

    Water leaves along any way that never rises over where it stands; that something siphons out is not counted on.

    Args:
        lines: the lines that are looked at; all of them where None.
        ends_open: whether outlets are taken off or held open, and lines taken off at vessels they fill, so that water
            runs out there.
    """
    points, ways = _network(running)
    openings = [number for number, point in enumerate(points) if _is_opened(running, point)]
    if ends_open:
        openings += _ends(running, points)
    level_m = _escape_levels(points, ways, openings)
    asked = None if lines is None else set(lines)
    of_line: dict[str, list[int]] = {}
    for number, point in enumerate(points):
        of_line.setdefault(point.line, []).append(number)
    found = []
    for line in running.document.lines:
        if asked is None or line.id in asked:
            found += _held_in(running, line, points, of_line[line.id], level_m)
    return found


def _network(running: Running) -> tuple[list[_Point], list[list[int]]]:
    """Return the points of all pipes, and which of them are beside each other; the ends at a node all are."""
    layout = running.model.layout
    points: list[_Point] = []
    ways: list[list[int]] = []
    at_node: dict[str, list[int]] = {}
    for line in running.document.lines:
        first = len(points)
        for at_m, pipe_m in _stations(running, line):
            points.append(_Point(pipe_m=pipe_m, line=line.id, at_m=at_m))
            ways.append([])
        for number in range(first, len(points) - 1):
            ways[number].append(number + 1)
            ways[number + 1].append(number)
        for end, number in ((line.from_, first), (line.to, len(points) - 1)):
            if end not in layout.vessels and end not in layout.sources:  # their taps are shut
                at_node.setdefault(end, []).append(number)
    for ends in at_node.values():
        for number in ends[1:]:
            ways[ends[0]].append(number)
            ways[number].append(ends[0])
    return points, ways


def _stations(running: Running, line: Line) -> list[tuple[float, float]]:
    """Return distance along a line [m] and height of its pipe [m], at what was surveyed and at what opens."""
    profile = [(at_m, pipe_m) for at_m, _, pipe_m in line_profile(running.model.layout, line)]
    known = {at_m for at_m, _ in profile}
    for at_m in {part.at_m for part in line.inline if part.kind in OPENED} - known:
        for (start_m, start), (end_m, end) in pairwise(profile):
            if start_m < at_m < end_m:
                profile.append((at_m, start + (end - start) * (at_m - start_m) / (end_m - start_m)))
                profile.sort()
                break
    return profile


def _is_opened(running: Running, point: _Point) -> bool:
    line = running.model.layout.lines[point.line]
    return any(part.kind in OPENED and part.at_m == point.at_m for part in line.inline)


def _ends(running: Running, points: list[_Point]) -> list[int]:
    """Return the points at which an outlet is, or an end of pipe with nothing on it."""
    layout, found = running.model.layout, []
    nodes = {layout.node_of_outlet[outlet.id] for outlet in running.document.outlets}
    count: dict[str, int] = {}
    for line in running.document.lines:
        for end in (line.from_, line.to):
            count[end] = count.get(end, 0) + 1
    for number, point in enumerate(points):
        line = layout.lines[point.line]
        ends = [line.from_] if point.at_m == 0.0 else []
        ends += [line.to] if number + 1 == len(points) or points[number + 1].line != line.id else []
        into = point.at_m > 0.0 and line.to in ends and line.to in layout.vessels  # taken off where it fills one
        shut = (layout.vessels, layout.sources)
        open_ = [end for end in ends if end in nodes or (count[end] == 1 and not any(end in of for of in shut))]
        if into or open_:
            found.append(number)
    return found


def _escape_levels(points: list[_Point], ways: list[list[int]], openings: list[int]) -> list[float]:
    """Return the level up to which water stays at each point [m]: the least, over all ways out, of their highest point.

    By Dijkstra's method with the highest point of a way in place of its length.
    """
    level_m = [float("inf")] * len(points)
    queue = [(points[number].pipe_m, number) for number in openings]
    heapq.heapify(queue)
    while queue:
        level, number = heapq.heappop(queue)
        if level >= level_m[number]:
            continue
        level_m[number] = level
        for other in ways[number]:
            over = max(level, points[other].pipe_m)
            if over < level_m[other]:
                heapq.heappush(queue, (over, other))
    return level_m


def _held_in(running: Running, line: Line, points: list[_Point], own: list[int], level_m: list[float]) -> list[Held]:
    """Return the stretches of a line in which water stays."""
    found: list[Held] = []
    pieces: list[tuple[float, float, float]] = []  # from, to, litres
    for before, after in pairwise(own):
        piece = _filled(running, line, points[before], points[after], level_m[before], level_m[after])
        if piece is None or (pieces and piece[0] > pieces[-1][1] + 1e-9):
            _close(found, line, points, own, pieces)
            pieces = []
        if piece is not None:
            pieces.append(piece)
    _close(found, line, points, own, pieces)
    return found


def _close(
    found: list[Held], line: Line, points: list[_Point], own: list[int], pieces: list[tuple[float, float, float]]
) -> None:
    litres = sum(piece[2] for piece in pieces)
    if litres <= LEAST_L:
        return
    from_m, to_m = pieces[0][0], pieces[-1][1]
    inside = [points[number] for number in own if from_m - 1e-9 <= points[number].at_m <= to_m + 1e-9]
    low = min(inside, key=lambda point: point.pipe_m)
    found.append(Held(line=line, from_m=from_m, to_m=to_m, low_m=low.at_m, litres=litres))


def _filled(
    running: Running, line: Line, start: _Point, end: _Point, start_level: float, end_level: float
) -> tuple[float, float, float] | None:
    """Return from where to where a straight piece of pipe stays full, and what that holds [L]; None where it drains."""
    low, high, level = (start, end, start_level) if start.pipe_m <= end.pipe_m else (end, start, end_level)
    if level <= low.pipe_m + 1e-9:
        return None
    rise = high.pipe_m - low.pipe_m
    share = 1.0 if level >= high.pipe_m or rise <= 0.0 else (level - low.pipe_m) / rise
    reach_m = share * (end.at_m - start.at_m)
    from_m, to_m = (start.at_m, start.at_m + reach_m) if low is start else (end.at_m - reach_m, end.at_m)
    return from_m, to_m, _litres(running, line, from_m, to_m)


def _litres(running: Running, line: Line, from_m: float, to_m: float) -> float:
    """Return what a line holds between two distances along it [L]."""
    total, begins = 0.0, 0.0
    for piece in running.model.reaches_of_line(line.id):
        ends = begins + piece.length_m
        total += piece.area_m2 * max(0.0, min(to_m, ends) - max(from_m, begins))
        begins = ends
    return total / LITRE_M3
