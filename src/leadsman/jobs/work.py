"""What the jobs are: what is asked of each kind, and what does it."""

from collections.abc import Callable
from functools import partial
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from leadsman.core.base.units import HOUR_S
from leadsman.core.dayrun.run import LEAST_HOURS, MOST_HOURS
from leadsman.core.design import Design
from leadsman.core.report.dayrun import asked_day
from leadsman.core.report.failure_survey import failure_survey_report
from leadsman.core.report.sizing import curve_report, sized_plan_report
from leadsman.core.sizing.curve import over_stand, trade_off
from leadsman.core.sizing.size import size

Progress = Callable[..., None]
"""Called with how far the work is, 0 to 1, and the best answer so far where there is one; what it raises ends it."""


class DayAsked(BaseModel):
    """A design to run over time, in the case that it shows, with its events or without."""

    model_config = ConfigDict(extra="forbid")

    kind: Literal["day"]
    document: Design
    hours: Annotated[float, Field(ge=LEAST_HOURS, le=MOST_HOURS)]
    events: bool = True


class SurveyAsked(BaseModel):
    """A design of which each failure is run until the next look, in the case that it shows."""

    model_config = ConfigDict(extra="forbid")

    kind: Literal["failures"]
    document: Design


class SizeAsked(BaseModel):
    """A design of which the cheapest plan is looked for that gives all that is required."""

    model_config = ConfigDict(extra="forbid")

    kind: Literal["size"]
    document: Design


class CurveAsked(BaseModel):
    """A design of which the cheapest plans are looked for, from little flow to the most there can be."""

    model_config = ConfigDict(extra="forbid")

    kind: Literal["curve"]
    document: Design


class StandAsked(BaseModel):
    """A design of which the cheapest plans are looked for with a tank higher by nothing up to so much [m]."""

    model_config = ConfigDict(extra="forbid")

    kind: Literal["stand"]
    document: Design
    vessel: str
    most_m: Annotated[float, Field(gt=0, le=50)]


JobAsked = Annotated[DayAsked | SurveyAsked | SizeAsked | CurveAsked | StandAsked, Field(discriminator="kind")]
KINDS = ("day", "failures", "size", "curve", "stand")


def do_work(asked: JobAsked, progress: Progress) -> BaseModel:
    """Return the answer of a job.

    Raises: as the work itself; and what `progress` raises.
    """
    if isinstance(asked, SurveyAsked):
        return failure_survey_report(asked.document, progress)
    design = asked.document
    stop = partial(progress, None)
    if isinstance(asked, SizeAsked):
        sized = size(
            design,
            check_cancelled=stop,
            watch=lambda share, best: progress(share, partial(sized_plan_report, design, best)),
        )
        return sized_plan_report(design, sized)
    if isinstance(asked, CurveAsked):
        curve = trade_off(
            design, check_cancelled=stop, watch=lambda share, best: progress(share, partial(curve_report, design, best))
        )
        return curve_report(design, curve)
    if isinstance(asked, StandAsked):
        tank = asked.vessel
        curve = over_stand(
            design, tank, asked.most_m, check_cancelled=stop,
            watch=lambda share, best: progress(share, partial(curve_report, design, best, tank)),
        )  # fmt: skip
        return curve_report(design, curve, tank)
    length_s = asked.hours * HOUR_S
    return asked_day(
        asked.document, asked.hours, with_events=asked.events, watch=lambda time_s: progress(time_s / length_s)
    )
