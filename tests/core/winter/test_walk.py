"""The walks: every tap, drain and end once, the source first, what no drain empties after it; spring the other way."""

from datetime import date
from typing import Any

import pytest

from leadsman.core.base.wording import plain
from leadsman.core.design import Design
from leadsman.core.report.winter import suggested_frost
from leadsman.core.winter.walk import drain_walk, spring_walk, walk_h
from systems import farm, judged, line


def told(steps: list[Any]) -> list[str]:
    return [plain(step.told) for step in steps]


def two_systems() -> dict[str, Any]:
    return farm(
        [
            line("low", "b", "y", inline=[{"kind": "drain", "at_m": 60}, {"kind": "drain", "at_m": 20},
                                          {"kind": "isolating_valve", "at_m": 0.5}]),
            line("ax", "a", "x", points=[[0, 140.0], [50, 99.0], [70, 110.0], [100, 100.0]],
                 inline=[{"kind": "filter", "at_m": 1}]),
        ],
        {"a": 140.0, "b": 120.0},
    )  # fmt: skip


def test_it_goes_stretch_by_stretch_from_the_highest_source_down_and_back_over_what_stays() -> None:
    walk = told(drain_walk(judged(two_systems())))
    assert walk == [
        "Plug ax in a, or empty it: the plan has no tap there", "Take out the filter of ax and empty its bowl",
        "Take x off, or hold its float down", "Empty the low point of ax at 50 m",
        "Shut the tap of low at b", "Open the drain of low at 20 m", "Open the drain of low at 60 m",
        "Take y off, or hold its float down",
        "Leave all ends open until spring, off the ground",
    ]  # fmt: skip


def test_spring_shuts_what_was_opened_on_the_way_up_and_fills() -> None:
    walk = told(spring_walk(judged(two_systems())))
    assert walk == [
        "Fit x: washer soft, float free", "Clean the filter of ax and put it in",
        "Fit y: washer soft, float free", "Shut the drain of low at 60 m", "Shut the drain of low at 20 m",
        "Fill as at first water: a quarter open, from the top",
        "Look at every outlet again next day: it shuts, and its joints are dry",
    ]  # fmt: skip


def test_a_line_between_two_tanks_comes_off_at_the_lower_and_goes_on_again() -> None:
    document = farm([line("up", "a", "b", inline=[{"kind": "tap_point", "at_m": 40}])], {"a": 140.0, "b": 120.0}, {})
    analysis = judged({**document, "outlets": [], "herds": []})
    assert told(drain_walk(analysis)) == [
        "Plug up in a, or empty it: the plan has no tap there", "Open the tap of up at 40 m", "Take up off at b",
        "Leave all ends open until spring, off the ground",
    ]  # fmt: skip
    assert told(spring_walk(analysis))[:2] == ["Fit up again at b", "Shut the tap of up at 40 m"]


def test_both_taps_of_a_main_are_shut_before_it_is_opened_and_the_short_branch_comes_first() -> None:
    document = farm(
        [line("up-a", "a", "at-jup-a"), line("up-b", "b", "at-jup-a"), line("main", "at-jup-a", "at-jmain"),
         line("far", "at-jmain", "x", length_m=300.0), line("near", "at-jmain", "y", length_m=40.0),
         line("stub", "at-jmain", "at-jstub", length_m=60.0, inline=[{"kind": "drain", "at_m": 5}])],
        {"a": 140.0, "b": 130.0},
    )  # fmt: skip
    steps = drain_walk(judged(document))
    assert [step.step_id for step in steps] == [
        "source-up-a", "source-up-b", "end-y", "open-stub-0", "open-end-stub", "end-x", "leave",
    ]  # fmt: skip


def test_what_pushes_or_sucks_is_switched_off_first_and_primed_in_spring() -> None:
    document = farm([line("ax", "a", "x", siphon=True)], {"a": 120.0}, {"x": 100.0})
    document["inflows"] = [{"id": "well", "kind": "pump", "fills": "a", "flow_lpm": 8.0}]
    analysis = judged(document)
    assert told(drain_walk(analysis))[0] == "Switch off the pump of well and empty it"
    assert told(spring_walk(analysis))[-4:-2] == [
        "Shut ax at its foot and fill it at its crest until no bubble comes",
        "Fill the pump of well with water before it is switched on",
    ]


def test_a_line_walked_twice_as_far_takes_the_longer_way_and_no_step_more() -> None:
    short, long = (judged(farm([line("ax", "a", "x", length_m=metres)])) for metres in (600.0, 1_200.0))
    steps = drain_walk(short)
    assert [step.step_id for step in drain_walk(long)] == [step.step_id for step in steps]
    assert walk_h(long, steps) - walk_h(short, steps) == pytest.approx(2 * 600.0 / 60.0 / 60.0)


def test_every_step_has_an_id_of_its_own_and_a_plan_of_nothing_has_no_walk() -> None:
    analysis = judged(two_systems())
    for walk in (drain_walk(analysis), spring_walk(analysis)):
        assert len({step.step_id for step in walk}) == len(walk)
    empty = judged({**farm([], {"a": 120.0}, {}), "outlets": [], "herds": []})
    assert drain_walk(empty) == []


def test_winter_is_half_a_year_apart_on_the_two_halves_of_the_globe() -> None:
    def months(latitude: float, today: date) -> tuple[str, str]:
        document = farm([line("ax", "a", "x")], {"a": 120.0}, {"x": 100.0})
        document["site"]["latitude_deg"] = latitude
        frost = suggested_frost(Design.model_validate(document), today)
        return frost.from_, frost.to

    assert months(50.0, date(2031, 11, 2)) == ("2031-12-20", "2032-01-20")
    assert months(50.0, date(2031, 12, 24)) == ("2032-12-20", "2033-01-20")
    assert months(-40.0, date(2031, 5, 2)) == ("2031-06-20", "2031-07-20")
    assert months(-40.0, date(2031, 8, 2)) == ("2032-06-20", "2032-07-20")
