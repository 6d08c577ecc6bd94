"""Choices over the API: what is asked of one line or outlet, what is refused, and rows of one's own beside them."""

from typing import Any

import pytest
from flask.testing import FlaskClient

from examples import one_line
from leadsman.api.app import create_app
from leadsman.settings import Settings

OWN_PIPE = {"product_id": "own-p", "name": "Shop pipe", "family": "PE100 by outside diameter", "outer_mm": 32.0,
            "wall_mm": 2.4, "roughness_mm": 0.007, "price_per_m": 0.5}  # fmt: skip
OWN_VALVE = {"product_id": "own-v", "name": "Shop valve", "principle": "full-flow", "kv_m3h": 3.0, "band_m": 0.05,
             "price": 19.0}  # fmt: skip
OWN_PART = {"product_id": "own-s", "name": "Sieve", "kind": "filter", "kv_m3h": 2.0}


@pytest.fixture(scope="module")
def bare() -> FlaskClient:
    """An application that never asks its database: choices are worked out of the plan that is sent."""
    return create_app(Settings(database_url="postgresql://nobody@127.0.0.1:9/none?connect_timeout=1")).test_client()


def asked(client: FlaskClient, path: str, **body: Any) -> tuple[int, dict[str, Any]]:
    answer = client.post(f"/api/analyses/{path}", json={"document": one_line(), **body})
    return answer.status_code, dict(answer.json or {})


def test_pipes_of_one_s_own_stand_beside_those_that_ship(bare: FlaskClient) -> None:
    status, told = asked(bare, "pipes", line="line", own=[OWN_PIPE])
    assert (status, told["currency"], told["outlets"][0]["id"]) == (200, "USD", "valve")
    found = {choice["product"]["product_id"]: choice for choice in told["choices"]}
    assert found["own-p"]["price"] == 105.0
    assert found["own-p"]["limit_kpa"] is None
    assert found["own-p"]["holds"] is None
    assert found["own-p"]["flows_lpm"] == pytest.approx([told["outlets"][0]["flow_lpm"]])
    assert len({choice["product"]["product_id"] for choice in told["choices"]}) == len(told["choices"])


def test_valves_of_one_s_own_stand_beside_those_that_ship(bare: FlaskClient) -> None:
    status, told = asked(bare, "valves", outlet="valve", own=[OWN_VALVE])
    assert status == 200
    own = next(choice for choice in told["choices"] if choice["product"]["product_id"] == "own-v")
    assert (own["price"], own["opens"], own["shuts"]) == (19.0, True, True)
    assert own["patch"][0]["value"]["product"] == "own-v"
    assert 0.0 < own["share"] < 1.0
    assert own["flow_lpm"] < told["pipe_lpm"]


def test_prices_that_ship_are_withheld_in_another_currency(bare: FlaskClient) -> None:
    document = one_line(**{"site.currency": "NZD"})
    told = bare.post("/api/analyses/pipes", json={"document": document, "line": "line", "own": [OWN_PIPE]}).json or {}
    prices = {choice["product"]["product_id"]: choice["price"] for choice in told["choices"]}
    assert told["currency"] == "NZD"
    assert prices.pop("own-p") == 105.0
    assert set(prices.values()) == {None}


def test_a_part_of_one_s_own_stands_in_a_line(bare: FlaskClient) -> None:
    status, told = asked(bare, "fitted", line="line", part=OWN_PART)
    assert status == 200
    assert told == {"part": {"kind": "filter", "at_m": 0.5, "product": "own-s", "kv_m3h": 2.0}}


@pytest.mark.parametrize(
    ("path", "body", "fault"),
    [
        ("pipes", {"line": "gone"}, "/line"),
        ("valves", {"outlet": "tank"}, "/outlet"),
        ("fitted", {"line": "gone", "part": OWN_PART}, "/line"),
        ("fitted", {"line": "line", "part": {**OWN_PART, "kind": "boat"}}, "/part/kind"),
        ("valves", {"outlet": "valve", "own": [{**OWN_VALVE, "kv_m3h": -1.0}]}, "/own/0/kv_m3h"),
        ("pipes", {"line": "line", "own": [{**OWN_PIPE, "wall_mm": 20.0}]}, "/own/0"),
        ("pipes", {"line": "line", "document": {"format": "leadsman-design"}}, "/document/version"),
    ],
)
def test_what_is_not_there_or_not_allowed_is_refused_with_its_place(
    bare: FlaskClient, path: str, body: dict[str, Any], fault: str
) -> None:
    status, told = asked(bare, path, **body)
    assert status == 422
    assert fault in [one["path"] for one in told["faults"]]


def test_a_plan_on_which_nothing_runs_has_no_tightest_outlet(bare: FlaskClient) -> None:
    document = one_line(**{"outlets.0.shut": True})
    answer = bare.post("/api/analyses/pipes", json={"document": document, "line": "line"})
    assert (answer.status_code, (answer.json or {})["faults"][0]["path"]) == (422, "/document/outlets")


def test_the_analysis_tells_what_each_pipe_is_good_for_and_where_findings_are(bare: FlaskClient) -> None:
    high_point = one_line(**{"lines.0.points": [[0, 120], [70, 118], [140, 108], [210, 101]],
                       "outlets.0.valve.kv_m3h": 8.0, "scenarios.0.pipe_c": 30.0, "lines.0.siphon": False})  # fmt: skip
    told = bare.post("/api/analyses", json={"document": high_point}).json or {}
    assert told["limits_kpa"] == {"line": pytest.approx(1250 * 0.87)}
    spots = {finding["code"]: finding.get("spot") for finding in told["findings"]}
    assert spots["vacuum-at-peak"] == {"line": "line", "at_m": 70}
    assert told["siphons"] == []
    siphon = bare.post(
        "/api/analyses", json={"document": {**high_point, "lines": [{**high_point["lines"][0], "siphon": True}]}}
    )
    (found,) = (siphon.json or {})["siphons"]
    assert found["line"] == "line"
    assert found["prime_with_foot_valve_l"] >= found["prime_l"] > 0.0
