"""The API on real PostgreSQL: what it keeps, what it refuses and how, what it says without a database."""

import json
import math
import re
from pathlib import Path
from typing import Any

import jsonschema
import psycopg
import pytest
from flask.testing import FlaskClient

from examples import Document, one_line
from leadsman.api.app import create_app
from leadsman.api.openapi import openapi_document
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.design.file import read_design, write_design
from leadsman.core.report.finding import check_report
from leadsman.core.report.steady import solve_report
from leadsman.core.steady.solve import solve
from leadsman.demo import tamsel_ridge
from leadsman.settings import Settings


def created(client: FlaskClient, **changes: Any) -> dict[str, Any]:
    answer = client.post("/api/designs", json={"document": one_line(**changes)})
    assert answer.status_code == 201, answer.json
    return dict(answer.json or {})


def revisions(url: str) -> int:
    with psycopg.connect(url) as connection:
        row = connection.execute("SELECT count(*) FROM revision").fetchone()
    assert row is not None
    return int(row[0])


def test_a_design_is_kept_listed_read_and_saved(client: FlaskClient) -> None:
    made = created(client)
    address = f"/api/designs/{made['design_id']}"
    assert made["number"] == 1
    assert client.get(address).json == made
    saved = client.put(address, json={"base_number": 1, "document": one_line(name="Second")})
    assert (saved.status_code, saved.json) == (200, {"number": 2})
    listed = (client.get("/api/designs").json or {})["designs"]
    assert [(one["name"], one["number"], one["made_up"]) for one in listed] == [("Second", 2, False)]
    assert [revision["number"] for revision in (client.get(f"{address}/revisions").json or {})["revisions"]] == [2, 1]
    assert (client.get(f"{address}/revisions/1").json or {})["document"] == one_line()


def test_one_plan_has_one_count_of_findings_wherever_it_is_shown(client: FlaskClient) -> None:
    design = tamsel_ridge()
    document = write_design(design)
    made = client.post("/api/designs", json={"document": document}).get_json()
    assert client.get("/api/designs").get_json()["designs"][0]["glance"] is None  # the list judges nothing
    address = f"/api/designs/{made['design_id']}/revisions/1/glance"
    seen = client.get(address).get_json()
    assert client.get(address).get_json() == seen
    listed = client.get("/api/designs").get_json()["designs"][0]["glance"]
    workbench = client.post("/api/analyses/rest", json={"document": document}).get_json()
    checked = check_report(Analysis(design))
    assert listed["findings"] == seen["findings"] == len(workbench["findings"]) == len(checked.findings) == 13
    assert listed["sentence"] == workbench["verdict"]["sentence"]


def test_a_stale_save_gets_409_and_both_versions_are_kept(client: FlaskClient) -> None:
    address = f"/api/designs/{created(client)['design_id']}"
    client.put(address, json={"base_number": 1, "document": one_line(name="Hers")})
    late = client.put(address, json={"base_number": 1, "document": one_line(name="His")})
    answer = late.json or {}
    assert late.status_code == 409
    assert (answer["code"], answer["head"]["number"], answer["head"]["document"]["name"]) == ("stale", 2, "Hers")
    kept = client.get(f"{address}/revisions/{answer['kept_as']}").json or {}
    assert (kept["standing"], kept["document"]["name"]) == ("sibling", "His")


def test_a_save_from_a_revision_that_never_was_is_refused(client: FlaskClient, url: str) -> None:
    address = f"/api/designs/{created(client)['design_id']}"
    answer = client.put(address, json={"base_number": 2, "document": one_line()})
    assert answer.status_code == 404
    assert revisions(url) == 1


BAD: list[tuple[str, bytes | dict[str, Any], set[str]]] = [
    ("a missing place", one_line(**{"vessels.0.place": "gone"}), {"/document/vessels/0/place"}),
    ("a negative bore", one_line(**{"lines.0.bore_mm": -5}), {"/document/lines/0/bore_mm"}),
    ("a duplicate id", one_line(**{"vessels.1.id": "tank"}), {"/document/vessels/1/id"}),
    ("a line that ends nowhere", one_line(**{"lines.0.to": "air"}), {"/document/lines/0/to"}),
    ("NaN", one_line(**{"places.0.ground_m": math.nan}), {"/document/places/0/ground_m"}),
    ("text for a number", one_line(**{"places.1.ground_m": "low"}), {"/document/places/1/ground_m"}),
    ("three at once", one_line(**{"lines.0.length_m": 0, "lines.0.to": "x", "site.name": ""}),
     {"/document/lines/0/length_m", "/document/lines/0/to", "/document/site/name"}),
    ("no document", b"{}", {"/document"}),
    ("no JSON", b"{'document'", {""}),
    ("nesting too deep", b"[" * 100_000, {""}),
    ("10 MB of nonsense", b"\x00nonsense" * 1_200_000, {""}),
]  # fmt: skip


