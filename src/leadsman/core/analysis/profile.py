"""The pipe of a route by height: its high and low points, the bore between them, and what lets air out on the way."""

import math
from bisect import bisect_left, bisect_right
from dataclasses import dataclass
from itertools import pairwise

from leadsman.core.analysis.route import Course
from leadsman.core.base.cached import cached_property
from leadsman.core.steady.network_model import NetworkModel
from leadsman.core.steady.reach import DOUBT_TIMES

PROMINENT_M = 0.1  # lower high points are taken for level: less than people measure; ours, no source
AT_HIGH_POINT_M = 3.0  # a vent this near to a high point, along the pipe, lets its air out; ours, no source
LETS_AIR_OUT = ("vent", "tap_point")  # a tap is opened by hand while the line fills


Station = tuple[float, float, int]


@dataclass(frozen=True, kw_only=True)
class Extreme:
    """A high point, a low point, or the end of a route: its point's number, distance and pipe height [m]."""

    number: int
    at_m: float
    pipe_m: float
    is_high: bool


@dataclass(frozen=True, eq=False)
class PipeProfile:
    """The pipe of a route from its vessel on."""

    model: NetworkModel
    course: Course

    @cached_property
    def stations(self) -> list[Station]:
        """Distance [m], pipe height [m] and number of each point, in the order of the water."""
        pipe = self.model.along.pipe_m
        return [(point.at_m, float(pipe[point.number]), point.number) for point in self.course.points]

    @cached_property
    def _distances_m(self) -> list[float]:
        return [at_m for at_m, *_ in self.stations]

    def _between(self, from_m: float, to_m: float) -> tuple[int, int]:
        """Return the numbers of the first station after a distance and of the first at or after another."""
        return bisect_right(self._distances_m, from_m), bisect_left(self._distances_m, to_m)

    @cached_property
    def extremes(self) -> list[Extreme]:
        """High and low points in turn from the first high point on, then the end where it is over the last low point.

        What rises or falls less than `PROMINENT_M`, or than twice what its heights are good to, is neither.
        """
        turns: list[Extreme] = []
        errors: list[float] = self.model.along.errors_m.tolist()

        def counts(here: Station, there: Station) -> bool:
            doubt_m = DOUBT_TIMES * max(errors[here[2]], errors[there[2]])
            return abs(here[1] - there[1]) > max(PROMINENT_M, doubt_m)

        low = high = self.stations[0]
        rising: bool | None = None
        for here in self.stations[1:]:
            if rising is not False and here[1] < high[1] and counts(here, high):
                if rising:
                    turns.append(Extreme(number=high[2], at_m=high[0], pipe_m=high[1], is_high=True))
                rising, low = False, here
            elif rising is not True and here[1] > low[1] and counts(here, low):
                if rising is False:
                    turns.append(Extreme(number=low[2], at_m=low[0], pipe_m=low[1], is_high=False))
                rising, high = True, here
            low = here if here[1] < low[1] else low
            high = here if here[1] > high[1] else high
        end = self.stations[-1]
        if rising:
            turns.append(Extreme(number=end[2], at_m=end[0], pipe_m=end[1], is_high=True))
        first = next((i for i, turn in enumerate(turns) if turn.is_high), len(turns))
        return turns[first:]

    @property
    def high_points(self) -> list[Extreme]:
        """Its high points between its ends, in the order of the water."""
        return [extreme for extreme in self.extremes if extreme.is_high and extreme.number != self.stations[-1][2]]

    @cached_property
    def low_points(self) -> list[Extreme]:
        """Its low points between its ends, also the one before the first high point."""
        found = []
        tops = [extreme.at_m for extreme in self.extremes if extreme.is_high] or [self.stations[-1][0]]
        first = [station for station in self.stations if station[0] <= tops[0]]
        low = min(first, key=lambda point: point[1])
        doubt_m = DOUBT_TIMES * float(self.model.along.errors_m[low[2]])
        if min(self.stations[0][1], first[-1][1]) - low[1] > max(PROMINENT_M, doubt_m):
            found.append(Extreme(number=low[2], at_m=low[0], pipe_m=low[1], is_high=False))
        return found + [extreme for extreme in self.extremes if not extreme.is_high]

    def deep_low_points(self, deep_m: float) -> list[Extreme]:
        """Return the low points that lie so far [m] under the lower of the heights beside them."""
        tops = [
            self.stations[0][0],
            *(extreme.at_m for extreme in self.extremes if extreme.is_high),
            self.stations[-1][0],
        ]
        found = []
        for low_point in self.low_points:
            beside = max(at for at in tops if at <= low_point.at_m), min(at for at in tops if at >= low_point.at_m)
            if min(map(self.height_m, beside)) - low_point.pipe_m >= deep_m:
                found.append(low_point)
        return found

    def has_part(self, at_m: float, kinds: tuple[str, ...]) -> bool:
        """Whether a part of one of some kinds sits near a distance [m] along the route."""
        places = [
            leg.at_m(part.at_m) for leg in self.course.legs for part in leg.line.inline if part.kind in kinds
        ]  # fmt: skip
        return any(abs(place - at_m) <= AT_HIGH_POINT_M for place in places)

    def vented(self) -> set[int]:
        """Return which of the high points, 0 the first, let their air out."""
        return {i for i, high_point in enumerate(self.high_points) if self.has_part(high_point.at_m, LETS_AIR_OUT)}

    def spot(self, at_m: float) -> tuple[str, float]:
        """Return line and distance from its `from` end [m] of a distance along the route."""
        leg = next((leg for leg in self.course.legs if at_m <= leg.end_m), self.course.legs[-1])
        along = at_m - leg.start_m
        return leg.line.id, along if leg.forward else leg.line.pipe_length_m - along

    def area_m2(self, at_m: float) -> float:
        """Return the open area of the pipe [m2] at a distance along the route."""
        line_id, along = self.spot(at_m)
        end = 0.0
        for pipe in self.model.reaches_of_line(line_id):
            end += pipe.length_m
            if along <= end:
                break
        return pipe.area_m2

    def bore_m(self, at_m: float) -> float:
        """Return the bore of the pipe [m] at a distance along the route."""
        return math.sqrt(4.0 * self.area_m2(at_m) / math.pi)

    def pieces(self, from_m: float, to_m: float) -> list[tuple[float, float]]:
        """Return fall [m] and volume [m3] of each piece of pipe between two distances along the route, in order.

        A piece that rises on the way, less than counts, falls 0.
        """
        cuts = {from_m, to_m, *self._distances_m[slice(*self._between(from_m, to_m))]}
        for leg in self.course.legs:
            end = 0.0
            for pipe in self.model.reaches_of_line(leg.line.id)[:-1]:
                end += pipe.length_m
                cuts.add(leg.at_m(end))
        ordered = sorted(at for at in cuts if from_m <= at <= to_m)
        found = []
        for start, stop in pairwise(ordered):
            fall = max(0.0, self.height_m(start) - self.height_m(stop))
            found.append((fall, self.area_m2((start + stop) / 2.0) * (stop - start)))
        return found

    def volume_over_m3(self, from_m: float, to_m: float, height_m: float) -> float:
        """Return the volume [m3] of the pipe between two distances along the route that lies over a height."""
        cuts = sorted({from_m, to_m, *self._distances_m[slice(*self._between(from_m, to_m))]})
        volume = 0.0
        for start, stop in pairwise(cuts):
            low, high = sorted((self.height_m(start), self.height_m(stop)))
            share = 1.0 if low >= height_m else 0.0 if high <= height_m else (high - height_m) / (high - low)
            volume += share * self.area_m2((start + stop) / 2.0) * (stop - start)
        return volume

    def height_m(self, at_m: float) -> float:
        """Return the height of the pipe [m] at a distance along the route."""
        number = bisect_left(self._distances_m, at_m, lo=1)
        if number == len(self.stations):
            return self.stations[-1][1]
        before, here = self.stations[number - 1 : number + 1]
        span = here[0] - before[0]
        share = (at_m - before[0]) / span if span > 0.0 else 1.0
        return before[1] + share * (here[1] - before[1])

    def mean_fall(self, from_m: float, to_m: float) -> float:
        """Return the mean fall over length [-] of the pipe between two distances, 0 to 1."""
        length = to_m - from_m
        fall = self.height_m(from_m) - self.height_m(to_m)
        return min(1.0, max(0.0, fall / length)) if length > 0.0 else 0.0
