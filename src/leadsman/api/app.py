"""The application factory."""

import os
from pathlib import Path

from flask_openapi3.models.info import Info
from flask_openapi3.openapi import OpenAPI

import leadsman
from leadsman.api.errors import invalid, register_errors
from leadsman.api.front_end import serve_front_end
from leadsman.api.json_provider import BodyProvider
from leadsman.api.routes import KEY
from leadsman.api.routes.analysis import analysis
from leadsman.api.routes.background import background
from leadsman.api.routes.catalogue import catalogue
from leadsman.api.routes.design import designs
from leadsman.api.routes.ground import ground
from leadsman.api.routes.health import health
from leadsman.api.routes.weather import weather
from leadsman.core.design_file import LARGEST_BYTES
from leadsman.db.connection import Database

ROUTES = (analysis, background, catalogue, designs, ground, health, weather)
BUILT_FRONT_END = Path(leadsman.__file__).parents[2] / "web" / "dist"


def create_app(database_url: str | None = None, front_end: Path = BUILT_FRONT_END) -> OpenAPI:
    """Return the application.

    Args:
        database_url: where PostgreSQL is; DATABASE_URL of the environment where None.
        front_end: folder of the built front end.
    """
    app = OpenAPI(
        __name__,
        info=Info(title="Leadsman", version="0.1.0"),
        doc_ui=False,
        static_folder=None,
        validation_error_callback=invalid,
    )
    app.json = BodyProvider(app)
    app.config["MAX_CONTENT_LENGTH"] = LARGEST_BYTES
    app.extensions[KEY] = Database(os.environ["DATABASE_URL"] if database_url is None else database_url)
    register_errors(app)
    for routes in ROUTES:
        app.register_api(routes)
    serve_front_end(app, front_end)
    return app
