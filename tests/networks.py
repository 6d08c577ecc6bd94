"""Made-up networks from a seed: trees and loops, several tanks, every kind of part, in any order."""

from typing import Any

import numpy as np

Document = dict[str, Any]
BORES_MM = [4.0, 13.6, 20.4, 27.2, 34.0, 42.6, 53.6]


def random_network(seed: int, *, parts: bool = True, most_places: int = 24) -> Document:
    """Return a design of 3 to `most_places` places; with `parts`, valves, pumps, reducers and filters in its lines."""
    rng = np.random.default_rng(seed)
    count = int(rng.integers(3, most_places + 1))
    tanks = int(rng.integers(1, 4))
    places = [
        {"id": f"p{i}", "east_m": i, "north_m": 0, "ground_m": round(float(rng.uniform(100, 140)), 2),
         "height_error_m": round(float(rng.uniform(0, 0.5)), 2)}
        for i in range(count)
    ]  # fmt: skip
    vessels = [_tank(rng, i, int(rng.integers(count))) for i in range(tanks)]
    ends = [(f"p{rng.integers(max(0, i - 4), i)}", f"p{i}") for i in range(1, count)]
    ends += [_two(rng, count) for _ in range(int(rng.integers(0, 4)) if count > 4 else 0)]
    ends = [(f"t{i}", f"p{0 if i == 0 else rng.integers(count)}") for i in range(tanks)] + ends
    lines = [_line(rng, i, *pair) for i, pair in enumerate(ends)]
    outlets = [_outlet(rng, i, int(rng.integers(count))) for i in range(max(1, count // 3))]
    if parts:
        _add_parts(rng, lines[tanks:], places, vessels, outlets)
    document: Document = {
        "format": "leadsman-design", "version": 1, "name": f"made up {seed}",
        "site": {"name": "Tamsel Ridge", "altitude_m": 200}, "places": places, "vessels": vessels, "lines": lines,
        "outlets": outlets,
    }  # fmt: skip
    for key in ("lines", "outlets", "vessels"):
        rng.shuffle(document[key])
    return document


def _two(rng: np.random.Generator, count: int) -> tuple[str, str]:
    first, second = rng.choice(count, 2, replace=False)
    return f"p{first}", f"p{second}"


def _tank(rng: np.random.Generator, number: int, place: int) -> Document:
    return {
        "id": f"t{number}", "place": f"p{place}", "stand_m": round(float(rng.uniform(15, 50)), 2),
        "shape": {"kind": "upright_cylinder", "diameter_m": 2.0, "height_m": 2.0},
        "outlet_m": 0.1, "level_m": 0.05 if rng.random() < 0.05 else round(float(rng.uniform(0.2, 2.0)), 2),
    }  # fmt: skip


def _line(rng: np.random.Generator, number: int, start: str, end: str) -> Document:
    return {
        "id": f"l{number}", "from": start, "to": end, "bore_mm": float(rng.choice(BORES_MM)),
        "roughness_mm": float(rng.choice([0.0, 0.007, 0.05])), "length_m": round(float(rng.uniform(5, 400)), 1),
        "fittings": [{"k": round(float(rng.uniform(0, 8)), 2)}],
    }  # fmt: skip


def _outlet(rng: np.random.Generator, number: int, place: int) -> Document:
    common = {"id": f"o{number}", "place": f"p{place}", "height_m": round(float(rng.uniform(0, 2)), 2)}
    match int(rng.integers(5)):
        case 0:
            exponent = round(float(rng.uniform(0.3, 1.0)), 2)
            flow = round(float(rng.uniform(1, 20)), 2)
            return common | {"kind": "emitter", "flow_lpm": flow, "pressure_kpa": 100.0, "exponent": exponent}
        case 1:
            return common | {"kind": "open_end", "bore_mm": float(rng.choice([6, 13, 20]))}
        case 2:
            return common | {"kind": "fixed", "flow_lpm": round(float(rng.uniform(0.1, 6)), 2)}
    kv = round(float(rng.uniform(0.3, 8)), 2)
    return common | {"kind": "float_valve", "shut": bool(rng.random() < 0.1),
                     "valve": {"kv_m3h": kv, "closes_at_m": 0.4, "band_m": 0.05}}  # fmt: skip


def _add_parts(
    rng: np.random.Generator, lines: list[Document], places: list[Document], vessels: list[Document],
    outlets: list[Document],
) -> None:  # fmt: skip
    """Put a part into about every third line, and a pressure-break tank at some place."""
    for line in lines:
        match int(rng.integers(15)):
            case 0:
                line["inline"] = [{"kind": "check_valve", "at_m": line["length_m"] / 2}]
            case 1:
                line["inline"] = [{"kind": "filter", "at_m": 1.0, "kv_m3h": round(float(rng.uniform(0.5, 6)), 2)}]
            case 2:
                line["shut"] = True
            case 3 if not any("reducer" in str(other.get("inline")) for other in lines):
                at, kpa = round(line["length_m"] / 3, 1), round(float(rng.uniform(30, 250)), 1)
                line["inline"] = [{"kind": "reducer", "at_m": at, "outlet_kpa": kpa}]
            case 4 if not any("pump" in other for other in lines):
                flow, head = float(rng.uniform(10, 120)), float(rng.uniform(5, 40))
                line["pump"] = {"curve": [[0.0, head], [flow / 2, 0.75 * head], [flow, 0.1 * head]]}
    if rng.random() < 0.3:  # a float valve keeps a lower tank, which feeds a branch of its own
        number = len(vessels)
        vessels.append(_tank(rng, number, 0) | {"stand_m": 0.0, "level_m": 0.8})
        places.append({"id": "below", "east_m": 0, "north_m": 9, "ground_m": 80.0})
        lines.append(_line(rng, 900, f"t{number}", "below"))
        outlets.append(_outlet(rng, 900, 0) | {"place": "below"})
        outlets.append({"id": "keeps", "place": "p0", "kind": "float_valve", "fills": f"t{number}", "height_m": 1.0,
                        "valve": {"kv_m3h": 1.5, "closes_at_m": 1.0, "band_m": 0.3}})  # fmt: skip
