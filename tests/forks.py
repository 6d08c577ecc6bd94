"""Farms to be sized: tanks over a fork with troughs behind it, made up from a seed, and pipes to choose from."""

import itertools
from typing import Any

import numpy as np

from examples import Document
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.design.file import read_design
from leadsman.core.sizing.problem import Problem, parts_of, problem_of
from leadsman.core.sizing.trials import Trials

PIPES: list[dict[str, Any]] = [
    {"id": f"p{bore}", "bore_mm": bore, "roughness_mm": 0.007, "price_per_m": price}
    for bore, price in ((16.0, 0.6), (20.4, 0.9), (27.2, 1.4), (34.0, 2.3))
]


def farm(seed: int, *, tanks: int = 1, ends: int = 2) -> Document:
    """One or two tanks that feed a junction, and some troughs with floats behind it; made up from a seed."""
    chance = np.random.default_rng(seed)
    places = [{"id": "fork", "east_m": 0, "north_m": 0, "ground_m": 118.0}]
    vessels, lines, outlets = [], [], []
    shape = {"kind": "upright_cylinder", "diameter_m": 3.0, "height_m": 2.0}
    for n in range(tanks):
        places.append({"id": f"hill{n}", "east_m": n, "north_m": 9, "ground_m": round(130.0 + 2.0 * n, 1)})
        vessels.append({"id": f"tank{n}", "place": f"hill{n}", "level_m": 1.0, "shape": shape})
        lines.append({"id": f"draw{n}", "from": f"tank{n}", "to": "fork", "length_m": float(chance.uniform(40, 90)),
                      "bore_mm": 20.4, "roughness_mm": 0.007})  # fmt: skip
    flows = [round(float(chance.uniform(5, 14)), 1) for _ in range(ends)]
    for n in range(ends):
        ground = round(float(chance.uniform(100, 116)), 1)
        places.append({"id": f"p{n}", "east_m": 100 * n, "north_m": 0, "ground_m": ground})
        lines.append({"id": f"leg{n}", "from": "fork", "to": f"p{n}", "length_m": float(chance.uniform(60, 240)),
                      "bore_mm": 20.4, "roughness_mm": 0.007})  # fmt: skip
        outlets.append({"id": f"o{n}", "place": f"p{n}", "height_m": 0.5, "kind": "float_valve",
                        "valve": {"kv_m3h": 1.6, "closes_at_m": 0.4, "band_m": 0.05}})  # fmt: skip
    return {
        "format": "leadsman-design", "version": 1, "name": "Fork", "site": {"name": "Tamsel Ridge", "water_c": 10},
        "places": places, "vessels": vessels, "lines": lines, "outlets": outlets,
        "requirements": [{"outlet": f"o{n}", "flow_lpm": flows[n]} for n in range(ends)],
        "sizing": {"products": PIPES[:3]},
    }  # fmt: skip


def problem(document: Document) -> Problem:
    return problem_of(Analysis(read_design(document)))


def enumerated(document: Document) -> float | None:
    """The least cost of everything that can be chosen, each plan solved on the network."""
    total = 0.0
    for part in parts_of(problem(document)):
        trials = Trials(part)
        rows = np.array(list(itertools.product(*(range(len(one.choices)) for one in part.slots))), dtype=np.intp)
        works = trials.tried(rows).lacks == 0.0
        if not works.any():
            return None
        total += float(trials.costs(rows[works]).min())
    return total
