"""A float on its arm in a vessel: where it stands shut and open, how the arm has to be bent, what it comes near."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

from leadsman.core.base.errors import require_between
from leadsman.core.parts.section import Point, VesselSection

STEPS = 12  # of the travel at which room is measured: the float moves a few centimetres


@dataclass(frozen=True, kw_only=True)
class Arm:
    """A float's arm [m]: where its pin is, how long it is to the middle of the float, how wide the float is.

    Raises:
        OutOfRange: arm or float has no size.
    """

    pin: Point
    arm_m: float
    float_diameter_m: float

    def __post_init__(self) -> None:
        require_between("arm [m]", self.arm_m, 1e-3, 10.0)
        require_between("float [m]", self.float_diameter_m, 1e-3, 5.0)

    def middle_at(self, height_m: float) -> Point | None:
        """Return where the middle of the float is when it is at a height [m]; None where the arm does not reach.

        >>> arm = Arm(pin=(0.03, 0.5), arm_m=0.25, float_diameter_m=0.1)
        >>> [round(value, 3) for value in arm.middle_at(0.35)]
        [0.23, 0.35]
        """
        rise = height_m - self.pin[1]
        if abs(rise) > self.arm_m:
            return None
        return self.pin[0] + math.sqrt(self.arm_m**2 - rise**2), height_m

    def bend_rad(self, height_m: float) -> float | None:
        """Return how far up (below 0: down) the arm points [rad] with its float at a height [m]."""
        rise = height_m - self.pin[1]
        return None if abs(rise) > self.arm_m else math.asin(rise / self.arm_m)


@dataclass(frozen=True, kw_only=True)
class Travel:
    """A float's middle [m] where it shuts and where it is wide open, and the places between."""

    arm: Arm
    middles: Sequence[Point]

    @property
    def shut(self) -> Point:
        """The middle of the float [m] where the valve is shut."""
        return self.middles[0]

    @property
    def open(self) -> Point:
        """The middle of the float [m] where the valve is wide open."""
        return self.middles[-1]

    @property
    def radius_m(self) -> float:
        """Radius of the float [m]."""
        return self.arm.float_diameter_m / 2.0

    def wall_room_m(self, section: VesselSection) -> tuple[float, str]:
        """Return the least room [m] between float and walls over its travel, and to which wall; below 0 they meet."""
        return min(
            ((room - self.radius_m, wall) for room, wall in map(section.room_m, self.middles)),
            key=lambda found: found[0],
        )

    def side_room_m(self, section: VesselSection, aside_m: float | None) -> float | None:
        """Return the least room [m] between float and the walls beside it; None where the section says it already.

        Args:
            aside_m: the hole's middle from the wall on its left [m]; midway where None.
        """
        rooms = []
        for _, up in self.middles:
            breadth = section.beside_m(up)
            if breadth is None:
                return None
            widest = max(breadth, section.breadth_m or 0.0, section.drum_diameter_m or 0.0)
            left = breadth / 2.0 if aside_m is None else aside_m - (widest - breadth) / 2.0
            rooms.append(min(left, breadth - left) - self.radius_m)
        return min(rooms)

    def room_to_m(self, low: Point, high: Point) -> float:
        """Return the least room [m] to an upright rectangle between two corners; below 0 where they meet."""
        return min(_to_rectangle_m(middle, low, high) for middle in self.middles) - self.radius_m


def travel_of(arm: Arm, shut_m: float, fall_m: float) -> Travel | None:
    """Return the travel of a float from its height when shut [m] over the fall that opens it wide [m].

    None where the arm does not reach so high or so low.
    """
    heights = [shut_m - fall_m * step / STEPS for step in range(STEPS + 1)]
    middles = [middle for middle in map(arm.middle_at, heights) if middle is not None]
    return Travel(arm=arm, middles=middles) if len(middles) == len(heights) else None


def between_m(first: Travel, second: Travel, apart_m: float) -> float:
    """Return the least room [m] between two floats that travel each by itself, their holes so far apart [m]."""
    nearest = min(math.dist(one, other) for one in first.middles for other in second.middles)
    return math.hypot(nearest, apart_m) - first.radius_m - second.radius_m


def _to_rectangle_m(point: Point, low: Point, high: Point) -> float:
    """Return how far a point is from an upright rectangle [m]; 0 inside."""
    across = max(low[0] - point[0], 0.0, point[0] - high[0])
    up = max(low[1] - point[1], 0.0, point[1] - high[1])
    return math.hypot(across, up)
