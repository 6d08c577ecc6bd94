"""The walk to a trough: how far its paddocks reach from a spot, straight across, and how far animals are to walk."""

from collections.abc import Sequence
from itertools import pairwise
from math import dist, hypot

from leadsman.core.design import Design, Paddock
from leadsman.core.farm.grazing import walking_limit, walking_limit_m
from leadsman.core.siting.position import Spot

AT_THE_FENCE_M = 3.0


def watered(design: Design, outlet_id: str) -> list[Paddock]:
    """Return the paddocks that drink at an outlet and whose fence is known."""
    return [paddock for paddock in design.paddocks if paddock.outlet == outlet_id and len(paddock.corners) >= 3]


def corners_of(paddock: Paddock) -> list[Spot]:
    """Return east and north [m] of a paddock's corners."""
    return [(corner[0], corner[1]) for corner in paddock.corners]


def farthest_m(paddock: Paddock, spot: Spot) -> float:
    """Return the longest straight way within reach of a paddock to a spot [m]: it is that from a corner."""
    return max(dist(corner, spot) for corner in corners_of(paddock))


def stands_in(paddock: Paddock, spot: Spot) -> bool:
    """Return whether a spot lies in a paddock or at its fence."""
    corners = corners_of(paddock)
    return inside(corners, spot) or fence_m(corners, spot) <= AT_THE_FENCE_M


def inside(corners: Sequence[Spot], spot: Spot) -> bool:
    """Return whether a spot lies within a ring of corners.

    Source: even and odd crossings of a ray to the east.
    """
    east, north = spot
    crossed = False
    for (x0, y0), (x1, y1) in pairwise([*corners, corners[0]]):
        if (y0 > north) != (y1 > north) and east < x0 + (north - y0) / (y1 - y0) * (x1 - x0):
            crossed = not crossed
    return crossed


def fence_m(corners: Sequence[Spot], spot: Spot) -> float:
    """Return how far a spot is from a ring of corners [m]."""
    ways = []
    for (x0, y0), (x1, y1) in pairwise([*corners, corners[0]]):
        dx, dy = x1 - x0, y1 - y0
        square = dx * dx + dy * dy
        share = min(1.0, max(0.0, ((spot[0] - x0) * dx + (spot[1] - y0) * dy) / square)) if square else 0.0
        ways.append(hypot(x0 + share * dx - spot[0], y0 + share * dy - spot[1]))
    return min(ways)


def limit_m(design: Design, outlet_id: str, day: str | None) -> float | None:
    """Return how far the animals that drink at an outlet are to walk at most [m]; None where none does.

    Args:
        day: as 2031-06-01; without it, while the grass grows, which is the less.
    Source: as each row of the table of walks names.
    """
    paddocks = {paddock.id for paddock in design.paddocks if paddock.outlet == outlet_id}
    led = {
        stop.herd for stop in design.calendar if outlet_id in stop.outlets or paddocks & set(stop.paddocks)
    }  # fmt: skip
    southern = design.site.is_southern
    limits = [
        walking_limit(herd.animal).growing_m if day is None else walking_limit_m(herd.animal, day, southern=southern)
        for herd in design.herds
        if herd.outlet == outlet_id or herd.id in led
    ]
    return min(limits, default=None)
