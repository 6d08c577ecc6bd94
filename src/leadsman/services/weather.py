"""What a weather service gives: daily rain and temperatures of whole years. A stand-in ships with the product."""

import pkgutil
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Literal, Protocol

Climate = Literal["wet upland", "mild lowland", "dry summers", "dry plains"]
Failure = Literal["down", "garbled"]


class WeatherUnavailable(Exception):
    """The service does not answer, or not with what can be read; says why."""


@dataclass(frozen=True, kw_only=True)
class WeatherSeries:
    """Daily rain [mm], greatest and least temperature [°C] from a day on."""

    first: date
    rain_mm: Sequence[float]
    most_c: Sequence[float]
    least_c: Sequence[float]


class WeatherService(Protocol):
    """A source of daily weather."""

    def __call__(
        self,
        climate: Climate,
        first: date,
        years: int,
        seed: int,
        *,
        drought_year: int | None = None,
        hot_spell_year: int | None = None,
        southern: bool = False,
        failure: Failure | None = None,
    ) -> WeatherSeries:
        """Return the weather of whole years.

        Args:
            years: 1 to 40; seed: the same gives the same weather.
            drought_year, hot_spell_year: which of the years, from 1, is dry, has ten hot days in its high summer.
            southern: whether it is south of the equator, where the seasons are half a year on.
            failure: how a simulated service fails.
        Raises:
            WeatherUnavailable: there is no weather to be had.
        """


def weather_service(name: str) -> WeatherService:
    """Return the service of a setting, "module:function".

    Raises:
        ImportError, AttributeError: there is none of that name.
    """
    service: WeatherService = pkgutil.resolve_name(name)
    return service
