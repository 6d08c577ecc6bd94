"""Mobs in a run: whole animals at the rim, against the queue by hand and against the run at the trough of Demand."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from examples import Document
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.dayrun.drinking import served
from leadsman.core.dayrun.run import AS_IT_STANDS, day_run
from leadsman.core.design import Design
from leadsman.core.design.file import read_design, write_design
from leadsman.core.farm.drinking import Mob
from leadsman.demo import tamsel_ridge
from properties import examples
from runs import HOUR_S, farm


def test_a_mob_with_places_for_all_drinks_as_its_animals_come() -> None:
    """60 animals within 600 s, each 5 L at 10 L/min: the last comes at 600 s and has drunk 30 s later."""
    mob = Mob(heads=60, draught_m3=0.005, within_s=600.0, places=60.0, drinks_m3s=0.01 / 60.0, patience_s=600.0)
    times, drunk = served(mob, 210.0)
    assert times[-1] == pytest.approx(630.0)
    assert drunk[-1] == pytest.approx(0.3)
    assert drunk[1] == pytest.approx(60 * 0.005 * (210.0 - 15.0) / 600.0, rel=0.03)  # each is half a draught behind


def test_a_mob_with_few_places_drinks_by_the_rim() -> None:
    """12 animals at once, 4 places, 6 L each at 6 L/min: three rounds of a minute, 24 L/min all the while."""
    mob = Mob(heads=12, draught_m3=0.006, within_s=1e-6, places=4.0, drinks_m3s=0.006 / 60.0, patience_s=600.0)
    times, drunk = served(mob, 45.0001)
    assert times[-1] == pytest.approx(180.0, abs=0.01)
    assert drunk.tolist() == pytest.approx([0.0, 0.018, 0.036, 0.054, 0.072], abs=1e-5)


TROUGH: Document = {"id": "trough", "role": "trough", "place": "end", "level_m": 0.4,
                    "shape": {"kind": "box", "length_m": 1.0, "width_m": 0.5, "height_m": 0.5}}  # fmt: skip


def herd_at(level_m: float, open_m3h: float) -> Design:
    valve = {"kv_m3h": open_m3h, "closes_at_m": 0.4, "band_m": 0.02}
    outlet = {"id": "v", "kind": "float_valve", "place": "end", "fills": "trough", "valve": valve}
    herd = {"id": "cattle", "class": "growing cattle", "head": 30, "weight_kg": 350, "intake_lpd": 20, "outlet": "v",
            "drinking": {"pattern": "mob", "within_min": 10, "visits": 1, "rate_lpm": 10, "width_m": 0.3}}  # fmt: skip
    tank = {**write_design(farm())["vessels"][0]}
    return farm(vessels=[tank, {**TROUGH, "level_m": level_m}], outlets=[outlet], herds=[herd])


def test_what_a_mob_does_not_find_it_drinks_when_there_is_water_again() -> None:
    """30 head want 600 L of a trough of 200 L; the valve gives some litres a minute, and at night all have drunk."""
    design = herd_at(0.4, 0.1)
    told = day_run(design, 24.0 * HOUR_S, [0.0])
    assert told.drawn_m3[1] == pytest.approx(0.6, rel=1e-3)
    assert told.lacking_m3[1] == pytest.approx(0.0, abs=1e-3)
    assert any(event.kind == "empty" for event in told.events)
    assert told.mass_error < 1e-9


def test_a_mob_that_finds_no_water_at_all_lacks_all_that_it_wants_but_what_the_trough_held() -> None:
    design = herd_at(0.4, 0.1)
    shut = design.model_copy(update={"outlets": [design.outlets[0].model_copy(update={"shut": True})]})
    told = day_run(shut, 24.0 * HOUR_S, [0.0])
    assert told.drawn_m3[1] == pytest.approx(0.2, rel=1e-6)
    assert told.lacking_m3[1] == pytest.approx(0.4, rel=1e-3)


@pytest.mark.parametrize("kv", [0.15, 0.6])
def test_the_lowest_level_is_that_of_the_run_at_the_trough_of_demand(kv: float) -> None:
    """The same mob at the same trough, animal by animal: how low the water falls agrees but for the pieces."""
    design = herd_at(0.4, kv)
    (watering,) = Analysis(design).waterings
    assert watering.run is not None
    lowest = min(watering.run.levels_m)
    begins = 12.45 * HOUR_S
    told = day_run(design, 24.0 * HOUR_S, [begins + 30.0 * number for number in range(200)], AS_IT_STANDS)
    assert told.levels_m[:, 1].min() == pytest.approx(lowest, abs=0.05)


def test_the_demonstration_s_herds_drink_their_day_s_water() -> None:
    design = read_design(write_design(tamsel_ridge()))
    told = day_run(design, 24.0 * HOUR_S, [0.0], next(one for one in design.scenarios if one.id == design.shown_for))
    wanted = Analysis(design).balance.demand_m3_per_day
    assert 0.0 < float(told.drawn_m3.sum() + told.lacking_m3.sum()) <= wanted * 1.01


@given(
    outlet_m=st.sampled_from([0.0, 0.05, 0.1]),
    level_m=st.floats(0.0, 1.8),
    head=st.integers(1, 60),
    kv=st.floats(0.05, 3.0),
    visits=st.integers(1, 3),
    lpm=st.floats(0.05, 3.0),
)
@examples(12)
def test_nobody_drinks_more_than_there_was_and_came(  # type: ignore[no-untyped-def]
    outlet_m, level_m, head, kv, visits, lpm
) -> None:
    """Five days of a tank that empties, with a spring that may not keep up: no water comes from nothing."""
    whole = write_design(herd_at(0.4, kv))
    whole["vessels"][0] |= {"outlet_m": outlet_m, "level_m": max(level_m, outlet_m)}
    whole["herds"][0] |= {"head": head}
    whole["herds"][0]["drinking"]["visits"] = visits
    spring = {"id": "spring", "kind": "spring", "fills": "tank", "claimed_lpm": lpm}
    design = read_design({**whole, "inflows": [spring]})
    told = day_run(design, 120.0 * HOUR_S, [0.0, 120.0 * HOUR_S])
    held = np.pi * 0.36 * told.levels_m[0, 0] + 0.5 * told.levels_m[0, 1]
    assert float(told.drawn_m3.sum()) <= held + lpm * 7.2 + 1e-6
    assert told.mass_error < 1e-6
    assert told.why == ""


def test_what_is_lacking_when_something_else_happens_is_still_drunk_later() -> None:
    """An event that changes nothing begins just when the mob ends: its thirst goes over to what follows."""
    design = herd_at(0.4, 0.1)
    whole = day_run(design, 24.0 * HOUR_S, [0.0])
    ends = max(end for _, end in whole.wanting_s["cattle"])
    still = {"id": "warm", "kind": "hot_spell", "air_c": 20.0, "at_s": ends}
    told = day_run(read_design({**write_design(design), "events": [still]}), 24.0 * HOUR_S, [0.0])
    assert told.drawn_m3[1] == pytest.approx(whole.drawn_m3[1], abs=2e-3)
    assert told.lacking_m3[1] == pytest.approx(0.0, abs=2e-3)
