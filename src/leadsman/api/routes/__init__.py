"""One module of routes for each noun."""

import re
from collections.abc import Callable, Sequence
from typing import Any, NamedTuple

from flask import Response, current_app, request
from flask_openapi3.blueprint import APIBlueprint
from pydantic import BaseModel
from werkzeug.exceptions import RequestEntityTooLarge

from leadsman.api.cancelled import check_client
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.running import LinePointKey
from leadsman.core.analysis.work import require_workable
from leadsman.core.design import Design
from leadsman.db.connection import Database
from leadsman.settings import Settings

DATABASE, SETTINGS = "leadsman.database", "leadsman.settings"


class _Declared(NamedTuple):
    method: str
    rule: str
    options: dict[str, Any]
    function: Callable[..., Any]


class Routes(APIBlueprint):
    """Routes that describe themselves only on request: making the schemas of all bodies takes seconds."""

    def __init__(self, name: str, import_name: str, *, url_prefix: str) -> None:
        super().__init__(name, import_name, url_prefix=url_prefix, doc_ui=False)
        self._declared: list[_Declared] = []

    def get(self, rule: str, **options: Any) -> Callable[..., Any]:
        """As the library's."""
        return self._noted("get", rule, options, super().get(rule, **options))

    def post(self, rule: str, **options: Any) -> Callable[..., Any]:
        """As the library's."""
        return self._noted("post", rule, options, super().post(rule, **options))

    def put(self, rule: str, **options: Any) -> Callable[..., Any]:
        """As the library's."""
        return self._noted("put", rule, options, super().put(rule, **options))

    def delete(self, rule: str, **options: Any) -> Callable[..., Any]:
        """As the library's."""
        return self._noted("delete", rule, options, super().delete(rule, **options))

    def _noted(
        self, method: str, rule: str, options: dict[str, Any], declare: Callable[..., Any]
    ) -> Callable[..., Any]:
        def decorator(function: Callable[..., Any]) -> Callable[..., Any]:
            self._declared.append(_Declared(method, rule, options, function))
            declared: Callable[..., Any] = declare(function)
            return declared

        return decorator

    def described(self) -> APIBlueprint:
        """Return the same routes, described."""
        routes = APIBlueprint(self.name, self.import_name, url_prefix=self.url_prefix)
        for method, rule, options, function in self._declared:
            getattr(routes, method)(rule, **options)(function)
        return routes


def database() -> Database:
    """Return the application's database."""
    found: Database = current_app.extensions[DATABASE]
    return found


def settings() -> Settings:
    """Return the application's settings."""
    found: Settings = current_app.extensions[SETTINGS]
    return found


def allow_body(most_bytes: int) -> None:
    """Let the body of the request in hand be larger than documents are.

    Raises:
        RequestEntityTooLarge: it says that it is larger still, before any of it is read.
    """
    request.max_content_length = most_bytes
    if (request.content_length or 0) > most_bytes:
        raise RequestEntityTooLarge


def answer(body: BaseModel, status: int = 200) -> Response:
    """Return a model as JSON; what a document does not give stays absent."""
    return Response(body.model_dump_json(by_alias=True, exclude_unset=True), status, mimetype="application/json")


def judged(
    design: Design,
    *,
    together_only: bool = False,
    over_time: bool = False,
    expected_air: Sequence[LinePointKey] = (),
) -> Analysis:
    """Return the analysis of a design, which ends when nobody waits for it, or when it takes too long.

    Args: as for `Running`.
    Raises:
        DesignFaults: the design is too much work.
    """
    require_workable(design)
    return Analysis(
        design,
        together_only=together_only,
        over_time=over_time,
        check_cancelled=check_client,
        expected_air=expected_air,
    )


def handed_out(written: bytes, design: Design, suffix: str, mime: str) -> Response:
    """Return a file of a design, named after it in letters, digits and dashes."""
    name = re.sub(r"[^a-z0-9]+", "-", f"{design.site.name} {design.name}".casefold()).strip("-")[:60] or "plan"
    headers = {"Content-Disposition": f'attachment; filename="{name}.{suffix}"'}
    return Response(written, 200, headers, mimetype=mime)
