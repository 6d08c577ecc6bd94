"""One vessel filling or emptying over time, by integrating its real shape."""

from collections.abc import Callable

import numpy as np

from leadsman.core.base.array import Floats
from leadsman.core.base.errors import require_between
from leadsman.core.base.integrator import run_until
from leadsman.core.physics.vessel import Shape, level_m

TOLERANCE = 1e-5
EMPTYING_RELATIVE, EMPTYING_LEAST = 1e-5, 1e-9
FIRST_STEP_SHARE = 0.3
EMPTY_SHARE = 1e-10


def time_to_level_s(
    shape: Shape,
    from_level_m: float,
    to_level_m: float,
    net_flow_m3s: Callable[[float], float],
    longest_s: float,
) -> float | None:
    """Return the time [s] a vessel takes from one level to another, or None where it does not get there.

    Args:
        shape: the vessel's inside.
        from_level_m, to_level_m: levels above its floor [m], 0 to its height.
        net_flow_m3s: flow into the vessel [m3/s] at a level [m], negative where it empties.
        longest_s: give up after this long [s].
    Stopping: steps on the volume, each within 1e-5 of the change (of what is left, where the vessel
    empties and the flow dies away), until the goal is met.
    Raises:
        OutOfRange: a level is outside the shape.
    Source: one vessel's volume over what flows in; any fluid mechanics text.
    >>> from leadsman.core.physics.vessel import Prism
    >>> trough = Prism(floor_area_m2=1.2, height_m=0.5)
    >>> round(time_to_level_s(trough, 0.1, 0.3, lambda level: 0.0004, 86_400.0), 2)  # 0.24 m3 at 0.4 L/s
    600.0
    """
    start, goal = shape.volume_m3(from_level_m), shape.volume_m3(to_level_m)
    if start == goal:
        return 0.0
    require_between("longest [s]", longest_s, 1e-3, 1e9)
    full = shape.volume_m3(shape.height_m)
    emptying = goal < EMPTY_SHARE * full
    goal = max(goal, EMPTY_SHARE * full)  # the last film of a draining vessel takes no measurable time

    def rate(to_go_m3: Floats) -> Floats:
        return np.array([net_flow_m3s(level_m(shape, min(max(goal + float(to_go_m3[0]), 0.0), full)))])

    first = float(rate(np.array([start - goal]))[0])
    if first == 0.0 or (first > 0.0) != (goal > start):
        return None
    reached = run_until(
        rate,
        [start - goal],
        lambda to_go_m3: float(to_go_m3[0]),
        longest_s,
        first_step_s=abs((goal - start) / first) * FIRST_STEP_SHARE,
        relative_tolerance=EMPTYING_RELATIVE if emptying else 0.0,
        tolerances=[(EMPTYING_LEAST if emptying else TOLERANCE) * abs(goal - start)],
    )
    return reached.time_s if reached.happened else None
