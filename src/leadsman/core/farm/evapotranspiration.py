"""Reference evapotranspiration: what a short green sward gives to the air in a day.

Source of all: R. G. Allen, L. S. Pereira, D. Raes and M. Smith 1998, FAO Irrigation and Drainage Paper 56;
equation numbers are its own.
"""

import math
from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np

from leadsman.core.base.array import Floats, Ints
from leadsman.core.base.errors import require_between

SOLAR_CONSTANT_MJM2MIN = 0.0820
STEFAN_BOLTZMANN_MJK4M2D = 4.903e-9
ALBEDO = 0.23
KELVIN = 273.16  # as the paper takes it
MM_PER_MJM2 = 0.408
LEAP_YEAR = 2000


@dataclass(frozen=True)
class DayWeather:
    """One day's weather: temperatures [°C], humidities [%], wind at 2 m [m/s], hours of bright sun."""

    least_c: float
    most_c: float
    least_humidity_percent: float
    most_humidity_percent: float
    wind_ms: float
    sun_h: float


def penman_monteith_mm(weather: DayWeather, latitude_deg: float, altitude_m: float, day: date) -> float:
    """Return reference evapotranspiration [mm/d] from a day's weather.

    Args:
        latitude_deg: north positive, −66 to 66 (beyond, days without a sunset are not covered).
        altitude_m: −500 to 5,000.
    Raises:
        OutOfRange: an argument is outside its limits.
    Source: equation 6, with 7, 8, 11 to 13, 17, 21 to 25, 34, 35 and 37 to 39.
    >>> brussels = DayWeather(12.3, 21.5, 63.0, 84.0, 2.078, 9.25)
    >>> round(penman_monteith_mm(brussels, 50.8, 100.0, date(2001, 7, 6)), 1)  # example 18
    3.9
    """
    require_between("altitude [m]", altitude_m, -500.0, 5_000.0)
    require_between("wind [m/s]", weather.wind_ms, 0.0, 60.0)
    mean_c = (weather.least_c + weather.most_c) / 2.0
    least_kpa, most_kpa = saturation_kpa(weather.least_c), saturation_kpa(weather.most_c)
    saturated_kpa = (least_kpa + most_kpa) / 2.0
    vapour_kpa = (
        least_kpa * weather.most_humidity_percent / 100.0 + most_kpa * weather.least_humidity_percent / 100.0
    ) / 2.0
    slope = 4098.0 * saturation_kpa(mean_c) / (mean_c + 237.3) ** 2
    psychrometric: float = 0.665e-3 * 101.3 * ((293.0 - 0.0065 * altitude_m) / 293.0) ** 5.26
    beyond_sky = extraterrestrial_mjm2(latitude_deg, day)
    daylight = daylight_h(latitude_deg, day)
    require_between("hours of sun", weather.sun_h, 0.0, daylight + 1e-9)
    solar = (0.25 + 0.50 * weather.sun_h / daylight) * beyond_sky
    clear = (0.75 + 2e-5 * altitude_m) * beyond_sky
    heat = STEFAN_BOLTZMANN_MJK4M2D * ((weather.most_c + KELVIN) ** 4 + (weather.least_c + KELVIN) ** 4) / 2.0
    outgoing = heat * (0.34 - 0.14 * math.sqrt(vapour_kpa)) * (1.35 * solar / clear - 0.35)
    net = (1.0 - ALBEDO) * solar - outgoing
    drying = psychrometric * 900.0 / (mean_c + 273.0) * weather.wind_ms * (saturated_kpa - vapour_kpa)
    evaporated: float = MM_PER_MJM2 * slope * net + drying
    return evaporated / (slope + psychrometric * (1.0 + 0.34 * weather.wind_ms))


def hargreaves_mm(least_c: float, most_c: float, latitude_deg: float, day: date) -> float:
    """Return reference evapotranspiration [mm/d] from temperatures alone, where nothing else is known.

    Args:
        least_c, most_c: temperatures of the day [°C], the second not below the first.
        latitude_deg: north positive, −66 to 66.
    Raises:
        OutOfRange: an argument is outside its limits.
    Source: equation 52 (Hargreaves & Samani 1985).
    >>> round(hargreaves_mm(14.8, 26.6, 45.72, date(2001, 7, 15)), 1)  # example 20
    5.0
    """
    require_between("greatest temperature of the day [°C]", most_c, least_c, 60.0)
    mean_c = (least_c + most_c) / 2.0
    beyond_mm = MM_PER_MJM2 * extraterrestrial_mjm2(latitude_deg, day)
    return max(0.0, 0.0023 * (mean_c + 17.8) * math.sqrt(most_c - least_c) * beyond_mm)


