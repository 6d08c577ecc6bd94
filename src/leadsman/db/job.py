"""Long runs in the database: asked for, taken up by a worker, told how far they are, cancelled, kept for a day."""

from dataclasses import dataclass
from typing import Any, Literal
from uuid import UUID

from psycopg import Connection
from psycopg.rows import TupleRow, class_row
from psycopg.types.json import Jsonb

JobState = Literal["waiting", "running", "done", "failed", "cancelled"]
KEPT_HOURS = 24
MOST_TRIES = 3  # what ends its worker so often is not begun again


@dataclass(frozen=True, kw_only=True)
class JobRow:
    """One job; `answer` where it is done, or the best so far, `trouble` says in words why it failed."""

    id: UUID
    kind: str
    state: JobState
    progress: float
    trouble: str
    answer: dict[str, Any] | None


def insert_job(
    connection: Connection[TupleRow], job_id: UUID, design_id: UUID | None, kind: str, asked: object
) -> None:
    """Keep what is asked for, of a plan or of none."""
    connection.execute(
        "INSERT INTO job (id, design_id, kind, asked) "
        "VALUES (%(id)s, (SELECT id FROM design WHERE id = %(design_id)s), %(kind)s, %(asked)s)",
        {"id": job_id, "design_id": design_id, "kind": kind, "asked": Jsonb(asked)},
    )


def select_job(connection: Connection[TupleRow], job_id: UUID) -> JobRow | None:
    """Return a job, or None where there is none."""
    with connection.cursor(row_factory=class_row(JobRow)) as cursor:
        cursor.execute("SELECT id, kind, state, progress, trouble, answer FROM job WHERE id = %(id)s", {"id": job_id})
        return cursor.fetchone()


def take_job(connection: Connection[TupleRow], job_id: UUID) -> tuple[str, Any] | None:
    """Take a job up: return its kind and what was asked; None where it is over, or has ended too many workers."""
    connection.execute(
        "UPDATE job SET state = 'failed', ended_at = now(), trouble = %(trouble)s "
        "WHERE id = %(id)s AND state = 'running' AND tries >= %(most)s",
        {"id": job_id, "most": MOST_TRIES, "trouble": f"its worker ended {MOST_TRIES} times before it was done"},
    )
    row = connection.execute(
        "UPDATE job SET state = 'running', progress = 0, tries = tries + 1 "
        "WHERE id = %(id)s AND state IN ('waiting', 'running') RETURNING kind, asked",
        {"id": job_id},
    ).fetchone()
    return (str(row[0]), row[1]) if row else None


def tell_progress(connection: Connection[TupleRow], job_id: UUID, progress: float, best: str | None = None) -> bool:
    """Tell how far a job is, 0 to 1, and the best answer so far as JSON; whether it is still wanted."""
    done = connection.execute(
        "UPDATE job SET progress = %(progress)s, answer = coalesce(%(best)s::jsonb, answer) "
        "WHERE id = %(id)s AND state = 'running'",
        {"id": job_id, "progress": progress, "best": best},
    )
    return done.rowcount > 0


def end_job(
    connection: Connection[TupleRow], job_id: UUID, state: JobState, *, answer: str | None = None, trouble: str = ""
) -> bool:
    """End a job, with its answer as JSON, or why it failed; whether it was not over yet."""
    done = connection.execute(
        "UPDATE job SET state = %(state)s, answer = coalesce(%(answer)s::jsonb, answer), trouble = %(trouble)s, "
        "ended_at = now(), "
        "progress = CASE WHEN %(state)s = 'done' THEN 1 ELSE progress END "
        "WHERE id = %(id)s AND state IN ('waiting', 'running')",
        {"id": job_id, "state": state, "answer": answer, "trouble": trouble},
    )
    return done.rowcount > 0


def cancel_jobs_of(connection: Connection[TupleRow], design_id: UUID) -> None:
    """Cancel all jobs of a plan that are not over yet."""
    connection.execute(
        "UPDATE job SET state = 'cancelled', ended_at = now() "
        "WHERE design_id = %(design_id)s AND state IN ('waiting', 'running')",
        {"design_id": design_id},
    )


def delete_old_jobs(connection: Connection[TupleRow]) -> None:
    """Remove jobs that were asked for more than a day ago."""
    connection.execute(
        "DELETE FROM job WHERE asked_at < now() - make_interval(hours => %(hours)s)", {"hours": KEPT_HOURS}
    )
