"""Long runs: asked over the API, done by a worker process, cancelled, taken up again after a kill."""

import os
import signal
import time
from collections.abc import Callable, Iterator
from typing import Any
from uuid import uuid4

import psycopg
import pytest
from flask.testing import FlaskClient

from leadsman.core.design.change import patched
from leadsman.core.design.file import read_design, write_design
from leadsman.core.report.dayrun import asked_day
from leadsman.core.report.sizing import CurveReport
from leadsman.core.sizing.size import size
from leadsman.db.connection import Database
from leadsman.db.job import MOST_TRIES, insert_job, select_job, take_job, tell_progress
from leadsman.demo import tamsel_ridge
from leadsman.jobs.queue import do_job
from leadsman.launch.server import Child, job_worker


def asked(hours: float = 6.0) -> dict[str, Any]:
    return {"asked": {"kind": "day", "document": write_design(tamsel_ridge()), "hours": hours}}


@pytest.fixture
def worker(url: str) -> Iterator[Child]:
    running = job_worker(url)
    yield running
    running.stop()


def until(true: Callable[[], Any], seconds: float = 60.0) -> Any:
    ends = time.monotonic() + seconds
    while time.monotonic() < ends:
        if found := true():
            return found
        time.sleep(0.1)
    raise AssertionError("it did not come to be")


def told(client: FlaskClient, job_id: str) -> Any:
    return client.get(f"/api/jobs/{job_id}").get_json()


@pytest.mark.usefixtures("worker")
def test_a_worker_does_what_was_asked_and_the_answer_is_the_core_s_own(client: FlaskClient) -> None:
    answer = client.post("/api/jobs", json=asked())
    assert answer.status_code == 201
    job = answer.get_json()
    assert (job["state"], job["progress"]) == ("waiting", 0.0)
    done = until(lambda: (found := told(client, job["id"]))["state"] == "done" and found)
    assert done["progress"] == 1.0
    assert done["day"] == asked_day(tamsel_ridge(), 6.0).model_dump(mode="json", exclude_unset=True)


@pytest.mark.usefixtures("worker")
def test_a_long_one_tells_how_far_it_is_and_ends_when_it_is_cancelled(client: FlaskClient) -> None:
    job = client.post("/api/jobs", json=asked(90 * 24.0)).get_json()
    until(lambda: 0.0 < told(client, job["id"])["progress"] < 1.0)
    assert client.delete(f"/api/jobs/{job['id']}").get_json()["state"] == "cancelled"
    # the worker is free for the next at once: ninety days would take a minute
    after = client.post("/api/jobs", json=asked(1.0)).get_json()
    until(lambda: told(client, after["id"])["state"] == "done", 30.0)
    assert told(client, job["id"])["state"] == "cancelled"
    assert "day" not in told(client, job["id"])


def test_the_job_of_a_killed_worker_is_done_by_another(client: FlaskClient, url: str, worker: Child) -> None:
    job = client.post("/api/jobs", json=asked(5 * 24.0)).get_json()
    until(lambda: told(client, job["id"])["progress"] > 0.0)
    os.killpg(worker._process.pid, signal.SIGKILL)
    assert told(client, job["id"])["state"] == "running"
    other = job_worker(url)
    try:
        until(lambda: told(client, job["id"])["state"] == "done", 120.0)
    finally:
        other.stop()


def test_what_ends_its_worker_again_and_again_is_given_up(database: Database) -> None:
    job_id = uuid4()
    with database.transaction() as connection:
        insert_job(connection, job_id, None, "day", asked()["asked"])
        taken = [take_job(connection, job_id) is not None for _ in range(MOST_TRIES + 1)]
        row = select_job(connection, job_id)
    assert taken == [True] * MOST_TRIES + [False]
    assert row is not None
    assert (row.state, row.trouble) == ("failed", f"its worker ended {MOST_TRIES} times before it was done")


def test_the_jobs_of_a_deleted_plan_are_cancelled(client: FlaskClient, demo_id: str) -> None:
    job = client.post("/api/jobs", json={**asked(), "design_id": demo_id}).get_json()
    other = client.post("/api/jobs", json=asked()).get_json()
    client.put(f"/api/designs/{demo_id}/deleted", json={"deleted": True})
    assert told(client, job["id"])["state"] == "cancelled"
    assert told(client, other["id"])["state"] == "waiting"


def test_what_the_core_refuses_fails_with_its_words(database: Database) -> None:
    job_id = uuid4()
    wrong = {"kind": "day", "document": {**write_design(tamsel_ridge()), "places": []}, "hours": 1.0}
    with database.transaction() as connection:
        insert_job(connection, job_id, None, "day", wrong)
    do_job(database, job_id)
    with database.transaction() as connection:
        row = select_job(connection, job_id)
    assert row is not None
    assert row.state == "failed"
    assert "places" in row.trouble


@pytest.mark.parametrize(("hours", "path"), [(2161.0, "/asked/hours"), (0.0, "/asked/hours")])
def test_ninety_days_are_the_most(client: FlaskClient, hours: float, path: str) -> None:
    answer = client.post("/api/jobs", json=asked(hours))
    assert answer.status_code == 422
    assert answer.get_json()["faults"][0]["path"] == path


