"""`./leadsman backup` and `restore`: the whole database as one file, and back, each verified by comparison.

The file is a ZIP of PostgreSQL's own dump and a page that says what is in it. A backup counts only once it was restored
into a database made for that, and every table there is equal.
"""

import json
import os
import shutil
import subprocess
import sys
import tempfile
import zipfile
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import asdict
from datetime import UTC, datetime
from pathlib import Path

import psycopg
from psycopg.conninfo import conninfo_to_dict

from leadsman.db.migrate import NewerDatabase, known_tables, migrate, refuse_newer
from leadsman.db.sums import TableSum, table_names, table_sums
from leadsman.launch import LaunchError, step
from leadsman.launch.cluster import Cluster, free_port
from leadsman.launch.debian import POSTGRES, postgres_folder, require
from leadsman.launch.process import bare_environment
from leadsman.settings import settings_from

FORMAT, VERSION = "leadsman-backup", 1
LISTED_IN, DUMP = "backup.json", "database.dump"
VARIABLES = {"dbname": "PGDATABASE", "application_name": "PGAPPNAME"}


def run_backup(file: Path) -> int:
    """Write a backup, verified, or nothing; return the exit code."""
    part = file.with_name(file.name + ".part")
    try:
        require((POSTGRES,))
        if file.exists():
            raise LaunchError(f"{file} is there already. Choose another name.")
        with kept_database() as url, tempfile.TemporaryDirectory(prefix="leadsman-backup-") as folder:
            dump = Path(folder) / DUMP
            step("reading the database")
            sums, migrations = _dump(url, dump)
            step("restoring it into a database made for that, to compare")
            with scratch_database() as scratch:
                _load(scratch, dump)
                _require_equal(sums, _sums(scratch), "The backup")
            _pack(part, dump, sums, migrations)
            part.rename(file)
    except (LaunchError, NewerDatabase, psycopg.Error, OSError) as error:
        part.unlink(missing_ok=True)
        print(f"No backup was written. {error}", file=sys.stderr)
        return 1
    rows = sum(one.rows for one in sums)
    print(f"{file}: {rows:,} rows in {len(sums)} tables, {file.stat().st_size:,} bytes, compared and equal")
    return 0


def run_restore(file: Path, replace: bool) -> int:
    """Put a backup in the place of what is in the database, whole or not at all; return the exit code."""
    try:
        require((POSTGRES,))
        with tempfile.TemporaryDirectory(prefix="leadsman-restore-") as folder:
            sums, migrations = _unpack(file, Path(folder))
            refuse_newer(migrations)
            with kept_database(make=True) as url:
                if (plans := _plans(url)) and not replace:
                    raise LaunchError(
                        f"The database holds {plans} plans. Back them up first; then add --replace to put "
                        f"the backup in their place."
                    )
                _load(url, Path(folder) / DUMP)
                _require_equal(sums, _sums(url), "What was restored")
                for name in migrate(url):
                    step(f"migrated {name}")
    except (LaunchError, NewerDatabase, psycopg.Error, OSError) as error:
        print(error, file=sys.stderr)
        return 1
    print(f"{file}: {sum(one.rows for one in sums):,} rows in {len(sums)} tables restored, compared and equal")
    return 0


@contextmanager
def kept_database(make: bool = False) -> Iterator[str]:
    """Yield the address of the database in use: DATABASE_URL's, or the project's own, started for the time.

    Args:
        make: whether the project's own is made where there is none.

    Raises:
        LaunchError: there is none, or it does not start.
    """
    settings = settings_from()
    if settings.database_url:
        yield settings.database_url
        return
    data = settings.state_folder / "data"
    if not make and not (data / "PG_VERSION").exists():
        raise LaunchError(f"DATABASE_URL is not set, and {settings.state_folder} holds no database.")
    port = Cluster(data, 0).running_port()
    cluster = Cluster(data, port or free_port(0))
    if port is None:
        cluster.start()
    try:
        yield cluster.url
    finally:
        if port is None:
            cluster.stop()


@contextmanager
def scratch_database() -> Iterator[str]:
    """Yield the address of an empty database that is gone afterwards."""
    folder = Path(tempfile.mkdtemp(prefix="leadsman-scratch-"))
    folder.chmod(0o755)  # PostgreSQL's user has to reach what is in it, and that is closed to others
    cluster = Cluster(folder / "data", free_port(0))
    try:
        cluster.start()
        yield cluster.url
    finally:
        cluster.stop()
        shutil.rmtree(folder, ignore_errors=True)


