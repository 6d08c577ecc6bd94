"""The season's arrays against the same things asked day by day, and against brute force."""

from datetime import date, timedelta
from fractions import Fraction
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from examples import Document, one_line
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.array import Floats
from leadsman.core.base.errors import OutOfRange
from leadsman.core.design import Scenario, Weather
from leadsman.core.design.file import read_design
from leadsman.core.farm.daily_weather import daily_weather
from leadsman.core.farm.demand import herd_demands
from leadsman.core.farm.growing import other_demands
from leadsman.core.farm.inflow import daily_m3, season_daily_m3
from leadsman.core.farm.season_demand import season_demand_m3
from leadsman.core.farm.store_run import Order, run_store
from leadsman.core.farm.supply import StoreSeason
from leadsman.services.weather import Climate
from leadsman.standins.weather import CLIMATES, daily_series
from properties import examples

FIRST = date(2026, 4, 20)
HERDS: list[Document] = [
    {"id": "cattle", "class": "growing cattle", "weight_kg": 300, "head": 12, "outlet": "valve",
     "counts": [{"from": "2026-05-01", "head": 18}, {"from": "2026-05-20", "head": 0}]},
    {"id": "ewes", "class": "ewe in milk", "head": 30, "outlet": "valve"},
    {"id": "own", "class": "donkey", "head": 3, "outlet": "valve", "intake_lpd": 17.5},
]  # fmt: skip
CROPS: list[Document] = [
    {"id": "beds", "outlet": "valve", "area_m2": 80.0, "crop_factor": 0.9},
    {"id": "vines", "outlet": "valve", "plants": 40, "litres_each_lpd": 0.5,
     "over_season": [{"from": "2026-05-05", "litres_each_lpd": 1.5}, {"from": "2026-05-25", "litres_each_lpd": 2.5}]},
    {"id": "timed", "outlet": "valve", "minutes_per_day": 6.0},
    {"id": "fixed", "outlet": "valve", "litres_lpd": 33.0},
]  # fmt: skip
POND: Document = {"vessel": "tank", "evaporation_mm_d": 4.0, "seepage_mm_d": 1.0}


def farm(days: int, climate: Climate = "mild lowland", **changes: Any) -> Document:
    series = daily_series(climate, FIRST, 1, 9)
    weather = {
        "from": FIRST.isoformat(), "rain_mm": series.rain_mm[:days], "most_c": series.most_c[:days],
        "least_c": series.least_c[:days],
    }  # fmt: skip
    return one_line(**{"herds": HERDS, "crops": CROPS, "ponds": [POND], "site.latitude_deg": 47.0,
                       "season": {"weather": weather}, **changes})  # fmt: skip


@pytest.mark.parametrize("climate", CLIMATES)
def test_each_days_demand_is_what_the_day_itself_would_say(climate: Climate) -> None:
    design = read_design(farm(50, climate))
    assert design.season is not None
    weather = daily_weather(design.season.weather)
    flows = {"valve": 21.0}
    series = season_demand_m3(design, weather, flows) * 1000
    for number in range(0, 50, 7):
        most, least = float(weather.most_c[number]), float(weather.least_c[number])
        day = (FIRST + timedelta(days=number)).isoformat()
        case = Scenario(id="d", date=day, air_c=most, least_air_c=least)
        asked = sum(demand.daily_l for demand in herd_demands(design, case))
        asked += sum(demand.daily_l for demand in other_demands(design, case, flows))
        assert series[number] == pytest.approx(asked, rel=1e-9), day


INFLOWS: list[Document] = [
    {"id": "spring", "kind": "spring", "fills": "tank", "timings": [{"volume_l": 10, "time_s": 300}]},
    {"id": "roof", "kind": "rain", "fills": "tank", "area_m2": 90, "gutter_lpm": 0.9},
    {"id": "well", "kind": "pump", "fills": "tank", "flow_lpm": 20, "hours_per_day": 2, "limit_lpd": 1500},
    {"id": "ram", "kind": "ram", "fills": "tank", "fall_m": 1.5, "lift_m": 9, "drive_lpm": 30},
    {"id": "haul", "kind": "haul", "fills": "tank", "trip_l": 500, "trip_min": 30, "trips_per_week": 4},
    {"id": "siphon", "kind": "siphon", "fills": "tank", "flow_lpm": 3, "hours_per_day": 10},
    {"id": "mains", "kind": "mains", "fills": "tank", "flow_lpm": 6, "hours_per_day": 1, "air_gap": True},
]


