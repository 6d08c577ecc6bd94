"""What lies under a plan, through the API: kept, read, asked of the service, forgotten; nothing half-kept."""

import io
import json
from typing import Any
from uuid import UUID, uuid4

import pytest
from flask.testing import FlaskClient

from examples import worked_example
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
    west, south = told["east_m"], told["north_m"]
    between = [[west + 0.5 * told["step_m"], south + 20.5 * told["step_m"]], [west - 1.0, south]]
    heights = client.post(f"{address}/relief/ground", json={"spots": between}).get_json()["ground_m"]
    assert heights == [pytest.approx((row[0] + told["heights_m"][21][0]) / 2.0, abs=0.006), None]
    assert client.delete(f"{address}/relief").status_code == 204
    assert client.get(f"{address}/relief").status_code == 404
    assert client.post(f"{address}/relief/ground", json={"spots": between}).status_code == 404


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
    [
        (PINS[:1], PNG),
        (PINS, b"<svg onload=alert(1)>"),
        (PINS, b""),
        ([PINS[0], PINS[0]], PNG),
        (PINS, b"RIFF\x24\0\0\0WAVEfmt "),  # a sound
    ],
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


def test_the_demonstration_s_hill_is_kept_with_it() -> None:
    relief = tamsel_relief(tamsel_ridge())
    assert relief.source.startswith("made up")
