"""`./leadsman serve` as a product runs it, and the cluster that the project makes for itself."""

import itertools
import json
import os
import pwd
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
from leadsman.launch.cluster import Cluster, free_port
from leadsman.launch.front_end import WEB, digest
from leadsman.launch.keeping import Kept
from leadsman.launch.process import is_alive
from leadsman.launch.server import SERVING_USER, require_free_port, serving_user, stop_left_over, web_server

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


def test_a_web_server_that_is_killed_is_back_soon_and_goes_when_its_launcher_is_killed(url: str) -> None:
    port = free_port(0)
    process = serve(port, DATABASE_URL=url)
    assert process.stdout is not None

    def said(text: str) -> None:
        for line in process.stdout or ():
            if text in line:
                return
        pytest.fail(f"never said: {text}")

    def servers() -> list[int]:
        told = subprocess.run(["pgrep", "-f", f"gunicorn.*:{port} "], capture_output=True, text=True, check=False)
        return [int(one) for one in told.stdout.split() if is_alive(int(one))]

    def master() -> int:
        """The server that is no child of another; numbers of processes begin anew after the last."""
        running = servers()
        parents = {pid: int(Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[1]) for pid in running}
        return next(pid for pid, parent in parents.items() if parent not in running)

    try:
        said("Leadsman is at")
        said("GET /api/health 200")  # its launcher has its first answer
        time.sleep(1.0)
        os.kill(master(), signal.SIGKILL)
        said("the web server ended by itself; starting it again")
        said("Leadsman is at")
        with urllib.request.urlopen(f"http://127.0.0.1:{port}/api/health", timeout=30) as answer:
            assert answer.status == 200
        process.kill()  # the launcher: the shell's command has become it
        for _ in range(150):
            if not servers():
                break
            time.sleep(0.1)
        assert servers() == []
    finally:
        process.kill()
        process.communicate(timeout=30)


def test_started_as_root_what_serves_is_another_user(url: str) -> None:
    if serving_user() is None:
        pytest.skip("not root, or this Python lives where only root can go")
    server = web_server("127.0.0.1", free_port(0), url, workers=1)
    try:
        server.await_answer()
        with psycopg.connect(url) as connection:
            mine = connection.execute("SELECT pid FROM pg_stat_activity WHERE application_name = 'leadsman'").fetchall()
        assert mine
        children = subprocess.run(
            ["pgrep", "-P", str(server._process.pid)], capture_output=True, text=True, check=True
        ).stdout.split()
        assert children
        for child in children:
            assert Path(f"/proc/{child}").stat().st_uid == pwd.getpwnam(SERVING_USER).pw_uid
            status = Path(f"/proc/{child}/status").read_text()
            assert "CapEff:\t0000000000000000" in status
    finally:
        server.stop()


class Failing:
    """Something that ends as soon as it is started, until it is well."""

    name = "the failing one"

    def __init__(self) -> None:
        self.well, self.started_s, self.now_s = False, list[float](), 0.0

    def is_running(self) -> bool:
        return self.well

    def start(self) -> None:
        self.started_s.append(self.now_s)
        raise LaunchError("not yet")


def test_what_keeps_ending_is_started_later_each_time_and_at_once_after_calm_times() -> None:
    failing = Failing()
    kept = Kept(failing, lambda: failing.now_s)

    def until(end_s: float) -> None:
        while failing.now_s < end_s:
            kept.look()
            failing.now_s += 0.5

    until(400.0)
    pauses = [after - before for before, after in itertools.pairwise(failing.started_s)]
    assert pauses[:6] == pytest.approx([2.0, 4.0, 8.0, 16.0, 32.0, 60.0], abs=1.01)
    assert max(pauses) <= 61.0
    failing.well = True
    until(800.0)
    failing.well, before = False, len(failing.started_s)
    until(800.5)
    assert failing.started_s[before:] == [800.0]


@pytest.fixture
def folder() -> Iterator[Path]:
    made = Path(tempfile.mkdtemp(prefix="leadsman-cluster-"))
    made.chmod(0o755)
    yield made
    shutil.rmtree(made, ignore_errors=True)


def test_a_cluster_starts_twice_keeps_its_data_and_asks_for_its_password(folder: Path) -> None:
    data = folder / ("deep" * 30)  # longer than a socket's path may be
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


def test_the_database_listens_on_loopback_alone_and_on_no_file(folder: Path) -> None:
    cluster = Cluster(folder / "data", free_port(0))
    try:
        cluster.start()
        *_, folder_of_sockets, address = (cluster.data / "postmaster.pid").read_text().splitlines()[:6]
        assert (folder_of_sockets, address) == ("", "127.0.0.1")
        assert (cluster.data.stat().st_mode & 0o077) == 0
        assert cluster.running_port() == cluster.port
    finally:
        cluster.stop()
    assert cluster.running_port() is None


def test_a_start_that_fails_leaves_no_server_running(folder: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    cluster = Cluster(folder / "data", free_port(0))
    run = Cluster._run

    def failing(self: Cluster, program: str, *words: str, tool: bool = True) -> subprocess.CompletedProcess[str]:
        if program == "psql":
            assert cluster.is_running()
            return subprocess.CompletedProcess(words, 2, "", "no answer")
        return run(self, program, *words, tool=tool)

    monkeypatch.setattr(Cluster, "_run", failing)
    with pytest.raises(LaunchError, match="no answer"):
        cluster.start()
    assert not cluster.is_running()


def test_a_process_that_took_the_number_of_a_server_that_was_killed_is_none(folder: Path) -> None:
    cluster = Cluster(folder, 1)
    with subprocess.Popen(["sleep", "60"], cwd="/") as stranger:
        (folder / "postmaster.pid").write_text(f"{stranger.pid}\n{folder}\n0\n5432\n")
        assert (cluster.process_id(), cluster.is_running()) == (None, False)
        cluster.stop()
        assert stranger.poll() is None
        stranger.kill()
    with subprocess.Popen(["sleep", "60"], cwd=folder) as ours:
        (folder / "postmaster.pid").write_text(f"{ours.pid}\n")
        assert cluster.process_id() == ours.pid
        ours.kill()


def test_the_programs_are_those_of_the_version_that_made_the_cluster(
    folder: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    for version in ("13", "15", "9"):
        (folder / "lib" / version / "bin").mkdir(parents=True)
        (folder / "lib" / version / "bin" / "initdb").touch()
    monkeypatch.setattr("leadsman.launch.debian.POSTGRES_HOME", folder / "lib")
    cluster = Cluster(folder / "data", 1)
    assert cluster._programs() == folder / "lib" / "15" / "bin"
    cluster.data.mkdir()
    (cluster.data / "PG_VERSION").write_text("13\n")
    assert cluster._programs() == folder / "lib" / "13" / "bin"
    (cluster.data / "PG_VERSION").write_text("14\n")
    with pytest.raises(LaunchError, match=r"apt-get install postgresql-14"):
        cluster._programs()


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
