"""What is needed in a frost: by the table's coldest row and not by the case, and how far animals walk then."""

from datetime import date
from typing import Any

import pytest

from examples import Document, one_line
from leadsman.core.report.winter import winter_answer
from leadsman.core.winter.winter import winter
from systems import judged

TODAY = date(2031, 1, 1)
FROST = {"from": "2031-12-01", "to": "2031-12-20", "air_c": -12.0, "water_c": 6.0}


def document(**changes: Any) -> Document:
    return one_line(**{"frost": FROST, "scenarios.0.air_c": 33.0, **changes})


def test_a_herd_in_a_hot_case_drinks_in_the_frost_what_it_drinks_in_the_cold() -> None:
    analysis = judged(document())
    found = winter(analysis)
    assert found is not None
    assert analysis.daily_l > 20 * 36.0
    assert found.need.daily_l == pytest.approx(20 * 20.1)  # NRC's coldest row, 4.4 °C, 273 kg
    assert [one.needed_m3 * 1000 for one in found.sources] == pytest.approx([402.0])
    trough = next(one for one in found.vessels if one.vessel.id == "trough")
    assert trough.drawn_m3 * 1000 == pytest.approx(402.0)


@pytest.mark.parametrize(
    ("latitude", "begins", "limit_m"), [(46.0, "2031-12-01", 1609.0), (46.0, "2031-05-01", 244.0),
                                        (-46.0, "2031-12-01", 244.0), (-46.0, "2031-07-01", 1609.0)]
)  # fmt: skip
def test_how_far_they_walk_goes_by_the_season_of_their_half_of_the_world(
    latitude: float, begins: str, limit_m: float
) -> None:
    frost = {**FROST, "from": begins, "to": begins[:8] + "20"}
    told = winter_answer(judged(document(**{"site.latitude_deg": latitude, "frost": frost})), TODAY).winter
    assert told is not None
    assert [(one.herd, one.head, one.limit_m) for one in told.herds] == [("mob", 20, limit_m)]


def test_plants_are_watered_by_the_frost_s_day_and_not_by_the_case_s() -> None:
    crop = {"id": "beds", "outlet": "valve", "plants": 10, "litres_each_lpd": 5.0,
            "over_season": [{"from": "2031-10-01", "litres_each_lpd": 0.0}]}  # fmt: skip
    analysis = judged(document(herds=[], crops=[crop], **{"scenarios.0.date": "2031-07-01"}))
    found = winter(analysis)
    assert found is not None
    assert (analysis.daily_l, found.need.daily_l) == (50.0, 0.0)


def test_where_what_is_left_running_goes_a_riser_carries_the_valve_stuck_open_too() -> None:
    told = winter_answer(judged(document()), TODAY).winter
    assert told is not None
    (bleed,) = told.bleeds
    assert bleed.riser_mm == 63.0  # 39.7 L/min: 3 cm over a rim of 63 mm carry twice 43, of 50 mm twice 27
    open_end = {"id": "valve", "place": "end", "kind": "open_end", "height_m": 0.6, "bore_mm": 20}
    told = winter_answer(judged(document(**{"outlets.0": open_end, "requirements.0.refill_min": None})), TODAY).winter
    assert told is not None
    assert told.bleeds[0].riser_mm is None
