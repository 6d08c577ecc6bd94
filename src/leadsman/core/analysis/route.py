"""The way of the water: from a vessel to a node, line after line, as it runs or as it would."""

from collections import deque
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise
from typing import NamedTuple

from leadsman.core.design import Line, Vessel
from leadsman.core.steady.along import Along
from leadsman.core.steady.case import Case
from leadsman.core.steady.flow import STILL_BELOW_M3S, Flow, SolvedNetwork


class Leg(NamedTuple):
    """One line of a route, taken `forward` or against its drawing, from and to a distance along the route [m]."""

    line: Line
    forward: bool
    start_m: float
    end_m: float

    def at_m(self, along_m: float) -> float:
        """Return the distance [m] along the route of a point so far along the line."""
        return self.start_m + (along_m if self.forward else self.line.pipe_length_m - along_m)


@dataclass(frozen=True)
class RoutePoint:
    """A surveyed point: its number along the lines, its leg, and its distance [m] from the vessel."""

    number: int
    leg: int
    at_m: float


@dataclass(frozen=True, eq=False)
class Course:
    """Lines one after the other, from a node to a node."""

    along: Along
    legs: tuple[Leg, ...]

    @cached_property
    def points(self) -> tuple[RoutePoint, ...]:
        """Its surveyed points, in the order of the water."""
        points = []
        for index, leg in enumerate(self.legs):
            own = self.along.of_line[leg.line.id]
            for number in own if leg.forward else reversed(own):
                points.append(RoutePoint(number, index, leg.at_m(self.along.points[number].at_m)))
        return tuple(points)

    @property
    def lines(self) -> tuple[Line, ...]:
        return tuple(leg.line for leg in self.legs)

    @property
    def length_m(self) -> float:
        return self.legs[-1].end_m if self.legs else 0.0

    @property
    def end(self) -> str:
        """Id of the node it leads to."""
        last = self.legs[-1]
        return last.line.to if last.forward else last.line.from_

    @property
    def siphon(self) -> bool:
        """Declared airtight and primed over its whole length."""
        return bool(self.legs) and all(leg.line.siphon for leg in self.legs)


@dataclass(frozen=True, eq=False)
class Route(Course):
    """From a vessel to a node, in the order of the water."""

    vessel: Vessel


class Ways:
    """The ways on which water comes in a solved case; what several have in common is walked once."""

    def __init__(self, flow: Flow) -> None:
        self.flow = flow
        self._legs: dict[str, tuple[Leg, ...] | None] = dict.fromkeys(flow.model.plumbing.vessels, ())

    def to(self, node_id: str) -> Route | None:
        """Return the way on which most of a node's water comes, or would come; None where none leads to it."""
        model = self.flow.model
        legs = self._legs_to(node_id) if node_id not in model.plumbing.vessels else ()
        if not legs:
            way = open_way(model, self.flow.case, node_id)
            return _route(model, way) if way else None
        return _route_of(model, legs)

    def _legs_to(self, node_id: str) -> tuple[Leg, ...] | None:
        lines = self.flow.model.layout.lines
        back = []
        here = node_id
        while here not in self._legs:
            self._legs[here] = None  # where the way comes back to it, it leads nowhere
            inflow = self.flow.greatest_inflow(here)
            if inflow is None:
                break
            line_id, before, forward = inflow
            back.append((here, line_id, forward))
            here = before
        legs = self._legs[here]
        for node, line_id, forward in reversed(back):
            if legs is not None:
                start = legs[-1].end_m if legs else 0.0
                line = lines[line_id]
                legs = (*legs, Leg(line, forward, start, start + line.pipe_length_m))
            self._legs[node] = legs
        return self._legs[node_id]


def route_to(flow: Flow, node_id: str) -> Route | None:
    """Return the way on which most of a node's water comes in a solved case, or would come; None where none leads."""
    return Ways(flow).to(node_id)


def feeds(flow: Flow) -> list[Route]:
    """Return the ways on which water runs into vessels through lines that end on them, in document order."""
    model = flow.model
    found = []
    for line in model.layout.design.lines:
        through = flow.line_flow_m3s(line.id)
        start, end = (line.from_, line.to) if through > 0.0 else (line.to, line.from_)
        if abs(through) > STILL_BELOW_M3S and end in model.plumbing.vessels:
            before = [] if start in model.plumbing.vessels else way_of_water(flow, start)
            if before or start in model.plumbing.vessels:
                found.append(_route(model, [*before, (line.id, through > 0.0)]))
    return found


