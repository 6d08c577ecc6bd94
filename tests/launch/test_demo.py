"""`./leadsman demo` as a person runs it: starting, stopping, being killed, and what is left behind."""

import contextlib
import json
import os
import re
import shutil
import signal
import socket
import subprocess
import tempfile
import time
import urllib.error
import urllib.request
from collections.abc import Iterator
from pathlib import Path
from typing import Any
from uuid import uuid4

import pytest

from examples import one_line
from leadsman.launch import LaunchError
from leadsman.launch.cluster import Cluster, free_port
from leadsman.launch.debian import Program, require
from leadsman.launch.process import is_alive

PROJECT = Path(__file__).parents[2]
START_WAIT_S = 120


class Demo:
    """A running demo, with its output."""

    def __init__(self, state: Path, port: int) -> None:
        self.log = state / f"demo-{time.monotonic_ns()}.log"
        self.port = port
        self.state = state
        environment = {**os.environ, "LEADSMAN_STATE": str(state)}
        command = [str(PROJECT / "leadsman"), "demo", "--port", str(port)]
        with self.log.open("w") as log:
            self.process = subprocess.Popen(
                command, env=environment, stdout=log, stderr=subprocess.STDOUT, start_new_session=True
            )

    def await_address(self) -> "Demo":
        for _ in range(START_WAIT_S * 10):
            if "Leadsman is at" in self.log.read_text() or self.process.poll() is not None:
                break
            time.sleep(0.1)
        assert f"http://127.0.0.1:{self.port}/" in self.log.read_text(), self.log.read_text()
        return self

    def ask(self, path: str, body: Any = None, method: str = "GET") -> Any:
        data = None if body is None else json.dumps(body).encode()
        request = urllib.request.Request(
            f"http://127.0.0.1:{self.port}{path}", data, {"Content-Type": "application/json"}, method=method
        )
        with urllib.request.urlopen(request, timeout=30) as answer:
            return json.load(answer)

    def server_id(self) -> int:
        return int((self.state / "server.pid").read_text())

    def end(self, number: int = signal.SIGINT) -> int:
        self.process.send_signal(number)
        return self.process.wait(timeout=60)


@pytest.fixture
def state() -> Iterator[Path]:
    """A folder for the demo's data that PostgreSQL's user can enter; all that ran from it is ended."""
    folder = Path(tempfile.mkdtemp(prefix="leadsman-demo-"))
    folder.chmod(0o755)
    yield folder
    with_pid = folder / "server.pid"
    if with_pid.exists():
        kill_group(int(with_pid.read_text()))
    Cluster(folder / "data", 0).stop()
    shutil.rmtree(folder, ignore_errors=True)


def kill_group(process_id: int) -> None:
    try:
        os.killpg(process_id, signal.SIGKILL)
    except ProcessLookupError:
        return


def listening(port: int) -> bool:
    with socket.socket() as probe:
        probe.settimeout(1)
        return probe.connect_ex(("127.0.0.1", port)) == 0


def test_it_starts_serves_keeps_its_data_and_stops_cleanly(state: Path) -> None:
    port = free_port(0)
    demo = Demo(state, port).await_address()
    listed = demo.ask("/api/designs")["designs"]
    assert [(one["site_name"], one["made_up"]) for one in listed] == [("Tamsel Ridge", True)] * 2
    with urllib.request.urlopen(f"http://127.0.0.1:{port}/designs/x/lines", timeout=30) as page:
        assert b"<title>Leadsman</title>" in page.read()
    second = Demo(state, free_port(0))
    assert second.process.wait(timeout=60) == 1
    assert re.search(rf"runs already, at http://127.0.0.1:{port}/", second.log.read_text())
    address = f"/api/designs/{listed[0]['id']}"
    database = Cluster(state / "data", 0).process_id()
    assert database is not None
    os.kill(database, signal.SIGKILL)  # the demo starts it again by itself
    for _ in range(300):
        if Cluster(state / "data", 0).process_id() not in (None, database):
            with contextlib.suppress(urllib.error.HTTPError):  # 503 until the database answers
                assert demo.ask("/api/health")["database"]
                break
        time.sleep(0.1)
    os.kill(demo.server_id(), signal.SIGKILL)  # and so it does the web server
    save = {"base_number": 1, "document": one_line(), "save_id": str(uuid4())}
    for _ in range(300):
        with contextlib.suppress(OSError):  # a save whose answer is lost is sent again
            assert demo.ask(address, save, "PUT") == {"number": 2}
            break
        time.sleep(0.1)
    else:
        pytest.fail("the web server did not come back")
    for _ in range(300):
        if is_alive(demo.server_id()):
            break
        time.sleep(0.1)
    database = Cluster(state / "data", 0).process_id()
    server = demo.server_id()
    assert demo.end() == 0
    assert not listening(port)
    for process_id in (database, server):
        assert not is_alive(process_id)

    again = Demo(state, port).await_address()
    assert not re.search("installing|building|making|migrated|loaded", again.log.read_text())  # nothing to do twice
    assert [design["number"] for design in again.ask("/api/designs")["designs"]] == [2, 1]
    assert again.end(signal.SIGTERM) == 0


def test_no_acknowledged_save_is_lost_when_everything_is_killed_between_saves(state: Path) -> None:
    port = free_port(0)
    number = 1
    for victims in ("server", "all"):  # of the database alone, see above
        demo = Demo(state, port).await_address()
        design = demo.ask("/api/designs")["designs"][0]
        assert design["number"] == number
        assert design["name"] == (f"Save {number}" if number > 1 else design["name"])
        for _ in range(5):
            body = {"base_number": number, "document": one_line(name=f"Save {number + 1}")}
            number = demo.ask(f"/api/designs/{design['id']}", body, "PUT")["number"]
        if victims in ("server", "all"):
            kill_group(demo.server_id())
        if victims in ("database", "all"):
            database = Cluster(state / "data", 0).process_id()
            assert database is not None
            os.kill(database, signal.SIGKILL)
        demo.process.kill()
        demo.process.wait()
    last = Demo(state, port).await_address()
    design = last.ask("/api/designs")["designs"][0]
    assert (design["number"], design["name"]) == (11, "Save 11")
    assert last.end() == 0


def test_a_port_in_use_is_said_with_what_to_do(state: Path) -> None:
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = taken.getsockname()[1]
        demo = Demo(state, port)
        assert demo.process.wait(timeout=60) == 1
    said = demo.log.read_text()
    assert f"Port {port}" in said
    assert f"--port {port + 1}" in said


def test_what_cannot_be_installed_is_named_in_one_command(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(os, "geteuid", lambda: 1000)
    wanted = [Program("no-such-program", ("some-package",)), Program("sh", ("dash",)), Program("nor-this", ("other",))]
    with pytest.raises(LaunchError, match=r"apt-get install -y --no-install-recommends some-package other$"):
        require(wanted)
