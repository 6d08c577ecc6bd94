"""How fast water must run: to carry air out of a line, to keep silt moving, and not to hammer."""

import math

from leadsman.core.base.errors import require_between
from leadsman.core.base.units import GRAVITY_MS2

SILT_MS = 0.7  # Jordan, Handbook of Gravity-Flow Water Systems (from memory): below it silt settles
FASTEST_MS = 3.0  # the same: above it the pipe wears, and water hammer begins to count
LARGE_POCKET = 0.61  # for pockets that fill much of the pipe
SAFETY = 1.1


def air_clearing_velocity_ms(bore_m: float, slope: float) -> float:
    """Return the velocity [m/s] that carries trapped air down a falling pipe and out.

    Args:
        bore_m: inner diameter [m], 0.001 to 2.
        slope: fall over true length [-], 0 (level) to 1.
    Raises:
        OutOfRange: an argument is outside those limits or not a number.
    Source: v / √(g D) = 1.1 (0.56 √sin θ + 0.61), Escarameia 2005 (HR Wallingford, SR 661), from memory; measured in
        150 mm pipe, so rough for thin ones.
    >>> round(air_clearing_velocity_ms(0.0272, 0.1), 2)
    0.45
    """
    require_between("bore [m]", bore_m, 1e-3, 2.0)
    require_between("slope", slope, 0.0, 1.0)
    return SAFETY * (0.56 * math.sqrt(slope) + LARGE_POCKET) * math.sqrt(GRAVITY_MS2 * bore_m)
