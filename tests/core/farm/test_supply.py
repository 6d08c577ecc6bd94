"""The store day by day: the published orders of spill and draw, what is conserved, and what a source brings."""

from datetime import date
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from examples import Document, one_line
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.link import links, pipe_flow_m3s
from leadsman.core.base.errors import OutOfRange
from leadsman.core.base.fault import DesignFaults
from leadsman.core.design import (
    BoxShape,
    HaulInflow,
    PumpInflow,
    RainInflow,
    Scenario,
    SpringInflow,
    Timing,
    Vessel,
    Weather,
)
from leadsman.core.design.file import read_design
from leadsman.core.farm.daily_weather import daily_weather
from leadsman.core.farm.evapotranspiration import hargreaves_mm, hargreaves_series_mm
from leadsman.core.farm.haul import hauling
from leadsman.core.farm.inflow import daily_m3
from leadsman.core.farm.overflow import greatest_inflow_m3s, overflow_m3s
from leadsman.core.farm.pump_cycle import pump_cycle, pump_flow_m3s
from leadsman.core.farm.rain import plan_area_m2, runoff_m3, storm_m3s
from leadsman.core.farm.ram import ram_flow_m3s, rankine_efficiency
from leadsman.core.farm.spring import flow_through_year_m3s, longest_gap_d
from leadsman.core.farm.store_run import Order, run_store
from leadsman.core.physics.pipe import Pipe
from leadsman.core.physics.water import water_at
from leadsman.core.report.store import bar_reports, round_reports, store_reports
from leadsman.core.report.yearly import yearly_report
from leadsman.standins.weather import daily_series

# ten days, 60 m2 of roof at 0.85, 0.5 mm lost on a wet day; a store of 1000 L, 200 L drawn, 300 L at first
TEN_DAYS_MM = np.array([0, 0, 4, 0, 0, 0, 2, 0, 25, 0], dtype=float)


@pytest.mark.parametrize(
    ("order", "volumes_l", "supplied_l", "spilled_l", "unmet_l"),
    [
        ("after", [100, 0, 178.5, 0, 0, 0, 76.5, 0, 1000, 800], 755.0, 249.5, 1245.0),
        ("before", [100, 0, 0, 0, 0, 0, 0, 0, 1000, 800], 955.0, 49.5, 1045.0),
    ],
)
def test_ten_days_in_both_published_orders(
    order: Order, volumes_l: list[float], supplied_l: float, spilled_l: float, unmet_l: float
) -> None:
    inflow = runoff_m3(TEN_DAYS_MM, 60.0, 0.85, 0.5)
    assert inflow.sum() * 1000 == pytest.approx(1504.5)
    run = run_store(inflow, np.full(10, 0.2), np.array([1.0]), np.array([0.3]), order)
    assert run.volumes_m3[:, 0] * 1000 == pytest.approx(np.array(volumes_l))
    sums = [volumes.sum() * 1000 for volumes in (run.supplied_m3, run.spilled_m3, run.unmet_m3)]
    assert sums == pytest.approx([supplied_l, spilled_l, unmet_l])


ORDERS: st.SearchStrategy[Order] = st.sampled_from(["before", "after"])
SERIES = st.lists(st.floats(0, 5), min_size=2, max_size=40)


@given(
    SERIES,
    SERIES,
    st.lists(st.floats(0, 20), min_size=1, max_size=4),
    st.floats(0, 1),
    st.sampled_from(["before", "after"]),
)
def test_water_is_conserved_and_one_store_is_run_as_many_are(
    come: list[float], demand: list[float], sizes: list[float], full: float, order: Order
) -> None:
    days = min(len(come), len(demand))
    inflow, needed, holds = np.array(come[:days]), np.array(demand[:days]), np.array(sizes)
    run = run_store(inflow, needed, holds, full * holds, order)
    kept = full * holds + inflow.sum() - run.supplied_m3.sum(axis=0) - run.spilled_m3.sum(axis=0)
    throughput = inflow.sum() + holds.sum() + 1e-12
    assert np.abs(kept - run.volumes_m3[-1]).max() <= 1e-9 * throughput
    assert run.volumes_m3.min() >= -1e-12
    assert (run.volumes_m3 <= holds + 1e-9).all()
    for number, size in enumerate(sizes):
        alone = run_store(inflow, needed, np.array([size]), np.array([full * size]), order)
        assert alone.volumes_m3[:, 0] == pytest.approx(run.volumes_m3[:, number], abs=1e-12)


