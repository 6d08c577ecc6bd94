"""A plan of plants alone: a reservoir filled by hand over a row of pots. Nothing in it speaks of animals."""

import re
from typing import Any

import pytest

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.wording import plain
from leadsman.core.dayrun.forcing import spells
from leadsman.core.dayrun.run import day_run
from leadsman.core.dayrun.story import story_of
from leadsman.core.design.file import read_design
from leadsman.core.findings.registry import Finding, judge
from leadsman.core.findings.verdict import VerdictNumber, verdict

ROUND = {"kind": "upright_cylinder", "diameter_m": 0.3, "height_m": 0.35}
OF_ANIMALS = re.compile(r"\b(animal|herd|stock|trough|drink|mob)", re.I)


def plan(pot_level_m: float = 0.2, **changes: Any) -> Analysis:
    """Six pots of which each takes 1.5 L a day, on a mini valve under a reservoir of 137 L."""
    spots = {"shelf": 0.0, "pot": 3.0, "bed": 6.0}
    tube = {"bore_mm": 5.0, "roughness_mm": 0.007, "length_m": 4.0}
    document = {
        "format": "leadsman-design", "version": 1, "name": "Pots", "site": {"name": "Tamsel Ridge"},
        "places": [{"id": id_, "east_m": east, "north_m": 0, "ground_m": 10.0, "height_error_m": 0.01}
                   for id_, east in spots.items()],
        "vessels": [
            {"id": "butt", "role": "tank", "place": "shelf", "stand_m": 1.0, "outlet_m": 0.05, "level_m": 0.7,
             "shape": {**ROUND, "diameter_m": 0.5, "height_m": 0.8}, "stand_limit_kg": 400},
            {"id": "float-pot", "role": "chamber", "place": "pot", "shape": ROUND, "level_m": pot_level_m},
            {"id": "row", "role": "bucket_row", "place": "bed", "shape": ROUND, "count": 6, "level_m": 0.2,
             "link_mm": 12, "link_m": 0.5},
        ],
        "lines": [{"id": "tube", "from": "butt", "to": "mini", **tube},
                  {"id": "link", "from": "float-pot", "to": "row", **tube, "bore_mm": 12.0}],
        "outlets": [{"id": "mini", "place": "pot", "kind": "float_valve", "fills": "float-pot", "height_m": 0.3,
                     "valve": {"kv_m3h": 0.05, "closes_at_m": 0.2, "band_m": 0.02}}],
        "crops": [{"id": "pots", "outlet": "mini", "plants": 6, "litres_each_lpd": 1.5}],
        **changes,
    }  # fmt: skip
    return Analysis(read_design(document))


def told(**changes: Any) -> tuple[dict[str, VerdictNumber], list[Finding], str]:
    """The numbers of the verdict, the findings, and all that is said."""
    analysis = plan(**changes)
    findings = judge(analysis)
    found = verdict(analysis, findings)
    numbers: dict[str, VerdictNumber] = {number.key: number for number in found.numbers}
    said = [plain(found.sentence), *(plain(one.headline) + plain(one.why) for one in findings)]
    said += [plain(part) for number in found.numbers for part in (number.title, number.wanted)]
    return numbers, findings, " ".join(said)


def test_a_reservoir_filled_by_hand_is_no_fault_and_nothing_speaks_of_animals() -> None:
    numbers, findings, said = told()
    assert not OF_ANIMALS.search(said), said
    assert {one.severity.value for one in findings} <= {"watch"}
    assert (numbers["spare"].value, numbers["spare"].instead) == (None, "filled by hand")
    assert numbers["spare"].standing == numbers["days"].standing == "unknown"
    days = numbers["days"].value
    assert days is not None
    assert abs(days.value - 0.65 * 3.14159 / 4 * 0.25 * 1_000 / 9.0) < 0.1  # what is over its outlet, 9 L a day


def test_pots_that_are_full_say_so_and_empty_ones_say_how_long() -> None:
    full, _, _ = told()
    assert (full["refill"].value, full["refill"].instead) == (None, "full now")
    low = told(pot_level_m=0.1)[0]["refill"]
    assert low.value is not None
    assert low.value.value > 20.0  # 7 L at 0.3 L/min at most
    assert "lacks 7 L" in plain(low.wanted)


def test_with_a_spring_it_is_told_what_comes_in() -> None:
    """The near miss: what comes in is a figure, and less than is needed is a fault."""
    spring = {"id": "spring", "kind": "spring", "fills": "butt", "claimed_lpm": 0.005}
    numbers, findings, _ = told(inflows=[spring])
    value = numbers["spare"].value
    assert value is not None
    assert abs(value.value - (0.005 * 1_440 - 9.0)) < 1e-6
    assert "demand-over-refill" in {one.code for one in findings}


def test_pots_drink_through_the_daylight_as_the_run_over_the_day_has_it() -> None:
    analysis = plan()
    (hours,) = analysis.hours_of_cases.values()
    assert sum(hours) == pytest.approx(9.0)
    drinks = spells(analysis.design, analysis.scenario, 86_400.0)
    drunk = [
        sum(
            1e3 * spell.flow_m3s * max(0.0, min(spell.ends_s, 3_600.0 * (at + 1)) - max(spell.begins_s, 3_600.0 * at))
            for spell in drinks
            if spell.of == "pots"
        )
        for at in range(24)
    ]
    assert hours == pytest.approx(drunk)
    assert hours[0] == hours[23] == 0.0


def test_the_run_over_the_day_speaks_of_no_herd() -> None:
    analysis = plan()
    run = day_run(analysis.design, 86_400.0, [0.0, 86_400.0], analysis.scenario)
    assert plain(story_of(analysis.design, run, 86_400.0).sentence) == "Yes: nothing runs dry"
