"""The keys of calendar feeds."""

from uuid import UUID

from psycopg import Connection
from psycopg.rows import TupleRow


def put_key(connection: Connection[TupleRow], design_id: UUID, key: str) -> None:
    """Give a design's feed a key; an earlier one no longer holds."""
    connection.execute(
        """
        INSERT INTO feed (design_id, key) VALUES (%(design_id)s, %(key)s)
        ON CONFLICT (design_id) DO UPDATE SET key = %(key)s, made_at = now()
        """,
        {"design_id": design_id, "key": key},
    )


def select_key(connection: Connection[TupleRow], design_id: UUID) -> str | None:
    """Return the key of a design's feed; None where it has none."""
    row = connection.execute("SELECT key FROM feed WHERE design_id = %(id)s", {"id": design_id}).fetchone()
    return None if row is None else str(row[0])
