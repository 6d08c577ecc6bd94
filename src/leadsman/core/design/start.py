"""What a new part begins with: our own figures, no source; each is marked as assumed until somebody confirms it."""

from typing import Any

from leadsman.core.design.document import Design
from leadsman.core.design.file import read_design

USUAL_PIPE = "pe100-sdr17-32"
STARTS: dict[str, dict[str, Any]] = {
    thing: {"role": role, "shape": shape, "stand_m": 0.0, "outlet_m": 0.1, "level_m": level_m,
            "assumed": ["shape", "level_m"]}
    for thing, role, shape, level_m in (
        ("tank", "tank", {"kind": "upright_cylinder", "diameter_m": 2.0, "height_m": 2.0}, 1.5),
        ("spring box", "chamber", {"kind": "upright_cylinder", "diameter_m": 2.0, "height_m": 1.0}, 0.7),
        ("pond", "pond", {"kind": "box", "length_m": 20.0, "width_m": 10.0, "height_m": 2.0}, 1.6),
    )
}  # fmt: skip
TROUGH: dict[str, Any] = {
    "role": "trough",
    "shape": {"kind": "box", "length_m": 2.0, "width_m": 0.6, "height_m": 0.5},
    "stand_m": 0.0,
    "overflow_m": 0.46,
    "level_m": 0.1,
    "assumed": ["shape", "overflow_m", "level_m"],
}
FLOAT_VALVE: dict[str, Any] = {
    "kind": "float_valve",
    "height_m": 0.5,
    "valve": {"kv_m3h": 2.0, "closes_at_m": 0.4, "band_m": 0.05},
    "assumed": ["height_m", "kv_m3h", "closes_at_m", "band_m"],
}
TAP: dict[str, Any] = {"kind": "open_end", "height_m": 0.6, "bore_mm": 20.0, "assumed": ["height_m", "bore_mm"]}


def new_design(site: str, thing: str, name: str, ground_m: float) -> Design:
    """Return a site with nothing on it but where the water starts: a tank, a spring box or a pond.

    Raises:
        DesignFaults: a name or the height is not as the document takes it.
    """
    place = {"id": "start", "name": name, "east_m": 0.0, "north_m": 0.0, "ground_m": ground_m}
    return read_design(
        {
            "format": "leadsman-design",
            "version": 1,
            "name": "Plan A",
            "site": {"name": site},
            "places": [place],
            "vessels": [{"id": "source", "name": name, "place": "start", **STARTS[thing]}],
        }
    )
