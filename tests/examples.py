"""Designs that tests start from: the format's worked example, and a plain one that is easy to change."""

import copy
from typing import Any

Document = dict[str, Any]

# The example of the format's contract, as data; its answers there are an independent solver's.
WORKED_EXAMPLE: Document = {
    "format": "leadsman-design",
    "version": 1,
    "name": "Plan A",
    "site": {"name": "Tamsel Ridge", "altitude_m": 260, "water_c": 10},
    "places": [
        {"id": "knoll", "east_m": 0, "north_m": 0, "ground_m": 268.4, "height_error_m": 0.3, "height_from": "staff"},
        {"id": "fork", "east_m": 210, "north_m": -60, "ground_m": 251.2},
        {"id": "low", "east_m": 320, "north_m": -120, "ground_m": 246.9},
        {"id": "nursery", "east_m": 250, "north_m": 90, "ground_m": 249.0},
    ],
    "vessels": [
        {
            "id": "header",
            "role": "tank",
            "place": "knoll",
            "shape": {"kind": "upright_cylinder", "diameter_m": 2.4, "height_m": 2.2},
            "stand_m": 0.6,
            "outlet_m": 0.08,
            "overflow_m": 2.1,
            "level_m": 1.6,
        },
        {
            "id": "low-trough",
            "role": "trough",
            "place": "low",
            "shape": {"kind": "box", "length_m": 2.0, "width_m": 0.6, "height_m": 0.55},
            "stand_m": 0,
            "overflow_m": 0.52,
            "level_m": 0.2,
        },
    ],
    "lines": [
        {
            "id": "main",
            "from": "header",
            "to": "fork",
            "product": "pe100-sdr13.6-40",
            "length_m": 224.0,
            "points": [[0, 268.4], [90, 260.1], [224, 251.2]],
            "cover_m": 0.3,
            "roughness_mm": 0.007,
            "fittings": [{"k": 1.8}],
            "inline": [{"kind": "check_valve", "at_m": 2.0}],
        },
        {"id": "spur", "from": "fork", "to": "low-valve", "bore_mm": 27.2, "roughness_mm": 0.007, "length_m": 130.0},
        {"id": "drip-feed", "from": "fork", "to": "drip", "bore_mm": 20.4, "roughness_mm": 0.007, "length_m": 165.0},
    ],
    "outlets": [
        {
            "id": "low-valve",
            "place": "low",
            "kind": "float_valve",
            "fills": "low-trough",
            "height_m": 0.5,
            "valve": {
                "kv_m3h": 2.1,
                "closes_at_m": 0.45,
                "band_m": 0.06,
                "min_pressure_kpa": 3,
                "max_pressure_kpa": 400,
            },
        },
        {
            "id": "drip",
            "place": "nursery",
            "kind": "fixed",
            "height_m": 0.3,
            "flow_lpm": 6.0,
            "min_pressure_kpa": 20,
        },
        {"id": "washout", "place": "fork", "kind": "open_end", "height_m": 0.0, "bore_mm": 25, "shut": True},
    ],
}

# One tank, one line over four points, one float valve; 20 m of fall. Made up.
ONE_LINE: Document = {
    "format": "leadsman-design",
    "version": 1,
    "name": "One line",
    "site": {"name": "Tamsel Ridge", "altitude_m": 200, "water_c": 10},
    "places": [
        {"id": "top", "east_m": 0, "north_m": 0, "ground_m": 120.0},
        {"id": "end", "east_m": 200, "north_m": 0, "ground_m": 101.0},
    ],
    "vessels": [
        {
            "id": "tank",
            "place": "top",
            "shape": {"kind": "upright_cylinder", "diameter_m": 2.0, "height_m": 2.0},
            "level_m": 1.0,
        },
        {
            "id": "trough",
            "role": "trough",
            "place": "end",
            "shape": {"kind": "box", "length_m": 2.0, "width_m": 0.5, "height_m": 0.6},
            "level_m": 0.1,
        },
    ],
    "lines": [
        {
            "id": "line",
            "from": "tank",
            "to": "valve",
            "product": "pe100-sdr13.6-32",
            "length_m": 210.0,
            "points": [[0, 120], [70, 112], [140, 108], [210, 101]],
            "inline": [{"kind": "isolating_valve", "at_m": 1.0}],
        },
    ],
    "outlets": [
        {
            "id": "valve",
            "place": "end",
            "kind": "float_valve",
            "fills": "trough",
            "height_m": 0.6,
            "valve": {"kv_m3h": 3.0, "closes_at_m": 0.5, "band_m": 0.05},
        }
    ],
    "herds": [{"id": "mob", "class": "growing cattle", "head": 20, "weight_kg": 273, "outlet": "valve"}],
    "inflows": [
        {"id": "spring", "kind": "spring", "fills": "tank", "timings": [{"volume_l": 10, "time_s": 600}]},
        {"id": "stream", "kind": "siphon", "fills": "tank", "flow_lpm": 1e-9},  # a second source that hardly gives
    ],
    "scenarios": [{"id": "day", "air_c": 21.1}],
    "requirements": [{"outlet": "valve", "flow_lpm": 10, "refill_min": 240}, {"vessel": "tank", "days_in_hand": 2}],
}


