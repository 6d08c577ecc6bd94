"""What the jobs are: what is asked of each kind, and what does it."""

from collections.abc import Callable
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from leadsman.core.base.units import HOUR_S
from leadsman.core.dayrun.run import LEAST_HOURS, MOST_HOURS
from leadsman.core.design import Design
from leadsman.core.report.dayrun import asked_day
from leadsman.core.report.failure_survey import failure_survey_report

Progress = Callable[[float], None]
"""Called with how far the work is, 0 to 1; an exception in it ends the work."""


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


JobAsked = Annotated[DayAsked | SurveyAsked, Field(discriminator="kind")]
KINDS = ("day", "failures")


def do_work(asked: JobAsked, progress: Progress) -> BaseModel:
    """Return the answer of a job.

    Raises: as the work itself; and what `progress` raises.
    """
    if isinstance(asked, SurveyAsked):
        return failure_survey_report(asked.document, progress)
    length_s = asked.hours * HOUR_S
    return asked_day(
        asked.document, asked.hours, with_events=asked.events, watch=lambda time_s: progress(time_s / length_s)
    )
