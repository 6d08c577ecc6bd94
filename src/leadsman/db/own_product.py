"""What users have added to the catalogue."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from psycopg import Connection
from psycopg.rows import TupleRow, class_row
from psycopg.types.json import Jsonb


@dataclass(frozen=True, kw_only=True)
class OwnRow:
    """A row of one of the catalogue's tables, as it was given."""

    kind: str
    product_id: str
    product: dict[str, Any]


def select_own(connection: Connection[TupleRow]) -> list[OwnRow]:
    """Return all that users have added, by table and name."""
    with connection.cursor(row_factory=class_row(OwnRow)) as cursor:
        return cursor.execute("SELECT kind, product_id, product FROM own_product ORDER BY kind, product_id").fetchall()


def put_own(connection: Connection[TupleRow], added: Sequence[OwnRow]) -> None:
    """Keep rows, each in place of one of its name."""
    for row in added:
        connection.execute(
            """
            INSERT INTO own_product (kind, product_id, product) VALUES (%(kind)s, %(product_id)s, %(product)s)
            ON CONFLICT (kind, product_id) DO UPDATE SET product = EXCLUDED.product, kept_at = now()
            """,
            {"kind": row.kind, "product_id": row.product_id, "product": Jsonb(row.product)},
        )


def delete_own(connection: Connection[TupleRow], kind: str, product_id: str) -> bool:
    """Forget a row; whether there was one."""
    done = connection.execute(
        "DELETE FROM own_product WHERE kind = %(kind)s AND product_id = %(product_id)s",
        {"kind": kind, "product_id": product_id},
    )
    return done.rowcount > 0
