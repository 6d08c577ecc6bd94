"""Winter, rows, ponds, standby and doses over the API: the core's own answers, and what is refused by name."""

import json
from typing import Any

import pytest
from flask.testing import FlaskClient

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.design.file import read_design, write_design
from leadsman.core.report.dosing import doses_report
from leadsman.core.report.pond import ponds_report
from leadsman.core.report.row_season import row_seasons_report
from leadsman.core.report.standby import standbys_report
from leadsman.demo import tamsel_ridge

DAYS = {"from": "2031-12-01", "to": "2031-12-20"}
FROST = {**DAYS, "air_c": -5.0}
RECIPE = {"id": "feed", "vessel": "butt", "amount": 2.0, "measure": "tsp", "per_l": 20.0}


def plan(**changes: Any) -> dict[str, Any]:
    return {**write_design(tamsel_ridge()), **changes}


def asked(client: FlaskClient, route: str, document: dict[str, Any], **more: Any) -> tuple[int, dict[str, Any]]:
    answer = client.post(f"/api/analyses/{route}", json={"document": document, **more})
    return answer.status_code, dict(answer.get_json() or {})


@pytest.mark.parametrize(
    ("route", "report"),
    [("rows", row_seasons_report), ("ponds", ponds_report), ("standbys", standbys_report), ("doses", doses_report)],
)
def test_the_answer_is_the_core_s_own(client: FlaskClient, route: str, report: Any) -> None:
    document = plan(dosings=[RECIPE])
    status, told = asked(client, route, document)
    assert status == 200
    assert told == json.loads(report(Analysis(read_design(document))).model_dump_json())
    assert any(told.values())


def test_winter_tells_the_frost_of_the_day_it_is_asked_on(client: FlaskClient) -> None:
    status, told = asked(client, "winter", plan(), today="2031-11-04")
    assert status == 200
    assert told["winter"] is None
    assert (told["suggested"]["from"], told["suggested"]["to"]) == ("2031-12-20", "2032-01-20")
    status, told = asked(client, "winter", plan(frost=told["suggested"]), today="2031-11-04")
    assert (status, told["winter"]["days"]) == (200, 32)


@pytest.mark.parametrize(
    ("changes", "path", "words"),
    [
        ({"dosings": [{**RECIPE, "amount": None}]}, "/dosings/0/amount", ["null", "a number"]),
        ({"dosings": [{**RECIPE, "amount": 0}]}, "/dosings/0/amount", ["0", "more than 0"]),
        ({"dosings": [{**RECIPE, "measure": "pinch"}]}, "/dosings/0/measure", ["pinch", "tsp", "kg"]),
        ({"dosings": [{**RECIPE, "vessel": "nowhere"}]}, "/dosings/0/vessel", ["nowhere", "vessel"]),
        ({"frost": {"air_c": -5.0}}, "/frost/from", ["must be there"]),
        ({"frost": {**FROST, "to": "2031-11-20"}}, "/frost/to", ["2031-11-20", "2031-12-01", "250 days"]),
        ({"frost": {**FROST, "air_c": 2.0}}, "/frost/air_c", ["2", "less than 0"]),
        ({"frost": {**FROST, "soil": "gravel"}}, "/frost/soil", ["gravel", "loam", "peat"]),
        ({"frost": {**FROST, "bleeds": [{"outlet": "nobody", "flow_lpm": 1.0}]}}, "/frost/bleeds/0/outlet",
         ["nobody", "outlet"]),
        ({"standbys": [{"id": "tote", "fills": "low-trough", "place": "low", "holds_l": 0}]}, "/standbys/0/holds_l",
         ["0", "more than 0"]),
        ({"ponds": [{"vessel": "pond", "pan_mm_d": 3.0, "evaporation_mm_d": 2.0}]}, "/ponds/0", ["not both"]),
    ],
)  # fmt: skip
@pytest.mark.parametrize("route", ["winter", "doses"])
def test_what_cannot_be_is_refused_with_where_what_and_what_is_allowed(
    client: FlaskClient, route: str, changes: dict[str, Any], path: str, words: list[str]
) -> None:
    more = {"today": "2031-11-04"} if route == "winter" else {}
    status, told = asked(client, route, plan(**changes), **more)
    assert status == 422
    fault = next(one for one in told["faults"] if one["path"].endswith(path))
    said = fault["message"]
    assert all(word in said for word in words), said


def test_water_above_its_overflow_is_refused_with_its_height(client: FlaskClient) -> None:
    document = plan()
    document["vessels"][1]["level_m"] = 1.62
    status, told = asked(client, "doses", document)
    assert status == 422
    assert "found 1.62; allowed: at most 1.4 m, the overflow" in told["faults"][0]["message"]


def test_a_strength_that_no_mixing_reaches_says_what_can_be(client: FlaskClient) -> None:
    """The butt is 0.9 m of 1.4 m full: plain water up to there makes it 9/14 as strong, no less."""
    document = plan(dosings=[RECIPE])
    status, told = asked(client, "mixed", document, dosing="feed", now=2.0, wanted=0.5)
    assert status == 422
    assert told["faults"][0]["limit"] == f"{2.0 * 0.9 / 1.4:.6g} to 10"
    status, told = asked(client, "mixed", document, dosing="feed", now=2.0, wanted=1.5)
    assert status == 200
    assert told["plain_l"] == pytest.approx(1e3 * 3.14159 / 4 * 1.3**2 * 0.9 * (2.0 / 1.5 - 1.0), rel=1e-4)
    status, told = asked(client, "mixed", document, dosing="nothing", now=1.0, wanted=1.5)
    assert (status, told["faults"][0]["path"]) == (422, "/dosing")
