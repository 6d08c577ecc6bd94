"""Where a trough or a tank could stand: each position against a plan written by hand, walks by sampling, stands."""

import math
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from examples import Document, changed
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.fault import DesignFaults
from leadsman.core.catalogue import pipes
from leadsman.core.design import Design
from leadsman.core.design.change import patched, with_part
from leadsman.core.design.file import read_design, write_design
from leadsman.core.report.siting import outlet_siting_report, tank_siting_report
from leadsman.core.siting import tank
from leadsman.core.siting.known_ground import KnownGround
from leadsman.core.siting.outlet import along_line, as_it_is, in_paddock, without_ground
from leadsman.core.siting.position import Position
from leadsman.core.siting.tank import fed_by, least_stand_m, on_hill, stands_needed
from leadsman.core.siting.walk import farthest_m, inside, limit_m, stands_in
from leadsman.demo import tamsel_ridge
from properties import examples

PIPE, BRANCH = "pe100-sdr17-40", "pe100-sdr17-32"
BOX = {"kind": "box", "length_m": 2.0, "width_m": 1.0, "height_m": 1.0}
VALVE = {"kv_m3h": 2.0, "closes_at_m": 0.4, "band_m": 0.05}


def fall(east_m: float, north_m: float) -> float:
    """Ground that falls evenly to the east and a little to the north [m]."""
    return 120.0 - 0.04 * east_m - 0.01 * north_m


def place(id_: str, east_m: float, north_m: float) -> Document:
    return {"id": id_, "east_m": east_m, "north_m": north_m, "ground_m": fall(east_m, north_m)}


def field(**changes: Any) -> Design:
    """A tank, a main of 400 m to the east with a trough at its end, a branch half way, a paddock to the north of it."""
    document: Document = {
        "format": "leadsman-design", "version": 1, "name": "Field", "site": {"name": "Tamsel Ridge"},
        "places": [place("hill", 0.0, 0.0), place("mid", 200.0, 0.0), place("end", 400.0, 0.0),
                   place("side", 200.0, -150.0), place("north", 0.0, 300.0), place("far", 400.0, 300.0)],
        "vessels": [
            {"id": "tank", "place": "hill", "shape": BOX, "level_m": 0.8},
            {"id": "trough", "role": "trough", "place": "end", "shape": BOX, "level_m": 0.2},
        ],
        "lines": [
            {"id": "main", "from": "tank", "to": "mid", "product": PIPE, "length_m": 200.16},
            {"id": "leg", "from": "mid", "to": "valve", "product": PIPE, "length_m": 200.16, "cover_m": 0.4},
            {"id": "branch", "from": "mid", "to": "tap", "product": BRANCH, "length_m": 150.0},
        ],
        "outlets": [
            {"id": "valve", "place": "end", "kind": "float_valve", "fills": "trough", "height_m": 0.5, "valve": VALVE},
            {"id": "tap", "place": "side", "kind": "open_end", "height_m": 0.5, "bore_mm": 12.0},
        ],
        "herds": [{"id": "ewes", "class": "ewe dry", "head": 40, "outlet": "valve"}],
        "paddocks": [{"id": "top", "outlet": "valve",
                      "corners": [[250.0, 10.0], [390.0, 10.0], [390.0, 210.0], [250.0, 210.0]]}],
        "requirements": [{"outlet": "valve", "flow_lpm": 10.0}],
    }  # fmt: skip
    return read_design(changed(document, changes))


def flow_at(design: Design, outlet_id: str) -> float:
    analysis = Analysis(design, together_only=True)
    return analysis.answer(next(one for one in analysis.fed_outlets if one.id == outlet_id)).judged_flow_m3s


def nearest(positions: list[Position], east_m: float, north_m: float) -> Position:
    return min(positions, key=lambda one: math.dist(one.spot, (east_m, north_m)))


