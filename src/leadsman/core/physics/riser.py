"""An overflow riser: a pipe that stands up in a trough, over whose rim the water runs."""

import math

from leadsman.core.base.errors import require_between
from leadsman.core.base.units import GRAVITY_MS2, MILLIMETRE_M

WEIR_COEFFICIENT, ORIFICE_COEFFICIENT = 0.58, 0.6  # of a sharp round rim; any text on hydraulics, from memory
HEAD_M = 0.03  # of water over its rim: ours, no source
SOLD_MM = (20.0, 25.0, 32.0, 40.0, 50.0, 63.0, 75.0, 90.0, 110.0, 160.0)
SHARE_OPEN = 0.5  # of its bore that ice and slime leave; ours, no source


def riser_m3s(bore_m: float, head_m: float) -> float:
    """Return what an open riser takes away [m3/s] with the water so far over its rim [m].

    The lesser of a weir around its rim, 2/3 C √(2g) π D h^1.5, and of an orifice of its bore, C A √(2gh).

    Args:
        bore_m: its inner diameter [m], above 0 to 2.
        head_m: water over its rim [m], 0 to 2.
    Raises:
        OutOfRange: outside those limits.
    >>> round(riser_m3s(0.05, 0.03) * 60_000, 1)
    54.2
    """
    require_between("bore [m]", bore_m, 1e-4, 2.0)
    require_between("head [m]", head_m, 0.0, 2.0)
    root = math.sqrt(2.0 * GRAVITY_MS2)
    weir = 2.0 / 3.0 * WEIR_COEFFICIENT * root * math.pi * bore_m * head_m**1.5
    orifice = ORIFICE_COEFFICIENT * math.pi / 4.0 * bore_m**2 * root * math.sqrt(head_m)
    return float(min(weir, orifice))


def riser_bore_mm(flow_m3s: float) -> float | None:
    """Return the bore of the first riser sold that carries a flow 3 cm over its rim, half of it iced up [mm].

    None where none of them does.
    >>> riser_bore_mm(10 / 60_000), riser_bore_mm(1.0)
    (32.0, None)
    """
    return next((bore for bore in SOLD_MM if SHARE_OPEN * riser_m3s(bore * MILLIMETRE_M, HEAD_M) >= flow_m3s), None)