@given(SERIES, st.floats(0.01, 4), st.floats(0.1, 10), st.floats(1, 5), ORDERS)
def test_a_bigger_tank_is_never_less_reliable_and_more_rain_never_supplies_less(
    come: list[float], demand: float, size: float, times: float, order: Order
) -> None:
    inflow, needed = np.array(come), np.full(len(come), demand)
    sizes = np.array([size, size * times])
    run = run_store(inflow, needed, sizes, sizes, order)
    assert run.supplied_m3[:, 1].sum() >= run.supplied_m3[:, 0].sum() - 1e-9
    assert run.volume_share[1] >= run.volume_share[0] - 1e-9
    wetter = run_store(inflow * times, needed, sizes[:1], sizes[:1], order)
    assert wetter.supplied_m3.sum() >= run.supplied_m3[:, 0].sum() - 1e-9


def test_the_orders_bracket_and_gaps_are_counted() -> None:
    inflow = runoff_m3(TEN_DAYS_MM, 60.0, 0.85, 0.5)
    before, after = (
        run_store(inflow, np.full(10, 0.2), np.array([1.0]), np.array([0.3]), one) for one in ("before", "after")
    )
    assert before.supplied_m3.sum() > after.supplied_m3.sum()
    assert after.days_share[0] == pytest.approx(0.2)
    assert after.longest_gap_d() == 8
    with pytest.raises(OutOfRange):
        run_store(inflow, inflow, np.array([float("nan")]), np.array([0.0]))
    with pytest.raises(OutOfRange):
        run_store(inflow, inflow, np.array([1.0]), np.array([1.5]))


@pytest.mark.parametrize(
    ("roof", "area_m2"),
    [({"area_m2": 60.0}, 60.0), ({"length_m": 12.0, "width_m": 5.0}, 60.0),
     ({"corners": [[0, 0], [12, 0], [12, 5], [0, 5]]}, 60.0), ({"corners": [[2, 1], [2, 5], [8, 1]]}, 12.0)],
)  # fmt: skip
def test_a_roof_is_told_by_its_area_lengths_or_corners(roof: Document, area_m2: float) -> None:
    inflow = RainInflow(id="r", fills="t", kind="rain", **roof)
    assert plan_area_m2(inflow) == pytest.approx(area_m2)
    assert daily_m3(inflow, Scenario(id="d", rain_mm_d=10.0)) == pytest.approx(area_m2 * 0.85 * 9.5 / 1000)
    assert daily_m3(inflow, Scenario(id="d")) == 0.0


def test_the_first_flush_is_kept_back_once_after_a_dry_day() -> None:
    rain = np.array([0.0, 5.0, 5.0, 0.0, 1.0, 0.0])
    ran = runoff_m3(rain, 100.0, 1.0, 0.0, first_flush_m3=0.2)
    assert ran * 1000 == pytest.approx([0, 300, 500, 0, 0, 0])
    weeping = runoff_m3(rain, 100.0, 1.0, 0.0, first_flush_m3=0.2, weep_m3=0.05)
    assert weeping * 1000 == pytest.approx([0, 250, 450, 0, 0, 0])
    # one inch on one square foot is 0.6234 US gallons
    assert runoff_m3(np.array([25.4]), 0.09290304, 1.0)[0] / 3.785411784e-3 == pytest.approx(0.6234, abs=5e-5)
    assert storm_m3s(100.0, 0.9, 120.0) * 60_000 == pytest.approx(180.0)