@examples(60)
@given(
    slopes=st.tuples(st.floats(-0.3, 0.3), st.floats(-0.3, 0.3)),
    spots=st.lists(st.tuples(st.floats(0, 500), st.floats(0, 500)), min_size=1, max_size=20),
)
def test_on_even_ground_every_height_between_known_ones_is_exact(
    slopes: tuple[float, float], spots: list[tuple[float, float]]
) -> None:
    corners = [(0.0, 0.0), (500.0, 0.0), (0.0, 500.0), (500.0, 500.0), (170.0, 320.0)]
    document = write_design(field())
    document["places"] += [
        {"id": f"known-{number}", "east_m": east, "north_m": north,
         "ground_m": 120.0 + slopes[0] * east + slopes[1] * north}
        for number, (east, north) in enumerate(corners)
    ]  # fmt: skip
    for each in document["places"]:
        each["ground_m"] = 120.0 + slopes[0] * each["east_m"] + slopes[1] * each["north_m"]
    ground = KnownGround(read_design(document))
    found = ground.at(np.array(spots))
    assert found == pytest.approx([120.0 + slopes[0] * east + slopes[1] * north for east, north in spots], abs=1e-6)


def test_beyond_the_known_heights_nothing_is_said_and_two_of_them_say_nothing_between() -> None:
    ground = KnownGround(field())
    assert np.isnan(ground.at(np.array([[900.0, 0.0], [-5.0, 0.0]]))).all()
    assert ground.off_m(np.array([[203.0, 4.0]])) == pytest.approx([5.0])
    row = write_design(field())
    row["places"] = [one for one in row["places"] if one["north_m"] == 0.0]
    row |= {"outlets": row["outlets"][:1], "lines": row["lines"][:2]}
    alone = KnownGround(read_design(row))
    assert alone.known([(0.0, 0.0), (100.0, 0.0), (200.0, 0.0)]) == [(0.0, 0.0), (200.0, 0.0)]


def test_points_of_a_line_are_known_ground() -> None:
    design = field(**{"lines.1.points": [[0.0, 112.0], [50.04, 99.0], [200.16, 104.0]]})
    assert KnownGround(design).at(np.array([[250.0, 0.0]])) == pytest.approx([99.0])


def test_along_its_own_line_a_trough_gives_what_a_shorter_line_written_by_hand_gives() -> None:
    design = field()
    found = along_line(design, "valve", "leg")
    one = nearest(found, 300.0, 0.0)
    share = (one.spot[0] - 200.0) / 200.0
    by_hand = field(**{
        "places.2": place("end", one.spot[0], 0.0), "lines.1.length_m": 200.16 * share,
    })  # fmt: skip
    assert one.flow_m3s == pytest.approx(flow_at(by_hand, "valve"), rel=1e-3)
    assert one.ground_m == pytest.approx(fall(one.spot[0], 0.0), abs=0.01)
    less_m = 200.16 * (1.0 - share)
    assert one.more_m == pytest.approx(-less_m, abs=0.02)
    metre = (pipes()[PIPE].price_per_m or 0.0) + 4.0  # and its trench, at the typical price
    assert one.cost == pytest.approx(-metre * less_m, abs=0.2)
    assert one.design.vessels[1].place == next(out.place for out in one.design.outlets if out.id == "valve")


def test_along_another_line_its_own_pipe_is_not_laid() -> None:
    found = along_line(field(), "valve", "branch")
    one = nearest(found, 200.0, -75.0)
    by_hand = write_design(field())
    by_hand["lines"] = [
        by_hand["lines"][0],
        {"id": "half", "from": "mid", "to": "here", "product": BRANCH, "length_m": -one.spot[1]},
        {"id": "rest", "from": "here", "to": "tap", "product": BRANCH, "length_m": 150.0 + one.spot[1]},
    ]
    by_hand["places"].append({"id": "here", "east_m": 200.0, "north_m": one.spot[1], "ground_m": one.ground_m})
    by_hand["outlets"][0]["place"] = by_hand["vessels"][1]["place"] = "here"
    assert one.flow_m3s == pytest.approx(flow_at(read_design(by_hand), "valve"), rel=1e-3)
    assert one.more_m == pytest.approx(-200.16, abs=0.02)


