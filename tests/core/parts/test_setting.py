"""Floats set out: heights by hand, room by geometry worked out another way, and what is found wrong."""

import math
from typing import Any

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from examples import one_line
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.errors import OutOfRange
from leadsman.core.base.wording import plain
from leadsman.core.design import BoxShape, FrustumShape, LyingCylinderShape, StageVolumeShape
from leadsman.core.design.file import read_design
from leadsman.core.findings.registry import Finding, judge
from leadsman.core.parts.float_travel import Arm, between_m, travel_of
from leadsman.core.parts.section import section_of
from leadsman.core.parts.setting import SetFloat, Setting, settings
from properties import examples

MOUNT = {"arm_mm": 300.0, "float_mm": 100.0, "pin_mm": 50.0}


def bench(**changes: Any) -> Analysis:
    """A trough 1.5 × 0.6 × 0.6 m, its valve 0.45 m up, its float measured."""
    trough = {
        "vessels.1.shape": {"kind": "box", "length_m": 1.5, "width_m": 0.6, "height_m": 0.6},
        "vessels.1.overflow_m": 0.55, "outlets.0.height_m": 0.45, "outlets.0.mount": MOUNT,
        "outlets.0.valve": {"kv_m3h": 2.0, "closes_at_m": 0.45, "band_m": 0.06},
    }  # fmt: skip
    return Analysis(read_design(one_line(**{**trough, **changes})))


def set_out(**changes: Any) -> tuple[Setting, SetFloat]:
    (setting,) = settings(bench(**changes))
    return setting, setting.floats[0]


def found(code: str, **changes: Any) -> list[Finding]:
    return judge(bench(**changes), codes=[code])


def rooms(one: SetFloat) -> dict[str, float]:
    return {room.to: room.room_m for room in one.rooms}


def test_a_straight_arm_closes_with_its_float_half_sunk_at_the_hole_s_own_height() -> None:
    _, one = set_out()
    assert one.is_known
    assert one.sunk_m == pytest.approx(0.05)  # measured float: half of it
    assert one.level_hole_m == pytest.approx(0.45)
    assert one.hole_m == pytest.approx(0.45)
    assert one.bend_rad == pytest.approx(0.0)
    assert plain(one.adjust[0]) == "Its arm points level when it shuts: leave it straight."
    assert one.travel is not None
    assert one.travel.shut == pytest.approx((0.05 + 0.3, 0.45))
    # wide open 60 mm lower: the arm is the long side of a right triangle
    assert one.travel.open == pytest.approx((0.05 + math.sqrt(0.3**2 - 0.06**2), 0.39))


def test_the_float_of_a_valve_that_is_bought_sinks_as_its_arms_and_seat_say() -> None:
    valve = {"kv_m3h": 1.4, "closes_at_m": 0.45, "band_m": 0.06, "product": "low-pressure-0.5"}
    analysis = bench(**{"outlets.0.valve": valve, "outlets.0.mount": {}})
    (setting,) = settings(analysis)
    one = setting.floats[0]
    head = analysis.answer(one.outlet).static_head_m
    assert head is not None
    over_m = head - analysis.model.layout.outlet_height_m(one.outlet)
    # by hand: force at the float 8 mm seat, arms 22 and 240 mm; float 140 mm across, 0.26 kg
    density = analysis.state.water.density_kgm3
    newton = density * 9.80665 * over_m * math.pi / 4.0 * 0.008**2 * 22.0 / 240.0
    volume = (newton / 9.80665 + 0.26) / density
    assert one.sunk_m is not None
    assert math.pi * one.sunk_m**2 * (3.0 * 0.07 - one.sunk_m) / 3.0 == pytest.approx(volume, rel=1e-6)
    assert "each millimetre of screw moves the float about 11" in plain(one.adjust[-1])


def test_a_hole_higher_than_the_float_asks_for_a_bend_down_by_as_much() -> None:
    _, one = set_out(**{"outlets.0.height_m": 0.53})
    assert (
        plain(one.adjust[0]) == "Bend the arm down until the middle of the float is 80 mm under its pin when it shuts."
    )
    assert one.bend_rad == pytest.approx(-math.asin(0.08 / 0.3))
    _, low = set_out(**{"outlets.0.height_m": 0.40})
    assert "Bend the arm up until the middle of the float is 50 mm over" in plain(low.adjust[0])


@pytest.mark.parametrize(("changes", "to", "room_mm"), [
    # measured with a rule on paper: pin 50 + arm 300 + half a float of 100 in a trough of 1,500
    ({}, "the wall behind it", 50.0 + math.sqrt(300.0**2 - 60.0**2) - 50.0),
    ({}, "the wall beside it", 300.0 - 50.0),
    ({"outlets.0.mount": {**MOUNT, "aside_mm": 60.0}}, "the wall beside it", 10.0),
    ({"outlets.0.mount": {**MOUNT, "wall": "side"}}, "the wall before it", 600.0 - 350.0 - 50.0),
    ({"outlets.0.mount": {**MOUNT, "wall": "side", "aside_mm": 1400.0}}, "the wall beside it", 50.0),
    ({"vessels.1.inside": [{"kind": "basket", "from_wall_m": 0.45, "top_m": 0.5}]}, "the basket", 50.0),
    ({"vessels.1.inside": [{"kind": "pump", "from_wall_m": 0.2, "wide_m": 0.4, "top_m": 0.3}]}, "the pump", 40.0),
])  # fmt: skip
def test_room_around_the_float(changes: dict[str, Any], to: str, room_mm: float) -> None:
    assert rooms(set_out(**changes)[1])[to] * 1e3 == pytest.approx(room_mm, abs=0.05)


