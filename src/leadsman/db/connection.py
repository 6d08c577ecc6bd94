"""The pool of connections to PostgreSQL, opened on first use."""

from collections.abc import Iterator
from contextlib import contextmanager

from psycopg import Connection
from psycopg.rows import TupleRow
from psycopg_pool import ConnectionPool

WAIT_S = 3.0
MOST_CONNECTIONS = 8


class Database:
    """One door to the database: `transaction` gives a connection whose work is committed or undone whole."""

    def __init__(self, url: str) -> None:
        self._pool: ConnectionPool[Connection[TupleRow]] = ConnectionPool(
            url,
            min_size=1,
            max_size=MOST_CONNECTIONS,
            timeout=WAIT_S,
            open=False,
            check=ConnectionPool.check_connection,
            kwargs={"connect_timeout": int(WAIT_S), "application_name": "leadsman"},
        )

    @contextmanager
    def transaction(self) -> Iterator[Connection[TupleRow]]:
        """Yield a connection in a transaction: committed on leaving, undone on an exception.

        Raises:
            psycopg.OperationalError: no connection within 3 s, or it broke.
        """
        self._pool.open()
        with self._pool.connection() as connection:
            yield connection

    def close(self) -> None:
        """Close all connections."""
        self._pool.close()
