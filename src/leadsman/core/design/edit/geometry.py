"""Lines on the plan: their ways, what lies near them, and the ground along them."""

import math
from bisect import bisect_left
from dataclasses import dataclass
from itertools import pairwise

from leadsman.core.design.edit.parts import Document, Part, parts, stands_at
from leadsman.core.design.layout import along_way, way_distances_m

Spot = tuple[float, float]
SAME_SPOT_M = 0.05
AT_AN_END = 0.002  # share of a line's way


@dataclass(frozen=True, kw_only=True)
class OnLine:
    """A point of a line's way on the plan: the share of the way that lies before it [-], and how far off [m]."""

    line: Part
    share: float
    spot: Spot
    off_m: float


def place_at(document: Document, spot: Spot) -> Part | None:
    """Return the place at a spot of the plan, where one is."""
    for place in parts(document, "places"):
        if math.dist((place["east_m"], place["north_m"]), spot) <= SAME_SPOT_M:
            return place
    return None


def place_of_end(document: Document, end: str) -> Part:
    """Return the place at which a line's end stands.

    Raises:
        KeyError: there is none, as in a document that is not checked yet.
    """
    place_id = stands_at(document).get(end, end)
    for place in parts(document, "places"):
        if place["id"] == place_id:
            return place
    raise KeyError(place_id)


def way_of(document: Document, line: Part) -> list[Spot]:
    """Return east and north [m] of a line's corners, its ends among them."""
    ends = (place_of_end(document, line[key]) for key in ("from", "to"))
    (start, end) = ((place["east_m"], place["north_m"]) for place in ends)
    return [start, *((east, north) for east, north in line.get("way") or []), end]


def way_length_m(way: list[Spot]) -> float:
    """Return the length [m] of a way on the plan."""
    return way_distances_m(way)[-1]


def pipe_length_m(line: Part) -> float:
    """Return the true length of a line's pipe [m]."""
    length = line.get("length_m")
    return float(sum(run["length_m"] for run in line.get("runs") or []) if length is None else length)


def nearest_on(document: Document, line: Part, spot: Spot) -> OnLine:
    """Return the point of a line that lies nearest to a spot."""
    way = way_of(document, line)
    before = way_distances_m(way)
    best = (math.inf, 0.0)
    for number, (a, b) in enumerate(pairwise(way)):
        dx, dy = b[0] - a[0], b[1] - a[1]
        long = math.hypot(dx, dy)
        part = min(1.0, max(0.0, ((spot[0] - a[0]) * dx + (spot[1] - a[1]) * dy) / long**2)) if long else 0.0
        off = math.dist((a[0] + dx * part, a[1] + dy * part), spot)
        if off < best[0]:
            best = (off, (before[number] + long * part) / before[-1] if before[-1] else 0.0)
    return OnLine(line=line, share=best[1], spot=along_way(way, [best[1]])[0], off_m=best[0])


def line_at(document: Document, spot: Spot, within_m: float) -> OnLine | None:
    """Return the line that passes nearest within a distance of a spot; its ends do not count."""
    found = [nearest_on(document, line, spot) for line in parts(document, "lines")]
    near = [point for point in found if point.off_m <= within_m and AT_AN_END < point.share < 1.0 - AT_AN_END]
    return min(near, key=lambda point: point.off_m, default=None)


def ground_along(document: Document, line: Part, at_m: float) -> float:
    """Return the ground [m] at a distance along a line: between its surveyed points, else straight between its ends."""
    points = line.get("points") or [
        [0.0, place_of_end(document, line["from"])["ground_m"]],
        [pipe_length_m(line), place_of_end(document, line["to"])["ground_m"]],
    ]
    after = min(max(bisect_left([at for at, _ in points], at_m), 1), len(points) - 1)
    (a, low), (b, high) = points[after - 1], points[after]
    return float(low + (high - low) * (at_m - a) / (b - a)) if b > a else float(high)
