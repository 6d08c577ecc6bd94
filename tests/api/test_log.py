"""The log: nothing sent is lost, in any order and any number of times, and nothing in it is ever changed."""

import csv
import io
import random
import re
import uuid
from datetime import timedelta
from pathlib import Path
from typing import Any

import pytest
from flask.testing import FlaskClient

import leadsman
from examples import one_line
from field_log import NOW, entry, plan, read, send
from leadsman.db.connection import Database


@pytest.mark.parametrize("seed", range(5))
def test_two_phones_and_a_laptop_lose_nothing_in_any_order_of_arrival(client: FlaskClient, seed: int) -> None:
    chance, design_id = random.Random(seed), plan(client)
    made = [entry(chance.uniform(1.0, 5_000.0), said=f"entry {number}") for number in range(40)]
    waiting = [[one for one in made if chance.random() < 0.6] for _ in range(3)]
    waiting[0] += [one for one in made if not any(one in each for each in waiting)]
    while any(waiting):  # each sends some, some twice: an answer that did not come back
        queue = chance.choice([each for each in waiting if each])
        chance.shuffle(queue)
        some = queue[: chance.randint(1, 7)]
        assert send(client, design_id, some)["kept"] == [one["id"] for one in some]
        if chance.random() < 0.7:
            del queue[: len(some)]
    found = read(client, design_id, length=500)
    assert sorted(one["id"] for one in found) == sorted(one["id"] for one in made)
    assert [one["said"] for one in found] == [
        one["said"] for one in sorted(made, key=lambda one: (one["happened_at"], one["id"]), reverse=True)
    ]


def test_one_that_is_refused_holds_up_no_other_and_says_why(client: FlaskClient) -> None:
    design_id, good = plan(client), entry()
    timing: dict[str, Any] = {"kind": "timing", "figures": {"volume_l": 20.0, "seconds": 31.2}}
    bad = [
        (entry(**timing, happened_at=(NOW + timedelta(days=3)).isoformat()), "/happened_at"),
        (entry(happened_at="1995-01-01T00:00:00Z"), "/happened_at"),
        (entry(happened_at="2026-01-01T00:00:00"), "/happened_at"),  # of which zone?
        (entry(**{**timing, "figures": {"volume_l": 20.0, "seconds": 0}}), ""),
        (entry(**{**timing, "figures": {"volume_l": 0, "seconds": 30}}), ""),
        (entry(kind="gauge", figures={"pressure_kpa": "high"}), ""),
        (entry(kind="level", figures={"level_m": -1}), ""),
        (entry(kind="wish"), "/kind"),
        (entry(figures={"Bad Key": 1}), "/figures"),
        (entry(said="a\x00b"), "/said"),
        (entry(id="7"), "/id"),
    ]
    told = send(client, design_id, [*(one for one, _ in bad), good, entry(**timing)])
    assert len(told["kept"]) == 2
    assert told["kept"][0] == good["id"]
    assert [one["index"] for one in told["refused"]] == list(range(len(bad)))
    for refused, (_, path) in zip(told["refused"], bad, strict=True):
        assert refused["faults"][0]["path"].startswith(path)
        assert refused["faults"][0]["limit"]


def test_an_entry_is_never_changed_and_a_correction_stands_beside_it(client: FlaskClient) -> None:
    design_id, first = plan(client), entry(said="20 L in 31 s")
    send(client, design_id, [first])
    other = send(client, design_id, [{**first, "said": "20 L in 13 s"}])
    assert other["kept"] == []
    assert other["refused"][0]["faults"][0]["code"] == "other_entry"
    send(client, design_id, [entry(1.0, said="it was 41 s", corrects=first["id"])])
    assert [one["said"] for one in read(client, design_id)] == ["it was 41 s", "20 L in 31 s"]
    assert read(client, design_id)[0]["corrects"] == first["id"]


