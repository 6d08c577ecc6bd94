"""How the parts of a design hang together: heights, and which vessel's water stands at which node.

Later work replaces the single way to each node by a network; heights and profiles stay.
"""

from collections import deque
from dataclasses import dataclass

from leadsman.core.design import Design, Line, OutletBase, Vessel
from leadsman.core.line import line_lumps, line_reaches, not_solved_yet
from leadsman.core.pipe import Pipe
from leadsman.core.route import Lump, Point, Reach, Route
from leadsman.core.water import Water


@dataclass(frozen=True)
class Visit:
    """How water gets to a node: from which vessel, through which line from which node."""

    vessel_id: str
    line: Line | None
    before: str | None


class Layout:
    """The design's parts by id, and which vessel's water stands at which node."""

    def __init__(self, design: Design) -> None:
        self.design = design
        self.places = {place.id: place for place in design.places}
        self.vessels = {vessel.id: vessel for vessel in design.vessels}
        self.outlets: dict[str, OutletBase] = {outlet.id: outlet for outlet in design.outlets}
        self.node_of_outlet = self._outlet_nodes()
        self.visits = self._visits()

    def surface_m(self, vessel: Vessel) -> float:
        """Height [m on the datum] of a vessel's water."""
        return self.floor_m(vessel) + vessel.level_m

    def floor_m(self, vessel: Vessel) -> float:
        """Height [m on the datum] of a vessel's floor."""
        return self.places[vessel.place].ground_m + vessel.stand_m

    def outlet_height_m(self, outlet: OutletBase) -> float:
        """Height [m on the datum] at which an outlet discharges."""
        return self.places[outlet.place].ground_m + outlet.height_m

    def route_to(self, node_id: str, water: Water) -> Route:
        """Return the way to a node that `visits` knows."""
        lines: list[tuple[Line, bool]] = []
        visit = self.visits[node_id]
        here, nodes = node_id, [node_id]
        while visit.line is not None and visit.before is not None:
            lines.append((visit.line, visit.line.to == here))
            here = visit.before
            nodes.append(here)
            visit = self.visits[here]
        return self._assemble(self.vessels[visit.vessel_id], lines[::-1], nodes[::-1], water)

    def _assemble(self, vessel: Vessel, lines: list[tuple[Line, bool]], nodes: list[str], water: Water) -> Route:
        reaches: list[Reach] = []
        lumps: list[Lump] = []
        points: list[Point] = []
        node_at = [0.0]
        for leg, (line, forward) in enumerate(lines):
            start, length = node_at[-1], line.pipe_length_m
            path = f"/lines/{self.design.lines.index(line)}"
            reaches += _placed_reaches(line_reaches(line, path), forward, start, leg)
            for at_m, per_flow2 in line_lumps(line, path, water):
                lumps.append(Lump(leg, start + (at_m if forward else length - at_m), per_flow2))
            profile = [
                Point(leg, start + (at if forward else length - at), ground, pipe)
                for at, ground, pipe in line_profile(self, line)
            ]
            points += profile if forward else profile[::-1]
            node_at.append(start + length)
        return Route.built(
            vessel,
            self.surface_m(vessel),
            [line for line, _ in lines],
            list(zip(nodes, node_at, strict=True)),
            reaches,
            lumps,
            points,
            water,
        )

    def _outlet_nodes(self) -> dict[str, str]:
        """An outlet on whose id no line ends draws from the junction at its own place."""
        ended = {end for line in self.design.lines for end in (line.from_, line.to)}
        return {outlet.id: outlet.id if outlet.id in ended else outlet.place for outlet in self.outlets.values()}

    def _visits(self) -> dict[str, Visit]:
        """Walk the open lines from every vessel on which one ends.

        Raises:
            DesignFaults: water can reach a node in two ways, which takes the network solver.
        """
        ways = self._ways()
        visits: dict[str, Visit] = {}
        for vessel in self.design.vessels:
            if vessel.id not in ways:
                continue
            if vessel.id in visits:
                raise not_solved_yet(
                    f"/vessels/{self.design.vessels.index(vessel)}", "a second vessel on one pipe", "one"
                )
            visits[vessel.id] = Visit(vessel.id, None, None)
            queue = deque([vessel.id])
            while queue:
                here = queue.popleft()
                for line, other in ways.get(here, []):
                    if line is visits[here].line:
                        continue
                    if other in visits:
                        index = self.design.lines.index(line)
                        raise not_solved_yet(f"/lines/{index}", f"a second way to {other!r}", "one way to each place")
                    visits[other] = Visit(vessel.id, line, here)
                    queue.append(other)
        return visits

    def _ways(self) -> dict[str, list[tuple[Line, str]]]:
        ways: dict[str, list[tuple[Line, str]]] = {}
        for line in self.design.lines:
            if line.shut:
                continue
            ways.setdefault(line.from_, []).append((line, line.to))
            if not any(part.kind == "check_valve" for part in line.inline):
                ways.setdefault(line.to, []).append((line, line.from_))
        return ways


def line_profile(layout: Layout, line: Line) -> list[tuple[float, float, float]]:
    """Return (distance, ground, pipe height) [m] at each surveyed point from the `from` end.

    Pipe height is ground less cover; at a vessel its outlet's height, at an outlet its own. A line
    without points runs straight between its ends.
    """
    length = line.pipe_length_m
    ends = [_end_heights(layout, line.from_), _end_heights(layout, line.to)]
    points = [(at, ground) for at, ground in line.points] or [(0.0, ends[0][0]), (length, ends[1][0])]
    profile = [(min(at, length), ground, ground - line.cover_m) for at, ground in points]
    for index, at, (_, pipe) in ((0, 0.0, ends[0]), (-1, length, ends[1])):
        if pipe is not None:
            profile[index] = (at, profile[index][1], pipe)
    profile[-1] = (length, *profile[-1][1:])
    return profile


def _end_heights(layout: Layout, node_id: str) -> tuple[float, float | None]:
    if node_id in layout.vessels:
        vessel = layout.vessels[node_id]
        return layout.places[vessel.place].ground_m, layout.floor_m(vessel) + vessel.outlet_m
    if node_id in layout.outlets:
        outlet = layout.outlets[node_id]
        return layout.places[outlet.place].ground_m, layout.outlet_height_m(outlet)
    return layout.places[node_id].ground_m, None


def _placed_reaches(pipes: list[Pipe], forward: bool, start_m: float, leg: int) -> list[Reach]:
    placed, at = [], start_m
    for pipe in pipes if forward else pipes[::-1]:
        placed.append(Reach(leg, at, pipe))
        at += pipe.length_m
    return placed
