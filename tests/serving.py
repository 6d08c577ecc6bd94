"""A WSGI application on a port of its own while a test runs."""

import threading
from collections.abc import Iterator
from contextlib import contextmanager

from flask import Flask
from werkzeug.serving import make_server


@contextmanager
def serving(application: Flask) -> Iterator[str]:
    """Yield the address at which the application answers."""
    server = make_server("127.0.0.1", 0, application, threaded=True)
    thread = threading.Thread(target=server.serve_forever)
    thread.start()
    try:
        yield f"http://127.0.0.1:{server.port}/"
    finally:
        server.shutdown()
        thread.join()
        server.server_close()
