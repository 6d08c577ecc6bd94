"""Designs: made, listed, and moved to a new head."""

from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from psycopg import Connection
from psycopg.rows import TupleRow, class_row
from psycopg.types.json import Jsonb


@dataclass(frozen=True, kw_only=True)
class DesignRow:
    """A design with what lists show of its head revision; `glance` and `findings` are None until it was judged."""

    id: UUID
    demo_key: str | None
    site_name: str
    name: str
    head_number: int
    saved_at: datetime
    deleted_at: datetime | None
    findings: int | None
    glance: dict[str, Any] | None


@dataclass(frozen=True, kw_only=True)
class Page:
    """Where a page of the list begins: after the design last shown, by when that was saved, and its id.

    `deleted` asks for the deleted designs, which the list leaves out.
    """

    saved_before: datetime | None = None
    after_id: UUID | None = None
    length: int = 50
    deleted: bool = False


@dataclass(frozen=True)
class HeadRow:
    """The numbers that a save needs, read under lock."""

    head_number: int
    last_number: int


def insert_design(
    connection: Connection[TupleRow],
    document: dict[str, Any],
    demo_key: str | None = None,
    design_id: UUID | None = None,
) -> UUID | None:
    """Insert a design with its first revision and return its id; None where its demo key or id is there already."""
    row = connection.execute(
        """
        INSERT INTO design (id, demo_key, head_number, last_number)
        VALUES (coalesce(%(id)s, gen_random_uuid()), %(demo_key)s, 1, 1)
        ON CONFLICT DO NOTHING
        RETURNING id
        """,
        {"id": design_id, "demo_key": demo_key},
    ).fetchone()
    if row is None:
        return None
    inserted: UUID = row[0]
    connection.execute(
        """
        INSERT INTO revision (design_id, number, parent_number, standing, document)
        VALUES (%(design_id)s, 1, NULL, 'kept', %(document)s)
        """,
        {"design_id": inserted, "document": Jsonb(document)},
    )
    return inserted


def select_designs(connection: Connection[TupleRow], page: Page) -> list[DesignRow]:
    """Return a page of the designs, last saved first."""
    with connection.cursor(row_factory=class_row(DesignRow)) as cursor:
        return cursor.execute(
            """
            SELECT design.id, design.demo_key, revision.site_name, revision.name, design.head_number, design.saved_at,
                   design.deleted_at, revision.findings, revision.glance
            FROM design
            JOIN revision ON revision.design_id = design.id AND revision.number = design.head_number
            WHERE (design.deleted_at IS NOT NULL) = %(deleted)s
              AND (%(saved_before)s::timestamptz IS NULL
                   OR (design.saved_at, design.id) < (%(saved_before)s::timestamptz, %(after_id)s::uuid))
            ORDER BY design.saved_at DESC, design.id DESC
            LIMIT %(length)s
            """,
            vars(page),
        ).fetchall()


def count_designs(connection: Connection[TupleRow], deleted: bool = False) -> int:
    """Return how many designs there are: those in use, or the deleted ones."""
    row = connection.execute(
        "SELECT count(*) FROM design WHERE (deleted_at IS NOT NULL) = %(deleted)s", {"deleted": deleted}
    ).fetchone()
    return int(row[0]) if row else 0


def update_deleted(connection: Connection[TupleRow], design_id: UUID, deleted: bool) -> bool:
    """Delete a design, or restore it; whether there is such a design. Doing so twice changes nothing."""
    done = connection.execute(
        """
        UPDATE design SET deleted_at = CASE WHEN %(deleted)s THEN coalesce(deleted_at, now()) END
        WHERE id = %(design_id)s
        """,
        {"design_id": design_id, "deleted": deleted},
    )
    return done.rowcount == 1


def lock_head(connection: Connection[TupleRow], design_id: UUID) -> HeadRow | None:
    """Return a design's numbers, held until the transaction ends; None where there is no such design."""
    with connection.cursor(row_factory=class_row(HeadRow)) as cursor:
        return cursor.execute(
            "SELECT head_number, last_number FROM design WHERE id = %(design_id)s FOR UPDATE", {"design_id": design_id}
        ).fetchone()


def update_numbers(connection: Connection[TupleRow], design_id: UUID, head_number: int, last_number: int) -> None:
    """Set a design's head and last number; one that was deleted meanwhile is in use again."""
    connection.execute(
        """
        UPDATE design SET head_number = %(head_number)s, last_number = %(last_number)s, saved_at = now(),
               deleted_at = NULL
        WHERE id = %(design_id)s
        """,
        {"design_id": design_id, "head_number": head_number, "last_number": last_number},
    )