@pytest.mark.parametrize("inflow", INFLOWS, ids=lambda one: str(one["kind"]))
def test_what_comes_in_on_each_day_is_what_the_day_itself_would_say(inflow: Document) -> None:
    design = read_design(farm(60, inflows=[inflow]))
    assert design.season is not None
    weather = daily_weather(design.season.weather)
    series = season_daily_m3(design.inflows[0], weather)
    for number in range(60):
        case = Scenario(id="d", rain_mm_d=float(weather.rain_mm[number]))
        assert series[number] == pytest.approx(daily_m3(design.inflows[0], case), rel=1e-9)


def by_hand(come: list[int], demand: list[int], capacity: int, start: int, order: Order) -> list[tuple[Fraction, ...]]:
    """Volume, supply and spill of each day by exact arithmetic, straight from the two published rules."""
    store = Fraction(start)
    days: list[tuple[Fraction, ...]] = []
    for comes, needs in zip(come, demand, strict=True):
        if order == "before":
            drawn = min(Fraction(needs), store + comes)
            after = min(store + comes - drawn, Fraction(capacity))
        else:
            drawn = min(Fraction(needs), store)
            after = min(store + comes - drawn, Fraction(capacity) - drawn)
        days.append((after, drawn, store + comes - drawn - after))
        store = after
    return days


@given(
    st.lists(st.tuples(st.integers(0, 9), st.integers(0, 9)), min_size=1, max_size=30), st.integers(0, 20), st.data(),
    st.sampled_from(["before", "after"]),
)  # fmt: skip
def test_a_store_is_run_as_by_hand_in_whole_numbers(
    days: list[tuple[int, int]], capacity: int, data: st.DataObject, order: Order
) -> None:
    start = data.draw(st.integers(0, capacity))
    come, demand = [comes for comes, _ in days], [needs for _, needs in days]
    run = run_store(
        np.array(come, float), np.array(demand, float), np.array([float(capacity)]), np.array([float(start)]), order
    )
    for number, (volume, drawn, spilled) in enumerate(by_hand(come, demand, capacity, start, order)):
        assert run.volumes_m3[number, 0] == float(volume)
        assert run.supplied_m3[number, 0] == float(drawn)
        assert run.spilled_m3[number, 0] == float(spilled)


