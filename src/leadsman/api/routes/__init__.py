"""One module of routes for each noun."""

from flask import Response, current_app
from pydantic import BaseModel

from leadsman.db.connection import Database

KEY = "leadsman.database"


def database() -> Database:
    """Return the application's database."""
    found: Database = current_app.extensions[KEY]
    return found


def answer(body: BaseModel, status: int = 200) -> Response:
    """Return a model as JSON; what a document does not give stays absent."""
    return Response(body.model_dump_json(by_alias=True, exclude_unset=True), status, mimetype="application/json")
