"""What is sent again because its answer was lost is kept once, and answered as the first time."""

from concurrent.futures import ThreadPoolExecutor
from typing import Any
from uuid import uuid4

import pytest
from flask.testing import FlaskClient

from examples import one_line

PIPE = {"product_id": "shop-32", "name": "Pipe", "family": "F", "outer_mm": 32.0, "wall_mm": 3.0, "roughness_mm": 0.01}


def numbers(client: FlaskClient, address: str) -> list[int]:
    return [one["number"] for one in client.get(f"{address}/revisions").get_json()["revisions"]]


@pytest.fixture
def address(client: FlaskClient) -> str:
    made = client.post("/api/designs", json={"document": one_line()})
    return f"/api/designs/{made.get_json()['design_id']}"


def test_a_save_sent_again_is_one_revision_also_after_later_ones(client: FlaskClient, address: str) -> None:
    mine = {"base_number": 1, "document": one_line(name="Mine"), "save_id": str(uuid4())}
    first = client.put(address, json=mine)
    assert (first.status_code, first.get_json()) == (200, {"number": 2})
    client.put(address, json={"base_number": 2, "document": one_line(name="Later"), "save_id": str(uuid4())})
    again = client.put(address, json=mine)
    assert (again.status_code, again.get_json()) == (200, {"number": 2})
    assert client.get(address).get_json()["document"]["name"] == "Later"
    assert numbers(client, address) == [3, 2, 1]


def test_a_stale_save_sent_again_is_kept_beside_once(client: FlaskClient, address: str) -> None:
    client.put(address, json={"base_number": 1, "document": one_line(name="Hers")})
    his = {"base_number": 1, "document": one_line(name="His"), "save_id": str(uuid4())}
    answers = [client.put(address, json=his) for _ in range(2)]
    assert [(one.status_code, one.get_json()["kept_as"]) for one in answers] == [(409, 3), (409, 3)]
    assert answers[0].get_json() == answers[1].get_json()
    assert numbers(client, address) == [3, 2, 1]


def test_a_save_that_changed_nothing_is_remembered_too(client: FlaskClient, address: str) -> None:
    client.put(address, json={"base_number": 1, "document": one_line(name="Same")})
    same = {"base_number": 1, "document": one_line(name="Same"), "save_id": str(uuid4())}
    assert client.put(address, json=same).get_json() == {"number": 2}
    client.put(address, json={"base_number": 2, "document": one_line(name="Later")})
    again = client.put(address, json=same)
    assert (again.status_code, again.get_json()) == (200, {"number": 2})


def test_one_save_sent_many_times_at_once_is_one_revision(client: FlaskClient, address: str) -> None:
    mine = {"base_number": 1, "document": one_line(name="Mine"), "save_id": str(uuid4())}

    def put(_: int) -> Any:
        return client.application.test_client().put(address, json=mine).get_json()

    with ThreadPoolExecutor(8) as pool:
        assert list(pool.map(put, range(8))) == [{"number": 2}] * 8
    assert numbers(client, address) == [2, 1]


def test_a_new_plan_sent_again_is_one_plan_and_answered_as_it_was(client: FlaskClient) -> None:
    new = {"document": one_line(), "design_id": str(uuid4())}
    first = client.post("/api/designs", json=new)
    client.put(f"/api/designs/{new['design_id']}", json={"base_number": 1, "document": one_line(name="Later")})
    again = client.post("/api/designs", json=new)
    assert (first.status_code, again.status_code) == (201, 201)
    assert first.get_json() == again.get_json()
    assert client.get("/api/designs").get_json()["count"] == 1


def test_an_id_that_comes_back_with_something_else_is_refused(client: FlaskClient, address: str) -> None:
    save_id, design_id = str(uuid4()), str(uuid4())
    client.put(address, json={"base_number": 1, "document": one_line(name="Mine"), "save_id": save_id})
    client.post("/api/designs", json={"document": one_line(), "design_id": design_id})
    other = one_line(name="Another")
    for refused, path in (
        (client.put(address, json={"base_number": 2, "document": other, "save_id": save_id}), "/save_id"),
        (client.post("/api/designs", json={"document": other, "design_id": design_id}), "/design_id"),
    ):
        assert refused.status_code == 422
        assert [(one["code"], one["path"]) for one in refused.get_json()["faults"]] == [("id_taken", path)]
    assert numbers(client, address) == [2, 1]


def test_a_row_of_ones_own_sent_again_is_one_row(client: FlaskClient) -> None:
    answers = [client.put("/api/catalogue/pipe", json={"product": PIPE}) for _ in range(2)]
    assert [(one.status_code, one.get_json()) for one in answers] == [(200, {"product_ids": ["own-shop-32"]})] * 2
    own = [one for one in client.get("/api/catalogue").get_json()["pipes"] if one["id"] == "own-shop-32"]
    assert len(own) == 1
