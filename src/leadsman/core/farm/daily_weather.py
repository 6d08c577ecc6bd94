"""Weather day by day as arrays."""

from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np

from leadsman.core.base.array import Floats, Ints
from leadsman.core.design import Weather

USUAL_MOST_C, USUAL_LEAST_C = 20.0, 8.0  # where a series tells only rain; ours, no source


@dataclass(frozen=True, kw_only=True)
class DailyWeather:
    """Rain [mm] and the day's greatest and least temperature [°C], shape (days,), from a first day on.

    `year_day` counts from 1 at New Year.
    """

    first: date
    rain_mm: Floats
    most_c: Floats
    least_c: Floats
    year_day: Ints

    @property
    def days(self) -> int:
        return len(self.rain_mm)

    def day(self, number: int) -> date:
        """Return the date of a day by its number from 0."""
        return self.first + timedelta(days=number)


def daily_weather(weather: Weather) -> DailyWeather:
    """Return a document's weather as arrays; without temperatures every day is an ordinary one."""
    first, days = date.fromisoformat(weather.from_), len(weather.rain_mm)
    most = np.array(weather.most_c) if weather.most_c else np.full(days, USUAL_MOST_C)
    least = np.array(weather.least_c) if weather.least_c else np.minimum(most, most - (USUAL_MOST_C - USUAL_LEAST_C))
    since = np.datetime64(first) + np.arange(days)
    year_day = (since - since.astype("datetime64[Y]")).astype(int) + 1
    return DailyWeather(
        first=first, rain_mm=np.array(weather.rain_mm), most_c=most, least_c=np.minimum(least, most), year_day=year_day
    )
