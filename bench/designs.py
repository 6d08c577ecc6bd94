"""Made-up designs of any size to measure on: trees with float valves, looped grids, a farm of many outlets."""

from typing import Any

import numpy as np

from leadsman.core.design import Design
from leadsman.core.design_file import read_design

Document = dict[str, Any]
ROUGHNESS_MM = 0.01


def tree(nodes: int, floats: int, seed: int = 1) -> Design:
    """Return a tank on a hill whose lines branch down over a number of junctions; every so many-th has a valve."""
    rng = np.random.default_rng(seed)
    before = [max(0, i - 1 - int(rng.integers(0, 12))) for i in range(nodes)]
    below = np.zeros(nodes)
    for i in range(1, nodes):
        below[i] = below[before[i]] + 1
    ends = rng.permutation(nodes)[:floats]
    carried = np.zeros(nodes)
    carried[ends] = 1.0
    for i in range(nodes - 1, 0, -1):
        carried[before[i]] += carried[i]
    places = [
        _place(f"n{i}", 300.0 - 60.0 * below[i] / max(1.0, below.max()) + float(rng.normal())) for i in range(nodes)
    ]
    lines = [
        _line(i, f"n{before[i]}" if i else "tank", f"n{i}", 22.0 + 9.0 * float(carried[i]) ** 0.4) for i in range(nodes)
    ]
    return _design(f"tree of {nodes}", [*places, _place("top", 305.0)], lines, [_valve(f"n{i}") for i in ends])


def grid(side: int, seed: int = 2) -> Design:
    """Return a looped grid with a tank at one corner and a valve at every tenth crossing."""
    rng = np.random.default_rng(seed)
    names = [[f"n{row}x{column}" for column in range(side)] for row in range(side)]
    places = [_place(name, 250.0 + float(rng.normal())) for row in names for name in row]
    pairs = [(row[i], row[i + 1]) for row in names for i in range(side - 1)]
    pairs += [(names[i][j], names[i + 1][j]) for i in range(side - 1) for j in range(side)]
    bores = rng.choice([40.0, 63.0, 90.0], len(pairs))
    lines = [_line(i, *pair, float(bore)) for i, (pair, bore) in enumerate(zip(pairs, bores, strict=True))]
    lines.append(_line(len(lines), "tank", names[0][0], 200.0))
    flat = [name for row in names for name in row]
    return _design(f"grid of {side}", [*places, _place("top", 290.0)], lines, [_valve(name) for name in flat[5::10]])


def _design(name: str, places: list[Document], lines: list[Document], outlets: list[Document]) -> Design:
    tank = {
        "id": "tank",
        "place": "top",
        "shape": {"kind": "box", "length_m": 3, "width_m": 3, "height_m": 2},
        "level_m": 1.5,
    }
    return read_design(
        {
            "format": "leadsman-design", "version": 1, "name": name, "site": {"name": "Tamsel Ridge"},
            "places": places, "vessels": [tank], "lines": lines, "outlets": outlets,
        }
    )  # fmt: skip


def _place(place_id: str, ground_m: float) -> Document:
    return {"id": place_id, "east_m": 0, "north_m": 0, "ground_m": ground_m}


def _line(number: int, start: str, end: str, bore_mm: float) -> Document:
    ends = {"id": f"l{number}", "from": start, "to": end}
    return {**ends, "length_m": 30.0, "bore_mm": bore_mm, "roughness_mm": ROUGHNESS_MM}


def _valve(place: str) -> Document:
    valve = {"kv_m3h": 0.6, "closes_at_m": 0.4, "band_m": 0.05}
    return {"id": f"v-{place}", "place": place, "kind": "float_valve", "height_m": 0.4, "valve": valve}
