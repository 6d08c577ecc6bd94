"""`./leadsman serve` as a product runs it, and the cluster that the project makes for itself."""

import json
import os
import shutil
import signal
import subprocess
import tempfile
import time
import urllib.request
from collections.abc import Iterator
from pathlib import Path

import psycopg
import pytest

from leadsman.db.migrate import migrate
from leadsman.launch import LaunchError
from leadsman.launch.cluster import LONGEST_SOCKET_FOLDER, Cluster, free_port
from leadsman.launch.front_end import WEB, digest
from leadsman.launch.server import require_free_port, stop_left_over

PROJECT = Path(__file__).parents[2]


def serve(port: int, **environment: str) -> subprocess.Popen[str]:
    return subprocess.Popen(
        [str(PROJECT / "leadsman"), "serve", "--port", str(port)],
        env={**os.environ, **environment},
        stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT,
        text=True,
        start_new_session=True,
    )


def test_it_serves_on_the_database_it_is_given_and_loads_no_demonstration(url: str) -> None:
    port = free_port(0)
    process = serve(port, DATABASE_URL=url)
    try:
        for _ in range(300):
            try:
                with urllib.request.urlopen(f"http://127.0.0.1:{port}/api/designs", timeout=5) as answer:
                    assert json.load(answer) == {"designs": [], "count": 0}
                break
            except OSError:  # not listening yet, or its workers still starting
                time.sleep(0.1)
        else:
            pytest.fail("no answer")
    finally:
        os.killpg(process.pid, signal.SIGTERM)
        process.communicate(timeout=30)


def test_without_a_database_address_it_says_what_to_set() -> None:
    process = serve(free_port(0))
    said, _ = process.communicate(timeout=60)
    assert process.returncode == 1
    assert "DATABASE_URL" in said


def test_without_its_database_it_says_so_in_one_sentence() -> None:
    process = serve(free_port(0), DATABASE_URL=f"postgresql://leadsman@127.0.0.1:{free_port(0)}/leadsman")
    said, _ = process.communicate(timeout=60)
    assert process.returncode == 1
    (sentence,) = [line for line in said.splitlines() if not line.startswith("·")]
    assert sentence.startswith("The database of DATABASE_URL does not answer: ")
    assert "Leadsman is at" not in said


def test_it_says_where_it_is_once_it_listens_and_logs_every_request(url: str) -> None:
    port = free_port(0)
    process = serve(port, DATABASE_URL=url)
    assert process.stdout is not None
    try:
        for line in process.stdout:
            if "Leadsman is at" in line:
                break
        with urllib.request.urlopen(f"http://127.0.0.1:{port}/api/health", timeout=30) as answer:
            number = answer.headers["X-Request-Id"]
            assert "Server" not in answer.headers
        assert any(f"{number} GET /api/health 200" in line for line in process.stdout)
    finally:
        os.killpg(process.pid, signal.SIGTERM)
        process.communicate(timeout=30)


@pytest.fixture
def folder() -> Iterator[Path]:
    made = Path(tempfile.mkdtemp(prefix="leadsman-cluster-"))
    made.chmod(0o755)
    yield made
    shutil.rmtree(made, ignore_errors=True)


def test_a_cluster_starts_twice_keeps_its_data_and_asks_for_its_password(folder: Path) -> None:
    data = folder / ("deep" * 20)  # longer than a socket's path may be
    assert len(str(data)) > LONGEST_SOCKET_FOLDER
    cluster = Cluster(data, free_port(0))
    try:
        cluster.start()
        with psycopg.connect(cluster.url, autocommit=True) as connection:
            connection.execute("CREATE TABLE kept AS SELECT 42 AS answer")
        cluster.start()  # running already: nothing happens
        cluster.stop()
        assert not cluster.is_running()
        cluster.start()
        with psycopg.connect(cluster.url) as connection:
            assert connection.execute("SELECT answer FROM kept").fetchone() == (42,)
        with pytest.raises(psycopg.OperationalError, match="password"):
            psycopg.connect(host="127.0.0.1", port=cluster.port, user="leadsman", password="wrong", dbname="leadsman")
    finally:
        cluster.stop()
        shutil.rmtree(cluster._socket_folder, ignore_errors=True)


@pytest.mark.skipif(os.geteuid() != 0, reason="a plain user's PostgreSQL goes wherever the user can")
def test_a_first_start_that_was_killed_leaves_nothing_in_the_way_and_the_application_is_no_superuser(
    folder: Path,
) -> None:
    cluster = Cluster(folder / "data", free_port(0))
    half = folder / "data.making"
    half.mkdir()
    (half / "PG_VERSION").write_text("half a cluster")
    (folder / "data.password").write_text("of the start that was killed")
    try:
        cluster.start()
        assert not half.exists()
        with psycopg.connect(cluster.url) as connection:
            told = connection.execute(
                "SELECT rolsuper OR rolcreaterole OR rolcreatedb FROM pg_roles WHERE rolname = current_user"
            )
            assert told.fetchone() == (False,)
            assert connection.execute("SHOW data_checksums").fetchone() == ("on",)
        assert migrate(cluster.url) != []  # it may do all that the product needs
        hba = [line.split() for line in (folder / "data" / "pg_hba.conf").read_text().splitlines()]
        assert {words[-1] for words in hba if words and not words[0].startswith("#")} == {"scram-sha-256"}
    finally:
        cluster.stop()


def test_what_stands_where_the_cluster_should_is_not_touched(folder: Path) -> None:
    data = folder / "data"
    data.mkdir(mode=0o700)
    (data / "letters.txt").write_text("dear")
    cluster = Cluster(data, free_port(0))
    shutil.chown(data, cluster._owner())
    with pytest.raises(LaunchError, match="no database of ours"):
        cluster.start()
    assert (data / "letters.txt").read_text() == "dear"


@pytest.mark.parametrize("mode", [0o755, 0o770])
def test_a_socket_folder_that_others_may_enter_is_not_used(folder: Path, mode: int) -> None:
    cluster = Cluster(folder / ("deep" * 20), free_port(0))
    sockets = cluster._socket_folder
    sockets.mkdir(mode=0o700)
    sockets.chmod(mode)
    try:
        with pytest.raises(LaunchError, match="alone"):
            cluster.start()
    finally:
        sockets.rmdir()


def test_a_folder_that_postgresql_cannot_enter_is_said(folder: Path) -> None:
    folder.chmod(0o700)
    with pytest.raises(LaunchError, match="LEADSMAN_STATE"):
        Cluster(folder / "data", free_port(0)).start()


def test_a_process_that_is_not_ours_is_left_alone(tmp_path: Path) -> None:
    with subprocess.Popen(["sleep", "60"], start_new_session=True) as stranger:
        pid_file = tmp_path / "server.pid"
        pid_file.write_text(str(stranger.pid))
        stop_left_over(pid_file)
        assert stranger.poll() is None
        assert not pid_file.exists()
        stranger.kill()


def test_a_free_port_is_taken_and_a_used_one_is_not() -> None:
    port = free_port(0)
    require_free_port("127.0.0.1", port)
    assert free_port(port) == port


def test_a_changed_source_asks_for_a_new_build(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("leadsman.launch.front_end.WEB", tmp_path)
    file = tmp_path / "page.tsx"
    file.write_text("one")
    before = digest([file])
    file.write_text("two")
    assert digest([file]) != before
    assert (WEB / "package-lock.json").is_file()
