"""The application factory."""

from collections.abc import Sequence

from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.info import Info
from flask_openapi3.openapi import OpenAPI

from leadsman.api.access_log import log_access
from leadsman.api.cancelled import count_time
from leadsman.api.doors import guard_doors
from leadsman.api.errors import invalid, register_errors
from leadsman.api.front_end import serve_front_end
from leadsman.api.json_provider import BodyProvider
from leadsman.api.routes import DATABASE, SETTINGS
from leadsman.api.routes.analysis import analysis
from leadsman.api.routes.archive import archive
from leadsman.api.routes.background import background
from leadsman.api.routes.catalogue import catalogue
from leadsman.api.routes.design import designs
from leadsman.api.routes.edit import edits
from leadsman.api.routes.field import field
from leadsman.api.routes.ground import ground
from leadsman.api.routes.health import health
from leadsman.api.routes.job import jobs
from leadsman.api.routes.log import log
from leadsman.api.routes.parts import parts
from leadsman.api.routes.photo import photos
from leadsman.api.routes.upkeep import upkeep
from leadsman.api.routes.weather import weather
from leadsman.core.design.file import LARGEST_BYTES
from leadsman.db.connection import Database
from leadsman.settings import Settings, settings_from

ROUTES = (
    analysis, archive, background, catalogue, designs, edits, field, ground, health, jobs, log, parts, photos, upkeep,
    weather,
)  # fmt: skip


def create_app(settings: Settings | None = None, routes: Sequence[APIBlueprint] = ROUTES) -> OpenAPI:
    """Return the application.

    Args:
        settings: those of the environment where None.
        routes: what it answers.
    """
    settings = settings_from() if settings is None else settings
    app = OpenAPI(
        __name__,
        info=Info(title="Leadsman", version="0.1.0"),
        doc_ui=False,
        static_folder=None,
        validation_error_callback=invalid,
    )
    app.json = BodyProvider(app)
    app.config["MAX_CONTENT_LENGTH"] = LARGEST_BYTES
    app.extensions[SETTINGS] = settings
    app.extensions[DATABASE] = Database(settings.database_url)
    register_errors(app)
    count_time(app)
    log_access(app, settings.access_log)
    guard_doors(app, settings.host_names)
    for described in routes:
        app.register_api(described)
    serve_front_end(app, settings.front_end, settings.autosave_ms)
    return app
