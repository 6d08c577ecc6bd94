"""The store through a season: reliability, gaps, days in hand, and what would close the gap."""

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from leadsman.core.base.array import Floats
from leadsman.core.base.cached import cached_property
from leadsman.core.design import InflowBase, RainInflow
from leadsman.core.farm.daily_weather import DailyWeather
from leadsman.core.farm.rain import plan_area_m2
from leadsman.core.farm.store_run import Order, StoreRun, run_store
from leadsman.core.farm.transfer_run import Pool

SIZES, WIDEST = 40, 20.0  # sizes tried, and how many times the store there is the largest of them
SHARES = (0.95, 0.99, 0.999)
REFINED = 40
ROOF_TIMES = np.geomspace(1.0, WIDEST, SIZES)
ADDED_TIMES = np.linspace(0.0, 2.0, 2 * SIZES + 1)  # of the mean demand


@dataclass(frozen=True, kw_only=True)
class StoreSeason:
    """A store in a weather: what comes from each inflow and what is needed on each day [m3], shape (days,).

    `capacity_m3` is what it holds for use, `start_m3` what is in it at first, `area_m2` the roofs that feed it.
    """

    weather: DailyWeather
    inflows_m3: dict[str, Floats]
    rain_m3: Floats
    demand_m3: Floats
    capacity_m3: float
    start_m3: float
    area_m2: float

    @cached_property
    def inflow_m3(self) -> Floats:
        """What comes in on each day from all inflows [m3]."""
        return np.asarray(sum(self.inflows_m3.values(), np.zeros(self.weather.days)))

    @cached_property
    def cautious(self) -> StoreRun:
        """The store as it is, yield after spillage."""
        return self.run("after")

    @cached_property
    def hopeful(self) -> StoreRun:
        """The store as it is, yield before spillage."""
        return self.run("before")

    def run(self, order: Order) -> StoreRun:
        """Return the store as it is, in one of the published orders."""
        return run_store(self.inflow_m3, self.demand_m3, np.array([self.capacity_m3]), np.array([self.start_m3]), order)

    @cached_property
    def sizes_m3(self) -> Floats:
        """Stores for the curve [m3], the present one among them; 1 m3 where there is none yet."""
        least = max(self.capacity_m3, 1.0)
        many = np.geomspace(least / WIDEST, least * WIDEST, SIZES - 1)
        return np.unique(np.append(many, least))

    @cached_property
    def curve(self) -> Floats:
        """Share of days met by each of `sizes_m3` [-], yield after spillage."""
        return self._shares(self.sizes_m3)

    def size_for(self, share: float) -> float | None:
        """Return the least store [m3] that meets a share of days; None where not the largest that is tried does."""
        enough = np.flatnonzero(self.curve >= share)
        if not len(enough):
            return None
        first = int(enough[0])
        if first == 0:
            return float(self.sizes_m3[0])
        between = np.linspace(self.sizes_m3[first - 1], self.sizes_m3[first], REFINED + 1)[1:]
        return float(between[np.flatnonzero(self._shares(between) >= share)[0]])

    def roof_for(self, share: float) -> float | None:
        """Return the roof area in all [m2] with which the store meets a share of days; None where no roof does."""
        if self.area_m2 <= 0.0:
            return None
        times = _first(ROOF_TIMES, self._with_roofs, share)
        return None if times is None else times * self.area_m2

    def steady_for(self, share: float) -> float | None:
        """Return the steady inflow [m3/d] that is to be added so that a share of days is met; None where none does."""
        times = _first(ADDED_TIMES, self._with_more, share)
        return None if times is None else times * float(self.demand_m3.mean())

    @cached_property
    def _with_roofs(self) -> Floats:
        """Share of days met with so many times the roofs that there are [-]."""
        return self._shares_with(self.rain_m3[:, None] * (ROOF_TIMES - 1.0))

    @cached_property
    def _with_more(self) -> Floats:
        """Share of days met with so many times the mean demand coming in besides [-]."""
        return self._shares_with(np.outer(np.ones(self.weather.days), ADDED_TIMES * self.demand_m3.mean()))

    def _shares_with(self, more_m3: Floats) -> Floats:
        many = more_m3.shape[1]
        holds, first = np.full(many, self.capacity_m3), np.full(many, self.start_m3)
        return self._lasting(self.inflow_m3[:, None] + more_m3, holds, first)

    def _shares(self, sizes_m3: Floats) -> Floats:
        start = np.minimum(sizes_m3, self.start_share * sizes_m3)
        return self._lasting(
            np.broadcast_to(self.inflow_m3[:, None], (self.weather.days, len(sizes_m3))), sizes_m3, start
        )

    @cached_property
    def lasting_share(self) -> float:
        """Share of days met [-] where the weather comes again and again: of the first time and of the later ones."""
        holds, first = np.array([self.capacity_m3]), np.array([self.start_m3])
        return float(self._lasting(self.inflow_m3[:, None], holds, first)[0])

    @property
    def lacking_m3(self) -> float:
        """By how much the mean of a day's inflow is below that of its demand [m3], 0 where it is not."""
        return max(0.0, float(self.demand_m3.mean() - self.inflow_m3.mean()))

    def _lasting(self, inflow_m3: Floats, holds_m3: Floats, start_m3: Floats) -> Floats:
        """Return the share of days that stores meet [-], the less of the first run of the weather and of later ones.

        Where less comes in than is needed, what is in store at first only puts off the shortage: the later runs begin
        empty. Else they begin where the first one ends.

        Args:
            inflow_m3: of each day into each store [m3], shape (days, stores).
        """
        first = run_store(inflow_m3, self.demand_m3, holds_m3, start_m3)
        lacks = inflow_m3.sum(axis=0) < self.demand_m3.sum() * (1.0 - 1e-9)
        later_m3 = np.where(lacks, 0.0, first.volumes_m3[-1])
        if np.any(lacks):  # one empty run more, and it stands where it will stand each time
            later_m3 = np.where(
                lacks, run_store(inflow_m3, self.demand_m3, holds_m3, later_m3).volumes_m3[-1], later_m3
            )
        later = run_store(inflow_m3, self.demand_m3, holds_m3, np.minimum(later_m3, holds_m3))
        return np.minimum(first.days_share, later.days_share)

    @property
    def start_share(self) -> float:
        """How full the store is at first [-]."""
        return self.start_m3 / self.capacity_m3 if self.capacity_m3 > 0.0 else 0.0

    @cached_property
    def days_in_hand(self) -> Floats:
        """Days that each day's end would last with no more coming in, by the demand of the days after, shape (days,).

        Past the end of the series its need begins again.
        """
        days = self.weather.days
        rounds = 1 + int(np.ceil(self.capacity_m3 / max(float(self.demand_m3.sum()), 1e-9)))
        demand = np.tile(self.demand_m3, 1 + min(rounds, 40))
        drunk = np.concatenate([[0.0], np.cumsum(demand)])
        goal = drunk[1 : days + 1] + self.cautious.volumes_m3[:, 0]
        upto = np.searchsorted(drunk, goal, side="right") - 1
        upto = np.minimum(upto, len(demand) - 1)
        part = (goal - drunk[upto]) / np.maximum(demand[upto], 1e-12)
        return np.asarray(np.minimum(upto + np.minimum(part, 1.0), len(demand)) - np.arange(1, days + 1))


def store_season(
    weather: DailyWeather, inflows: list[InflowBase], brings_m3: Mapping[str, Floats], store: Pool
) -> StoreSeason:
    """Return the store through a weather.

    Args:
        brings_m3: by inflow, what it brings on each day [m3], shape (days,).
    """
    by_inflow = {inflow.id: brings_m3[inflow.id] for inflow in inflows}
    roofs = [inflow for inflow in inflows if isinstance(inflow, RainInflow)]
    rain = np.asarray(sum((by_inflow[roof.id] for roof in roofs), np.zeros(weather.days)))
    return StoreSeason(
        weather=weather,
        inflows_m3=by_inflow,
        rain_m3=rain,
        demand_m3=store.demand_m3,
        capacity_m3=store.holds_m3,
        start_m3=store.starts_m3,
        area_m2=sum(plan_area_m2(roof) for roof in roofs),
    )


def _first(times: Floats, shares: Floats, wanted: float) -> float | None:
    enough = np.flatnonzero(shares >= wanted)
    return float(times[enough[0]]) if len(enough) else None