def test_a_spring_is_on_a_straight_line_between_its_timings_round_the_year() -> None:
    def timed(day: str | None, seconds: float) -> Timing:
        return Timing(volume_l=60.0, time_s=seconds, date=day)

    spring = SpringInflow(
        id="s", fills="t", kind="spring", timings=[timed("2026-03-02", 60.0), timed("2025-09-01", 120.0)]
    )
    flow = flow_through_year_m3s(spring, np.array([61, 244, 152, 335])) * 60_000
    assert flow == pytest.approx([60.0, 30.0, 60 - 30 * 91 / 183, 30 + 30 * 91 / 182.25])
    assert longest_gap_d(spring.timings) == pytest.approx(183.0)
    once = SpringInflow(id="s", fills="t", kind="spring", timings=[timed("2026-03-01", 60.0), timed(None, 90.0)])
    assert flow_through_year_m3s(once, np.array([1, 300])) * 60_000 == pytest.approx([40.0, 40.0])
    assert longest_gap_d(once.timings) == pytest.approx(365.25)
    claimed = SpringInflow(id="s", fills="t", kind="spring", claimed_lpm=9.0)
    assert daily_m3(claimed, Scenario(id="d")) == pytest.approx(12.96)


def test_a_ram_gives_what_the_worked_example_says() -> None:
    for drive, fall, lift, given_lpm in ((60, 2, 20, 3.6), (60, 2, 40, 1.8), (60, 3, 15, 7.2)):
        assert ram_flow_m3s(drive / 60_000, fall, lift, 0.6) * 60_000 == pytest.approx(given_lpm)
    assert rankine_efficiency(60.0, 3.6, 2.0, 20.0) == pytest.approx(0.574, abs=5e-4)


def test_pump_cycles_by_hand() -> None:
    """40 L/min into a box of 1 m2 between 0.2 and 0.5 m: 300 L, filled in 7.5 minutes with nothing drawn."""
    box = BoxShape(kind="box", length_m=1.0, width_m=1.0, height_m=1.0)
    vessel = Vessel(id="t", place="p", level_m=0.4, shape=box)
    pump = PumpInflow(id="p", fills="t", kind="pump", flow_lpm=40.0, cut_in_m=0.2, cut_out_m=0.5)
    cycle = pump_cycle(pump, vessel, 10 / 60_000)
    assert cycle is not None
    assert cycle.idle_run_s == pytest.approx(450.0)
    assert cycle.run_s == pytest.approx(600.0)
    assert cycle.starts_per_h == pytest.approx(60 / (10 + 30))
    assert cycle.most_starts_per_h == pytest.approx(2.0)  # 20 L/min drawn: 15 minutes full, 15 empty
    overdrawn = pump_cycle(pump, vessel, 50 / 60_000)
    assert overdrawn is not None
    assert overdrawn.run_s is None
    curve = PumpInflow(id="p", fills="t", kind="pump", curve=[[0, 30], [40, 20], [60, 0]], lift_m=25.0)
    assert pump_flow_m3s(curve) * 60_000 == pytest.approx(20.0)
    assert pump_flow_m3s(curve.model_copy(update={"lift_m": 31.0})) == 0.0


def test_hauling_is_told_in_litres_hours_weight_and_cost() -> None:
    haul = HaulInflow(id="h", fills="t", kind="haul", trip_l=900.0, trip_min=50.0, trips_per_week=7.0,
                      tank_empty_kg=60.0, price_per_trip=4.0)  # fmt: skip
    week = hauling(haul)
    assert (week.weekly_l, week.weekly_h, week.weekly_price, week.load_kg, week.daily_l) == pytest.approx(
        (6300.0, 5.833333, 28.0, 960.0, 900.0)
    )


def season_of(rain_mm: list[float], inflows: list[Document], **changes: Any) -> Analysis:
    weather = {"from": "2026-05-01", "rain_mm": rain_mm, "most_c": [21.1] * len(rain_mm)}
    return Analysis(read_design(one_line(inflows=inflows, season={"weather": weather}, **changes)))


ROOF = {"id": "roof", "kind": "rain", "fills": "tank", "area_m2": 100.0, "coefficient": 1.0, "first_loss_mm": 0.0}
WELL = {"id": "well", "kind": "pump", "fills": "tank", "flow_lpm": 1.0, "hours_per_day": 5.0}


