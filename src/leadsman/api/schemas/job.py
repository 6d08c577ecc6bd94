"""Long runs: what is asked for, and how far it is."""

from typing import Annotated
from uuid import UUID

from pydantic import Field

from leadsman.api.schemas.base import Schema
from leadsman.core.report.dayrun import DayRunReport
from leadsman.core.report.failure_survey import FailureSurveyReport
from leadsman.core.report.siting import SitingReport
from leadsman.core.report.sizing import CurveReport, SizedPlanReport
from leadsman.db.job import JobState
from leadsman.jobs.work import JobAsked


class AskJob(Schema):
    """A long run to be done by a worker; `design_id` names the plan with which it goes when that is deleted."""

    asked: JobAsked
    design_id: UUID | None = None


class JobPath(Schema):
    """A job by its id."""

    job_id: UUID


class JobBody(Schema):
    """A job: how far it is, 0 to 1; its answer by its kind once it is done, or in words why it failed.

    While plans are sized, the answer is the best so far.
    """

    id: UUID
    state: JobState
    progress: Annotated[float, Field(ge=0, le=1)]
    trouble: str
    day: DayRunReport | None = None
    failures: FailureSurveyReport | None = None
    size: SizedPlanReport | None = None
    curve: CurveReport | None = None
    stand: CurveReport | None = None
    site: SitingReport | None = None
