"""What the page is told of Ground: the same as the core says, for the demonstration and for a plan without readings."""

import pytest

from examples import one_line
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.design import HeightSight
from leadsman.core.design.file import read_design
from leadsman.core.report.ground import ground_report
from leadsman.core.report.measuring import measuring_report
from leadsman.demo import tamsel_ridge

RIDGE = Analysis(tamsel_ridge())
TOLD = ground_report(RIDGE)


def test_every_reading_of_the_demonstration_is_told_and_every_place_it_reaches() -> None:
    assert TOLD.bench == "knoll"
    assert [book.id for book in TOLD.books] == ["ridge-book"]
    assert [sight.id for sight in TOLD.sights] == [sight.id for sight in RIDGE.design.sights]
    assert {one.place for one in TOLD.places} == {"weir", "pit", "gate", "low", "fold", "yard", "hollow"}
    assert TOLD.unjoined == []
    ground = {place.id: place.ground_m for place in RIDGE.design.places}
    for one in TOLD.places:
        assert one.over_plan_m == pytest.approx(one.height_m - ground[one.place])
        assert len(one.way) <= 60
        assert one.ways
        for way in one.ways:
            assert way.apart_m == pytest.approx(way.height_m - one.height_m)
            assert way.error_m > 0.0
        assert sum(way.weight for way in one.ways) == pytest.approx(1.0)
    assert not any(one.disagree for one in TOLD.places)


def test_the_demonstrations_readings_agree_with_its_plan_within_their_errors() -> None:
    said = {place.id: place.height_error_m or 0.0 for place in RIDGE.design.places}
    for one in TOLD.places:
        assert abs(one.over_plan_m) <= one.error_m + said[one.place]


def test_the_phone_is_told_to_stand_above_the_plan() -> None:
    (phone,) = TOLD.sources
    assert phone.source == "phone in June"
    assert phone.raised_m < -40.0
    assert phone.places == 3
    spots = {sight.place: sight.height_m or 0.0 for sight in RIDGE.design.sights if isinstance(sight, HeightSight)}
    for place in TOLD.places:
        alone = [way for way in place.ways if way.way == "satellite"]
        if place.place in spots and alone:
            assert alone[0].height_m == pytest.approx(spots[place.place] + phone.raised_m)


def test_a_clinometers_slope_has_its_length_on_plan_and_a_hose_has_none() -> None:
    plans = {sight.id: sight.plan_m for sight in TOLD.sights}
    assert plans["slope-weir"] == pytest.approx(157.3, abs=0.2)
    assert plans["hose-low"] is None
    rises = {sight.id: [rise.rise_m for rise in sight.rises] for sight in TOLD.sights}
    assert rises["hose-low"] == pytest.approx([-3.198])
    assert rises["goose-pail"] == []


def test_the_timed_flow_of_the_demonstration_agrees() -> None:
    (check,) = measuring_report(RIDGE).flows
    assert check.measured_lpm == pytest.approx(12.0 / 141.0 * 60.0)
    assert check.worst_lpm < check.measured_lpm < check.best_lpm
    assert check.agrees


def test_a_plan_without_readings_is_told_as_such() -> None:
    told = ground_report(Analysis(read_design(one_line())))
    assert (told.bench, told.books, told.sights, told.places, told.sources, told.unjoined) == (None, [], [], [], [], [])
    assert [length.line for length in told.lengths] == ["line"]
    assert not told.pace.is_counted
