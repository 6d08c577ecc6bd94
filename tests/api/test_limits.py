"""What is too much for one request is refused or stopped, and says what was too much."""

from typing import Any

import pytest
from bench.designs import comb, tree
from flask.testing import FlaskClient

from examples import one_line
from leadsman.api import cancelled
from leadsman.api.lanes import Lane
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.work import MOST_WORK, work_of
from leadsman.core.design.file import read_design, write_design
from leadsman.core.report.workbench import analysis_report


@pytest.mark.parametrize("address", ["/api/analyses", "/api/analyses/rest", "/api/analyses/season"])
def test_a_plan_of_thousands_of_lines_is_kept_and_read_but_not_judged(client: FlaskClient, address: str) -> None:
    document = write_design(tree(4_000, 1_000))
    made = client.post("/api/designs", json={"document": document})
    assert made.status_code == 201
    refused = client.post(address, json={"document": document})
    fault = refused.get_json()["faults"][0]
    assert (refused.status_code, fault["code"]) == (422, "too_much_work")
    assert "4,000 lines and 1,000 outlets" in fault["message"]
    number = made.get_json()["design_id"]
    assert client.get(f"/api/designs/{number}/analysis").status_code == 422
    assert client.get(f"/api/designs/{number}/revisions/1/glance").status_code == 422


def test_work_is_told_by_lines_and_outlets() -> None:
    assert work_of(read_design(one_line())) < 10.0
    assert work_of(read_design(comb(16, 16))) < MOST_WORK / 3
    assert work_of(tree(700, 600)) > MOST_WORK


def test_what_takes_too_long_is_stopped_and_says_so(client: FlaskClient, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setitem(cancelled.BUDGET_S, Lane.LONG, 0.0)
    stopped = client.post("/api/analyses", json={"document": comb(2, 3)})
    assert (stopped.status_code, stopped.get_json()["code"]) == (503, "too_much")
    assert stopped.get_json()["message"].startswith(
        "A plan with 8 lines, 6 outlets, 7 vessels takes longer than the 0 s"
    )
    assert client.post("/api/edits/new", json={"site": "Tamsel Ridge"}).status_code != 503  # another lane


def test_what_takes_too_much_memory_says_so(client: FlaskClient, monkeypatch: pytest.MonkeyPatch) -> None:
    def greedy(*_: Any, **__: Any) -> None:
        raise MemoryError

    monkeypatch.setattr("leadsman.api.routes.analysis.analysis_report", greedy)
    stopped = client.post("/api/analyses", json={"document": one_line()})
    assert (stopped.status_code, stopped.get_json()["code"]) == (503, "too_much")
    assert "memory" in stopped.get_json()["message"]


def test_an_analysis_looks_often_whether_it_is_still_wanted() -> None:
    """Every part of it that takes long asks: each line and outlet has its turn."""
    asked: list[int] = []
    analysis = Analysis(read_design(comb(6, 10)), check_cancelled=lambda: asked.append(1))

    analysis_report(analysis)
    assert len(asked) > 150
