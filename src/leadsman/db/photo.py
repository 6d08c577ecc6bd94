"""Photos of the log: kept once with their entry, and read."""

from dataclasses import dataclass
from uuid import UUID

from psycopg import Connection
from psycopg.rows import TupleRow, class_row


@dataclass(frozen=True, kw_only=True)
class PhotoRow:
    """A photo of an entry: large and small, where it was taken if wanted [°], and a hash of what was sent."""

    entry_id: UUID
    sent_hash: bytes
    data: bytes
    small: bytes
    latitude_deg: float | None
    longitude_deg: float | None


def insert_photo(connection: Connection[TupleRow], photo: PhotoRow) -> bool:
    """Keep a photo; whether it is kept, now or already. Another one of the same entry stays as it came first.

    Raises:
        psycopg.errors.ForeignKeyViolation: there is no such entry.
    """
    connection.execute(
        """
        INSERT INTO photo (entry_id, sent_hash, data, small, latitude_deg, longitude_deg)
        VALUES (%(entry_id)s, %(sent_hash)s, %(data)s, %(small)s, %(latitude_deg)s, %(longitude_deg)s)
        ON CONFLICT (entry_id) DO NOTHING
        """,
        vars(photo),
    )
    return photo_hash(connection, photo.entry_id) == photo.sent_hash


def photo_hash(connection: Connection[TupleRow], entry_id: UUID) -> bytes | None:
    """Return the hash of what was sent as an entry's photo, None where it has none."""
    row = connection.execute("SELECT sent_hash FROM photo WHERE entry_id = %(id)s", {"id": entry_id}).fetchone()
    return None if row is None else bytes(row[0])


def select_photo(connection: Connection[TupleRow], design_id: UUID, entry_id: UUID) -> PhotoRow | None:
    """Return the photo of an entry of a design's log, None where it has none."""
    with connection.cursor(row_factory=class_row(PhotoRow)) as cursor:
        return cursor.execute(
            """
            SELECT entry_id, sent_hash, data, small, latitude_deg, longitude_deg
            FROM photo JOIN log_entry ON log_entry.id = entry_id
            WHERE entry_id = %(entry_id)s AND design_id = %(design_id)s
            """,
            {"design_id": design_id, "entry_id": entry_id},
        ).fetchone()


def select_photographed(connection: Connection[TupleRow], design_id: UUID) -> list[UUID]:
    """Return the entries of a design's log that have a photo."""
    rows = connection.execute(
        """
        SELECT entry_id FROM photo JOIN log_entry ON log_entry.id = entry_id
        WHERE design_id = %(design_id)s ORDER BY entry_id
        """,
        {"design_id": design_id},
    ).fetchall()
    return [row[0] for row in rows]