def test_in_a_paddock_a_straight_pipe_leads_to_it_from_the_nearest_line() -> None:
    design = field()
    found = in_paddock(design, "valve", "top")
    one = nearest(found, 320.0, 110.0)
    east, north = one.spot
    ground = fall(east, north)
    by_hand = write_design(design)
    foot = {"id": "foot", "east_m": east, "north_m": 0.0, "ground_m": fall(east, 0.0)}
    here = {"id": "here", "east_m": east, "north_m": north, "ground_m": ground}
    by_hand["places"] += [foot, here]
    long_m = math.hypot(north, fall(east, 0.0) - ground)
    by_hand["lines"][1] |= {"to": "foot", "length_m": 200.16 * (east - 200.0) / 200.0}
    by_hand["lines"].append({"id": "spur", "from": "foot", "to": "valve", "product": PIPE, "length_m": long_m})
    by_hand["outlets"][0]["place"] = by_hand["vessels"][1]["place"] = "here"
    assert one.flow_m3s == pytest.approx(flow_at(read_design(by_hand), "valve"), rel=1e-3)
    assert one.ground_m == pytest.approx(ground, abs=0.01)
    assert one.more_m == pytest.approx(long_m - (400.0 - east) * 200.16 / 200.0, abs=0.05)
    assert one.walk_m == pytest.approx(max(math.dist(one.spot, corner) for corner in ((250, 10), (390, 10), (390, 210),
                                                                                      (250, 210))))  # fmt: skip
    (paddock,) = one.design.paddocks
    assert paddock.farthest_m == pytest.approx(one.walk_m, abs=0.1)


def test_the_best_comes_first_what_fails_last_and_all_that_is_said_holds_of_the_plan() -> None:
    design = field(**{"paddocks.0.corners": [[150.0, 10.0], [390.0, 10.0], [390.0, 210.0], [150.0, 210.0]]})
    found = in_paddock(design, "valve", "top")
    assert found == sorted(found, key=lambda one: one.order)
    for one in found:
        assert one.flow_m3s == pytest.approx(flow_at(one.design, "valve"), rel=1e-9)
        assert one.works == ((one.flow_m3s or 0.0) >= 0.999 * 10.0 / 6e4 and not one.short and not one.outside
                             and (one.walk_m or 0.0) <= 400.0)  # fmt: skip
    assert {one.works for one in found} == {True}
    greedy = field(**{"requirements.0.flow_lpm": 90.0})
    assert {one.works for one in in_paddock(greedy, "valve", "top")} == {False}


def test_who_gets_too_little_there_and_did_not_before_is_named() -> None:
    level = {"places.2.ground_m": 112.0}  # the leg runs level, so that the valve gets more the nearer it stands
    now = flow_at(field(**level), "tap") * 6e4
    wants = field(**level, **{"requirements.1": {"outlet": "tap", "flow_lpm": now * 0.995}})
    assert as_it_is(wants, "valve").short == ()
    nearer = nearest(along_line(wants, "valve", "leg"), 220.0, 0.0)  # it draws more, so less is left
    assert (nearer.flow_m3s or 0.0) > flow_at(wants, "valve")
    assert nearer.short == ("tap",)
    assert not nearer.works
    before = field(**level, **{"requirements.1": {"outlet": "tap", "flow_lpm": now * 1.5}})  # it lacks water already
    assert nearest(along_line(before, "valve", "leg"), 220.0, 0.0).short == ()


def test_a_trough_that_leaves_its_paddock_is_told_and_one_that_never_stood_in_it_is_not() -> None:
    stood = field(**{"paddocks.0.corners": [[350.0, -60.0], [450.0, -60.0], [450.0, 60.0], [350.0, 60.0]]})
    found = along_line(stood, "valve", "leg")
    assert nearest(found, 250.0, 0.0).outside == ("top",)
    assert nearest(found, 380.0, 0.0).outside == ()
    assert all(one.outside == () for one in along_line(field(), "valve", "leg"))  # "top" begins 10 m north of it


