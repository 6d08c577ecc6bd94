"""What gutters and downpipes carry in a storm."""

import math

from leadsman.core.base.errors import require_between
from leadsman.core.base.units import LITRE_M3, MILLIMETRE_M

LEVEL_SHARE = 0.9  # of its nominal capacity that a gutter is counted with
PART_FULL = 0.33  # of a downpipe's section that is water, the rest the air it draws in
ROUGHNESS_MM = 0.25


def half_round_gutter_m3s(width_m: float) -> float:
    """Return what a level half-round gutter of a width [m, 0.03 to 1] carries to a free outlet at its end [m3/s].

    Raises:
        OutOfRange: the width is outside those limits.
    Source: EN 12056-3:2000, 5.1.2 (from memory): 0.9 × 2.78e-5 A^1.25 L/s with its section A in mm².
    >>> round(half_round_gutter_m3s(0.1) * 1_000, 2)
    0.78
    """
    require_between("width [m]", width_m, 0.03, 1.0)
    section_mm2 = math.pi * (width_m / MILLIMETRE_M) ** 2 / 8.0
    return float(LEVEL_SHARE * 2.78e-5 * section_mm2**1.25 * LITRE_M3)


def downpipe_m3s(bore_m: float) -> float:
    """Return what an upright rainwater pipe of a bore [m, 0.03 to 0.5] carries a third full [m3/s].

    Raises:
        OutOfRange: the bore is outside those limits.
    Source: EN 12056-3:2000, table 8 (from memory), after Wyly and Eaton: 2.5e-4 k^-0.167 d^2.667 f^1.667 L/s, with
        bore d and roughness k in mm and a share f of its section full.
    >>> round(downpipe_m3s(0.1) * 1_000, 1)
    10.7
    """
    require_between("bore [m]", bore_m, 0.03, 0.5)
    bore_mm = bore_m / MILLIMETRE_M
    return float(2.5e-4 * ROUGHNESS_MM**-0.167 * bore_mm**2.667 * PART_FULL**1.667 * LITRE_M3)
