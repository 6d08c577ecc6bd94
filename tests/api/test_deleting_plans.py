"""Plans deleted and restored through the API: the list leaves them out, nothing of them is lost."""

from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import uuid4

from flask.testing import FlaskClient

from examples import one_line


def kept(client: FlaskClient, name: str) -> str:
    answer = client.post("/api/designs", json={"document": one_line(name=name)})
    return str(answer.get_json()["design_id"])


def names(client: FlaskClient, query: str = "") -> list[str]:
    listed: dict[str, Any] = client.get(f"/api/designs{query}").get_json()
    assert listed["count"] == len(listed["designs"])
    return [one["name"] for one in listed["designs"]]


def delete(client: FlaskClient, design_id: str, deleted: bool = True) -> int:
    return client.put(f"/api/designs/{design_id}/deleted", json={"deleted": deleted}).status_code


def test_a_deleted_plan_leaves_the_list_and_comes_back_whole(client: FlaskClient) -> None:
    first, second = kept(client, "First"), kept(client, "Second")
    before = client.get(f"/api/designs/{first}").get_json()
    assert [delete(client, first), delete(client, first)] == [200, 200]  # twice, as from two tabs
    assert (names(client), names(client, "?deleted=true")) == (["Second"], ["First"])
    (told,) = client.get("/api/designs?deleted=true").get_json()["designs"]
    left = datetime.fromisoformat(told["kept_until"]) - datetime.now(UTC)
    assert timedelta(days=30) - left < timedelta(minutes=1)
    assert client.get(f"/api/designs/{first}").get_json() == before  # a link to it still opens it
    assert delete(client, first, deleted=False) == 200
    assert (sorted(names(client)), names(client, "?deleted=true")) == (["First", "Second"], [])
    assert second != first


def test_a_plan_that_is_saved_after_it_was_deleted_is_in_use_again(client: FlaskClient) -> None:
    plan = kept(client, "First")
    delete(client, plan)
    answer = client.put(f"/api/designs/{plan}", json={"base_number": 1, "document": one_line(name="Edited elsewhere")})
    assert (answer.status_code, names(client)) == (200, ["Edited elsewhere"])


def test_what_is_not_there_cannot_be_deleted(client: FlaskClient) -> None:
    assert delete(client, str(uuid4())) == 404
    assert client.put(f"/api/designs/{kept(client, 'First')}/deleted", json={"deleted": "perhaps"}).status_code == 422
