"""Weather, asked for and read from tables."""

from pydantic import Field

from leadsman.api.schemas.base import Schema
from leadsman.core.design import Weather
from leadsman.core.design.base import Day
from leadsman.services.weather import Climate, Failure


class AskWeather(Schema):
    """Made-up weather of whole years: a climate, a seed, which year is dry, which has a hot spell, which side of the
    equator, how it fails."""

    climate: Climate
    since: Day
    years: int = Field(ge=1, le=40)
    seed: int = Field(ge=0, le=2**31)
    drought_year: int | None = Field(default=None, ge=1, le=40)
    hot_spell_year: int | None = Field(default=None, ge=1, le=40)
    southern: bool = False
    failure: Failure | None = None


class WeatherTable(Schema):
    """Daily weather as comma-separated values, and what to call where it comes from."""

    text: str
    name: str = Field(default="", max_length=200)


class WeatherBody(Schema):
    weather: Weather