# Changes of the plain design that several tests make.
TAPPED_BOTH: Document = {"lines.0.inline.1": {"kind": "isolating_valve", "at_m": 209.0}}  # at the trough too
# a valve stuck open does not empty such a tank, and taps shut both vessels off
SOUND: Document = {**TAPPED_BOTH, "vessels.0.shape.diameter_m": 7.0}
LOCKED: Document = {"places.1.ground_m": 115, "lines.0.points": [[0, 120], [15, 112], [30, 118], [60, 104], [210, 115]]}
WAVY: Document = {"lines.0.points": [[0, 120], [60, 110], [100, 112], [140, 105], [170, 106], [210, 101]],
        "outlets.0.valve.kv_m3h": 0.1}  # fmt: skip
JOINED: Document = {  # a second tank of its own by the roof, whose line joins the first one's 3 m lower
    "places.2": {"id": "roof", "east_m": 60, "north_m": 0, "ground_m": 120.0}, "places.0.ground_m": 117.0,
    "places.3": {"id": "tee", "east_m": 30, "north_m": 0, "ground_m": 112.0},
    "vessels.2": {"id": "upper", "place": "roof", "level_m": 1.0,
                  "shape": {"kind": "upright_cylinder", "diameter_m": 2.0, "height_m": 2.0}},
    "lines.0.to": "tee", "lines.0.points": [], "lines.0.length_m": 40,
    "lines.1": {"id": "down", "from": "tee", "to": "valve", "product": "pe100-sdr13.6-32", "length_m": 170},
    "lines.2": {"id": "from-butt", "from": "upper", "to": "tee", "product": "pe100-sdr13.6-32", "length_m": 45},
}  # fmt: skip
PAST_A_TEE: Document = {
    "places.2": {"id": "mid", "east_m": 100, "north_m": 0, "ground_m": 100},
    "places.3": {"id": "high", "east_m": 298, "north_m": 0, "ground_m": 110}, "outlets.0.place": "mid",
    "vessels.2": {"id": "upper", "place": "high", "shape": {"kind": "box", "length_m": 1, "width_m": 1, "height_m": 1},
                  "outlet_m": 0.9, "level_m": 0.2},
    "lines.0.to": "mid", "lines.0.points": [], "outlets.0.valve.kv_m3h": 0.5,
    "lines.1": {"id": "rise", "from": "mid", "to": "upper", "product": "pe100-sdr13.6-32", "length_m": 200},
}  # fmt: skip
LOW_AND_HIGH: Document = {
    "places.2": {"id": "low", "east_m": 100, "north_m": 0, "ground_m": 90}, "places.1.ground_m": 116,
    "lines.0.to": "end", "lines.0.points": [],
    "lines.1": {"id": "down", "from": "end", "to": "tap", "product": "pe100-sdr13.6-32", "length_m": 110},
    "vessels.2": {"id": "basin", "role": "trough", "place": "low", "level_m": 0.1,
                  "shape": {"kind": "box", "length_m": 2, "width_m": 1, "height_m": 0.5}},
    "outlets.1": {"id": "tap", "place": "low", "kind": "float_valve", "fills": "basin", "height_m": 0.5,
                  "valve": {"kv_m3h": 3, "closes_at_m": 0.4, "band_m": 0.05}},
}  # fmt: skip