@pytest.mark.parametrize(("body", "paths"), [case[1:] for case in BAD], ids=[case[0] for case in BAD])
def test_bad_input_is_refused_with_every_path_and_changes_nothing(
    client: FlaskClient, url: str, body: bytes | dict[str, Any], paths: set[str]
) -> None:
    address = f"/api/designs/{created(client)['design_id']}"
    for method, at, extra in (
        ("POST", "/api/designs", {}),
        ("PUT", address, {"base_number": 1}),
        ("POST", "/api/analyses", {}),
    ):
        data = body if isinstance(body, bytes) else json.dumps({"document": body, **extra}).encode()
        if data == b"{}":
            data = json.dumps(extra).encode()
        answer = client.open(at, method=method, data=data, content_type="application/json")
        assert answer.status_code == 422
        problem = answer.json or {}
        assert paths <= {fault["path"] for fault in problem["faults"]}
        assert all(fault["value"] and fault["limit"] for fault in problem["faults"])
    assert revisions(url) == 1


def test_an_analysis_is_the_solvers_answer_and_keeps_nothing(client: FlaskClient, url: str) -> None:
    answer = client.post("/api/analyses", json={"document": one_line()}).json or {}
    expected = solve_report(solve(read_design(one_line()), all_open=True)).model_dump(mode="json", exclude_unset=True)
    assert answer["solution"] == expected
    assert answer["routes"][0]["section"][0]["shut_head_m"] == 121.0
    assert answer["demand"]["daily_l"] == pytest.approx(590.0)
    assert revisions(url) == 0


def test_what_was_saved_last_is_judged_as_if_it_were_sent(client: FlaskClient) -> None:
    made = created(client)
    address = f"/api/designs/{made['design_id']}"
    raised = one_line()
    raised["vessels"][0]["level_m"] = 0.2
    client.put(address, json={"base_number": 1, "document": raised})
    saved = client.get(f"{address}/analysis").get_json()
    sent = client.post("/api/analyses", json={"document": raised}).get_json()
    assert saved == {"number": 2, "analysis": sent}
    assert sent != client.post("/api/analyses", json={"document": one_line()}).get_json()


def test_a_check_is_what_the_command_says_and_an_analysis_leaves_its_remedies_out(client: FlaskClient) -> None:
    document = one_line(**{"requirements.0.flow_lpm": 60})
    checked = client.post("/api/analyses/rest", json={"document": document}).json or {}
    said = check_report(Analysis(read_design(document))).model_dump(mode="json", exclude_unset=True)
    assert {key: checked[key] for key in said} == said
    assert checked["findings"][0]["remedies"]
    findings = (client.post("/api/analyses", json={"document": document}).json or {})["findings"]
    assert [{**finding, "remedies": None} for finding in checked["findings"]] == findings


def test_at_rest_the_herds_have_drunk_and_nothing_is_kept(client: FlaskClient, url: str) -> None:
    mob = {"pattern": "mob", "within_min": 5, "visits": 1}
    document = one_line(**{"herds.0.head": 60, "herds.0.drinking": mob})
    answer = client.post("/api/analyses/rest", json={"document": document}).json or {}
    watering = answer["watering"][0]
    assert watering["runs_empty"]
    assert "trough-runs-empty" in [finding["code"] for finding in answer["findings"]]
    assert watering["visits"][0]["habit"]["assumed"]
    sentence = "".join(part if isinstance(part, str) else str(part["value"]) for part in answer["verdict"]["sentence"])
    assert "runs empty" in sentence
    quick = client.post("/api/analyses", json={"document": document}).json or {}
    assert "trough-runs-empty" not in [finding["code"] for finding in quick["findings"]]
    assert revisions(url) == 0


