"""All settings, read in one place from the environment."""

import os
from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path

PROJECT = Path(__file__).parents[2]
DATABASE_URL = "DATABASE_URL"
HEIGHT_SERVICE_URL = "HEIGHT_SERVICE_URL"
LEVEL_SERVICE_URL = "LEVEL_SERVICE_URL"
WEATHER_SERVICE = "WEATHER_SERVICE"
LEADSMAN_STATE = "LEADSMAN_STATE"
AUTOSAVE_MS = "AUTOSAVE_MS"
HOST_NAMES = "HOST_NAMES"
ACCESS_LOG = "ACCESS_LOG"
MADE_UP_WEATHER = "leadsman.standins.weather:daily_series"
QUIET_BEFORE_SAVE_MS = 2_000


@dataclass(frozen=True, kw_only=True)
class Settings:
    """How the product is set up.

    Attributes:
        database_url: where PostgreSQL is.
        height_service_url: address of the height service, without "/heights"; empty where there is none.
        level_service_url: address of the service of a level sensor, without "/levels"; empty where there is none.
        weather_service: "module:function" of a `leadsman.services.weather.WeatherService`.
        state_folder: where the demonstration keeps its database and process files.
        autosave_ms: how long a plan must rest before it is saved [ms].
        host_names: names under which the server is reached, beside "localhost" and addresses in figures.
        access_log: whether every request is written to the log.
        front_end: folder of the built front end.
    """

    database_url: str = ""
    height_service_url: str = ""
    level_service_url: str = ""
    weather_service: str = MADE_UP_WEATHER
    state_folder: Path = PROJECT / ".leadsman"
    autosave_ms: int = QUIET_BEFORE_SAVE_MS
    host_names: tuple[str, ...] = ()
    access_log: bool = False
    front_end: Path = PROJECT / "web" / "dist"


def settings_from(environment: Mapping[str, str] = os.environ) -> Settings:
    """Return the settings that an environment gives; what it does not name stays as it ships."""
    return Settings(
        database_url=environment.get(DATABASE_URL, ""),
        height_service_url=environment.get(HEIGHT_SERVICE_URL, ""),
        level_service_url=environment.get(LEVEL_SERVICE_URL, ""),
        weather_service=environment.get(WEATHER_SERVICE) or MADE_UP_WEATHER,
        state_folder=Path(environment.get(LEADSMAN_STATE) or Settings.state_folder).absolute(),
        host_names=tuple(name.strip() for name in environment.get(HOST_NAMES, "").split(",") if name.strip()),
        access_log=environment.get(ACCESS_LOG) == "1",
        autosave_ms=int(environment.get(AUTOSAVE_MS) or QUIET_BEFORE_SAVE_MS),
    )
