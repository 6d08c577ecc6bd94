"""Text that no program expects: control characters are refused where they stand, and never reach the database."""

from typing import Any

import pytest
from flask.testing import FlaskClient

from examples import Document, one_line

CONTROL = ["\x00", "\x07", "\x1b[31m", "a\nb", "\x7f"]


def with_name(text: str) -> Document:
    return one_line(name=text)


@pytest.mark.parametrize("text", CONTROL)
@pytest.mark.parametrize(
    ("key", "path"),
    [
        ("name", "/document/name"),
        ("site.name", "/document/site/name"),
        ("lines.0.points_from", "/document/lines/0/points_from"),
        ("places.0.name", "/document/places/0/name"),
    ],
)
def test_control_characters_in_names_are_refused_with_their_place(
    client: FlaskClient, text: str, key: str, path: str
) -> None:
    document = one_line(**{key: f"x{text}y"})
    for address in ("/api/designs", "/api/analyses"):
        refused = client.post(address, json={"document": document})
        assert refused.status_code == 422
        (fault,) = refused.get_json()["faults"]
        assert (fault["path"], "control characters" in fault["limit"]) == (path, True)


def asked(client: FlaskClient, what: str, text: str) -> Any:
    made = client.post("/api/designs", json={"document": one_line()}).get_json()
    address = f"/api/designs/{made['design_id']}"
    match what:
        case "label":
            return client.put(f"{address}/revisions/1/label", json={"label": text})
        case "saver":
            return client.put(address, json={"base_number": 1, "document": one_line(), "saved_by": text})
        case "new site":
            return client.post("/api/edits/new", json={"site": text, "start": "tank", "name": "x", "ground_m": 1.0})
        case "own product":
            return client.delete("/api/catalogue/pipe/own-%00")
    raise AssertionError(what)


@pytest.mark.parametrize("text", CONTROL)
@pytest.mark.parametrize("what", ["label", "saver", "new site", "own product"])
def test_no_text_from_outside_makes_the_server_fail(client: FlaskClient, what: str, text: str) -> None:
    assert asked(client, what, f"x{text}").status_code in (404, 422)
