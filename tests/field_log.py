"""Entries of the log, sent and read as a phone does."""

import uuid
from datetime import UTC, datetime, timedelta
from typing import Any

from flask.testing import FlaskClient

from examples import one_line

NOW = datetime.now(UTC).replace(microsecond=0)


def plan(client: FlaskClient) -> str:
    made: str = client.post("/api/designs", json={"document": one_line()}).get_json()["design_id"]
    return made


def entry(minutes_ago: float = 5.0, **changes: Any) -> dict[str, Any]:
    when = (NOW - timedelta(minutes=minutes_ago)).isoformat()
    return {"id": str(uuid.uuid4()), "kind": "note", "happened_at": when, "who": "Ada", "said": "wet ground", **changes}


def send(client: FlaskClient, design_id: str, entries: list[dict[str, Any]]) -> dict[str, Any]:
    answer = client.post(f"/api/designs/{design_id}/log", json={"entries": entries})
    assert answer.status_code == 200, answer.get_json()
    told: dict[str, Any] = answer.get_json()
    return told


def read(client: FlaskClient, design_id: str, **query: Any) -> list[dict[str, Any]]:
    answer = client.get(f"/api/designs/{design_id}/log", query_string=query)
    assert answer.status_code == 200, answer.get_json()
    found: list[dict[str, Any]] = answer.get_json()["entries"]
    return found