def way_of_water(flow: Flow, node_id: str) -> list[tuple[str, bool]]:
    """Return lines, and whether each is taken forward, from a vessel to a node: at each node the greatest inflow."""
    vessels, most = flow.model.plumbing.vessels, len(flow.model.layout.design.lines)
    way: list[tuple[str, bool]] = []
    here = node_id
    while here not in vessels and len(way) <= most:  # no circle
        inflow = flow.greatest_inflow(here)
        if inflow is None:
            break
        line_id, here, forward = inflow
        way.append((line_id, forward))
    return way[::-1] if here in vessels else []


def open_way(model: SolvedNetwork, case: Case, node_id: str) -> list[tuple[str, bool]]:
    """Return the way of fewest lines from a vessel to a node, along open lines the way they pass.

    It leads from a vessel that gives; from an empty one only where no other leads there.
    """
    ways: dict[str, list[tuple[str, str, bool]]] = {}
    for start, end, line_id, forward in _passages(model, case):
        ways.setdefault(start, []).append((end, line_id, forward))
    giving = [vessel_id for vessel_id in model.plumbing.vessels if model.loader.gives(vessel_id, case)]
    return _shortest(ways, giving, node_id) or _shortest(ways, list(model.plumbing.vessels), node_id)


def vessels_behind(model: SolvedNetwork, case: Case, node_ids: Iterable[str]) -> set[str]:
    """Return the vessels from which water can get to some of the nodes over open lines, through other vessels too."""
    before: dict[str, list[str]] = {}
    for start, end, _, _ in _passages(model, case):
        before.setdefault(end, []).append(start)
    found = set(node_ids)
    queue = deque(found)
    while queue:
        for other in before.get(queue.popleft(), []):
            if other not in found:
                found.add(other)
                queue.append(other)
    return found & set(model.plumbing.vessels)


def _passages(model: SolvedNetwork, case: Case) -> Iterator[tuple[str, str, str, bool]]:
    """Yield start, end, line and whether forward of every way that an open line passes water."""
    for line in model.layout.design.lines:
        if line.id not in case.shut_lines:
            yield line.from_, line.to, line.id, True
            segments = (model.plumbing.segments[link] for link in model.plumbing.of_line[line.id])
            if not any(segment.one_way or segment.control is not None for segment in segments):
                yield line.to, line.from_, line.id, False


def _shortest(ways: dict[str, list[tuple[str, str, bool]]], sources: list[str], node_id: str) -> list[tuple[str, bool]]:
    before: dict[str, tuple[str, str, bool] | None] = dict.fromkeys(sources)
    queue = deque(sources)
    while queue and node_id not in before:
        here = queue.popleft()
        for other, line_id, forward in ways.get(here, []):
            if other not in before:
                before[other] = (here, line_id, forward)
                queue.append(other)
    way, step = [], before.get(node_id)
    while step is not None:
        here, line_id, forward = step
        way.append((line_id, forward))
        step = before[here]
    return way[::-1]


def peaks_and_dips(heights_m: list[float]) -> dict[int, str]:
    """Return which heights of a pipe are peaks and which dips, by index; ends are neither.

    A level stretch counts once.
    """
    marks: dict[int, str] = {}
    distinct = [i for i in range(len(heights_m)) if i == 0 or heights_m[i] != heights_m[i - 1]]
    for (i, j), k in zip(pairwise(distinct), distinct[2:], strict=False):
        before, here, after = heights_m[i], heights_m[j], heights_m[k]
        if here > before and here > after:
            marks[j] = "peak"
        elif here < before and here < after:
            marks[j] = "dip"
    return marks


def course_between(model: SolvedNetwork, start: str, end: str) -> Course | None:
    """Return the way of fewest lines between two nodes, whichever way the water runs; None where none leads there."""
    ways: dict[str, list[tuple[str, str, bool]]] = {}
    for line in model.layout.design.lines:
        ways.setdefault(line.from_, []).append((line.to, line.id, True))
        ways.setdefault(line.to, []).append((line.from_, line.id, False))
    way = _shortest(ways, [start], end)
    return Course(model.along, _legs(model, way)) if way else None


def _route(model: SolvedNetwork, way: list[tuple[str, bool]]) -> Route:
    return _route_of(model, _legs(model, way))


def _legs(model: SolvedNetwork, way: list[tuple[str, bool]]) -> tuple[Leg, ...]:
    legs: list[Leg] = []
    at = 0.0
    for line_id, forward in way:
        line = model.layout.lines[line_id]
        length = line.pipe_length_m
        legs.append(Leg(line, forward, at, at + length))
        at += length
    return tuple(legs)


def _route_of(model: SolvedNetwork, legs: tuple[Leg, ...]) -> Route:
    first = legs[0].line.from_ if legs[0].forward else legs[0].line.to
    return Route(model.along, legs, model.layout.vessels[first])
