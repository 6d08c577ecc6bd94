"""How the parts of a design hang together: parts by id, heights, and the profile of each line."""

import math
from bisect import bisect_right
from collections.abc import Sequence
from itertools import accumulate, pairwise

import numpy as np

from leadsman.core.base.array import Floats, Ints
from leadsman.core.base.cached import cached_property
from leadsman.core.design import Design, Line, OutletBase, Place, Vessel

End = tuple[float, float | None]  # heights [m] of ground and of the pipe's end; None where that lies at its cover


class Layout:
    """The design's parts by id, and their heights on the datum."""

    def __init__(self, design: Design) -> None:
        self.design = design
        self.places = {place.id: place for place in design.places}
        self.vessels = {vessel.id: vessel for vessel in design.vessels}
        self.sources = {source.id: source for source in design.pressure_sources}
        self.outlets: dict[str, OutletBase] = {outlet.id: outlet for outlet in design.outlets}
        self.lines = {line.id: line for line in design.lines}
        ended = {end for line in design.lines for end in (line.from_, line.to)}
        # an outlet on whose id no line ends draws from the junction at its own place
        self.node_of_outlet = {
            outlet.id: outlet.id if outlet.id in ended else outlet.place for outlet in self.outlets.values()
        }

    @cached_property
    def place_number(self) -> dict[str, int]:
        """The number of each place."""
        return {place.id: number for number, place in enumerate(self.design.places)}

    @cached_property
    def line_number(self) -> dict[str, int]:
        """The number of each line."""
        return {line.id: number for number, line in enumerate(self.design.lines)}

    @cached_property
    def vessel_place(self) -> Ints:
        """The number of each vessel's place."""
        return np.array([self.place_number[vessel.place] for vessel in self.design.vessels], dtype=np.intp)

    @cached_property
    def ground_m(self) -> Floats:
        """Height [m on the datum] of each place's ground."""
        return np.array([place.ground_m for place in self.design.places])

    @cached_property
    def floors_m(self) -> Floats:
        """Height [m on the datum] of each vessel's floor."""
        stands = np.array([vessel.stand_m for vessel in self.design.vessels])
        return np.asarray(self.ground_m[self.vessel_place] + stands)

    @cached_property
    def outlet_heights_m(self) -> Floats:
        """Height [m on the datum] at which each outlet discharges."""
        outlets = self.design.outlets
        places = np.array([self.place_number[outlet.place] for outlet in outlets], dtype=np.intp)
        return np.asarray(self.ground_m[places] + np.array([outlet.height_m for outlet in outlets]))

    @cached_property
    def _floor_of(self) -> dict[str, float]:
        return dict(zip(self.vessels, self.floors_m.tolist(), strict=True))

    @cached_property
    def _height_of(self) -> dict[str, float]:
        return dict(zip(self.outlets, self.outlet_heights_m.tolist(), strict=True))

    def place_of_end(self, end: str) -> Place:
        """Return the place at which a line's end stands: itself, or its vessel's, source's or outlet's."""
        part = self.vessels.get(end) or self.outlets.get(end) or self.sources.get(end)
        return self.places[part.place if part else end]

    def way_of(self, line: Line) -> list[tuple[float, float]]:
        """East and north [m] of a line's corners on the plan, its ends among them."""
        start, end = (self.place_of_end(end_id) for end_id in (line.from_, line.to))
        corners = [(east, north) for east, north in line.way]
        return [(start.east_m, start.north_m), *corners, (end.east_m, end.north_m)]

    def surface_m(self, vessel: Vessel) -> float:
        """Height [m on the datum] of a vessel's water."""
        return self.floor_m(vessel) + vessel.level_m

    def floor_m(self, vessel: Vessel) -> float:
        """Height [m on the datum] of a vessel's floor."""
        return self._floor_of[vessel.id]

    def outlet_height_m(self, outlet: OutletBase) -> float:
        """Height [m on the datum] at which an outlet discharges."""
        return self._height_of[outlet.id]


def way_distances_m(way: Sequence[tuple[float, float]]) -> list[float]:
    """Return how far each corner of a way on the plan lies along it [m]."""
    return [0.0, *accumulate(math.dist(*pair) for pair in pairwise(way))]


def along_way(way: Sequence[tuple[float, float]], shares: Sequence[float]) -> list[tuple[float, float]]:
    """Return east and north [m] at shares, 0 to 1, of the length of a way on the plan."""
    lengths = way_distances_m(way)
    found = []
    for share in shares:
        at = share * lengths[-1]
        leg = min(max(bisect_right(lengths, at) - 1, 0), len(way) - 2)
        long = lengths[leg + 1] - lengths[leg]
        part = (at - lengths[leg]) / long if long else 0.0
        (x0, y0), (x1, y1) = way[leg], way[leg + 1]
        found.append((x0 + part * (x1 - x0), y0 + part * (y1 - y0)))
    return found


def line_profile(layout: Layout, line: Line) -> "Profile":
    """Return (distance, ground, pipe height) [m] at each surveyed point from the `from` end.

    Pipe height is ground less cover; at a vessel its outlet's height, at an outlet its own. A line
    without points runs straight between its ends.
    """
    return _profile(line, (_end_heights(layout, line.from_), _end_heights(layout, line.to)))


Profile = tuple[tuple[float, float, float], ...]


def _profile(line: Line, ends: tuple[End, End]) -> Profile:
    length = line.pipe_length_m
    points = [(at, ground) for at, ground in line.points] or [(0.0, ends[0][0]), (length, ends[1][0])]
    profile = [(min(at, length), ground, ground - line.cover_m) for at, ground in points]
    for index, at, (_, pipe) in ((0, 0.0, ends[0]), (-1, length, ends[1])):
        if pipe is not None:
            profile[index] = (at, profile[index][1], pipe)
    profile[-1] = (length, *profile[-1][1:])
    return tuple(profile)


def _end_heights(layout: Layout, node_id: str) -> End:
    if node_id in layout.vessels:
        vessel = layout.vessels[node_id]
        return layout.places[vessel.place].ground_m, layout.floor_m(vessel) + vessel.outlet_m
    if node_id in layout.outlets:
        outlet = layout.outlets[node_id]
        return layout.places[outlet.place].ground_m, layout.outlet_height_m(outlet)
    if node_id in layout.sources:
        ground_m = layout.places[layout.sources[node_id].place].ground_m
        return ground_m, ground_m
    return layout.places[node_id].ground_m, None
