"""What gunicorn reads beside its command line."""

import ctypes
import gc
import signal
from typing import Any

from leadsman.launch import step
from leadsman.settings import settings_from

ALLOCATIONS_BEFORE_COLLECTION = 50_000
PR_SET_PDEATHSIG = 1  # linux/prctl.h

ctypes.CDLL(None).prctl(PR_SET_PDEATHSIG, signal.SIGTERM)  # a launcher that is killed leaves no server behind


def when_ready(server: Any) -> None:
    """Say where it is, now that it listens; the demonstration says so itself, once it answers."""
    if settings_from().access_log:
        for listener in server.LISTENERS:
            host, port = listener.sock.getsockname()[:2]
            step(f"Leadsman is at http://{host}:{port}/")


def post_fork(_server: object, _worker: object) -> None:
    """Leave what was loaded before the fork out of collections, and collect seldom.

    An answer builds tens of thousands of small objects and drops them all: collections in between find nothing, and
    take a fifth of the time.
    """
    gc.collect()
    gc.freeze()
    gc.set_threshold(ALLOCATIONS_BEFORE_COLLECTION, 20, 20)
