"""One place that turns errors into answers: 422, 404, 409, 503, and a bare 500 with a log line."""

from collections.abc import Sequence

from flask import Flask, Response, current_app, jsonify, request
from psycopg import DataError, OperationalError
from pydantic import ValidationError
from werkzeug.exceptions import HTTPException, RequestEntityTooLarge

from leadsman.api.cancelled import Cancelled, OverBudget
from leadsman.api.schemas import FaultBody, Problem
from leadsman.core.base.errors import OutOfRange, UnknownName
from leadsman.core.base.fault import DesignFaults, Fault, faults_from
from leadsman.core.design.file import LARGEST_BYTES, UNION_TAGS
from leadsman.jobs.work import KINDS as JOB_KINDS
from leadsman.services.heights import HeightsUnavailable
from leadsman.services.weather import WeatherUnavailable


class NotFound(LookupError):
    """No design or revision under that address."""


class Unreadable(Exception):
    """A revision is kept whose document this version cannot read; its file can be had as it is."""

    def __init__(self, number: int, faults: list[Fault]) -> None:
        super().__init__(f"revision {number} cannot be read")
        self.number, self.faults = number, faults


def register_errors(app: Flask) -> None:
    """Register the handlers."""
    app.register_error_handler(DesignFaults, lambda error: refused(error.faults))
    app.register_error_handler(OutOfRange, _out_of_range)
    app.register_error_handler(UnknownName, _unknown_name)
    app.register_error_handler(Cancelled, lambda _: Response(status=204))  # nobody reads it
    app.register_error_handler(OverBudget, _over_budget)
    app.register_error_handler(MemoryError, _over_memory)
    app.register_error_handler(Unreadable, _unreadable)
    app.register_error_handler(NotFound, _not_found)
    app.register_error_handler(WeatherUnavailable, _no_weather)
    app.register_error_handler(HeightsUnavailable, _no_heights)
    app.register_error_handler(RequestEntityTooLarge, _too_large)
    app.register_error_handler(HTTPException, _http)
    app.register_error_handler(DataError, _not_storable)
    app.register_error_handler(OperationalError, _no_database)
    app.register_error_handler(Exception, _unexpected)


def invalid(error: ValidationError) -> Response:
    """Return the answer to a body or path that does not fit its model."""
    if error.errors()[0]["loc"] == () and request.get_json(silent=True) is None:
        return refused([Fault(path="", code="not_json", found="a body that is not JSON", allowed="one JSON object")])
    return refused(faults_from(error, {**UNION_TAGS, "asked": JOB_KINDS}))


def refused(faults: tuple[Fault, ...] | list[Fault]) -> Response:
    """Return 422 with every fault."""
    bodies = fault_bodies(faults)
    told = f"{len(bodies)} fault(s); nothing was saved"
    return problem_answer(422, Problem(code="refused", message=told, faults=bodies))


def fault_bodies(faults: Sequence[Fault]) -> list[FaultBody]:
    """Return faults as the API tells them."""
    return [
        FaultBody(code=fault.code, path=fault.path, value=fault.found, limit=fault.allowed, message=str(fault))
        for fault in faults
    ]


def _not_found(error: NotFound) -> Response:
    return problem_answer(404, Problem(code="not_found", message=str(error)))


def _unreadable(error: Unreadable) -> Response:
    told = (
        f"Revision {error.number} was saved by another version of Leadsman, and this one cannot read it. Nothing of it "
        "is lost: its file can be downloaded as it is, and opened with that version."
    )
    return problem_answer(422, Problem(code="unreadable", message=told, faults=fault_bodies(error.faults)))


def _out_of_range(error: OutOfRange) -> Response:
    allowed = f"{error.low:g} to {error.high:g}"
    return refused(
        [Fault(path=error.path, code="out_of_range", found=f"{error.name} {error.value:g}", allowed=allowed)]
    )


def _unknown_name(error: UnknownName) -> Response:
    return refused(
        [
            Fault(
                path=error.path, code="unknown_name", found=repr(error.name), allowed=f"a {error.kind} of the catalogue"
            )
        ]
    )


def _too_large(_error: RequestEntityTooLarge) -> Response:
    return refused(
        [
            Fault(
                path="",
                code="too_large",
                found="a larger body",
                allowed=f"at most {request.max_content_length or LARGEST_BYTES:,} bytes",
            )
        ]
    )


def _http(error: HTTPException) -> Response:
    if isinstance(error.response, Response):  # an answer that is ready, as of `invalid`
        return error.response
    return problem_answer(error.code or 500, Problem(code="http", message=error.description or error.name))


def _no_database(error: Exception) -> Response:
    current_app.logger.warning("no database: %s", error)
    return problem_answer(503, Problem(code="no_database", message="The database does not answer. Nothing was saved."))


def _no_weather(error: WeatherUnavailable) -> Response:
    told = f"Nothing was fetched: {error}. Try again later, or read a table instead."
    return problem_answer(503, Problem(code="no_service", message=told))


def _no_heights(error: HeightsUnavailable) -> Response:
    told = f"The height service gives no heights: {error}. The line keeps its points; try again, or measure them."
    return problem_answer(503, Problem(code="no_service", message=told))


def _not_storable(_error: DataError) -> Response:
    return refused(
        [Fault(path="", code="not_storable", found="a value that cannot be kept", allowed="ordinary text and numbers")]
    )


def _over_budget(error: OverBudget) -> Response:
    told = (
        f"{_plan()} takes longer than the {error.budget_s:g} s that one request may. Nothing was lost; split the plan."
    )
    return problem_answer(503, Problem(code="too_much", message=told))


def _over_memory(_error: MemoryError) -> Response:
    told = f"{_plan()} takes more memory than one request may. Nothing was lost; split the plan."
    return problem_answer(503, Problem(code="too_much", message=told))


def _plan() -> str:
    """Return what of the request in hand is large, as the start of a sentence."""
    body = request.get_json(silent=True)
    document = body.get("document") if isinstance(body, dict) else None
    if not isinstance(document, dict):
        return "What was asked"
    counts = [
        f"{len(document[key]):,} {key}"
        for key in ("lines", "outlets", "vessels")
        if isinstance(document.get(key), list)
    ]
    return f"A plan with {', '.join(counts)}" if counts else "This plan"


def _unexpected(error: Exception) -> Response:
    current_app.logger.exception("unexpected: %s", error)
    return problem_answer(500, Problem(code="unexpected", message="Something went wrong here; it has been logged."))


def problem_answer(status: int, problem: Problem) -> Response:
    """Return an answer that says what is wrong."""
    response = jsonify(problem.model_dump(mode="json"))
    response.status_code = status
    return response
