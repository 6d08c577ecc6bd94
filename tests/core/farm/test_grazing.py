"""The grazing calendar: where a herd is on a day, which outlets draw, and what is asked of each."""

from datetime import date, timedelta
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from examples import Document, changed, worked_example
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.fault import DesignFaults
from leadsman.core.design.file import read_design
from leadsman.core.farm.grazing import moves_on, outlets_on, season, stops_on
from leadsman.core.farm.moving import movings


def grazed(*rotations: Document, **more: Any) -> Document:
    herd = {"id": "mob", "class": "growing cattle", "weight_kg": 300, "head": 10, "outlet": "low-valve"}
    calendar = [{"id": f"r{i}", "herd": "mob", **rotation} for i, rotation in enumerate(rotations)]
    day = {"id": "day", "air_c": 20.0, **more.pop("day", {})}
    return changed(worked_example(), {"herds": [herd], "calendar": calendar, "scenarios": [day], **more})


ROUND = {"from": "2026-05-01", "to": "2026-06-30", "outlets": ["low-valve", "drip", "washout"]}


@pytest.mark.parametrize(
    ("days_each", "day", "stops"),
    [
        (2, "2026-04-30", ["low-valve"]), (2, "2026-05-01", ["low-valve"]), (2, "2026-05-03", ["drip"]),
        (2, "2026-05-07", ["low-valve"]), (1.5, "2026-05-02", ["low-valve", "drip"]),
        (0.25, "2026-05-01", ["low-valve", "drip", "washout"]), (0.5, "2026-05-02", ["washout", "low-valve"]),
        (400, "2026-06-30", ["low-valve"]), (2, "2026-07-01", ["low-valve"]),
    ],
)  # fmt: skip
def test_where_a_herd_is(days_each: float, day: str, stops: list[str]) -> None:
    design = read_design(grazed({**ROUND, "days_each": days_each}))
    assert outlets_on(design, design.herds[0], day) == stops


def test_the_rotation_that_began_last_counts_and_no_day_means_its_own_outlet() -> None:
    design = read_design(grazed(ROUND, {"from": "2026-05-10", "to": "2026-05-12", "outlets": ["drip"]}))
    assert outlets_on(design, design.herds[0], "2026-05-11") == ["drip"]
    assert outlets_on(design, design.herds[0], "2026-05-13") == ["low-valve"]
    assert outlets_on(design, design.herds[0], None) == ["low-valve"]


def test_outlets_of_the_calendar_without_a_herd_do_not_draw() -> None:
    rotation = {**ROUND, "outlets": ["low-valve", "washout"], "days_each": 1}
    flows = {}
    for day in ("2026-05-01", "2026-05-02"):
        document = grazed(rotation, day={"date": day}, **{"outlets.2.shut": False})
        analysis = Analysis(read_design(document))
        flows[day] = {one: answer.flow_m3s for one, answer in analysis.state.outlets.items()}
    assert flows["2026-05-01"]["low-valve"] > 0.0 == flows["2026-05-01"]["washout"]
    assert flows["2026-05-02"]["washout"] > 0.0 == flows["2026-05-02"]["low-valve"]
    assert flows["2026-05-01"]["drip"] == pytest.approx(6 / 60_000)


@given(st.floats(0.1, 20), st.integers(1, 3), st.integers(1, 60))
def test_over_the_season_all_that_is_drunk_is_asked_of_some_outlet(days_each: float, stops: int, length: int) -> None:
    last = (date(2026, 5, 1) + timedelta(days=length - 1)).isoformat()
    rotation = {"from": "2026-05-01", "to": last, "outlets": ROUND["outlets"][:stops], "days_each": days_each}
    design = read_design(grazed(rotation))
    whole = season(design, {"mob": 30.0})
    assert len(whole.days) == length
    asked = sum(sum(litres) for litres in whole.asked_lpd.values())
    assert asked == pytest.approx(10 * 30.0 * length)


