"""Events in a run, each against what a hand works out of the same farm, and against a run in which nothing happens."""

from typing import Any

import numpy as np
import pytest

from examples import Document, worked_example
from leadsman.core.base.fault import DesignFaults
from leadsman.core.base.wording import plain
from leadsman.core.dayrun.run import DayRun, day_run
from leadsman.core.dayrun.story import story_of
from leadsman.core.design import Design
from leadsman.core.design.file import read_design, write_design
from leadsman.demo import tamsel_ridge
from runs import HOUR_S, OPEN_END, TANK, farm, run

BOX = {"kind": "box", "length_m": 2.0, "width_m": 1.0, "height_m": 1.0}
LPM = 1e-3 / 60.0


def tank_and_spring(**changes: Any) -> Document:
    """A tank of 2,000 L, 1,000 L in it, that a spring of 2 L/min fills; nothing draws."""
    return {
        "format": "leadsman-design", "version": 1, "name": "Run",
        "site": {"name": "Tamsel Ridge", "look_every_h": 12},
        "places": [{"id": "top", "east_m": 0, "north_m": 0, "ground_m": 120.0}],
        "vessels": [{"id": "tank", "place": "top", "shape": BOX, "level_m": 0.5}],
        "inflows": [{"id": "spring", "kind": "spring", "fills": "tank", "claimed_lpm": 2.0}],
        **changes,
    }  # fmt: skip


def held_l(design: Design, hours: float) -> float:
    """What the tank holds at the end [L]."""
    return float(run(design, hours).levels_m[-1, 0]) * 2_000.0


def event(kind: str, at_h: float, **fields: Any) -> Document:
    return {"id": "it", "kind": kind, "at_s": at_h * HOUR_S, **fields}


@pytest.mark.parametrize(
    ("happens", "hours", "wanted_l"),
    [
        (event("source_lost", 2.0, where="spring", until_s=5.0 * HOUR_S), 8.0, 1_000.0 + 2.0 * 60.0 * 5.0),
        (event("source_lost", 2.0, where="spring", until_look=True), 10.0, 1_000.0 + 2.0 * 60.0 * 4.0),  # looks at 8
        (event("source_lost", 2.0, where="spring"), 10.0, 1_000.0 + 2.0 * 60.0 * 2.0),
        (event("leak", 3.0, where="tank", flow_lpm=3.0), 6.0, 1_000.0 + 2.0 * 60.0 * 6.0 - 3.0 * 60.0 * 3.0),
        (event("leak", 1.0, where="tank", flow_lpm=50.0), 6.0, 0.0),  # then all that comes leaks
        (event("tipped", 1.0, where="tank"), 6.0, 0.005 * 2_000.0),
        (event("tipped", 1.0, where="tank", until_s=3.0 * HOUR_S), 6.0, 10.0 + 2.0 * 60.0 * 3.0),
        (event("hot_spell", 1.0, air_c=45.0), 6.0, 1_000.0 + 2.0 * 60.0 * 6.0),
    ],
)
def test_what_a_tank_holds_after_an_event_is_as_a_hand_adds_it_up(
    happens: Document, hours: float, wanted_l: float
) -> None:
    design = read_design(tank_and_spring(events=[happens]))
    assert held_l(design, hours) == pytest.approx(wanted_l, abs=0.05)
    assert run(design, hours).mass_error < 1e-9


def test_what_leaks_away_counts_as_lost() -> None:
    design = read_design(tank_and_spring(events=[event("leak", 3.0, where="tank", flow_lpm=3.0)]))
    story = story_of(design, run(design, 6.0), 6.0 * HOUR_S)
    assert story.lost_m3 == pytest.approx(3.0 * 180.0 * 1e-3, rel=1e-6)


def lost_l(design: Design, hours: float) -> float:
    """What left by the event's own way out [L]."""
    return run(design, hours).escaped_m3.get("it", 0.0) * 1e3