def hargreaves_series_mm(least_c: Floats, most_c: Floats, latitude_deg: float, year_day: Ints) -> Floats:
    """Return reference evapotranspiration of many days [mm/d], shape (days,), as `hargreaves_mm` gives it for one.

    Args:
        year_day: number of each day in its year, 1 to 366.
    Raises:
        OutOfRange: latitude is outside −66 to 66 degrees.
    Source: Hargreaves and Samani 1985, as equation 52 of FAO 56 has it.
    >>> low, high = np.array([14.8]), np.array([26.6])
    >>> days = np.array([196])
    >>> float(hargreaves_series_mm(low, high, 45.72, days)[0].round(2)) == round(
    ...     hargreaves_mm(14.8, 26.6, 45.72, date(2032, 7, 14)), 2)
    True
    """
    new_year = date(LEAP_YEAR, 1, 1)
    beyond = [extraterrestrial_mjm2(latitude_deg, new_year + timedelta(days=number)) for number in range(366)]
    mean, spread = (least_c + most_c) / 2.0, np.maximum(most_c - least_c, 0.0)
    evaporated = 0.0023 * (mean + 17.8) * np.sqrt(spread) * MM_PER_MJM2 * np.array(beyond)[year_day - 1]
    return np.asarray(np.maximum(evaporated, 0.0))


def extraterrestrial_mjm2(latitude_deg: float, day: date) -> float:
    """Return the sun's radiation above the air [MJ/m2/d] (equation 21).

    Raises:
        OutOfRange: latitude is outside −66 to 66 degrees.
    >>> round(extraterrestrial_mjm2(-20.0, date(2001, 9, 3)), 1)  # example 8
    32.2
    """
    latitude, declination, sunset = _angles(latitude_deg, day)
    distance = 1.0 + 0.033 * math.cos(_year_angle(day))
    hours = sunset * math.sin(latitude) * math.sin(declination)
    hours += math.cos(latitude) * math.cos(declination) * math.sin(sunset)
    return 24.0 * 60.0 / math.pi * SOLAR_CONSTANT_MJM2MIN * distance * hours


def daylight_h(latitude_deg: float, day: date) -> float:
    """Return the hours of daylight (equation 34).

    >>> round(daylight_h(-20.0, date(2001, 9, 3)), 1)  # example 9
    11.7
    """
    return 24.0 / math.pi * _angles(latitude_deg, day)[2]


def saturation_kpa(air_c: float) -> float:
    """Return the saturation vapour pressure [kPa] at a temperature, −40 to 60 °C (equation 11).

    Raises:
        OutOfRange: the temperature is outside that.
    >>> round(saturation_kpa(20.0), 3)  # table 2.3
    2.338
    """
    require_between("air temperature [°C]", air_c, -40.0, 60.0)
    return 0.6108 * math.exp(17.27 * air_c / (air_c + 237.3))


def wind_at_two_metres_ms(wind_ms: float, height_m: float) -> float:
    """Return the wind at 2 m [m/s] from that at another height [m] over short grass (equation 47).

    >>> round(wind_at_two_metres_ms(3.2, 10.0), 1)  # example 14
    2.4
    """
    require_between("height of the wind gauge [m]", height_m, 0.5, 100.0)
    return wind_ms * 4.87 / math.log(67.8 * height_m - 5.42)


def _angles(latitude_deg: float, day: date) -> tuple[float, float, float]:
    """Return latitude, declination of the sun, and hour angle of sunset, all in radians (equations 22 to 25)."""
    require_between("latitude [degrees]", latitude_deg, -66.0, 66.0)
    latitude = math.radians(latitude_deg)
    declination = 0.409 * math.sin(_year_angle(day) - 1.39)
    return latitude, declination, math.acos(-math.tan(latitude) * math.tan(declination))


def _year_angle(day: date) -> float:
    return 2.0 * math.pi / 365.0 * day.timetuple().tm_yday
