"""Ice on standing water: Stefan's formula, with what lies between the ice and the air."""

import math

from leadsman.core.base.errors import require_between
from leadsman.core.base.units import DAY_S

# of ice at 0 °C: thermal conductivity [W/mK], density [kg/m3], heat of melting [J/kg]; handbook values, from memory
ICE_WMK, ICE_KGM3, MELTING_JKG = 2.24, 917.0, 333_550.0
MOST_DEGREE_DAYS = 20_000.0


def ice_thickness_m(degree_days: float, surface_m2kw: float = 0.0) -> float:
    """Return how thick the ice on still water at 0 °C is after a frost [m].

    Stefan 1891: heat leaves through the ice alone, its surface as cold as the air; here through a layer above it too,
    of air that moves, of snow or of foam. No heat comes from the water or from the sun: it is the most that grows.

    Args:
        degree_days: days of frost times degrees below 0 [°C·d], 0 to 20,000.
        surface_m2kw: resistance between the ice's surface and the air [m2·K/W], 0 or more.
    Raises:
        OutOfRange: outside those limits or not a number.
    >>> round(100 * ice_thickness_m(100.0), 1)
    35.6
    >>> round(100 * ice_thickness_m(100.0, 1 / 20.0), 1)
    26.1
    """
    require_between("degree-days of frost [°C·d]", degree_days, 0.0, MOST_DEGREE_DAYS)
    require_between("resistance over the ice [m²·K/W]", surface_m2kw, 0.0, 1e4)
    through = ICE_WMK * surface_m2kw  # as metres of ice
    return math.sqrt(through**2 + 2.0 * ICE_WMK * DAY_S * degree_days / (ICE_KGM3 * MELTING_JKG)) - through


def surface_wm2k(wind_mps: float) -> float:
    """Return how much heat a flat surface gives to the air for each degree [W/m2K], by the wind over it.

    Source: W. H. McAdams 1954, Heat Transmission, 3rd ed.: 5.7 + 3.8 v below 5 m/s, 6.47 v^0.78 above; from memory.
    A clear night takes more, by radiation.

    Args:
        wind_mps: wind at the surface [m/s], 0 to 60.
    Raises:
        OutOfRange: outside those limits or not a number.
    >>> surface_wm2k(0.0)
    5.7
    """
    require_between("wind [m/s]", wind_mps, 0.0, 60.0)
    return 5.7 + 3.8 * wind_mps if wind_mps < 5.0 else max(5.7 + 3.8 * 5.0, 6.47 * wind_mps**0.78)
