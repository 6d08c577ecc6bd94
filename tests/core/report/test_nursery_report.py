"""The JSON of rows, ponds, standby containers and doses: the demonstration's figures by hand."""

from datetime import date, timedelta
from itertools import pairwise

import pytest

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.design import Dosing
from leadsman.core.report.dosing import doses_report
from leadsman.core.report.pond import PondReport, ponds_report
from leadsman.core.report.row_season import RowSeasonReport, row_seasons_report
from leadsman.core.report.standby import StandbyReport, standbys_report
from leadsman.demo import tamsel_ridge

GRAVITY = 9.80665


@pytest.fixture(scope="module")
def analysis() -> Analysis:
    return Analysis(tamsel_ridge())


@pytest.fixture(scope="module")
def row(analysis: Analysis) -> RowSeasonReport:
    (found,) = row_seasons_report(analysis).rows
    return found


@pytest.fixture(scope="module")
def pond(analysis: Analysis) -> PondReport:
    (found,) = ponds_report(analysis).ponds
    return found


@pytest.fixture(scope="module")
def tote(analysis: Analysis) -> StandbyReport:
    (found,) = standbys_report(analysis).standbys
    return found


def test_weeks_follow_each_other_and_add_up(row: RowSeasonReport) -> None:
    """1,380 cuttings at 17, 34 and 50 mL a day from the steps on, and none from 14 September."""
    days = [date.fromisoformat(week.begins) for week in row.weeks]
    assert all(after - before == timedelta(days=7) for before, after in pairwise(days))
    assert row.weeks[0].daily_l == pytest.approx(1_380 * 0.017)
    assert max(week.daily_l for week in row.weeks) == pytest.approx(1_380 * 0.05)
    assert row.needed_l == pytest.approx(sum(week.topped_l for week in row.weeks))
    assert days[-1] < date(2026, 9, 14)
    given = sum(week.taken_l - week.topped_l for week in row.weeks)
    assert given == pytest.approx(12 * 4.5 * 0.3 * 5.0 + 0.6 * 0.4 * 5.0)  # the level goes down by 5 mm once


def test_a_full_reservoir_lasts_as_long_as_its_litres_do(row: RowSeasonReport) -> None:
    """By the day: the butt, 1.3 m wide, from its outlet at 0.06 to its overflow at 1.4 m."""
    assert row.reservoir == "butt"
    assert row.reservoir_l == pytest.approx(1e3 * 3.14159 / 4 * 1.3**2 * (1.4 - 0.06), rel=1e-3)
    left, day = row.reservoir_l, date.fromisoformat(row.weeks[0].begins)
    while True:
        each = 0.017 if day < date(2026, 6, 1) else 0.034 if day < date(2026, 7, 10) else 0.05
        left -= 1_380 * each
        if left < 0.0:
            break
        day += timedelta(days=1)
    assert row.lasts_to is not None
    assert abs((date.fromisoformat(row.lasts_to) - (day - timedelta(days=1))).days) <= 1


def test_how_many_the_float_serves_and_how_long_air_is_blown(row: RowSeasonReport, analysis: Analysis) -> None:
    gets_lpd = analysis.flows_alone_m3s["mat-valve"] * 1e3 * 86_400.0
    assert row.by_float == int(gets_lpd / (1_380 * 0.05 / 12))
    assert row.air_h == pytest.approx(10 * 24 / 60)
    assert row.levelling is not None
    assert row.levelling.slowest == "bench-link"
    assert 0.5 < row.levelling.slowest_share <= 1.0
    assert row.levelling.mean_m >= row.levelling.peak_m
    for shares in row.levelling.full:
        assert shares[0] >= shares[1] - 1e-3 >= shares[2] - 2e-3  # the first is never behind the last


def test_the_pond_by_its_pan(pond: PondReport) -> None:
    """8.6 mm at the pan, seven tenths of it at the pond, good to 30 %; the float shuts 100 mm under the overflow."""
    area_m2 = pond.expected_lpd / (8.6 * 0.7)
    assert 30.0 < area_m2 < 40.0  # (39 - 22) m3 between 1.0 and 1.5 m is 34 m2
    assert pond.least_lpd == pytest.approx(0.7 * pond.expected_lpd)
    assert pond.most_lpd == pytest.approx(1.3 * pond.expected_lpd)
    assert pond.still_mm_d == pytest.approx(1.3 * 8.6 * 0.7)
    assert pond.keeps_m == pytest.approx(1.3)
    assert pond.waves_over_m == pytest.approx(1.3 + 0.025 - 1.4)
    assert pond.storm_over_l == 0.0  # 45 mm of 100
    assert (pond.change, pond.loop, pond.remover_d) == (None, None, None)
    assert [(one.place, one.is_here) for one in pond.places] == [("pond", True), ("balance", False)]


def test_the_tote_by_hand(tote: StandbyReport) -> None:
    """640 L and 64 kg on four feet of 0.045 m2; the heifers drink 1,736 L a day; 24 L/min at the filling point."""
    assert (tote.load.full_kg, tote.load.level_kg, tote.load.uneven_kg) == (704.0, 176.0, 352.0)
    assert tote.load.level_kpa == pytest.approx(176 * GRAVITY / 0.045 / 1e3)
    assert tote.load.uneven_kpa == pytest.approx(352 * GRAVITY / 0.045 / 1e3)
    assert (tote.away_m, tote.reaches, tote.stays_l) == (0.0, True, 0.0)
    assert tote.fall_m == pytest.approx(0.85 - 0.54)  # its floor over the overflow of the trough
    assert tote.lasts_s == pytest.approx(640 / tote.need_lpd * 86_400.0)
    assert tote.trips_per_week == pytest.approx(7 * tote.need_lpd / 640)
    assert tote.fill_s == pytest.approx(640 / 24 * 60)
    assert tote.empties_s is not None
    minutes = 16 + 640 / 24 + tote.empties_s / 60
    assert tote.trip_min == pytest.approx(minutes)
    assert tote.hours_per_week == pytest.approx(7 * tote.need_lpd / 640 * minutes / 60)
    assert tote.price_per_week is None  # nobody says what a trip costs


def test_a_recipe_is_told_in_both_ways_and_its_steps_shut_the_valve_first() -> None:
    recipe = {"id": "feed", "vessel": "butt", "amount": 3.0, "measure": "mL", "per_l": 10.0}
    design = tamsel_ridge().model_copy(update={"dosings": [Dosing.model_validate(recipe)]})
    (dose,) = doses_report(Analysis(design)).doses
    litres = 1e3 * 3.14159 / 4 * 1.3**2 * 0.9
    assert dose.water_l == pytest.approx(litres, rel=1e-4)
    assert dose.amount.unit == "mL"
    assert dose.amount.value == pytest.approx(0.3 * litres, rel=1e-4)
    reservoir, pots = dose.schools
    assert (reservoir.into, pots.into) == ("reservoir", "pot")
    assert reservoir.per_week.value == pytest.approx(0.3 * 1_380 * 0.05 * 7, rel=1e-6)
    assert dose.pots == 12
