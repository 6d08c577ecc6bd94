"""Revisions: one saved document each, never changed."""

from dataclasses import dataclass
from datetime import datetime
from typing import Any, Literal
from uuid import UUID

from psycopg import Connection
from psycopg.rows import TupleRow, class_row
from psycopg.types.json import Jsonb

from leadsman.db.design import lock_head, update_numbers

RevisionState = Literal["kept", "sibling"]


@dataclass(frozen=True, kw_only=True)
class RevisionRow:
    """A revision with its document."""

    number: int
    parent_number: int | None
    standing: RevisionState
    document: dict[str, Any]
    saved_at: datetime
    saved_by: str
    label: str


@dataclass(frozen=True)
class RevisionHeading:
    """A revision as a list shows it."""

    number: int
    parent_number: int | None
    standing: RevisionState
    saved_at: datetime
    saved_by: str
    label: str


@dataclass(frozen=True)
class Saved:
    """How a save went: its number, and whether it became the head or a sibling of a newer one."""

    number: int
    standing: RevisionState


def select_head(connection: Connection[TupleRow], design_id: UUID) -> RevisionRow | None:
    """Return a design's head revision, None where there is no such design."""
    with connection.cursor(row_factory=class_row(RevisionRow)) as cursor:
        return cursor.execute(
            """
            SELECT revision.number, revision.parent_number, revision.standing, revision.document, revision.saved_at,
                   revision.saved_by, revision.label
            FROM design
            JOIN revision ON revision.design_id = design.id AND revision.number = design.head_number
            WHERE design.id = %(design_id)s
            """,
            {"design_id": design_id},
        ).fetchone()


def select_revision(connection: Connection[TupleRow], design_id: UUID, number: int) -> RevisionRow | None:
    """Return one revision, None where there is none of that number."""
    with connection.cursor(row_factory=class_row(RevisionRow)) as cursor:
        return cursor.execute(
            """
            SELECT number, parent_number, standing, document, saved_at, saved_by, label
            FROM revision
            WHERE design_id = %(design_id)s AND number = %(number)s
            """,
            {"design_id": design_id, "number": number},
        ).fetchone()


def select_headings(connection: Connection[TupleRow], design_id: UUID) -> list[RevisionHeading]:
    """Return a design's revisions, newest first."""
    with connection.cursor(row_factory=class_row(RevisionHeading)) as cursor:
        return cursor.execute(
            """
            SELECT number, parent_number, standing, saved_at, saved_by, label
            FROM revision
            WHERE design_id = %(design_id)s
            ORDER BY number DESC
            """,
            {"design_id": design_id},
        ).fetchall()


def save(
    connection: Connection[TupleRow], design_id: UUID, base_number: int, document: dict[str, Any], saved_by: str = ""
) -> Saved | None:
    """Save a document that was edited from revision `base_number`.

    Where that is still the head, the document becomes the new head. Where somebody else saved since, it
    is kept as a sibling and the head stays: neither version is lost; but where the head is this very document, as when
    a page that was left is opened again and its last save came through, it counts as saved. None where there is no
    such design or base.
    """
    head = lock_head(connection, design_id)
    if head is None or base_number > head.last_number:  # numbers run from 1 without gaps
        return None
    if head.head_number != base_number and _is_at(connection, design_id, head.head_number, document):
        return Saved(head.head_number, "kept")
    standing: RevisionState = "kept" if head.head_number == base_number else "sibling"
    number = head.last_number + 1
    connection.execute(
        """
        INSERT INTO revision (design_id, number, parent_number, standing, document, saved_by)
        VALUES (%(design_id)s, %(number)s, %(parent_number)s, %(standing)s, %(document)s, %(saved_by)s)
        """,
        {
            "design_id": design_id,
            "number": number,
            "parent_number": base_number,
            "standing": standing,
            "document": Jsonb(document),
            "saved_by": saved_by,
        },
    )
    update_numbers(connection, design_id, number if standing == "kept" else head.head_number, number)
    return Saved(number, standing)


def _is_at(connection: Connection[TupleRow], design_id: UUID, number: int, document: dict[str, Any]) -> bool:
    """Whether a revision is this very document, in whatever order its keys come."""
    row = connection.execute(
        """
        SELECT document = %(document)s FROM revision WHERE design_id = %(design_id)s AND number = %(number)s
        """,
        {"design_id": design_id, "number": number, "document": Jsonb(document)},
    ).fetchone()
    return bool(row and row[0])


def update_label(connection: Connection[TupleRow], design_id: UUID, number: int, label: str) -> bool:
    """Give a revision a name, or take it away; whether there is such a revision."""
    done = connection.execute(
        "UPDATE revision SET label = %(label)s WHERE design_id = %(design_id)s AND number = %(number)s",
        {"design_id": design_id, "number": number, "label": label},
    )
    return done.rowcount == 1


def select_glance(connection: Connection[TupleRow], design_id: UUID, number: int) -> dict[str, Any] | None:
    """Return how a revision looked when it was judged, None where it was not, or is not there."""
    row = connection.execute(
        "SELECT glance FROM revision WHERE design_id = %(design_id)s AND number = %(number)s",
        {"design_id": design_id, "number": number},
    ).fetchone()
    return row[0] if row else None


def update_glance(
    connection: Connection[TupleRow], design_id: UUID, number: int, glance: dict[str, Any], findings: int
) -> None:
    """Keep how a revision looks and stands."""
    connection.execute(
        """
        UPDATE revision SET glance = %(glance)s, findings = %(findings)s
        WHERE design_id = %(design_id)s AND number = %(number)s
        """,
        {"design_id": design_id, "number": number, "glance": Jsonb(glance), "findings": findings},
    )