def test_what_helps_against_one_finding_is_what_helps_against_it_among_all(client: FlaskClient) -> None:
    document = one_line(**{"requirements.0.flow_lpm": 45})
    whole = client.post("/api/analyses/rest", json={"document": document}).json or {}
    found = next(finding for finding in whole["findings"] if finding["code"] == "flow-below-wanted")
    asked = {"document": document, "code": found["code"], "where": found["where"]}
    answer = client.post("/api/analyses/remedies", json=asked).json or {}
    assert answer["remedies"] == found["remedies"] != []
    nowhere = client.post("/api/analyses/remedies", json={**asked, "where": "tank"}).json or {}
    assert nowhere == {"remedies": []}
    refused = client.post("/api/analyses/remedies", json={**asked, "code": "bad-luck"})
    assert refused.status_code == 422
    assert (refused.json or {})["faults"][0]["path"] == "/code"


def test_work_ends_when_the_asker_has_hung_up_and_not_before(client: FlaskClient) -> None:
    looks = iter([False, False, False, True])
    asking: Any = {"environ_overrides": {"waitress.client_disconnected": lambda: next(looks)}}
    assert client.post("/api/analyses", json={"document": one_line()}).status_code == 200
    given_up = client.post("/api/analyses", json={"document": one_line()}, **asking)
    assert (given_up.status_code, given_up.data) == (204, b"")
    assert list(looks) == []


def test_the_two_schools_are_compared_or_the_outlet_refused(client: FlaskClient) -> None:
    document = one_line(**{"herds.0.drinking": {"pattern": "mob"}})
    answer = client.post("/api/analyses/schools", json={"document": document, "outlet": "valve"}).json or {}
    assert [school["kv_m3h"] for school in answer["schools"]] == [0.75, 3.0, 12.0]
    assert all(school["watering"]["visits"] for school in answer["schools"])
    refused = client.post("/api/analyses/schools", json={"document": document, "outlet": "tank"})
    assert refused.status_code in (404, 422)
    assert "valve" in (refused.json or {})["faults"][0]["limit"]


def test_a_lawful_design_that_cannot_be_judged_says_where(client: FlaskClient) -> None:
    answer = client.post("/api/analyses", json={"document": one_line(**{"herds.0.weight_kg": 1_500.0})})
    assert answer.status_code == 422
    assert (answer.json or {})["faults"][0]["path"] == "/herds/0/weight_kg"


@pytest.mark.parametrize(
    ("method", "address", "status"),
    [
        ("GET", "/api/designs/00000000-0000-4000-8000-000000000000", 404),
        ("GET", "/api/designs/not-an-id", 404),
        ("GET", "/api/nothing", 404),
        ("DELETE", "/api/designs", 405),
    ],
)
def test_what_is_not_there_is_said_plainly(client: FlaskClient, method: str, address: str, status: int) -> None:
    answer = client.open(address, method=method)
    assert answer.status_code == status
    assert (answer.json or {})["message"]


def test_without_a_database_saving_says_so_and_judging_goes_on() -> None:
    client = create_app(Settings(database_url="postgresql://nobody@127.0.0.1:9/none?connect_timeout=1")).test_client()
    refused = client.post("/api/designs", json={"document": one_line()})
    assert (refused.status_code, (refused.json or {})["code"]) == (503, "no_database")
    assert client.post("/api/analyses", json={"document": one_line()}).status_code == 200
    health = client.get("/api/health")
    assert (health.status_code, health.json) == (503, {"status": "up", "database": False})


def test_the_description_names_every_route_and_answer() -> None:
    app = create_app(Settings(database_url="postgresql://described-without-a-database/"))
    served = {
        (re.sub(r"<\w+:(\w+)>", r"{\1}", rule.rule), method.lower())
        for rule in app.url_map.iter_rules()
        if rule.rule.startswith("/api/")
        for method in (rule.methods or set()) - {"HEAD", "OPTIONS"}
    }
    document = openapi_document()
    assert served == {(path, method) for path, operations in document["paths"].items() for method in operations}
    text = json.dumps(document)
    named = {name.split('"')[0] for name in text.split("#/components/schemas/")[1:]}
    assert named <= set(document["components"]["schemas"])


def schema_of(name: str, document: dict[str, Any]) -> dict[str, Any]:
    return {"$ref": f"#/components/schemas/{name}", "components": document["components"]}


