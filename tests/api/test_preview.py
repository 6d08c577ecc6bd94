"""Previews: what is shown while a plan changes, worked out anew by whichever worker or thread is required."""

import json
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from http.client import HTTPConnection
from pathlib import Path
from typing import Any

import pytest
from bench.designs import comb
from flask.testing import FlaskClient

from examples import changed, worked_example
from leadsman.core.report.preview import MOST_WORDED
from leadsman.demo import tamsel_ridge
from leadsman.launch.cluster import Cluster, free_port
from leadsman.launch.server import web_server


def by_outlet(columns: dict[str, list[Any]]) -> dict[str, dict[str, Any]]:
    """The rows of a table told in columns, by the outlet that each is about."""
    names = [name for name in columns if name != "outlet"]
    rows = zip(columns["outlet"], zip(*(columns[name] for name in names), strict=True), strict=True)
    return {outlet: dict(zip(names, row, strict=True)) for outlet, row in rows}


def test_a_preview_is_what_the_whole_analysis_says_of_all_outlets_together(client: FlaskClient) -> None:
    document = json.loads(tamsel_ridge().model_dump_json(by_alias=True, exclude_unset=True))
    whole = client.post("/api/analyses", json={"document": document}).get_json()
    asked = {"document": document, "outlet": "goose-valve"}
    seen = client.post("/api/analyses/preview", json={**asked, "number": 7}).get_json()
    assert seen["number"] == 7
    outlets, soundings = by_outlet(seen["outlets"]), by_outlet(seen["soundings"])
    for route in whole["routes"]:
        own, sounding = outlets[route["outlet"]], soundings.get(route["outlet"])
        assert own["flow_lpm"] == pytest.approx(route["together"]["flow_lpm"], rel=1e-6)
        assert own["state"] == route["together"]["state"]
        assert sounding == (route["together"]["sounding"] and pytest.approx(route["together"]["sounding"], abs=1e-5))
    (shown,) = [route for route in whole["routes"] if route["outlet"] == "goose-valve"]
    assert seen["way"]["section"] == shown["section"]
    assert [one["head_m"] for one in seen["way"]["grade"]] == pytest.approx(
        [one["head_m"] for one in shown["together"]["grade"]]
    )
    flow_codes = {finding["code"] for finding in whole["findings"]} & set(seen["checked"])
    assert {finding["code"] for finding in seen["findings"]} == flow_codes
    assert seen["flow"] == whole["verdict"]["numbers"][0]
    assert seen["sentence"] == whole["verdict"]["sentence"]


def test_of_many_findings_in_a_preview_the_worst_are_put_into_words(client: FlaskClient) -> None:
    document: dict[str, Any] = comb(3, 10)
    document["requirements"] = [{"outlet": outlet["id"], "flow_lpm": 900.0} for outlet in document["outlets"]]
    whole = client.post("/api/analyses", json={"document": document}).get_json()
    seen = client.post("/api/analyses/preview", json={"document": document, "number": 1}).get_json()
    expected = [finding for finding in whole["findings"] if finding["code"] in seen["checked"]]
    assert len(expected) == 30
    worded, named = seen["findings"][:MOST_WORDED], seen["findings"][MOST_WORDED:]
    assert [one["reason"] for one in worded] == [one["reason"] for one in expected[:MOST_WORDED]]
    assert all(one["headline_words"] and one["why_words"] for one in worded)
    kept = ("code", "severity", "where", "spot")
    assert [[one[key] for key in kept] for one in named] == [
        [one[key] for key in kept] for one in expected[MOST_WORDED:]
    ]
    assert {(one["reason"], *one["headline_words"], *one["why_words"]) for one in named} == {("",)}


def dragged(document: dict[str, Any], number: int) -> dict[str, Any]:
    """Return a request of a drag: the tank so many steps higher."""
    first = {**document["places"][0], "ground_m": document["places"][0]["ground_m"] + 0.5 * number}
    return {"document": {**document, "places": [first, *document["places"][1:]]}, "number": number}