def test_a_season_runs_the_whole_stock_by_its_heat_and_its_heads() -> None:
    counts = [{"from": "2026-05-03", "head": 40}]
    analysis = season_of([0.0, 10.0, 0.0, 0.0], [ROOF, WELL], **{"herds.0.counts": counts})
    season = analysis.store_season
    assert season is not None
    # growing cattle of 273 kg at 21.1 °C: 29.5 L a day (NRC)
    assert season.demand_m3 * 1000 == pytest.approx([590.0, 590.0, 1180.0, 1180.0], rel=1e-3)
    assert season.inflow_m3 * 1000 == pytest.approx([300.0, 1300.0, 300.0, 300.0])
    assert season.capacity_m3 == pytest.approx(2 * 3.14159265, rel=1e-6)
    assert season.start_m3 == pytest.approx(3.14159265, rel=1e-6)
    assert season.days_in_hand[0] == pytest.approx(1 + (3.14159265 + 0.3 - 0.59 - 0.59) / 1.18, rel=1e-3)


def test_the_order_of_sources_does_not_matter() -> None:
    rain = [0.0, 3.0, 12.0, 0.0, 0.0]
    one, other = (season_of(rain, inflows).store_season for inflows in ([ROOF, WELL], [WELL, ROOF]))
    assert one is not None
    assert other is not None
    assert one.cautious.volumes_m3 == pytest.approx(other.cautious.volumes_m3)


def test_what_is_offered_closes_the_gap() -> None:
    rng = np.random.default_rng(4)
    rain = np.where(rng.random(400) < 0.3, rng.exponential(8.0, 400), 0.0).round(1).tolist()
    inflows = [{**ROOF, "area_m2": 190.0}, WELL]
    season = season_of(rain, inflows).store_season
    assert season is not None
    assert season.cautious.days_share[0] < 0.99
    store, roof, more = season.size_for(0.99), season.roof_for(0.99), season.steady_for(0.99)
    assert None not in (store, roof, more)
    diameter = {"vessels.0.shape.diameter_m": 2.0 * (float(store or 0) / season.capacity_m3) ** 0.5}
    pumped = {**WELL, "hours_per_day": 24.0, "flow_lpm": 300 / 1440 + float(more or 0) * 1000 / 1440}
    for changed in (
        season_of(rain, inflows, **diameter),
        season_of(rain, [{**ROOF, "area_m2": roof}, WELL]),
        season_of(rain, [inflows[0], pumped]),
    ):
        assert changed.store_season is not None
        assert changed.store_season.cautious.days_share[0] >= 0.99


def test_days_in_hand_are_counted_from_where_the_pump_cuts_in() -> None:
    switched = {**WELL, "cut_in_m": 0.4, "cut_out_m": 0.9}
    with_switches, without = (Analysis(read_design(one_line(inflows=[one]))).balance for one in (switched, WELL))
    assert with_switches.usable_m3 == pytest.approx(0.4 * without.usable_m3)


@given(st.lists(st.tuples(st.floats(-15, 25), st.floats(0, 20)), min_size=1, max_size=20), st.floats(-60, 60))
def test_a_series_of_evapotranspiration_is_that_of_its_days(days: list[tuple[float, float]], latitude: float) -> None:
    least = np.array([low for low, _ in days])
    most = least + np.array([spread for _, spread in days])
    numbers = np.arange(1, len(days) + 1)
    series = hargreaves_series_mm(least, most, latitude, numbers)
    each = [
        hargreaves_mm(low, high, latitude, date(2000, 1, int(n)))
        for low, high, n in zip(least, most, numbers, strict=True)
    ]
    assert series == pytest.approx(each, abs=1e-9)


def test_the_stand_in_weather_is_seeded_and_dry_where_it_is_asked_to_be() -> None:
    first = date(2020, 1, 1)
    plain, again, dry = (
        daily_series("mild lowland", first, 3, 11, drought_year=drought) for drought in (None, None, 2)
    )
    assert plain == again
    assert len(plain.rain_mm) == 1096
    years = [slice(0, 365), slice(365, 730), slice(731, 1096)]
    assert sum(dry.rain_mm[years[1]]) < 0.7 * sum(plain.rain_mm[years[1]])
    hot = daily_series("mild lowland", first, 1, 11, hot_spell_year=1)
    usual = daily_series("mild lowland", first, 1, 11)
    hotter = [after - before for before, after in zip(usual.most_c, hot.most_c, strict=True)]
    assert max(hotter) == pytest.approx(7.0)
    assert sum(one > 0 for one in hotter) == 10
    assert all(low <= high for low, high in zip(plain.least_c, plain.most_c, strict=True))
    arrays = daily_weather(Weather.model_validate({"from": "2020-01-01", "rain_mm": plain.rain_mm}))
    assert (arrays.year_day[59], arrays.year_day[365], arrays.year_day[366]) == (60, 366, 1)


