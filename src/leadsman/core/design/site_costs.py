"""What is paid beside the parts: stands, digging, bringing things; by the site's own figures, else typical ones.

Typical prices are in US dollars and count for sites in that currency only.
"""

import math
from dataclasses import dataclass

from leadsman.core.design import Design, Vessel
from leadsman.core.design.price import Costs
from leadsman.core.design.price_book import in_site_money
from leadsman.core.design.store import full_kg

TRENCH_PRICE = 4.0  # US dollars a metre by a contractor's machine, laid and closed; typical, from memory, rough
# ours, no source, to be asked for: a metre of stand for each tonne; a machine for a day, and its metres; one load
STAND_PRICE_M_T, MACHINE_PRICE_DAY, MACHINE_M_DAY, TRIP_PRICE, LOAD_KG = 80.0, 250.0, 150.0, 40.0, 500.0
KEPT_SHARE = 0.5  # of its price, what is lifted again is worth; ours, no source
TONNE_KG = 1_000.0


@dataclass(frozen=True, kw_only=True)
class Paid:
    """A sum in the site's money, None where nobody knows, and whether some of it is typical and not the site's own."""

    price: float | None
    typical: bool = False


def costs_of(design: Design) -> Costs:
    """Return what the design says of costs; nothing of its own where it says nothing."""
    return design.costs or Costs()


def stand_price_per_m(design: Design, vessel: Vessel) -> Paid:
    """Return what a metre of stand under a vessel costs, by what the vessel weighs when full."""
    each = _typical(design, costs_of(design).stand_per_m_t, STAND_PRICE_M_T)
    tonnes = full_kg(vessel) / TONNE_KG
    return Paid(price=None if each.price is None else each.price * tonnes, typical=each.typical)


def trench_price_per_m(design: Design) -> Paid:
    """Return what a contractor takes for a metre of trench, laid and closed."""
    return _typical(design, costs_of(design).digging_per_m, TRENCH_PRICE)


def digging_price(design: Design, trench_m: float) -> Paid:
    """Return what a trench [m] costs by the way in which it is dug: whole days of a machine, metres of a contractor."""
    costs = costs_of(design)
    if costs.digging == "by hand" or trench_m <= 0.0:
        return Paid(price=0.0)
    if costs.digging == "hired out":
        each = trench_price_per_m(design)
        return Paid(price=None if each.price is None else each.price * trench_m, typical=each.typical)
    day = _typical(design, costs.machine_per_day, MACHINE_PRICE_DAY)
    days = math.ceil(trench_m / (costs.machine_m_per_day or MACHINE_M_DAY))
    typical = day.typical or costs.machine_m_per_day is None
    return Paid(price=None if day.price is None else day.price * days, typical=typical)


def trips_for(design: Design, weight_kg: float) -> int:
    """Return how many loads a weight [kg] is."""
    return math.ceil(weight_kg / (costs_of(design).load_kg or LOAD_KG))


def trips_price(design: Design, weight_kg: float) -> Paid:
    """Return what it costs to bring or remove a weight [kg], by whole loads."""
    costs = costs_of(design)
    each, trips = _typical(design, costs.trip, TRIP_PRICE), trips_for(design, weight_kg)
    if not trips:
        return Paid(price=0.0)
    return Paid(price=None if each.price is None else each.price * trips, typical=each.typical or costs.load_kg is None)


def _typical(design: Design, own: float | None, typical: float) -> Paid:
    return Paid(price=in_site_money(design, typical), typical=True) if own is None else Paid(price=own)