def test_two_floats_of_one_wall_keep_apart_what_their_holes_do() -> None:
    second = {
        "id": "second", "place": "low", "kind": "float_valve", "fills": "trough", "height_m": 0.45,
        "mount": {**MOUNT, "aside_mm": 400.0}, "valve": {"kv_m3h": 2.0, "closes_at_m": 0.45, "band_m": 0.06},
    }  # fmt: skip
    analysis = bench(**{"outlets.0.mount": {**MOUNT, "aside_mm": 200.0}})
    document = analysis.document.model_dump(by_alias=True, exclude_unset=True)
    outlets = [document["outlets"][0], {**second, "place": document["outlets"][0]["place"]}]
    both = read_design({**document, "outlets": outlets})
    (setting,) = settings(Analysis(both))
    first, other = setting.floats
    assert rooms(first)["the float of second"] == rooms(other)["the float of valve"] == pytest.approx(0.1)
    assert "the best of them alone brings" in plain(setting.notes[0])


@pytest.mark.parametrize(("changes", "headline"), [
    ({"outlets.0.mount": {**MOUNT, "aside_mm": 40.0}}, "touches the wall beside it"),
    ({"outlets.0.mount": {**MOUNT, "aside_mm": 69.0}}, "has little room to the wall beside it"),
    ({"outlets.0.mount": {**MOUNT, "aside_mm": 71.0}}, None),  # 20 mm are asked for
    ({"outlets.0.mount": {**MOUNT, "arm_mm": 1450.0}}, "touches the wall before it"),
    ({"vessels.1.inside": [{"kind": "basket", "from_wall_m": 0.35, "top_m": 0.5}]}, "touches the basket"),
    ({"vessels.1.inside": [{"kind": "basket", "from_wall_m": 0.35, "top_m": 0.3}]}, None),  # it is under the float
    ({"outlets.0.valve.closes_at_m": 0.1, "outlets.0.mount": {**MOUNT, "arm_mm": 340.0}}, "is too short"),
    ({"outlets.0.valve.closes_at_m": 0.1}, "is too short"),
    ({"outlets.0.height_m": 0.59, "outlets.0.mount": {**MOUNT, "arm_mm": 240.0}}, "is too high"),
    ({"outlets.0.height_m": 0.57, "outlets.0.mount": {**MOUNT, "arm_mm": 240.0}}, None),  # 30 degrees
    ({"outlets.0.mount": {"aside_mm": 1.0}}, None),  # nobody has said which float it is
])  # fmt: skip
def test_a_float_that_touches_is_found_and_its_near_miss_is_not(changes: dict[str, Any], headline: str | None) -> None:
    told = [plain(one.headline) for one in found("float-hits", **changes)]
    assert len(told) == (headline is not None)
    assert not headline or headline in told[0]


def test_the_middle_of_the_wall_is_offered_where_the_float_has_room_there() -> None:
    (finding,) = found("float-hits", **{"outlets.0.mount": {**MOUNT, "aside_mm": 40.0}})
    remedies = {plain(remedy.text): plain(remedy.effect) for remedy in finding.remedies}
    assert remedies["the valve in the middle of its wall"] == "then 250 mm is left around its float"


@pytest.mark.parametrize(("changes", "count"), [
    ({"vessels.1.cable_m": 0.44}, 1), ({"vessels.1.cable_m": 0.45}, 1), ({"vessels.1.cable_m": 0.46}, 0), ({}, 0),
    ({"vessels.1.cable_m": 0.56}, 0),  # over the overflow
    # the float is set higher later in the season
    ({"vessels.1.cable_m": 0.46, "outlets.0.valve.steps": [{"from": "2026-07-01", "closes_at_m": 0.47}]}, 1),
])  # fmt: skip
def test_a_float_over_an_open_hole_in_the_wall(changes: dict[str, Any], count: int) -> None:
    findings = found("closes-over-hole", **changes)
    assert len(findings) == count
    for finding in findings:
        assert finding.limit == changes["vessels.1.cable_m"]