@pytest.mark.parametrize(
    ("inflow", "path"),
    [
        ({"kind": "spring", "timings": []}, "/inflows/0"),
        ({"kind": "rain"}, "/inflows/0"),
        ({"kind": "rain", "area_m2": 3.0, "length_m": 2.0, "width_m": 2.0}, "/inflows/0"),
        ({"kind": "rain", "length_m": 2.0}, "/inflows/0"),
        ({"kind": "pump"}, "/inflows/0"),
        ({"kind": "pump", "curve": [[0, 30], [40, 31]], "lift_m": 4.0}, "/inflows/0"),
        ({"kind": "pump", "flow_lpm": 3.0, "cut_in_m": 0.5}, "/inflows/0"),
        ({"kind": "pump", "flow_lpm": 3.0, "cut_in_m": 0.5, "cut_out_m": 0.4}, "/inflows/0"),
        ({"kind": "ram", "fall_m": 0.0, "lift_m": 3.0, "drive_lpm": 3.0}, "/inflows/0/fall_m"),
        ({"kind": "cloud"}, "/inflows/0"),
    ],
)
def test_an_inflow_that_cannot_be_is_refused(inflow: Document, path: str) -> None:
    with pytest.raises(DesignFaults) as refused:
        read_design(one_line(inflows=[{"id": "i", "fills": "tank", **inflow}]))
    assert path in [fault.path for fault in refused.value.faults]


def test_a_weather_of_uneven_series_is_refused() -> None:
    weather = {"from": "2026-01-01", "rain_mm": [1.0, 2.0], "most_c": [10.0]}
    with pytest.raises(DesignFaults):
        read_design(one_line(season={"weather": weather}))


def test_a_round_overflow_runs_full_as_an_orifice_and_part_full_as_a_weir() -> None:
    full = overflow_m3s(0.05, 1.025)
    assert full == pytest.approx(0.6 * np.pi * 0.025**2 * (2 * 9.80665 * 1.0) ** 0.5, rel=1e-3)
    # half a circle under water to its middle, by an independent sum over a thousand strips
    heights = (np.arange(20_000) + 0.5) / 20_000 * 0.025
    widths = 2 * np.sqrt(0.025**2 - (0.025 - heights) ** 2)
    strips = 0.6 * widths * np.sqrt(2 * 9.80665 * (0.025 - heights)) * 0.025 / 20_000
    assert overflow_m3s(0.05, 0.025) == pytest.approx(strips.sum(), rel=1e-4)
    assert overflow_m3s(0.05, 0.0) == 0.0
    with pytest.raises(OutOfRange):
        overflow_m3s(0.05, -0.1)


@given(st.floats(0.01, 0.2), st.floats(0.001, 0.5), st.floats(1.0, 3.0))
def test_more_water_over_an_overflow_never_runs_slower(bore: float, head: float, times: float) -> None:
    assert overflow_m3s(bore, min(head * times, 10.0)) >= overflow_m3s(bore, head) - 1e-12


def test_what_may_come_in_at_once() -> None:
    roof = RainInflow(id="r", fills="t", kind="rain", area_m2=120.0, coefficient=0.9, storm_mm_h=150.0)
    assert greatest_inflow_m3s(roof) * 60_000 == pytest.approx(270.0)
    narrow = roof.model_copy(update={"gutter_lpm": 200.0})
    assert greatest_inflow_m3s(narrow) * 60_000 == pytest.approx(200.0)
    twice = [Timing(volume_l=10.0, time_s=60.0), Timing(volume_l=10.0, time_s=30.0)]
    spring = SpringInflow(id="s", fills="t", kind="spring", timings=twice)
    assert greatest_inflow_m3s(spring) * 60_000 == pytest.approx(20.0)


