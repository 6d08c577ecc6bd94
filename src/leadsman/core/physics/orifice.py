"""Openings of valves: what a seat passes, and what is left of it when it is worn, gritty or clogged."""

import math

from leadsman.core.base.errors import require_between
from leadsman.core.base.units import BAR_PA, GRAVITY_MS2, HOUR_S
from leadsman.core.physics.fittings import REFERENCE_DENSITY_KGM3, bore_area_m2

SEAT_COEFFICIENT = 0.6  # vena contracta and friction together; any fluid mechanics text


def orifice_flow_m3s(head_m: float, area_m2: float, discharge_coefficient: float = SEAT_COEFFICIENT) -> float:
    """Return the flow [m3/s] to air through an opening under a head [m].

    Args:
        head_m: over its centre [m], 0 to 10,000.
        area_m2: of the opening [m2], 0 to 10.
        discharge_coefficient: 0 to 1.
    Raises:
        OutOfRange: an argument is outside those limits or not a number.
    Source: Torricelli's law with a discharge coefficient; any fluid mechanics text.
    >>> round(orifice_flow_m3s(2.0, math.pi * 0.025**2 / 4, 0.62) * 1000, 3)
    1.906
    """
    require_between("head [m]", head_m, 0.0, 1e4)
    require_between("area [m2]", area_m2, 0.0, 10.0)
    require_between("discharge coefficient", discharge_coefficient, 0.0, 1.0)
    return discharge_coefficient * area_m2 * math.sqrt(2.0 * GRAVITY_MS2 * head_m)


def kv_of_opening_m3h(area_m2: float, discharge_coefficient: float = SEAT_COEFFICIENT) -> float:
    """Return Kv [m3/h at 1 bar, water of 1,000 kg/m3] of an opening [m2]; Kv 1 is a Cd·A of 19.64 mm².

    >>> round(kv_of_opening_m3h(19.64e-6, 1.0), 3)
    1.0
    """
    require_between("area [m2]", area_m2, 0.0, 10.0)
    require_between("discharge coefficient", discharge_coefficient, 0.0, 1.0)
    return discharge_coefficient * area_m2 * math.sqrt(2.0 * BAR_PA / REFERENCE_DENSITY_KGM3) * HOUR_S


def seat_bore_m(kv_m3h: float, discharge_coefficient: float = SEAT_COEFFICIENT) -> float:
    """Return the bore [m] of the round opening that a Kv [m3/h] belongs to, if all of the loss is there.

    >>> round(seat_bore_m(kv_of_opening_m3h(math.pi * 0.006**2 / 4)) * 1000, 3)
    6.0
    """
    require_between("Kv [m3/h]", kv_m3h, 1e-6, 1e6)
    require_between("discharge coefficient", discharge_coefficient, 1e-3, 1.0)
    area = kv_m3h / kv_of_opening_m3h(1.0, discharge_coefficient)
    return math.sqrt(4.0 * area / math.pi)


def held_open_m2(seat_bore_m: float, gap_m: float) -> float:
    """Return the area [m2] by which a valve passes that a grain or a worn washer holds off its seat by a gap [m].

    Args:
        seat_bore_m: of the seat [m]; gap_m: 0 to a quarter of it, from where the seat itself is the narrower.
    Source: the curtain round the seat, its edge times the gap.
    >>> round(held_open_m2(0.019, 0.0005) * 1e6, 1)
    29.8
    """
    require_between("seat bore [m]", seat_bore_m, 1e-4, 1.0)
    require_between("gap [m]", gap_m, 0.0, 1.0)
    return min(math.pi * seat_bore_m * gap_m, bore_area_m2(seat_bore_m))


def clogged_kv_m3h(kv_m3h: float, open_share: float) -> float:
    """Return what is left of a Kv [m3/h] when so much of its opening is free [-, 0 to 1].

    Source: Kv is proportional to the area of an opening; our own simplification.
    >>> clogged_kv_m3h(1.6, 0.25)
    0.4
    """
    require_between("Kv [m3/h]", kv_m3h, 1e-6, 1e6)
    require_between("share of the opening that is free", open_share, 0.0, 1.0)
    return kv_m3h * open_share
