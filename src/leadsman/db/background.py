"""What lies under a design's plan: its height model and its pinned picture."""

from dataclasses import dataclass
from typing import Any
from uuid import UUID

from psycopg import Connection
from psycopg.rows import TupleRow, class_row
from psycopg.types.json import Jsonb


@dataclass(frozen=True, kw_only=True)
class PictureRow:
    """A picture with the points that pin it."""

    mime: str
    data: bytes
    pins: list[dict[str, float]]


def put_height_model(connection: Connection[TupleRow], design_id: UUID, model: dict[str, Any]) -> None:
    """Keep a design's height model in place of the one before.

    Raises:
        psycopg.errors.ForeignKeyViolation: there is no such design.
    """
    connection.execute(
        """
        INSERT INTO height_model (design_id, model) VALUES (%(design_id)s, %(model)s)
        ON CONFLICT (design_id) DO UPDATE SET model = EXCLUDED.model, kept_at = now()
        """,
        {"design_id": design_id, "model": Jsonb(model)},
    )


def select_height_model(connection: Connection[TupleRow], design_id: UUID) -> dict[str, Any] | None:
    """Return a design's height model, None where it has none."""
    row = connection.execute(
        "SELECT model FROM height_model WHERE design_id = %(design_id)s", {"design_id": design_id}
    ).fetchone()
    return None if row is None else row[0]


def delete_height_model(connection: Connection[TupleRow], design_id: UUID) -> None:
    """Forget a design's height model."""
    connection.execute("DELETE FROM height_model WHERE design_id = %(design_id)s", {"design_id": design_id})


def put_picture(connection: Connection[TupleRow], design_id: UUID, picture: PictureRow) -> None:
    """Keep a design's picture in place of the one before.

    Raises:
        psycopg.errors.ForeignKeyViolation: there is no such design.
    """
    connection.execute(
        """
        INSERT INTO picture (design_id, mime, data, pins) VALUES (%(design_id)s, %(mime)s, %(data)s, %(pins)s)
        ON CONFLICT (design_id) DO UPDATE
        SET mime = EXCLUDED.mime, data = EXCLUDED.data, pins = EXCLUDED.pins, kept_at = now()
        """,
        {"design_id": design_id, "mime": picture.mime, "data": picture.data, "pins": Jsonb(picture.pins)},
    )


def select_picture(connection: Connection[TupleRow], design_id: UUID) -> PictureRow | None:
    """Return a design's picture, None where it has none."""
    with connection.cursor(row_factory=class_row(PictureRow)) as cursor:
        return cursor.execute(
            "SELECT mime, data, pins FROM picture WHERE design_id = %(design_id)s", {"design_id": design_id}
        ).fetchone()


def delete_picture(connection: Connection[TupleRow], design_id: UUID) -> None:
    """Forget a design's picture."""
    connection.execute("DELETE FROM picture WHERE design_id = %(design_id)s", {"design_id": design_id})
