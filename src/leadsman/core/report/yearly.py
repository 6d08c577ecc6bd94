"""A year of metered water and of hauling, to hold one design against another."""

import numpy as np

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.water_system import WaterSystem
from leadsman.core.base.units import LITRE_M3
from leadsman.core.design import HaulInflow, SteadyInflow
from leadsman.core.farm.haul import WEEK_D, hauling
from leadsman.core.farm.supply import StoreSeason
from leadsman.core.report.base import Report

YEAR_D = 365.25


class YearlyReport(Report):
    """What a year takes: metered litres, litres and hours of hauling, what that costs (null without a price).

    Metered water is what need leaves over when all else is drawn first, no more than the mains give.
    """

    metered_l: float
    hauled_l: float
    haul_h: float
    haul_price: float | None


class ComparisonReport(Report):
    own: YearlyReport
    other: YearlyReport


def comparison_report(own: Analysis, other: Analysis) -> ComparisonReport:
    """Return a year of each of two designs."""
    return ComparisonReport(own=yearly_report(own), other=yearly_report(other))


def yearly_report(analysis: Analysis) -> YearlyReport:
    """Return a year of a design: of its weather where it has one, else of days like the case shown."""
    inflows = analysis.feeding_inflows
    weeks = [hauling(inflow) for inflow in inflows if isinstance(inflow, HaulInflow)]
    prices = [week.weekly_price for week in weeks]
    each_year = YEAR_D / WEEK_D
    mains = {inflow.id for inflow in inflows if isinstance(inflow, SteadyInflow) and inflow.kind == "mains"}
    if analysis.store_seasons:
        metered = sum(_metered_of_season(season, mains) for season in analysis.store_seasons)
    else:
        metered = sum(_metered_of_day(analysis, system, mains) for system in analysis.systems)
    return YearlyReport(
        metered_l=metered / LITRE_M3 * YEAR_D,
        hauled_l=sum(week.weekly_l for week in weeks) * each_year,
        haul_h=sum(week.weekly_h for week in weeks) * each_year,
        haul_price=None if not weeks or None in prices else sum(price or 0.0 for price in prices) * each_year,
    )


def _metered_of_season(season: StoreSeason, mains: set[str]) -> float:
    """Return the metered water of a system [m3/d], the mean of its season."""
    zero = np.zeros(season.weather.days)
    given = sum((volumes for inflow_id, volumes in season.inflows_m3.items() if inflow_id in mains), zero)
    lacking = season.demand_m3 - (season.inflow_m3 - given)
    return float(np.clip(lacking, 0.0, given).mean())


def _metered_of_day(analysis: Analysis, system: WaterSystem, mains: set[str]) -> float:
    """Return the metered water of a system [m3/d] on a day of the case shown."""
    brought = {inflow.id: analysis.brings_m3[inflow.id] for inflow in system.inflows}
    most = sum(volume for inflow_id, volume in brought.items() if inflow_id in mains)
    lacking = system.daily_l(analysis.herds, analysis.other_demands) * LITRE_M3 - (sum(brought.values()) - most)
    return min(max(lacking, 0.0), most)
