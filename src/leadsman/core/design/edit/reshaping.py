"""Vessels given another shape, or that of a product."""

import math
from collections.abc import Callable

from leadsman.core.base.units import LITRE_M3
from leadsman.core.design import Vessel
from leadsman.core.design.edit.model import SetShape, SetVessel
from leadsman.core.design.edit.parts import Document, Outcome, Part, name_of, part, parts
from leadsman.core.design.store import shape_of

TAPER = 0.9  # the floor of a new frustum against its rim
BELOW_BRIM_M = 0.04  # where a float closes in a vessel too low for it


def set_shape(document: Document, edit: SetShape) -> Outcome:
    """Give a vessel a shape of another kind, as high and holding as much; it is then no longer a product's."""
    vessel = part(document, "vessels", edit.vessel, "vessel")
    if vessel["shape"]["kind"] == edit.shape:
        return Outcome()
    single = Vessel.model_validate({**vessel, "count": 1})
    height_m = single.shape.inside_m
    vessel["shape"] = {"kind": edit.shape, **SHAPES[edit.shape](shape_of(single).volume_m3(height_m), height_m)}
    vessel.pop("product", None)
    return Outcome()


def set_vessel(document: Document, edit: SetVessel) -> Outcome:
    """Make a vessel one of the catalogue: its shape and weight; levels above its rim come down to it."""
    vessel, product = part(document, "vessels", edit.vessel, "vessel"), edit.product
    vessel["shape"], vessel["product"] = product.shape, product.product_id
    vessel.pop("empty_kg", None)
    if product.empty_kg is not None:
        vessel["empty_kg"] = product.empty_kg
    vessel["assumed"] = [key for key in vessel.get("assumed") or [] if key != "shape"]
    inside_m = brim_m = Vessel.model_validate({**_bare(vessel), "overflow_m": None}).shape.inside_m
    notes = []
    if vessel.get("overflow_m") is not None:
        brim_m = vessel["overflow_m"] = min(vessel["overflow_m"], brim_m)
    for key in ("level_m", "outlet_m"):
        if vessel.get(key) is not None:
            vessel[key] = min(vessel[key], brim_m)
    _keep_in(vessel, inside_m)
    for outlet in parts(document, "outlets"):
        valve = outlet.get("valve")
        if outlet.get("fills") == edit.vessel and valve and valve["closes_at_m"] > brim_m - BELOW_BRIM_M:
            valve["closes_at_m"] = round(max(brim_m - BELOW_BRIM_M, brim_m / 2.0), 3)
            notes.append(f"The float of {name_of(outlet)} is set lower, to suit {name_of(vessel)}.")
    return Outcome(notes=notes)


def _bare(vessel: Part) -> Part:
    """Return a vessel without what has to lie within its shape."""
    kept = {key: value for key, value in vessel.items() if key not in ("cable_m", "inside", "taps")}
    return {**kept, "level_m": 0.0, "outlet_m": 0.0}


def _keep_in(vessel: Part, inside_m: float) -> None:
    """Bring holes, taps and what needs water in a vessel down to its rim."""
    if vessel.get("cable_m") is not None:
        vessel["cable_m"] = min(vessel["cable_m"], inside_m)
    for tap in vessel.get("taps") or []:
        tap["at_m"] = min(tap["at_m"], inside_m)
    for thing in vessel.get("inside") or []:
        if thing.get("needs_m") is not None:
            thing["needs_m"] = min(thing["needs_m"], inside_m)


def _upright(volume_m3: float, height_m: float) -> Part:
    return {"diameter_m": _mm(math.sqrt(4.0 * volume_m3 / (math.pi * height_m))), "height_m": height_m}


def _box(volume_m3: float, height_m: float) -> Part:
    side_m = _mm(math.sqrt(volume_m3 / height_m))
    return {"length_m": side_m, "width_m": side_m, "height_m": height_m}


def _lying(volume_m3: float, height_m: float) -> Part:
    return {"diameter_m": height_m, "length_m": _mm(4.0 * volume_m3 / (math.pi * height_m**2))}


def _frustum(volume_m3: float, height_m: float) -> Part:
    top_m = math.sqrt(12.0 * volume_m3 / (math.pi * height_m * (1.0 + TAPER + TAPER**2)))
    return {"bottom_diameter_m": _mm(TAPER * top_m), "top_diameter_m": _mm(top_m), "height_m": height_m}


def _stages(volume_m3: float, height_m: float) -> Part:
    litres = round(volume_m3 / LITRE_M3, 1)
    return {"stages": [[0, 0], [height_m / 2.0, litres / 2.0], [height_m, litres]]}


def _mm(metres: float) -> float:
    return max(round(metres, 3), 0.001)


SHAPES: dict[str, Callable[[float, float], Part]] = {
    "upright_cylinder": _upright,
    "box": _box,
    "lying_cylinder": _lying,
    "frustum": _frustum,
    "stage_volume": _stages,
}
