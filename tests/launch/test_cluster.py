"""The project's own PostgreSQL cluster after a kill, as a slow machine leaves it."""

import ctypes
import os
import shutil
import signal
import tempfile
import threading
import time
from collections.abc import Iterator
from pathlib import Path

import pytest

from leadsman.launch.cluster import Cluster, free_port
from leadsman.launch.process import is_ending

PR_SET_CHILD_SUBREAPER = 36  # linux/prctl.h


@pytest.fixture
def cluster() -> Iterator[Cluster]:
    """A running cluster of its own; while it is there, what loses its parent becomes a child of the tests."""
    folder = Path(tempfile.mkdtemp(prefix="leadsman-cluster-"))
    folder.chmod(0o755)
    ctypes.CDLL(None).prctl(PR_SET_CHILD_SUBREAPER, 1)
    cluster = Cluster(folder / "data", free_port(0))
    try:
        cluster.start()
        yield cluster
    finally:
        cluster.stop()
        ctypes.CDLL(None).prctl(PR_SET_CHILD_SUBREAPER, 0)
        shutil.rmtree(folder, ignore_errors=True)


def test_a_killed_server_that_nobody_has_reaped_yet_holds_up_the_next_start_only_so_long(cluster: Cluster) -> None:
    killed = cluster.process_id()
    assert killed is not None
    os.kill(killed, signal.SIGKILL)
    while not is_ending(killed):
        time.sleep(0.01)
    assert not cluster.is_running()
    reaper = threading.Timer(1.5, os.waitpid, (killed, 0))
    reaper.start()
    cluster.start()
    reaper.join()
    assert cluster.process_id() not in (None, killed)
    assert not is_ending(killed)
