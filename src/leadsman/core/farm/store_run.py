"""A store day by day: what comes in, what is drawn, what spills; for many sizes of store at once.

Two published orders bracket what happens within a day. Yield before spillage: what comes in can be drawn the same
day, and only what is then too much spills. Yield after spillage: only what stood there in the morning can be drawn,
and what comes in spills where there is no room before that draw. Source: Jenkins et al. 1978, from memory.
"""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from leadsman.core.base.array import Floats
from leadsman.core.base.errors import require_between

Order = Literal["before", "after"]
MET_WITHIN = 1e-9  # of a day's demand


@dataclass(frozen=True, kw_only=True)
class StoreRun:
    """Volume at each day's end, what was supplied and what spilled [m3], shape (days, stores)."""

    volumes_m3: Floats
    supplied_m3: Floats
    spilled_m3: Floats
    demand_m3: Floats

    @property
    def unmet_m3(self) -> Floats:
        """What was lacking on each day [m3]."""
        return np.asarray(self.demand_m3 - self.supplied_m3)

    @property
    def met(self) -> Floats:
        """Days whose whole need was supplied, as booleans."""
        return np.asarray(self.unmet_m3 <= MET_WITHIN * np.maximum(self.demand_m3, 1e-12))

    @property
    def days_share(self) -> Floats:
        """Share of days whose whole need was supplied [-], shape (stores,)."""
        return np.asarray(self.met.mean(axis=0))

    @property
    def volume_share(self) -> Floats:
        """Share of the whole need that was supplied [-], shape (stores,); 1 where nothing is needed."""
        whole = self.demand_m3.sum(axis=0)
        return np.where(whole > 0.0, self.supplied_m3.sum(axis=0) / np.where(whole > 0.0, whole, 1.0), 1.0)

    def longest_gap_d(self, store: int = 0) -> int:
        """Return the most days on end whose demand was not wholly met."""
        longest = now = 0
        for met in self.met[:, store].tolist():
            now = 0 if met else now + 1
            longest = max(longest, now)
        return longest


def run_store(
    inflow_m3: Floats, demand_m3: Floats, capacity_m3: Floats, start_m3: Floats, order: Order = "after"
) -> StoreRun:
    """Return how stores of some capacities stand a series of days.

    Args:
        inflow_m3, demand_m3: of each day [m3], shape (days,) or (days, stores), not negative.
        capacity_m3: what each store holds for use [m3], shape (stores,), not negative.
        start_m3: what is in it at first, no more than it holds.
        order: which comes first in a day: "before" draws before it spills, "after" after.
    Raises:
        OutOfRange: a capacity is negative or not a number, or a store starts with more than it holds.
    """
    capacity = np.atleast_1d(np.asarray(capacity_m3, dtype=float))
    start = np.broadcast_to(np.asarray(start_m3, dtype=float), capacity.shape)
    for holds, first in zip(capacity.tolist(), start.tolist(), strict=True):
        require_between("capacity [m3]", holds, 0.0, 1e12)
        require_between("start [m3]", first, 0.0, holds * (1.0 + 1e-12))
    stores, days = len(capacity), len(inflow_m3)
    come, demand = (
        np.broadcast_to(np.reshape(given_m3, (days, -1)), (days, stores)) for given_m3 in (inflow_m3, demand_m3)
    )
    if stores == 1:
        volumes, supplied, spilled = _one(come[:, 0], demand[:, 0], float(capacity[0]), float(start[0]), order)
        return StoreRun(
            volumes_m3=volumes[:, None], supplied_m3=supplied[:, None], spilled_m3=spilled[:, None], demand_m3=demand
        )
    volumes, supplied, spilled = (np.empty((days, stores)) for _ in range(3))
    volume = start.copy()
    for day in range(days):
        both = volume + come[day]
        drawn = np.minimum(both if order == "before" else volume, demand[day])
        kept = np.minimum(both - drawn, capacity) if order == "before" else np.minimum(both, capacity) - drawn
        volumes[day], supplied[day], spilled[day] = kept, drawn, both - drawn - kept
        volume = kept
    return StoreRun(volumes_m3=volumes, supplied_m3=supplied, spilled_m3=spilled, demand_m3=demand)


def _one(come: Floats, demand: Floats, capacity: float, start: float, order: Order) -> tuple[Floats, Floats, Floats]:
    volume = start
    volumes, supplied, spilled = [], [], []
    for comes, needs in zip(come.tolist(), demand.tolist(), strict=True):
        both = volume + comes
        drawn = min(both if order == "before" else volume, needs)
        kept = min(both - drawn, capacity) if order == "before" else min(both, capacity) - drawn
        volumes.append(kept)
        supplied.append(drawn)
        spilled.append(both - drawn - kept)
        volume = kept
    return np.array(volumes), np.array(supplied), np.array(spilled)
