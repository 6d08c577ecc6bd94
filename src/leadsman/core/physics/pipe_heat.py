"""Heat that a pipe of water loses to the air or the ground, and what that does to water that stands or runs in it."""

import math
from dataclasses import dataclass

from leadsman.core.base.errors import require_between
from leadsman.core.base.units import KELVIN_AT_0_C
from leadsman.core.physics.ice import MELTING_JKG

WATER_KGM3, WATER_JKGK = 1_000.0, 4_200.0  # of water near 0 °C
AIR_KGM3_AT_0_C = 1.292  # at sea level: a hill's thinner air takes less heat
PRANDTL = 0.71
PRANDTL_FACTOR = math.pow(PRANDTL, 1 / 3) / math.pow(1.0 + math.pow(0.4 / PRANDTL, 2 / 3), 0.25)
STILL_WM2K = 5.7  # what a pipe gives to air that hardly moves: McAdams 1954, from memory


@dataclass(frozen=True, kw_only=True)
class Wall:
    """A pipe across: bore and outside [m], what its wall conducts [W/mK], and foam around it [m, W/mK]."""

    bore_m: float
    outer_m: float
    wall_wmk: float
    foam_m: float = 0.0
    foam_wmk: float = 0.038

    @property
    def outside_m(self) -> float:
        """Its width with the foam [m]."""
        return self.outer_m + 2.0 * self.foam_m

    @property
    def resistance_mkw(self) -> float:
        """What wall and foam resist, over a metre of pipe [m·K/W]."""
        wall = math.log(self.outer_m / self.bore_m) / (2.0 * math.pi * self.wall_wmk)
        return wall + math.log(self.outside_m / self.outer_m) / (2.0 * math.pi * self.foam_wmk)

    @property
    def water_jmk(self) -> float:
        """What a metre of its water takes up for each degree [J/mK]."""
        return WATER_KGM3 * WATER_JKGK * math.pi / 4.0 * self.bore_m**2

    @property
    def melting_jm(self) -> float:
        """What a metre of its water gives off until it is all ice [J/m]."""
        return WATER_KGM3 * MELTING_JKG * math.pi / 4.0 * self.bore_m**2


def wind_wm2k(wind_mps: float, width_m: float, air_c: float) -> float:
    """Return how much heat a cylinder gives to wind across it for each degree [W/m2K].

    Source: S. W. Churchill and M. Bernstein 1977, J. Heat Transfer 99:300; air by Sutherland's formula, at sea level.

    Args:
        wind_mps: 0 to 60. width_m: the cylinder's [m], above 0 to 2. air_c: -70 to 50.
    Raises:
        OutOfRange: outside those limits or not a number.
    >>> round(wind_wm2k(5.0, 0.032, -10.0), 1)
    45.1
    """
    require_between("wind [m/s]", wind_mps, 0.0, 60.0)
    require_between("width of the pipe [m]", width_m, 1e-4, 2.0)
    require_between("air [°C]", air_c, -70.0, 50.0)
    kelvin = air_c + KELVIN_AT_0_C
    viscosity = 1.716e-5 * math.pow(kelvin / 273.15, 1.5) * (273.15 + 110.4) / (kelvin + 110.4)
    conducts = 0.0241 * math.pow(kelvin / 273.15, 0.81)
    reynolds = AIR_KGM3_AT_0_C * 273.15 / kelvin * wind_mps * width_m / viscosity
    over = 0.62 * math.sqrt(reynolds) * PRANDTL_FACTOR
    nusselt = 0.3 + over * math.pow(1.0 + math.pow(reynolds / 282_000.0, 0.625), 0.8)
    return max(STILL_WM2K, nusselt * conducts / width_m)


def loss_in_air_wmk(wall: Wall, wind_mps: float, air_c: float) -> float:
    """Return what a metre of pipe in the air loses for each degree between its water and the air [W/mK].

    Raises:
        OutOfRange: as `wind_wm2k`.
    >>> round(loss_in_air_wmk(Wall(bore_m=0.0272, outer_m=0.032, wall_wmk=0.4), 5.0, -10.0), 1)
    3.5
    """
    taken = wind_wm2k(wind_mps, wall.outside_m, air_c) * math.pi * wall.outside_m
    return 1.0 / (wall.resistance_mkw + 1.0 / taken)


