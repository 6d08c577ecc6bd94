"""A spring or intake: its flow from a timed container."""

from collections.abc import Sequence

from leadsman.core.design import Timing
from leadsman.core.errors import require_between
from leadsman.core.units import LITRE_M3


def timed_flow_m3s(volume_m3: float, time_s: float) -> float:
    """Return the flow [m3/s] that fills a container [m3, above 0] in a time [s, above 0].

    Raises:
        OutOfRange: an argument is not above 0.
    """
    require_between("volume [m3]", volume_m3, 1e-6, 1e6)
    require_between("time [s]", time_s, 1e-3, 1e9)
    return volume_m3 / time_s


def planned_flow_m3s(timings: Sequence[Timing]) -> float:
    """Return the flow [m3/s] to plan on: that of the slowest timing, one or more."""
    return min(timed_flow_m3s(timing.volume_l * LITRE_M3, timing.time_s) for timing in timings)
