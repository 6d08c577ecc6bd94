"""Made-up requests to every route: none makes the server fail, none takes longer than it may, and no memory is lost.

At length (`./leadsman test --long`) 50,000 of our own and many of schemathesis, fresh ones each time; otherwise few.
"""

import random
import time
from pathlib import Path
from typing import Any

import pytest
import schemathesis
from flask.testing import FlaskClient
from hypothesis import HealthCheck, given, settings

from examples import one_line, worked_example
from fuzzing import Fuzzer, Request
from leadsman.api.cancelled import BUDGET_S
from leadsman.api.lanes import lane_of
from leadsman.api.openapi import openapi_document
from properties import AT_LENGTH

REQUESTS = 50_000 if AT_LENGTH else 400
BY_SCHEMA = 100 if AT_LENGTH else 1
SEED = random.SystemRandom().randrange(2**32) if AT_LENGTH else 22
MOST_GROWTH_BYTES = 60_000_000
DESCRIBED = openapi_document()
FRESH_EVERY = 500


def send(client: FlaskClient, made: Request) -> Any:
    if made.form is not None:
        sent: dict[str, Any] = {"data": made.form, "content_type": "multipart/form-data"}
    elif made.text is not None:
        sent = {"data": made.text, "content_type": "application/json"}
    elif made.body is not None:
        sent = {"json": made.body}
    else:
        sent = {}
    return client.open(made.path, method=made.method, query_string=made.query, buffered=True, **sent)


def failed(answer: Any) -> bool:
    """Whether the server failed; that no service outside answers is no fault of its."""
    return answer.status_code >= 500 and "no_service" not in answer.get_data(as_text=True)


def memory_bytes() -> int:
    return int(Path("/proc/self/statm").read_text().split()[1]) * 4096


def plans(client: FlaskClient) -> list[str]:
    """Fresh plans, beside those that are there."""
    for document in (one_line(), worked_example()):
        assert client.post("/api/designs", json={"document": document}).status_code == 201
    return [plan["id"] for plan in client.get("/api/designs").get_json()["designs"]]


def test_no_made_up_request_makes_the_server_fail_or_takes_longer_than_it_may(
    client: FlaskClient, demo_id: str
) -> None:
    fuzzer = Fuzzer(DESCRIBED, SEED, plans(client))
    assert demo_id
    dice = random.Random(SEED)
    statuses: dict[int, int] = {}
    settled_bytes = 0
    for number in range(REQUESTS):
        path, method = fuzzer.operations[number] if number < len(fuzzer.operations) else dice.choice(fuzzer.operations)
        made = fuzzer.request(path, method)
        begun_s = time.monotonic()
        answer = send(client, made)
        took_s = time.monotonic() - begun_s
        told = f"seed {SEED}, request {number}: {made.method} {made.path} {made.query} {str(made.body)[:20_000]}"
        assert not failed(answer), f"{answer.get_data(as_text=True)[:500]}\n{told}"
        assert took_s < BUDGET_S[lane_of(made.method, made.path)], f"{took_s:.1f} s\n{told}"
        statuses[answer.status_code] = statuses.get(answer.status_code, 0) + 1
        if number % FRESH_EVERY == FRESH_EVERY - 1:  # plans that were deleted are there again
            fuzzer.renew(plans(client))
        if number == REQUESTS // 3:
            settled_bytes = memory_bytes()
    assert statuses[200] > REQUESTS / 10  # not all of it is nonsense
    assert statuses[422] > REQUESTS / 10
    assert memory_bytes() - settled_bytes < MOST_GROWTH_BYTES


SCHEMA = schemathesis.openapi.from_dict(DESCRIBED)
OPERATIONS: list[Any] = [operation.ok() for operation in SCHEMA.get_all_operations()]  # type: ignore[union-attr]


@pytest.mark.parametrize("operation", OPERATIONS, ids=[operation.label for operation in OPERATIONS])
def test_what_the_description_allows_is_answered(client: FlaskClient, operation: Any) -> None:
    @given(case=operation.as_strategy())
    @settings(max_examples=BY_SCHEMA, suppress_health_check=list(HealthCheck), deadline=None)
    def answered(case: Any) -> None:
        answer = case.call(app=client.application)
        assert answer.status_code < 500 or "no_service" in answer.text, f"{answer.text[:500]} {str(case.body)[:5_000]}"

    answered()