def test_answers_are_what_the_description_says(client: FlaskClient) -> None:
    made = created(client)
    address = f"/api/designs/{made['design_id']}"
    client.put(address, json={"base_number": 1, "document": one_line(name="Hers")})
    high_point = one_line(
        **{"lines.0.points": [[0, 120], [70, 119.5], [140, 105], [210, 101]], "outlets.0.valve.kv_m3h": 8.0}
    )
    described: list[tuple[str, Any]] = [
        ("Revision", made),
        ("AnalysisReport", client.post("/api/analyses", json={"document": high_point}).json),
        ("CatalogueBody", client.get("/api/catalogue").json),
        ("Conflict", client.put(address, json={"base_number": 1, "document": one_line()}).json),
        ("DesignList", client.get("/api/designs").json),
        ("RevisionList", client.get(f"{address}/revisions").json),
        ("Problem", client.get(f"{address}/revisions/99").json),
        ("Problem", client.post("/api/designs", json={"document": {}}).json),
        ("Health", client.get("/api/health").json),
    ]
    document = json.loads((Path(__file__).parents[2] / "docs" / "openapi.json").read_text())
    for name, body in described:
        jsonschema.validate(body, schema_of(name, document))


def test_the_catalogue_gives_each_pipe_with_its_source(client: FlaskClient) -> None:
    pipes = {pipe["id"]: pipe for pipe in (client.get("/api/catalogue").json or {})["pipes"]}
    assert pipes["pe100-sdr13.6-40"]["bore_mm"] == 34.0  # EN 12201-2, from memory
    assert all("from memory" in pipe["source"] for pipe in pipes.values())


ASKED = {"climate": "dry plains", "since": "2024-01-01", "years": 2, "seed": 3}


def test_weather_is_asked_for_and_a_season_run_on_it(client: FlaskClient) -> None:
    told = client.post("/api/weather", json=ASKED)
    assert told.status_code == 200
    weather = told.json["weather"]  # type: ignore[index]
    assert len(weather["rain_mm"]) == len(weather["least_c"]) == 731
    document = one_line(season={"weather": weather})
    season = client.post("/api/analyses/season", json={"document": document}).json["season"]  # type: ignore[index]
    assert season["days"] == 731
    assert season["series"]["days"][0] == "2024-01-01"
    assert client.post("/api/analyses/season", json={"document": one_line()}).json["season"] is None  # type: ignore[index]


def test_a_long_season_is_told_in_spells_that_add_up(client: FlaskClient) -> None:
    weather = client.post("/api/weather", json={**ASKED, "years": 30}).json["weather"]  # type: ignore[index]
    document = one_line(season={"weather": weather})
    season = client.post("/api/analyses/season", json={"document": document}).json["season"]  # type: ignore[index]
    series = season["series"]
    assert series["days_each"] > 1
    assert len(series["days"]) <= 1_100
    kept = season["start_l"] + sum(map(sum, series["in_l"].values())) - sum(series["out_l"]) - sum(series["spilled_l"])
    assert series["store_l"][-1] == pytest.approx(kept, abs=20.0)  # each figure is told to 0.01 L


@pytest.mark.parametrize(
    ("asked", "status", "code"),
    [
        ({"failure": "down"}, 503, "no_service"), ({"failure": "garbled"}, 503, "no_service"),
        ({"climate": "moon"}, 422, "refused"), ({"years": 0}, 422, "refused"), ({"since": "soon"}, 422, "refused"),
    ],
)  # fmt: skip
def test_weather_that_cannot_be_had_says_why(client: FlaskClient, asked: Document, status: int, code: str) -> None:
    answer = client.post("/api/weather", json={**ASKED, **asked})
    assert (answer.status_code, answer.json["code"]) == (status, code)  # type: ignore[index]


def test_a_weather_table_is_read_or_refused_with_its_line(client: FlaskClient) -> None:
    table = "date,rain_mm\n2026-05-01,1\n2026-05-02,0\n"
    read = client.post("/api/weather/table", json={"text": table, "name": "mine"})
    assert read.json["weather"]["rain_mm"] == [1.0, 0.0]  # type: ignore[index]
    refused = client.post("/api/weather/table", json={"text": table + "2026-05-09,0\n"})
    assert refused.status_code == 422
    assert refused.json["faults"][0]["path"] == "line 4"  # type: ignore[index]
