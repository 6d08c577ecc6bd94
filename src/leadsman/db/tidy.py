"""What is removed with time: plans that were deleted long ago, and most of the old autosaves.

The rule: of a plan's revisions every one is kept for two days; after that the last of each hour, after two weeks the
last of each day, after a quarter of a year the last of each week. Whatever their age, kept are the first, the one that
people see, those that were given a name, and those that were saved beside another and what they were edited from.
"""

from dataclasses import dataclass

from psycopg import Connection
from psycopg.rows import TupleRow

from leadsman.db.job import delete_old_jobs

DELETED_KEPT_DAYS = 30
EVERY_ONE_DAYS, HOURLY_DAYS, DAILY_DAYS = 2, 14, 91
LOCK_KEY = 7_340_212


@dataclass(frozen=True, kw_only=True)
class Removed:
    """How many deleted plans and how many old autosaves were removed."""

    plans: int
    revisions: int


def tidy(connection: Connection[TupleRow]) -> Removed | None:
    """Remove what has had its time; None where somebody else is at it."""
    row = connection.execute("SELECT pg_try_advisory_xact_lock(%(key)s)", {"key": LOCK_KEY}).fetchone()
    if not row or not row[0]:
        return None
    plans = connection.execute(
        "DELETE FROM design WHERE deleted_at < now() - make_interval(days => %(days)s)", {"days": DELETED_KEPT_DAYS}
    ).rowcount
    delete_old_jobs(connection)
    return Removed(plans=plans, revisions=_thin(connection))


def _thin(connection: Connection[TupleRow]) -> int:
    """Remove old autosaves; what was edited from one of them then counts as edited from the one before that."""
    connection.execute(
        """
        CREATE TEMPORARY TABLE thinned ON COMMIT DROP AS
        WITH aged AS (
            SELECT revision.design_id, revision.number, revision.label, revision.standing, revision.saved_at,
                   revision.number = design.head_number OR revision.parent_number IS NULL AS stays,
                   date_trunc(
                       CASE WHEN revision.saved_at > now() - make_interval(days => %(hourly)s) THEN 'hour'
                            WHEN revision.saved_at > now() - make_interval(days => %(daily)s) THEN 'day'
                            ELSE 'week' END, revision.saved_at, 'UTC') AS slot,
                   EXISTS (SELECT FROM revision AS beside
                           WHERE beside.design_id = revision.design_id AND beside.parent_number = revision.number
                             AND beside.standing = 'sibling') AS has_sibling
            FROM revision
            JOIN design ON design.id = revision.design_id
        ), ranked AS (
            SELECT *, row_number() OVER (PARTITION BY design_id, standing, slot ORDER BY number DESC) AS place FROM aged
        )
        SELECT design_id, number FROM ranked
        WHERE place > 1 AND NOT stays AND NOT has_sibling AND label = '' AND standing = 'kept'
          AND saved_at < now() - make_interval(days => %(every_one)s)
        """,
        {"every_one": EVERY_ONE_DAYS, "hourly": HOURLY_DAYS, "daily": DAILY_DAYS},
    )
    connection.execute("CREATE UNIQUE INDEX ON thinned (design_id, number)")
    connection.execute(
        """
        UPDATE revision SET parent_number = (
            SELECT max(earlier.number) FROM revision AS earlier
            WHERE earlier.design_id = revision.design_id AND earlier.number < revision.parent_number
              AND NOT EXISTS (SELECT FROM thinned
                              WHERE thinned.design_id = earlier.design_id AND thinned.number = earlier.number))
        FROM thinned
        WHERE thinned.design_id = revision.design_id AND thinned.number = revision.parent_number
        """
    )
    done = connection.execute(
        "DELETE FROM revision USING thinned "
        "WHERE thinned.design_id = revision.design_id AND thinned.number = revision.number"
    )
    return done.rowcount
