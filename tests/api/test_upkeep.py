"""The calendar feed as another library reads it, its key, and what the ledger refuses."""

import uuid
from datetime import UTC, datetime, timedelta

import vobject
from flask.testing import FlaskClient

from examples import one_line

NOW = datetime.now(UTC)


def plan(client: FlaskClient) -> str:
    document = one_line()
    document["lines"][0]["inline"].append({"kind": "filter", "at_m": 2.0})
    made: str = client.post("/api/designs", json={"document": document}).get_json()["design_id"]
    return made


def clean(client: FlaskClient, design_id: str, days_ago: int) -> None:
    when = (NOW - timedelta(days=days_ago)).isoformat()
    figures = {"task": "filter:line:1", "every_days": 10}
    one = {"id": str(uuid.uuid4()), "kind": "service", "part": "line", "happened_at": when, "figures": figures}
    assert client.post(f"/api/designs/{design_id}/log", json={"entries": [one]}).get_json()["kept"]


def test_a_feed_is_read_by_another_library_and_only_with_its_key(client: FlaskClient) -> None:
    design_id = plan(client)
    address = f"/api/designs/{design_id}/calendar.ics"
    assert client.get(address, query_string={"key": "guessed"}).status_code == 404  # none was made yet
    path = client.post(f"/api/designs/{design_id}/feed").get_json()["path"]
    clean(client, design_id, 25)
    read = client.get(path)
    assert (read.status_code, read.mimetype) == (200, "text/calendar")
    calendar = vobject.readOne(read.get_data(as_text=True))
    events = {str(event.summary.value): event for event in calendar.vevent_list}
    filtered = events["Clean the filter of line at 2 m"]
    assert filtered.dtstart.value == NOW.date()  # it is late: it stands on today
    assert filtered.description.value.startswith(f"Due since {(NOW - timedelta(days=15)).date()}")
    assert len({event.uid.value for event in calendar.vevent_list}) == len(calendar.vevent_list)
    for wrong in ("", "wrong", path.split("=")[1] + "x"):
        refused = client.get(address, query_string={"key": wrong})
        assert refused.status_code == 404
        assert "its key is wrong" in refused.get_json()["message"]
    newer = client.post(f"/api/designs/{design_id}/feed").get_json()["path"]
    assert client.get(path).status_code == 404
    assert client.get(f"{newer}&units=us").status_code == 200


def test_the_ledger_goes_by_the_plan_s_parts_where_no_price_is_said_and_refuses_nonsense(client: FlaskClient) -> None:
    design_id = plan(client)
    asked = {"document": one_line(), "today": NOW.date().isoformat()}
    told = client.post(f"/api/designs/{design_id}/ledger", json=asked).get_json()
    assert told["price"] == told["planned_price"]
    assert told["payback_d"] is None
    said = client.post(f"/api/designs/{design_id}/ledger", json=asked | {"price": 99.0}).get_json()
    assert said["price"] == 99.0
    for wrong in ({"wage": -1}, {"price": "dear"}, {"today": "someday"}):
        assert client.post(f"/api/designs/{design_id}/ledger", json=asked | wrong).status_code == 422
    assert client.post(f"/api/designs/{uuid.uuid4()}/ledger", json=asked).status_code == 404


def test_upkeep_is_of_the_plan_as_it_stands_on_the_page(client: FlaskClient) -> None:
    design_id = plan(client)
    asked = {"document": one_line(), "today": NOW.date().isoformat()}
    told = client.post(f"/api/designs/{design_id}/upkeep", json=asked).get_json()
    assert {one["id"] for one in told["tasks"]} == {"tank:tank", "float:valve", "standby:mob"}
    assert told["moves"] == []
