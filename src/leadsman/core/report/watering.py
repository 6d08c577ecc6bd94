"""How herds fare at their troughs, in the document's units."""

import numpy as np

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.watering import Visit, Watering
from leadsman.core.base.units import HOUR_S, LITRE_M3, MINUTE_S, lpm_from_m3s
from leadsman.core.farm.drinking import Habit
from leadsman.core.report.base import Report

MOST_POINTS = 90


class HabitReport(Report):
    """How a herd drinks, as used; `assumed` names the figures that are defaults."""

    share: float
    within_min: float
    visits: float
    rate_lpm: float
    width_m: float
    patience_min: float
    daylight_h: float
    peak_factor: float
    assumed: list[str]


class VisitReport(Report):
    """A mob at its trough; null times where it never comes to that, null longest wait where some find no room."""

    herd: str
    heads: float
    draught_l: float
    places: float
    served_min: float | None
    longest_wait_min: float | None
    most_waiting_share: float
    left_waiting_share: float
    habit: HabitReport


class NearReport(Report):
    """A herd with water near: what it draws in the busiest hours against what comes in."""

    herd: str
    peak_lpm: float
    inflow_lpm: float
    taken_l: float
    holds_l: float
    runs_empty: bool
    habit: HabitReport


class TroughTraceReport(Report):
    """The trough while the mobs drink: minutes from the first, levels above its floor, heads, what comes in."""

    times_min: list[float]
    levels_m: list[float]
    waiting: list[float]
    drinking: list[float]
    inflow_lpm: list[float]


class ClashReport(Report):
    """A time at which timers starve an outlet: minutes from midnight, what it gets and wants."""

    since_min: float
    until_min: float
    crops: list[str]
    timers: list[str]
    outlet: str
    gets_lpm: float
    wanted_lpm: float


class WateringReport(Report):
    outlet: str
    vessel: str
    rim_m: float
    holds_l: float | None
    day_share: float | None
    lowest_level_m: float | None
    lowest_l: float | None
    full_level_m: float | None
    runs_empty: bool
    recovered_min: float | None
    nipples: int
    over_nipples_m: float | None
    weighs_kg: float | None
    visits: list[VisitReport]
    near: list[NearReport]
    trace: TroughTraceReport | None


def watering_reports(analysis: Analysis) -> list[WateringReport]:
    """Return how every trough serves the herds that are said to drink there."""
    return [watering_report(watering) for watering in analysis.waterings]


def clash_reports(analysis: Analysis) -> list[ClashReport]:
    """Return every time at which timers starve an outlet."""
    return [
        ClashReport(
            since_min=clash.since,
            until_min=clash.until,
            crops=list(clash.crops),
            timers=list(clash.timers),
            outlet=clash.outlet,
            gets_lpm=lpm_from_m3s(clash.gets_m3s),
            wanted_lpm=lpm_from_m3s(clash.wanted_m3s),
        )
        for clash in analysis.timer_clashes
    ]


def watering_report(watering: Watering) -> WateringReport:
    """Return how one trough serves its herds."""
    run = watering.run
    daily_l = sum(visit.demand.daily_l for visit in watering.visits)
    return WateringReport(
        outlet=watering.outlet.id,
        vessel=watering.vessel.id,
        rim_m=watering.rim_m,
        holds_l=run.full_m3 / LITRE_M3 if run else None,
        day_share=run.full_m3 / LITRE_M3 / daily_l if run and daily_l else None,
        lowest_level_m=run.lowest_level_m if run else None,
        lowest_l=run.lowest_m3 / LITRE_M3 if run else None,
        full_level_m=float(run.levels_m[0]) if run else None,
        runs_empty=bool(run and run.runs_empty) or any(near.runs_empty for *_, near in watering.near),
        recovered_min=_minutes(run.recovered_s) if run else None,
        nipples=watering.vessel.nipples,
        over_nipples_m=watering.over_nipples_m,
        weighs_kg=watering.lowest_kg,
        visits=[_visit(visit) for visit in watering.visits],
        near=[
            NearReport(
                herd=demand.herd.id,
                peak_lpm=lpm_from_m3s(near.peak_m3s),
                inflow_lpm=lpm_from_m3s(near.inflow_m3s),
                taken_l=near.taken_m3 / LITRE_M3,
                holds_l=near.holds_m3 / LITRE_M3,
                runs_empty=near.runs_empty,
                habit=_habit(habit),
            )
            for demand, habit, near in watering.near
        ],
        trace=_trace(watering),
    )


def _visit(visit: Visit) -> VisitReport:
    run, mob = visit.run, visit.mob
    return VisitReport(
        herd=visit.demand.herd.id,
        heads=mob.heads,
        draught_l=mob.draught_m3 / LITRE_M3,
        places=mob.places,
        served_min=_minutes(run.served_s),
        longest_wait_min=run.longest_wait_s / MINUTE_S if np.isfinite(run.longest_wait_s) else None,
        most_waiting_share=run.most_waiting_share,
        left_waiting_share=run.left_waiting_share,
        habit=_habit(visit.habit),
    )


def _trace(watering: Watering) -> TroughTraceReport | None:
    run = watering.run
    if run is None:
        return None
    times = np.unique(np.concatenate([np.linspace(0.0, run.times_s[-1], MOST_POINTS), run.times_s]))
    levels, waiting, drinking, inflow = (
        np.interp(times, run.times_s, trace).tolist()
        for trace in (run.levels_m, run.waiting, run.drinking, run.inflow_m3s)
    )
    return TroughTraceReport(
        times_min=(times / MINUTE_S).tolist(),
        levels_m=levels,
        waiting=waiting,
        drinking=drinking,
        inflow_lpm=[lpm_from_m3s(flow) for flow in inflow],
    )


def _habit(habit: Habit) -> HabitReport:
    return HabitReport(
        share=habit.share,
        within_min=habit.within_s / MINUTE_S,
        visits=habit.visits,
        rate_lpm=lpm_from_m3s(habit.drinks_m3s),
        width_m=habit.width_m,
        patience_min=habit.patience_s / MINUTE_S,
        daylight_h=habit.daylight_s / HOUR_S,
        peak_factor=habit.peak_factor,
        assumed=list(habit.assumed),
    )


def _minutes(time_s: float | None) -> float | None:
    return None if time_s is None else time_s / MINUTE_S