def test_a_hose_that_comes_off_loses_what_an_open_end_there_gives() -> None:
    """The same pipe with an open end of its bore at its far place, from the start, is the other way to work it out."""
    shut = {**OPEN_END, "shut": True}
    off = farm(outlets=[shut], events=[event("hose_off", 0.1, where="line")])
    told = run(off, 0.2)
    begun = farm(outlets=[{**OPEN_END, "height_m": 0.0, "bore_mm": 26.0}])
    assert told.escaped_m3["it"] == pytest.approx(run(begun, 0.1).passed_m3[0], rel=2e-3)
    assert told.levels_m[0, 0] == TANK["level_m"]


def test_a_split_loses_by_the_orifice_and_nothing_runs_before_it() -> None:
    """A small hole in a wide full pipe: 0.61 A sqrt(2 g h), h from the water to the ground of the hole."""
    points = [[0.0, 120.0], [202.0, 100.0]]
    line = {"id": "line", "from": "tank", "to": "end", "bore_mm": 60.0, "roughness_mm": 0.01, "length_m": 202.0}
    hole = event("split", 1.0, where="line", at_m=101.0, hole_mm=3.0)
    design = farm(lines=[{**line, "points": points}], outlets=[{**OPEN_END, "shut": True}], events=[hole])
    head_m = 120.0 + 1.8 - 110.0
    wanted = 0.61 * np.pi * 0.0015**2 * np.sqrt(2.0 * 9.80665 * head_m) * 0.1 * HOUR_S * 1e3
    assert lost_l(design, 1.1) == pytest.approx(wanted, rel=0.02)
    assert lost_l(design, 1.0) == 0.0


def with_events(*happens: Document) -> Design:
    document = worked_example()
    return read_design({**document, "events": list(happens)})


def test_a_valve_that_sticks_open_runs_over_and_its_twin_that_sticks_shut_lets_nothing_in() -> None:
    design = read_design(worked_example())
    number = [vessel.id for vessel in design.vessels].index("low-trough")
    valve = [outlet.id for outlet in design.outlets].index("low-valve")
    stuck = run(with_events(event("stuck_open", 0.0, where="low-valve")), 6.0)
    assert stuck.over_m3[number] > 0.5
    assert stuck.passed_m3[valve] == pytest.approx(
        stuck.over_m3[number] + (stuck.levels_m[-1, number] - stuck.levels_m[0, number]) * _floor_m2(design, number),
        rel=1e-6,
    )
    shut = run(with_events(event("stuck_shut", 0.0, where="low-valve")), 6.0)
    assert shut.passed_m3[valve] == 0.0
    assert shut.over_m3[number] == 0.0


def _floor_m2(design: Design, number: int) -> float:
    shape = design.vessels[number].shape
    assert shape.kind == "box"
    return shape.length_m * shape.width_m


@pytest.mark.parametrize("left", [0.25, 0.6])
def test_a_partly_blocked_valve_fills_more_slowly_by_as_much_as_its_kv(left: float) -> None:
    """A valve with that share of its Kv from the start is the other way to work it out."""
    document = worked_example()
    (valve,) = [outlet for outlet in document["outlets"] if outlet["id"] == "low-valve"]
    valve["valve"]["kv_m3h"] *= left
    narrow = run(read_design(document), 0.3)
    blocked = run(with_events(event("partly_blocked", 0.0, where="low-valve", left=left)), 0.3)
    np.testing.assert_allclose(blocked.levels_m, narrow.levels_m, atol=1e-6)
    assert narrow.passed_m3[0] < run(read_design(worked_example()), 0.3).passed_m3[0]


def test_everything_frozen_stands_still_and_then_goes_on() -> None:
    frozen = run(with_events(event("freeze", 0.0, until_s=HOUR_S)), 2.0, 25)
    still = run(read_design(worked_example()), 1.0, 13)
    np.testing.assert_allclose(frozen.levels_m[:13], np.tile(frozen.levels_m[0], (13, 1)), atol=1e-9)
    np.testing.assert_allclose(frozen.levels_m[12:], still.levels_m, atol=2e-3)


