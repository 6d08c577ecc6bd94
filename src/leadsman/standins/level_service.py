"""A simulated level sensor: tank levels every ten minutes over HTTP, with faults of the water and of itself.

`GET /levels?vessel=…&days=3&full_m=2&area_m2=4&comes_lph=200&drawn_lpd=3000` answers
`{"readings": [[time, level_m], …], "source"}`; `PUT /mode {"mode"}` plants a fault; `GET /health` says that it is up.
The same question at the same time has the same answer: the noise is seeded by the tank's name.
"""

import random
import zlib
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Literal, get_args

from flask import Flask, Response, jsonify, request

Mode = Literal[
    "fine", "silent", "stuck", "jumping", "wrong clock", "passing", "fading", "pump stays on", "down", "garbled"
]
EVERY_MIN = 10
NOISE_M = 0.002
MOST_DAYS = 30
PASSES_LPH = 60.0  # of a valve that passes, from the last midnight but one
DAY_HOURS = (5, 20)  # in which animals drink


@dataclass
class Behaviour:
    """How the sensor is just now."""

    mode: Mode = "fine"


def create_service(behaviour: Behaviour | None = None) -> Flask:
    """Return the service as a WSGI application."""
    service, now = Flask(__name__, static_folder=None), behaviour or Behaviour()

    @service.get("/health")
    def health() -> Response:
        return jsonify(status="up")

    @service.put("/mode")
    def mode() -> Response | tuple[Response, int]:
        asked = request.get_json(force=True)
        if asked.get("mode") not in get_args(Mode):
            return jsonify(error=f"mode is one of {', '.join(get_args(Mode))}"), 400
        now.mode = asked["mode"]
        return jsonify(mode=now.mode)

    @service.get("/levels")
    def levels() -> Response | tuple[Response, int]:
        if now.mode == "down":
            return jsonify(error="out of order"), 503
        if now.mode == "garbled":
            return Response('{"readings": [["2031-', mimetype="application/json")
        told = request.args
        figures = {key: float(told.get(key, default)) for key, default in DEFAULTS.items()}
        days = min(MOST_DAYS, max(1.0, figures["days"]))
        until = datetime.fromisoformat(told["until"]) if "until" in told else datetime.now(UTC)
        series = simulated(told.get("vessel", "tank"), now.mode, until, days, figures)
        return jsonify(readings=[[when.isoformat(), level] for when, level in series], source="simulated sensor")

    return service


DEFAULTS = {"days": 3.0, "full_m": 2.0, "area_m2": 4.0, "comes_lph": 0.0, "drawn_lpd": 0.0, "start_m": 1.0}


def simulated(
    vessel: str, mode: Mode, until: datetime, days: float, figures: dict[str, float]
) -> list[tuple[datetime, float]]:
    """Return a series of levels [m] up to a time: what comes in all day, less what is drunk by day, with one fault."""
    noise = random.Random(zlib.crc32(vessel.encode()))
    step = timedelta(minutes=EVERY_MIN)
    count = int(days * 24 * 60 / EVERY_MIN)
    midnight = until.replace(hour=0, minute=0, second=0, microsecond=0)
    fault_from = midnight - timedelta(days=1) if until - midnight < timedelta(hours=4) else midnight
    level, drinking_h = figures["start_m"], DAY_HOURS[1] - DAY_HOURS[0]
    found: list[tuple[datetime, float]] = []
    for number in range(count):
        when = until - step * (count - 1 - number)
        hours = EVERY_MIN / 60.0
        comes = figures["comes_lph"] * (1.0 - 0.8 * number / count if mode == "fading" else 1.0)
        drawn = figures["drawn_lpd"] / drinking_h if DAY_HOURS[0] <= when.hour < DAY_HOURS[1] else 0.0
        if mode == "passing" and when >= fault_from:
            drawn += PASSES_LPH
        level += (comes - drawn) * hours / 1000.0 / figures["area_m2"]
        full = figures["full_m"] + (0.15 if mode == "pump stays on" else 0.0)
        if mode == "pump stays on" and number > count - 40:
            level = full
        level = min(max(level, 0.0), full)
        said = round(level + noise.gauss(0.0, NOISE_M), 3)
        found.append((when, max(said, 0.0)))
    return _with_sensor_fault(found, mode, noise)


def _with_sensor_fault(
    series: list[tuple[datetime, float]], mode: Mode, noise: random.Random
) -> list[tuple[datetime, float]]:
    last = len(series) - 1
    if mode == "silent":
        return series[: max(1, last - 30)]
    if mode == "stuck":
        kept = series[max(0, last - 100)][1]
        return [(when, level if i < last - 100 else kept) for i, (when, level) in enumerate(series)]
    if mode == "jumping":
        return [(when, level + (0.6 if noise.random() < 0.05 else 0.0)) for when, level in series]
    if mode == "wrong clock":
        return [(when + timedelta(hours=7), level) for when, level in series]
    return series
