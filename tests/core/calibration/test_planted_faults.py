"""Calibration against faults that were planted, by flows worked out another way; and against lines without one."""

import random
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from uuid import uuid4

import pytest

import planted
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.calibration.fit import SURE, Calibration, calibrated
from leadsman.core.calibration.predict import ReadingKey
from leadsman.core.calibration.reading import Measured, measured
from leadsman.core.calibration.separate import next_reading
from leadsman.core.design.change import patched
from leadsman.core.design.file import read_design
from leadsman.core.field.entry import LogEntry, LogKind
from leadsman.core.report.calibration import calibration_report
from properties import seeds


def calibration(farm: planted.Farm, taken: Measured) -> Calibration:
    found = calibrated(Analysis(read_design(planted.document_of(farm))), taken)
    assert found is not None
    return found


def test_the_right_part_comes_first_in_nine_of_ten_planted_faults_and_what_is_called_certain_is() -> None:
    right, certain, certain_and_right, tried = dict.fromkeys(planted.KINDS, 0), 0, 0, 0
    for seed in seeds(0, 180):
        farm, kind, part, taken = planted.planted(seed)
        found = calibration(farm, taken)
        tried += 1
        right[kind] += found.first.part == part
        if found.sure_of(found.first.part) >= SURE:
            certain += 1
            certain_and_right += found.first.part == part
    assert tried >= 60
    assert sum(right.values()) >= 0.9 * tried, right
    assert certain > tried / 2
    assert certain_and_right >= 0.95 * certain


def test_a_line_as_it_is_drawn_is_left_alone() -> None:
    accused = 0
    for seed in range(20):
        chance = random.Random(1000 + seed)
        farm = planted.made_up(chance)
        taken = planted.read_off(planted.shown(planted.scattered(farm, chance)), chance)
        found = calibration(farm, taken)
        accused += found.first.part is not None and found.sure_of(found.first.part) >= SURE
    assert accused <= 1


@pytest.mark.parametrize("wrong_part", ["spur-0", "valve-0", "main-0"])
def test_two_readings_accuse_nobody_and_each_next_one_that_is_asked_for_leads_to_the_part(wrong_part: str) -> None:
    farm = planted.made_up(random.Random(4))
    kv, pipes = dict(farm.kv_m3h), dict(farm.pipes)
    if wrong_part == "valve-0":
        kv[wrong_part] *= 0.3
    else:
        pipes[wrong_part] = replace(pipes[wrong_part], k=400.0)
    values = planted.shown(replace(farm, pipes=pipes, kv_m3h=kv))
    analysis, chance = Analysis(read_design(planted.document_of(farm))), random.Random(5)
    keys: list[ReadingKey] = [("flow", "valve-0", "alone"), ("pressure", "valve-0", "none")]
    found = calibrated(analysis, planted.read_off({key: values[key] for key in keys}, chance))
    assert found is not None
    assert found.sure_of(wrong_part) < SURE
    while found.sure_of(found.first.part) < SURE and len(keys) < 7:
        asked = next_reading(analysis, found)
        assert asked is not None
        keys.append(asked.key)
        found = calibrated(analysis, planted.read_off({key: values[key] for key in keys}, chance))
        assert found is not None
    assert found.first.part == wrong_part
    assert found.sure_of(wrong_part) >= SURE


def entry(kind: LogKind, part: str, minutes_ago: float = 10.0, **figures: float | str) -> LogEntry:
    when = datetime(2026, 5, 2, 8, 0, tzinfo=UTC) - timedelta(minutes=minutes_ago)
    return LogEntry(id=uuid4(), kind=kind, part=part, happened_at=when, figures=figures)


def test_readings_are_the_newest_of_the_log_that_belong_together() -> None:
    design = read_design(planted.document_of(planted.made_up(random.Random(2))))
    wrong = entry("timing", "valve-0", volume_l=20.0, seconds=3.0)
    entries = [
        entry("timing", "valve-0", 60 * 24 * 40, volume_l=20.0, seconds=99.0),  # last month
        entry("timing", "valve-0", 95, volume_l=20.0, seconds=60.0),  # before the mending
        entry("mend", "spur-0", 90),
        entry("timing", "valve-0", 12, volume_l=20.0, seconds=40.0),
        entry("timing", "valve-0", 11, volume_l=20.0, seconds=42.0),
        wrong,
        entry("timing", "valve-0", 10, volume_l=20.0, seconds=41.0).model_copy(update={"corrects": wrong.id}),
        entry("timing", "valve-1", 9, volume_l=10.0, seconds=30.0, drawing="all"),
        entry("gauge", "joint-0", 8, pressure_kpa=120.0),
        entry("gauge", "gone", 8, pressure_kpa=1.0),
        entry("level", "tank", 7, level_m=0.9),
    ]
    random.Random(1).shuffle(entries)
    taken = measured(entries, design)
    assert taken.levels_m == {"tank": 0.9}
    assert {one.key: one.count for one in taken.readings} == {
        ("flow", "valve-0", "alone"): 3, ("flow", "valve-1", "all"): 1, ("pressure", "joint-0", "none"): 1,
    }  # fmt: skip
    pail = next(one for one in taken.readings if one.part == "valve-0")
    assert pail.value == pytest.approx(0.020 * (1 / 40 + 1 / 41 + 1 / 42) / 3)
    assert 0.01 * pail.value < pail.error < 0.04 * pail.value


def test_a_copy_of_the_plan_as_measured_gives_what_was_measured() -> None:
    for seed in range(5):  # one of each kind
        farm, _, _, taken = planted.planted(seed)
        design = read_design(planted.document_of(farm))
        report = calibration_report(Analysis(design), taken)
        again = calibration_report(Analysis(patched(design, report.explanations[0].patch)), taken)
        assert again.explanations[0].kind == "nothing"
        planned = {(one.kind, one.part, one.drawing): one.planned for one in again.readings}
        held = [(one.explained, planned[one.kind, one.part, one.drawing]) for one in report.readings]
        held = [(explained, now) for explained, now in held if now is not None]  # now something may draw air in
        assert len(held) > len(report.readings) / 3
        for explained, now in held:
            assert explained == pytest.approx(now, rel=0.02, abs=1.0)


def test_readings_that_no_one_part_explains_are_said_not_to_be_explained() -> None:
    farm = planted.made_up(random.Random(9))
    kv = {outlet: (0.3 if outlet in ("valve-0", "valve-2") else 1.0) * one for outlet, one in farm.kv_m3h.items()}
    taken = planted.read_off(planted.shown(replace(farm, kv_m3h=kv)), random.Random(3))
    found = calibrated(Analysis(read_design(planted.document_of(farm))), taken)
    assert found is not None
    assert not found.fits
