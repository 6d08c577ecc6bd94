"""The JSON of winter: every figure is the core's in the unit that its name says, and nothing is left out."""

import math
from datetime import date
from itertools import pairwise

import pytest

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.report.winter import WinterAnswer, WinterReport, winter_answer
from leadsman.core.winter.winter import Winter, winter
from leadsman.demo import tamsel_ridge, tamsel_ridge_in_winter

TODAY = date(2026, 11, 3)


@pytest.fixture(scope="module")
def analysis() -> Analysis:
    return Analysis(tamsel_ridge_in_winter(tamsel_ridge()))


@pytest.fixture(scope="module")
def found(analysis: Analysis) -> Winter:
    own = winter(analysis)
    assert own is not None
    return own


@pytest.fixture(scope="module")
def answer(analysis: Analysis) -> WinterAnswer:
    return winter_answer(analysis, TODAY)


@pytest.fixture(scope="module")
def told(answer: WinterAnswer) -> WinterReport:
    assert answer.winter is not None
    return answer.winter


def test_the_frost_is_told_as_it_is_reckoned_with(told: WinterReport, found: Winter) -> None:
    assert told.days == 21
    assert told.degree_days == pytest.approx(21 * 4.5)
    assert (told.depth_m, told.source_c) == (found.depth_m, 5.5)


def test_lines_come_in_the_order_in_which_they_freeze(told: WinterReport, found: Winter) -> None:
    cold = [math.inf if one.cold_s is None else one.cold_s for one in told.lines]
    assert cold == sorted(cold)
    by_id = {one.line.id: one for one in found.lines}
    assert {one.line for one in told.lines} == set(by_id)
    for one in told.lines:
        own = by_id[one.line]
        assert one.loss_w_per_k == pytest.approx(own.loss_wk)
        assert (one.cold_s is None) == math.isinf(own.cold_s)
        assert one.frozen_s is None or one.cold_s is None or one.frozen_s >= one.cold_s


def test_bleeds_are_in_litres_a_minute_and_say_where_the_water_goes(told: WinterReport, found: Winter) -> None:
    for report, own in zip(told.bleeds, found.bleeds, strict=True):
        assert report.outlet == own.outlet.id
        assert report.passes_lpm == pytest.approx(own.passes_m3s * 60_000.0)
        assert report.least_lpm == pytest.approx((own.least_m3s or 0.0) * 60_000.0)
        assert report.is_too_much == (report.least_lpm is not None and report.least_lpm > report.passes_lpm)
        assert report.goes
    narrow = {one.outlet for one in told.bleeds if one.is_too_much}
    assert narrow == {"goose-valve", "mat-valve"}  # the two thin tubes of the farm


def test_ice_is_told_with_its_range_and_how_long_the_core_lasts(told: WinterReport) -> None:
    for one in told.vessels:
        assert list(one.core_l) == sorted(one.core_l)
        assert (one.left_d is None) == (one.drawn_lpd == 0.0)
        if one.left_d is not None:
            assert one.left_d == pytest.approx(tuple(core / one.drawn_lpd for core in one.core_l))
    box = next(one for one in told.vessels if one.vessel == "weir-box")
    assert (box.kept_open, box.top_m) == (True, (0.0, 0.0, 0.0))  # its lid, its foam, and the spring that runs in


def test_sources_are_in_litres_a_day(told: WinterReport, found: Winter) -> None:
    for report, own in zip(told.sources, found.sources, strict=True):
        assert report.vessel == own.vessel.id
        assert report.needed_lpd == pytest.approx(own.needed_m3 * 1e3)
        assert report.by_plan is False
    assert sum(one.needed_lpd for one in told.sources) <= sum(one.daily_l for one in told.herds) + 1_000.0


def test_the_three_ways_in_one_order(told: WinterReport, found: Winter) -> None:
    assert [way.key for way in told.ways] == ["bury", "bleed", "drain"]
    bury, run, drain = told.ways
    shallow = [one.line for one in found.lines if one.line.cover_m < found.depth_m]
    assert bury.dig_m == pytest.approx(sum(line.pipe_length_m for line in shallow))
    assert run.water_lpd == pytest.approx(sum(one.least_lpm or 0.0 for one in told.bleeds) * 1_440.0)
    assert drain.stays_l == pytest.approx(sum(one.litres for one in found.held))
    assert (bury.does, run.does, drain.does) == (True, False, False)


def test_both_walks_have_each_step_once_and_name_parts_of_the_plan(answer: WinterAnswer, analysis: Analysis) -> None:
    layout = analysis.model.layout
    known = set(layout.lines) | set(layout.outlets)
    for walk in (answer.drain, answer.spring):
        assert len({step.id for step in walk}) == len(walk) > 5
        assert {step.part for step in walk if step.part is not None} <= known
        assert all(step.told for step in walk)
    taps = [number for number, step in enumerate(answer.drain) if step.id in ("source-west-draw", "source-east-draw")]
    (main,) = [number for number, step in enumerate(answer.drain) if step.id.startswith("open-head-main")]
    assert max(taps) < main  # both tanks are shut before the main between them is opened
    for before, after in pairwise(answer.drain):
        assert not (before.id == "leave" and after)


def test_without_a_frost_only_one_to_begin_with_and_the_walks_are_told() -> None:
    answer = winter_answer(Analysis(tamsel_ridge()), TODAY)
    assert answer.winter is None
    assert (answer.suggested.from_, answer.suggested.to) == ("2026-12-20", "2027-01-20")
    assert answer.drain
    assert answer.spring