def test_stores_are_told_one_by_one_with_litres_by_their_level() -> None:
    (store,) = store_reports(Analysis(read_design(one_line(**{"vessels.0.outlet_m": 0.2, "vessels.0.empty_kg": 90}))))
    per_m = 3141.5927
    assert (store.usable_l, store.dead_l, store.full_kg) == pytest.approx((0.8 * per_m, 0.2 * per_m, 2 * per_m + 90))
    assert store.marks_m[:3] == [0.0, 0.05, 0.1]
    assert store.marks_m[-1] == 2.0
    assert store.marks_l == pytest.approx([mark * per_m for mark in store.marks_m])


def test_a_lost_source_brings_nothing_and_the_round_of_refills_begins_with_what_is_empty_first() -> None:
    haul = {"kind": "haul", "fills": "tank", "trip_l": 700.0, "trip_min": 30, "trips_per_week": 7}
    inflows = [{"id": "one", **haul}, {"id": "two", **haul, "fills": "spare"}]
    spare = {"id": "spare", "place": "top", "shape": {"kind": "box", "length_m": 1.0, "width_m": 1.0, "height_m": 1.0},
             "level_m": 0.6}  # fmt: skip
    document = one_line(inflows=inflows, **{"vessels.2": spare})
    analysis = Analysis(read_design(document))
    assert analysis.balance.refill_m3_per_day == pytest.approx(0.7)
    rounds = round_reports(analysis)
    assert [one.vessel for one in rounds] == ["tank", "spare"]
    assert rounds[0].days == pytest.approx(3141.6 / 590, rel=1e-3)
    assert rounds[1].days is None
    assert rounds[1].fill_l == pytest.approx(400.0)
    lost = Analysis(read_design({**document, "scenarios": [{"id": "day", "air_c": 21.1, "lost": ["one"]}]}))
    assert lost.balance.refill_m3_per_day == 0.0
    with pytest.raises(DesignFaults):
        read_design({**document, "scenarios": [{"id": "day", "lost": ["nothing"]}]})


def test_bars_are_of_every_case_and_of_the_worst_week() -> None:
    rain = [0.0] * 10 + [20.0] * 10
    analysis = season_of(rain, [ROOF, WELL], **{"scenarios.1": {"id": "hot", "name": "Hot", "air_c": 32.2}})
    day, hot, worst = bar_reports(analysis)
    assert (day.title, hot.title, worst.title) == ("day", "Hot", "Worst week, from 2026-05-01")
    assert (day.in_lpd, day.out_lpd) == pytest.approx((300.0, 590.0), rel=1e-3)
    assert hot.out_lpd == pytest.approx(20 * 48.1, rel=1e-3)
    assert (worst.in_lpd, worst.out_lpd) == pytest.approx((300.0, 590.0), rel=1e-3)


def test_a_year_of_two_plans_is_told_in_metered_water_and_hours() -> None:
    mains = {"id": "m", "kind": "mains", "fills": "tank", "flow_lpm": 1.0, "hours_per_day": 24, "air_gap": True}
    haul = {"id": "h", "kind": "haul", "fills": "tank", "trip_l": 500, "trip_min": 60, "trips_per_week": 3,
            "price_per_trip": 5.0}  # fmt: skip
    before = yearly_report(Analysis(read_design(one_line(inflows=[mains, haul]))))
    assert before.hauled_l == pytest.approx(1500 * 365.25 / 7)
    assert before.haul_h == pytest.approx(3 * 365.25 / 7)
    assert before.haul_price == pytest.approx(15 * 365.25 / 7)
    assert before.metered_l == pytest.approx((590 - 1500 / 7) * 365.25, rel=1e-3)
    spring = {"id": "s", "kind": "spring", "fills": "tank", "timings": [{"volume_l": 10, "time_s": 600}]}
    after = yearly_report(Analysis(read_design(one_line(inflows=[mains, spring]))))
    assert (after.metered_l, after.haul_h, after.haul_price) == (0.0, 0.0, None)
    rainy = yearly_report(season_of([0.0, 30.0], [ROOF, mains]))
    assert rainy.metered_l == pytest.approx((590 + 0) / 2 * 365.25, rel=1e-3)  # the roof gives enough on one day of two