@pytest.mark.parametrize(("changes", "names"), [
    # wide open again at 0.45 − 0.06
    ({"vessels.1.inside": [{"kind": "pump", "needs_m": 0.4}]}, ["the pump"]),
    ({"vessels.1.inside": [{"kind": "pump", "needs_m": 0.38}]}, []),
    ({"vessels.1.inside": [{"kind": "roots", "name": "Mint", "needs_m": 0.4}, {"kind": "skimmer", "needs_m": 0.44}]},
     ["Mint", "the skimmer"]),
    ({"vessels.1.nipples": 4, "vessels.1.nipples_m": 0.3, "vessels.1.over_nipples_m": 0.1}, ["the nipples"]),
    ({"vessels.1.nipples": 4, "vessels.1.nipples_m": 0.3, "vessels.1.over_nipples_m": 0.08}, []),
    ({"vessels.1.inside": [{"kind": "pump", "needs_m": 0.3}],
      "outlets.0.valve.steps": [{"from": "2026-07-01", "closes_at_m": 0.35}]}, ["the pump"]),
])  # fmt: skip
def test_what_needs_water_before_the_float_is_open_again(changes: dict[str, Any], names: list[str]) -> None:
    told = [plain(one.headline) for one in found("reopens-too-low", **changes)]
    assert len(told) == len(names)
    assert all(f"too late for {name} in" in one for name, one in zip(names, told, strict=True))


@pytest.mark.parametrize(("closes_m", "severities"), [
    (0.45, []), (0.49, []), (0.495, ["watch"]), (0.549, ["watch"]), (0.55, ["stop"]), (0.58, ["stop"]),
])  # fmt: skip
def test_waves_need_the_float_s_band_under_the_overflow(closes_m: float, severities: list[str]) -> None:
    findings = found("overflow-below-float", **{"outlets.0.valve.closes_at_m": closes_m})
    assert [str(finding.severity) for finding in findings] == severities


BOX = BoxShape(kind="box", length_m=2.0, width_m=0.5, height_m=0.6)
DRUM = LyingCylinderShape(kind="lying_cylinder", diameter_m=0.8, length_m=1.2)
TUB = FrustumShape(kind="frustum", bottom_diameter_m=0.8, top_diameter_m=1.2, height_m=0.4)


@examples(200)
@given(st.floats(0.02, 0.78), st.floats(0.02, 0.78))
def test_room_in_a_drum_seen_from_its_end_is_that_in_a_circle(across: float, up: float) -> None:
    from_middle = math.hypot(across - 0.4, up - 0.4)
    assume(from_middle < 0.39)
    room, _ = section_of(DRUM, "side").room_m((across, up))
    assert room == pytest.approx(0.4 - from_middle, abs=0.001)


@examples(200)
@given(st.floats(0.05, 0.75), st.floats(0.0, 0.4))
def test_room_to_a_leaning_wall_is_square_to_it(across: float, up: float) -> None:
    section = section_of(TUB, "end")
    room, _ = section.room_m((across, up))
    slope = math.atan2(0.2, 0.4)
    beside = min(across + 0.5 * up, 0.8 + 0.5 * up - across) * math.cos(slope)
    assert room == pytest.approx(min(beside, up), abs=1e-9)
    assert section.near_wall_m(up) == pytest.approx(-0.5 * up)
    assert section.far_wall_m(up) == pytest.approx(0.8 + 0.5 * up)


@pytest.mark.parametrize(("spot", "room_m", "wall"), [
    ((2.1, 0.3), -0.1, "the wall before it"), ((-0.2, 0.3), -0.2, "the wall behind it"),
    ((1.0, 0.05), 0.05, "the floor"),
])  # fmt: skip
def test_outside_of_a_vessel_there_is_no_room(spot: tuple[float, float], room_m: float, wall: str) -> None:
    room, nearest = section_of(BOX, "end").room_m(spot)
    assert room == pytest.approx(room_m)
    assert nearest == wall


def test_a_vessel_known_by_its_volumes_is_drawn_as_the_round_one_that_holds_as_much() -> None:
    shape = StageVolumeShape(kind="stage_volume", stages=[[0, 0], [0.5, 900], [1.5, 4900]])
    section = section_of(shape, "end")
    assert not section.is_known
    volume = 0.0
    for low, high in ((0.0, 0.5), (0.5, 1.5)):
        middle = (low + high) / 2.0
        across = section.far_wall_m(middle) - section.near_wall_m(middle)
        volume += math.pi / 4.0 * across**2 * (high - low)
    assert volume == pytest.approx(4.9)


@examples(200)
@given(st.floats(0.05, 1.0), st.floats(-0.9, 0.9), st.floats(0.0, 0.3))
def test_a_float_stays_on_its_arm_over_its_travel(arm_m: float, share: float, fall_m: float) -> None:
    arm = Arm(pin=(0.04, 0.5), arm_m=arm_m, float_diameter_m=0.1)
    travel = travel_of(arm, 0.5 + share * arm_m, fall_m)
    reaches = abs(share * arm_m) <= arm_m and abs(share * arm_m - fall_m) <= arm_m
    assert (travel is not None) == reaches
    for middle in travel.middles if travel else ():
        assert math.dist(middle, arm.pin) == pytest.approx(arm_m)
        assert middle[0] >= arm.pin[0]
    if travel:
        assert travel.shut[1] - travel.open[1] == pytest.approx(fall_m)
        assert between_m(travel, travel, 0.25) == pytest.approx(0.25 - 0.1)


def test_an_arm_without_length_is_refused() -> None:
    with pytest.raises(OutOfRange):
        Arm(pin=(0.0, 0.0), arm_m=float("nan"), float_diameter_m=0.1)