@given(st.integers(0, 10_000), st.integers(3, 60))
@examples(20)
def test_days_in_hand_are_those_that_pass_until_the_store_is_dry(seed: int, days: int) -> None:
    rng = np.random.default_rng(seed)
    rain = np.where(rng.random(days) < 0.4, rng.exponential(9.0, days), 0.0).round(1).tolist()
    roof = {"id": "roof", "kind": "rain", "fills": "tank", "area_m2": 120.0}
    season = Analysis(read_design(farm(days, inflows=[roof], **{"season.weather.rain_mm": rain}))).store_season
    assert season is not None
    for day in (0, days // 2, days - 1):
        left, passed, demand = float(season.cautious.volumes_m3[day, 0]), 0.0, season.demand_m3
        while passed < 2000:
            wanted = float(demand[(day + 1 + int(passed)) % days])
            if wanted > left + 1e-12:
                break
            left, passed = left - wanted, passed + 1.0
        passed += left / wanted
        assert season.days_in_hand[day] == pytest.approx(passed, abs=1e-6)


@pytest.mark.parametrize("share", [0.9, 0.95, 0.99])
def test_the_store_that_is_offered_is_hardly_larger_than_it_must_be(share: float) -> None:
    roof = {"id": "roof", "kind": "rain", "fills": "tank", "area_m2": 1400.0}
    season = Analysis(read_design(farm(300, inflows=[roof]))).store_season
    assert season is not None
    size = season.size_for(share)
    assert size is not None

    def met(volume: float) -> float:
        holds = np.array([volume])
        return float(run_store(season.inflow_m3, season.demand_m3, holds, season.start_share * holds).days_share[0])

    assert met(size) >= share
    assert met(0.97 * size) < share or size <= season.sizes_m3[0]
    assert (np.diff(season.curve) >= -0.01).all()


def test_the_hopeful_order_never_supplies_less_than_the_cautious() -> None:
    for seed in range(8):
        rng = np.random.default_rng(seed)
        come, demand = rng.exponential(2.0, 200), rng.exponential(1.5, 200)
        sizes = np.geomspace(0.2, 60.0, 12)
        before, after = (run_store(come, demand, sizes, 0.5 * sizes, order) for order in ("before", "after"))
        assert (before.supplied_m3.sum(axis=0) >= after.supplied_m3.sum(axis=0) - 1e-9).all()


def test_beds_by_the_weather_need_the_sites_latitude() -> None:
    with pytest.raises(OutOfRange) as missing:
        _ = Analysis(read_design(farm(5, "mild lowland", **{"site.latitude_deg": None}))).store_season
    assert missing.value.path == "/site/latitude_deg"


def test_without_temperatures_every_day_is_an_ordinary_one() -> None:
    arrays = daily_weather(Weather.model_validate({"from": "2027-12-30", "rain_mm": [0.0, 1.0, 2.0]}))
    assert arrays.most_c.tolist() == [20.0] * 3
    assert arrays.least_c.tolist() == [8.0] * 3
    assert arrays.year_day.tolist() == [364, 365, 1]
    assert arrays.day(2) == date(2028, 1, 1)


def of_a_spring(comes_m3: Floats, holds_m3: float, start_m3: float) -> StoreSeason:
    """A store that a spring fills, so much each day, of which 1 m3 is needed each day."""
    days = len(comes_m3)
    weather = daily_weather(Weather.model_validate({"from": "2031-05-01", "rain_mm": [0.0] * days}))
    return StoreSeason(
        weather=weather, inflows_m3={"spring": comes_m3}, rain_m3=np.zeros(days), demand_m3=np.ones(days),
        capacity_m3=holds_m3, start_m3=start_m3, area_m2=0.0,
    )  # fmt: skip


@pytest.mark.parametrize(
    ("daily_in_m3", "lasts", "lacks_m3"),
    [(0.9, 0.0, 0.1), (1.0, 1.0, 0.0), (1.2, 1.0, 0.0), (0.0, 0.0, 1.0)],
)
def test_a_store_that_starts_full_does_not_hide_that_less_comes_than_is_needed(
    daily_in_m3: float, lasts: float, lacks_m3: float
) -> None:
    """10 m3 in store and 1 m3 needed: with 0.9 coming each of 80 days is met the first time, and none ever after."""
    season = of_a_spring(np.full(80, daily_in_m3), 10.0, 10.0)
    assert season.cautious.days_share[0] == (1.0 if daily_in_m3 > 0.0 else pytest.approx(10 / 80))
    assert season.lasting_share == lasts
    assert season.lacking_m3 == pytest.approx(lacks_m3)
    assert (season.size_for(0.95) is None) is (lasts < 1.0)
    more = season.steady_for(0.95)
    assert more is not None
    assert daily_in_m3 + more >= 1.0 - 1e-9


@given(st.lists(st.floats(0.0, 3.0), min_size=5, max_size=40), st.floats(0.5, 20.0), st.floats(0.0, 1.0))
def test_what_lasts_is_what_many_years_of_the_same_weather_show(comes: list[float], holds: float, full: float) -> None:
    days = len(comes)
    season = of_a_spring(np.array(comes), holds, full * holds)
    volume, least = full * holds, 1.0
    for _ in range(60):
        met = 0
        for inflow in comes:
            drawn = min(volume, 1.0)
            met += drawn >= 1.0 - 1e-9
            volume = min(volume + inflow, holds) - drawn
        least = min(least, met / days)
    if abs(sum(comes) - days) > 0.02 * days:  # where the two are all but equal, it takes more years to show
        assert season.lasting_share <= least + 1.0 / days + 1e-9
    assert season.lasting_share >= 0.0