@pytest.mark.parametrize(
    ("rotation", "path"),
    [
        ({**ROUND, "outlets": ["gone"]}, "/calendar/0/outlets/0"),
        ({**ROUND, "to": "2026-04-30"}, "/calendar/0"),
        ({**ROUND, "from": "2026-02-31"}, "/calendar/0/from"),
        ({**ROUND, "herd": "nobody"}, "/calendar/0/herd"),
        ({**ROUND, "outlets": []}, "/calendar/0"),
    ],
)
def test_a_rotation_that_cannot_be_is_refused(rotation: Document, path: str) -> None:
    with pytest.raises(DesignFaults) as refused:
        read_design(grazed(rotation))
    assert path in [fault.path for fault in refused.value.faults]


TRAIN = {"from": "2026-05-01", "to": "2026-06-30", "paddocks": ["a", "b", "c"], "days_each": 0.5}


def tapped(portable: Document | None, **rotation: Any) -> Document:
    """Three paddocks with taps, the trough carried from one to the next."""
    taps = [
        {"id": f"tap-{name}", "place": "fork", "kind": "float_valve", "fills": "low-trough", "height_m": 0.5,
         "valve": {"kv_m3h": 2.0, "closes_at_m": 0.4, "band_m": 0.05}}
        for name in "ab"
    ]  # fmt: skip
    paddocks = [{"id": "a", "outlet": "tap-a", "farthest_m": 90}, {"id": "b", "outlet": "tap-b"},
                {"id": "c", "outlet": "tap-b", "farthest_m": 200}]  # fmt: skip
    changes = {f"outlets.{i + 3}": tap for i, tap in enumerate(taps)}
    return grazed({**TRAIN, **rotation}, paddocks=paddocks, day={"date": "2026-05-02"},
                  **{"vessels.1.portable": portable}, **changes)  # fmt: skip


def test_paddocks_stand_for_the_water_that_serves_them() -> None:
    design = read_design(tapped(None, farthest_m=120))
    herd = design.herds[0]
    first = stops_on(design, herd, "2026-05-01")
    assert [(stop.paddock, stop.outlet, stop.farthest_m) for stop in first] == [("a", "tap-a", 90), ("b", "tap-b", 120)]
    assert outlets_on(design, herd, "2026-05-02") == ["tap-b", "tap-a"]
    whole = season(design, {"mob": 30.0})
    assert whole.paddocks["mob"][:3] == [["a", "b"], ["c", "a"], ["b", "c"]]
    assert sum(sum(litres) for litres in whole.asked_lpd.values()) == pytest.approx(10 * 30.0 * len(whole.days))


@given(st.floats(0.1, 9), st.integers(2, 40))
def test_over_a_rotation_a_herd_moves_as_often_as_its_days_at_each_say(days_each: float, length: int) -> None:
    first = date(2026, 5, 1)
    design = read_design(tapped(None, days_each=days_each))
    days = [(first + timedelta(days=n)).isoformat() for n in range(length)]
    moves = sum(len(moves_on(design, design.herds[0], day)) for day in days)
    assert abs(moves - length / days_each) <= 1.0


def test_a_trough_that_goes_with_the_herd_throws_away_what_it_holds() -> None:
    # on the second day the herd goes b to c, which has the same tap, and on to a: the trough is carried once
    for portable, thrown in (({}, 2.0 * 0.6 * 0.4 * 1000), ({"thrown_l": 60.0, "minutes": 12.0}, 60.0)):
        design = read_design(tapped(portable))
        (moving,) = movings(design, "2026-05-02")
        assert (moving.moves, moving.outlet) == (1, "tap-a")
        assert moving.thrown_l == pytest.approx(thrown)
        assert moving.minutes == portable.get("minutes")
        analysis = Analysis(design)
        (demand,) = analysis.other_demands
        assert (demand.kind, demand.where, demand.herd) == ("move", "tap-a", "mob")
        assert demand.daily_l == pytest.approx(thrown)
        assert sum(analysis.hours_of_cases["day"]) == pytest.approx(analysis.daily_l)
        assert analysis.daily_l == pytest.approx(analysis.herds[0].daily_l + thrown)
    assert movings(read_design(tapped(None)), "2026-05-02") == []
    assert movings(read_design(tapped({}, days_each=90)), "2026-05-02") == []
