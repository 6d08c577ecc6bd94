"""What lies under a plan, through the API: kept, read, asked of the service, forgotten; nothing half-kept."""

import io
import json
from typing import Any
from uuid import UUID, uuid4

import pytest
from bench.designs import comb
from flask.testing import FlaskClient

from examples import worked_example
from leadsman.core.report.glimpse import MOST_WORDED
from leadsman.db.connection import Database
from leadsman.db.revision import save
from leadsman.demo import tamsel_relief, tamsel_ridge

PNG = b"\x89PNG\r\n\x1a\n" + b"made up" * 20
PINS = [
    {"x_px": 10.0, "y_px": 10.0, "east_m": 0.0, "north_m": 0.0},
    {"x_px": 110.0, "y_px": 10.0, "east_m": 50.0, "north_m": 0.0},
]


@pytest.fixture
def address(client: FlaskClient) -> str:
    made = client.post("/api/designs", json={"document": worked_example()})
    return f"/api/designs/{made.get_json()['design_id']}"


def grid(rows: int = 40, columns: int = 40, step: float = 25.0, corner: float = -400.0) -> bytes:
    head = (
        f"ncols {columns}\nnrows {rows}\nxllcorner {corner}\nyllcorner {corner}\ncellsize {step}\nNODATA_value -9999\n"
    )
    lines = [" ".join(str(250 + 0.05 * step * (rows - row)) for _ in range(columns)) for row in range(rows)]
    return (head + "\n".join(lines) + "\n").encode()


def put(client: FlaskClient, address: str, key: str, told: Any, data: bytes) -> Any:
    form = {key: json.dumps(told), "file": (io.BytesIO(data), "given")}
    return client.put(address, data=form, content_type="multipart/form-data")


def asked(**more: Any) -> dict[str, Any]:
    return {"document": worked_example(), "name": "hill.asc", "system": "local", **more}


def test_a_grid_is_kept_read_and_forgotten(client: FlaskClient, address: str) -> None:
    assert client.get(f"{address}/relief").status_code == 404
    kept = put(client, f"{address}/relief", "asked", asked(), grid())
    assert kept.status_code == 200
    assert client.get(f"{address}/relief").get_json() == kept.get_json()
    told = kept.get_json()
    assert told["source"] == "hill.asc"
    row = told["heights_m"][20]
    assert max(row) - min(row) < 1e-6
    assert client.delete(f"{address}/relief").status_code == 204
    assert client.get(f"{address}/relief").status_code == 404


@pytest.mark.parametrize(
    ("told", "data", "code"),
    [
        (asked(system=None), grid(), "no_system"),
        (asked(), grid(corner=1e6), "too_far"),
        (asked(), b"<gpx/>", None),
        (asked(name=""), grid(), None),
        ({"document": {}}, grid(), None),
    ],
)
def test_what_is_no_grid_under_the_plan_is_refused_and_the_one_before_stays(
    client: FlaskClient, address: str, told: Any, data: bytes, code: str | None
) -> None:
    before = put(client, f"{address}/relief", "asked", asked(), grid()).get_json()
    refused = put(client, f"{address}/relief", "asked", told, data)
    assert refused.status_code == 422
    if code:
        assert code in [fault["code"] for fault in refused.get_json()["faults"]]
    assert client.get(f"{address}/relief").get_json() == before


def test_nothing_is_kept_of_a_design_that_is_not_there(client: FlaskClient) -> None:
    nowhere = f"/api/designs/{uuid4()}"
    assert put(client, f"{nowhere}/relief", "asked", asked(), grid()).status_code == 404
    assert put(client, f"{nowhere}/picture", "pinned", {"pins": PINS}, PNG).status_code == 404
    assert client.get(f"{nowhere}/picture/image").status_code == 404


def test_without_a_height_service_that_is_said(client: FlaskClient, address: str) -> None:
    told = client.post(f"{address}/relief/service", json={"document": worked_example()})
    assert told.status_code == 503
    assert "height service" in told.get_json()["message"]


def test_a_source_s_reach_is_that_of_the_core(client: FlaskClient, address: str) -> None:
    question = {"document": worked_example(), "vessel": "header", "product": "pe100-sdr17-32", "flow_lpm": 20.0}
    assert client.post(f"{address}/reach", json={**question, "needs_m": 1.0}).status_code == 404
    put(client, f"{address}/relief", "asked", asked(), grid())
    told = client.post(f"{address}/reach", json={**question, "needs_m": 1.0}).get_json()
    higher = client.post(f"{address}/reach", json={**question, "needs_m": 6.0}).get_json()
    assert 0.0 < higher["share"] < told["share"] < 1.0
    assert told["surface_m"] == pytest.approx(270.6)
    for wrong in ({"vessel": "nobody"}, {"product": "no-pipe"}, {"flow_lpm": 0}, {"needs_m": -1}):
        assert client.post(f"{address}/reach", json={**question, "needs_m": 1.0, **wrong}).status_code == 422


def test_a_picture_is_kept_pinned_anew_and_forgotten(client: FlaskClient, address: str) -> None:
    kept = put(client, f"{address}/picture", "pinned", {"pins": PINS}, PNG)
    assert kept.status_code == 200
    told = kept.get_json()
    assert (told["a"], told["e"]) == (pytest.approx(0.5), pytest.approx(-0.5))
    image = client.get(f"{address}/picture/image")
    assert (image.data, image.mimetype, image.headers["X-Content-Type-Options"]) == (PNG, "image/png", "nosniff")
    third = {"x_px": 10.0, "y_px": 110.0, "east_m": 0.0, "north_m": -56.0}
    again = client.put(f"{address}/picture/pins", json={"pins": [*PINS, third]}).get_json()
    assert max(again["off_m"]) == pytest.approx(2.1213, abs=1e-3)
    assert client.get(f"{address}/picture").get_json() == again
    assert client.delete(f"{address}/picture").status_code == 204
    assert client.get(f"{address}/picture").status_code == 404


