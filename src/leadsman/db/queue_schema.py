"""The tables of the queue, which procrastinate brings along: made once, in a schema of their own.

They are no part of a backup: what stands in a queue is of the moment.
"""

from procrastinate.schema import SchemaManager
from psycopg import Connection
from psycopg.conninfo import make_conninfo
from psycopg.rows import TupleRow

SCHEMA, MARK = "queue", "queue.procrastinate_jobs"


def queue_address(url: str) -> str:
    """Return the address of a database whose queue is meant."""
    return make_conninfo(url, options=f"-csearch_path={SCHEMA}", application_name="leadsman queue")


def make_queue(connection: Connection[TupleRow]) -> bool:
    """Make the queue's tables where they are not there yet; whether they were made.

    A later procrastinate that changes them has its changes in a numbered migration of ours.
    """
    row = connection.execute("SELECT to_regclass(%(mark)s)", {"mark": MARK}).fetchone()
    if row is not None and row[0] is not None:
        return False
    with connection.transaction():
        connection.execute(f"CREATE SCHEMA IF NOT EXISTS {SCHEMA}")
        connection.execute(f"SET LOCAL search_path = {SCHEMA}")
        connection.execute(SchemaManager.get_schema())
    return True
