"""What a database holds, as one figure for each table: two that are equal hold the same rows."""

from dataclasses import dataclass

from psycopg import Connection, sql
from psycopg.rows import TupleRow, class_row

# how values are written as text must not depend on how a server is set up
AS_TEXT = (
    "SET LOCAL TIME ZONE 'UTC'", "SET LOCAL DateStyle = 'ISO, YMD'", "SET LOCAL IntervalStyle = 'iso_8601'",
    "SET LOCAL bytea_output = 'hex'", "SET LOCAL extra_float_digits = 1",
)  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class TableSum:
    """A table's rows: how many, and the sum of 60 bits of each one's MD5, whatever order they stand in."""

    name: str
    rows: int
    sum: str


def table_sums(connection: Connection[TupleRow]) -> list[TableSum]:
    """Return the sums of all tables of the public schema, by name, as the transaction sees them."""
    for setting in AS_TEXT:
        connection.execute(setting)
    query = """
        SELECT {told} AS name, count(*) AS rows,
               coalesce(sum(('x' || substr(md5(whole::text), 1, 15))::bit(60)::bigint), 0)::text AS sum
        FROM public.{table} AS whole
        """
    with connection.cursor(row_factory=class_row(TableSum)) as cursor:
        return [
            cursor.execute(sql.SQL(query).format(told=sql.Literal(name), table=sql.Identifier(name))).fetchall()[0]
            for name in table_names(connection)
        ]


def table_names(connection: Connection[TupleRow]) -> list[str]:
    """Return the names of all tables of the public schema."""
    rows = connection.execute("SELECT tablename FROM pg_tables WHERE schemaname = 'public' ORDER BY tablename")
    return [name for (name,) in rows.fetchall()]
