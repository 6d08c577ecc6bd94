"""Water taken from one vessel of the plan to another: counted once, by the day and through a season."""

from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from examples import Document
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.design.file import read_design
from leadsman.core.farm.transfer_run import Pool, transferred_m3
from leadsman.core.report.base import QuantityReport
from leadsman.core.report.inflow import inflow_reports
from systems import APART, farm, judged, line

SPRING_L = 0.5 * 1440
CISTERN = {"a": 120.0, "c": 90.0}  # a stands above the trough, c below it


def pumped(flow_lpm: float, source: str | None, fills: str = "a", name: str = "pump") -> dict[str, Any]:
    return {"id": name, "kind": "pump", "fills": fills, "flow_lpm": flow_lpm, "draws_from": source}


def refill_l(document: Document, *more: dict[str, Any], needs_y: float = 1_000.0) -> list[float]:
    document["inflows"] += more
    for herd in document["herds"]:
        if herd["outlet"] == "y":
            herd["intake_lpd"] = needs_y / herd["head"]
    return [round(day.refill_m3_per_day * 1000, 6) for day in judged(document).balances]


def with_cistern() -> Document:
    return farm([line("ax", "a", "x")], CISTERN, {"x": 100.0})


@pytest.mark.parametrize(
    ("flow_lpm", "source", "refill"),
    [
        (20.0, "c", 2 * SPRING_L),  # what comes into the cistern, no more
        (0.25, "c", SPRING_L + 360.0),  # what the pump carries
        (20.0, None, SPRING_L + 20.0 * 1440),  # a well: near miss
    ],
)
def test_a_pump_brings_no_more_than_comes_into_what_it_draws_from(
    flow_lpm: float, source: str | None, refill: float
) -> None:
    assert refill_l(with_cistern(), pumped(flow_lpm, source)) == [pytest.approx(refill)]


def test_two_pumps_share_what_comes_into_one_cistern() -> None:
    assert refill_l(with_cistern(), pumped(0.3, "c"), pumped(0.3, "c", name="other")) == [pytest.approx(2 * SPRING_L)]


def test_within_one_system_a_pump_brings_nothing_and_from_another_what_that_can_spare() -> None:
    joined = [line("ax", "a", "x"), line("bx", "b", "x")]
    assert refill_l(farm(joined, troughs={"x": 100.0}), pumped(20.0, "b")) == [pytest.approx(2 * SPRING_L)]
    assert refill_l(farm(APART), pumped(20.0, "b"), needs_y=420.0) == [pytest.approx(v) for v in (1020.0, 720.0)]
    assert refill_l(farm(APART), pumped(20.0, "b")) == [pytest.approx(v) for v in (720.0, 720.0)]


def test_pumps_that_go_round_make_no_water() -> None:
    round_about = [pumped(20.0, "c"), pumped(20.0, "a", fills="c", name="back")]
    assert refill_l(with_cistern(), *round_about) == [pytest.approx(2 * SPRING_L)]


def test_what_is_pumped_on_says_what_limits_it() -> None:
    document = with_cistern()
    document["inflows"].append(pumped(20.0, "c"))
    pump = next(report for report in inflow_reports(judged(document)) if report.id == "pump")
    assert pump.daily_l == pytest.approx(SPRING_L)
    assert pump.told_words[:4:2] == ["It could carry ", "; no more comes into "]
    carries = pump.told_words[1]
    assert isinstance(carries, QuantityReport)
    assert carries.value == pytest.approx(28_800.0)
    assert (carries.unit, pump.told_words[3]) == ("L/d", "c")


@pytest.mark.parametrize(
    ("pump", "path"),
    [
        ({"draws_from": "a"}, "/inflows/2"),
        ({"draws_from": "nowhere"}, "/inflows/2/draws_from"),
        ({"draws_from": "c", "kind": "mains"}, "/inflows/2"),
    ],
)
def test_what_it_may_not_draw_from(pump: dict[str, Any], path: str) -> None:
    document = with_cistern()
    document["inflows"].append({**pumped(20.0, None), **pump})
    with pytest.raises(Exception, match=r"draws_from|id of a vessel") as caught:
        read_design(document)
    assert path in [fault.path for fault in caught.value.faults]  # type: ignore[attr-defined]


def test_a_season_takes_what_the_cistern_kept_of_the_rain() -> None:
    """Rain of 6,000 L on the first day, 400 L needed in each of 20: the cistern holds 4,000, of which 3,000 stand."""
    document = with_cistern()
    document["inflows"] = [
        {"id": "roof", "kind": "rain", "fills": "c", "area_m2": 100.0, "coefficient": 1.0, "first_loss_mm": 0.0},
        pumped(20.0, "c"),
    ]
    document["season"] = {"weather": {"from": "2031-03-01", "rain_mm": [60.0] + [0.0] * 19, "most_c": [20.0] * 20}}
    season = Analysis(read_design(document)).store_season
    assert season is not None
    pumped_l = season.inflow_m3 * 1000
    # the tank is topped up from 3,000 to 4,000 L besides what is drunk on the first day, then what is drunk
    assert pumped_l[:11] == pytest.approx([1400.0] + [400.0] * 10)
    # 9,000 L less 1,400 in the first evening, no room for more than 4,000: ten days, and nothing after
    assert pumped_l[11:] == pytest.approx([0.0] * 9)


volumes = st.lists(st.floats(0.0, 5.0), min_size=12, max_size=12).map(np.array)


@given(
    most=volumes,
    low_in=volumes,
    high_in=volumes,
    demand=volumes,
    own=volumes,
    holds=st.tuples(*[st.floats(0.0, 9.0)] * 2),
)
def test_a_transfer_makes_no_water(
    most: Any, low_in: Any, high_in: Any, demand: Any, own: Any, holds: tuple[float, float]
) -> None:
    lower = Pool(holds_m3=holds[0], starts_m3=holds[0] / 2, demand_m3=own)
    upper = Pool(holds_m3=holds[1], starts_m3=holds[1], demand_m3=demand)
    over = transferred_m3(most, lower, low_in, upper, high_in)
    assert np.all(over >= 0.0)
    assert np.all(over <= most + 1e-12)
    assert np.all(np.cumsum(over) <= lower.starts_m3 + np.cumsum(low_in) + 1e-9)
    assert np.all(np.cumsum(over) <= upper.holds_m3 + np.cumsum(demand) + 1e-9)  # no more than there is use or room for
