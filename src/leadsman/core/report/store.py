"""The stores one by one, in the document's units: what each gives, weighs and lasts, and its levels in litres."""

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import LITRE_M3
from leadsman.core.design import HaulInflow, Scenario, Vessel, label
from leadsman.core.design.store import brimful, dead_m3, full_kg, shape_of, usable_m3
from leadsman.core.farm.demand import herd_demands
from leadsman.core.farm.growing import other_demands
from leadsman.core.farm.supply import StoreSeason
from leadsman.core.report.base import Report

MARK_M, MOST_MARKS = 0.05, 60
WEEK_D = 7


class StoreReport(Report):
    """One store that feeds outlets: what it gives now, what is unusable, what it weighs full; litres by the level.

    `full_share` is its level now over the one at which it is full.
    """

    vessel: str
    usable_l: float
    dead_l: float
    full_kg: float
    full_share: float | None
    marks_m: list[float]
    marks_l: list[float]


class StandingReport(Report):
    """A standing tank that is hauled to: what is drawn from it in a day, days to empty, and what fills it up."""

    vessel: str
    drawn_lpd: float
    days: float | None
    fill_l: float


class BarReport(Report):
    """What comes in and goes out in a day: of a case, or in the worst week of the season."""

    title: str
    in_lpd: float
    out_lpd: float


def store_reports(analysis: Analysis) -> list[StoreReport]:
    """Return each store that feeds outlets in the chosen case."""
    return [_store(vessel, analysis.usable_m3(vessel)) for vessel in analysis.sources_of_outlets]


def round_reports(analysis: Analysis) -> list[StandingReport]:
    """Return the tanks that are hauled to, in the order in which they run empty: the round of refills."""
    hauled = {inflow.fills for inflow in analysis.design.inflows if isinstance(inflow, HaulInflow)}
    standing = [_standing(analysis, vessel) for vessel in analysis.design.vessels if vessel.id in hauled]
    return sorted(standing, key=lambda store: float("inf") if store.days is None else store.days)


def bar_reports(analysis: Analysis) -> list[BarReport]:
    """Return a day of every case, and of the season's worst week, where more goes out than comes in by most."""
    bars = [_case(analysis, case) for case in analysis.design.scenarios or [analysis.scenario]]
    season = analysis.store_season
    if season is not None and season.weather.days >= WEEK_D:
        bars.append(_worst_week(season))
    return bars


def _store(vessel: Vessel, usable_m3: float) -> StoreReport:
    shape, brim = shape_of(vessel), vessel.brim_m
    step = MARK_M * max(1, -(-int(brim / MARK_M) // MOST_MARKS))
    marks = [round(step * number, 3) for number in range(int(brim / step + 1e-9) + 1)]
    return StoreReport(
        vessel=vessel.id,
        usable_l=usable_m3 / LITRE_M3,
        dead_l=dead_m3(vessel) / LITRE_M3,
        full_kg=full_kg(vessel),
        full_share=vessel.level_m / brim if vessel.level_m is not None and brim > 0.0 else None,
        marks_m=marks,
        marks_l=[shape.volume_m3(min(mark, shape.height_m)) / LITRE_M3 for mark in marks],
    )


def _standing(analysis: Analysis, vessel: Vessel) -> StandingReport:
    routes = analysis.routes
    fed = {outlet for outlet, route in routes.items() if route and route.vessel.id == vessel.id}
    herds = sum(
        demand.daily_l / len(demand.outlets)
        for demand in analysis.herds
        for outlet_id in demand.outlets
        if outlet_id in fed
    )
    drawn = herds + sum(demand.daily_l for demand in analysis.other_demands if demand.where in fed)
    return StandingReport(
        vessel=vessel.id,
        drawn_lpd=drawn,
        days=usable_m3(vessel) / LITRE_M3 / drawn if drawn > 0.0 else None,
        fill_l=(usable_m3(brimful(vessel)) - usable_m3(vessel)) / LITRE_M3,
    )


def _case(analysis: Analysis, case: Scenario) -> BarReport:
    system, herds = analysis.worst_system, herd_demands(analysis.design, case)
    others = other_demands(analysis.design, case, analysis.timed_flows_lpm)
    whole = sum(demand.daily_l for demand in herds) + sum(demand.daily_l for demand in others)
    needed = system.daily_l(herds, others) if system else whole
    brought = analysis.brought_m3(case, herds, others)
    come = sum(brought[inflow.id] for inflow in system.inflows) if system else 0.0
    return BarReport(title=label(case), in_lpd=come / LITRE_M3, out_lpd=needed)


def _worst_week(season: StoreSeason) -> BarReport:
    ahead = season.demand_m3 - season.inflow_m3
    weeks = [float(ahead[start : start + WEEK_D].sum()) for start in range(len(ahead) - WEEK_D + 1)]
    start = weeks.index(max(weeks))
    week = slice(start, start + WEEK_D)
    return BarReport(
        title=f"Worst week, from {season.weather.day(start).isoformat()}",
        in_lpd=float(season.inflow_m3[week].mean()) / LITRE_M3,
        out_lpd=float(season.demand_m3[week].mean()) / LITRE_M3,
    )
