"""Everything exported as one file, and put back: whole, nowhere twice, over nothing, and never in part."""

import copy
import io
import json
import zipfile
from collections.abc import Callable
from typing import Any
from uuid import uuid4

import psycopg
import pytest
from flask.testing import FlaskClient

from archives import emptied, exported_by, in_list, rewritten, sent
from examples import one_line
from leadsman.formats import archive as archive_format

PNG = b"\x89PNG\r\n\x1a\n" + b"made up" * 20
PINS = [
    {"x_px": 10.0, "y_px": 10.0, "east_m": 0.0, "north_m": 0.0},
    {"x_px": 110.0, "y_px": 10.0, "east_m": 50.0, "north_m": 0.0},
]
PIPE = {"product_id": "shop-32", "name": "Pipe", "family": "F", "outer_mm": 32.0, "wall_mm": 3.0, "roughness_mm": 0.01}
TABLES = {
    "design": "id, demo_key, head_number, last_number, saved_at",
    "revision": "design_id, number, parent_number, standing, document, saved_at, saved_by, label, site_name, name",
    "height_model": "design_id, model",
    "picture": "design_id, mime, data, pins",
    "own_product": "kind, product_id, product",
}


def whole(url: str) -> dict[str, list[Any]]:
    with psycopg.connect(url) as connection:
        return {
            name: connection.execute(f"SELECT {columns} FROM {name} ORDER BY 1, 2").fetchall()
            for name, columns in TABLES.items()
        }


@pytest.fixture
def kept(client: FlaskClient, demo_id: str) -> str:
    """A farm's worth: the demonstration, a plan with a past and a conflict, what lies under it, a pipe of one's own."""
    plan = str(client.post("/api/designs", json={"document": one_line()}).get_json()["design_id"])
    address = f"/api/designs/{plan}"
    for name in ("Second", "Beside"):  # the later one comes from revision 1 too
        client.put(address, json={"base_number": 1, "document": one_line(name=name), "saved_by": "Wren"})
    client.put(f"{address}/revisions/1/label", json={"label": "as surveyed"})
    form = {"file": (io.BytesIO(PNG), "a.png"), "pinned": json.dumps({"pins": PINS})}
    assert client.put(f"{address}/picture", data=form).status_code == 200
    client.put("/api/catalogue/pipe", json={"product": PIPE})
    assert demo_id != plan
    return plan


def test_all_that_is_exported_comes_back_as_it_was(client: FlaskClient, url: str, kept: str) -> None:
    before = whole(url)
    assert {name: len(rows) for name, rows in before.items()} == {
        "design": 3, "revision": 5, "height_model": 1, "picture": 1, "own_product": 1,
    }  # fmt: skip
    exported = client.get("/api/archive", buffered=True)
    assert exported.mimetype == "application/zip"
    with zipfile.ZipFile(io.BytesIO(exported.data)) as opened:  # readable without us
        name = next(one for one in opened.namelist() if one.endswith(f"{kept}/revision-00002.json"))
        assert json.loads(opened.read(name))["name"] == "Second"
    emptied(url)
    read = sent(client, exported.data)
    assert (read.status_code, read.get_json()) == (
        200, {"added": 3, "there": 0, "beside": 0, "products_added": 1, "products_left": []},
    )  # fmt: skip
    assert whole(url) == before


def test_read_again_it_adds_nothing_and_writes_over_nothing(client: FlaskClient, url: str, kept: str) -> None:
    exported = exported_by(client)
    client.put(f"/api/designs/{kept}", json={"base_number": 2, "document": one_line(name="Later work")})
    client.put("/api/catalogue/pipe", json={"product": {**PIPE, "price_per_m": 9.0}})
    first = sent(client, exported).get_json()
    assert first == {"added": 0, "there": 2, "beside": 1, "products_added": 0, "products_left": ["own-shop-32"]}
    after = whole(url)
    assert sent(client, exported).get_json() == {**first, "there": 3, "beside": 0}
    assert whole(url) == after
    assert client.get(f"/api/designs/{kept}").get_json()["document"]["name"] == "Later work"
    names = [one["name"] for one in client.get("/api/designs").get_json()["designs"]]
    assert {"Later work", "Second"} <= set(names)