def test_any_of_two_workers_answers_every_request_of_a_drag_on_a_connection_of_its_own(
    cluster: Cluster, tmp_path: Path
) -> None:
    document = comb(3, 4)
    server = web_server("127.0.0.1", free_port(0), cluster.url, tmp_path / "server.pid", workers=2)
    try:
        server.await_answer()
        host = server.address.removeprefix("http://").rstrip("/")

        def ask(number: int) -> tuple[int, Any]:
            headers = {"Content-Type": "application/json"}
            with closing(HTTPConnection(host, timeout=60)) as connection:
                connection.request("POST", "/api/analyses/preview", json.dumps(dragged(document, number)), headers)
                answer = connection.getresponse()
                return answer.status, json.load(answer)

        with ThreadPoolExecutor(4) as hands:
            answers = list(hands.map(ask, range(24)))
    finally:
        server.stop()
    assert [status for status, _ in answers] == [200] * 24
    assert [answer["number"] for _, answer in answers] == list(range(24))
    flows = [sum(answer["outlets"]["flow_lpm"]) for _, answer in answers]
    assert flows == sorted(flows)
    assert flows[0] < flows[-1]  # the higher the tank stands, the more runs


def test_two_threads_of_a_process_do_not_disturb_each_other(client: FlaskClient) -> None:
    documents = [comb(2, 5), comb(3, 3)]
    expected = [
        [client.post("/api/analyses/preview", json=dragged(one, number)).get_json() for number in range(6)]
        for one in documents
    ]

    def drag(document: dict[str, Any]) -> list[Any]:
        own = client.application.test_client()
        return [own.post("/api/analyses/preview", json=dragged(document, number)).get_json() for number in range(6)]

    with ThreadPoolExecutor(2) as threads:
        for _ in range(4):
            assert list(threads.map(drag, documents)) == expected


@pytest.mark.parametrize(("gone", "status"), [(False, 200), (True, 204)])
def test_a_preview_that_nobody_waits_for_ends(client: FlaskClient, gone: bool, status: int) -> None:
    asking: Any = {"environ_overrides": {"waitress.client_disconnected": lambda: gone}, "json": dragged(comb(2, 2), 1)}
    assert client.post("/api/analyses/preview", **asking).status_code == status


@pytest.mark.parametrize(
    ("body", "path"),
    [
        ({"number": 1, "document": {"name": 1}}, "/document/format"),
        ({"document": comb(1, 1)}, "/number"),
        ({"number": -1, "document": comb(1, 1)}, "/number"),
    ],
)
def test_a_preview_of_what_is_no_design_says_where(client: FlaskClient, body: dict[str, Any], path: str) -> None:
    refused = client.post("/api/analyses/preview", json=body)
    assert refused.status_code == 422
    assert path in [fault["path"] for fault in refused.get_json()["faults"]]


@pytest.mark.parametrize("route", ["/api/edits", "/api/analyses/preview"])
@pytest.mark.parametrize(
    ("change", "path"),
    [
        ({"places.0.east_m": "far"}, "/document/places/0/east_m"),
        ({"lines": 5}, "/document/lines"),
        ({"places": [None]}, "/document/places/0"),
        ({"outlets.0.place": "nowhere"}, "/document/outlets/0/place"),
    ],
)
def test_edits_of_what_is_no_design_say_where_in_the_body(
    client: FlaskClient, route: str, change: dict[str, Any], path: str
) -> None:
    edit = {"kind": "move_places", "places": {"fork": [10.0, 10.0]}}
    body: dict[str, Any] = {"document": changed(worked_example(), change), "edits": [edit]}
    refused = client.post(route, json={**body, "number": 1} if "preview" in route else body)
    assert refused.status_code == 422
    assert path in [fault["path"] for fault in refused.get_json()["faults"]]
