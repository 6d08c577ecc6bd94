"""Series of levels made up here: each fault is said within a day, and none where there is none."""

import random
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from uuid import uuid4

import pytest

import planted
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.design.file import read_design
from leadsman.core.field.entry import LogEntry
from leadsman.core.field.level_series import Store, series_findings
from leadsman.core.field.store_known import area_m2, stick_leak

Series = list[tuple[datetime, float]]
NOW = datetime(2031, 6, 20, 9, 0, tzinfo=UTC)
AREA_M2, COMES_LPH = 4.0, 150.0
STORE = Store(area_m2=AREA_M2, most_m3s=1e-3, comes_m3s=COMES_LPH / 3.6e6, full_m=2.0)
NO_SOURCE = Store(area_m2=AREA_M2, most_m3s=1e-3, comes_m3s=None, full_m=2.0)


def series(
    days: float = 2.4,
    goes_lph: Callable[[datetime], float] = lambda _: 0.0,
    comes_lph: Callable[[datetime], float] = lambda _: COMES_LPH,
    start_m: float = 1.0,
    seed: int = 0,
    drunk_l: float = 3_600.0,
) -> Series:
    """Water that comes all day, is drunk from 6 to 21 h, and goes as is said; ten minutes apart, to 2 mm."""
    noise, level, found = random.Random(seed), start_m, []
    when = NOW - timedelta(days=days)
    while when <= NOW:
        drunk = drunk_l / 15.0 if 6 <= when.hour < 21 else 0.0
        level += (comes_lph(when) - drunk - goes_lph(when)) / 6.0 / 1000.0 / AREA_M2
        level = min(max(level, 0.0), 2.0)
        found.append((when, round(level + noise.gauss(0.0, 0.002), 3)))
        when += timedelta(minutes=10)
    return found


def codes(readings: Series, store: Store = STORE) -> set[str]:
    return {one.code for one in series_findings(readings, store, NOW)}


@pytest.mark.parametrize("seed", range(8))
def test_a_line_that_is_well_is_left_alone(seed: int) -> None:
    assert codes(series(seed=seed)) == set()
    assert codes(series(seed=seed, start_m=1.99, drunk_l=400.0)) == set()  # brimful: it runs over
    assert codes(series(seed=seed, comes_lph=lambda _: 0.0, start_m=1.8, drunk_l=500.0), NO_SOURCE) == set()


@pytest.mark.parametrize("lph", [30.0, 80.0, 300.0])
@pytest.mark.parametrize("seed", range(4))
def test_a_valve_that_passes_is_heard_of_after_its_first_night_with_its_litres(lph: float, seed: int) -> None:
    begun = datetime(2031, 6, 19, 22, 0, tzinfo=UTC)
    passing = series(goes_lph=lambda when: lph if when >= begun else 0.0, comes_lph=lambda _: 0.0, seed=seed,
        start_m=1.9, drunk_l=800.0)  # fmt: skip
    (found,) = series_findings(passing, NO_SOURCE, NOW)
    assert found.code == "passes-at-night"
    assert found.lph == pytest.approx(lph, rel=0.25, abs=3.0)
    assert found.since.date() == NOW.date()
    if lph > COMES_LPH * 0.5:  # with a spring that goes on running
        under = series(goes_lph=lambda when: lph if when >= begun else 0.0, seed=seed)
        assert codes(under) == {"passes-at-night"}


@pytest.mark.parametrize("seed", range(4))
def test_a_spring_that_fades_is_no_leak_and_a_leak_no_spring_that_fades(seed: int) -> None:
    first = NOW - timedelta(days=6)
    fading = series(6.0, comes_lph=lambda when: COMES_LPH * (1.0 - (when - first) / timedelta(days=10)), seed=seed,
        drunk_l=2_000.0)  # fmt: skip
    (found,) = series_findings(fading, STORE, NOW)
    assert found.code == "source-fades"
    assert found.lph == pytest.approx(COMES_LPH * 0.58, rel=0.25)
    steady = series(6.0, comes_lph=lambda _: 0.9 * COMES_LPH, seed=seed, drunk_l=3_200.0)
    assert codes(steady) == set()


def test_a_pump_over_its_level_is_said_after_two_hours_and_not_before() -> None:
    store = Store(area_m2=AREA_M2, most_m3s=1e-3, comes_m3s=None, full_m=2.0, stops_m=1.6)
    well = series(comes_lph=lambda _: 0.0, start_m=1.5, drunk_l=300.0)
    for hours, said in ((1.0, set()), (3.0, {"pump-stays-on"})):
        over = [(when, 1.8 if when > NOW - timedelta(hours=hours) else level) for when, level in well]
        assert codes(over, store) == said


def test_faults_of_the_sensor_are_its_own_and_say_nothing_of_the_water() -> None:
    well = series()
    assert codes(well[:-13]) == {"silent"}
    assert codes(well[:-11]) == set()
    assert codes([(when, 1.2) for when, _ in well]) == {"stuck"}
    assert codes(well[:-60] + [(when, well[-60][1]) for when, _ in well[-60:]]) == set()  # ten hours: it may be
    chance = random.Random(3)
    assert codes([(when, level + (0.5 if chance.random() < 0.05 else 0.0)) for when, level in well]) == {"jumping"}
    assert codes([(when + timedelta(hours=5), level) for when, level in well]) == {"wrong-clock"}
    back = [(when - timedelta(hours=6) if when > NOW - timedelta(hours=9) else when, level) for when, level in well]
    assert "wrong-clock" in codes(back)
    assert codes([]) == set()


def test_night_is_where_the_farm_is() -> None:
    begun = NOW - timedelta(days=1)
    passing = series(goes_lph=lambda when: 80.0 if when >= begun else 0.0, comes_lph=lambda _: 0.0, start_m=1.9,
        drunk_l=0.0)  # fmt: skip
    for hours in (-9, 0, 5):
        found = series_findings(passing, NO_SOURCE, NOW, timedelta(hours=hours))
        assert [one.code for one in found] == ["passes-at-night"]


def stick(hours_ago: float, level_m: float, **figures: bool) -> LogEntry:
    when = NOW - timedelta(hours=hours_ago)
    return LogEntry(id=uuid4(), kind="level", part="tank", happened_at=when, figures={"level_m": level_m, **figures})


def test_a_stick_says_the_leak_where_nobody_drank_and_the_fall_is_over_its_errors() -> None:
    analysis = Analysis(read_design(planted.document_of(planted.made_up(random.Random(1)))))
    tank = analysis.model.layout.vessels["tank"]
    assert area_m2(tank) == pytest.approx(3.14159, abs=1e-4)  # 2 m across
    leak = stick_leak(analysis, [stick(9.0, 1.40), stick(1.0, 1.30, quiet=True)], tank)
    assert leak is not None
    assert leak.lph == pytest.approx(314.159 / 8.0, abs=0.1)
    assert leak.error_lph == pytest.approx(0.00707 * 3141.59 / 8.0, abs=0.05)
    assert stick_leak(analysis, [stick(9.0, 1.40), stick(1.0, 1.30)], tank) is None  # somebody may have drunk
    assert stick_leak(analysis, [stick(9.0, 1.40), stick(1.0, 1.39, quiet=True)], tank) is None  # within the errors
    assert stick_leak(analysis, [stick(1.0, 1.30, quiet=True)], tank) is None
