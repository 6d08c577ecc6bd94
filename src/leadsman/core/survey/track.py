"""A walked track as a profile: positions and heights smoothed with the error kept, thinned to what matters for water.

What matters are the high points, where air stays, and the low points, where pressure is greatest; between them the
ground may be straight within a tolerance.
"""

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from scipy.linalg import solveh_banded

from leadsman.core.base.array import Floats, Ints
from leadsman.core.base.cached import cached_property
from leadsman.core.base.errors import require_between

STEP_M = 2.0  # along the track, at which the walk is taken up
SMOOTHED_OVER_M = 40.0  # a wave as long as this is halved; our own
MOST_STEPS = 20_000
APART_M = 4.0  # points nearer than this are taken together: closer by, a receiver's jitter is longer than the walk
MOST_JITTER = 0.25  # of the mean step: more of it makes a walk longer than it is; ours
MOST_WANDER = 0.1  # of its length, sideways, that what is left of the jitter may make a walk wander; ours
MOST_ROUNDS, SETTLED = 30, 1e-3
LEAST_TOLERANCE_M, MOST_TOLERANCE_M = 0.05, 0.5
TOLERANCE_SHARE = 0.25  # of the heights' error: what is straighter than that is straight


@dataclass(frozen=True)
class KeptPoints:
    """The numbers of the points that are kept of a profile, and how many of them are high points and low points."""

    numbers: list[int]
    extremes: int


@dataclass(frozen=True, kw_only=True)
class TrackProfile:
    """A track as a profile.

    Args:
        smooth_at_m, smooth_m: the whole smoothed profile, evenly spaced: distance on plan and height [m].
        noise_m: half-width of what the smoothing took out of the heights [m]: what is short-lived in their error.
        error_m: half-width of the error kept [m]: what was said of the source, never less than the noise.
    """

    smooth_at_m: Floats
    smooth_m: Floats
    noise_m: float
    error_m: float

    @cached_property
    def kept(self) -> KeptPoints:
        """Which of its points matter."""
        return kept_points(self.smooth_at_m, self.smooth_m, self.error_m)

    @property
    def at_m(self) -> list[float]:
        """Distances on plan of the points kept [m]."""
        distances: list[float] = self.smooth_at_m[self.kept.numbers].tolist()
        return distances

    @property
    def height_m(self) -> list[float]:
        """Heights of the points kept [m]."""
        heights: list[float] = self.smooth_m[self.kept.numbers].tolist()
        return heights

    @property
    def plan_m(self) -> float:
        """Its length on plan [m]."""
        return float(self.smooth_at_m[-1])

    @property
    def slope_m(self) -> float:
        """Its length along the ground [m]."""
        return slope_length_m(self.smooth_at_m, self.smooth_m)


def track_profile(points: Sequence[tuple[float, float, float]], error_m: float) -> TrackProfile:
    """Return the profile of a track.

    Args:
        points: east, north, height [m], two or more that are apart.
        error_m: half-width of the error of its heights [m], 0 to 500.
    Raises:
        OutOfRange: fewer than two points are apart, or the error is out of range.
    Source of the smoothing: Whittaker 1923 with second differences; Eilers 2003, Anal. Chem. 75:3631.
    """
    require_between("error of the heights [m]", error_m, 0.0, 500.0)
    own = np.asarray(points, dtype=float)
    apart = _first_apart(own[:, :2])
    walked = _means(own, apart)
    require_between("points that are apart", len(walked), 2, math.inf)
    rough = distances_along_m(walked[:, :2])
    jitter = _jitter_m(own[:, :2])
    over = SMOOTHED_OVER_M
    if jitter > MOST_JITTER * rough[-1] / len(own):
        apart, walked, rough, over = _shortened(own, apart, walked, rough, jitter)
    at, smooth = _smooth_walk(walked, rough, over)
    noise = _half_width(own[:, 2] - np.interp(rough[apart], at, smooth[:, 2]))
    return TrackProfile(
        smooth_at_m=distances_along_m(smooth[:, :2]), smooth_m=smooth[:, 2], noise_m=noise, error_m=max(error_m, noise)
    )


