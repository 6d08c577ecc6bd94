"""Plans and databases of another version: told clearly, kept as they are, and never written over."""

import json
from typing import Any

import psycopg
import pytest
from flask.testing import FlaskClient
from psycopg.types.json import Jsonb

from examples import one_line
from leadsman.core.base.fault import DesignFaults
from leadsman.core.design import upgrade
from leadsman.core.design.file import read_design, write_design
from leadsman.db.migrate import NewerDatabase, migrate

LATER = [{"version": 2, "moon": "full"}, {"version": 1, "moon": "full"}]


def kept_by_another(url: str, client: FlaskClient, changes: dict[str, Any]) -> str:
    """Return the address of a plan whose head was put there by another version."""
    made = client.post("/api/designs", json={"document": one_line()}).get_json()
    with psycopg.connect(url) as connection:
        connection.execute(
            "UPDATE revision SET document = document || %s WHERE design_id = %s", (Jsonb(changes), made["design_id"])
        )
    return f"/api/designs/{made['design_id']}"


@pytest.mark.parametrize("changes", LATER)
def test_a_plan_of_a_later_version_says_so_and_its_file_can_be_had(
    client: FlaskClient, url: str, changes: dict[str, Any]
) -> None:
    address = kept_by_another(url, client, changes)
    for path in ("", "/analysis", "/revisions/1", "/revisions/1/glance"):
        refused = client.get(address + path)
        assert (refused.status_code, refused.get_json()["code"]) == (422, "unreadable"), path
        assert "another version" in refused.get_json()["message"]
    raw = client.get(f"{address}/revisions/1/file")
    assert json.loads(raw.data) == {**one_line(), **changes}
    assert client.get(f"{address}/file").data == raw.data
    assert "attachment" in raw.headers["Content-Disposition"]
    listed = client.get("/api/designs").get_json()
    assert listed["designs"][0]["name"] == one_line()["name"]
    assert client.get(f"{address}/revisions/9/file").status_code == 404


@pytest.mark.parametrize("changes", LATER)
def test_a_stale_save_on_such_a_plan_is_kept_once_and_told(
    client: FlaskClient, url: str, changes: dict[str, Any]
) -> None:
    address = kept_by_another(url, client, changes)
    with psycopg.connect(url) as connection:  # the other version has saved since
        connection.execute(
            "INSERT INTO revision (design_id, number, parent_number, standing, document) "
            "SELECT design_id, 2, 1, 'kept', document FROM revision WHERE design_id = %s",
            (address.split("/")[-1],),
        )
        connection.execute("UPDATE design SET head_number = 2, last_number = 2")
    stale = client.put(address, json={"base_number": 1, "document": one_line(name="Mine")})
    told = stale.get_json()
    assert (stale.status_code, told["code"], told["kept_as"], told["head"]["number"]) == (409, "stale", 3, 2)
    assert told["head"]["document"] == {**one_line(), **changes}


def test_an_older_document_is_brought_up_step_by_step(monkeypatch: pytest.MonkeyPatch) -> None:
    """As if version 1 were two versions later than the oldest: names were `title`, before that in capitals."""
    steps = {
        -1: lambda document: {**document, "title": document["title"].capitalize()},
        0: lambda document: {**{k: v for k, v in document.items() if k != "title"}, "name": document["title"]},
    }
    monkeypatch.setattr(upgrade, "UPGRADES", steps)
    old = {key: value for key, value in one_line().items() if key != "name"} | {"version": -1, "title": "ONE LINE"}
    assert write_design(read_design(old)) == one_line(name="One line")


@pytest.mark.parametrize(
    ("version", "code"),
    [(2, "newer_version"), (10**6, "newer_version"), ("1", "literal_error"), (1.5, "literal_error")],
)
def test_a_version_that_is_unknown_is_the_only_fault(version: Any, code: str) -> None:
    with pytest.raises(DesignFaults) as refused:
        read_design({**one_line(), "version": version})
    assert [(fault.path, fault.code) for fault in refused.value.faults] == [("/version", code)]


def test_a_newer_database_is_not_touched(url: str) -> None:
    with psycopg.connect(url, autocommit=True) as connection:
        connection.execute("INSERT INTO migration (name) VALUES ('9999_later.sql')")
        try:
            with pytest.raises(NewerDatabase, match=r"9999_later\.sql"):
                migrate(url)
        finally:
            connection.execute("DELETE FROM migration WHERE name = '9999_later.sql'")
    assert migrate(url) == []
