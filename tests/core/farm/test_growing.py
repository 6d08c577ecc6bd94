"""What plants and ponds need: worked examples, and what is refused."""

from typing import Any

import pytest

from examples import Document, one_line
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.errors import OutOfRange
from leadsman.core.base.fault import DesignFaults
from leadsman.core.design.file import read_design

BEDS = {"id": "beds", "outlet": "valve"}
DAY = {
    "scenarios.0": {"id": "day", "air_c": 26.6, "least_air_c": 14.8, "date": "2015-07-15"},
    "site.latitude_deg": 45.72,
}


def needs(*crops: Document, ponds: Any = (), **changes: Any) -> list[float]:
    document = one_line(**{"crops": [{"id": f"c{i}", **crop} for i, crop in enumerate(crops)], "ponds": list(ponds),
                           **changes})  # fmt: skip
    return [demand.daily_l for demand in Analysis(read_design(document)).other_demands]


@pytest.mark.parametrize(
    ("crop", "litres"),
    [
        ({"litres_lpd": 420.0}, 420.0),
        ({"plants": 30, "litres_each_lpd": 1.7}, 51.0),
        # FAO 56 example 20, July at Lyon: 5.03 mm; on 100 m2 at 1.15, nine tenths to the roots
        ({"area_m2": 100.0, "crop_factor": 1.15}, 5.033 * 1.15 * 100 / 0.9),
        ({"area_m2": 100.0, "crop_factor": 1.15, "applied_share": 1.0}, 5.033 * 115),
    ],
)
def test_what_a_crop_needs(crop: Document, litres: float) -> None:
    assert needs({"outlet": "valve", **crop}, **DAY) == [pytest.approx(litres, rel=2e-3)]


def test_minutes_a_day_are_at_the_outlets_own_flow() -> None:
    analysis = Analysis(read_design(one_line(crops=[{**BEDS, "minutes_per_day": 30.0}])))
    flow = analysis.state.outlets["valve"].flow_m3s * 60_000
    assert analysis.other_demands[0].daily_l == pytest.approx(30 * flow)
    assert analysis.balance.demand_m3_per_day == pytest.approx((590.0 + 30 * flow) / 1000, rel=1e-3)


def test_a_pond_loses_to_air_and_ground_and_by_what_is_let_out() -> None:
    # 500 m2, pan 8 mm a day times 0.7: 2.8 m3 a day
    pond = {"vessel": "tank", "area_m2": 500.0, "pan_mm_d": 8.0}
    assert needs(ponds=[pond]) == [pytest.approx(2800.0)]
    assert needs(ponds=[{**pond, "seepage_mm_d": 2.0, "discharge_lpd": 100.0}]) == [pytest.approx(3900.0)]
    # a week's change of a tenth of pi cubic metres
    assert needs(ponds=[{"vessel": "tank", "change_percent_week": 10.0}]) == [pytest.approx(3141.6 * 0.1 / 7, rel=1e-3)]
    # by its own surface: a cylinder of 2 m across
    assert needs(ponds=[{"vessel": "tank", "evaporation_mm_d": 5.0}]) == [pytest.approx(5 * 3.1416, rel=1e-3)]


@pytest.mark.parametrize(
    "crop", [{}, {"plants": 3}, {"litres_lpd": 1.0, "minutes_per_day": 2.0}, {"area_m2": 4.0}, {"plants": 0,
             "litres_each_lpd": 1.0}],
)  # fmt: skip
def test_a_crop_is_watered_in_exactly_one_way(crop: Document) -> None:
    with pytest.raises(DesignFaults):
        needs({"outlet": "valve", **crop})


def test_without_the_day_or_the_latitude_a_crop_by_area_says_what_is_missing() -> None:
    crop = {"outlet": "valve", "area_m2": 4.0, "crop_factor": 1.0}
    with pytest.raises(OutOfRange) as missing:
        needs(crop, **{"scenarios.0.date": "2026-07-01"})
    assert missing.value.path == "/site/latitude_deg"
    with pytest.raises(OutOfRange):
        needs(crop)
    assert needs(crop, **{"scenarios.0.et0_mm_d": 6.0}) == [pytest.approx(4 * 6 / 0.9)]


def test_pan_and_evaporation_are_not_both_given() -> None:
    with pytest.raises(DesignFaults):
        needs(ponds=[{"vessel": "tank", "pan_mm_d": 3.0, "evaporation_mm_d": 2.0}])


ROUND_THE_CLOCK = {"pattern": "mob", "visits": 24, "daylight_h": 24}


@pytest.mark.parametrize(
    "drinking",
    [None, {"pattern": "mob", "visits": 3}, {"pattern": "near"}, {"pattern": "near", "daylight_h": 1.5},
     ROUND_THE_CLOCK],
)  # fmt: skip
def test_the_hours_of_a_day_add_up_to_its_demand(drinking: Document | None) -> None:
    crop, pond = {**BEDS, "litres_lpd": 90.0}, {"vessel": "tank", "evaporation_mm_d": 5.0}
    changes = {"herds.0.drinking": drinking, "crops": [crop], "ponds": [pond],
               "scenarios.1": {"id": "hot", "air_c": 32.0}}  # fmt: skip
    analysis = Analysis(read_design(one_line(**changes)))
    hours = analysis.hours_of_cases
    assert sum(hours["day"]) == pytest.approx(analysis.daily_l)
    assert sum(hours["hot"]) > sum(hours["day"])
    assert min(hours["day"]) >= 0.0
    assert max(hours["day"]) > 2 * sum(hours["day"]) / 24 or drinking in (None, ROUND_THE_CLOCK)
