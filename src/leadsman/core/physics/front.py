"""Water running into an empty line: when its front gets where."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

from leadsman.core.base.errors import require_between
from leadsman.core.base.units import GRAVITY_MS2
from leadsman.core.physics.fittings import bore_area_m2
from leadsman.core.physics.friction import darcy_friction_factor

STEPS = 40  # over the whole way: the front slows smoothly, and times agree within 1 % with ten times as many
LEAST_HEAD_M = 1e-3  # under which the front stands still
POWER = 1.9  # of the flow that friction goes with, about: between laminar and rough
MOST_STEPS, CLOSE = 60, 1e-6


@dataclass(frozen=True, kw_only=True)
class Stretch:
    """A straight piece of the way: length [m], bore [m], roughness [m], pipe height at its end [m]."""

    length_m: float
    bore_m: float
    roughness_m: float
    end_m: float

    def loss_m(self, length_m: float, flow_m3s: float, viscosity_m2s: float) -> float:
        """Return the friction loss [m] of a flow [m3/s] over a length of it [m]."""
        velocity = flow_m3s / bore_area_m2(self.bore_m)
        reynolds = velocity * self.bore_m / viscosity_m2s
        factor = darcy_friction_factor(reynolds, self.roughness_m / self.bore_m)
        return factor * length_m / self.bore_m * velocity**2 / (2.0 * GRAVITY_MS2)


def front_times_s(surface_m: float, start_m: float, way: Sequence[Stretch], viscosity_m2s: float) -> list[float | None]:
    """Return when the front of the water is at the end of each stretch [s]; None where it does not get to.

    The filled pipe behind the front runs as steadily as its friction lets it, all air leaving before it. Past a high
    point no more comes than runs over that, open to the air behind the front.

    Args:
        surface_m: height of the water that feeds it [m].
        start_m: height of the pipe where it begins [m].
        way: in the order of the water.
        viscosity_m2s: kinematic viscosity [m2/s], above 0.
    Raises:
        OutOfRange: the viscosity is not positive.
    Source: Darcy–Weisbach for the filled part at each moment (a quasi-steady front; own).
    >>> slope = Stretch(length_m=300.0, bore_m=0.026, roughness_m=7e-6, end_m=91.0)  # 3 in 100
    >>> [round(time_s) for time_s in front_times_s(100.0, 100.0, [slope], 1.3e-6)]
    [409]
    """
    require_between("kinematic viscosity [m2/s]", viscosity_m2s, 1e-8, 1e-3)
    whole_m = sum(stretch.length_m for stretch in way)
    time_s, found = 0.0, list[float | None]()
    filled: list[tuple[Stretch, float]] = []
    begin_m, most_m3s, last_m3s = start_m, math.inf, None
    for stretch in way:
        parts = max(1, math.ceil(STEPS * stretch.length_m / whole_m)) if whole_m > 0.0 else 1
        step_m = stretch.length_m / parts
        for part in range(parts):
            middle_m = begin_m + (stretch.end_m - begin_m) * (part + 0.5) / parts
            run = [*filled, (stretch, step_m * (part + 0.5))]
            full = _flow_m3s(surface_m - middle_m, run, viscosity_m2s, last_m3s)
            flow, last_m3s = min(most_m3s, full), full or last_m3s
            if flow <= 0.0:
                return [*found, *[None] * (len(way) - len(found))]
            time_s += bore_area_m2(stretch.bore_m) * step_m / flow
        filled.append((stretch, stretch.length_m))
        found.append(time_s)
        if stretch.end_m > begin_m:  # it may be a high point: what runs over it bounds what comes after
            most_m3s = min(most_m3s, _flow_m3s(surface_m - stretch.end_m, filled, viscosity_m2s))
        begin_m = stretch.end_m
    return found


def _flow_m3s(
    head_m: float, run: Sequence[tuple[Stretch, float]], viscosity_m2s: float, guess_m3s: float | None = None
) -> float:
    """Return the flow [m3/s] whose friction over the filled part takes a head [m], to 1e-6; 0 where there is none.

    Stopping: Newton's method on the logarithms, in which friction is nearly a straight line.
    """
    if head_m < LEAST_HEAD_M:
        return 0.0
    flow = guess_m3s or min(bore_area_m2(stretch.bore_m) for stretch, _ in run)
    for _ in range(MOST_STEPS):
        takes = sum(stretch.loss_m(length_m, flow, viscosity_m2s) for stretch, length_m in run)
        change = math.log(head_m / takes) / POWER
        flow *= math.exp(change)
        if abs(change) < CLOSE:
            break
    return flow
