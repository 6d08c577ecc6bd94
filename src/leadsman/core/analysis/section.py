"""The profile: ground, pipe, and the heights to which water would rise, running and shut."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from leadsman.core.analysis.ranges import Range
from leadsman.core.analysis.route import Course, high_and_low_points
from leadsman.core.steady.along import LinePoint
from leadsman.core.steady.flow import Flow
from leadsman.core.steady.network_model import NetworkModel

ALIKE_M = 1e-6

Mark = Literal["high", "low"]


@dataclass(frozen=True, kw_only=True)
class SectionPoint:
    """One surveyed point: distance and heights [m], gauge pressures in the pipe [Pa], velocity [m/s].

    Heads and pressures are None where no water gets to, pressures also where liquid water has none so low.
    """

    line_id: str
    at_m: float
    ground_m: float
    pipe_m: float
    running_head_m: float | None
    shut_head_m: float | None
    running_pa: float | None
    shut_pa: float | None
    velocity_ms: float
    mark: Mark | None


def route_section(route: Course, running: Flow, shut: Flow) -> list[SectionPoint]:
    """Return the section of a route in the order of the water; velocity is positive with it."""
    along = running.model.along
    spots = [
        (along.points[point.number], point.number, point.at_m, route.legs[point.leg].forward) for point in route.points
    ]
    return _points(spots, running, shut)


def line_section(model: NetworkModel, line_id: str, running: Flow, shut: Flow) -> list[SectionPoint]:
    """Return the section of one line from its `from` end; velocity is positive from there."""
    numbers = model.along.of_line[line_id]
    return _points([(model.along.points[i], i, model.along.points[i].at_m, True) for i in numbers], running, shut)


def _points(spots: list[tuple[LinePoint, int, float, bool]], running: Flow, shut: Flow) -> list[SectionPoint]:
    model = running.model
    marks = high_and_low_points([point.pipe_m for point, *_ in spots])
    velocities = model.along.velocities_ms(running.flows_m3s)
    points = []
    for index, (point, number, at_m, forward) in enumerate(spots):
        heads = running.point_head_m(number), shut.point_head_m(number)
        pressures = [model.gauge_pressure_pa(head, point.pipe_m) for head in heads]
        velocity = float(velocities[number])
        points.append(
            SectionPoint(
                line_id=point.line_id,
                at_m=at_m,
                ground_m=point.ground_m,
                pipe_m=point.pipe_m,
                running_head_m=heads[0],
                shut_head_m=heads[1],
                running_pa=pressures[0],
                shut_pa=pressures[1],
                velocity_ms=velocity if forward else -velocity,
                mark=marks.get(index),  # type: ignore[arg-type]
            )
        )
    return points


def route_band(route: Course, running: Flow, heads: Mapping[str, Range]) -> list[tuple[float, float] | None]:
    """Return the lowest and highest head [m] at each point of a route, None where an end of its line has no range.

    Between the ends of a line the band is drawn from theirs, by the share of the line's loss that lies before
    the point: no narrower than the true one in a line of one bore.
    """
    bands: list[tuple[float, float] | None] = []
    for point in route.points:
        leg = route.legs[point.leg]
        ends = (leg.line.from_, leg.line.to) if leg.forward else (leg.line.to, leg.line.from_)
        before, after = (heads.get(end) for end in ends)
        head_m = running.point_head_m(point.number)
        if before is None or after is None or head_m is None:
            bands.append(None)
            continue
        lost_m = before.likely - after.likely
        by_length = (point.at_m - leg.start_m) / (leg.end_m - leg.start_m)
        share = (before.likely - head_m) / lost_m if lost_m > ALIKE_M else by_length
        share = min(max(share, 0.0), 1.0)
        bands.append(
            (
                head_m + (1.0 - share) * (before.worst - before.likely) + share * (after.worst - after.likely),
                head_m + (1.0 - share) * (before.best - before.likely) + share * (after.best - after.likely),
            )
        )
    return bands
