"""What is needed while a frost lasts: what animals drink in its cold, and what plants and ponds take on its days."""

from dataclasses import dataclass

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.water_system import WaterSystem
from leadsman.core.base.errors import CoreError
from leadsman.core.base.units import LITRE_M3
from leadsman.core.design import Vessel
from leadsman.core.design.frost import Frost
from leadsman.core.farm.demand import HerdDemand, herd_demands
from leadsman.core.farm.grazing import stops_on, walking_limit_m
from leadsman.core.farm.growing import OtherDemand, other_demands
from leadsman.core.farm.intake import COLDEST_C


@dataclass(frozen=True, kw_only=True)
class WinterWalk:
    """A herd in a frost: what it needs, how far its class walks to water then, and how far its paddocks reach [m]."""

    demand: HerdDemand
    limit_m: float
    farthest_m: float | None


@dataclass(frozen=True, kw_only=True)
class WinterNeed:
    """Demands of herds in a frost's cold on its first day, and of all else."""

    herds: list[HerdDemand]
    others: list[OtherDemand]
    walks: list[WinterWalk]

    @property
    def daily_l(self) -> float:
        """All that is needed in a day [L]."""
        return sum(one.daily_l for one in self.herds) + sum(one.daily_l for one in self.others)

    def of_system_m3(self, system: WaterSystem) -> float:
        """Return what is needed of a system in a day [m3]."""
        return system.daily_l(self.herds, self.others) * LITRE_M3

    def of_trough_m3(self, vessel: Vessel, filled_by: set[str]) -> float:
        """Return what herds drink of a vessel in a day [m3], through the outlets that fill it."""
        drunk = sum(
            one.daily_l * len(filled_by & set(one.outlets)) / len(one.outlets) for one in self.herds if one.outlets
        )
        return (drunk + sum(one.daily_l for one in self.others if one.where == vessel.id)) * LITRE_M3


def winter_need(analysis: Analysis, frost: Frost) -> WinterNeed:
    """Return what is needed in a frost: herds by its air instead of the case's, plants by its first day."""
    case = analysis.scenario.model_copy(update={"air_c": max(frost.air_c, COLDEST_C), "date": frost.from_})
    design, southern = analysis.document, analysis.document.site.is_southern
    herds = herd_demands(design, case)
    try:
        others = other_demands(design, case.model_copy(update={"least_air_c": None}), analysis.timed_flows_lpm)
    except CoreError:  # plants by their area go by weather that a frost does not tell
        others = analysis.other_demands
    walks = []
    for demand in herds:
        reaches = [stop.farthest_m for stop in stops_on(design, demand.herd, frost.from_) if stop.farthest_m]
        limit_m = walking_limit_m(demand.herd.animal, frost.from_, southern=southern)
        walks.append(WinterWalk(demand=demand, limit_m=limit_m, farthest_m=max(reaches, default=None)))
    return WinterNeed(herds=herds, others=others, walks=walks)
