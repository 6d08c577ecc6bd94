"""Forward-only numbered migrations, each in a transaction.

Written out (30 lines) because an advisory lock must fall away by itself when a start is killed; the
libraries at hand keep a lock row that then stands in the way of the next start.
"""

import re
from collections.abc import Iterable
from importlib.resources import files
from importlib.resources.abc import Traversable
from itertools import chain

import psycopg

from leadsman.db.queue_schema import make_queue

LOCK_KEY = 7_340_211


class NewerDatabase(Exception):
    """A later Leadsman has changed the database: this one must not write to it."""


def migrate(url: str) -> list[str]:
    """Apply the migrations that the database does not have yet and return their names.

    Raises:
        NewerDatabase: it has migrations that are unknown here; nothing is changed.
        psycopg.Error: a migration failed; the database is as after the last one that did not.
    """
    applied = []
    with psycopg.connect(url, autocommit=True) as connection:
        connection.execute("SELECT pg_advisory_lock(%(key)s)", {"key": LOCK_KEY})
        connection.execute(
            "CREATE TABLE IF NOT EXISTS migration "
            "(name text PRIMARY KEY, applied_at timestamptz NOT NULL DEFAULT now())"
        )
        done = {name for (name,) in connection.execute("SELECT name FROM migration").fetchall()}
        refuse_newer(done)
        for script in scripts():
            if script.name in done:
                continue
            with connection.transaction():
                connection.execute(script.read_bytes())
                connection.execute("INSERT INTO migration (name) VALUES (%(name)s)", {"name": script.name})
            applied.append(script.name)
        if make_queue(connection):
            applied.append("the queue")
    return applied


def known_tables() -> list[str]:
    """Return the names of all tables that the migrations make, and of their own."""
    made = [re.findall(r"^CREATE TABLE (\w+)", script.read_text(), re.MULTILINE) for script in scripts()]
    return ["migration", *chain.from_iterable(made)]


def refuse_newer(names: Iterable[str]) -> None:
    """Refuse what has migrations that are unknown here.

    Raises:
        NewerDatabase: it has some; names them.
    """
    if unknown := set(names) - {script.name for script in scripts()}:
        raise NewerDatabase(
            f"The database was changed by a newer Leadsman ({', '.join(sorted(unknown))}). Start that one."
        )


def scripts() -> list[Traversable]:
    """Return the migration scripts in order of their numbers."""
    folder = files("leadsman.db") / "migrations"
    return sorted((entry for entry in folder.iterdir() if entry.name.endswith(".sql")), key=lambda entry: entry.name)
