"""Designs: made, listed, and moved to a new head."""

from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from psycopg import Connection
from psycopg.rows import class_row
from psycopg.types.json import Jsonb


@dataclass(frozen=True)
class DesignRow:
    """A design with what lists show of its head revision."""

    id: UUID
    demo_key: str | None
    site_name: str
    name: str
    head_number: int
    saved_at: datetime


@dataclass(frozen=True)
class HeadRow:
    """The numbers that a save needs, read under lock."""

    head_number: int
    last_number: int


def insert_design(connection: Connection[Any], document: dict[str, Any], demo_key: str | None = None) -> UUID | None:
    """Insert a design with its first revision and return its id; None where the demo key is there already."""
    row = connection.execute(
        """
        INSERT INTO design (demo_key, head_number, last_number) VALUES (%(demo_key)s, 1, 1)
        ON CONFLICT ON CONSTRAINT design_demo_key_once DO NOTHING
        RETURNING id
        """,
        {"demo_key": demo_key},
    ).fetchone()
    if row is None:
        return None
    connection.execute(
        """
        INSERT INTO revision (design_id, number, parent_number, standing, document)
        VALUES (%(design_id)s, 1, NULL, 'kept', %(document)s)
        """,
        {"design_id": row[0], "document": Jsonb(document)},
    )
    design_id: UUID = row[0]
    return design_id


def select_designs(connection: Connection[Any]) -> list[DesignRow]:
    """Return all designs, last saved first."""
    with connection.cursor(row_factory=class_row(DesignRow)) as cursor:
        return cursor.execute(
            """
            SELECT design.id, design.demo_key, revision.document -> 'site' ->> 'name' AS site_name,
                   revision.document ->> 'name' AS name, design.head_number, revision.saved_at
            FROM design
            JOIN revision ON revision.design_id = design.id AND revision.number = design.head_number
            ORDER BY revision.saved_at DESC, design.id
            """
        ).fetchall()


def lock_head(connection: Connection[Any], design_id: UUID) -> HeadRow | None:
    """Return a design's numbers, held until the transaction ends; None where there is no such design."""
    with connection.cursor(row_factory=class_row(HeadRow)) as cursor:
        return cursor.execute(
            "SELECT head_number, last_number FROM design WHERE id = %(design_id)s FOR UPDATE", {"design_id": design_id}
        ).fetchone()


def update_numbers(connection: Connection[Any], design_id: UUID, head_number: int, last_number: int) -> None:
    """Set a design's head and last number."""
    connection.execute(
        """
        UPDATE design SET head_number = %(head_number)s, last_number = %(last_number)s
        WHERE id = %(design_id)s
        """,
        {"design_id": design_id, "head_number": head_number, "last_number": last_number},
    )