NOTHING = [
    event("hot_spell", 3.0, air_c=20.0, until_s=5.0 * HOUR_S),  # as hot as it is
    event("shut_by_hand", 3.0, where="spare", until_s=5.0 * HOUR_S),  # it is shut
    event("herd_moved", 3.0, where="heifers", to="low-valve"),  # they drink there
    event("check_valve_failed", 3.0, where="low-leg"),  # it has none
]


def demo(*happens: Document) -> Design:
    document = {**write_design(tamsel_ridge()), "events": list(happens)}
    document["outlets"].append({"id": "spare", "kind": "open_end", "place": "gate", "shut": True})
    return read_design(document)


@pytest.mark.parametrize("happens", NOTHING, ids=[str(one["kind"]) for one in NOTHING])
def test_an_event_that_changes_nothing_changes_nothing(happens: Document) -> None:
    plain_run, with_it = run(demo(), 8.0), run(demo(happens), 8.0)
    np.testing.assert_allclose(with_it.levels_m, plain_run.levels_m, atol=2e-3)
    assert abs(float(with_it.over_m3.sum() - plain_run.over_m3.sum())) < 1e-6


def test_a_herd_that_moves_drinks_there_from_then_on() -> None:
    moved = run(demo(event("herd_moved", 0.0, where="geese", to="low-valve")), 24.0)
    stayed = run(demo(), 24.0)
    pan = [vessel.id for vessel in demo().vessels].index("goose-pan")
    assert stayed.drawn_m3[pan] > 0.01
    assert moved.drawn_m3[pan] == 0.0


def test_a_failed_check_valve_lets_the_tank_drain_back() -> None:
    """Two tanks, the lower one feeding the higher by nothing: only the check valve holds the water up."""
    places = [
        {"id": "high", "east_m": 0, "north_m": 0, "ground_m": 105.0},
        {"id": "low", "east_m": 50, "north_m": 0, "ground_m": 100.0},
    ]
    vessels = [
        {"id": "upper", "place": "high", "shape": BOX, "level_m": 0.8},
        {"id": "lower", "place": "low", "shape": BOX, "level_m": 0.1},
    ]
    line = {
        "id": "rise", "from": "lower", "to": "upper", "bore_mm": 20.0, "roughness_mm": 0.01, "length_m": 60.0,
        "inline": [{"kind": "check_valve", "at_m": 1.0}],
    }  # fmt: skip
    failed = event("check_valve_failed", 1.0, where="rise")
    design = farm(places=places, vessels=vessels, lines=[line], outlets=[], events=[failed])
    told = run(design, 3.0, 4)
    np.testing.assert_allclose(told.levels_m[:2, 0], [0.8, 0.8], atol=1e-9)
    assert told.levels_m[-1, 0] == pytest.approx(0.0, abs=1e-3)
    assert told.levels_m[-1, 1] == pytest.approx(0.9, abs=1e-3)


def test_an_overflow_fills_the_next_vessel_and_that_the_next() -> None:
    """A spring of 10 L/min for 5 h: two vessels of 1,000 L full, the third gets the rest; the run loses nothing."""
    tub = {"kind": "box", "length_m": 1.0, "width_m": 1.0, "height_m": 1.2}
    vessels = [
        {"id": "a", "place": "top", "shape": tub, "level_m": 0.5, "overflow_m": 1.0, "overflow_into": "b"},
        {"id": "b", "place": "top", "shape": tub, "level_m": 0.0, "overflow_m": 1.0, "overflow_into": "c"},
        {"id": "c", "place": "top", "shape": BOX, "level_m": 0.0},
    ]
    spring = {"id": "spring", "kind": "spring", "fills": "a", "claimed_lpm": 10.0}
    told = run(read_design(tank_and_spring(vessels=vessels, inflows=[spring])), 5.0, 6)
    assert told.levels_m[-1].tolist() == pytest.approx([1.0, 1.0, (3_000 - 1_500) / 2_000], abs=1e-6)
    assert told.mass_error < 1e-9


