"""What gunicorn reads beside its command line."""

import gc
import threading
from typing import Any

from leadsman.api import app
from leadsman.formats.guarded import make_ready
from leadsman.launch import step
from leadsman.launch.process import end_with_parent
from leadsman.settings import settings_from

READER_AFTER_S = 10.0
ALLOCATIONS_BEFORE_COLLECTION = 50_000

end_with_parent()  # a launcher that is killed leaves no server behind


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


def post_worker_init(worker: Any) -> None:
    """Have the reader of files ready soon after the application's first answers, as the user that serves."""
    if worker.wsgi.import_name == app.__name__:
        later = threading.Timer(READER_AFTER_S, make_ready)
        later.daemon = True
        later.start()