def _dump(url: str, dump: Path) -> tuple[list[TableSum], list[str]]:
    """Write PostgreSQL's dump of one moment; return the sums of its tables and the names of its migrations."""
    with psycopg.connect(url) as connection:
        connection.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ, READ ONLY")
        row = connection.execute("SELECT pg_export_snapshot()").fetchone()
        assert row is not None, "a function gives a row"
        if "design" not in table_names(connection):
            raise LaunchError("The database holds nothing of Leadsman's.")
        sums = table_sums(connection)
        migrations = [name for (name,) in connection.execute("SELECT name FROM migration ORDER BY name").fetchall()]
        options = ["--format=custom", "--no-owner", "--no-privileges", "--table=public.*", f"--snapshot={row[0]}"]
        _tool(url, "pg_dump", *options, "--file", str(dump))
    return sums, migrations


def _load(url: str, dump: Path) -> None:
    """Put a dump in the place of Leadsman's tables, in one transaction: where that fails, all is as it was."""
    with psycopg.connect(url) as connection:
        if others := set(table_names(connection)) - set(known_tables()):
            raise LaunchError(f"The database holds tables that are not Leadsman's: {', '.join(sorted(others))}.")
    script = dump.with_suffix(".sql")
    _tool(url, "pg_restore", "--no-owner", "--no-privileges", "--exit-on-error", "--file", str(script), str(dump))
    drop = f"DROP TABLE IF EXISTS {', '.join(known_tables())} CASCADE"
    _tool(url, "psql", "-X", "-q", "-1", "-v", "ON_ERROR_STOP=1", "-o", os.devnull, "-c", drop, "-f", str(script))


def _pack(file: Path, dump: Path, sums: list[TableSum], migrations: list[str]) -> None:
    listed = {
        "format": FORMAT,
        "version": VERSION,
        "made_at": datetime.now(UTC).isoformat(),
        "migrations": migrations,
        "tables": [asdict(one) for one in sums],
    }
    file.touch(mode=0o600, exist_ok=False)
    with file.open("wb") as written:
        with zipfile.ZipFile(written, "w", zipfile.ZIP_STORED) as packed:  # the dump is compressed
            packed.writestr(LISTED_IN, json.dumps(listed, indent=2))
            packed.write(dump, DUMP)
        written.flush()
        os.fsync(written.fileno())


def _unpack(file: Path, folder: Path) -> tuple[list[TableSum], list[str]]:
    try:
        with zipfile.ZipFile(file) as packed:
            listed = json.loads(packed.read(LISTED_IN))
            if (listed["format"], listed["version"]) != (FORMAT, VERSION):
                raise ValueError("another format or version")
            sums = [TableSum(**one) for one in listed["tables"]]
            with packed.open(DUMP) as dump, (folder / DUMP).open("wb") as written:
                shutil.copyfileobj(dump, written)
            return sums, [str(name) for name in listed["migrations"]]
    except (zipfile.BadZipFile, KeyError, TypeError, ValueError, EOFError) as error:
        raise LaunchError(f"{file} is no backup of Leadsman's, or damaged ({error}). Nothing was changed.") from None


def _plans(url: str) -> int:
    with psycopg.connect(url) as connection:
        if "design" not in table_names(connection):
            return 0
        row = connection.execute("SELECT count(*) FROM design").fetchone()
        return int(row[0]) if row else 0


def _sums(url: str) -> list[TableSum]:
    with psycopg.connect(url) as connection:
        return table_sums(connection)


def _require_equal(wanted: list[TableSum], found: list[TableSum], what: str) -> None:
    differ = {one.name for one in {*wanted} ^ {*found}}
    if differ:
        raise LaunchError(f"{what} differs from what was read, in: {', '.join(sorted(differ))}.")


def _tool(url: str, program: str, *words: str) -> None:
    """Run one of PostgreSQL's programs on a database; its password is in the environment, not among the words."""
    folder = postgres_folder()
    assert folder is not None, "required before"
    known = {VARIABLES.get(key, f"PG{key.upper()}"): str(value) for key, value in conninfo_to_dict(url).items()}
    environment = bare_environment(known)
    done = subprocess.run([str(folder / program), *words], env=environment, capture_output=True, text=True, check=False)
    if done.returncode != 0:
        raise LaunchError(f"{program} failed: {done.stderr.strip()[-1000:]}")
