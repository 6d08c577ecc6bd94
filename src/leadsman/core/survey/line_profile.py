"""A line's surveyed points from a walk or from heights along it: tied to its ends, scaled to its pipe, thinned."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from leadsman.core.base.array import Floats
from leadsman.core.design import Design, Line
from leadsman.core.design.file import read_design, write_design
from leadsman.core.design.layout import Layout, along_way, way_distances_m
from leadsman.core.survey.track import distances_along_m, kept_points, slope_length_m, track_profile

Pair = tuple[float, float]
MOST_STATIONS, LEAST_STEP_M = 300, 2.0
SURVEYED_APART_M = 10.0  # points farther apart than this were chosen by somebody: none is smoothed away


@dataclass(frozen=True, kw_only=True)
class LineProfile:
    """A line's new points, [distance along the pipe, ground] in m, and how they came about.

    `raised_m` is by how much the source's heights were raised at the start and at the end, so that they meet the
    ground of the places there; `shown_m` all heights before thinning, evenly spaced from 0 to the pipe's length.
    """

    line: Line
    points: list[Pair]
    raised_m: Pair
    error_m: float
    noise_m: float
    slope_m: float
    extremes: int
    shown: list[Pair]

    @property
    def is_as_before(self) -> bool:
        """Whether it says what the line's points say already."""
        before = self.line.points or [[0.0, self.points[0][1]], [self.line.pipe_length_m, self.points[-1][1]]]
        return len(before) == len(self.points) and bool(np.allclose(before, self.points, rtol=0.0, atol=0.02))

    @property
    def tilt_m(self) -> float:
        """How far apart the source's heights are from the ground at both ends [m]: a check of the one on the other."""
        return abs(self.raised_m[0] - self.raised_m[1])


def stations(layout: Layout, line: Line) -> list[Pair]:
    """Return east and north [m] of even steps along a line's way on the plan."""
    count = int(min(MOST_STATIONS, max(2, round(_plan_length_m(layout, line) / LEAST_STEP_M) + 1)))
    return along_way(layout.way_of(line), [number / (count - 1) for number in range(count)])


def _plan_length_m(layout: Layout, line: Line) -> float:
    return way_distances_m(layout.way_of(line))[-1]


def profile_from_heights(layout: Layout, line: Line, heights_m: Sequence[float], error_m: float) -> LineProfile:
    """Return the profile from heights at `stations`."""
    at = np.linspace(0.0, max(_plan_length_m(layout, line), 1e-6), len(heights_m))
    heights = np.asarray(heights_m, dtype=float)
    return _profile(layout, line, at, heights, error_m, 0.0)


def profile_from_walk(
    layout: Layout, line: Line, walked: Sequence[tuple[float, float, float | None]], error_m: float,
    *, surveyed: bool = False,
) -> LineProfile:  # fmt: skip
    """Return the profile from a walk: the part of it between where it comes nearest to the ends of the line.

    A track of many points is smoothed and thinned; points that stand far apart are kept as they are.

    Args:
        walked: east, north, height [m]; points without a height take the one between their neighbours.
        surveyed: whether every point was chosen by somebody, however near to the next.
    Raises:
        OutOfRange: fewer than two of its points are apart.
    """
    points = with_heights(walked)
    start, end = (layout.place_of_end(end_id) for end_id in (line.from_, line.to))
    first, last = (_nearest(points, (place.east_m, place.north_m)) for place in (start, end))
    points = points[last : first + 1][::-1] if first > last else points[first : last + 1]
    if len(points) > 1:
        given = np.array(points)
        plan = distances_along_m(given[:, :2])
        if plan[-1] > 0.0 and (surveyed or plan[-1] / (len(points) - 1) >= SURVEYED_APART_M):
            return _profile(layout, line, plan, given[:, 2], error_m, 0.0, every=True)
    told = track_profile(points, error_m)
    return _profile(layout, line, told.smooth_at_m, told.smooth_m, told.error_m, told.noise_m)


def with_heights(walked: Sequence[tuple[float, float, float | None]]) -> list[tuple[float, float, float]]:
    """Return a walk with a height at every point; empty where it has none at all."""
    known = [(number, height) for number, (*_, height) in enumerate(walked) if height is not None]
    if not known:
        return []
    numbers, heights = zip(*known, strict=True)
    filled = np.interp(np.arange(len(walked)), numbers, heights)
    return [(x, y, height) for (x, y, _), height in zip(walked, filled.tolist(), strict=True)]


def _nearest(points: Sequence[tuple[float, float, float]], to: Pair) -> int:
    return min(range(len(points)), key=lambda n: (points[n][0] - to[0]) ** 2 + (points[n][1] - to[1]) ** 2)


def _profile(
    layout: Layout, line: Line, at_m: Floats, heights_m: Floats, error_m: float, noise_m: float,
    *, every: bool = False,
) -> LineProfile:  # fmt: skip
    start, end = (layout.place_of_end(end_id).ground_m for end_id in (line.from_, line.to))
    raised = float(start - heights_m[0]), float(end - heights_m[-1])
    share = at_m / at_m[-1]
    tied = heights_m + raised[0] + (raised[1] - raised[0]) * share
    kept = kept_points(at_m, tied, error_m)
    numbers = range(len(at_m)) if every else kept.numbers
    length = line.pipe_length_m
    points = [(round(float(share[n]) * length, 2), round(float(tied[n]), 3)) for n in numbers]
    points = [pair for n, pair in enumerate(points) if n == 0 or pair[0] > points[n - 1][0]]
    points[0], points[-1] = (0.0, start), (length, end)
    shown = [(float(share[n]) * length, float(tied[n])) for n in range(0, len(at_m), max(1, len(at_m) // 400))]
    slope = slope_length_m(at_m, heights_m)
    return LineProfile(
        line=line,
        points=points,
        raised_m=raised,
        error_m=error_m,
        noise_m=noise_m,
        slope_m=slope,
        extremes=kept.extremes,
        shown=shown,
    )


def put_profile(document: dict[str, Any], profile: LineProfile, source: str) -> None:
    """Put a profile into the design document, with its error and where it comes from."""
    line = next(candidate for candidate in document["lines"] if candidate["id"] == profile.line.id)
    line["points"] = [list(pair) for pair in profile.points]
    line["points_error_m"] = round(min(max(profile.error_m, 0.01), 500.0), 3)
    line["points_from"] = source[:60]


def with_profiles(design: Design, profiles: Sequence[LineProfile], source: str) -> Design:
    """Return the design with profiles put into its lines."""
    document = write_design(design)
    for profile in profiles:
        put_profile(document, profile, source)
    return read_design(document)
