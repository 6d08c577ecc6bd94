"""What animals drink, what a spring gives, and the balance of the two."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cases import half_last_digit, table
from examples import one_line
from leadsman.core.analysis import Analysis
from leadsman.core.balance import balance
from leadsman.core.catalogue import animals, intake_rows
from leadsman.core.design import Timing
from leadsman.core.design_file import read_design
from leadsman.core.errors import OutOfRange, UnknownName
from leadsman.core.herd import daily_intake
from leadsman.core.solve import solve
from leadsman.core.spring import planned_flow_m3s


@pytest.mark.parametrize(
    "row", table("intake"), ids=lambda row: f"{row['animal']} {row['weight_kg']} at {row['air_c']}"
)
def test_intake_agrees_with_the_published_table(row: dict[str, str]) -> None:
    intake = daily_intake(row["animal"], float(row["weight_kg"]), float(row["air_c"]))
    assert intake.litres_per_day == pytest.approx(float(row["litres"]), abs=half_last_digit(row["litres"]))
    assert not intake.beyond_table


@given(st.sampled_from(animals()), st.floats(-40, 49), st.floats(0, 1), st.floats(0, 10))
def test_heat_never_lowers_the_need(animal: str, air_c: float, share: float, hotter: float) -> None:
    weights = [row.weight_kg for row in intake_rows() if row.animal == animal]
    weight = min(weights) + share * (max(weights) - min(weights))
    cooler = daily_intake(animal, weight, air_c).litres_per_day
    assert daily_intake(animal, weight, min(50.0, air_c + hotter)).litres_per_day >= cooler - 1e-9


def test_a_table_row_that_falls_in_heat_is_not_followed() -> None:
    # the printed row for lactating cows falls from 67.8 at 26.6 °C to 61.3 at 32.2
    assert daily_intake("lactating cow", 409, 32.2).litres_per_day == 67.8


def test_between_rows_it_runs_straight_and_beyond_them_is_marked() -> None:
    assert daily_intake("growing cattle", 318.5, 21.1).litres_per_day == pytest.approx((29.5 + 34.8) / 2)
    beyond = daily_intake("growing cattle", 364, 34.2)
    assert beyond.beyond_table
    assert beyond.litres_per_day == pytest.approx(56.8 + 2 * (56.8 - 40.1) / 5.6)


@pytest.mark.parametrize(
    ("animal", "weight", "air", "error"),
    [
        ("growing cattle", 120, 20, OutOfRange),
        ("growing cattle", 500, 20, OutOfRange),
        ("growing cattle", float("nan"), 20, OutOfRange),
        ("growing cattle", 300, 60, OutOfRange),
        ("gryphon", 300, 20, UnknownName),
    ],
)
def test_intake_outside_the_table_is_refused(animal: str, weight: float, air: float, error: type[Exception]) -> None:
    with pytest.raises(error):
        daily_intake(animal, weight, air)


def test_a_spring_is_planned_on_its_slowest_timing() -> None:
    timings = [Timing(volume_l=12.0, time_s=60.0), Timing(volume_l=12.0, time_s=96.0)]
    assert planned_flow_m3s(timings) * 60_000 == pytest.approx(7.5)


def test_days_in_hand_and_what_is_to_spare() -> None:
    day = balance(need_m3_per_day=2.0, refill_m3s=3.0 / 86_400, usable_m3=5.0)
    assert day.days_in_hand == 2.5
    assert day.spare_m3_per_day == pytest.approx(1.0)
    assert balance(0.0, 0.0, 5.0).days_in_hand is None
    with pytest.raises(OutOfRange):
        balance(-1.0, 0.0, 5.0)


def test_the_analysis_brings_need_and_supply_together() -> None:
    # 20 × 29.5 L; 10 L in 600 s; 1 m of a 2 m wide tank less 0.2 m below its outlet
    analysis = Analysis(read_design(one_line(**{"vessels.0.outlet_m": 0.2})))
    day = analysis.balance
    assert day.need_m3_per_day == pytest.approx(0.59)
    assert day.refill_m3_per_day == pytest.approx(1.44)
    assert day.usable_m3 == pytest.approx(3.14159 * 0.8, rel=1e-5)
    own = Analysis(read_design(one_line(**{"herds.0.intake_lpd": 40.0})))
    assert own.balance.need_m3_per_day == pytest.approx(0.8)


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
