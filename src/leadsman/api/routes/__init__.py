"""One module of routes for each noun."""

from collections.abc import Callable
from typing import Any

from flask import Response, current_app
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.types import ParametersTuple
from flask_openapi3.utils import parse_parameters
from pydantic import BaseModel

from leadsman.db.connection import Database

KEY = "leadsman.database"


class Routes(APIBlueprint):
    """Routes that are described only when the description is asked for: schemas of all bodies take seconds to make."""

    def __init__(self, name: str, import_name: str, **settings: Any) -> None:
        super().__init__(name, import_name, **settings)
        self._undescribed: list[tuple[str, Callable[..., Any], dict[str, Any]]] = []

    def _collect_openapi_info(self, rule: str, func: Callable[..., Any], **told: Any) -> ParametersTuple:
        """Keep for later what the library would work out at once, when a route is declared."""
        self._undescribed.append((rule, func, told))
        return parse_parameters(func, doc_ui=False)

    def describe(self) -> None:
        """Describe the routes; an application made afterwards has them in its `api_doc`."""
        for rule, func, told in self._undescribed:
            super()._collect_openapi_info(rule, func, **told)
        self._undescribed.clear()


def database() -> Database:
    """Return the application's database."""
    found: Database = current_app.extensions[KEY]
    return found


def answer(body: BaseModel, status: int = 200) -> Response:
    """Return a model as JSON; what a document does not give stays absent."""
    return Response(body.model_dump_json(by_alias=True, exclude_unset=True), status, mimetype="application/json")
