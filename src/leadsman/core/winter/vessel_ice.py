"""Ice on and around the water of a tank or trough: how thick, what stays liquid, whether the outlet stays open."""

from dataclasses import dataclass
from datetime import date, timedelta
from math import pi, sqrt

from leadsman.core.base.units import DAY_S, HOUR_S, m_from_mm
from leadsman.core.design import Vessel
from leadsman.core.design.frost import Frost
from leadsman.core.design.store import shape_of
from leadsman.core.farm.evapotranspiration import extraterrestrial_mjm2
from leadsman.core.physics.ice import ICE_KGM3, ICE_WMK, MELTING_JKG, surface_wm2k
from leadsman.core.physics.pipe_heat import WATER_JKGK, WATER_KGM3

FOAM_WMK, SNOW_WMK, LID_M2KW = 0.038, 0.2, 0.17  # foam, settled snow, still air under a lid: typical, from memory
GROUND_M2KW = 2.0  # what a vessel has under it on the ground, and around it as far as it is sunk; ours, no source
MOST_HEAT, LEAST_HEAT = 1.7, 0.5  # clear windy nights against sun and dark walls: about what observed ice spreads by
LEAST_HEAT_SUN = 0.7  # where the sun on its walls is reckoned for itself; ours, no source
DARK, LIGHT, BARE_ICE, SNOW = 0.9, 0.3, 0.4, 0.15  # of the sun is kept: typical, from memory
DULL, CLEAR = 0.5, 0.75  # of the sun above the air gets through, half and all of the day in sun: FAO 56, equation 35
FARTHEST_DEG = 66.0
LEAST_STEP_S, MOST_STEPS = HOUR_S, 500


@dataclass(frozen=True, kw_only=True)
class Ice:
    """How a vessel's water ends a frost: ice on top and on the walls [m], what is liquid [m3] and when none is [s].

    `closed_s` is when ice has reached its outlet, or there is no water over it any more; `empty_s` when all of it is
    drawn and none came; None where that does not happen.
    """

    top_m: float
    wall_m: float
    core_m3: float
    solid_s: float | None
    closed_s: float | None
    empty_s: float | None = None


@dataclass(frozen=True, kw_only=True)
class VesselIce:
    """The ice of a vessel as is likely, and in the worst and the best of what may come.

    `drawn_m3` is drawn of it in a day [m3]; `refilled` tells that as much comes in; `open_m3` is how much would have
    to, so that no ice forms as is likely: None where that takes warmer water, or none comes.
    """

    vessel: Vessel
    likely: Ice
    worst: Ice
    best: Ice
    drawn_m3: float
    refilled: bool
    open_m3: float | None

    @property
    def left_d(self) -> tuple[float, float, float] | None:
        """Days that what is liquid at the end lasts with no refill: worst, likely, best; None where none is drawn."""
        if self.drawn_m3 <= 0.0:
            return None
        worst, likely, best = (ice.core_m3 / self.drawn_m3 for ice in (self.worst, self.likely, self.best))
        return worst, likely, best

    @property
    def kept_open(self) -> bool:
        """Whether what is drunk of it brings enough warm water that no ice forms, as is likely."""
        return self.open_m3 is not None and self.drawn_m3 >= self.open_m3

    def lacks(self, ice: Ice) -> bool:
        """Whether what is drawn cannot be: it is all ice, or holds less than a day's need and no more comes."""
        short = ice.core_m3 < self.drawn_m3 and not self.refilled
        return self.drawn_m3 > 0.0 and (short or ice.solid_s is not None)