def distances_along_m(spots_m: Floats) -> Floats:
    """Return how far each spot lies along the way over all of them [m].

    Args:
        spots_m: east and north, shape (spots, 2) [m].
    """
    return np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(spots_m, axis=0).T))])


def slope_length_m(at_m: Floats, heights_m: Floats) -> float:
    """Return the length along the ground of a profile [m], from distances on plan and heights [m]."""
    return float(np.sum(np.hypot(np.diff(at_m), np.diff(heights_m))))


def kept_points(at_m: Floats, heights_m: Floats, error_m: float) -> KeptPoints:
    """Return which points of a profile matter, its heights being good to so much [m]."""
    tolerance = min(MOST_TOLERANCE_M, max(LEAST_TOLERANCE_M, TOLERANCE_SHARE * error_m))
    turning = turning_points(heights_m, tolerance)
    return KeptPoints(thinned(at_m, heights_m, tolerance, turning), len(turning))


def turning_points(heights_m: Floats, least_m: float) -> list[int]:
    """Return the numbers of the high and low points, in their order: each that much above or below its neighbours.

    The ends are none. Between two of one kind the other kind lies.
    """
    found: list[int] = []
    low = high = direction = 0
    for number, height in enumerate(heights_m.tolist()):
        if direction >= 0 and height >= heights_m[high]:
            high = number
        if direction <= 0 and height <= heights_m[low]:
            low = number
        if direction >= 0 and heights_m[high] - height >= least_m:
            found.append(high)
            direction, low = -1, number
        elif direction <= 0 and height - heights_m[low] >= least_m:
            found.append(low)
            direction, high = 1, number
    return [number for number in found if 0 < number < len(heights_m) - 1]


def thinned(at_m: Floats, heights_m: Floats, tolerance_m: float, always: Sequence[int] = ()) -> list[int]:
    """Return the numbers of the points between which the profile is straight within a tolerance [m of height].

    The ends and those of `always` are kept. Source: Douglas and Peucker 1973, with the distance upwards.
    """

    def off_m(first: int, last: int) -> Floats:
        inner = slice(first + 1, last)
        straight = np.interp(at_m[inner], [at_m[first], at_m[last]], [heights_m[first], heights_m[last]])
        off: Floats = np.abs(heights_m[inner] - straight)
        return off

    return simplified(sorted({0, len(at_m) - 1, *always}), off_m, tolerance_m)


def simplified(kept: Sequence[int], off_m: Callable[[int, int], Floats], tolerance_m: float) -> list[int]:
    """Return the numbers of the points to keep, in their order, so that no other is further off than a tolerance [m].

    Args:
        kept: the numbers kept in any case, rising, with the first and the last point.
        off_m: how far off those between two numbers are from the straight between these two [m].

    Source: Douglas and Peucker 1973.
    """
    ahead = list(pairwise(kept))
    chosen = set(kept)
    while ahead:
        first, last = ahead.pop()
        if last - first < 2:
            continue
        off = off_m(first, last)
        worst = int(np.argmax(off))
        if off[worst] > tolerance_m:
            middle = first + 1 + worst
            chosen.add(middle)
            ahead += [(first, middle), (middle, last)]
    return sorted(chosen)


def _shortened(
    own: Floats, group: Ints, walked: Floats, rough_m: Floats, jitter_m: float
) -> tuple[Ints, Floats, Floats, float]:
    """Return the groups of a walk whose jitter makes it longer than it is, their means, how far along, and the width.

    The smoothed walk is shorter than the rough one: on it more points lie together, whose mean is better; again, until
    no more do. What is left of the jitter is smoothed over as long a wave as keeps the walk from wandering by more than
    `MOST_WANDER` of its length.
    """
    for _ in range(MOST_ROUNDS):
        at, smooth = _smooth_walk(walked, rough_m, SMOOTHED_OVER_M)
        along = np.interp(rough_m, at, distances_along_m(smooth[:, :2]))
        merged = _first_apart(along[:, None])
        fewer = int(merged[-1]) + 1
        if fewer < 2 or (fewer == len(walked) and along[-1] > rough_m[-1] * (1.0 - SETTLED)):
            break
        rough_m = np.bincount(merged, along) / np.bincount(merged)
        rough_m[0], rough_m[-1] = along[0], along[-1]
        group = merged[group]
        walked = _means(own, group)
    each_m = rough_m[-1] / len(own)
    wave = (2.0 * math.pi * jitter_m * math.sqrt(2.0 * each_m) / MOST_WANDER) ** (2.0 / 3.0)
    return group, walked, rough_m, max(SMOOTHED_OVER_M, min(wave, float(rough_m[-1]) / 4.0))


