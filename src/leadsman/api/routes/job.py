"""Long runs: asked for, looked after, cancelled. Workers do them."""

from typing import Any
from uuid import UUID, uuid4

from flask import Response
from procrastinate.exceptions import ConnectorException
from psycopg import OperationalError
from werkzeug.exceptions import NotFound

from leadsman.api.routes import Routes, answer, database, settings
from leadsman.api.schemas import AskJob, JobBody, JobPath, Problem
from leadsman.core.analysis.work import require_workable
from leadsman.core.design.file import write_design
from leadsman.db.job import end_job, insert_job, select_job
from leadsman.jobs.queue import hand_over

jobs = Routes("jobs", __name__, url_prefix="/api/jobs")


@jobs.post("", operation_id="askJob", responses={201: JobBody, 422: Problem})
def ask_job(body: AskJob) -> Response:
    """Hand a long run to the workers."""
    require_workable(body.asked.document)
    job_id = uuid4()
    asked = {**body.asked.model_dump(mode="json", exclude={"document"}), "document": write_design(body.asked.document)}
    with database().transaction() as connection:
        insert_job(connection, job_id, body.design_id, body.asked.kind, asked)
    try:
        hand_over(settings().database_url, job_id)
    except ConnectorException as error:
        with database().transaction() as connection:
            end_job(connection, job_id, "failed", trouble="it could not be put on the queue")
        raise OperationalError(str(error)) from error
    return _told(job_id, 201)


@jobs.get("/<uuid:job_id>", operation_id="readJob", responses={200: JobBody, 404: Problem})
def read_job(path: JobPath) -> Response:
    """Tell how far a long run is; its answer once it is done."""
    return _told(path.job_id)


@jobs.delete("/<uuid:job_id>", operation_id="cancelJob", responses={200: JobBody, 404: Problem})
def cancel_job(path: JobPath) -> Response:
    """Cancel a long run; one that is over stays as it is."""
    with database().transaction() as connection:
        end_job(connection, path.job_id, "cancelled")
    return _told(path.job_id)


def _told(job_id: UUID, status: int = 200) -> Response:
    with database().transaction() as connection:
        row = select_job(connection, job_id)
    if row is None:
        raise NotFound(f"no long run {job_id}")
    told: dict[str, Any] = {"id": row.id, "state": row.state, "progress": row.progress, "trouble": row.trouble}
    if row.answer is not None:
        told[row.kind] = row.answer
    return answer(JobBody.model_validate(told), status)
