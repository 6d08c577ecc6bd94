"""The long section of a route: ground, pipe, and the heights to which water would rise, running and shut."""

from dataclasses import dataclass
from typing import Literal

from leadsman.core.route import Route, peaks_and_dips
from leadsman.core.units import pa_from_head_m

Mark = Literal["peak", "dip"]


@dataclass(frozen=True)
class SectionPoint:
    """One surveyed point: distance and heights [m], gauge pressures in the pipe [Pa], velocity [m/s]."""

    line_id: str
    at_m: float
    ground_m: float
    pipe_m: float
    running_head_m: float
    shut_head_m: float
    running_pa: float
    shut_pa: float
    velocity_ms: float
    mark: Mark | None


def section(route: Route, flow_m3s: float) -> list[SectionPoint]:
    """Return the section of a route at a steady flow [m3/s], 0 or more, in order of distance."""
    density = route.water.density_kgm3
    marks = peaks_and_dips(route.points)
    points = []
    for index, (point, head_m) in enumerate(zip(route.points, route.point_heads_m(flow_m3s), strict=True)):
        reach = next(r for r in reversed(route.reaches) if r.leg == point.leg and r.start_m <= point.at_m)
        points.append(
            SectionPoint(
                line_id=route.lines[point.leg].id,
                at_m=point.at_m,
                ground_m=point.ground_m,
                pipe_m=point.pipe_m,
                running_head_m=head_m,
                shut_head_m=route.surface_m,
                running_pa=pa_from_head_m(head_m - point.pipe_m, density),
                shut_pa=pa_from_head_m(route.surface_m - point.pipe_m, density),
                velocity_ms=reach.pipe.velocity_ms(flow_m3s),
                mark=marks.get(index),  # type: ignore[arg-type]
            )
        )
    return points
