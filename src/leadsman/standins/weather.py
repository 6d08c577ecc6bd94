"""A simulated weather service: made-up daily rain and temperatures, seeded, of several climates.

Wet and dry days follow each other by chance as the month has it, rain is drawn from a gamma law, and temperatures
swing about the season's mean with some memory. Source of the scheme: Richardson 1981, Water Resour. Res. 17:182;
its figures here are made up.
"""

from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np

from leadsman.services.weather import Climate, Failure, WeatherSeries, WeatherUnavailable


@dataclass(frozen=True, kw_only=True)
class ClimateFigures:
    """Chance of rain after a dry and after a wet day, mean rain of a wet day [mm], each in winter and in summer;
    mean of the year and its swing [°C], and what the day's greatest is over its least [°C]."""

    wet_after_dry: tuple[float, float]
    wet_after_wet: tuple[float, float]
    wet_day_mm: tuple[float, float]
    mean_c: float
    swing_c: float
    range_c: float


CLIMATES: dict[Climate, ClimateFigures] = {
    "wet upland": ClimateFigures(
        wet_after_dry=(0.45, 0.32),
        wet_after_wet=(0.72, 0.60),
        wet_day_mm=(6.5, 5.5),
        mean_c=7.5,
        swing_c=7.0,
        range_c=7.0,
    ),
    "mild lowland": ClimateFigures(
        wet_after_dry=(0.33, 0.24),
        wet_after_wet=(0.62, 0.48),
        wet_day_mm=(4.2, 5.0),
        mean_c=10.0,
        swing_c=7.5,
        range_c=9.0,
    ),
    "dry summers": ClimateFigures(
        wet_after_dry=(0.30, 0.05),
        wet_after_wet=(0.60, 0.25),
        wet_day_mm=(7.0, 4.0),
        mean_c=14.5,
        swing_c=8.0,
        range_c=11.0,
    ),
    "dry plains": ClimateFigures(
        wet_after_dry=(0.08, 0.16),
        wet_after_wet=(0.30, 0.38),
        wet_day_mm=(3.0, 7.5),
        mean_c=8.5,
        swing_c=14.0,
        range_c=13.0,
    ),
}
GAMMA_SHAPE = 0.75
MEMORY, JITTER_C = 0.7, 3.0
DROUGHT_CHANCE_TIMES, DROUGHT_RAIN_TIMES, DROUGHT_HOTTER_C = 0.45, 0.8, 1.5
HOT_SPELL_D, HOT_SPELL_C = 10, 7.0
COLDEST_DAY, HALF_A_YEAR = 20, 182.6  # of the year, north of the equator


def daily_series(
    climate: Climate, first: date, years: int, seed: int, *, drought_year: int | None = None,
    hot_spell_year: int | None = None, southern: bool = False, failure: Failure | None = None,
) -> WeatherSeries:  # fmt: skip
    """Return made-up weather of whole years.

    Args:
        years: 1 to 40; seed: the same gives the same weather.
        drought_year, hot_spell_year: which of the years, from 1, is dry, has ten hot days in its high summer.
        southern: whether it is south of the equator.
        failure: how the service fails.
    Raises:
        WeatherUnavailable: it was asked to fail.
    """
    if failure is not None:
        raise WeatherUnavailable("the weather service does not answer" if failure == "down" else "it sent no weather")
    figures, rng = CLIMATES[climate], np.random.default_rng(seed)
    last = date(first.year + years, first.month, min(first.day, 28))
    days = (last - first).days
    dates = [first + timedelta(days=number) for number in range(days)]
    year_day = np.array([date.timetuple().tm_yday for date in dates])
    year = np.array([(number * years) // days + 1 for number in range(days)])
    coldest = COLDEST_DAY + (HALF_A_YEAR if southern else 0.0)
    summer = 0.5 - 0.5 * np.cos(2.0 * np.pi * (year_day - coldest) / 365.25)  # 0 in midwinter, 1 in midsummer
    dry = year == drought_year
    wet = _wet_days(figures, summer, np.where(dry, DROUGHT_CHANCE_TIMES, 1.0), rng)
    amount = rng.gamma(GAMMA_SHAPE, 1.0 / GAMMA_SHAPE, days) * _between(figures.wet_day_mm, summer)
    rain = np.where(wet, amount * np.where(dry, DROUGHT_RAIN_TIMES, 1.0), 0.0)
    away = np.zeros(days)
    kicks = rng.normal(0.0, JITTER_C * np.sqrt(1.0 - MEMORY**2), days)
    for day in range(1, days):
        away[day] = MEMORY * away[day - 1] + kicks[day]
    mean = figures.mean_c + figures.swing_c * (2.0 * summer - 1.0) + away + np.where(dry, DROUGHT_HOTTER_C, 0.0)
    if hot_spell_year is not None:
        hottest = int(np.argmax(np.where(year == hot_spell_year, summer, -1.0)))
        mean[hottest - HOT_SPELL_D // 2 : hottest + HOT_SPELL_D // 2] += HOT_SPELL_C
    spread = figures.range_c * np.where(wet, 0.65, 1.1) / 2.0
    return WeatherSeries(
        first=first,
        rain_mm=np.round(rain, 1).tolist(),
        most_c=np.round(np.clip(mean + spread, -55, 55), 1).tolist(),
        least_c=np.round(np.clip(mean - spread, -55, 55), 1).tolist(),
    )


def _wet_days(figures: ClimateFigures, summer: np.ndarray, times: np.ndarray, rng: np.random.Generator) -> np.ndarray:
    after_dry = _between(figures.wet_after_dry, summer) * times
    after_wet = _between(figures.wet_after_wet, summer) * times
    chance, wet = rng.random(len(summer)), np.zeros(len(summer), dtype=bool)
    for day in range(len(summer)):
        wet[day] = chance[day] < (after_wet if day and wet[day - 1] else after_dry)[day]
    return wet


def _between(ends: tuple[float, float], summer: np.ndarray) -> np.ndarray:
    return np.asarray(ends[0] + (ends[1] - ends[0]) * summer)
