"""Revisions: one saved document each, never changed."""

from dataclasses import dataclass
from datetime import datetime
from typing import Any, Literal
from uuid import UUID

from psycopg import Connection
from psycopg.rows import TupleRow, class_row
from psycopg.types.json import Jsonb

from leadsman.db.design import HeadRow, lock_head, update_numbers

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


class OtherSave(Exception):
    """A save has the id of an earlier one, and another document."""


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
    connection: Connection[TupleRow],
    design_id: UUID,
    base_number: int,
    document: dict[str, Any],
    saved_by: str = "",
    save_id: UUID | None = None,
) -> Saved | None:
    """Save a document that was edited from revision `base_number`.

    Where that is still the head, the document becomes the new head. Where somebody else saved since, it
    is kept as a sibling and the head stays: neither version is lost; but where the head is this very document, as when
    a page that was left is opened again and its last save came through, it counts as saved. None where there is no
    such design or base.

    Args:
        save_id: where it is that of an earlier save, nothing is saved again, and the answer is the earlier one.

    Raises:
        OtherSave: an earlier save of that id had another document.
    """
    head = lock_head(connection, design_id)
    if head is None or base_number > head.last_number:
        return None
    if save_id is not None and (before := _answered(connection, design_id, save_id)):
        if not _is_at(connection, design_id, before.number, document):
            raise OtherSave
        return before
    saved = _saved(connection, design_id, base_number, head, document, saved_by)
    if save_id is not None:
        connection.execute(
            "INSERT INTO answered_save (design_id, save_id, number) VALUES (%(design_id)s, %(save_id)s, %(number)s)",
            {"design_id": design_id, "save_id": save_id, "number": saved.number},
        )
    return saved


def _saved(
    connection: Connection[TupleRow],
    design_id: UUID,
    base_number: int,
    head: HeadRow,
    document: dict[str, Any],
    saved_by: str,
) -> Saved:
    if head.head_number != base_number and _is_at(connection, design_id, head.head_number, document):
        return Saved(head.head_number, "kept")
    standing: RevisionState = "kept" if head.head_number == base_number else "sibling"
    number = head.last_number + 1
    connection.execute(
        """
        INSERT INTO revision (design_id, number, parent_number, standing, document, saved_by)
        SELECT %(design_id)s, %(number)s, max(number), %(standing)s, %(document)s, %(saved_by)s
        FROM revision WHERE design_id = %(design_id)s AND number <= %(base_number)s
        """,  # the revision that it was edited from may have been thinned out
        {
            "design_id": design_id,
            "number": number,
            "base_number": base_number,
            "standing": standing,
            "document": Jsonb(document),
            "saved_by": saved_by,
        },
    )
    update_numbers(connection, design_id, number if standing == "kept" else head.head_number, number)
    return Saved(number, standing)


def _answered(connection: Connection[TupleRow], design_id: UUID, save_id: UUID) -> Saved | None:
    """Return how the save of an id went, None where there was none."""
    with connection.cursor(row_factory=class_row(Saved)) as cursor:
        return cursor.execute(
            """
            SELECT revision.number, revision.standing
            FROM answered_save
            JOIN revision ON revision.design_id = answered_save.design_id AND revision.number = answered_save.number
            WHERE answered_save.design_id = %(design_id)s AND answered_save.save_id = %(save_id)s
            """,
            {"design_id": design_id, "save_id": save_id},
        ).fetchone()


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
