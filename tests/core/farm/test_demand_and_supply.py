"""What animals drink, what a spring gives, and the balance of the two."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cases import half_last_digit, table
from examples import one_line
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.errors import OutOfRange, UnknownName
from leadsman.core.base.fault import DesignFaults
from leadsman.core.catalogue.livestock import animals
from leadsman.core.design import SpringInflow, Timing
from leadsman.core.design.file import read_design
from leadsman.core.farm.balance import balance
from leadsman.core.farm.herd import Condition, daily_intake
from leadsman.core.farm.intake import cow_dry_matter_kgd, meyer, murphy
from leadsman.core.farm.spring import planned_flow_m3s
from leadsman.core.steady.solve import solve


@pytest.mark.parametrize(
    "row", table("intake"), ids=lambda row: f"{row['animal']} {row['weight_kg']} at {row['air_c']}"
)
def test_intake_agrees_with_the_published_table(row: dict[str, str]) -> None:
    intake = daily_intake(row["animal"], Condition(weight_kg=float(row["weight_kg"])), float(row["air_c"])).published
    assert intake.litres_per_day == pytest.approx(float(row["litres"]), abs=half_last_digit(row["litres"]))
    assert not intake.beyond


@given(
    st.sampled_from(list(animals())), st.floats(-40, 49), st.floats(0, 1), st.floats(0, 10), st.floats(0, 60),
    st.booleans(),
)  # fmt: skip
def test_heat_never_lowers_the_demand(
    animal: str, air_c: float, share: float, hotter: float, milk: float, humid: bool
) -> None:
    condition = Condition(weight_kg=30.0 + share * 1_170.0, milk_kgd=milk)
    cooler = daily_intake(animal, condition, air_c, humid=humid).planned_lpd
    hot = daily_intake(animal, condition, min(50.0, air_c + hotter), humid=humid)
    assert hot.planned_lpd >= cooler - 1e-9
    assert hot.planned_lpd >= hot.published.litres_per_day


@pytest.mark.parametrize(
    ("animal", "air_c", "litres", "kind"),
    [  # guides, as bounds
        ("ewe in milk", 30, 12.0, "guide"), ("ewe dry", 5, 4.0, "guide"), ("horse", 20, 25.0, "guide"),
        ("horse", 30, 48.0, "guide"), ("laying hen", 21, 0.225, "guide"), ("laying hen", 31, 0.3825, "guide"),
        ("sow in milk", 30, 40.0, "guide"), ("lactating cow", 32.2, 0.16691 * 409, "by weight"),
        ("pregnant cow", 4.4, 0.08345 * 409, "by weight"), ("lactating cow", 14.4, 54.9, "published"),
    ],
)  # fmt: skip
def test_planned_is_the_larger_of_what_is_published_and_a_rule_by_weight(
    animal: str, air_c: float, litres: float, kind: str
) -> None:
    intake = daily_intake(animal, Condition(weight_kg=409.0 if "cow" in animal else None), air_c)
    assert intake.planned_lpd == pytest.approx(litres, rel=1e-3)
    assert (intake.planned_lpd > intake.published.litres_per_day) is (kind == "by weight")


def test_a_humid_day_takes_a_tenth_more() -> None:
    cow = daily_intake("lactating cow", Condition(weight_kg=550.0), 33.0, humid=True)
    assert cow.planned_lpd == pytest.approx(1.1 * 0.16691 * 550.0)
    dry, humid = (daily_intake("ewe in milk", Condition(), 30.0, humid=humid) for humid in (False, True))
    assert humid.planned_lpd == pytest.approx(1.1 * dry.planned_lpd)
    assert humid.humid_lpd == pytest.approx(0.1 * dry.planned_lpd)
    assert daily_intake("ewe in milk", Condition(), 20.0, humid=True).humid_lpd == 0.0


def test_a_dairy_cow_is_planned_on_the_larger_of_two_equations() -> None:
    condition = Condition(weight_kg=600.0, milk_kgd=30.0)
    planned = daily_intake("dairy cow in milk", condition, 15.0).published.litres_per_day
    eaten = cow_dry_matter_kgd(600.0, 30.0)
    assert planned == max(murphy(eaten, 30.0, 40.0, 15.0), meyer(15.0, 30.0, 600.0, 40.0))
    usual = daily_intake("dairy cow in milk", Condition(), 15.0)  # an empty yield is not a dry cow
    assert (usual.weight_kg, usual.milk_kgd) == (600.0, 25.0)
    assert usual.planned_lpd == daily_intake("dairy cow in milk", Condition(milk_kgd=25.0), 15.0).planned_lpd
    assert daily_intake("dairy cow in milk", Condition(milk_kgd=0.0), 15.0).planned_lpd < usual.planned_lpd


@pytest.mark.parametrize(
    ("animal", "weight", "air", "litres", "scaled"),
    [  # from the nearest row by hand: times (weight over the row's) to 0.75
        ("lactating cow", 550.0, 21.1, 64.0 * (550 / 409) ** 0.75, True), ("lactating cow", 409.0, 21.1, 64.0, False),
        ("growing cattle", 30.0, 10.0, 16.3 * (30 / 182) ** 0.75, True), ("growing cattle", 182.0, 10.0, 16.3, False),
        ("bull", 1_200.0, 4.4, 32.9 * (1_200 / 727) ** 0.75, True), ("bull", 700.0, 4.4, None, False),
        ("horse", 250.0, 20.0, 25.0 * 0.5**0.75, True), ("horse", None, 20.0, 25.0, False),
        ("ewe dry", 80.0, 5.0, 4.0 * (80 / 65) ** 0.75, True), ("growing cattle", None, 10.0, None, False),
    ],
)  # fmt: skip
def test_any_real_weight_is_taken_and_what_is_not_published_is_marked(
    animal: str, weight: float | None, air: float, litres: float | None, scaled: bool
) -> None:
    found = daily_intake(animal, Condition(weight_kg=weight), air)
    assert found.published.scaled is scaled
    assert litres is None or found.published.litres_per_day == pytest.approx(litres)
    assert found.weight_kg == (animals()[animal].usual_kg if weight is None else weight)


@pytest.mark.parametrize("animal", list(animals()))
def test_each_class_answers_to_heat_and_to_weight(animal: str) -> None:
    kind = animals()[animal]
    cool, hot = (daily_intake(animal, Condition(), air).published.litres_per_day for air in (10.0, 38.0))
    assert hot > 1.2 * cool
    light, heavy = (Condition(weight_kg=kind.usual_kg * share) for share in (0.8, 1.2))
    ratio = (daily_intake(animal, condition, 20.0).published.litres_per_day for condition in (heavy, light))
    assert next(ratio) > 1.05 * next(ratio)


def test_calves_at_foot_drink_beside_the_herd() -> None:
    alone, with_calves = (
        Analysis(
            read_design(one_line(**{"herds.0.class": "lactating cow", "herds.0.weight_kg": 550, "herds.0.calves": n}))
        )
        for n in (0, 12)
    )
    each = (with_calves.daily_l - alone.daily_l) / 12
    assert each == pytest.approx(22.0 * (100 / 182) ** 0.75)  # growing cattle of 182 kg at 21.1 °C, scaled


def test_heads_change_on_the_day_that_is_said_and_a_class_of_ones_own_needs_its_figure() -> None:
    changes = {"herds.0.counts": [{"from": "2026-05-01", "head": 30}, {"from": "2026-09-01", "head": 5}]}
    for date, head in ((None, 20), ("2026-04-30", 20), ("2026-05-01", 30), ("2026-12-24", 5)):
        analysis = Analysis(read_design(one_line(**changes, **{"scenarios.0.date": date})))
        assert analysis.herds[0].head == head
    own = one_line(**{"herds.0.class": "alpaca", "herds.0.intake_lpd": 5.0})
    assert Analysis(read_design(own)).herds[0].daily_l == 100.0
    with pytest.raises(DesignFaults):
        read_design(one_line(**{"herds.0.class": "alpaca"}))
    with pytest.raises(DesignFaults):
        read_design(one_line(**{"herds.0.counts": changes["herds.0.counts"][::-1]}))


def test_a_table_row_that_falls_in_heat_is_not_followed() -> None:
    # the printed row for lactating cows falls from 67.8 at 26.6 °C to 61.3 at 32.2
    assert daily_intake("lactating cow", Condition(weight_kg=409), 32.2).published.litres_per_day == 67.8


def test_between_rows_it_runs_straight_and_beyond_them_is_marked() -> None:
    assert daily_intake("growing cattle", Condition(weight_kg=318.5), 21.1).planned_lpd == pytest.approx(
        (29.5 + 34.8) / 2
    )
    beyond = daily_intake("growing cattle", Condition(weight_kg=364), 34.2).published
    assert beyond.beyond
    assert beyond.litres_per_day == pytest.approx(56.8 + 2 * (56.8 - 40.1) / 5.6)


@pytest.mark.parametrize(
    ("animal", "weight", "air", "error"),
    [
        ("growing cattle", 29.9, 20, OutOfRange),
        ("bull", 1_200.1, 20, OutOfRange),
        ("growing cattle", float("nan"), 20, OutOfRange),
        ("growing cattle", 300, 60, OutOfRange),
        ("gryphon", 300, 20, UnknownName),
    ],
)
def test_intake_of_what_is_no_such_animal_is_refused(
    animal: str, weight: float, air: float, error: type[Exception]
) -> None:
    with pytest.raises(error):
        daily_intake(animal, Condition(weight_kg=weight), air)


def test_a_spring_is_planned_on_its_slowest_timing() -> None:
    timings = [Timing(volume_l=12.0, time_s=60.0), Timing(volume_l=12.0, time_s=96.0)]
    assert planned_flow_m3s(SpringInflow(id="s", fills="t", kind="spring", timings=timings)) * 60_000 == pytest.approx(
        7.5
    )


def test_days_in_hand_and_what_is_to_spare() -> None:
    day = balance(demand_m3_per_day=2.0, refill_m3s=3.0 / 86_400, usable_m3=5.0)
    assert day.days_in_hand == 2.5
    assert day.spare_m3_per_day == pytest.approx(1.0)
    assert balance(0.0, 0.0, 5.0).days_in_hand is None
    with pytest.raises(OutOfRange):
        balance(-1.0, 0.0, 5.0)


def test_the_analysis_brings_demand_and_supply_together() -> None:
    # 20 × 29.5 L; 10 L in 600 s; 1 m of a 2 m wide tank less 0.2 m below its outlet
    analysis = Analysis(read_design(one_line(**{"vessels.0.outlet_m": 0.2})))
    day = analysis.balance
    assert day.demand_m3_per_day == pytest.approx(0.59)
    assert day.refill_m3_per_day == pytest.approx(1.44)
    assert day.usable_m3 == pytest.approx(3.14159 * 0.8, rel=1e-5)
    own = Analysis(read_design(one_line(**{"herds.0.intake_lpd": 40.0})))
    assert own.balance.demand_m3_per_day == pytest.approx(0.8)


def test_refill_time_is_met_by_a_simulation_in_small_steps() -> None:
    analysis = Analysis(read_design(one_line()))
    refill = analysis.refills["valve"]
    assert refill.volume_m3 == pytest.approx(2.0 * 0.5 * (0.5 - 0.05 * 0.05 - 0.1))
    level, tank, time = 0.1, 1.0, 0.0
    while level < 0.5 - 0.05 * 0.05:
        document = one_line(**{"vessels.1.level_m": level, "vessels.0.level_m": tank})
        flow = solve(read_design(document)).outlets["valve"].flow_m3s
        step = 4.0
        level += flow * step / 1.0
        tank -= flow * step / (3.141592653589793 * 1.0)
        time += step
    assert refill.time_s == pytest.approx(time, rel=0.01)
