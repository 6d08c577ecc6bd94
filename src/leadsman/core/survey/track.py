"""A walked track as a profile: positions and heights smoothed with the error kept, thinned to what matters for water.

What matters are the peaks, where air stays, and the dips, where pressure is greatest; between them the ground may be
straight within a tolerance.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from scipy.linalg import solveh_banded

from leadsman.core.base.array import Floats
from leadsman.core.base.cached import cached_property
from leadsman.core.base.errors import require_between

STEP_M = 2.0  # along the track, at which the walk is taken up
SMOOTHED_OVER_M = 40.0  # a wave as long as this is halved; our own
MOST_STEPS = 20_000
APART_M = 4.0  # points nearer than this are taken together: closer by, a receiver's jitter is longer than the walk
LEAST_TOLERANCE_M, MOST_TOLERANCE_M = 0.05, 0.5
TOLERANCE_SHARE = 0.25  # of the heights' error: what is straighter than that is straight


@dataclass(frozen=True)
class KeptPoints:
    """The numbers of the points that are kept of a profile, and how many of them are peaks and dips."""

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
    walked, group = _together(own)
    require_between("points that are apart", len(walked), 2, math.inf)
    rough = distances_along_m(walked[:, :2])
    steps = int(min(MOST_STEPS, max(2, round(rough[-1] / STEP_M) + 1)))
    at = np.linspace(0.0, rough[-1], steps)
    taken = np.stack([np.interp(at, rough, walked[:, column]) for column in range(3)], axis=1)
    step = at[1] - at[0]
    smooth = np.stack([_smoothed(taken[:, column], step) for column in range(3)], axis=1)
    noise = _half_width(own[:, 2] - np.interp(rough[group], at, smooth[:, 2]))
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
    """Return the numbers of the peaks and dips, in their order: each at least so much over or under its neighbours.

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
    kept = sorted({0, len(at_m) - 1, *always})
    ahead = list(pairwise(kept))
    chosen = set(kept)
    while ahead:
        first, last = ahead.pop()
        if last - first < 2:
            continue
        inner = slice(first + 1, last)
        straight = np.interp(at_m[inner], [at_m[first], at_m[last]], [heights_m[first], heights_m[last]])
        off = np.abs(heights_m[inner] - straight)
        worst = int(np.argmax(off))
        if off[worst] > tolerance_m:
            middle = first + 1 + worst
            chosen.add(middle)
            ahead += [(first, middle), (middle, last)]
    return sorted(chosen)


def _together(points: Floats) -> tuple[Floats, list[int]]:
    """Return the means of points that lie within `APART_M` of one another in turn, the ends where they are.

    Beside them, for each point, the number of its mean.
    """
    first, group = 0, [0]
    for number in range(1, len(points)):
        if math.hypot(*(points[number, :2] - points[first, :2])) >= APART_M:
            first = number
            group.append(group[-1] + 1)
        else:
            group.append(group[-1])
    count = np.bincount(group)
    means = np.stack([np.bincount(group, points[:, column]) / count for column in range(3)], axis=1)
    if len(means) > 1:
        ends = [_out_to(points[0], means[0], means[1]), _out_to(points[-1], means[-1], means[-2])]
        means[0], means[-1] = ends
    return means, group


def _out_to(end: Floats, mean: Floats, inner: Floats) -> Floats:
    """Return the end of a walk with the height that the slope between the two means next to it leads to there."""
    apart = math.hypot(*(mean[:2] - inner[:2]))
    beyond = math.hypot(*(end[:2] - mean[:2]))
    return np.array([end[0], end[1], mean[2] + (mean[2] - inner[2]) * (beyond / apart if apart else 0.0)])


def _smoothed(values: Floats, step_m: float) -> Floats:
    """Return evenly spaced values smoothed over `SMOOTHED_OVER_M`, straight runs left as they are."""
    count = len(values)
    if count < 4:
        return values
    weight = (SMOOTHED_OVER_M / (2.0 * math.pi * step_m)) ** 4
    bands = np.zeros((3, count))
    bands[2] = 1.0 + weight * np.array([1, 5, *[6] * (count - 4), 5, 1])
    bands[1, 1:] = weight * np.array([-2, *[-4] * (count - 3), -2])
    bands[0, 2:] = weight
    return np.asarray(solveh_banded(bands, values))


def _half_width(residual: Floats) -> float:
    """Return twice the robust standard deviation of what was taken out [m]."""
    return 2.0 * 1.4826 * float(np.median(np.abs(residual - np.median(residual))))