def test_what_was_deleted_stays_out_and_what_was_exported_before_is_restored(client: FlaskClient, kept: str) -> None:
    exported = exported_by(client)
    client.put(f"/api/designs/{kept}/deleted", json={"deleted": True})
    without = exported_by(client)
    with zipfile.ZipFile(io.BytesIO(without)) as opened:
        assert not [name for name in opened.namelist() if kept in name]
    sent(client, exported)
    assert client.get("/api/designs").get_json()["count"] == 3


def in_last_document(content: Callable[[bytes], bytes]) -> Callable[[dict[str, bytes]], None]:
    def changed(files: dict[str, bytes]) -> None:
        name = max(one for one in files if "revision-" in one)
        files[name] = content(files[name])

    return changed


def twice(listing: dict[str, Any]) -> None:
    listing["plans"].append({**copy.deepcopy(listing["plans"][0]), "folder": "other"})


HOSTILE = {
    "no list": (lambda files: files.pop("archive.json"), "missing"),
    "a list of another kind": (in_list(lambda one: one.update(format="zoo")), "literal_error"),
    "a later version": (in_list(lambda one: one.update(version=2)), "literal_error"),
    "a plan twice": (in_list(twice), "twice"),
    "a folder elsewhere": (in_list(lambda one: one["plans"][0].update(folder="../../etc")), "string_pattern_mismatch"),
    "a head that is not there": (in_list(lambda one: one["plans"][0].update(head_number=77)), "value_error"),
    "a revision that is its own parent": (
        in_list(lambda one: one["plans"][0]["revisions"][0].update(parent_number=1)), "value_error"),
    "a last document that is not there": (
        lambda files: files.pop(max(one for one in files if "revision-" in one)), "missing"),
    "a document that is none": (in_last_document(lambda _: b"[1]"), "model_type"),
    "a document of nothing": (in_last_document(lambda _: b"\xff\x00"), "not_json"),
    "a document nested without end": (in_last_document(lambda _: b"[" * 200_000), "not_json"),
    "a bomb": (in_last_document(lambda _: b" " * 50_000_000), "too_large"),
    "a name with a bell in it": (
        in_last_document(lambda text: json.dumps({**json.loads(text), "name": "a\x07"}).encode()),
        "string_pattern_mismatch"),
    "a NUL in a note": (
        in_last_document(lambda text: json.dumps({**json.loads(text), "note": "\x00"}).encode()), "not_storable"),
    "an endless number": (in_last_document(lambda text: text[:-1] + b', "weight": Infinity}'), "not_storable"),
}  # fmt: skip


@pytest.mark.parametrize("name", HOSTILE)
def test_of_an_archive_that_is_amiss_nothing_is_kept(client: FlaskClient, url: str, kept: str, name: str) -> None:
    assert kept
    data = exported_by(client)
    emptied(url)
    change, code = HOSTILE[name]
    refused = sent(client, rewritten(data, change))
    assert refused.status_code == 422, refused.data[:300]
    assert code in [fault["code"] for fault in refused.get_json()["faults"]]
    assert [rows for rows in whole(url).values() if rows] == []


@pytest.mark.parametrize("data", [b"", b"no zip", b"PK\x03\x04" + bytes(200), b"PK\x05\x06" + b"\xff" * 18])
def test_what_is_no_archive_is_refused(client: FlaskClient, data: bytes) -> None:
    refused = sent(client, data)
    assert refused.status_code == 422
    assert refused.get_json()["faults"][0]["path"].startswith("/")


def test_a_damaged_file_is_refused(client: FlaskClient, url: str, kept: str) -> None:
    assert kept
    data = bytearray(exported_by(client))
    emptied(url)
    data[200:260] = bytes(60)
    assert sent(client, bytes(data)).status_code == 422
    assert [rows for rows in whole(url).values() if rows] == []


def test_too_many_files_are_refused(client: FlaskClient, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(archive_format, "MOST_FILES", 2)
    data = rewritten(exported_by(client), lambda files: files.update({str(uuid4()): b"" for _ in range(3)}))
    assert sent(client, data).get_json()["faults"][0]["code"] == "too_large"
