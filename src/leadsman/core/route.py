"""The way of the water: from a vessel to a node, line after line, as it runs or as it would."""

from collections import deque
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from itertools import pairwise

from leadsman.core.case import Case
from leadsman.core.design import Line, Vessel
from leadsman.core.steady import STILL_BELOW_M3S, Flow, NetworkModel


@dataclass(frozen=True)
class Leg:
    """One line of a route, taken `forward` or against its drawing, from and to a distance along the route [m]."""

    line: Line
    forward: bool
    start_m: float
    end_m: float


@dataclass(frozen=True)
class RoutePoint:
    """A surveyed point: its number along the lines, its leg, and its distance [m] from the vessel."""

    number: int
    leg: int
    at_m: float


@dataclass(frozen=True)
class Route:
    """From a vessel to a node, in the order of the water."""

    vessel: Vessel
    legs: tuple[Leg, ...]
    points: tuple[RoutePoint, ...]

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


def route_to(flow: Flow, node_id: str) -> Route | None:
    """Return the way on which most of a node's water comes in a solved case, or would come; None where none leads."""
    way = way_of_water(flow, node_id) or open_way(flow.model, flow.case, node_id)
    return _route(flow.model, way) if way else None


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
    inflows: dict[str, tuple[float, str, str, bool]] = {}
    for line in flow.model.layout.design.lines:
        through = flow.line_flow_m3s(line.id)
        if abs(through) > STILL_BELOW_M3S:
            forward = through > 0.0
            start, end = (line.from_, line.to) if forward else (line.to, line.from_)
            inflows[end] = max(inflows.get(end, (0.0, "", "", True)), (abs(through), line.id, start, forward))
    way: list[tuple[str, bool]] = []
    here = node_id
    while here in inflows and here not in flow.model.plumbing.vessels:
        _, line_id, before, forward = inflows.pop(here)  # taken once: no circle
        way.append((line_id, forward))
        here = before
    return way[::-1] if here in flow.model.plumbing.vessels else []


def open_way(model: NetworkModel, case: Case, node_id: str) -> list[tuple[str, bool]]:
    """Return the way of fewest lines from a vessel to a node, along open lines the way they pass.

    It leads from a vessel that gives; from an empty one only where no other leads there.
    """
    ways: dict[str, list[tuple[str, str, bool]]] = {}
    for start, end, line_id, forward in _passages(model, case):
        ways.setdefault(start, []).append((end, line_id, forward))
    giving = [vessel_id for vessel_id in model.plumbing.vessels if model.loader.gives(vessel_id, case)]
    return _shortest(ways, giving, node_id) or _shortest(ways, list(model.plumbing.vessels), node_id)


def vessels_behind(model: NetworkModel, case: Case, node_ids: Iterable[str]) -> set[str]:
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


def _passages(model: NetworkModel, case: Case) -> Iterator[tuple[str, str, str, bool]]:
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


def _route(model: NetworkModel, way: list[tuple[str, bool]]) -> Route:
    legs: list[Leg] = []
    points: list[RoutePoint] = []
    at = 0.0
    for index, (line_id, forward) in enumerate(way):
        line = model.layout.lines[line_id]
        length = line.pipe_length_m
        legs.append(Leg(line, forward, at, at + length))
        numbers = model.along.of_line[line_id]
        for number in numbers if forward else reversed(numbers):
            along = model.along.points[number].at_m
            points.append(RoutePoint(number, index, at + (along if forward else length - along)))
        at += length
    first = legs[0].line.from_ if legs[0].forward else legs[0].line.to
    return Route(model.layout.vessels[first], tuple(legs), tuple(points))
