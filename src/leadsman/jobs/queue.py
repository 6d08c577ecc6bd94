"""The queue: procrastinate's, in our own database; one task, which does a job of ours by its id."""

import time
from collections.abc import Callable
from uuid import UUID

import procrastinate
from pydantic import BaseModel, TypeAdapter, ValidationError

from leadsman.core.base.errors import CoreError
from leadsman.db.connection import Database
from leadsman.db.job import end_job, take_job, tell_progress
from leadsman.db.queue_schema import queue_address
from leadsman.jobs.work import JobAsked, do_work

QUEUE, TASK = "long", "do_job"
TELL_EVERY_S = 0.4
MOST_S = 900.0  # of one job

ASKED: TypeAdapter[JobAsked] = TypeAdapter(JobAsked)


class NotWanted(Exception):
    """A job was cancelled while it ran."""


class TooLong(Exception):
    """A job takes longer than one may."""


def queue_of(url: str, *, worker: bool = False) -> procrastinate.App:
    """Return the queue of a database: to hand jobs to, or for a worker."""
    address = queue_address(url)
    connector: procrastinate.BaseConnector = (
        procrastinate.PsycopgConnector(conninfo=address)
        if worker
        else procrastinate.SyncPsycopgConnector(conninfo=address)
    )
    app = procrastinate.App(connector=connector)

    @app.task(name=TASK, queue=QUEUE)
    def run(job_id: str) -> None:
        database = Database(url)
        try:
            do_job(database, UUID(job_id))
        finally:
            database.close()

    return app


def hand_over(url: str, job_id: UUID) -> None:
    """Put a job on the queue.

    Raises:
        psycopg.Error, procrastinate.exceptions.ConnectorException: the database does not answer.
    """
    with queue_of(url).open() as app:
        app.tasks[TASK].defer(job_id=str(job_id))


def do_job(database: Database, job_id: UUID) -> None:
    """Do a job, telling how far it is; one that is cancelled or over already is left."""
    with database.transaction() as connection:
        taken = take_job(connection, job_id)
    if taken is None:
        return
    begun = told = time.monotonic()

    last = 0.0

    def progress(share: float | None, so_far: Callable[[], BaseModel] | None = None) -> None:
        nonlocal told, last
        last = last if share is None else share
        now = time.monotonic()
        if now - told < TELL_EVERY_S:
            return
        told = now
        if now - begun > MOST_S:
            raise TooLong
        best = None if so_far is None else _written(so_far())
        with database.transaction() as connection:
            if not tell_progress(connection, job_id, min(max(last, 0.0), 1.0), best):
                raise NotWanted

    try:
        answer = do_work(ASKED.validate_python(taken[1]), progress)
    except NotWanted:
        return
    except TooLong:
        _fail(database, job_id, f"it takes longer than {MOST_S / 60.0:.0f} minutes")
    except (CoreError, ValidationError) as error:
        _fail(database, job_id, str(error))
    except Exception:
        _fail(database, job_id, "something went wrong in Leadsman itself; its log says what")
        raise
    else:
        with database.transaction() as connection:
            end_job(connection, job_id, "done", answer=_written(answer))


def _written(answer: BaseModel) -> str:
    return answer.model_dump_json(by_alias=True, exclude_unset=True)


def _fail(database: Database, job_id: UUID, trouble: str) -> None:
    with database.transaction() as connection:
        end_job(connection, job_id, "failed", trouble=trouble)
