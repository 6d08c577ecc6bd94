"""What each source brings in a day of the case shown, and what is to be known of it."""

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.transfer import drawn_from
from leadsman.core.base.units import DAY_S, LITRE_M3, MINUTE_S
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import HaulInflow, InflowBase, PumpInflow, RainInflow, RamInflow, SteadyInflow, label
from leadsman.core.farm.haul import hauling
from leadsman.core.farm.inflow import daily_m3
from leadsman.core.farm.pump_cycle import pump_cycle
from leadsman.core.farm.rain import plan_area_m2
from leadsman.core.report.base import Report, Words, words


class InflowReport(Report):
    id: str
    daily_l: float
    told_words: Words


def inflow_reports(analysis: Analysis) -> list[InflowReport]:
    """Return what each source brings."""
    return [_inflow(analysis, inflow) for inflow in analysis.design.inflows]


def _inflow(analysis: Analysis, inflow: InflowBase) -> InflowReport:
    daily_l = analysis.brings_m3[inflow.id] / LITRE_M3
    told = (*_limited_by_its_source(analysis, inflow, daily_l), *_told(analysis, inflow, daily_l))
    return InflowReport(id=inflow.id, daily_l=daily_l, told_words=words(told))


def _limited_by_its_source(analysis: Analysis, inflow: InflowBase, daily_l: float) -> Wording:
    """Return in words that what comes into the vessel it draws from is less than it could carry."""
    source, carries_l = drawn_from(inflow), daily_m3(inflow, analysis.scenario) / LITRE_M3
    if source is None or daily_l >= carries_l:
        return ()
    return say(
        "It could carry {}; no more comes into {} that is not needed there. ",
        Quantity(value=carries_l, unit="L/d"),
        label(analysis.model.layout.vessels[source]),
    )


def _told(analysis: Analysis, inflow: InflowBase, daily_l: float) -> Wording:
    match inflow:
        case RainInflow():
            area = say("{} of roof. ", Quantity(value=plan_area_m2(inflow), unit="m²"))
            fell = analysis.scenario.rain_mm_d
            if not fell:
                return (*area, *say("No rain falls in it; the season below has it."))
            return (*area, *say("{} fall in it.", Quantity(value=fell, unit="mm rain")))
        case PumpInflow():
            return _pump_told(analysis, inflow)
        case RamInflow():
            waste = inflow.drive_lpm - daily_l / (DAY_S / MINUTE_S)
            return say("{} run to waste; it must never be shut in.", Quantity(value=waste, unit="L/min"))
        case HaulInflow():
            week = hauling(inflow)
            cost = "" if week.weekly_price is None else f", {week.weekly_price:.0f} in money"
            return say(
                f"{week.weekly_h:.1f} hours a week{cost}; a load weighs {{}}.", Quantity(value=week.load_kg, unit="kg")
            )
        case SteadyInflow(cartridge_l=float(litres)) if daily_l > 0.0:
            return say("The cartridge lasts {}.", Quantity(value=litres / daily_l, unit="d", digits=0))
    return ()


def _pump_told(analysis: Analysis, pump: PumpInflow) -> Wording:
    draw = analysis.demand_m3s(pump.fills)
    cycle = pump_cycle(pump, analysis.model.layout.vessels[pump.fills], draw)
    if cycle is None:
        return ()
    if cycle.run_s is None:
        return say("It never catches up with the use.")
    return say(
        f"A run of {{}} fills {{}}; it may start {cycle.most_starts_per_h:.1f} times an hour. Days in hand are counted "
        "from where it cuts in.",
        Quantity(value=cycle.run_s / MINUTE_S, unit="min"),
        Quantity(value=cycle.between_m3 / LITRE_M3, unit="L"),
    )
