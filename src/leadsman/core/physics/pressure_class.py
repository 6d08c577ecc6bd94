"""What a pipe holds in the long run: its class at 20 °C, less where the pipe itself is warmer."""

from collections.abc import Sequence

import numpy as np

from leadsman.core.base.errors import require_between

# (temperature of the pipe [°C], share of its class [-])
POLYETHYLENE = ((20.0, 1.0), (30.0, 0.87), (40.0, 0.74))  # EN 12201 / ISO 13761, from memory
PVC = ((22.8, 1.0), (26.7, 0.88), (32.2, 0.75), (37.8, 0.62), (43.3, 0.51), (48.9, 0.40))  # PVC makers, from memory
HOSE = ((20.0, 1.0), (30.0, 0.82), (40.0, 0.66), (50.0, 0.52), (60.0, 0.38))  # makers of PVC hose, from memory, rough


def share_of_class(table: Sequence[tuple[float, float]], pipe_c: float) -> float | None:
    """Return the share of its class that a pipe keeps at a temperature of its own [°C]; None over the table's last.

    Hotter than that nothing is published here, and pipe softens fast: it is not to be judged.

    Args:
        table: temperatures and shares, rising; below the first all of it is kept.
        pipe_c: of the wall, which in the sun is hotter than its water [°C], −60 to 120.
    Raises:
        OutOfRange: the temperature is outside those limits.
    Source: straight between the printed temperatures.
    >>> share_of_class(POLYETHYLENE, 30.0)
    0.87
    """
    require_between("temperature of the pipe [°C]", pipe_c, -60.0, 120.0)
    if pipe_c > table[-1][0]:
        return None
    return float(np.interp(pipe_c, [at for at, _ in table], [share for _, share in table]))


def table_of(family: str) -> Sequence[tuple[float, float]]:
    """Return the table of a family of pipe; what is sold as hose or tube goes by the rough one of hoses.

    Source: named beside each table.
    >>> share_of_class(table_of("PE100"), 40.0)
    0.74
    """
    if family.startswith("PE"):
        return POLYETHYLENE
    return PVC if family.startswith("PVC") else HOSE
