"""JSON of standby containers: whom they water for how long, load, reach, emptying, trips, what a line would save."""

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import lpm_from_m3s
from leadsman.core.design import label
from leadsman.core.design.price_book import PRICED_IN
from leadsman.core.parts.parts_list import parts_list
from leadsman.core.report.base import Report
from leadsman.core.standby.standby import StandbyAnswer, standbys


class LoadReport(Report):
    """Weight full, and under each foot with its pressure, on level and on uneven ground; null where not known."""

    full_kg: float
    level_kg: float | None
    uneven_kg: float | None
    level_kpa: float | None
    uneven_kpa: float | None


class StandbyReport(Report):
    """What a standby is good for in the case shown; times null where unknown, or where nothing runs.

    `line_price` is what the plan's parts cost, 0 where unknown: a line saves what bringing all the water costs.
    """

    id: str
    herds: list[str]
    need_lpd: float
    lasts_s: float | None
    away_m: float
    reaches: bool | None
    fills_away_m: float | None
    fall_m: float
    first_lpm: float | None
    empties_s: float | None
    stays_l: float
    fill_s: float | None
    load: LoadReport
    trips_per_week: float | None
    trip_min: float | None
    hours_per_week: float | None
    price_per_week: float | None
    line_price: float


class StandbysReport(Report):
    standbys: list[StandbyReport]


def standbys_report(analysis: Analysis) -> StandbysReport:
    """Return what every standby of a design is good for."""
    found = standbys(analysis)
    priced = bool(found) and (analysis.document.site.currency == PRICED_IN or bool(analysis.document.prices))
    price = parts_list(analysis.document).price if priced else 0.0
    return StandbysReport(standbys=[_standby(answer, price) for answer in found])


def _standby(answer: StandbyAnswer, line_price: float) -> StandbyReport:
    load, trips = answer.load, answer.trips
    return StandbyReport(
        id=answer.standby.id,
        herds=[label(herd) for herd in answer.herds],
        need_lpd=answer.need_lpd,
        lasts_s=answer.lasts_s,
        away_m=answer.away_m,
        reaches=answer.reaches,
        fills_away_m=answer.fills_away_m,
        fall_m=answer.fall_m,
        first_lpm=None if answer.first_m3s is None else lpm_from_m3s(answer.first_m3s),
        empties_s=answer.empties_s,
        stays_l=answer.stays_l,
        fill_s=answer.fill_s,
        load=LoadReport(
            full_kg=load.full_kg,
            level_kg=load.level_kg,
            uneven_kg=load.uneven_kg,
            level_kpa=None if load.level_pa is None else load.level_pa / 1000.0,
            uneven_kpa=None if load.uneven_pa is None else load.uneven_pa / 1000.0,
        ),
        trips_per_week=None if trips is None else trips.per_week,
        trip_min=None if trips is None else trips.minutes,
        hours_per_week=None if trips is None else trips.hours_per_week,
        price_per_week=None if trips is None else trips.price_per_week,
        line_price=line_price,
    )
