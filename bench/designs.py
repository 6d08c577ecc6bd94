"""Made-up designs of any size to measure on: trees with float valves, and looped grids with several tanks."""

from typing import Any

import numpy as np

from leadsman.core.design import Design
from leadsman.core.design.file import read_design, write_design

Document = dict[str, Any]
ROUGHNESS_MM = 0.01


def tree(nodes: int, floats: int, growth: float = 0.4, seed: int = 1) -> Design:
    """Return a tank on a hill whose lines branch down over a number of junctions, some of them with a valve.

    A line's bore grows with the valves behind it to the power `growth`.
    """
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
    ground_m = 300.0 - 60.0 * below / max(1.0, below.max()) + rng.normal(size=nodes)
    places = [_place(f"n{i}", float(ground_m[i])) for i in range(nodes)]
    bores = 22.0 + 9.0 * carried**growth
    lines = [_line(i, f"n{before[i]}" if i else "tank", f"n{i}", float(bores[i])) for i in range(nodes)]
    return _design(f"tree of {nodes}", [*places, _place("top", 305.0)], lines, [_valve(f"n{i}") for i in ends])


def watered(troughs: int) -> Design:
    """Return a tree with a trough at every valve, and a mob of cattle to each."""
    document = write_design(tree(3 * troughs, troughs, growth=0.55))
    shape = {"kind": "box", "length_m": 2.0, "width_m": 0.6, "height_m": 0.5}
    herds = []
    for number, outlet in enumerate(document["outlets"]):
        trough = {"id": f"t{number}", "role": "trough", "place": outlet["place"], "shape": shape, "level_m": 0.35}
        document["vessels"].append(trough)
        outlet["fills"] = trough["id"]
        herd = {"id": f"h{number}", "class": "growing cattle", "head": 10 + number % 25, "weight_kg": 300}
        herds.append({**herd, "outlet": outlet["id"], "drinking": {"pattern": "mob", "within_min": 10}})
    return read_design({**document, "name": f"{troughs} troughs", "herds": herds})


def comb(branches: int, troughs: int) -> Document:
    """Return a tank over a main with branches to its sides, and so many troughs with floats along each branch."""
    shape = {"kind": "box", "length_m": 2, "width_m": 0.6, "height_m": 0.5}
    lines: list[Document] = []
    vessels: list[Document] = []
    outlets: list[Document] = []
    places = [{**_place("top", 330.0), "name": "Hill"}]
    before = "tank"
    for branch in range(branches):
        joint, north_m, side = f"m{branch}", -60 * (branch + 1), 1 if branch % 2 else -1
        places.append({**_place(joint, 326.0 - 1.2 * branch), "north_m": north_m})
        bore_mm = 96.8 if branch < branches // 2 else 79.2
        lines.append({**_line(len(lines), before, joint, bore_mm), "length_m": 61.0})
        before = end = joint
        for number in range(troughs):
            spot = f"n{branch}x{number}"
            place = _place(spot, 325.0 - 1.2 * branch - 0.5 * number)
            places.append({**place, "east_m": side * 50 * (number + 1), "north_m": north_m})
            lines.append({**_line(len(lines), end, spot, 35.2), "length_m": 50.5})
            end, vessel = spot, f"t-{spot}"
            vessels.append({"id": vessel, "role": "trough", "place": spot, "shape": shape, "level_m": 0.2})
            outlets.append({**_valve(spot), "fills": vessel})
    design = write_design(_design(f"{branches * troughs} troughs", places, lines, []))
    wanted = [{"outlet": outlet["id"], "flow_lpm": 1.0} for outlet in outlets]
    return {**design, "vessels": [*design["vessels"], *vessels], "outlets": outlets, "requirements": wanted}


def grid(side: int, tank_every: int = 28, seed: int = 2) -> Design:
    """Return a looped grid with a valve at every tenth crossing, and tanks on hills so many crossings apart."""
    rng = np.random.default_rng(seed)
    names = [[f"n{row}x{column}" for column in range(side)] for row in range(side)]
    places = [_place(name, 250.0 + float(rng.normal())) for row in names for name in row]
    pairs = [(row[i], row[i + 1]) for row in names for i in range(side - 1)]
    pairs += [(names[i][j], names[i + 1][j]) for i in range(side - 1) for j in range(side)]
    bores = rng.choice([40.0, 63.0, 90.0], len(pairs))
    lines = [_line(i, *pair, float(bore)) for i, (pair, bore) in enumerate(zip(pairs, bores, strict=True))]
    fed = [names[i][j] for i in range(0, side, tank_every) for j in range(0, side, tank_every)]
    lines += [_line(len(lines) + number, f"tank{number}", name, 200.0) for number, name in enumerate(fed)]
    hills = [_place(f"top{number}", 290.0) for number in range(len(fed))]
    flat = [name for row in names for name in row]
    name = f"grid of {side} by {side}, {len(fed)} tank{'s' if len(fed) > 1 else ''}"
    return _design(name, [*places, *hills], lines, [_valve(one) for one in flat[5::10]])


def _design(name: str, places: list[Document], lines: list[Document], outlets: list[Document]) -> Design:
    shape = {"kind": "box", "length_m": 3, "width_m": 3, "height_m": 2}
    hills = [str(place["id"]) for place in places if str(place["id"]).startswith("top")]
    tanks = [{"id": hill.replace("top", "tank"), "place": hill, "shape": shape, "level_m": 1.5} for hill in hills]
    return read_design(
        {
            "format": "leadsman-design",
            "version": 1,
            "name": name,
            "site": {"name": "Tamsel Ridge"},
            "places": places,
            "vessels": tanks,
            "lines": lines,
            "outlets": outlets,
        }
    )


def _place(place_id: str, ground_m: float) -> Document:
    return {"id": place_id, "east_m": 0, "north_m": 0, "ground_m": ground_m}


def _line(number: int, start: str, end: str, bore_mm: float) -> Document:
    ends = {"id": f"l{number}", "from": start, "to": end}
    return {**ends, "length_m": 30.0, "bore_mm": bore_mm, "roughness_mm": ROUGHNESS_MM}


def _valve(place: str) -> Document:
    valve = {"kv_m3h": 0.6, "closes_at_m": 0.4, "band_m": 0.05}
    return {"id": f"v-{place}", "place": place, "kind": "float_valve", "height_m": 0.4, "valve": valve}