def test_nothing_in_the_program_changes_or_deletes_an_entry() -> None:
    """The one statement that takes entries away is that of their plan."""
    sources = [path.read_text() for path in Path(leadsman.__file__).parent.rglob("*.py")]
    migrations = [path.read_text() for path in Path(leadsman.__file__).parent.rglob("*.sql")]
    assert any("INSERT INTO log_entry" in text for text in sources)
    for text in [*sources, *migrations]:
        assert not re.search(r"(UPDATE|DELETE\s+FROM|TRUNCATE)\s+log_entry", text, re.IGNORECASE)


def test_of_one_part_and_page_by_page(client: FlaskClient) -> None:
    design_id = plan(client)
    made = [entry(float(number // 2), part="valve" if number % 3 else None, said=str(number)) for number in range(30)]
    send(client, design_id, made)
    of_part = read(client, design_id, part="valve")
    assert len(of_part) == 20
    pages: list[dict[str, Any]] = []
    while True:
        after = {"before": pages[-1]["happened_at"], "before_id": pages[-1]["id"]} if pages else {}
        page = read(client, design_id, length=7, **after)
        if not page:
            break
        pages += page
    assert pages == read(client, design_id, length=100)


def test_entries_of_parts_that_are_gone_stay_and_those_of_another_plan_are_not_mixed_in(client: FlaskClient) -> None:
    one, other = plan(client), plan(client)
    gone = entry(part="trough-9", part_name="Old pan")
    send(client, one, [gone])
    assert read(client, other) == []
    assert read(client, one)[0]["part_name"] == "Old pan"
    assert send(client, other, [gone])["refused"][0]["faults"][0]["code"] == "other_entry"
    missing = client.post(f"/api/designs/{uuid.uuid4()}/log", json={"entries": [gone]})
    assert missing.status_code == 404


def test_it_is_a_table_for_a_spreadsheet_and_no_cell_a_formula(client: FlaskClient) -> None:
    design_id = plan(client)
    send(client, design_id, [
        entry(2.0, said="=1+1"), entry(1.0, kind="timing", figures={"volume_l": 20.0, "seconds": 31.2}),
    ])  # fmt: skip
    answer = client.get(f"/api/designs/{design_id}/log.csv")
    assert answer.mimetype == "text/csv"
    newest, oldest = csv.DictReader(io.StringIO(answer.get_data(as_text=True)))
    assert float(newest["seconds"]) == 31.2
    assert oldest["said"] == "'=1+1"
    assert oldest["seconds"] == ""


def test_the_log_goes_with_its_plan(client: FlaskClient, database: Database) -> None:
    design_id = plan(client)
    send(client, design_id, [entry()])
    with database.transaction() as connection:
        connection.execute("DELETE FROM design WHERE id = %s", (design_id,))
        row = connection.execute("SELECT count(*) FROM log_entry WHERE design_id = %s", (design_id,)).fetchone()
    assert row == (0,)


def test_it_goes_into_the_archive_and_comes_back_beside_what_is_there(client: FlaskClient, database: Database) -> None:
    design_id, first, second = plan(client), entry(9.0, said="before"), entry(3.0, corrects=None, said="after")
    send(client, design_id, [first, {**second, "corrects": first["id"]}])
    packed = client.get("/api/archive").data
    send(client, design_id, [entry(1.0, said="later")])

    def restore() -> dict[str, Any]:
        sent = {"file": (io.BytesIO(packed), "all.zip")}
        told: dict[str, Any] = client.post("/api/archive", data=sent).get_json()
        return told

    restore()  # the plan is there: its log stays as it is, longer than that of the archive
    assert [one["said"] for one in read(client, design_id)] == ["later", "after", "before"]
    with database.transaction() as connection:
        connection.execute("DELETE FROM design WHERE id = %s", (design_id,))
    restore()
    found = read(client, design_id)
    assert [(one["said"], one["id"]) for one in found] == [("after", second["id"]), ("before", first["id"])]
    assert found[0]["corrects"] == first["id"]
    edited = {"document": one_line(name="Edited since"), "base_number": 1}
    assert client.put(f"/api/designs/{design_id}", json=edited).status_code == 200
    assert restore()["beside"] == 1
    listed = client.get("/api/designs").get_json()["designs"]
    (beside,) = (one["id"] for one in listed if one["id"] != design_id)
    copied = read(client, beside)
    assert [one["said"] for one in copied] == ["after", "before"]
    assert copied[0]["corrects"] == copied[1]["id"]
    assert {one["id"] for one in copied}.isdisjoint({first["id"], second["id"]})


def test_what_is_measured_is_held_against_the_plan_as_it_stands(client: FlaskClient) -> None:
    design_id, document = plan(client), one_line()
    asked = {"json": {"document": document}}
    nothing = client.post(f"/api/designs/{design_id}/calibration", **asked).get_json()
    assert (nothing["readings"], nothing["explanations"], nothing["next"]) == ([], [], [])
    pail = {"kind": "timing", "part": "valve", "figures": {"volume_l": 10.0, "seconds": 40.0}}
    gauge = {"kind": "gauge", "part": "valve", "figures": {"pressure_kpa": 190.0}}
    gone = {"kind": "timing", "part": "pulled-out", "figures": {"volume_l": 10.0, "seconds": 4.0}}
    told = send(client, design_id, [entry(9.0, **pail), entry(8.0, **gauge), entry(7.0, **gone)])
    assert len(told["kept"]) == 3
    found = client.post(f"/api/designs/{design_id}/calibration", **asked).get_json()
    flow = next(one for one in found["readings"] if one["kind"] == "flow")
    assert flow["measured"] == pytest.approx(15.0)
    assert flow["planned"] > 30.0
    assert {one["part"] for one in found["explanations"][:3]} <= {"line", "valve"}
    assert found["next"]  # the valve or the line: what would tell
    assert client.post(f"/api/designs/{uuid.uuid4()}/calibration", **asked).status_code == 404


def test_trouble_is_followed_by_answers_and_what_there_is_not_is_told(client: FlaskClient) -> None:
    design_id, document = plan(client), one_line()
    asked = {"document": document, "symptom": "low", "part": "valve", "answers": {}}
    told = client.post(f"/api/designs/{design_id}/trouble", json=asked).get_json()
    assert told["next"]["answers"][-1]["text"] == "Can't tell"
    answer = client.post(f"/api/designs/{design_id}/trouble", json=asked | {"answers": {told["next"]["id"]: "yes"}})
    assert answer.get_json()["causes"][0]["likely"] > told["causes"][0]["likely"]
    for wrong in ({"part": "nowhere"}, {"answers": {"look:x": "yes"}}, {"symptom": "haunted"}, {"symptom": "pump"}):
        refused = client.post(f"/api/designs/{design_id}/trouble", json=asked | wrong)
        assert refused.status_code in (404, 422), wrong
        assert refused.get_json()["message"]


def test_a_round_goes_where_water_lasts_shortest_first_and_says_when_each_was_looked_at(client: FlaskClient) -> None:
    def of_herd(head: int) -> str:
        document = one_line()
        document["herds"][0]["head"] = head
        document["name"] = f"{head} head"
        made: str = client.post("/api/designs", json={"document": document}).get_json()["design_id"]
        assert client.get(f"/api/designs/{made}/revisions/1/glance").status_code == 200
        return made

    few, many, unknown = of_herd(4), of_herd(60), plan(client)
    send(client, few, [entry(60.0, kind="look", part="trough", figures={"level": "full"})])
    stops = client.get("/api/designs/round").get_json()["stops"]
    assert [stop["design_id"] for stop in stops] == [many, few, unknown]
    assert stops[0]["lasts_days"] < stops[1]["lasts_days"]
    assert stops[2]["lasts_days"] is None
    assert [stop["last_look"] is None for stop in stops] == [True, False, True]
