"""A walked track as a profile: positions and heights smoothed with the error kept, thinned to what matters for water.

What matters are the peaks, where air stays, and the dips, where pressure is greatest; between them the ground may be
straight within a tolerance.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray
from scipy.linalg import solveh_banded

from leadsman.core.errors import require_between

Floats = NDArray[np.float64]

STEP_M = 2.0  # along the track, at which the walk is taken up
SMOOTHED_OVER_M = 40.0  # a wave as long as this is halved; our own
MOST_STEPS = 20_000
STANDING_M = 0.3  # steps shorter than this are somebody standing still
LEAST_TOLERANCE_M, MOST_TOLERANCE_M = 0.05, 0.5
TOLERANCE_SHARE = 0.25  # of the heights' error: what is straighter than that is straight


@dataclass(frozen=True)
class TrackProfile:
    """A track as a profile.

    Args:
        at_m, height_m: distance on plan and height of the points kept [m].
        smooth_at_m, smooth_m: the whole smoothed profile, evenly spaced [m].
        noise_m: half-width of what the smoothing took out of the heights [m]: what is short-lived in their error.
        error_m: half-width of the error kept [m]: what was said of the source, never less than the noise.
        plan_m, slope_m: length on plan and along the ground [m].
        extremes: how many peaks and dips were kept.
    """

    at_m: list[float]
    height_m: list[float]
    smooth_at_m: Floats
    smooth_m: Floats
    noise_m: float
    error_m: float
    plan_m: float
    slope_m: float
    extremes: int


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
    walked = _moving(np.asarray(points, dtype=float))
    require_between("points that are apart", len(walked), 2, math.inf)
    rough = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(walked[:, :2], axis=0).T))])
    steps = int(min(MOST_STEPS, max(2, round(rough[-1] / STEP_M) + 1)))
    at = np.linspace(0.0, rough[-1], steps)
    taken = _averaged(rough, walked, at)
    step = at[1] - at[0]
    smooth = np.stack([_smoothed(taken[:, column], step) for column in range(3)], axis=1)
    noise = _half_width(taken[:, 2] - smooth[:, 2])
    along = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(smooth[:, :2], axis=0).T))])
    heights = smooth[:, 2]
    kept_error = max(error_m, noise)
    tolerance = min(MOST_TOLERANCE_M, max(LEAST_TOLERANCE_M, TOLERANCE_SHARE * kept_error))
    turning = turning_points(heights, tolerance)
    kept = thinned(along, heights, tolerance, turning)
    slope = float(np.sum(np.hypot(np.diff(along), np.diff(heights))))
    return TrackProfile(
        along[kept].tolist(), heights[kept].tolist(), along, heights, noise, kept_error, float(along[-1]), slope,
        len(turning),
    )  # fmt: skip


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


def _moving(points: Floats) -> Floats:
    """Return the points without those at which the walker had hardly moved on from the one kept before."""
    if len(points) < 2:
        return points
    kept = [0]
    for number in range(1, len(points)):
        if math.hypot(*(points[number, :2] - points[kept[-1], :2])) >= STANDING_M:
            kept.append(number)
    return points[kept]


def _averaged(rough_m: Floats, walked: Floats, at_m: Floats) -> Floats:
    """Return the walk at even steps: the mean of the points in each step, between them straight."""
    cell = np.clip(np.rint(rough_m / (at_m[1] - at_m[0])).astype(int), 0, len(at_m) - 1)
    count = np.bincount(cell, minlength=len(at_m))
    full = count > 0
    ends = [[0.0, *walked[0]], [rough_m[-1], *walked[-1]]]
    means = [np.bincount(cell, values, len(at_m))[full] / count[full] for values in (rough_m, *walked.T)]
    middle = np.stack(means, axis=1)
    inner = middle[(middle[:, 0] > 0.0) & (middle[:, 0] < rough_m[-1])]
    rows = np.concatenate([ends[:1], inner, ends[1:]])
    return np.stack([np.interp(at_m, rows[:, 0], rows[:, column]) for column in (1, 2, 3)], axis=1)


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