@pytest.mark.parametrize(
    ("pins", "data"),
    [(PINS[:1], PNG), (PINS, b"<svg onload=alert(1)>"), (PINS, b""), ([PINS[0], PINS[0]], PNG)],
)
def test_what_is_no_pinned_picture_is_refused(client: FlaskClient, address: str, pins: Any, data: bytes) -> None:
    assert put(client, f"{address}/picture", "pinned", {"pins": pins}, data).status_code == 422
    assert client.get(f"{address}/picture").status_code == 404


def test_who_saved_is_kept_and_a_revision_can_be_named(client: FlaskClient, address: str, database: Database) -> None:
    document = worked_example()
    saved = client.put(address, json={"base_number": 1, "document": document, "saved_by": "Ash at the ridge"})
    assert saved.get_json()["number"] == 2
    assert client.put(f"{address}/revisions/2/label", json={"label": "before the frost"}).status_code == 200
    assert client.put(f"{address}/revisions/9/label", json={"label": "x"}).status_code == 404
    assert client.put(f"{address}/revisions/2/label", json={"label": "x" * 121}).status_code == 422
    listed = client.get(f"{address}/revisions").get_json()["revisions"]
    assert [(one["number"], one["saved_by"], one["label"]) for one in listed] == [
        (2, "Ash at the ridge", "before the frost"),
        (1, "", ""),
    ]
    with database.transaction() as connection:
        kept = save(connection, UUID(address.rpartition("/")[2]), 2, document)
    assert kept is not None
    assert kept.number == 3


def by_outlet(columns: dict[str, list[Any]]) -> dict[str, dict[str, Any]]:
    """The rows of a table told in columns, by the outlet that each is about."""
    names = [name for name in columns if name != "outlet"]
    rows = zip(columns["outlet"], zip(*(columns[name] for name in names), strict=True), strict=True)
    return {outlet: dict(zip(names, row, strict=True)) for outlet, row in rows}


def test_the_glimpse_is_what_the_whole_analysis_says_of_all_outlets_together(client: FlaskClient) -> None:
    document = json.loads(tamsel_ridge().model_dump_json(by_alias=True, exclude_unset=True))
    whole = client.post("/api/analyses", json={"document": document}).get_json()
    asked = {"document": document, "outlet": "goose-valve"}
    seen = client.put(f"/api/analyses/glimpses/{uuid4()}", json=asked).get_json()
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


def test_of_many_findings_seen_in_passing_the_worst_are_put_into_words(client: FlaskClient) -> None:
    document: dict[str, Any] = comb(3, 10)
    document["requirements"] = [{"outlet": one["id"], "flow_lpm": 900.0} for one in document["outlets"]]
    whole = client.post("/api/analyses", json={"document": document}).get_json()
    seen = client.put(f"/api/analyses/glimpses/{uuid4()}", json={"document": document}).get_json()
    expected = [one for one in whole["findings"] if one["code"] in seen["checked"]]
    assert len(expected) == 30
    worded, named = seen["findings"][:MOST_WORDED], seen["findings"][MOST_WORDED:]
    assert [one["reason"] for one in worded] == [one["reason"] for one in expected[:MOST_WORDED]]
    assert all(one["headline_words"] and one["why_words"] for one in worded)
    kept = ("code", "severity", "where", "spot")
    assert [[one[key] for key in kept] for one in named] == [
        [one[key] for key in kept] for one in expected[MOST_WORDED:]
    ]
    assert {(one["reason"], *one["headline_words"], *one["why_words"]) for one in named} == {("",)}


def test_of_what_is_held_only_the_change_is_sent_and_what_is_not_held_is_asked_for_whole(client: FlaskClient) -> None:
    address, other = (f"/api/analyses/glimpses/{uuid4()}" for _ in range(2))
    document = json.loads(tamsel_ridge().model_dump_json(by_alias=True, exclude_unset=True))
    client.put(address, json={"document": document})
    place = {**document["places"][0], "ground_m": document["places"][0]["ground_m"] + 2.0}
    change = {"step": 1, "change": {"parts": {"places": [[0, place]]}}}
    told = client.patch(address, json=change)
    document["places"][0] = place
    expected = client.put(other, json={"document": document}).get_json()
    for kind, rel in (("outlets", 1e-6), ("soundings", 1e-4)):
        for name, column in expected[kind].items():
            for one, value in zip(told.get_json()[kind][name], column, strict=True):
                assert one == (pytest.approx(value, rel=rel, abs=1e-5) if isinstance(value, float) else value)
    again = client.patch(address, json=change)
    assert (again.status_code, again.get_json()["code"]) == (404, "not_found")
    faulty = client.patch(other, json={"step": 1, "change": {"parts": {"places": [[0, {**place, "ground_m": 1e6}]]}}})
    assert faulty.status_code == 422
    assert [one["path"] for one in faulty.get_json()["faults"]] == ["/document/places/0/ground_m"]
    assert client.patch(other, json={"step": 1, "change": {}}).status_code == 200
    assert client.patch(other, json={"step": 0, "change": {}}).status_code == 422
    assert client.patch(other, json={"step": 2, "change": {"part": {}}}).status_code == 422
    assert client.put(other, json={"document": {"name": 1}}).status_code == 422


def test_the_demonstration_s_hill_is_kept_with_it() -> None:
    relief = tamsel_relief(tamsel_ridge())
    assert relief.source.startswith("made up")
