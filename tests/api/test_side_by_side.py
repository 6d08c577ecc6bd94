"""Plans side by side: only what differs, from two to four of them."""

import copy
from typing import Any

import pytest
from flask.testing import FlaskClient

from examples import one_line
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import lpm_from_m3s
from leadsman.core.design.file import read_design, write_design
from leadsman.core.report.base import spoken
from leadsman.core.report.options import options_report
from leadsman.demo import tamsel_ridge, tamsel_ridge_in_winter


def compared(client: FlaskClient, *documents: Any) -> tuple[int, dict[str, Any]]:
    answer = client.post("/api/analyses/options", json={"documents": list(documents)})
    return answer.status_code, dict(answer.json or {})


def test_a_plan_beside_itself_differs_in_nothing(client: FlaskClient) -> None:
    document = write_design(tamsel_ridge())
    status, told = compared(client, document, document)
    assert status == 200
    assert told["rows"] == []
    assert told["alike"] > 20


def test_only_what_differs_is_told_with_the_one_that_does_best() -> None:
    narrow = one_line(**{"requirements.0.flow_lpm": 18})
    wide = copy.deepcopy(narrow)
    wide["lines"][0]["product"] = "pe100-sdr17-40"
    wide["name"] = "Wide"
    analyses = [Analysis(read_design(document)) for document in (narrow, wide)]
    told = options_report(analyses)
    flows = [lpm_from_m3s(one.answer(one.fed_outlets[0]).judged_flow_m3s) for one in analyses]
    (row,) = [row for row in told.rows if row.about.endswith(", all open")]
    assert [spoken(cell) for cell in row.cells] == [f"{flow:.1f} L/min" for flow in flows]
    assert row.best == 1
    assert [plan.name for plan in told.plans] == [narrow["name"], "Wide"]
    pipes = {row.about: [spoken(cell) for cell in row.cells] for row in told.rows if row.chapter == "parts"}
    assert any(cells[0] == "—" and cells[1] != "—" for cells in pipes.values())
    assert any(cells[1] == "—" and cells[0] != "—" for cells in pipes.values())


def test_what_only_one_plan_is_found_wanting_in_stands_beside_a_dash() -> None:
    told = options_report([Analysis(tamsel_ridge()), Analysis(tamsel_ridge_in_winter(tamsel_ridge()))])
    findings = [[spoken(cell) for cell in row.cells] for row in told.rows if row.chapter == "findings"]
    assert findings
    assert all(len(set(cells)) == 2 for cells in findings)
    assert any("—" in cells for cells in findings)


@pytest.mark.parametrize("count", [0, 1, 5])
def test_two_to_four_are_laid_side_by_side(client: FlaskClient, count: int) -> None:
    status, told = compared(client, *[one_line()] * count)
    assert status == 422
    assert told["faults"][0]["path"] == "/documents"