def loss_in_ground_wmk(wall: Wall, cover_m: float, soil_wmk: float) -> float:
    """Return what a metre of buried pipe loses for each degree between its water and the ground's surface [W/mK].

    By the shape factor of a cylinder under a plane, long after the surface turned cold: the most that it loses.

    Args:
        cover_m: from the surface to the pipe's middle [m], more than half its width.
        soil_wmk: what the soil conducts [W/mK], above 0.
    Raises:
        OutOfRange: outside those limits or not a number.
    >>> round(loss_in_ground_wmk(Wall(bore_m=0.0272, outer_m=0.032, wall_wmk=1e9), 0.3, 1.5), 2)
    2.6
    """
    require_between("cover [m]", cover_m, wall.outside_m / 2.0, 50.0)
    require_between("what the soil conducts [W/mK]", soil_wmk, 1e-3, 10.0)
    ground = math.acosh(2.0 * cover_m / wall.outside_m) / (2.0 * math.pi * soil_wmk)
    return 1.0 / (wall.resistance_mkw + ground)


def warmth_left_c(inlet_c: float, outside_c: float, loss_wk: float, flow_m3s: float) -> float:
    """Return how warm water leaves pipe that loses heat all along it [°C]; below 0 where it would freeze on the way.

    Args:
        loss_wk: what the whole pipe loses for each degree [W/K], 0 or more.
        flow_m3s: above 0.
    Raises:
        OutOfRange: outside those limits or not a number.
    >>> round(warmth_left_c(6.0, -10.0, 350.9, 0.2e-3), 2)
    0.54
    """
    require_between("flow [m³/s]", flow_m3s, 1e-12, 1e3)
    require_between("heat lost [W/K]", loss_wk, 0.0, 1e12)
    return outside_c + (inlet_c - outside_c) * math.exp(-loss_wk / (WATER_KGM3 * WATER_JKGK * flow_m3s))


def least_flow_m3s(inlet_c: float, outside_c: float, loss_wk: float, least_c: float) -> float:
    """Return the flow that leaves pipe no colder than a temperature [m3/s]; none is needed where it loses nothing.

    Raises:
        OutOfRange: the water comes in no warmer than it is to leave, or it is no colder outside.
    >>> round(1e3 * least_flow_m3s(6.0, -10.0, 28.7, 0.5), 4)
    0.0162
    """
    require_between("warmth of the source [°C]", inlet_c, least_c + 1e-9, 100.0)
    require_between("warmth outside [°C]", outside_c, -100.0, least_c - 1e-9)
    return loss_wk / (WATER_KGM3 * WATER_JKGK * math.log((inlet_c - outside_c) / (least_c - outside_c)))


def standing_s(wall: Wall, loss_wmk: float, water_c: float, outside_c: float) -> float:
    """Return how long standing water takes to cool to 0 °C [s]; for ever where it is not freezing outside.

    >>> wall = Wall(bore_m=0.0272, outer_m=0.032, wall_wmk=0.4)
    >>> round(standing_s(wall, 3.509, 6.0, -10.0))
    327
    """
    if outside_c >= 0.0 or loss_wmk <= 0.0:
        return math.inf
    return wall.water_jmk / loss_wmk * math.log((max(water_c, 0.0) - outside_c) / -outside_c)


def freezing_s(wall: Wall, loss_wmk: float, outside_c: float) -> float:
    """Return how long water at 0 °C takes to freeze through, its heat lost as when it was warm [s]: the least it takes.

    >>> wall = Wall(bore_m=0.0272, outer_m=0.032, wall_wmk=0.4)
    >>> round(freezing_s(wall, 3.509, -10.0) / 3600, 1)
    1.5
    """
    return math.inf if outside_c >= 0.0 or loss_wmk <= 0.0 else wall.melting_jm / (loss_wmk * -outside_c)
