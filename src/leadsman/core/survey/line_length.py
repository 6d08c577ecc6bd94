"""Lengths of lines: as the plan has them, as they were counted, and as heights and plan make them at least."""

import math
from dataclasses import dataclass
from itertools import pairwise

from leadsman.core.design import Distance, Line
from leadsman.core.design.layout import Layout
from leadsman.core.survey.field_height import weighed_m
from leadsman.core.survey.paces import CountedLength, counted_length, pace_of, plan_m, slope_m

SHORTER_BY = 0.01  # of the straight way: what is rounding and what is a mistake; the file's own tolerance of lengths


@dataclass(frozen=True, kw_only=True)
class LineLength:
    """A line's pipe [m] beside the straight way between its ends and the length on plan that its heights leave [m].

    `ways` are the counted lengths, `weighed` all of them by their errors (None without any).
    """

    line: Line
    straight_m: float
    plan_m: float
    ways: list[tuple[Distance, CountedLength]]
    weighed: CountedLength | None

    @property
    def is_too_short(self) -> bool:
        """Whether the pipe does not reach from one end to the other even laid straight."""
        return self.line.pipe_length_m < self.straight_m * (1.0 - SHORTER_BY)


def line_lengths(layout: Layout) -> list[LineLength]:
    """Return the lengths of every line of a design, in its order."""
    design = layout.design
    pace = pace_of(design.pace)
    counted: dict[str, list[tuple[Distance, CountedLength]]] = {}
    for distance in design.distances:
        if not distance.is_read:
            continue
        counted.setdefault(distance.line, []).append((distance, counted_length(distance, pace)))
    return [_length(layout, line, counted.get(line.id, [])) for line in design.lines]


def _length(layout: Layout, line: Line, ways: list[tuple[Distance, CountedLength]]) -> LineLength:
    ends = [layout.place_of_end(end) for end in (line.from_, line.to)]
    flat = math.hypot(ends[0].east_m - ends[1].east_m, ends[0].north_m - ends[1].north_m)
    straight = slope_m(flat, ends[0].ground_m - ends[1].ground_m)
    points = line.points or [[0.0, ends[0].ground_m], [line.pipe_length_m, ends[1].ground_m]]
    plan = sum(_plan_m(b[0] - a[0], b[1] - a[1]) for a, b in pairwise(points))
    weighed = None
    if ways:
        mean, error = weighed_m([(way.slope_m, max(way.error_m, 1e-3)) for _, way in ways])
        weighed = CountedLength(mean, error)
    return LineLength(line=line, straight_m=straight, plan_m=plan, ways=ways, weighed=weighed)


def _plan_m(along_m: float, rise_m: float) -> float:
    """Return what a stretch of pipe leaves on plan [m]; nothing where its ends are farther apart in height."""
    return plan_m(along_m, max(-along_m, min(rise_m, along_m)))
