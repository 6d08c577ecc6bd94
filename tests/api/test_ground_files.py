"""Files, profiles and exports over HTTP: previews keep nothing, refusals say why, the service's trouble is told."""

import json
from dataclasses import replace
from typing import Any

import pytest
from flask.testing import FlaskClient
from werkzeug.test import TestResponse

from leadsman.api.routes import SETTINGS
from leadsman.core.design.file import write_design
from leadsman.demo import tamsel_ridge
from leadsman.standins.height_service import Behaviour, create_service
from serving import serving

RIDGE = write_design(tamsel_ridge())


def upload(client: FlaskClient, data: bytes, **asked: Any) -> TestResponse:
    told = json.dumps({"document": RIDGE, "name": "walk", **asked}).encode()
    body = (
        b'--edge\r\nContent-Disposition: form-data; name="asked"\r\n\r\n' + told
        + b'\r\n--edge\r\nContent-Disposition: form-data; name="file"; filename="walk.csv"\r\n\r\n' + data
        + b"\r\n--edge--\r\n"
    )  # fmt: skip
    return client.post("/api/ground/imports", data=body, content_type="multipart/form-data; boundary=edge")


def test_a_file_is_shown_and_nothing_is_kept(client: FlaskClient) -> None:
    table = b"name,east,north,height\nSpring box,10,300,281\n"
    asking = upload(client, table).get_json()
    assert (asking["questions"], asking["document"]) == (["system"], None)
    shown = upload(client, table, system="local", datum="site").get_json()
    assert shown["changes"] == [
        ["new place ", "Spring box"],
        ["height of ", "Spring box", ": ", {"value": 281.0, "unit": "m", "digits": None}, " by ", "walk"],
    ]
    assert shown["document"]["places"][-1]["id"] == "spring-box"
    assert client.get("/api/designs").get_json() == {"designs": [], "count": 0}


@pytest.mark.parametrize(
    ("data", "asked", "path", "found"),
    [
        (b"<gpx>", {}, "", "no element found"),
        (b"lat,lon\nx,1\n", {}, "line 2", "latitude 'x'"),
        (b"lat,lon\n1,1\n", {"error_m": -1}, "/asked/error_m", "-1"),
        (b"lat,lon\n1,1\n", {"spots": {"0": "gone"}}, "/spots/0", "gone"),
        (b"x" * 24_500_000, {}, "", "24,500,000 bytes"),
        (b"x" * 31_000_000, {}, "", "larger body"),
    ],
)
def test_what_is_refused_is_said_with_its_place(
    client: FlaskClient, data: bytes, asked: dict[str, Any], path: str, found: str
) -> None:
    answer = upload(client, data, **asked)
    assert answer.status_code == 422
    fault = answer.get_json()["faults"][0]
    assert fault["path"] == path
    assert found in fault["value"]


def test_a_plan_is_handed_out_in_every_format(client: FlaskClient) -> None:
    for kind, begins in (
        ("design", b"{"),
        ("gpx", b"<?xml"),
        ("kml", b"<?xml"),
        ("geojson", b"{"),
        ("csv", b"\xef\xbb\xbfid"),
    ):
        answer = client.post("/api/ground/exports", json={"document": RIDGE, "kind": kind})
        assert answer.data.startswith(begins)
        assert "tamsel-ridge-plan-a-three-branches" in answer.headers["Content-Disposition"]
    lost = {**RIDGE, "site": {key: value for key, value in RIDGE["site"].items() if key != "anchor"}}
    answer = client.post("/api/ground/exports", json={"document": lost, "kind": "gpx"})
    assert answer.get_json()["faults"][0]["path"] == "/site/anchor"


def test_a_line_is_filled_from_the_service_or_told_why_not(
    client: FlaskClient,
) -> None:
    asked = {"document": RIDGE, "line": "goose-hose"}
    without = client.post("/api/ground/profiles", json=asked)
    assert without.status_code == 503
    assert "The line keeps its points" in without.get_json()["message"]
    behaviour = Behaviour(delay_s=0.0)
    with serving(create_service(behaviour)) as address:
        set_up = client.application.extensions[SETTINGS]
        client.application.extensions[SETTINGS] = replace(set_up, height_service_url=address)
        filled = client.post("/api/ground/profiles", json=asked).get_json()
        line = next(one for one in filled["document"]["lines"] if one["id"] == "goose-hose")
        assert (line["points"][0], line["points"][-1]) == ([0.0, 255.9], [118.0, 256.8])
        assert (line["points_error_m"], line["points_from"]) == (0.6, filled["source"])
        assert client.post("/api/ground/profiles", json={**asked, "line": "gone"}).status_code == 422
        behaviour.mode = "gaps"
        gaps = client.post("/api/ground/profiles", json=asked)
        assert "no height at 1 points" in gaps.get_json()["message"]