def _smooth_walk(walked: Floats, rough_m: Floats, over_m: float) -> tuple[Floats, Floats]:
    """Return even steps along a walk [m] and its smoothed east, north and height there, shape (steps, 3).

    Args:
        over_m: over how long a wave its way on the plan is smoothed; its heights over `SMOOTHED_OVER_M`.
    """
    steps = int(min(MOST_STEPS, max(2, round(rough_m[-1] / STEP_M) + 1)))
    at = np.linspace(0.0, rough_m[-1], steps)
    taken = [np.interp(at, rough_m, walked[:, column]) for column in range(3)]
    overs = (over_m, over_m, SMOOTHED_OVER_M)
    step = at[1] - at[0]
    return at, np.stack([_smoothed(column, step, over) for column, over in zip(taken, overs, strict=True)], axis=1)


def _jitter_m(spots_m: Floats) -> float:
    """Return the standard deviation of what is independent from point to point in east and north [m].

    Source: second differences, whose variance is six times that of the noise; robust by the median.
    """
    if len(spots_m) < 3:
        return 0.0
    return float(np.median(np.abs(np.diff(spots_m, 2, axis=0)))) * 1.4826 / math.sqrt(6.0)


def _first_apart(spots_m: Floats) -> Ints:
    """Return for each spot the number of its group: spots in turn within `APART_M` of the first of them.

    Args:
        spots_m: shape (spots, coordinates).
    """
    first, group = 0, [0]
    rows = spots_m.tolist()
    for number in range(1, len(rows)):
        if math.dist(rows[number], rows[first]) >= APART_M:
            first = number
            group.append(group[-1] + 1)
        else:
            group.append(group[-1])
    return np.array(group)


def _means(points: Floats, group: Ints) -> Floats:
    """Return the mean of the points of each group, the ends of the walk where they are."""
    count = np.bincount(group)
    means = np.stack([np.bincount(group, points[:, column]) / count for column in range(3)], axis=1)
    if len(means) > 1:
        ends = [_out_to(points[0], means[0], means[1]), _out_to(points[-1], means[-1], means[-2])]
        means[0], means[-1] = ends
    return means


def _out_to(end: Floats, mean: Floats, inner: Floats) -> Floats:
    """Return the end of a walk with the height that the slope between the two means next to it leads to there."""
    apart = math.hypot(*(mean[:2] - inner[:2]))
    beyond = math.hypot(*(end[:2] - mean[:2]))
    return np.array([end[0], end[1], mean[2] + (mean[2] - inner[2]) * (beyond / apart if apart else 0.0)])


def _smoothed(values: Floats, step_m: float, over_m: float) -> Floats:
    """Return evenly spaced values smoothed so that a wave of a length is halved, straight runs left as they are."""
    count = len(values)
    if count < 4:
        return values
    weight = (over_m / (2.0 * math.pi * step_m)) ** 4
    bands = np.zeros((3, count))
    bands[2] = 1.0 + weight * np.array([1, 5, *[6] * (count - 4), 5, 1])
    bands[1, 1:] = weight * np.array([-2, *[-4] * (count - 3), -2])
    bands[0, 2:] = weight
    return np.asarray(solveh_banded(bands, values))


def _half_width(residual: Floats) -> float:
    """Return twice the robust standard deviation of what was taken out [m]."""
    return 2.0 * 1.4826 * float(np.median(np.abs(residual - np.median(residual))))
