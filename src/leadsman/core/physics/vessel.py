"""Shapes of tanks, troughs and ponds: volume from level, and level from volume."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Protocol

from leadsman.core.base.errors import require_between

LEVEL_WITHIN_M = 1e-10


class Shape(Protocol):
    """A vessel's inside: its height [m], and up to a level [m] above its floor the volume [m3] and its surface [m2].

    `corners_m` are the levels [m] between floor and rim at which the surface jumps.
    """

    @property
    def height_m(self) -> float: ...

    @property
    def corners_m(self) -> Sequence[float]: ...

    def volume_m3(self, level_m: float) -> float: ...

    def surface_m2(self, level_m: float) -> float: ...


@dataclass(frozen=True)
class Prism:
    """Walls straight up over any floor area [m2]: boxes, upright cylinders, rectangular chambers."""

    floor_area_m2: float
    height_m: float

    def volume_m3(self, level_m: float) -> float:
        return self.floor_area_m2 * _within(level_m, self.height_m)

    @property
    def corners_m(self) -> Sequence[float]:
        return ()

    def surface_m2(self, level_m: float) -> float:
        _within(level_m, self.height_m)
        return self.floor_area_m2


@dataclass(frozen=True)
class LyingCylinder:
    """A round drum on its side, flat ends: diameter and length [m]."""

    diameter_m: float
    length_m: float

    @property
    def height_m(self) -> float:
        return self.diameter_m

    def volume_m3(self, level_m: float) -> float:
        radius = self.diameter_m / 2.0
        above_centre = _within(level_m, self.diameter_m) - radius
        sector = radius**2 * math.acos(max(-1.0, min(1.0, -above_centre / radius)))
        chord = above_centre * math.sqrt(max(0.0, radius**2 - above_centre**2))
        return self.length_m * (sector + chord)

    @property
    def corners_m(self) -> Sequence[float]:
        return ()

    def surface_m2(self, level_m: float) -> float:
        level = _within(level_m, self.diameter_m)
        return 2.0 * self.length_m * math.sqrt(max(0.0, level * (self.diameter_m - level)))


@dataclass(frozen=True, kw_only=True)
class Frustum:
    """A round tub whose walls lean: diameters at floor and rim, and height [m]."""

    bottom_diameter_m: float
    top_diameter_m: float
    height_m: float

    def volume_m3(self, level_m: float) -> float:
        level = _within(level_m, self.height_m)
        bottom = self.bottom_diameter_m
        surface = bottom + (self.top_diameter_m - bottom) * level / self.height_m
        return math.pi * level / 12.0 * (bottom**2 + bottom * surface + surface**2)

    @property
    def corners_m(self) -> Sequence[float]:
        return ()

    def surface_m2(self, level_m: float) -> float:
        share = _within(level_m, self.height_m) / self.height_m
        across = self.bottom_diameter_m + (self.top_diameter_m - self.bottom_diameter_m) * share
        return math.pi * across**2 / 4.0


@dataclass(frozen=True)
class StageTable:
    """Measured levels [m] and volumes [m3], both rising from 0; straight lines between."""

    levels_m: Sequence[float]
    volumes_m3: Sequence[float]

    @property
    def height_m(self) -> float:
        return self.levels_m[-1]

    def volume_m3(self, level_m: float) -> float:
        level, upper = self._reading_over(level_m)
        share = level - self.levels_m[upper - 1]
        return self.volumes_m3[upper - 1] + share * self._surface_under_m2(upper)

    @property
    def corners_m(self) -> Sequence[float]:
        return self.levels_m[1:-1]

    def surface_m2(self, level_m: float) -> float:
        return self._surface_under_m2(self._reading_over(level_m)[1])

    def _reading_over(self, level_m: float) -> tuple[float, int]:
        level = _within(level_m, self.height_m)
        return level, next(i for i in range(1, len(self.levels_m)) if level <= self.levels_m[i])

    def _surface_under_m2(self, upper: int) -> float:
        risen = self.volumes_m3[upper] - self.volumes_m3[upper - 1]
        return risen / (self.levels_m[upper] - self.levels_m[upper - 1])


@dataclass(frozen=True)
class Linked:
    """Identical vessels that share one level."""

    shape: Shape
    count: int

    @property
    def height_m(self) -> float:
        return self.shape.height_m

    def volume_m3(self, level_m: float) -> float:
        return self.count * self.shape.volume_m3(level_m)

    @property
    def corners_m(self) -> Sequence[float]:
        return self.shape.corners_m

    def surface_m2(self, level_m: float) -> float:
        return self.count * self.shape.surface_m2(level_m)


def level_m(shape: Shape, volume_m3: float) -> float:
    """Return the level [m] at which a shape holds a volume [m3], to 1e-10 m.

    Raises:
        OutOfRange: the volume is negative or more than the shape holds.
    Source: Newton's method on the surface, kept within halving; or the floor where the walls are straight.
    >>> level_m(Prism(floor_area_m2=1.2, height_m=0.5), 0.24)
    0.2
    """
    full = shape.volume_m3(shape.height_m)
    require_between("volume [m3]", volume_m3, 0.0, full * (1.0 + 1e-12))
    if isinstance(shape, Prism):
        return min(volume_m3 / shape.floor_area_m2, shape.height_m)
    if volume_m3 <= 0.0 or volume_m3 >= full:
        return 0.0 if volume_m3 <= 0.0 else shape.height_m
    low, high = 0.0, shape.height_m
    level, before_m = high * volume_m3 / full, high
    while high - low > LEVEL_WITHIN_M:
        lacking = volume_m3 - shape.volume_m3(level)
        low, high = (level, high) if lacking > 0.0 else (low, level)
        surface = shape.surface_m2(level)
        step_m = lacking / surface if surface > 0.0 else math.inf
        if abs(step_m) <= LEVEL_WITHIN_M / 2.0:
            return min(max(level + step_m, 0.0), shape.height_m)
        if not low < level + step_m < high or abs(step_m) > before_m / 2.0:
            step_m = (low + high) / 2.0 - level
        level, before_m = level + step_m, abs(step_m)
    return (low + high) / 2.0


def _within(level_m: float, height_m: float) -> float:
    require_between("level [m]", level_m, -1e-9, height_m + 1e-9)
    return min(max(level_m, 0.0), height_m)