def vessel_ice(
    frost: Frost, vessel: Vessel, drawn_m3: float, refilled: bool, warm_c: float, latitude_deg: float | None = None
) -> VesselIce:
    """Return what a frost does to a vessel's water.

    Its water is mixed; heat leaves through ice, walls and what lies over them, to air as cold by day as by night; the
    refill brings heat. Clear nights are in the range alone; the sun is too where nobody says whether the walls are
    dark or where the farm lies, else it lifts the temperature that they feel (sol-air, any text on heating).

    Args:
        drawn_m3: what is drawn of it in a day [m3], 0 or more.
        refilled: whether as much comes in again, at `warm_c` [°C].
        latitude_deg: of the farm, for the sun; None where unknown.
    """
    sun_wm2 = _sun_wm2(frost, vessel, latitude_deg)
    shares = ((1.0, DULL), (MOST_HEAT, 0.0), (LEAST_HEAT if sun_wm2 == 0.0 else LEAST_HEAT_SUN, CLEAR))
    found = [_ice(frost, vessel, drawn_m3, warm_c, refilled, heat, sun * sun_wm2) for heat, sun in shares]
    loses_w = _Skin(frost, vessel, 1.0, DULL * sun_wm2).lost_w(0.0, 0.0)
    open_m3 = None
    if refilled and warm_c > 0.0:
        open_m3 = vessel.count * max(0.0, loses_w) * DAY_S / (WATER_KGM3 * WATER_JKGK * warm_c)
    return VesselIce(
        vessel=vessel, likely=found[0], worst=found[1], best=found[2], drawn_m3=drawn_m3, refilled=refilled,
        open_m3=open_m3,
    )  # fmt: skip


