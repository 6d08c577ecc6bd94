"""All that is kept, for an archive; and plans put back as they were in one."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from psycopg import Connection
from psycopg.rows import TupleRow, class_row
from psycopg.types.json import Jsonb

from leadsman.db.revision import RevisionRow

ROWS_AT_ONCE = 20


@dataclass(frozen=True, kw_only=True)
class PlanRow:
    """A design that is not deleted."""

    id: UUID
    demo_key: str | None
    head_number: int
    last_number: int
    saved_at: datetime


def read_one_moment(connection: Connection[TupleRow]) -> None:
    """Have the transaction, which has just begun, see everything as it is now, whatever is saved meanwhile."""
    connection.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ, READ ONLY")


def select_plans(connection: Connection[TupleRow]) -> list[PlanRow]:
    """Return all designs that are not deleted, oldest first."""
    with connection.cursor(row_factory=class_row(PlanRow)) as cursor:
        return cursor.execute(
            """
            SELECT id, demo_key, head_number, last_number, saved_at
            FROM design
            WHERE deleted_at IS NULL
            ORDER BY created_at, id
            """
        ).fetchall()


def stream_documents(connection: Connection[TupleRow], design_id: UUID) -> Iterator[tuple[int, dict[str, Any]]]:
    """Yield number and document of each revision of a design, a few at a time."""
    with connection.cursor("documents") as cursor:
        cursor.itersize = ROWS_AT_ONCE
        cursor.execute(
            "SELECT number, document FROM revision WHERE design_id = %(design_id)s ORDER BY number",
            {"design_id": design_id},
        )
        yield from cursor


def has_head(connection: Connection[TupleRow], design_id: UUID, document: dict[str, Any]) -> bool | None:
    """Whether the head of a design is this very document; None where there is no such design."""
    row = connection.execute(
        """
        SELECT revision.document = %(document)s
        FROM design
        JOIN revision ON revision.design_id = design.id AND revision.number = design.head_number
        WHERE design.id = %(design_id)s
        """,
        {"design_id": design_id, "document": Jsonb(document)},
    ).fetchone()
    return None if row is None else bool(row[0])


def insert_plan(connection: Connection[TupleRow], plan: PlanRow) -> None:
    """Put a design back; its revisions must follow in the same transaction. A demo key that is taken is left out."""
    connection.execute(
        """
        INSERT INTO design (id, demo_key, head_number, last_number, saved_at)
        SELECT %(id)s, CASE WHEN EXISTS (SELECT FROM design WHERE demo_key = %(demo_key)s) THEN NULL
                            ELSE %(demo_key)s END, %(head_number)s, %(last_number)s, %(saved_at)s
        """,
        vars(plan),
    )


def insert_revision(connection: Connection[TupleRow], design_id: UUID, revision: RevisionRow) -> None:
    """Put a revision back, its parent before it."""
    connection.execute(
        """
        INSERT INTO revision (design_id, number, parent_number, standing, document, saved_at, saved_by, label)
        VALUES (%(design_id)s, %(number)s, %(parent_number)s, %(standing)s, %(document)s, %(saved_at)s, %(saved_by)s,
                %(label)s)
        """,
        {**vars(revision), "design_id": design_id, "document": Jsonb(revision.document)},
    )