def test_a_siphon_whose_intake_runs_dry_stays_broken_when_the_water_is_back() -> None:
    """500 L at 10 L/min are gone after 50 min; the spring that comes later fills a pond that gives nothing."""
    vessels = [
        {"id": "pond", "place": "top", "shape": BOX, "level_m": 0.25},
        {"id": "tub", "place": "top", "shape": BOX, "level_m": 0.0},
    ]
    siphon = {"id": "siphon", "kind": "siphon", "fills": "tub", "draws_from": "pond", "flow_lpm": 10.0}
    spring = {"id": "spring", "kind": "spring", "fills": "pond", "claimed_lpm": 2.0}
    lost = event("source_lost", 0.0, where="spring", until_s=2.0 * HOUR_S)
    design = read_design(tank_and_spring(vessels=vessels, inflows=[siphon, spring], events=[lost]))
    told = run(design, 3.0, 4)
    assert [(one.kind, round(one.time_s)) for one in told.events if one.where == "siphon"] == [("siphon-breaks", 3_000)]
    assert told.levels_m[-1].tolist() == pytest.approx([2.0 * 60.0 / 2_000.0, 0.25], abs=1e-6)


def test_a_siphon_that_is_primed_runs_again_from_then_on() -> None:
    """The pond has 2 L/min from 2 h on, none before; primed at 2.5 h with 60 L in it, the siphon draws 10 L/min."""
    vessels = [
        {"id": "pond", "place": "top", "shape": BOX, "level_m": 0.25},
        {"id": "tub", "place": "top", "shape": BOX, "level_m": 0.0},
    ]
    siphon = {"id": "siphon", "kind": "siphon", "fills": "tub", "draws_from": "pond", "flow_lpm": 10.0}
    spring = {"id": "spring", "kind": "spring", "fills": "pond", "claimed_lpm": 2.0}
    events = [
        event("source_lost", 0.0, where="spring", until_s=2.0 * HOUR_S),
        {**event("siphon_primed", 2.5, where="siphon"), "id": "prime"},
    ]
    told = run(read_design(tank_and_spring(vessels=vessels, inflows=[siphon, spring], events=events)), 4.0, 5)
    breaks = [round(one.time_s) for one in told.events if one.kind == "siphon-breaks"]
    again_s = 2.5 * HOUR_S + 60.0 / (10.0 - 2.0) * 60.0  # until the pond is empty once more
    assert breaks == pytest.approx([3_000, again_s], abs=1.0)
    siphoned = 10.0 * 60.0 / (10.0 - 2.0)
    assert told.levels_m[-1, 1] == pytest.approx((500.0 + siphoned) / 2_000.0, abs=1e-4)
    assert told.mass_error < 1e-9


def test_an_event_that_primes_what_never_broke_changes_nothing() -> None:
    design = read_design(
        tank_and_spring(
            vessels=[
                {"id": "pond", "place": "top", "shape": BOX, "level_m": 0.9},
                {"id": "tub", "place": "top", "shape": BOX, "level_m": 0.0},
            ],
            inflows=[{"id": "siphon", "kind": "siphon", "fills": "tub", "draws_from": "pond", "flow_lpm": 2.0}],
            events=[event("siphon_primed", 1.0, where="siphon")],
        )
    )
    plain_run = run(design.model_copy(update={"events": []}), 3.0)
    assert run(design, 3.0).levels_m[-1].tolist() == pytest.approx(plain_run.levels_m[-1].tolist(), abs=1e-9)