def _sun_wm2(frost: Frost, vessel: Vessel, latitude_deg: float | None) -> float:
    """Return the sun above the air on the frost's middle day [W/m2]; 0 where the walls or the latitude are unknown."""
    if vessel.dark is None or latitude_deg is None or abs(latitude_deg) > FARTHEST_DEG:
        return 0.0
    middle = date.fromisoformat(frost.from_) + timedelta(days=frost.days // 2)
    return extraterrestrial_mjm2(latitude_deg, middle) * 1e6 / DAY_S


class _Skin:
    """What a vessel's water loses heat through: its surface, its walls and its floor, of one of its number.

    `heat` is the share of the heat that leaves otherwise, `sun_wm2` the sun on level ground [W/m2].
    """

    def __init__(self, frost: Frost, vessel: Vessel, heat: float, sun_wm2: float) -> None:
        self.frost = frost
        self.shape = shape_of(vessel.model_copy(update={"count": 1}))
        self.volume = self.shape.volume_m3(vessel.level_m)
        # as if it were round, with walls straight up
        self.across_m = sqrt(4.0 * self.volume / max(vessel.level_m, 1e-3) / pi)
        self.top_m2 = self.shape.surface_m2(vessel.level_m)
        self.sunk_m = min(max(0.0, -vessel.stand_m), vessel.level_m)
        self.wall_m2, self.sunk_m2 = (
            pi * self.across_m * high_m for high_m in (vessel.level_m - self.sunk_m, self.sunk_m)
        )
        self.floor_m2 = pi / 4.0 * self.across_m**2
        self.air = 1.0 / (heat * surface_wm2k(frost.wind_mps))
        self.foam = m_from_mm(vessel.lagging_mm) / FOAM_WMK
        self.over = self.air + (LID_M2KW + self.foam if vessel.lid else frost.snow_m / SNOW_WMK)
        self.under = self.air + self.foam if vessel.stand_m > 0.0 else GROUND_M2KW
        kept = DARK if vessel.dark else LIGHT
        open_kept = SNOW if frost.snow_m > 0.0 else BARE_ICE
        # the walls see the sun with their width: a share of 1/pi of them
        self.cold_wall = -frost.air_c - kept * sun_wm2 / pi * self.air
        self.cold_top = -frost.air_c - (kept if vessel.lid else open_kept) * sun_wm2 * self.air

    def over_ice(self, top_m: float) -> float:
        """Return the resistance between water and air over ice on top [m2K/W]."""
        return self.over + top_m / ICE_WMK

    def beside_ice(self, wall_m: float) -> float:
        """Return the resistance between water and air through ice on the walls [m2K/W]."""
        return self.air + self.foam + wall_m / ICE_WMK

    def lost_w(self, top_m: float, wall_m: float) -> float:
        """Return what water at 0 °C loses behind so much ice [W]; below 0 where the sun gives more."""
        return (
            self.top_m2 * self.cold_top / self.over_ice(top_m)
            + self.wall_m2 * self.cold_wall / self.beside_ice(wall_m)
            - self.floor_m2 * self.frost.air_c / self.under
            - self.sunk_m2 * self.frost.air_c / GROUND_M2KW
        )

    @property
    def open_wk(self) -> float:
        """What open water loses more for each degree that it is warmer [W/K]."""
        walls_wk = self.wall_m2 / (self.air + self.foam) + self.sunk_m2 / GROUND_M2KW
        return self.top_m2 / self.over + walls_wk + self.floor_m2 / self.under

    def core_m3(self, level_m: float, top_m: float, wall_m: float) -> float:
        """Return what is liquid inside the ice [m3]; no ice grows from walls that stand in the ground."""
        inside = max(0.0, 1.0 - 2.0 * wall_m / self.across_m) if self.across_m > 0.0 else 0.0
        high_m = max(0.0, level_m - top_m)
        sunk_m = min(high_m, self.sunk_m)
        return self.floor_m2 * (sunk_m + inside**2 * (high_m - sunk_m))


def _ice(
    frost: Frost, vessel: Vessel, drawn_m3: float, warm_c: float, refilled: bool, heat: float, sun_wm2: float
) -> Ice:
    """Return the ice at the end of a frost, step by step, with a share of the heat that leaves otherwise."""
    skin, level_m = _Skin(frost, vessel, heat, sun_wm2), vessel.level_m
    drawn_m3 /= vessel.count
    across_m, floor_m2, volume = skin.across_m, skin.floor_m2, skin.volume
    water_c, top, wall, solid_s, closed_s, empty_s = max(warm_c, 0.0), 0.0, 0.0, None, None, None
    step_s = max(LEAST_STEP_S, frost.days * DAY_S / MOST_STEPS)
    for step in range(1, round(frost.days * DAY_S / step_s) + 1):
        lost = skin.lost_w(top, wall)
        brought = WATER_KGM3 * WATER_JKGK * drawn_m3 / DAY_S * (max(warm_c, 0.0) - water_c) if refilled else 0.0
        if water_c > 0.0 and top + wall == 0.0:
            gains = brought - lost - skin.open_wk * water_c
            water_c += gains * step_s / (WATER_KGM3 * WATER_JKGK * max(volume, 1e-6))
            water_c = max(water_c, 0.0)
            continue
        left = max(0.0, 1.0 - brought / lost) if lost > 0.0 else 0.0  # what the refill does not make up for
        per_ice = step_s * left / (ICE_KGM3 * MELTING_JKG)
        top = max(0.0, top + per_ice * skin.cold_top / skin.over_ice(top))
        wall = max(0.0, wall + per_ice * skin.cold_wall / skin.beside_ice(wall))
        if not refilled:
            level_m = max(0.0, level_m - drawn_m3 * step_s / DAY_S / max(floor_m2, 1e-6))
        core = skin.core_m3(level_m, top, wall)
        by_wall = skin.sunk_m <= vessel.outlet_m and 2.0 * wall >= across_m
        reached = level_m - top <= vessel.outlet_m < vessel.level_m or by_wall
        if closed_s is None and top > 0.0 and reached:
            closed_s = step * step_s
        if level_m <= top and not refilled and drawn_m3 > 0.0:
            empty_s = step * step_s
            break
        if core <= 1e-3 * volume:
            solid_s = step * step_s
            break
    if solid_s is not None:
        top, closed_s = level_m, solid_s if closed_s is None else closed_s
    return Ice(
        top_m=min(top, level_m), wall_m=min(wall, across_m / 2.0),
        core_m3=vessel.count * skin.core_m3(level_m, top, wall), solid_s=solid_s, closed_s=closed_s,
        empty_s=empty_s,
    )  # fmt: skip
