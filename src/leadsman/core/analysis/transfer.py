"""What inflows bring to each system, the same water counted once: a transfer takes from another vessel of the plan."""

from collections.abc import Callable, Sequence

import numpy as np

from leadsman.core.analysis.water_system import WaterSystem
from leadsman.core.base.array import Floats
from leadsman.core.design import Design, InflowBase, PumpInflow, Scenario, SteadyInflow, Vessel
from leadsman.core.design.store import volume_between_m3
from leadsman.core.farm.daily_weather import DailyWeather
from leadsman.core.farm.inflow import daily_m3, season_daily_m3
from leadsman.core.farm.transfer_run import Pool, transferred_m3

Change = Callable[[InflowBase, Floats, Floats], Floats]


def drawn_from(inflow: InflowBase) -> str | None:
    """Return the vessel of the plan that an inflow takes its water from; None where it brings it from elsewhere."""
    return inflow.draws_from if isinstance(inflow, PumpInflow | SteadyInflow) else None


def feeding(inflows: Sequence[InflowBase], of_plan: Sequence[InflowBase]) -> list[InflowBase]:
    """Return some inflows, with those of the whole plan that fill what they draw from, and so on."""
    found = list(inflows)
    for inflow in found:
        source = drawn_from(inflow)
        found += [other for other in of_plan if other.fills == source and other not in found]
    return found


class _Transfers:
    """What the inflows of a plan bring on each day [m3], shape (days,), each found once."""

    def __init__(
        self,
        design: Design,
        systems: Sequence[WaterSystem],
        capacity: Callable[[InflowBase], Floats],
        passed_on: Change,
    ) -> None:
        """Begin with nothing found.

        Args:
            capacity: what an inflow brings where nothing else limits it.
            passed_on: what a transfer brings of what comes into the vessel it draws from, by it, by what comes there
                that other transfers do not take, and by its capacity.
        """
        self.design, self.capacity, self.passed_on = design, capacity, passed_on
        self.system_of_store = {store.id: system for system in systems for store in system.stores}
        self.found: dict[str, Floats] = {}

    def pool(self, vessel_id: str) -> list[InflowBase]:
        """Return what fills a vessel, or the stores that it is one system with."""
        system = self.system_of_store.get(vessel_id)
        if system is not None:
            return system.inflows
        return [inflow for inflow in self.design.inflows if inflow.fills == vessel_id]

    def brought(self, inflow: InflowBase) -> Floats:
        """Return what an inflow brings to what it fills, from without."""
        if inflow.id not in self.found:
            self.found[inflow.id] = self._brought(inflow)
        return self.found[inflow.id]

    def _brought(self, inflow: InflowBase) -> Floats:
        most, source = self.capacity(inflow), drawn_from(inflow)
        if source is None:
            return most
        here = self.system_of_store.get(inflow.fills)
        within = here is not None and self.system_of_store.get(source) is here
        if within:
            return 0.0 * most
        straight = [other for other in self.pool(source) if inflow not in self._upstream(other)]
        comes = sum((self.brought(other) for other in straight), 0.0 * most)
        earlier = [other for other in self._drawing(source) if other.id in self.found]
        taken = sum((self.found[other.id] for other in earlier), 0.0 * most)
        return self.passed_on(inflow, comes - taken, most)

    def _upstream(self, inflow: InflowBase) -> list[InflowBase]:
        """Return an inflow with all whose water may be in what it brings."""
        found = [inflow]
        for other in found:
            source = drawn_from(other)
            found += [before for before in (self.pool(source) if source else ()) if before not in found]
        return found

    def _drawing(self, vessel_id: str) -> list[InflowBase]:
        alike = {feeding.fills for feeding in self.pool(vessel_id)} | {vessel_id}
        return [other for other in self.design.inflows if drawn_from(other) in alike]


def day_inflows_m3(
    design: Design, systems: Sequence[WaterSystem], scenario: Scenario, demand_m3: Callable[[WaterSystem], float]
) -> dict[str, float]:
    """Return by inflow what it brings in a day of a case [m3], of a transfer what the vessel it draws from can spare.

    That is what comes into that vessel in the day, less what its own system needs: what stands in it is not refill.

    Args:
        demand_m3: a system's demand of the day.
    Raises: as `daily_m3` does.
    """

    def spared(inflow: InflowBase, comes: Floats, most: Floats) -> Floats:
        own = transfers.system_of_store.get(drawn_from(inflow) or "")
        return np.clip(comes - (demand_m3(own) if own else 0.0), 0.0, most)

    transfers = _Transfers(design, systems, lambda inflow: np.array([daily_m3(inflow, scenario)]), spared)
    return {inflow.id: float(transfers.brought(inflow)[0]) for inflow in design.inflows}


def season_inflows_m3(
    design: Design,
    systems: Sequence[WaterSystem],
    weather: DailyWeather,
    pool_of: Callable[[WaterSystem], Pool],
) -> dict[str, Floats]:
    """Return by inflow what it brings on each day of a weather [m3], shape (days,).

    A transfer takes from what stands in its vessel and comes into it, and runs while there is room where it leads.

    Args:
        pool_of: a system's store and demand, without what comes in.
    Raises: as `season_daily_m3` does.
    """
    vessels = {vessel.id: vessel for vessel in design.vessels}

    def pool(vessel_id: str) -> Pool:
        system = transfers.system_of_store.get(vessel_id)
        return pool_of(system) if system else _still_pool(vessels[vessel_id], weather.days)

    def run(inflow: InflowBase, comes: Floats, most: Floats) -> Floats:
        others = [other for other in transfers.pool(inflow.fills) if drawn_from(other) is None]
        beside = sum((transfers.brought(other) for other in others), 0.0 * most)
        return transferred_m3(most, pool(drawn_from(inflow) or ""), comes, pool(inflow.fills), beside)

    transfers = _Transfers(design, systems, lambda inflow: season_daily_m3(inflow, weather), run)
    return {inflow.id: transfers.brought(inflow) for inflow in design.inflows}


def _still_pool(vessel: Vessel, days: int) -> Pool:
    """Return a vessel from which only transfers take."""
    holds = volume_between_m3(vessel, vessel.outlet_m, vessel.brim_m)
    stands = min(holds, volume_between_m3(vessel, vessel.outlet_m, vessel.level_m))
    return Pool(holds_m3=holds, starts_m3=stands, demand_m3=np.zeros(days))
