"""Standby containers: emptying by another integrator, loads by statics, who drinks of them, trips."""

from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import quad
from scipy.optimize import brentq

from examples import Document, one_line
from leadsman.core.base.fault import DesignFaults
from leadsman.core.design import Standby
from leadsman.core.design.file import read_design
from leadsman.core.physics.pipe import Pipe
from leadsman.core.physics.water import water_at
from leadsman.core.report.standby import standbys_report
from leadsman.core.standby.standby import StandbyAnswer, hose_flow_m3s, load_of, standbys
from systems import APART, farm, judged

TOTE = {"id": "tote", "fills": "trough", "place": "top", "holds_l": 700.0, "deep_m": 0.9, "empty_kg": 55.0}


def answer(document: Document | None = None, **more: Any) -> StandbyAnswer:
    (found,) = standbys(judged({**(document or one_line()), "standbys": [{**TOTE, **more}]}))
    return found


@pytest.mark.parametrize(("bore_mm", "length_m", "fall_m"), [(19.0, 12.0, 0.5), (25.0, 40.0, 3.0), (13.0, 5.0, -0.4)])
def test_it_empties_as_the_integral_of_surface_over_flow_says(bore_mm: float, length_m: float, fall_m: float) -> None:
    """Time is the integral of area over flow, each flow by root finding on the hose's own loss."""
    found = answer(place="end", floor_m=0.6 + fall_m, hose_mm=bore_mm, hose_m=length_m)
    assert found.fall_m == pytest.approx(fall_m)
    hose = Pipe(length_m=length_m, bore_m=bore_mm / 1000, roughness_m=1.5e-6)
    viscosity = water_at(10.0).kinematic_viscosity_m2s

    def flow(level_m: float) -> float:
        def lack(speed: float) -> float:
            q = speed * hose.area_m2
            return hose.friction_loss_m(q, viscosity)[0] + 1.5 * speed**2 / 2 / 9.80665 - (level_m + fall_m)

        return float(brentq(lack, 0.0, 15.0)) * hose.area_m2

    low = max(0.0, -fall_m) + 1e-3 * 0.9
    takes_s, _ = quad(lambda level: 0.7 / 0.9 / flow(level), low, 0.9, limit=200)
    assert found.empties_s == pytest.approx(takes_s, rel=2e-3)
    assert found.first_m3s == pytest.approx(flow(0.9), rel=1e-6)
    assert found.stays_l == pytest.approx(700.0 * max(0.0, -fall_m) / 0.9)


def test_a_pump_empties_all_at_its_flow() -> None:
    found = answer(place="end", floor_m=-1.0, pump_lpm=35.0)
    assert found.empties_s == pytest.approx(700.0 / 35.0 * 60)
    assert (found.stays_l, found.runs) == (0.0, True)


@given(holds=st.floats(10, 5_000), empty=st.floats(0, 500), feet=st.integers(1, 9), area=st.floats(0.001, 2.0))
def test_feet_carry_all_of_it_and_two_of_them_do_on_uneven_ground(
    holds: float, empty: float, feet: int, area: float
) -> None:
    load = load_of(Standby(id="s", fills="t", place="p", holds_l=holds, empty_kg=empty, feet=feet, footprint_m2=area))
    assert load.level_kg is not None
    assert load.uneven_kg is not None
    assert load.level_kg * feet == pytest.approx(holds + empty)
    assert load.uneven_kg * min(2, feet) == pytest.approx(holds + empty)
    assert load.level_pa == pytest.approx(load.level_kg * 9.80665 / area)


def test_it_waters_the_herds_of_its_trough_or_of_all_behind_its_tank() -> None:
    document = farm(APART)
    document["vessels"].append({"id": "pan", "role": "trough", "place": "at-x", "level_m": 0.1,
        "shape": {"kind": "box", "length_m": 1, "width_m": 1, "height_m": 0.5}})  # fmt: skip
    document["outlets"][0]["fills"] = "pan"
    at_trough = answer(document, fills="pan", place="at-a")
    at_tank = answer(document, fills="b", place="at-y")
    assert ([herd.id for herd in at_trough.herds], at_trough.need_lpd) == (["herd-x"], 400.0)
    assert ([herd.id for herd in at_tank.herds], at_tank.need_lpd) == (["herd-y"], 1_000.0)
    assert at_trough.lasts_s == pytest.approx(700.0 / 400.0 * 86_400)


def test_a_herd_with_two_troughs_may_drink_all_of_it_at_one() -> None:
    document = farm(APART)
    document["vessels"].append({"id": "pan", "role": "trough", "place": "at-x", "level_m": 0.1,
        "shape": {"kind": "box", "length_m": 1, "width_m": 1, "height_m": 0.5}})  # fmt: skip
    document["outlets"][0]["fills"] = "pan"
    document["paddocks"] = [{"id": f"field-{end}", "outlet": end} for end in ("x", "y")]
    document["calendar"] = [{"id": "r", "herd": "herd-x", "from": "2031-05-01", "to": "2031-05-20",
                             "paddocks": ["field-x", "field-y"], "days_each": 5}]  # fmt: skip
    document["scenarios"][0]["date"] = "2031-05-02"
    assert answer(document, fills="pan", place="at-a").need_lpd == 400.0


def test_trips_bring_what_is_needed_in_the_hours_that_they_take() -> None:
    found = answer(fill_lpm=50.0, trip_min=26.0, price_per_trip=3.0, pump_lpm=70.0)
    assert found.trips is not None
    assert found.trips.per_week * 700.0 == pytest.approx(found.need_lpd * 7)
    assert found.trips.minutes == pytest.approx(26.0 + 14.0 + 10.0)
    assert found.trips.hours_per_week == pytest.approx(found.trips.per_week * 50.0 / 60)
    assert found.trips.price_per_week == pytest.approx(found.trips.per_week * 3.0)
    report = standbys_report(judged({**one_line(), "standbys": [TOTE]})).standbys[0]
    assert report.line_price > 0.0
    assert (report.trip_min, report.hours_per_week, report.price_per_week) == (None, None, None)


@given(head=st.floats(0.0, 5.0), more=st.floats(0.01, 2.0), bore=st.floats(0.008, 0.05))
def test_more_head_never_gives_less(head: float, more: float, bore: float) -> None:
    hose = Pipe(length_m=10.0, bore_m=bore, roughness_m=1.5e-6)
    flows = [hose_flow_m3s(hose, each, 1.2e-6) for each in (head, head + more)]
    assert np.diff(flows)[0] > 0.0


def test_far_and_near_are_told_by_the_plan() -> None:
    assert answer(hose_m=210.0).reaches is True
    assert answer(hose_m=190.0).reaches is False
    assert answer().reaches is None
    assert answer(filled_at="end").fills_away_m == pytest.approx(200.0)


@pytest.mark.parametrize(
    ("change", "path"),
    [
        ({"place": "moon"}, "/standbys/0/place"),
        ({"fills": "well"}, "/standbys/0/fills"),
        ({"filled_at": "top"}, "/standbys/0/filled_at"),
        ({"holds_l": 0}, "/standbys/0/holds_l"),
        ({"id": "valve"}, "/standbys/0/id"),
    ],
)
def test_what_cannot_be_is_refused_where_it_stands(change: Document, path: str) -> None:
    with pytest.raises(DesignFaults) as refused:
        read_design({**one_line(), "standbys": [{**TOTE, **change}]})
    assert path in [fault.path.replace("/outlets/0/id", path) for fault in refused.value.faults]