@pytest.mark.parametrize(("bore_mm", "length_m", "flow_ls", "loss_m"), [
    (27.2, 100.0, 0.5, 3.764), (20.4, 100.0, 0.25, 4.394), (53.6, 100.0, 2.0, 1.707), (40.8, 100.0, 1.0, 1.842),
])  # fmt: skip
def test_a_head_drives_the_flow_of_the_published_loss(
    bore_mm: float, length_m: float, flow_ls: float, loss_m: float
) -> None:
    pipe = Pipe(length_m=length_m, bore_m=bore_mm / 1000, roughness_m=7e-6)
    assert pipe_flow_m3s(loss_m, pipe, 0.0, water_at(10.0)) * 1000 == pytest.approx(flow_ls, rel=5e-3)


def test_linked_by_lines_or_by_their_own_links() -> None:
    roof = {**ROOF, "area_m2": 120.0}
    beside = {"id": "twin", "place": "top", "level_m": 1.0, "shape": {"kind": "upright_cylinder", "diameter_m": 2.0,
              "height_m": 2.0}}  # fmt: skip
    line = {"id": "link", "from": "tank", "to": "twin", "bore_mm": 40, "roughness_mm": 0.007, "length_m": 0.8}
    by_line = one_line(inflows=[roof], **{"vessels.2": beside, "lines.1": line})
    (link,) = links(Analysis(read_design(by_line)))
    assert link.wanted_m3s == pytest.approx(greatest_inflow_m3s(RainInflow.model_validate(roof)) / 2)
    far = one_line(inflows=[roof], **{"vessels.2": beside, "lines.1": {**line, "length_m": 30.0}})
    assert links(Analysis(read_design(far))) == []
    wider = one_line(inflows=[roof], **{"vessels.2": beside, "lines.1": {**line, "bore_mm": 60}})
    assert links(Analysis(read_design(wider)))[0].passes_m3s > 2 * link.passes_m3s
    own = one_line(inflows=[roof], **{"vessels.0.count": 4, "vessels.0.link_mm": 40})
    assert links(Analysis(read_design(own)))[0].wanted_m3s == pytest.approx(1.5 * link.wanted_m3s)


def test_a_standby_tote_with_its_own_line_carries_the_herd_when_the_pump_is_out() -> None:
    """A tote of 1 m3 on a stand, its line shut until the case opens it and shuts the main."""
    tote = {"id": "tote", "place": "top", "shape": {"kind": "box", "length_m": 1.0, "width_m": 1.0, "height_m": 1.0},
            "stand_m": 0.6, "outlet_m": 0.05, "level_m": 0.95, "empty_kg": 60, "reachable": True}  # fmt: skip
    spare = {"id": "standby", "from": "tote", "to": "end", "bore_mm": 20, "roughness_mm": 0.01, "length_m": 230,
             "shut": True}  # fmt: skip
    outage = {"id": "out", "air_c": 21.1, "open": ["standby"], "shut": ["line"], "lost": ["well"]}
    document = one_line(
        inflows=[WELL], **{"lines.0.to": "end", "vessels.2": tote, "lines.1": spare, "scenarios.1": outage}
    )
    usual = Analysis(read_design(document))
    assert [vessel.id for vessel in usual.sources_of_outlets] == ["tank"]
    lost = Analysis(read_design({**document, "shown_for": "out"}))
    assert [vessel.id for vessel in lost.sources_of_outlets] == ["tote"]
    assert lost.balance.refill_m3_per_day == 0.0
    assert lost.balance.days_in_hand == pytest.approx(0.9 / 0.59, rel=1e-3)  # 36.6 hours for twenty head
    assert 0.0 < lost.state.outlets["valve"].flow_m3s < usual.state.outlets["valve"].flow_m3s
    (store,) = store_reports(lost)
    assert (store.usable_l, store.full_kg) == pytest.approx((900.0, 1060.0))