def test_a_herd_is_not_to_walk_farther_than_its_class_but_as_far_as_it_does() -> None:
    wide = [[0.0, 10.0], [390.0, 10.0], [390.0, 299.0], [0.0, 299.0]]
    assert limit_m(field(), "valve", None) == 400.0
    found = in_paddock(field(**{"paddocks.0.corners": wide}), "valve", "top")
    now = as_it_is(field(**{"paddocks.0.corners": wide}), "valve").walk_m or 0.0
    assert now > 400.0
    for one in found:
        assert one.works == ((one.walk_m or 0.0) <= now + 1e-9 and not one.outside and not one.short
                             and (one.flow_m3s or 0.0) >= 0.999 * 10.0 / 6e4)  # fmt: skip


@examples(60)
@given(
    corners=st.lists(st.tuples(st.floats(-200, 200), st.floats(-200, 200)), min_size=3, max_size=8, unique=True),
    spot=st.tuples(st.floats(-300, 300), st.floats(-300, 300)),
    seed=st.integers(0, 2**32 - 1),
)
def test_no_point_of_a_paddock_is_farther_than_is_said(
    corners: list[tuple[float, float]], spot: tuple[float, float], seed: int
) -> None:
    paddock = tamsel_ridge().paddocks[0].model_copy(update={"corners": [list(corner) for corner in corners]})
    drawn = np.random.default_rng(seed).uniform(-200.0, 200.0, (200, 2))
    within = [each for each in drawn.tolist() if inside(corners, (each[0], each[1]))]
    most = farthest_m(paddock, spot)
    assert all(math.dist(each, spot) <= most + 1e-9 for each in within)
    assert any(math.isclose(math.dist(corner, spot), most) for corner in corners)
    assert all(stands_in(paddock, (each[0], each[1])) for each in within)


def test_a_paddock_with_a_bay_does_not_hold_what_lies_in_the_bay() -> None:
    bay = [(0.0, 0.0), (100.0, 0.0), (100.0, 100.0), (50.0, 20.0), (0.0, 100.0)]
    assert inside(bay, (50.0, 10.0))
    assert not inside(bay, (50.0, 60.0))
    assert not inside(bay, (-1.0, 50.0))


# a trough at a junction that others use, a line drawn from the trough, and figures that name the line that goes
def test_awkward_plans_keep_hanging_together() -> None:
    turned = field(**{"lines.1.from": "valve", "lines.1.to": "mid"})
    straight = nearest(along_line(field(), "valve", "leg"), 300.0, 0.0)
    other = nearest(along_line(turned, "valve", "leg"), 300.0, 0.0)
    assert other.flow_m3s == pytest.approx(straight.flow_m3s or 0.0, rel=1e-3)
    shared = field(**{"outlets.1.place": "mid", "lines.2.to": "side"})
    assert all(abs(one.more_m) < 0.02 for one in along_line(shared, "tap", "main"))  # nothing is its own
    last = field(**{"lines.1.to": "end"})  # the valve draws from the junction at its place, where nothing else does
    assert nearest(along_line(last, "valve", "leg"), 300.0, 0.0).more_m == pytest.approx(straight.more_m, abs=0.02)
    named = field(**{
        "sizing": {"keep": ["leg"]}, "distances": [{"id": "posts", "line": "leg", "kind": "tape", "over_m": 200.0}],
        "scenarios": [{"id": "day", "shut": ["leg"]}, {"id": "other", "open": ["leg"]}],
        "events": [{"id": "hose", "kind": "split", "where": "leg", "at_s": 60.0, "at_m": 10.0}],
    })  # fmt: skip
    moved = nearest(along_line(named, "valve", "branch"), 200.0, -75.0).design
    assert all(line.id != "leg" for line in moved.lines)


def test_a_pipe_is_made_longer_where_its_end_is_nearest() -> None:
    beyond = field(**{"paddocks.0.corners": [[395.0, 5.0], [399.9, 5.0], [399.9, 250.0], [395.0, 250.0]]})
    wide = field(**{"places.5": place("far", 700.0, 300.0),
                    "paddocks.0.corners": [[420.0, 5.0], [500.0, 5.0], [500.0, 60.0], [420.0, 60.0]]})  # fmt: skip
    assert in_paddock(beyond, "valve", "top")
    for one in in_paddock(wide, "valve", "top"):
        assert one.more_m == pytest.approx(math.dist(one.spot, (400.0, 0.0)), rel=0.01)
        assert {line.id for line in one.design.lines} > {"main", "leg", "branch"}


