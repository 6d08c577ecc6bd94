"""Water brought by vehicle: litres, weight, hours and cost a week."""

from dataclasses import dataclass

from leadsman.core.design import HaulInflow

KG_PER_L = 1.0  # to within 0.5 % up to 30 °C
WEEK_D = 7.0


@dataclass(frozen=True, kw_only=True)
class Hauling:
    """A week of hauling: litres, hours, cost (None without a price); and what a full load weighs [kg]."""

    weekly_l: float
    weekly_h: float
    weekly_price: float | None
    load_kg: float

    @property
    def daily_l(self) -> float:
        return self.weekly_l / WEEK_D


def hauling(haul: HaulInflow) -> Hauling:
    """Return what a week of hauling brings and takes.

    Source: trips times litres and minutes; a litre weighs a kilogram to within 0.5 % up to 30 °C.
    >>> week = hauling(HaulInflow(id="h", fills="t", kind="haul", trip_l=800.0, trip_min=30.0, trips_per_week=3.5))
    >>> week.weekly_l, week.weekly_h, week.daily_l, week.load_kg
    (2800.0, 1.75, 400.0, 800.0)
    """
    price = None if haul.price_per_trip is None else haul.price_per_trip * haul.trips_per_week
    return Hauling(
        weekly_l=haul.trip_l * haul.trips_per_week,
        weekly_h=haul.trip_min * haul.trips_per_week / 60.0,
        weekly_price=price,
        load_kg=haul.trip_l * KG_PER_L + haul.tank_empty_kg,
    )
