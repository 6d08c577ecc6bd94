"""A vessel cut upright along the arm of its float valve: its walls, and how far a float is from them."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

from leadsman.core.base.units import LITRE_M3
from leadsman.core.design import BoxShape, FrustumShape, LyingCylinderShape, UprightCylinderShape, VesselShape

Point = tuple[float, float]
Wall = Literal["the wall behind it", "the wall before it", "the floor", "a wall beside it"]
CORNERS_OF_ROUND = 96  # of a drum seen from its end: its corners stand 0.05 % of the radius inside the round


@dataclass(frozen=True, kw_only=True)
class VesselSection:
    """The inside of a vessel [m]: across from the valve's wall at the floor, and up from the floor.

    `outline` runs from the near rim down, over the floor and up to the far rim. `is_known` is false where only its
    volumes are known: it is drawn round then, and nothing is said of room. `beside_m` is its breadth across the arm by
    height; None where it is round there, and the section's own walls say it.
    """

    outline: Sequence[Point]
    is_known: bool
    breadth_m: float | None = None
    drum_diameter_m: float | None = None

    @property
    def top_m(self) -> float:
        """Height of the rim [m]."""
        return max(up for _, up in self.outline)

    def near_wall_m(self, height_m: float) -> float:
        """Return where the valve's wall stands [m] at a height [m]; at the rim above it."""
        return _across_at(self.outline, height_m)

    def far_wall_m(self, height_m: float) -> float:
        """Return where the wall before the valve stands [m] at a height [m]."""
        return _across_at(list(reversed(self.outline)), height_m)

    def beside_m(self, height_m: float) -> float | None:
        """Return the breadth [m] across the arm at a height [m]; None where the section's walls say it."""
        if self.drum_diameter_m is not None:
            low = min(max(height_m, 0.0), self.drum_diameter_m)
            return 2.0 * math.sqrt(low * (self.drum_diameter_m - low))
        return self.breadth_m

    def room_m(self, middle: Point) -> tuple[float, Wall]:
        """Return how far a point is from the nearest wall or floor [m], below 0 outside of it, and which that is."""
        across, up = middle
        near, far = self.near_wall_m(up), self.far_wall_m(up)
        nearest = min((_distance_m(middle, leg) for leg in pairwise(self.outline)), key=lambda found: found[0])
        inside = near <= across <= far and up >= 0.0
        if nearest[1][1] < 1e-6:
            wall: Wall = "the floor"
        else:
            wall = "the wall behind it" if nearest[1][0] < (near + far) / 2.0 else "the wall before it"
        return (nearest[0] if inside else -nearest[0]), wall


def section_of(shape: VesselShape, wall: Literal["end", "side"]) -> VesselSection:
    """Return a vessel's section along an arm that comes through its end, or through its long side."""
    along = wall == "end"
    match shape:
        case BoxShape():
            long, wide = (shape.length_m, shape.width_m) if along else (shape.width_m, shape.length_m)
            return VesselSection(outline=_upright(long, shape.height_m), is_known=True, breadth_m=wide)
        case UprightCylinderShape():
            return VesselSection(outline=_upright(shape.diameter_m, shape.height_m), is_known=True)
        case FrustumShape():
            lean = (shape.top_diameter_m - shape.bottom_diameter_m) / 2.0
            far = shape.bottom_diameter_m
            outline = [(-lean, shape.height_m), (0.0, 0.0), (far, 0.0), (far + lean, shape.height_m)]
            return VesselSection(outline=outline, is_known=True)
        case LyingCylinderShape():
            if along:
                outline = _upright(shape.length_m, shape.diameter_m)
                return VesselSection(outline=outline, is_known=True, drum_diameter_m=shape.diameter_m)
            return VesselSection(outline=_round(shape.diameter_m), is_known=True, breadth_m=shape.length_m)
    return VesselSection(outline=_as_round(shape.stages), is_known=False)


def _upright(long_m: float, high_m: float) -> list[Point]:
    return [(0.0, high_m), (0.0, 0.0), (long_m, 0.0), (long_m, high_m)]


def _round(diameter_m: float) -> list[Point]:
    """Return a circle from its top round by the near side and back to its top; across from the valve's wall."""
    radius, turns = diameter_m / 2.0, [math.tau * corner / CORNERS_OF_ROUND for corner in range(CORNERS_OF_ROUND + 1)]
    return [(radius - radius * math.sin(turn), radius + radius * math.cos(turn)) for turn in turns]


def _as_round(stages: Sequence[Sequence[float]]) -> list[Point]:
    """Return the section of the round vessel that holds as much between each two levels."""
    radii = [
        math.sqrt((upper[1] - lower[1]) * LITRE_M3 / (upper[0] - lower[0]) / math.pi)
        for lower, upper in pairwise(stages)
    ]
    widest = max(radii)
    corners = [
        (radius, level[0]) for radius, *levels in zip(radii, stages, stages[1:], strict=False) for level in levels
    ]
    near = [(widest - radius, up) for radius, up in reversed(corners)]
    return [*near, *((widest + radius, up) for radius, up in corners)]


def _across_at(outline: Sequence[Point], height_m: float) -> float:
    """Return where the first wall of an outline that is met stands [m] at a height [m]."""
    for (x0, z0), (x1, z1) in pairwise(outline):
        low, high = min(z0, z1), max(z0, z1)
        if high > low and low <= height_m <= high:
            return x0 + (x1 - x0) * (height_m - z0) / (z1 - z0)
    return outline[0][0] if height_m > 0.0 else min(outline, key=lambda corner: corner[1])[0]


def _distance_m(point: Point, leg: tuple[Point, Point]) -> tuple[float, Point]:
    """Return how far a point is from a straight leg [m], and where on it that is."""
    (x0, z0), (x1, z1) = leg
    long2 = (x1 - x0) ** 2 + (z1 - z0) ** 2
    share = 0.0 if long2 <= 0.0 else ((point[0] - x0) * (x1 - x0) + (point[1] - z0) * (z1 - z0)) / long2
    share = min(max(share, 0.0), 1.0)
    spot = (x0 + share * (x1 - x0), z0 + share * (z1 - z0))
    return math.dist(point, spot), spot