def test_no_second_line_begins_at_a_source_under_pressure_or_at_another_outlet() -> None:
    mains = write_design(field())
    mains["pressure_sources"] = [{"id": "tap-in", "kind": "mains", "place": "hill", "static_kpa": 300.0,
                                  "timings": [{"volume_l": 20.0, "time_s": 40.0}]}]  # fmt: skip
    mains["vessels"] = mains["vessels"][1:]
    mains["lines"][0]["from"] = "tap-in"
    mains["paddocks"][0]["corners"] = [[0.0, 5.0], [30.0, 5.0], [30.0, 40.0], [0.0, 40.0]]
    found = in_paddock(read_design(mains), "valve", "top")
    assert all(sum(line.from_ == "tap-in" for line in one.design.lines) == 1 for one in found)
    assert all(one.flow_m3s for one in found)
    aside = field(**{"paddocks.0.corners": [[190.0, -160.0], [230.0, -160.0], [230.0, -152.0], [190.0, -152.0]],
                     "places.6": place("south", 300.0, -300.0), "places.7": place("so", 100.0, -300.0)})  # fmt: skip
    for one in in_paddock(aside, "valve", "top"):
        assert all(line.from_ != "tap" for line in one.design.lines)


@pytest.mark.parametrize(("ask", "path", "allowed"), [
    (lambda: along_line(field(), "valve", "nowhere"), "/along", "the id of a line"),
    (lambda: along_line(field(), "nobody", "leg"), "/part", "the id of an outlet"),
    (lambda: in_paddock(field(), "valve", "nowhere"), "/paddock", "the id of a paddock"),
    (lambda: in_paddock(field(**{"paddocks.0.corners": []}), "valve", "top"), "/paddock",
     "a paddock whose corners are on the plan"),
    (lambda: in_paddock(field(**{"paddocks.0.corners": [[900.0, 0.0], [950.0, 0.0], [950.0, 90.0]]}), "valve", "top"),
     "/paddock", "a paddock between heights that are known"),
    (lambda: on_hill(field(), "nobody", 50.0), "/part", "the id of a vessel"),
    (lambda: along_line(field(**{"lines.2.from": "valve"}), "valve", "leg"), "/part",
     "an outlet at which one line ends"),
    (lambda: along_line(tamsel_ridge(), "low-valve", "mat-tube"), "/along",
     "a line that hangs together with the one that feeds it now, no tank between"),
    (lambda: along_line(tamsel_ridge(), "low-valve", "weir-feed"), "/along",
     "a line that hangs together with the one that feeds it now, no tank between"),
])  # fmt: skip
def test_what_cannot_be_tried_is_refused_with_what_can(ask: Any, path: str, allowed: str) -> None:
    with pytest.raises(DesignFaults) as refused:
        ask()
    (fault,) = refused.value.faults
    assert (fault.path, fault.allowed) == (path, allowed)


def test_a_tank_needs_the_stand_below_which_somebody_lacks_and_none_where_nobody_does() -> None:
    wants = field(**{"requirements.0.flow_lpm": 32.0})
    needed = least_stand_m(wants, "tank", set()) or 0.0
    assert 0.1 < needed < 10.0

    def gets(stand_m: float) -> float:
        return flow_at(with_part(wants, "vessels", "tank", {"stand_m": stand_m}), "valve") * 6e4

    assert gets(needed) >= 32.0 * 0.999
    assert gets(needed - 0.05) < 32.0 * 0.999
    assert least_stand_m(field(), "tank", set()) == 0.0
    assert least_stand_m(field(**{"requirements.0.flow_lpm": 300.0}), "tank", set()) is None
    assert least_stand_m(field(**{"requirements.0.flow_lpm": 300.0}), "tank", {"valve"}) == 0.0
    curve = stands_needed(wants, "tank")
    known = [one.stand_m for one in curve if one.stand_m is not None]
    assert known == sorted(known)
    assert next(one.stand_m for one in curve if one.share == 1.0) == pytest.approx(needed)