def test_an_unknown_job_is_told_so(client: FlaskClient) -> None:
    assert client.get(f"/api/jobs/{uuid4()}").status_code == 404


def test_the_queue_s_tables_stand_apart_from_ours(url: str) -> None:
    with psycopg.connect(url) as connection:
        rows = connection.execute(
            "SELECT table_schema, table_name FROM information_schema.tables WHERE table_name LIKE 'procrastinate%'"
        ).fetchall()
    assert rows
    assert {schema for schema, _ in rows} == {"queue"}


def test_a_plan_is_sized_by_a_worker_and_what_fits_nowhere_says_so(client: FlaskClient, database: Database) -> None:
    document = write_design(tamsel_ridge())
    job = client.post("/api/jobs", json={"asked": {"kind": "size", "document": document}}).get_json()
    do_job(database, job["id"])
    done = told(client, job["id"])
    best = size(tamsel_ridge())
    assert (done["state"], done["size"]["cost"]) == ("done", round(best.cost, 2))
    taken = read_design(done["size"]["document"])
    assert {line.id: line.product for line in taken.lines if line.id in best.lines} == {
        line: pieces[0].product_id for line, pieces in best.lines.items()
    }
    asked = {**document, "requirements": [{"outlet": "low-valve", "flow_lpm": 9_000}]}
    job = client.post("/api/jobs", json={"asked": {"kind": "size", "document": asked}}).get_json()
    do_job(database, job["id"])
    failed = told(client, job["id"])
    assert failed["state"] == "failed"
    assert "Low trough valve has" in failed["trouble"]
    assert "less at" in failed["trouble"]


def test_the_height_of_a_tank_is_followed_by_a_worker(client: FlaskClient, database: Database) -> None:
    stand = {"kind": "stand", "document": write_design(tamsel_ridge()), "vessel": "chambers", "most_m": 1.0}
    job = client.post("/api/jobs", json={"asked": stand}).get_json()
    do_job(database, job["id"])
    points = told(client, job["id"])["stand"]["points"]
    assert points[0]["at"] == 0.0
    assert points[0]["plan"]["cost"] == round(size(tamsel_ridge()).cost, 2)
    raised = read_design(points[-1]["plan"]["document"])
    assert next(vessel.stand_m for vessel in raised.vessels if vessel.id == "chambers") == points[-1]["at"]
    job = client.post("/api/jobs", json={"asked": {**stand, "vessel": "nobody"}}).get_json()
    do_job(database, job["id"])
    assert "nobody" in told(client, job["id"])["trouble"]


@pytest.mark.parametrize(("asked", "kind"), [
    ({"part": "ewe-valve", "paddock": "fold-field"}, "outlet"),
    ({"part": "ewe-valve", "along": "fold-leg"}, "outlet"),
    ({"part": "chambers", "reach_m": 40.0, "for_all": True}, "vessel"),
])  # fmt: skip
def test_positions_are_tried_by_a_worker(client: FlaskClient, database: Database, asked: Any, kind: str) -> None:
    site = {"kind": "site", "document": write_design(tamsel_ridge()), **asked}
    job = client.post("/api/jobs", json={"asked": site}).get_json()
    do_job(database, job["id"])
    found = told(client, job["id"])["site"]
    assert (found["kind"], found["part"]) == (kind, asked["part"])
    assert len(found["positions"]) > 10
    moved = patched(read_design(found["document"]), found["positions"][0]["patch"])
    stands = {one.id: one.place for one in (*moved.outlets, *moved.vessels)}
    place = next(place for place in moved.places if place.id == stands[asked["part"]])
    assert (place.east_m, place.north_m) == pytest.approx(
        (found["positions"][0]["east_m"], found["positions"][0]["north_m"]), abs=0.02
    )


@pytest.mark.parametrize("somewhere", [{}, {"along": "fold-leg", "paddock": "fold-field"}, {"reach_m": 0.0}])
def test_a_part_is_to_stand_in_one_kind_of_place(client: FlaskClient, somewhere: Any) -> None:
    site = {"kind": "site", "document": write_design(tamsel_ridge()), "part": "ewe-valve", **somewhere}
    refused = client.post("/api/jobs", json={"asked": site})
    assert refused.status_code == 422
    assert refused.get_json()["faults"][0]["path"].startswith("/asked")


def test_the_best_so_far_is_told_while_a_job_runs(client: FlaskClient, database: Database) -> None:
    job = client.post(
        "/api/jobs", json={"asked": {"kind": "curve", "document": write_design(tamsel_ridge())}}
    ).get_json()
    with database.transaction() as connection:
        take_job(connection, job["id"])
        assert tell_progress(connection, job["id"], 0.4, CurveReport(points=[]).model_dump_json())
        assert tell_progress(connection, job["id"], 0.5)  # nothing better meanwhile
    running = told(client, job["id"])
    assert (running["state"], running["progress"], running["curve"]["points"]) == ("running", 0.5, [])
    assert client.delete(f"/api/jobs/{job['id']}").get_json()["state"] == "cancelled"
