"""Ice on and around the water of a tank or trough: how thick, what stays liquid, whether the outlet stays open."""

from dataclasses import dataclass
from math import pi, sqrt

from leadsman.core.base.units import DAY_S, HOUR_S, m_from_mm
from leadsman.core.design import Vessel
from leadsman.core.design.frost import Frost
from leadsman.core.design.store import shape_of
from leadsman.core.physics.ice import ICE_KGM3, ICE_WMK, MELTING_JKG, surface_wm2k
from leadsman.core.physics.pipe_heat import WATER_JKGK, WATER_KGM3

FOAM_WMK, SNOW_WMK, LID_M2KW = 0.038, 0.2, 0.17  # foam, settled snow, still air under a lid: typical, from memory
GROUND_M2KW = 2.0  # what a vessel that stands on the ground has under it; ours, no source
MOST_HEAT, LEAST_HEAT = 1.7, 0.5  # clear windy nights against sun and dark walls: about what observed ice spreads by
LEAST_STEP_S, MOST_STEPS = HOUR_S, 500


@dataclass(frozen=True, kw_only=True)
class Ice:
    """How a vessel's water ends a frost: ice on top and on the walls [m], what is liquid [m3] and when none is [s].

    `closed_s` is when ice has reached its outlet, or there is no water over it any more; None where neither happens.
    """

    top_m: float
    wall_m: float
    core_m3: float
    solid_s: float | None
    closed_s: float | None


@dataclass(frozen=True, kw_only=True)
class VesselIce:
    """The ice of a vessel as is likely, and in the worst and the best of what may come.

    `drawn_m3` is drawn of it in a day [m3]; `refilled` tells that as much comes in.
    """

    vessel: Vessel
    likely: Ice
    worst: Ice
    best: Ice
    drawn_m3: float
    refilled: bool

    def lacks(self, ice: Ice) -> bool:
        """Whether what is drawn cannot be: it is all ice, or holds less than a day's need and no more comes."""
        short = ice.core_m3 < self.drawn_m3 and not self.refilled
        return self.drawn_m3 > 0.0 and (short or ice.solid_s is not None)


def vessel_ice(frost: Frost, vessel: Vessel, drawn_m3: float, refilled: bool, warm_c: float) -> VesselIce:
    """Return what a frost does to a vessel's water.

    Its water is mixed; heat leaves through ice, walls and what lies over them, to air as cold by day as by night; the
    refill brings heat. Sun and clear nights are in the range alone.

    Args:
        drawn_m3: what is drawn of it in a day [m3], 0 or more.
        refilled: whether as much comes in again, at `warm_c` [°C].
    """
    found = [_ice(frost, vessel, drawn_m3, warm_c, refilled, share) for share in (1.0, MOST_HEAT, LEAST_HEAT)]
    return VesselIce(
        vessel=vessel, likely=found[0], worst=found[1], best=found[2], drawn_m3=drawn_m3, refilled=refilled
    )


def _ice(frost: Frost, vessel: Vessel, drawn_m3: float, warm_c: float, refilled: bool, heat: float) -> Ice:
    """Return the ice at the end of a frost, step by step, with a share of the heat that leaves otherwise."""
    shape, level_m = shape_of(vessel.model_copy(update={"count": 1})), vessel.level_m
    drawn_m3 /= vessel.count
    volume = shape.volume_m3(level_m)
    across_m = sqrt(4.0 * volume / max(level_m, 1e-3) / pi)  # as if it were round, with walls straight up
    top_m2, wall_m2 = shape.surface_m2(level_m), pi * across_m * level_m
    floor_m2 = pi / 4.0 * across_m**2
    air = 1.0 / (heat * surface_wm2k(frost.wind_mps))
    foam = m_from_mm(vessel.lagging_mm) / FOAM_WMK
    over = air + (LID_M2KW + foam if vessel.lid else frost.snow_m / SNOW_WMK)
    under = air + foam if vessel.stand_m > 0.0 else GROUND_M2KW
    water_c, top, wall, solid_s, closed_s = max(warm_c, 0.0), 0.0, 0.0, None, None
    step_s = max(LEAST_STEP_S, frost.days * DAY_S / MOST_STEPS)
    for step in range(1, round(frost.days * DAY_S / step_s) + 1):
        lost = -frost.air_c * (
            top_m2 / (over + top / ICE_WMK) + wall_m2 / (air + foam + wall / ICE_WMK) + floor_m2 / under
        )  # W, of water at 0 °C
        brought = WATER_KGM3 * WATER_JKGK * drawn_m3 / DAY_S * (max(warm_c, 0.0) - water_c) if refilled else 0.0
        if water_c > 0.0 and top + wall == 0.0:
            warmer = lost * (1.0 - water_c / frost.air_c)
            water_c += (brought - warmer) * step_s / (WATER_KGM3 * WATER_JKGK * max(volume, 1e-6))
            water_c = max(water_c, 0.0)
            continue
        left = max(0.0, 1.0 - brought / lost) if lost > 0.0 else 0.0  # what the refill does not make up for
        per_ice = step_s * left / (ICE_KGM3 * MELTING_JKG) * -frost.air_c
        top += per_ice / (over + top / ICE_WMK)
        wall += per_ice / (air + foam + wall / ICE_WMK)
        if not refilled:
            level_m = max(0.0, level_m - drawn_m3 * step_s / DAY_S / max(floor_m2, 1e-6))
        core = _core_m3(floor_m2, across_m, level_m, top, wall)
        reached = level_m - top <= vessel.outlet_m < vessel.level_m or 2.0 * wall >= across_m
        if closed_s is None and top > 0.0 and reached:
            closed_s = step * step_s
        if core <= 1e-3 * volume:
            solid_s = step * step_s
            break
    if solid_s is not None:
        top = level_m
    return Ice(
        top_m=min(top, level_m), wall_m=min(wall, across_m / 2.0),
        core_m3=vessel.count * _core_m3(floor_m2, across_m, level_m, top, wall), solid_s=solid_s, closed_s=closed_s,
    )  # fmt: skip


def _core_m3(floor_m2: float, across_m: float, level_m: float, top_m: float, wall_m: float) -> float:
    """Return what is liquid inside the ice [m3]."""
    inside = max(0.0, 1.0 - 2.0 * wall_m / across_m) if across_m > 0.0 else 0.0
    return floor_m2 * inside**2 * max(0.0, level_m - top_m)
