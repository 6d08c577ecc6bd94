"""The way of the water: from a vessel to a node, line after line, as it runs or as it would."""

from collections import deque
from dataclasses import dataclass
from itertools import pairwise
from typing import NamedTuple

from leadsman.core.base.cached import cached_property
from leadsman.core.design import Line, OutletBase, Vessel
from leadsman.core.steady.along import Along
from leadsman.core.steady.flow import Flow, SolvedNetwork
from leadsman.core.steady.way import STILL_BELOW_M3S, Ways


class Leg(NamedTuple):
    """One line of a route, taken `forward` or against its drawing, from and to a distance along the route [m]."""

    line: Line
    forward: bool
    start_m: float
    end_m: float

    def at_m(self, along_m: float) -> float:
        """Return the distance [m] along the route of a point so far along the line."""
        return self.start_m + (along_m if self.forward else self.line.pipe_length_m - along_m)


@dataclass(frozen=True, kw_only=True)
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
                points.append(RoutePoint(number=number, leg=index, at_m=leg.at_m(self.along.points[number].at_m)))
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


class WayOver(NamedTuple):
    """An outlet whose water comes over a line: its way, and which of its legs the line is."""

    outlet: OutletBase
    route: Route
    leg: int


def route_to(flow: Flow, node_id: str, ways: Ways | None = None) -> Route | None:
    """Return the way on which most of a node's water comes in a solved case, or would come; None where none leads.

    Args:
        ways: those of another case, where they are wanted.
    """
    model = flow.model
    way = (ways or flow.ways).lines_to(model.plumbing.node(node_id))
    return _route(model, way) if way else None


def feeds(flow: Flow) -> list[Route]:
    """Return the ways on which water runs into vessels through lines that end on them, in document order."""
    model = flow.model
    found = []
    for number, line in enumerate(model.layout.design.lines):
        through = flow.line_flow_m3s(line.id)
        start, end = (line.from_, line.to) if through > 0.0 else (line.to, line.from_)
        if abs(through) > STILL_BELOW_M3S and end in model.plumbing.vessels:
            node = model.plumbing.node(start)
            if flow.ways.running[node]:
                found.append(_route(model, [*flow.ways.lines_to(node), (number, through > 0.0)]))
    return found


def high_and_low_points(heights_m: list[float]) -> dict[int, str]:
    """Return which heights of a pipe are high points and which low points, by index; ends are neither.

    A level stretch counts once.
    """
    marks: dict[int, str] = {}
    distinct = [i for i in range(len(heights_m)) if i == 0 or heights_m[i] != heights_m[i - 1]]
    for (i, j), k in zip(pairwise(distinct), distinct[2:], strict=False):
        before, here, after = heights_m[i], heights_m[j], heights_m[k]
        if here > before and here > after:
            marks[j] = "high"
        elif here < before and here < after:
            marks[j] = "low"
    return marks


def course_between(model: SolvedNetwork, start: str, end: str) -> Course | None:
    """Return the way of fewest lines between two nodes, whichever way the water runs; None where none leads there."""
    ways: dict[str, list[tuple[str, int, bool]]] = {}
    for number, line in enumerate(model.layout.design.lines):
        ways.setdefault(line.from_, []).append((line.to, number, True))
        ways.setdefault(line.to, []).append((line.from_, number, False))
    before: dict[str, tuple[str, int, bool] | None] = {start: None}
    queue = deque([start])
    while queue and end not in before:
        here = queue.popleft()
        for other, number, forward in ways.get(here, []):
            if other not in before:
                before[other] = (here, number, forward)
                queue.append(other)
    way, step = [], before.get(end)
    while step is not None:
        here, number, forward = step
        way.append((number, forward))
        step = before[here]
    return Course(model.along, _legs(model, way[::-1])) if way else None


def _route(model: SolvedNetwork, way: list[tuple[int, bool]]) -> Route:
    legs = _legs(model, way)
    first = legs[0].line.from_ if legs[0].forward else legs[0].line.to
    return Route(model.along, legs, model.layout.vessels[first])


def _legs(model: SolvedNetwork, way: list[tuple[int, bool]]) -> tuple[Leg, ...]:
    legs: list[Leg] = []
    at = 0.0
    for number, forward in way:
        line = model.layout.design.lines[number]
        length = line.pipe_length_m
        legs.append(Leg(line, forward, at, at + length))
        at += length
    return tuple(legs)
