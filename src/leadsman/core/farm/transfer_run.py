"""Water transferred from one store of the plan to another, day by day."""

from dataclasses import dataclass

import numpy as np

from leadsman.core.base.array import Floats


@dataclass(frozen=True, kw_only=True)
class Pool:
    """What a store holds for use, what is in it at first, and what is needed of it on each day, shape (days,) [m3]."""

    holds_m3: float
    starts_m3: float
    demand_m3: Floats


def transferred_m3(most_m3: Floats, lower: Pool, lower_in_m3: Floats, upper: Pool, upper_in_m3: Floats) -> Floats:
    """Return what goes over from a lower store to an upper one on each day [m3], shape (days,).

    The lower store's own demand goes first; then as much goes over as the transfer carries, the lower has and the
    upper, after its demand, has room for.

    Args:
        most_m3: what the transfer carries in each day.
        lower_in_m3, upper_in_m3: what comes into each of them otherwise.
    Source: a balance of both stores over each day; our own order within it.
    >>> barn = Pool(holds_m3=5.0, starts_m3=1.0, demand_m3=np.zeros(4))
    >>> knoll = Pool(holds_m3=2.0, starts_m3=2.0, demand_m3=np.array([1.0, 1.0, 1.0, 1.0]))
    >>> transferred_m3(np.full(4, 3.0), barn, np.array([0.0, 4.0, 0.0, 0.0]), knoll, np.zeros(4)).tolist()
    [1.0, 1.0, 1.0, 1.0]
    """
    low, high = lower.starts_m3, upper.starts_m3
    series = (most_m3, lower_in_m3, lower.demand_m3, upper_in_m3, upper.demand_m3)
    over: list[float] = []
    for most, low_in, low_demand, high_in, high_demand in zip(*(figures.tolist() for figures in series), strict=True):
        low = max(0.0, low + low_in - low_demand)
        after_demand = max(0.0, high + high_in - high_demand)
        short = max(0.0, high_demand - high - high_in)
        going = max(0.0, min(most, low, short + upper.holds_m3 - after_demand))
        low = min(low - going, lower.holds_m3)
        high = min(after_demand + max(0.0, going - short), upper.holds_m3)
        over.append(going)
    return np.array(over)
