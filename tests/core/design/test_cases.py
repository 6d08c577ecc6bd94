"""Cases added, copied and deleted: what is shown, what is judged, and what a plan begins with."""

import copy
from typing import Any

import pytest
from pydantic import TypeAdapter

from examples import one_line
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.fault import DesignFaults
from leadsman.core.design import Design
from leadsman.core.design.edit import Edit, edited
from leadsman.core.design.file import write_design
from leadsman.core.design.start import new_design
from leadsman.core.report.finding import check_report
from leadsman.demo import tamsel_ridge

READ = TypeAdapter[Edit](Edit)
RIDGE = write_design(tamsel_ridge())
BARE = {key: value for key, value in one_line().items() if key not in ("scenarios", "shown_for")}


def after(document: dict[str, Any], *edits: dict[str, Any]) -> Design:
    return edited(copy.deepcopy(document), [READ.validate_python(edit) for edit in edits]).design


def cases(design: Design) -> list[str | None]:
    return [case.name for case in design.scenarios]


def shown(design: Design) -> Any:
    return next(case for case in design.scenarios if case.id == design.shown_for)


def test_a_new_plan_has_an_ordinary_and_a_hot_day_and_is_judged_for_the_hot_one() -> None:
    design = new_design("Tamsel Ridge", "tank", "Hill", 300.0)
    assert cases(design) == ["Ordinary day", "Hot spell"]
    assert shown(design).air_c > design.scenarios[0].air_c


def test_the_first_case_added_to_a_plan_without_keeps_the_day_it_was_judged_for() -> None:
    bare = BARE
    design = after(bare, {"kind": "add_case", "case": "hot spell"})
    assert cases(design) == ["Ordinary day", "Hot spell"]
    assert design.scenarios[0].air_c == Analysis(after(bare)).scenario.air_c
    assert cases(after(bare, {"kind": "add_case", "case": "ordinary day"})) == ["Ordinary day"]


def test_a_lost_source_and_a_stuck_valve_change_that_alone_of_the_case_shown() -> None:
    before = shown(tamsel_ridge())
    lost = after(RIDGE, {"kind": "add_case", "case": "source lost"})
    assert shown(lost).lost == [RIDGE["inflows"][0]["id"]]
    stuck = after(RIDGE, {"kind": "add_case", "case": "valve stuck"})
    assert shown(stuck).open == [RIDGE["outlets"][0]["id"]]
    for design in (lost, stuck):
        assert (shown(design).air_c, shown(design).date, shown(design).shut) == (before.air_c, before.date, before.shut)
        assert len(design.scenarios) == len(RIDGE["scenarios"]) + 1


def test_a_lost_source_brings_less_and_a_stuck_valve_takes_more() -> None:
    def supply_to_spare_lpd(design: Design) -> float:
        number = next(one for one in check_report(Analysis(design)).verdict.numbers if one.key == "spare")
        assert number.value is not None
        return number.value.value

    before = supply_to_spare_lpd(tamsel_ridge())
    for case in ("source lost", "valve stuck"):
        assert supply_to_spare_lpd(after(RIDGE, {"kind": "add_case", "case": case})) < before


def test_a_valve_that_was_shut_in_the_case_shown_sticks_open_in_the_next() -> None:
    document = copy.deepcopy(RIDGE)
    first = document["outlets"][0]["id"]
    for case in document["scenarios"]:
        case["shut"] = [first]
    stuck = shown(after(document, {"kind": "add_case", "case": "valve stuck"}))
    assert (stuck.open, stuck.shut) == ([first], [])


def test_a_copy_differs_by_name_and_id_alone_and_is_shown() -> None:
    design = after(RIDGE, {"kind": "copy_case", "case": "weir-lost"})
    old = next(case for case in design.scenarios if case.id == "weir-lost")
    assert shown(design).name == "Weir intake lost (copy)"
    assert shown(design).model_copy(update={"id": old.id, "name": old.name}) == old


@pytest.mark.parametrize(
    ("gone", "shown_for"),
    [(["hot-spell"], "ordinary-day"), (["weir-lost"], "hot-spell"), (["hot-spell", "ordinary-day"], "pond-shut")],
)
def test_a_neighbour_is_shown_where_the_case_shown_is_deleted(gone: list[str], shown_for: str) -> None:
    design = after(RIDGE, *({"kind": "delete_case", "case": case} for case in gone))
    assert design.shown_for == shown_for
    assert not {case.id for case in design.scenarios} & set(gone)


def test_the_last_case_can_go_and_the_plan_is_judged_for_an_ordinary_day_again() -> None:
    design = after(RIDGE, *({"kind": "delete_case", "case": case["id"]} for case in RIDGE["scenarios"]))
    assert (design.scenarios, design.shown_for) == ([], None)
    assert Analysis(design).scenario.air_c == Analysis(after(BARE)).scenario.air_c


@pytest.mark.parametrize(
    ("edit", "allowed"),
    [
        ({"kind": "add_case", "case": "source lost"}, "a source under Supply"),
        ({"kind": "copy_case", "case": "none"}, "the id of one of the scenarios"),
        ({"kind": "delete_case", "case": "none"}, "the id of one of the scenarios"),
    ],
)
def test_a_case_without_what_it_is_about_is_refused(edit: dict[str, Any], allowed: str) -> None:
    with pytest.raises(DesignFaults) as refusal:
        after(write_design(new_design("Tamsel Ridge", "tank", "Hill", 300.0)), edit)
    assert allowed in refusal.value.faults[0].allowed
