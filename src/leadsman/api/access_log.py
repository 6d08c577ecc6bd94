"""A line of the log for every request, with a number that its answer carries too."""

import logging
import secrets
import sys
import time

from flask import Flask, Response, g, request

ACCESS = logging.getLogger("leadsman.access")


def log_access(app: Flask, told: bool) -> None:
    """Number every request, and write it to standard error once it is answered, where that is told."""
    if told and not ACCESS.handlers:
        handler = logging.StreamHandler(sys.stderr)
        handler.setFormatter(logging.Formatter("%(asctime)s %(message)s"))
        ACCESS.addHandler(handler)
        ACCESS.setLevel(logging.INFO)
        ACCESS.propagate = False

    @app.before_request
    def number() -> None:
        g.request_id = secrets.token_hex(6)

    @app.after_request
    def written(response: Response) -> Response:
        response.headers["X-Request-Id"] = g.get("request_id", "")
        if told:
            took_ms = 1e3 * (time.monotonic() - g.get("begun_s", time.monotonic()))
            path = request.path.encode("unicode_escape").decode()
            ACCESS.info("%s %s %s %s %.0f ms", g.get("request_id"), request.method, path, response.status_code, took_ms)
        return response
