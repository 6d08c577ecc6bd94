"""Photos of the log: sent after their entry, once or twice, by one phone or two; never changed, and never lost."""

import io
import zipfile
from typing import Any
from uuid import uuid4

import pytest
from flask.testing import FlaskClient
from PIL import Image
from urllib3.filepost import encode_multipart_formdata

from archives import emptied, exported_by, in_list, rewritten, sent
from field_log import entry, plan, read, send
from leadsman.formats.limits import LARGEST_FILE_BYTES
from photos import camera_photo

PHOTO, OTHER = camera_photo(latitude=(51.0, 30.0, 36.0)), camera_photo(width_px=90)


def put(client: FlaskClient, design_id: str, entry_id: str, data: bytes = PHOTO, **form: Any) -> Any:
    address = f"/api/designs/{design_id}/log/{entry_id}/photo"
    body, kind = encode_multipart_formdata({"file": ("a.jpg", data), **form})
    return client.put(address, input_stream=io.BytesIO(body), content_type=kind, content_length=len(body))


def noted(client: FlaskClient, design_id: str, **changes: Any) -> str:
    made = entry(kind="photo", part="trough", said="the joint weeps", **changes)
    send(client, design_id, [made])
    return str(made["id"])


@pytest.fixture
def design_id(client: FlaskClient) -> str:
    return plan(client)


def test_a_photo_follows_its_entry_and_says_nothing_that_was_not_wanted(client: FlaskClient, design_id: str) -> None:
    entry_id = noted(client, design_id)
    assert read(client, design_id)[0]["has_photo"] is False  # it waits on the phone
    address = f"/api/designs/{design_id}/log/{entry_id}/photo"
    assert "may wait on the phone" in client.get(address).get_json()["message"]
    assert put(client, design_id, entry_id).get_json() == {"bytes": len(PHOTO)}
    (found,) = read(client, design_id)
    assert (found["has_photo"], found["latitude_deg"], found["longitude_deg"]) == (True, None, None)
    large, small = client.get(address), client.get(address, query_string={"small": "true"})
    assert {large.mimetype, small.mimetype} == {"image/jpeg"}
    assert "immutable" in large.headers["Cache-Control"]
    assert large.headers["X-Content-Type-Options"] == "nosniff"
    assert b"Maker of cameras" not in large.data
    assert Image.open(io.BytesIO(large.data)).size == (160, 120)


def test_where_it_was_taken_is_kept_beside_it_where_that_is_wanted(client: FlaskClient, design_id: str) -> None:
    entry_id = noted(client, design_id)
    assert put(client, design_id, entry_id, keep_place="true").status_code == 200
    (found,) = read(client, design_id)
    assert (found["latitude_deg"], found["longitude_deg"]) == (pytest.approx(51.51), -8.25)


def test_sent_twice_it_is_kept_once_and_another_changes_nothing(client: FlaskClient, design_id: str) -> None:
    entry_id = noted(client, design_id)
    assert [put(client, design_id, entry_id).status_code for _ in range(3)] == [200, 200, 200]
    address = f"/api/designs/{design_id}/log/{entry_id}/photo"
    before = client.get(address).data
    refused = put(client, design_id, entry_id, OTHER)
    assert refused.status_code == 422
    assert refused.get_json()["faults"][0]["code"] == "other_photo"
    assert client.get(address).data == before


@pytest.mark.parametrize(
    ("data", "code"),
    [
        (b"GIF89a no picture", "not_a_photo"),
        (b"", "not_a_photo"),
        (bytes(LARGEST_FILE_BYTES + 1), "too_large"),
        (bytes(60_000_000), "too_large"),
    ],
    ids=["no photo", "empty", "large", "60 MB"],
)
def test_what_is_no_photo_is_refused_and_the_entry_stays(
    client: FlaskClient, design_id: str, data: bytes, code: str
) -> None:
    entry_id = noted(client, design_id)
    refused = put(client, design_id, entry_id, data)
    assert refused.status_code == 422
    assert [fault["code"] for fault in refused.get_json()["faults"]] == [code]
    (found,) = read(client, design_id)
    assert (found["id"], found["has_photo"]) == (entry_id, False)
    assert put(client, design_id, entry_id).status_code == 200  # the right one still can come


def test_it_needs_an_entry_of_a_photo_on_this_plan(client: FlaskClient, design_id: str) -> None:
    elsewhere, note = noted(client, plan(client)), entry()
    send(client, design_id, [note])
    assert put(client, design_id, str(uuid4())).status_code == 404
    assert put(client, design_id, elsewhere).status_code == 404
    assert put(client, str(uuid4()), elsewhere).status_code == 404
    refused = put(client, design_id, note["id"])
    assert (refused.status_code, refused.get_json()["faults"][0]["value"]) == (422, "a note")
    assert client.get(f"/api/designs/{design_id}/log/{elsewhere}/photo").status_code == 404
    assert client.put(f"/api/designs/{design_id}/log/{elsewhere}/photo", data={}).status_code == 422


def test_a_page_of_the_log_and_its_table_hold_those_with_a_photo_once(client: FlaskClient, design_id: str) -> None:
    entry_id = noted(client, design_id)
    put(client, design_id, entry_id)
    send(client, design_id, [entry(9.0), entry(8.0)])
    assert [one["has_photo"] for one in read(client, design_id)] == [True, False, False]
    table = client.get(f"/api/designs/{design_id}/log.csv").get_data(as_text=True)
    assert len(table.splitlines()) == 4
    assert table.count(entry_id) == 1


def test_an_archive_holds_photos_and_puts_them_back_as_they_were(client: FlaskClient, url: str, design_id: str) -> None:
    entry_id = noted(client, design_id)
    put(client, design_id, entry_id, keep_place="true")
    address = f"/api/designs/{design_id}/log/{entry_id}/photo"
    before, exported = client.get(address).data, exported_by(client)
    with zipfile.ZipFile(io.BytesIO(exported)) as opened:
        (name,) = [one for one in opened.namelist() if one.endswith(".jpg")]
        assert opened.read(name) == before
    for _ in range(2):
        emptied(url)
        assert sent(client, exported).status_code == 200
        assert sent(client, exported).status_code == 200  # once more: nothing is there twice
        assert client.get(address).data == before
        assert read(client, design_id)[0]["longitude_deg"] == -8.25
    assert put(client, design_id, entry_id).status_code == 200  # the phone that never heard that it was kept
    emptied(url)
    damaged = rewritten(exported, lambda files: files.update({name: b"no photo"}))
    refused = sent(client, damaged).get_json()["faults"][0]
    assert (refused["code"], refused["path"]) == ("not_a_photo", f"/{name}")
    assert client.get("/api/designs").get_json()["count"] == 0
    half = in_list(lambda listing: listing["plans"][0]["photos"][0].update({"latitude_deg": None}))
    assert sent(client, rewritten(exported, half)).status_code == 422
