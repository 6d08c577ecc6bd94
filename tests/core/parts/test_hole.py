"""Holes by the measured stem: the bit, room in the wall, height; what is not measured is asked for, never guessed."""

from typing import Any

import pytest
from flask.testing import FlaskClient
from hypothesis import given
from hypothesis import strategies as st

from examples import one_line
from leadsman.core.base.wording import plain
from leadsman.core.design.file import read_design, write_design
from leadsman.core.parts.hole import BITS_MM, Hole, bit_for, bits, holes
from leadsman.demo import tamsel_ridge
from properties import examples


def of_tank(**changes: Any) -> Hole:
    """The hole of a tank's outlet into 32 mm pipe, a bulkhead of one inch."""
    document = one_line(**{"vessels.0.outlet_m": 0.1, "lines.0.inline": [], **changes})
    return next(hole for hole in holes(read_design(document)) if hole.vessel.id == "tank")


def stem(across_mm: float, long_mm: float | None = None, product: str = "bulkhead-npt-1") -> list[dict[str, Any]]:
    return [{"product": product, "across_mm": across_mm, **({"long_mm": long_mm} if long_mm else {})}]


@pytest.mark.parametrize(("across_mm", "hole_mm"), [
    # stems that were met in practice with the holes that took them: ours may be a little wider, never narrower
    (20.9, 22.0), (24.2, 25.0), (18.2, 19.0), (10.1, 11.0), (9.3, 10.0),
])  # fmt: skip
def test_the_bit_is_the_next_one_over_the_measured_stem(across_mm: float, hole_mm: float) -> None:
    assert bit_for(across_mm) == pytest.approx(hole_mm)


@examples(200)
@given(st.floats(3.0, 150.0))
def test_a_bit_leaves_room_and_none_that_is_smaller_does(across_mm: float) -> None:
    bit = bit_for(across_mm)
    assert bit is not None
    assert bit - across_mm >= 0.5
    assert not [one for one in BITS_MM if across_mm + 1.0 <= one < bit]


def test_without_a_measure_no_bit_is_told() -> None:
    hole = of_tank()
    assert hole.bit_mm is None
    assert [plain(one) for one in hole.troubles] == ["measure the stem"]
    assert all(one.bit_mm is None for one in holes(tamsel_ridge()))


@pytest.mark.parametrize(("changes", "says"), [
    ({"stems": stem(33.4)}, []),
    ({"stems": stem(33.4, 40.0), "vessels.0.wall_mm": 6.0}, []),
    ({"stems": stem(33.4, 17.0), "vessels.0.wall_mm": 6.0}, ["does not reach through a wall of 6.0 mm"]),
    ({"stems": stem(33.4, 18.0), "vessels.0.wall_mm": 6.0}, []),  # 6 mm of wall and 12 of gasket, washer and nut
    ({"stems": stem(33.4), "vessels.0.outlet_m": 1.99}, ["of wall is left between the hole and the rim"]),
    ({"stems": stem(33.4), "vessels.0.outlet_m": 1.95}, []),
    ({"stems": stem(33.4), "vessels.0.outlet_m": 0.01}, ["or it cuts into it"]),
    ({"stems": stem(33.4), "vessels.0.outlet_m": 0.02}, []),
    ({"stems": stem(160.0), "vessels.0.outlet_m": 0.3}, ["no usual bit is so large"]),
    ({"stems": stem(128.0), "vessels.0.outlet_m": 0.3}, ["wider than the stem"]),
])  # fmt: skip
def test_what_is_wrong_with_a_hole_is_said_and_nothing_else(changes: dict[str, Any], says: list[str]) -> None:
    told = [plain(one) for one in of_tank(**changes).troubles]
    assert len(told) == len(says)
    assert all(said in one for said, one in zip(says, told, strict=True))


def test_a_valve_s_hole_stands_where_the_plan_has_the_valve() -> None:
    valve = {"outlets.0.valve.product": "full-flow-0.75", "outlets.0.height_m": 0.5}
    (hole,) = (one for one in holes(read_design(one_line(**valve))) if one.vessel.id == "trough")
    assert hole.at_m == pytest.approx(0.5)
    assert hole.thread_mm == pytest.approx(26.67)  # ASME B1.20.1, 3/4 in
    high = {**valve, "outlets.0.height_m": 0.7, "stems": stem(26.4, product="full-flow-0.75")}
    (above,) = (one for one in holes(read_design(one_line(**high))) if one.vessel.id == "trough")
    assert [plain(one) for one in above.troubles] == ["the hole lies above the rim of trough, at 0.60 m"]
    hung = {**valve, "outlets.0.valve.product": "over-side-0.75"}  # hangs over the rim: no hole
    assert not [one for one in holes(read_design(one_line(**hung))) if one.vessel.id == "trough"]


def test_bits_to_buy_count_the_holes_that_each_drills() -> None:
    design = read_design({**write_design(tamsel_ridge()), "stems": stem(21.1, product="bulkhead-npt-0.75")})
    found = holes(design)
    assert bits(found) == [(22.0, 2)]  # both ends of the link between mat tank and benches


@pytest.mark.parametrize(("stems", "path"), [
    ([{"product": "bulkhead-npt-1", "across_mm": 0.0}], "/document/stems/0/across_mm"),
    ([{"product": "bulkhead-npt-1"}], "/document/stems/0/across_mm"),
    ([{"product": "bulkhead-npt-1", "across_mm": 30.0, "long_mm": -2.0}], "/document/stems/0/long_mm"),
])  # fmt: skip
def test_a_stem_that_cannot_be_is_refused_with_its_path(client: FlaskClient, stems: Any, path: str) -> None:
    answer = client.post("/api/analyses/parts", json={"document": {**write_design(tamsel_ridge()), "stems": stems}})
    assert answer.status_code == 422
    assert [fault["path"] for fault in answer.get_json()["faults"]] == [path]


def test_a_tube_passes_in_a_grommet_whose_groove_is_measured() -> None:
    mini = {"outlets.0.valve.product": "mini-tube", "outlets.0.height_m": 0.5}
    (hole,) = (one for one in holes(read_design(one_line(**mini))) if one.vessel.id == "trough")
    assert hole.by_grommet
    assert [plain(one) for one in hole.troubles] == ["measure the groove of its rubber grommet"]
    measured = {**mini, "stems": stem(9.3, product="mini-tube")}
    (hole,) = (one for one in holes(read_design(one_line(**measured))) if one.vessel.id == "trough")
    assert hole.bit_mm == 10.0
    assert not hole.unfit


@pytest.mark.parametrize(("top_m", "leans"), [(0.92, True), (0.88, False)])  # 5.7 and 3.8 degrees over 0.6 m
def test_a_leaning_wall_is_told(top_m: float, leans: bool) -> None:
    tub = {"kind": "frustum", "bottom_diameter_m": 0.8, "top_diameter_m": top_m, "height_m": 0.6}
    valve = {"outlets.0.valve.product": "full-flow-0.75", "outlets.0.height_m": 0.5, "vessels.1.shape": tub}
    (hole,) = (one for one in holes(read_design(one_line(**valve))) if one.vessel.id == "trough")
    assert any("leans" in plain(one) for one in hole.troubles) == leans
