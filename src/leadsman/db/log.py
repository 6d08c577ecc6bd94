"""The log of the real line: entries that are added and read, never changed."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from psycopg import Connection
from psycopg.rows import TupleRow, class_row
from psycopg.types.json import Jsonb


@dataclass(frozen=True, kw_only=True)
class LogRow:
    """One entry, as it was made; `corrects` names the one that it corrects."""

    id: UUID
    kind: str
    part: str | None
    part_name: str | None
    happened_at: datetime
    received_at: datetime
    who: str
    said: str
    figures: dict[str, Any]
    corrects: UUID | None
    has_photo: bool = False
    latitude_deg: float | None = None  # of where the photo was taken
    longitude_deg: float | None = None


@dataclass(frozen=True, kw_only=True)
class LogPage:
    """Where a page begins: before an entry, by when that happened and its id; of one part of the plan, if said.

    `kinds` are the only kinds that are wanted; all where it is empty.
    """

    before: datetime | None = None
    before_id: UUID | None = None
    part: str | None = None
    kinds: Sequence[str] = ()
    length: int = 100


def insert_entry(connection: Connection[TupleRow], design_id: UUID, entry: LogRow) -> bool:
    """Add an entry; whether it is kept, now or already. One of its id that is not the same stays as it came first."""
    connection.execute(
        """
        INSERT INTO log_entry (id, design_id, kind, part, part_name, happened_at, who, said, figures, corrects)
        VALUES (%(id)s, %(design_id)s, %(kind)s, %(part)s, %(part_name)s, %(happened_at)s, %(who)s, %(said)s,
                %(figures)s, %(corrects)s)
        ON CONFLICT (id) DO NOTHING
        """,
        {**vars(entry), "design_id": design_id, "figures": Jsonb(entry.figures)},
    )
    row = connection.execute(
        """
        SELECT (design_id, kind, part, happened_at, who, said, figures, corrects)
               IS NOT DISTINCT FROM (%(design_id)s::uuid, %(kind)s::text, %(part)s::text, %(happened_at)s::timestamptz,
                                     %(who)s::text, %(said)s::text, %(figures)s::jsonb, %(corrects)s::uuid)
        FROM log_entry WHERE id = %(id)s
        """,
        {**vars(entry), "design_id": design_id, "figures": Jsonb(entry.figures)},
    ).fetchone()
    return row is not None and bool(row[0])


def select_entries(connection: Connection[TupleRow], design_id: UUID, page: LogPage) -> list[LogRow]:
    """Return entries of a design, newest first."""
    with connection.cursor(row_factory=class_row(LogRow)) as cursor:
        return cursor.execute(
            """
            SELECT id, kind, part, part_name, happened_at, received_at, who, said, figures, corrects,
                   photo.entry_id IS NOT NULL AS has_photo, latitude_deg, longitude_deg
            FROM log_entry LEFT JOIN photo ON photo.entry_id = log_entry.id
            WHERE design_id = %(design_id)s
              AND (%(part)s::text IS NULL OR part = %(part)s)
              AND (cardinality(%(kinds)s::text[]) = 0 OR kind = ANY(%(kinds)s))
              AND (%(before)s::timestamptz IS NULL
                   OR happened_at < %(before)s
                   OR (happened_at = %(before)s AND id < %(before_id)s::uuid))
            ORDER BY happened_at DESC, id DESC
            LIMIT %(length)s
            """,
            {**vars(page), "kinds": list(page.kinds), "design_id": design_id},
        ).fetchall()


@dataclass(frozen=True, kw_only=True)
class RoundRow:
    """A plan on a round over all plans: what its list shows, and when it was looked at last."""

    design_id: UUID
    site_name: str
    name: str
    glance: dict[str, Any] | None
    last_look: datetime | None


def select_round(connection: Connection[TupleRow], most: int) -> list[RoundRow]:
    """Return the plans in use, each with its last look."""
    with connection.cursor(row_factory=class_row(RoundRow)) as cursor:
        return cursor.execute(
            """
            SELECT design.id AS design_id, revision.site_name, revision.name, revision.glance,
                   (SELECT max(happened_at) FROM log_entry
                    WHERE log_entry.design_id = design.id AND log_entry.kind IN ('look', 'level')) AS last_look
            FROM design
            JOIN revision ON revision.design_id = design.id AND revision.number = design.head_number
            WHERE design.deleted_at IS NULL
            ORDER BY design.saved_at DESC, design.id DESC
            LIMIT %(most)s
            """,
            {"most": most},
        ).fetchall()


def has_design(connection: Connection[TupleRow], design_id: UUID) -> bool:
    """Whether there is a design of that id, deleted ones too while they are kept."""
    row = connection.execute("SELECT 1 FROM design WHERE id = %(id)s", {"id": design_id}).fetchone()
    return row is not None


def entry_kind(connection: Connection[TupleRow], design_id: UUID, entry_id: UUID) -> str | None:
    """Return of which kind an entry of a design's log is, None where there is none."""
    row = connection.execute(
        "SELECT kind FROM log_entry WHERE id = %(id)s AND design_id = %(design_id)s",
        {"id": entry_id, "design_id": design_id},
    ).fetchone()
    return None if row is None else str(row[0])
