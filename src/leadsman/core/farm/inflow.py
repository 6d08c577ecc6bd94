"""What every inflow of a design brings: in a day of a case, and day by day."""

import numpy as np

from leadsman.core.base.array import Floats
from leadsman.core.base.units import DAY_S, HOUR_S, LITRE_M3, m3s_from_lpm
from leadsman.core.design import (
    HaulInflow,
    InflowBase,
    PumpInflow,
    RainInflow,
    RamInflow,
    Scenario,
    SpringInflow,
    SteadyInflow,
)
from leadsman.core.farm.daily_weather import DailyWeather
from leadsman.core.farm.haul import hauling
from leadsman.core.farm.pressure_source import PressureInflow
from leadsman.core.farm.pump_cycle import pump_flow_m3s
from leadsman.core.farm.rain import roof_daily_m3
from leadsman.core.farm.ram import ram_flow_m3s
from leadsman.core.farm.spring import flow_through_year_m3s, planned_flow_m3s


def daily_m3(inflow: InflowBase, scenario: Scenario) -> float:
    """Return what an inflow brings in a day of a case [m3]: of a spring the slowest timing, of rain what the case says.

    Raises:
        OutOfRange: a figure of it is outside its limits.
    Source: flow times hours, or as the source's own formula.
    >>> mains = SteadyInflow(id="m", fills="t", kind="mains", flow_lpm=10.0, hours_per_day=2.0)
    >>> round(daily_m3(mains, Scenario(id="day")), 6), daily_m3(mains, Scenario(id="cut", lost=["m"]))
    (1.2, 0.0)
    """
    if inflow.id in scenario.lost:
        return 0.0
    match inflow:
        case SpringInflow():
            return planned_flow_m3s(inflow) * DAY_S
        case RainInflow():
            return float(roof_daily_m3(inflow, np.array([scenario.rain_mm_d]))[0])
        case PumpInflow():
            day = pump_flow_m3s(inflow) * inflow.hours_per_day * HOUR_S
            return day if inflow.limit_lpd is None else min(day, inflow.limit_lpd * LITRE_M3)
        case RamInflow():
            drive = m3s_from_lpm(inflow.drive_lpm)
            return ram_flow_m3s(drive, inflow.fall_m, inflow.lift_m, inflow.efficiency) * DAY_S
        case HaulInflow():
            return hauling(inflow).daily_l * LITRE_M3
        case PressureInflow():
            return m3s_from_lpm(inflow.flow_lpm) * DAY_S
        case SteadyInflow():
            return m3s_from_lpm(inflow.flow_lpm) * inflow.hours_per_day * HOUR_S
    raise TypeError(type(inflow).__name__)


def season_daily_m3(inflow: InflowBase, weather: DailyWeather) -> Floats:
    """Return what an inflow brings on each day of a weather [m3], shape (days,).

    Raises: as `daily_m3` does.
    Source: as `daily_m3`; of a spring on straight lines between timings, of a roof by each day's rain.
    >>> mains = SteadyInflow(id="m", fills="t", kind="mains", flow_lpm=10.0, hours_per_day=2.0)
    >>> from leadsman.core.design import Weather
    >>> from leadsman.core.farm.daily_weather import daily_weather
    >>> weather = daily_weather(Weather.model_validate({"from": "2031-05-01", "rain_mm": [0.0, 4.0]}))
    >>> season_daily_m3(mains, weather).round(6).tolist()
    [1.2, 1.2]
    """
    match inflow:
        case SpringInflow():
            return flow_through_year_m3s(inflow, weather.year_day) * DAY_S
        case RainInflow():
            return roof_daily_m3(inflow, weather.rain_mm)
    return np.full(weather.days, daily_m3(inflow, Scenario(id="any")))
