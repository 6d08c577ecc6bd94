"""Integration over time until something happens: the one integrator of the core.

Written out rather than taken from scipy because importing scipy.integrate alone takes longer than a
whole `leadsman check`; tests hold it against scipy's.
"""

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from leadsman.core.base.array import Floats

Rate = Callable[[Floats], Floats]
Event = Callable[[Floats], float]

STAGES = [
    np.array(weights)
    for weights in (
        (),
        (1 / 5,),
        (3 / 40, 9 / 40),
        (44 / 45, -56 / 15, 32 / 9),
        (19372 / 6561, -25360 / 2187, 64448 / 6561, -212 / 729),
        (9017 / 3168, -355 / 33, 46732 / 5247, 49 / 176, -5103 / 18656),
        (35 / 384, 0.0, 500 / 1113, 125 / 192, -2187 / 6784, 11 / 84),
    )
]
ERROR = np.array([-71 / 57600, 0.0, 71 / 16695, -71 / 1920, 17253 / 339200, -22 / 525, 1 / 40])
DENSE = np.array(
    [
        (1.0, -8048581381 / 2820520608, 8663915743 / 2820520608, -12715105075 / 11282082432),
        (0.0, 0.0, 0.0, 0.0),
        (0.0, 131558114200 / 32700410799, -68118460800 / 10900136933, 87487479700 / 32700410799),
        (0.0, -1754552775 / 470086768, 14199869525 / 1410260304, -10690763975 / 1880347072),
        (0.0, 127303824393 / 49829197408, -318862633887 / 49829197408, 701980252875 / 199316789632),
        (0.0, -282668133 / 205662961, 2019193451 / 616988883, -1453857185 / 822651844),
        (0.0, 40617522 / 29380423, -110615467 / 29380423, 69997945 / 29380423),
    ]
)
SAFETY, SHRINK_MOST, GROW_MOST, ORDER = 0.9, 0.2, 8.0, 5
MOST_STEPS = 5_000


@dataclass(frozen=True, kw_only=True)
class Reached:
    """Where an integration ended: time [s], state, and whether the event ended it (else the time ran out).

    `times_s` and `states`, shape (steps + 1, states), are every step on the way, start and end included.
    """

    time_s: float
    state: Floats
    happened: bool
    times_s: Floats
    states: Floats


def run_until(
    rate: Rate,
    start: Sequence[float] | Floats,
    event: Event,
    longest_s: float,
    first_step_s: float,
    relative_tolerance: float,
    tolerances: Sequence[float] | Floats,
    longest_step_s: float = math.inf,
    before_step: Callable[[Floats], None] | None = None,
) -> Reached:
    """Integrate a state from time 0 until an event function changes sign, or the time runs out.

    Args:
        rate: change of each state per second, at a state.
        start: the state at time 0.
        event: a function of the state whose change of sign ends the run.
        longest_s, first_step_s, longest_step_s: above 0 [s].
        relative_tolerance: error allowed in one step, as a share of each state [-].
        tolerances: error allowed beside that, for each state, in its unit.
        before_step: told the state before each step, so that the rate may be set up around it.
    Stopping: the event's time is met to 1e-9 of its step; after 5,000 steps the run counts as ended.
    Source: Dormand & Prince 1980, J. Comp. Appl. Math. 6:19, 5(4); dense output of Shampine 1986.
    """
    time, state, step = 0.0, np.array(start, dtype=float), min(first_step_s, longest_s, longest_step_s)
    least, sign = np.asarray(tolerances, dtype=float), math.copysign(1.0, event(state))
    if before_step:
        before_step(state)
    slope = rate(state)
    times, states = [time], [state]
    happened = False
    for _ in range(MOST_STEPS):
        stages = _stages(rate, state, slope, step)
        after = state + step * (STAGES[6] @ stages[:6])
        allowed = relative_tolerance * np.abs(state) + least
        error = float((np.abs(step * (ERROR @ stages)) / allowed).max())
        factor = SAFETY * error ** (-1 / ORDER) if error > 0.0 else GROW_MOST
        if error > 1.0:
            step *= max(SHRINK_MOST, factor)
            continue
        happened = math.copysign(1.0, event(after)) != sign
        if happened:
            share = _share_at_event(event, sign, state, stages, step)
            time, state = time + share * step, _inside(state, stages, step, share)
        else:
            time, state, slope = time + step, after, stages[6]
        times.append(time)
        states.append(state)
        if happened or time >= longest_s:
            break
        if before_step:
            before_step(state)
            slope = rate(state)
        step = min(step * min(GROW_MOST, factor), longest_s - time, longest_step_s)
    return Reached(time_s=time, state=state, happened=happened, times_s=np.array(times), states=np.array(states))


def _stages(rate: Rate, state: Floats, slope: Floats, step: float) -> Floats:
    stages = np.empty((7, len(state)))
    stages[0] = slope
    for number in range(1, 7):
        stages[number] = rate(state + step * (STAGES[number] @ stages[:number]))
    return stages


def _inside(state: Floats, stages: Floats, step: float, share: float) -> Floats:
    return np.asarray(state + step * (DENSE @ share ** np.arange(1, 5)) @ stages)


def _share_at_event(event: Event, sign: float, state: Floats, stages: Floats, step: float) -> float:
    low, high = 0.0, 1.0
    while high - low > 1e-9:
        middle = (low + high) / 2.0
        if math.copysign(1.0, event(_inside(state, stages, step, middle))) == sign:
            low = middle
        else:
            high = middle
    return high
