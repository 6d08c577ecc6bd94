"""A simulated height service: the hill of the demonstration over HTTP, with delay and ways of failing.

`POST /heights {"points": [[longitude, latitude], …]}` answers `{"heights_m": [… or null], "error_m", …}`;
`PUT /mode {"mode", "delay_s"}` makes it fail in a way; `GET /health` says that it is up.
"""

import time
from dataclasses import dataclass
from typing import Any, Literal, get_args

import numpy as np
from flask import Flask, Response, jsonify, request

from leadsman.standins.hill import ERROR_M, heights_m

Mode = Literal["fine", "down", "refusing", "garbled", "gaps", "too few", "times"]
MOST_POINTS = 2_000
DELAY_S = 0.1


@dataclass
class Behaviour:
    """How the service answers just now: mode, and delay before every answer [s]."""

    mode: Mode = "fine"
    delay_s: float = DELAY_S


def create_service(behaviour: Behaviour | None = None) -> Flask:
    """Return the service as a WSGI application."""
    service, now = Flask(__name__, static_folder=None), behaviour or Behaviour()

    @service.get("/health")
    def health() -> Response:
        return jsonify(status="up")

    @service.put("/mode")
    def mode() -> Response | tuple[Response, int]:
        asked = request.get_json(force=True)
        if asked.get("mode", now.mode) not in get_args(Mode):
            return jsonify(error=f"mode is one of {', '.join(get_args(Mode))}"), 400
        now.mode, now.delay_s = asked.get("mode", now.mode), float(asked.get("delay_s", now.delay_s))
        return jsonify(mode=now.mode, delay_s=now.delay_s)

    @service.post("/heights")
    def heights() -> Response | tuple[Response, int]:
        time.sleep(now.delay_s)
        points = np.array(request.get_json()["points"], dtype=float).reshape(-1, 2)
        if now.mode == "down":
            return jsonify(error="out of order"), 503
        if now.mode == "refusing" or len(points) > MOST_POINTS:
            return jsonify(error="too many questions today"), 429
        if now.mode == "garbled":
            return Response('{"heights_m": [264.1, 26', mimetype="application/json")
        return jsonify(_answer(points, now.mode))

    return service


def _answer(points: np.ndarray, mode: Mode) -> dict[str, Any]:
    found = [None if np.isnan(height) else round(float(height), 2) for height in heights_m(points)]
    if mode == "gaps":
        found[len(found) // 2] = None
    elif mode == "too few":
        found = found[:-1]
    elif mode == "times":
        found = [1_764_000_000.0] * len(found)
    return {"heights_m": found, "error_m": ERROR_M, "datum": "of its own", "source": "Stand-in height service, made up"}
