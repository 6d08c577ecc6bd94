"""The water a vessel of the design holds: its geometry, and what of it can be drawn."""

import math

from leadsman.core.base.units import LITRE_M3
from leadsman.core.design import (
    BoxShape,
    FrustumShape,
    LyingCylinderShape,
    UprightCylinderShape,
    ValveData,
    Vessel,
    VesselShape,
)
from leadsman.core.physics.vessel import Frustum, Linked, LyingCylinder, Prism, Shape, StageTable


def shape_of(vessel: Vessel) -> Shape:
    """Return the geometry of a vessel, or of its identical linked vessels together."""
    single = _one(vessel.shape)
    return single if vessel.count == 1 else Linked(single, vessel.count)


def usable_m3(vessel: Vessel) -> float:
    """Return the volume [m3] between the level and the outlet: what lies below is dead."""
    return volume_between_m3(vessel, vessel.outlet_m, vessel.level_m)


def volume_between_m3(vessel: Vessel, low_m: float, high_m: float) -> float:
    """Return the volume [m3] of a vessel between two levels [m above its floor]; 0 where the second is no higher."""
    shape = shape_of(vessel)
    low, high = (min(max(level, 0.0), shape.height_m) for level in (low_m, high_m))
    return max(0.0, shape.volume_m3(high) - shape.volume_m3(low))


def brimful(vessel: Vessel) -> Vessel:
    """Return a vessel filled to its brim."""
    return vessel.model_copy(update={"level_m": vessel.brim_m})


def kept_m3(vessel: Vessel, valve: ValveData) -> float:
    """Return the volume [m3] that a vessel holds at the level at which its float closes."""
    return shape_of(vessel).volume_m3(min(valve.closes_at_m, vessel.brim_m))


def full_kg(vessel: Vessel) -> float:
    """Return what a vessel weighs when full [kg]: its water at 1,000 kg/m3, and its own weight where that is said."""
    return shape_of(vessel).volume_m3(vessel.brim_m) / LITRE_M3 + (vessel.empty_kg or 0.0) * vessel.count


def dead_m3(vessel: Vessel) -> float:
    """Return the volume [m3] below the outlet, which gives nothing."""
    return shape_of(vessel).volume_m3(min(vessel.outlet_m, vessel.level_m))


def _one(shape: VesselShape) -> Shape:
    match shape:
        case UprightCylinderShape():
            return Prism(math.pi * shape.diameter_m**2 / 4.0, shape.height_m)
        case BoxShape():
            return Prism(shape.length_m * shape.width_m, shape.height_m)
        case LyingCylinderShape():
            return LyingCylinder(shape.diameter_m, shape.length_m)
        case FrustumShape():
            return Frustum(
                bottom_diameter_m=shape.bottom_diameter_m, top_diameter_m=shape.top_diameter_m, height_m=shape.height_m
            )
    stages = shape.stages
    return StageTable([level for level, _ in stages], [volume * LITRE_M3 for _, volume in stages])