def test_animals_wait_from_when_their_trough_is_empty_until_it_has_water() -> None:
    """10 cattle that drink 600 L a day in 13 daylight hours of a trough of 200 L that nothing fills."""
    trough = {"id": "trough", "role": "trough", "place": "top", "shape": BOX, "level_m": 0.1}
    valve = {"id": "v", "kind": "float_valve", "place": "top", "fills": "trough", "shut": True,
             "valve": {"kv_m3h": 1.0, "closes_at_m": 0.5, "band_m": 0.05}}  # fmt: skip
    herd = {"id": "herd", "class": "growing cattle", "head": 10, "weight_kg": 300, "intake_lpd": 60, "outlet": "v"}
    design = read_design(tank_and_spring(vessels=[trough], outlets=[valve], herds=[herd], inflows=[]))
    told = run(design, 24.0)
    story = story_of(design, told, 24.0 * HOUR_S)
    (waiting,) = story.waiting
    (begins, ends) = told.wanting_s["herd"][0]
    assert waiting.from_s == pytest.approx(begins + (ends - begins) * 200.0 / 600.0, abs=0.1)
    assert told.lacking_m3[0] == pytest.approx(0.4, abs=1e-6)
    assert story.weight == "stop"
    assert "10 animals, find no water" in plain(story.sentence)


@pytest.mark.parametrize(
    ("happens", "path", "allowed"),
    [
        (event("source_lost", 1.0, where="nowhere"), "/events/0/where", "inflow"),
        (event("stuck_open", 1.0, where="spring"), "/events/0/where", "outlet"),
        (event("leak", -1.0, where="tank"), "/events/0/at_s", "0"),
        (event("leak", 91.0 * 24.0, where="tank"), "/events/0/at_s", "7776000"),
        (event("leak", 2.0, where="tank", until_s=HOUR_S), "/events/0", "until_s after at_s"),
        (event("leak", 2.0, where="tank", until_s=3.0 * HOUR_S, until_look=True), "/events/0", "either"),
        (event("flood", 2.0, where="tank"), "/events/0", "source_lost"),
    ],
)
def test_events_that_cannot_be_are_refused_with_path_and_limits(happens: Document, path: str, allowed: str) -> None:
    with pytest.raises(DesignFaults) as refused:
        read_design(tank_and_spring(events=[happens]))
    (fault, *_) = refused.value.faults
    assert fault.path.startswith(path)
    assert allowed in fault.allowed.replace(",", "")


def both(design: Design, hours: float) -> tuple[DayRun, DayRun]:
    """The run with its events told every hour, and told every minute."""
    whole = hours * HOUR_S
    return day_run(design, whole, np.linspace(0, whole, 7).tolist()), day_run(
        design, whole, np.linspace(0, whole, 361).tolist()
    )


def test_events_happen_alike_whatever_times_are_told() -> None:
    design = demo(event("stuck_open", 2.0, where="low-valve", until_look=True))
    few, many = both(design, 12.0)
    np.testing.assert_allclose(few.levels_m, many.levels_m[::60], atol=3e-3)
    kinds = [[(one.kind, one.where) for one in told.events] for told in (few, many)]
    assert kinds[0] == kinds[1]


@pytest.mark.parametrize("into", [{"a": "a"}, {"a": "b", "b": "a"}, {"a": "b", "b": "c", "c": "a"}])
def test_an_overflow_that_comes_back_is_refused(into: dict[str, str]) -> None:
    vessels = [{"id": one, "place": "top", "shape": BOX, "level_m": 0.5} for one in ("a", "b", "c")]
    vessels = [{**one, **({"overflow_into": into[str(one["id"])]} if one["id"] in into else {})} for one in vessels]
    with pytest.raises(DesignFaults) as refused:
        read_design(tank_and_spring(vessels=vessels, inflows=[]))
    assert {fault.path for fault in refused.value.faults} == {
        f"/vessels/{index}/overflow_into" for index, one in enumerate("abc") if one in into
    }
