"""Weather for the season: from the service (a stand-in ships with the product), or from a table."""

from datetime import date

from flask import Response

from leadsman.api.routes import Routes, answer, settings
from leadsman.api.schemas import AskWeather, Problem, WeatherBody, WeatherTable
from leadsman.core.design import Weather
from leadsman.formats.weather_csv import read_weather_csv
from leadsman.services.weather import weather_service

weather = Routes("weather", __name__, url_prefix="/api/weather")


@weather.post("", operation_id="askWeather", responses={200: WeatherBody, 422: Problem, 503: Problem})
def ask_weather(body: AskWeather) -> Response:
    """Ask the weather service for the daily weather of some years."""
    first = date.fromisoformat(body.since)
    series = weather_service(settings().weather_service)(
        body.climate, first, body.years, body.seed,
        drought_year=body.drought_year, hot_spell_year=body.hot_spell_year, southern=body.southern,
        failure=body.failure,
    )  # fmt: skip
    side = ", south of the equator" if body.southern else ""
    told = f"made up: {body.climate}{side}, {body.years} year{'s' if body.years > 1 else ''}, seed {body.seed}"
    document = {
        "from": body.since, "rain_mm": series.rain_mm, "most_c": series.most_c, "least_c": series.least_c,
        "source": told,
    }  # fmt: skip
    return answer(WeatherBody(weather=Weather.model_validate(document)))


@weather.post("/table", operation_id="readWeatherTable", responses={200: WeatherBody, 422: Problem})
def read_weather_table(body: WeatherTable) -> Response:
    """Read daily weather from comma-separated values; nothing is taken of a table with a fault."""
    return answer(WeatherBody(weather=read_weather_csv(body.text, body.name)))
