"""What stands at each drinker when the line breaks: litres below the float, and days for the animals there."""

from dataclasses import dataclass

from leadsman.core.base.units import LITRE_M3
from leadsman.core.design import Design, FloatValveOutlet, Scenario, Vessel
from leadsman.core.design.store import kept_m3
from leadsman.core.farm.demand import HerdDemand, herd_demands
from leadsman.core.farm.drinking import out_of_reach_m3


@dataclass(frozen=True, kw_only=True)
class Reserve:
    """A vessel that animals drink from: what it holds for them with its float shut [m3], and what they take [m3/d]."""

    vessel: Vessel
    herds: list[HerdDemand]
    held_m3: float
    daily_m3: float

    @property
    def days(self) -> float:
        """For how many days it lasts with nothing coming in."""
        return self.held_m3 / self.daily_m3


def reserves(design: Design, scenario: Scenario) -> list[Reserve]:
    """Return the reserve of each vessel that herds drink from on the day of a scenario, the shortest first.

    Source: volume of its shape up to the level at which the last of its floats shuts, less what nobody can
    drink, over the herds' demand; a herd at several outlets takes an equal part at each.
    """
    vessels = {vessel.id: vessel for vessel in design.vessels}
    valves: dict[str, list[FloatValveOutlet]] = {}
    for outlet in design.outlets:
        if isinstance(outlet, FloatValveOutlet) and outlet.fills is not None:
            valves.setdefault(outlet.fills, []).append(outlet)
    fills = {outlet.id: outlet.fills for outlet in design.outlets}
    drinking: dict[str, list[tuple[HerdDemand, float]]] = {}
    for demand in herd_demands(design, scenario):
        for outlet_id in demand.outlets:
            vessel_id = fills.get(outlet_id)
            if vessel_id in valves:
                drinking.setdefault(vessel_id, []).append((demand, demand.daily_l / len(demand.outlets)))
    found = [
        Reserve(
            vessel=vessels[vessel_id],
            herds=[demand for demand, _ in there],
            held_m3=max(
                max(kept_m3(vessels[vessel_id], outlet.valve) for outlet in valves[vessel_id])
                - out_of_reach_m3(vessels[vessel_id]),
                0.0,
            ),
            daily_m3=sum(litres for _, litres in there) * LITRE_M3,
        )
        for vessel_id, there in drinking.items()
    ]
    return sorted((one for one in found if one.daily_m3 > 0.0), key=lambda one: one.days)
