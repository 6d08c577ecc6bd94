"""A farm of one tank and one line to run over time, and how to run it."""

from typing import Any

import numpy as np

from examples import Document
from leadsman.core.dayrun.run import DayRun, day_run
from leadsman.core.design import Design
from leadsman.core.design.file import read_design

HOUR_S = 3_600.0
TANK: Document = {
    "id": "tank", "place": "top", "shape": {"kind": "upright_cylinder", "diameter_m": 1.2, "height_m": 2.0},
    "outlet_m": 0.1, "level_m": 1.8,
}  # fmt: skip
OPEN_END: Document = {"id": "tap", "kind": "open_end", "place": "end", "height_m": 0.2}


def farm(**changes: Any) -> Design:
    """A tank at the top, a line to an open end 20 m lower; changed by dotted path."""
    whole: Document = {
        "format": "leadsman-design",
        "version": 1,
        "name": "Run",
        "site": {"name": "Tamsel Ridge", "altitude_m": 200, "water_c": 10},
        "places": [
            {"id": "top", "east_m": 0, "north_m": 0, "ground_m": 120.0},
            {"id": "end", "east_m": 200, "north_m": 0, "ground_m": 100.0},
        ],
        "vessels": [TANK],
        "lines": [
            {"id": "line", "from": "tank", "to": "end", "bore_mm": 26.0, "roughness_mm": 0.01, "length_m": 202.0}
        ],
        "outlets": [OPEN_END],
    }
    return read_design({**whole, **changes})


def run(design: Design, hours: float, count: int = 13) -> DayRun:
    return day_run(design, hours * HOUR_S, np.linspace(0.0, hours * HOUR_S, count).tolist())
