"""Vessels of any shape and of the catalogue, outlets of any kind, and what goes with a trough that is deleted."""

import copy
import math
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import TypeAdapter

from examples import one_line
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.catalogue import vessels
from leadsman.core.design import Design, Vessel
from leadsman.core.design.edit import Edit, Edited, edited
from leadsman.core.design.file import write_design
from leadsman.core.design.store import shape_of
from leadsman.demo import tamsel_ridge
from properties import examples

READ = TypeAdapter[Edit](Edit)
RIDGE = write_design(tamsel_ridge())
SHAPES = ["upright_cylinder", "box", "lying_cylinder", "frustum", "stage_volume"]


def done(document: dict[str, Any], *edits: dict[str, Any]) -> Edited:
    return edited(copy.deepcopy(document), [READ.validate_python(edit) for edit in edits])


def vessel(design: Design, vessel_id: str) -> Vessel:
    return next(one for one in design.vessels if one.id == vessel_id)


def holds_m3(found: Vessel) -> float:
    return shape_of(found).volume_m3(found.shape.inside_m)


@examples(80)
@given(data=st.data(), number=st.integers(1, 4))
def test_a_vessel_given_any_shapes_in_turn_holds_as_much_and_is_as_high(data: st.DataObject, number: int) -> None:
    chosen = data.draw(st.sampled_from([one["id"] for one in RIDGE["vessels"]]))
    shapes = data.draw(st.lists(st.sampled_from(SHAPES), min_size=number, max_size=number))
    before = vessel(tamsel_ridge(), chosen)
    after = vessel(
        done(RIDGE, *({"kind": "set_shape", "vessel": chosen, "shape": shape} for shape in shapes)).design, chosen
    )
    assert after.shape.kind == shapes[-1]
    assert after.shape.inside_m == pytest.approx(before.shape.inside_m)
    assert holds_m3(after) == pytest.approx(holds_m3(before), rel=0.02)
    assert (after.level_m, after.count) == (before.level_m, before.count)


@pytest.mark.parametrize("product", sorted(vessels()))
def test_a_vessel_of_the_catalogue_has_its_shape_and_still_loads(product: str) -> None:
    sold = vessels()[product]
    after = done(RIDGE, {"kind": "set_vessel", "vessel": "low-trough", "product": sold.model_dump(exclude_none=True)})
    trough = vessel(after.design, "low-trough")
    assert trough.shape.model_dump(exclude_none=True) == sold.shape
    assert (trough.product, trough.empty_kg) == (product, sold.empty_kg)
    (valve,) = [outlet.valve for outlet in after.design.outlets if outlet.fills == "low-trough"]  # type: ignore[union-attr]
    assert valve.closes_at_m < trough.brim_m  # else it would never shut
    assert bool(after.notes) == (valve.closes_at_m != next(
        outlet.valve.closes_at_m for outlet in tamsel_ridge().outlets if outlet.fills == "low-trough"  # type: ignore[union-attr]
    ))  # fmt: skip


@pytest.mark.parametrize(
    ("thing", "kind", "fills"),
    [
        ("trough", "float_valve", True), ("drinker", "float_valve", True), ("tap", "open_end", False),
        ("drip outlet", "emitter", False), ("fixed flow", "fixed", False),
    ],
)  # fmt: skip
def test_an_outlet_of_any_kind_at_the_end_of_a_pipe_runs(thing: str, kind: str, fills: bool) -> None:
    document = one_line()
    start = document["places"][0]
    way = [(start["east_m"], start["north_m"]), (start["east_m"], start["north_m"] + 200.0)]
    after = done(document, {"kind": "lay_line", "way": way, "end": thing, "name": "New", "lower_m": 20.0})
    line = next(one for one in after.design.lines if one.id == after.made[0])
    outlet = next(one for one in after.design.outlets if one.id == line.to)
    assert (outlet.kind, outlet.fills is not None) == (kind, fills)
    assert outlet.assumed
    assert Analysis(after.design).state.outlets[outlet.id].judged_flow_m3s > 0.0


def test_a_drip_outlet_gives_its_flow_at_its_pressure_and_by_the_root_at_another() -> None:
    document = one_line()
    start = document["places"][0]
    way = [(start["east_m"], start["north_m"]), (start["east_m"], start["north_m"] + 20.0)]
    after = done(document, {"kind": "lay_line", "way": way, "end": "drip outlet", "name": "", "lower_m": 20.0})
    line = next(one for one in after.design.lines if one.id == after.made[0])
    answer = Analysis(after.design).state.outlets[line.to]
    end = next(place for place in after.design.places if place.id == after.design.outlets[-1].place)
    assert answer.head_m is not None
    pressure_kpa = 9.807 * (answer.head_m - end.ground_m)
    assert pressure_kpa > 120.0  # not that of the product, which would prove nothing
    assert answer.judged_flow_m3s * 60_000.0 == pytest.approx(4.0 * math.sqrt(pressure_kpa / 100.0), rel=0.01)


def test_a_trough_is_deleted_with_its_pipe_and_the_tee_that_is_left() -> None:
    on_line = {"kind": "add_thing", "spot": (0, 0), "thing": "junction", "name": "Tee", "on_line_m": 5.0}
    leg = next(line for line in RIDGE["lines"] if line["id"] == "head-main")
    places = {place["id"]: place for place in RIDGE["places"]}
    at = {one["id"]: one["place"] for kind in ("vessels", "outlets") for one in RIDGE[kind]}
    ends = [places[at.get(leg[key], leg[key])] for key in ("from", "to")]
    corners = [tuple(corner) for corner in leg.get("way") or []]
    way = [(ends[0]["east_m"], ends[0]["north_m"]), *corners, (ends[1]["east_m"], ends[1]["north_m"])]
    middle = tuple((a + b) / 2.0 for a, b in zip(way[0], way[1], strict=True))
    teed = write_design(done(RIDGE, on_line | {"spot": middle}).design)
    branch = [middle, (middle[0] + 60.0, middle[1] + 40.0)]
    made = done(teed, {"kind": "lay_line", "way": branch, "end": "trough", "name": "New trough", "lower_m": 1.0})
    outlet = next(one for one in made.design.lines if one.id == made.made[0]).to
    alone = done(write_design(made.design), {"kind": "delete_parts", "parts": [outlet]}).design
    assert made.made[0] in {line.id for line in alone.lines}  # the pipe stays, for another trough
    after = done(write_design(made.design), {"kind": "delete_parts", "parts": [outlet], "with_pipes": True}).design
    for kind in ("places", "vessels", "outlets", "lines"):
        assert {one.id for one in getattr(after, kind)} == {one["id"] for one in RIDGE[kind]}, kind
    length = next(line.length_m for line in after.lines if line.id == "head-main")
    assert length == pytest.approx(leg["length_m"])


def test_the_last_trough_goes_with_its_pipe_and_the_source_stays() -> None:
    document = {key: value for key, value in one_line().items() if key != "herds"}
    before = {line["id"] for line in document["lines"]}
    source = document["vessels"][0]["id"]
    outlet = document["outlets"][0]["id"]
    after = done(document, {"kind": "delete_parts", "parts": [outlet], "with_pipes": True}).design
    assert source in {one.id for one in after.vessels}
    assert not before & {line.id for line in after.lines}