def test_higher_ground_saves_stand_and_every_position_gives_what_is_wanted() -> None:
    wants = field(**{"requirements.0.flow_lpm": 32.0, "places.4": place("north", -100.0, 300.0),
                     "places.6": place("south", -100.0, -300.0), "places.7": place("west", -300.0, 0.0)})  # fmt: skip
    found = on_hill(wants, "tank", 80.0, for_all=True)
    assert {one.stand_m for one in on_hill(wants, "tank", 80.0)} == {0.0}  # it lacks water now, and is not asked for
    here = nearest(found, 0.0, 0.0)
    assert here.more_m == 0.0
    up, down = nearest(found, -40.0, 0.0), nearest(found, 40.0, 0.0)
    assert up.ground_m - here.ground_m == pytest.approx(1.6, abs=0.01)
    # 40 m more pipe take less than the 1.6 m that it stands higher, so less stand does
    assert (up.stand_m or 0.0) < (here.stand_m or 0.0) < (down.stand_m or 0.0)
    assert up.more_m == pytest.approx(40.0, abs=0.5)
    for one in found:
        assert one.works == (flow_at(one.design, "valve") * 6e4 >= 32.0 * 0.999)
    metre = pipes()[PIPE].price_per_m or 0.0
    rise = (up.stand_m or 0.0) * 80.0 * 2.0  # 80 dollars a metre for each of two tonnes
    assert up.cost == pytest.approx(metre * up.more_m + rise, rel=0.02)


def test_a_tank_that_its_spring_no_longer_reaches_is_no_place_for_it() -> None:
    fed = write_design(field())
    fed["places"].append({"id": "spring", "east_m": -60.0, "north_m": 30.0, "ground_m": 121.5})
    fed["places"] += [place("west", -300.0, -200.0), place("wn", -300.0, 300.0), place("s", 100.0, -300.0)]
    fed["vessels"].append({"id": "box", "place": "spring", "role": "chamber", "shape": BOX, "level_m": 0.5})
    fed["lines"].append({"id": "feed", "from": "box", "to": "tank", "product": BRANCH, "length_m": 68.0})
    fed["inflows"] = [{"id": "rises", "kind": "spring", "fills": "box", "claimed_lpm": 3.0}]
    found = on_hill(read_design(fed), "tank", 80.0)
    above = [one for one in found if one.ground_m + (one.stand_m or 0.0) > 122.5]  # over the water of the box
    assert above
    assert not any(one.works for one in above)
    assert nearest(found, 0.0, 0.0).works


def test_outlets_of_a_tank_are_those_that_its_pipes_reach_other_tanks_left_aside() -> None:
    design = tamsel_ridge()
    assert fed_by(design, "butt") == {"mat-valve"}
    assert fed_by(design, "chambers") == {"low-valve", "ewe-valve", "goose-valve", "hop-drip", "pond-valve"}
    assert fed_by(design, "weir-box") == set()


def test_the_report_s_patch_puts_the_part_there_and_tells_what_was_left_out() -> None:
    design = tamsel_ridge()
    found = in_paddock(design, "ewe-valve", "fold-field")
    left_out = without_ground(design, "fold-field")
    report = outlet_siting_report(design, "ewe-valve", found, left_out)
    base = read_design(report.document)
    for told, one in zip(report.positions[:5], found[:5], strict=True):
        assert patched(base, told.patch) == one.design
    assert report.left_out == left_out > 0
    assert report.now is not None
    assert report.now.more_m == 0.0
    assert report.walk_limit_m == 400.0
    hill = tank_siting_report(
        design, "chambers", on_hill(design, "chambers", 30.0), stands_needed(design, "chambers"),
        tank.without_ground(design, "chambers", 30.0),
    )  # fmt: skip
    assert [one.share for one in hill.stands] == list(tank.SHARES)
    assert patched(read_design(hill.document), hill.positions[0].patch).name == design.name
