"""The whole database written to a file and put back, on real clusters: equal, whole or not at all."""

import json
import shutil
import tempfile
import zipfile
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import psycopg
import pytest
from flask.testing import FlaskClient

from examples import one_line
from leadsman.cli import main
from leadsman.db.migrate import migrate
from leadsman.launch import backup
from leadsman.launch.cluster import Cluster, free_port
from leadsman.settings import DATABASE_URL, LEADSMAN_STATE

TABLES = ("answered_save", "design", "height_model", "migration", "own_product", "picture", "revision")


def whole(url: str) -> dict[str, list[Any]]:
    with psycopg.connect(url) as connection:
        return {name: connection.execute(f"SELECT * FROM {name} ORDER BY 1, 2").fetchall() for name in TABLES}


@pytest.fixture
def kept(client: FlaskClient, demo_id: str, url: str, monkeypatch: pytest.MonkeyPatch) -> str:
    """The address of a database with plans, saves and a picture in it."""
    made = client.post("/api/designs", json={"document": one_line()}).get_json()
    save = {"base_number": 1, "document": one_line(name="Second – größer"), "save_id": made["design_id"]}
    client.put(f"/api/designs/{made['design_id']}", json=save)
    with psycopg.connect(url) as connection:
        connection.execute(
            "INSERT INTO picture (design_id, mime, data, pins) VALUES (%s, 'image/png', %s, '[]')",
            (demo_id, bytes(range(256)) * 40),
        )
    monkeypatch.setenv(DATABASE_URL, url)
    return url


def edit(url: str) -> None:
    with psycopg.connect(url) as connection:
        connection.execute("UPDATE revision SET label = 'another' WHERE number = 1")
        connection.execute("DELETE FROM picture")


def quick(url: str, file: Path) -> None:
    """A backup that is not compared: that takes a database of its own."""
    dump = file.with_suffix(".dump")
    backup._pack(file, dump, *backup._dump(url, dump))


def rewritten(file: Path, change: Callable[[dict[str, bytes]], object]) -> None:
    with zipfile.ZipFile(file) as packed:
        files = {name: packed.read(name) for name in packed.namelist()}
    change(files)
    with zipfile.ZipFile(file, "w") as packed:
        for name, content in files.items():
            packed.writestr(name, content)


def listing(**changes: Any) -> Callable[[dict[str, bytes]], object]:
    return lambda files: files.update(
        {"backup.json": json.dumps({**json.loads(files["backup.json"]), **changes}).encode()}
    )


def test_what_was_backed_up_comes_back_row_by_row_whatever_was_done_since(
    kept: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    file, before = tmp_path / "all.backup", whole(kept)
    assert main(["backup", str(file)]) == 0
    assert "compared and equal" in capsys.readouterr().out
    assert file.stat().st_mode & 0o077 == 0
    assert main(["backup", str(file)]) == 1  # never over another
    edit(kept)
    after = whole(kept)
    assert main(["restore", str(file)]) == 1
    assert "holds 3 plans" in capsys.readouterr().err
    assert whole(kept) == after
    assert main(["restore", str(file), "--replace"]) == 0
    assert whole(kept) == before
    assert migrate(kept) == []


@pytest.mark.parametrize(
    ("change", "said"),
    [
        (lambda files: files.pop("backup.json"), "no backup"),
        (listing(version=2), "no backup"),
        (listing(migrations=["9999_later.sql"]), "newer Leadsman"),
        (lambda files: files.update({"database.dump": b"PGDMP but not really"}), "pg_restore failed"),
        (lambda files: files.update({"database.dump": files["database.dump"][:-3000]}), "failed"),
    ],
)
def test_a_backup_that_is_damaged_changes_nothing(
    kept: str, tmp_path: Path, capsys: pytest.CaptureFixture[str], change: Callable[[Any], object], said: str
) -> None:
    file, before = tmp_path / "all.backup", whole(kept)
    quick(kept, file)
    rewritten(file, change)
    assert main(["restore", str(file), "--replace"]) == 1
    assert said in capsys.readouterr().err
    assert whole(kept) == before


def test_a_backup_that_does_not_compare_is_not_written(
    kept: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    assert kept
    load = backup._load

    def losing(url: str, dump: Path) -> None:
        load(url, dump)
        edit(url)

    monkeypatch.setattr(backup, "_load", losing)
    file = tmp_path / "all.backup"
    assert main(["backup", str(file)]) == 1
    assert "differs from what was read, in: picture, revision" in capsys.readouterr().err
    assert list(tmp_path.iterdir()) == []


def test_a_database_with_tables_of_others_is_left_alone(
    kept: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    file = tmp_path / "all.backup"
    quick(kept, file)
    with psycopg.connect(kept) as connection:
        connection.execute("CREATE TABLE letters AS SELECT 'dear' AS begins")
    try:
        assert main(["restore", str(file), "--replace"]) == 1
        assert "letters" in capsys.readouterr().err
    finally:
        with psycopg.connect(kept) as connection:
            connection.execute("DROP TABLE letters")


@pytest.fixture
def state() -> Iterator[Path]:
    folder = Path(tempfile.mkdtemp(prefix="leadsman-state-"))
    folder.chmod(0o755)
    yield folder
    Cluster(folder / "data", 0).stop()
    shutil.rmtree(folder)


def test_a_backup_goes_into_the_own_database_of_another_machine_and_out_of_it_again(
    kept: str, tmp_path: Path, state: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    file, before = tmp_path / "all.backup", whole(kept)
    quick(kept, file)
    monkeypatch.delenv(DATABASE_URL)
    monkeypatch.setenv(LEADSMAN_STATE, str(state))
    assert main(["backup", str(tmp_path / "none")]) == 1
    assert "holds no database" in capsys.readouterr().err
    assert main(["restore", str(file)]) == 0
    cluster = Cluster(state / "data", free_port(0))
    assert not cluster.is_running()  # started for the time only
    cluster.start()
    assert whole(cluster.url) == before
    assert main(["backup", str(tmp_path / "again")]) == 0
    assert cluster.is_running()  # as it was found