WELL: Document = {
    "id": "well", "kind": "well", "place": "foot", "static_kpa": 300, "cut_in_kpa": 240, "cut_out_kpa": 360,
    "timings": [{"volume_l": 20, "time_s": 30}], "timed_kpa": 40,
}  # fmt: skip
MAINS: Document = {
    "id": "mains", "kind": "mains", "place": "foot", "static_kpa": 320, "timings": [{"volume_l": 15, "time_s": 20}],
}  # fmt: skip
RAM_AT_FOOT: Document = {
    "id": "ram", "kind": "ram", "place": "foot", "fall_m": 2.0, "drive_lpm": 60.0, "efficiency": 0.6,
}  # fmt: skip
RAM_LINE: Document = {  # a ram at the foot of a hill, a trough teed off half way, a tank on top filled over its rim
    "format": "leadsman-design", "version": 1, "name": "Ram",
    "site": {"name": "Tamsel Ridge", "altitude_m": 300, "water_c": 10},
    "places": [
        {"id": "foot", "east_m": 0, "north_m": 0, "ground_m": 200}, {"id": "tee", "east_m": 40, "north_m": 0,
                                                                   "ground_m": 205},
        {"id": "top", "east_m": 100, "north_m": 0, "ground_m": 219}],
    "pressure_sources": [RAM_AT_FOOT],
    "vessels": [
        {"id": "tank", "name": "Top tank", "place": "top", "level_m": 0.5, "overflow_m": 1.9,
         "shape": {"kind": "upright_cylinder", "diameter_m": 2.0, "height_m": 2.0}},
        {"id": "trough", "name": "Low trough", "role": "trough", "place": "tee", "level_m": 0.1, "overflow_m": 0.46,
         "shape": {"kind": "box", "length_m": 2.0, "width_m": 0.6, "height_m": 0.5}}],
    "lines": [
        {"id": "up", "from": "ram", "to": "tee", "bore_mm": 40, "roughness_mm": 0.007, "length_m": 40.3},
        {"id": "on", "from": "tee", "to": "fill", "bore_mm": 40, "roughness_mm": 0.007, "length_m": 61.6}],
    "outlets": [
        {"id": "low", "place": "tee", "kind": "float_valve", "fills": "trough", "height_m": 0.5,
         "valve": {"kv_m3h": 4.0, "closes_at_m": 0.4, "band_m": 0.05}},
        {"id": "fill", "place": "top", "kind": "open_end", "fills": "tank", "height_m": 1.0, "bore_mm": 40}],
}  # fmt: skip
# the trough as a pond with a filter chamber beside it, 0.148 m lower while its pump runs: 60 L/min through 5 m of 40 mm
CHAMBER: Document = {
    "id": "chamber",
    "role": "chamber",
    "place": "end",
    "stand_m": -0.3,
    "level_m": 0.7,
    "shape": {"kind": "box", "length_m": 1.0, "width_m": 1.0, "height_m": 1.0},
}
LOOP: Document = {
    "vessels.1.role": "pond", "herds": [], "vessels.2": CHAMBER,
    "ponds": [{"vessel": "trough", "circulation": {"chamber": "chamber", "pump_lpm": 60, "pipe_mm": 40, "pipe_m": 5}}],
}  # fmt: skip
POND: Document = {"vessels.1.role": "pond", "herds": [], "vessels.1.overflow_m": 0.6}
TOTE: Document = {"id": "tote", "fills": "trough", "place": "top", "holds_l": 900.0, "empty_kg": 60.0}
ROW: Document = {
    "vessels.1.role": "bucket_row", "vessels.1.count": 12, "vessels.1.link_mm": 4, "vessels.1.link_m": 0.5,
    "herds": [], "crops": [{"id": "trees", "outlet": "valve", "litres_lpd": 12.0}],
}  # fmt: skip


def worked_example() -> Document:
    """Return the format's example, to be changed at will."""
    return copy.deepcopy(WORKED_EXAMPLE)


def one_line(**changes: Any) -> Document:
    """Return the plain design with changes by dotted path: one_line(**{"lines.0.length_m": 150})."""
    return changed(ONE_LINE, changes)


def changed(document: Document, changes: dict[str, Any]) -> Document:
    """Return a copy of a document with changes by dotted path: None takes out, one past the end appends."""
    document = copy.deepcopy(document)
    for path, value in changes.items():
        *steps, last = path.split(".")
        here: Any = document
        for step in steps:
            here = here[int(step)] if isinstance(here, list) else here[step]
        if isinstance(here, list):
            here[int(last) : int(last) + 1] = [] if value is None else [copy.deepcopy(value)]
        elif value is None:
            here.pop(last, None)
        else:
            here[last] = copy.deepcopy(value)
    return document


def network(
    *,
    lines: list[tuple[str, str, float, float]],
    tanks: dict[str, float],
    places: dict[str, float] | None = None,
    draws: dict[str, float] | None = None,
    open_end_mm: float | None = None,
) -> Document:
    """Return a bare network: tanks by their water's height [m], places by their ground [m], draws [L/min].

    Lines are (from, to, bore in mm, length in m), called l0, l1, …; with `open_end_mm`, the last place has an
    open end called "out".
    """
    named = places or {}
    document: Document = {
        "format": "leadsman-design",
        "version": 1,
        "name": "bare",
        "site": {"name": "Tamsel Ridge"},
        "places": [
            *({"id": f"at-{name}", "east_m": 0, "north_m": 0, "ground_m": 0.0} for name in tanks),
            *(
                {"id": name, "east_m": 0, "north_m": 0, "ground_m": ground, "draw_lpm": (draws or {}).get(name, 0.0)}
                for name, ground in named.items()
            ),
        ],
        "vessels": [
            {
                "id": name,
                "place": f"at-{name}",
                "shape": {"kind": "upright_cylinder", "diameter_m": 2.0, "height_m": 2.0},
                "stand_m": 0.0,
                "level_m": 1.0,
            }
            for name in tanks
        ],
        "lines": [
            {"id": f"l{i}", "from": start, "to": end, "bore_mm": bore, "roughness_mm": 0.007, "length_m": length}
            for i, (start, end, bore, length) in enumerate(lines)
        ],
    }
    for vessel, place, surface_m in zip(document["vessels"], document["places"], tanks.values(), strict=False):
        place["ground_m"] = surface_m - vessel["level_m"]
    if open_end_mm is not None:
        document["outlets"] = [{"id": "out", "place": list(named)[-1], "kind": "open_end", "bore_mm": open_end_mm}]
    return document
