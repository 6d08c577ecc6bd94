"""JSON of what lies under the plan: height model, pinned picture, and the ground that a source can serve."""

from typing import Annotated

import numpy as np
from pydantic import Field

from leadsman.core.report.base import Report
from leadsman.core.survey.pinning import MOST_PINS, Pinned
from leadsman.core.survey.reach import Reach
from leadsman.core.survey.relief import MOST_ROWS, Relief, heights_of, rows_of

Row = Annotated[list[float | None], Field(min_length=2, max_length=MOST_ROWS + 2)]


class ReliefReport(Report):
    """A height model on a square grid of the plan, row by row from the south-west, on the plan's datum."""

    east_m: float
    north_m: float
    step_m: Annotated[float, Field(gt=0)]
    heights_m: Annotated[list[Row], Field(min_length=2, max_length=MOST_ROWS + 2)]
    source: str
    shift_m: float


class Pin(Report):
    """A point of a picture, in pixels from its upper left corner, and where that is on the plan."""

    x_px: Annotated[float, Field(ge=0, le=100_000)]
    y_px: Annotated[float, Field(ge=0, le=100_000)]
    east_m: Annotated[float, Field(ge=-1e7, le=1e7)]
    north_m: Annotated[float, Field(ge=-1e7, le=1e7)]


class PictureReport(Report):
    """How a picture lies: east = a x + b y + c, north = d x + e y + f; and how far each pin is off then [m]."""

    pins: Annotated[list[Pin], Field(max_length=MOST_PINS)]
    a: float
    b: float
    c: float
    d: float
    e: float
    f: float
    off_m: list[float]


class ReachReport(Report):
    """Head to spare [m] at each point of the height model, and what was reckoned with."""

    surface_m: float
    loss_m_per_100_m: float
    spare_m: list[list[float | None]]
    share: float


def relief_report(relief: Relief) -> ReliefReport:
    """Return a height model as reports hold it."""
    return ReliefReport(
        east_m=relief.east_m,
        north_m=relief.north_m,
        step_m=relief.step_m,
        heights_m=rows_of(relief.heights_m),
        source=relief.source,
        shift_m=relief.shift_m,
    )


def relief_of(report: ReliefReport) -> Relief:
    """Return the height model of a report."""
    heights = heights_of(report.heights_m)
    return Relief(
        east_m=report.east_m,
        north_m=report.north_m,
        step_m=report.step_m,
        heights_m=heights,
        source=report.source,
        shift_m=report.shift_m,
    )


def picture_report(pins: list[Pin], lies: Pinned) -> PictureReport:
    """Return a pinned picture as reports hold it."""
    return PictureReport(pins=pins, a=lies.a, b=lies.b, c=lies.c, d=lies.d, e=lies.e, f=lies.f, off_m=list(lies.off_m))


def reach_report(found: Reach) -> ReachReport:
    """Return what a source can serve as reports hold it; `share` is the part of the known ground that it reaches."""
    known = np.isfinite(found.spare_m)
    return ReachReport(
        surface_m=found.surface_m,
        loss_m_per_100_m=100.0 * found.loss_per_m,
        spare_m=rows_of(found.spare_m),
        share=float((found.spare_m[known] >= 0.0).mean()) if known.any() else 0.0,
    )
