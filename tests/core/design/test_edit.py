"""Edits of a design: what each does, and that whatever is done in whatever order leaves a design that loads."""

import copy
import math
from contextlib import suppress
from typing import Any, get_args

import pytest
from hypothesis import HealthCheck, given
from hypothesis import strategies as st
from pydantic import TypeAdapter

from examples import one_line, worked_example
from leadsman.core.base.fault import DesignFaults, Fault
from leadsman.core.catalogue import pipes, vessels
from leadsman.core.design import Design
from leadsman.core.design.edit import Edit, Edited, edited
from leadsman.core.design.edit.model import Thing
from leadsman.core.design.edit.parts import all_parts
from leadsman.core.design.file import read_design, write_design
from leadsman.core.design.start import new_design
from leadsman.demo import tamsel_ridge
from properties import examples

READ = TypeAdapter[Edit](Edit)
RIDGE = write_design(tamsel_ridge())


def done(document: dict[str, Any], *edits: dict[str, Any]) -> Edited:
    return edited(copy.deepcopy(document), [READ.validate_python(edit) for edit in edits])


def found(design: Design, part_id: str) -> Any:
    listed = (design.places, design.vessels, design.lines, design.outlets, design.paddocks, design.distances)
    return next(part for kind in listed for part in kind if part.id == part_id)


def ids_of(document: dict[str, Any]) -> set[str]:
    """The ids of all parts of a document."""
    return {found["id"] for _, found in all_parts(document)}


def last(design: Design, kind: str, back: int = 1) -> Any:
    return getattr(design, kind)[-back]


def ids(design: Design, kind: str) -> list[str]:
    return [part.id for part in getattr(design, kind)]


def test_a_line_is_laid_from_a_tank_along_its_corners_and_as_long_as_the_slope() -> None:
    document = one_line()
    start = document["places"][0]
    east, north = start["east_m"], start["north_m"]
    way = [(east, north), (east + 30.0, north + 40.0), (east + 30.0, north + 140.0)]
    after = done(document, {"kind": "lay_line", "way": way, "end": "trough", "name": "New", "lower_m": 20.0})
    line = found(after.design, after.made[0])
    assert line.from_ == document["vessels"][0]["id"]
    assert line.way == [[east + 30.0, north + 40.0]]
    assert line.length_m == pytest.approx(math.hypot(150.0, 20.0), abs=0.05)
    valve = found(after.design, line.to)
    assert found(after.design, valve.fills).role == "trough"
    assert found(after.design, valve.place).ground_m == pytest.approx(start["ground_m"] - 20.0)


def test_a_line_begins_and_ends_on_what_is_there_and_nowhere_else() -> None:
    document = worked_example()
    at = {place["id"]: (place["east_m"], place["north_m"]) for place in document["places"]}
    to_fork = done(document, {"kind": "lay_line", "way": [at["knoll"], at["fork"]]})
    assert found(to_fork.design, to_fork.made[0]).to == "fork"
    middle = tuple((a + b) / 2.0 for a, b in zip(at["knoll"], at["fork"], strict=True))
    tee = done(document, {"kind": "lay_line", "way": [middle, at["nursery"]]})
    new = found(tee.design, tee.made[0])
    assert found(tee.design, new.from_).name == "Tee"
    assert found(tee.design, "main").to == new.from_
    with pytest.raises(DesignFaults) as refused:
        done(document, {"kind": "lay_line", "way": [(900.0, 900.0), at["fork"]]})
    assert refused.value.faults[0].path == "/edit/way/0"


def test_a_line_cut_in_two_is_one_again_when_the_tee_between_is_deleted() -> None:
    document = worked_example()
    document["distances"] = [{"id": "posts", "line": "main", "kind": "posts", "count": 28, "each_m": 8}]
    document["scenarios"] = [{"id": "dry", "shut": ["main"]}]
    places = {place["id"]: place for place in document["places"]}
    spot = [places["knoll"]["east_m"] + 0.4 * 210, places["knoll"]["north_m"] - 0.4 * 60]
    cut = done(document, {"kind": "add_thing", "spot": spot, "thing": "junction", "name": "Tee", "on_line_m": 1.0})
    (tee,) = cut.made
    first, second = [line for line in cut.design.lines if tee in (line.from_, line.to)]
    assert first.pipe_length_m + second.pipe_length_m == pytest.approx(224.0)
    assert first.pipe_length_m == pytest.approx(0.4 * 224.0, abs=0.1)
    assert [part.kind for line in (first, second) for part in line.inline] == ["check_valve"]
    assert cut.design.scenarios[0].shut == ["main", second.id]
    counted = {distance.line: distance.count * (distance.each_m or 0.0) for distance in cut.design.distances}
    assert counted[first.id] == pytest.approx(0.4 * 224.0, abs=0.1)
    assert sum(counted.values()) == pytest.approx(224.0)
    whole = edited(write_design(cut.design), [READ.validate_python({"kind": "delete_parts", "parts": [tee]})]).design
    main = found(whole, "main")
    assert (main.to, main.length_m, ids(whole, "lines")) == (
        "fork",
        pytest.approx(224.0),
        ids(read_design(document), "lines"),
    )
    assert [distance.count for distance in whole.distances] == pytest.approx([28.0])
    assert whole.scenarios[0].shut == ["main"]
    assert main.points[0] == [0.0, 268.4]
    assert main.points[-1][1] == 251.2


def test_a_pipe_keeps_what_it_has_over_its_way_when_its_place_moves() -> None:
    document = worked_example()
    before = {line["id"]: line["length_m"] for line in document["lines"]}
    places = {place["id"]: place for place in document["places"]}
    spot = [2.0 * places["fork"]["east_m"], 2.0 * places["fork"]["north_m"]]
    after = done(document, {"kind": "move_places", "places": {"fork": spot}}).design
    main = found(after, "main")
    assert main.length_m == pytest.approx(2.0 * before["main"])
    assert main.points[-1][0] == pytest.approx(2.0 * before["main"])
    assert main.inline[0].at_m == pytest.approx(4.0)
    moved = done(document, {"kind": "move_parts", "parts": ["main"], "by": [5.0, -3.0]}).design
    assert found(moved, "main").length_m == before["main"]
    assert found(moved, "fork").east_m == places["fork"]["east_m"] + 5.0


def test_ground_heights_follow_into_the_lines_that_stand_there() -> None:
    after = done(worked_example(), {"kind": "set_ground", "place": "fork", "ground_m": 250.0}).design
    assert found(after, "main").points[-1][1] == 250.0
    inner = done(worked_example(), {"kind": "set_point_ground", "line": "main", "index": 1, "ground_m": 262.0}).design
    assert [ground for _, ground in found(inner, "main").points] == [268.4, 262.0, 251.2]
    end = done(worked_example(), {"kind": "set_point_ground", "line": "main", "index": 0, "ground_m": 270.0}).design
    assert found(end, "knoll").ground_m == 270.0


def test_parts_are_copied_with_places_floats_wishes_and_the_lines_between() -> None:
    document = worked_example()
    document["requirements"] = [{"outlet": "low-valve", "flow_lpm": 9}]
    after = done(document, {"kind": "copy_parts", "parts": ["spur"], "by": [100.0, 0.0]})
    line = found(after.design, after.made[0])
    valve = found(after.design, line.to)
    assert found(after.design, valve.fills).place == valve.place
    assert found(after.design, valve.place).east_m == 420.0
    assert [requirement.flow_lpm for requirement in after.design.requirements if requirement.outlet == valve.id] == [9]
    assert found(after.design, line.from_).height_error_m in (None, 0.0)


@pytest.mark.parametrize("paddock", [paddock["id"] for paddock in RIDGE["paddocks"]])
def test_any_paddock_is_deleted_and_the_calendar_forgets_it(paddock: str) -> None:
    after = done(RIDGE, {"kind": "delete_parts", "parts": [paddock]}).design
    assert paddock not in ids(after, "paddocks")
    assert all(paddock not in stop.paddocks for stop in after.calendar)


def test_what_means_nothing_without_a_part_goes_along_and_the_pipe_stays() -> None:
    document = worked_example()
    document["ponds"] = [{"vessel": "low-trough"}]
    document["draws"] = [{"vessel": "low-trough", "from_s": 0.0, "to_s": 60.0, "flow_lpm": 5.0}]
    document["requirements"] = [{"outlet": "low-valve", "flow_lpm": 9}]
    document["scenarios"] = [{"id": "x", "open": ["low-valve"], "levels_m": {"low-trough": 0.1, "header": 1.0}}]
    after = done(document, {"kind": "delete_parts", "parts": ["low-trough"]}).design
    assert ids(after, "outlets") == ["drip", "washout"]
    assert found(after, "spur").to == "low"
    assert (after.ponds, after.draws, after.requirements) == ([], [], [])
    assert (after.scenarios[0].open, after.scenarios[0].levels_m) == ([], {"header": 1.0})


def test_a_standby_keeps_its_places_and_goes_with_what_it_fills_and_a_pond_forgets_its_chamber() -> None:
    document = worked_example()
    box = {"kind": "box", "length_m": 1.0, "width_m": 1.0, "height_m": 1.0}
    document["vessels"] += [{"id": "chamber", "role": "chamber", "place": "nursery", "shape": box, "level_m": 0.5},
                            {"id": "butt", "place": "fork", "shape": box, "level_m": 0.5}]  # fmt: skip
    loop = {"chamber": "chamber", "pump_lpm": 20, "pipe_mm": 40, "pipe_m": 2}
    document["ponds"] = [{"vessel": "low-trough", "circulation": loop}]
    document["places"] += [{"id": "yard", "east_m": 9, "north_m": 9, "ground_m": 250.0}]
    document["vessels"] += [{"id": "parked", "place": "yard", "shape": box, "level_m": 0.5}]
    document["standbys"] = [{"id": "tote", "fills": "butt", "place": "yard", "holds_l": 500, "filled_at": "low"}]
    after = done(document, {"kind": "delete_parts", "parts": ["parked", "chamber"]}).design
    assert "yard" in ids(after, "places")  # the standby still stands there
    assert [(one.place, one.filled_at) for one in after.standbys] == [("yard", "low")]
    assert [pond.circulation for pond in after.ponds] == [None]
    assert done(document, {"kind": "delete_parts", "parts": ["butt"]}).design.standbys == []


@pytest.mark.parametrize(
    ("document", "parts", "why"),
    [
        (one_line(), ["valve"], "would have no water"),
        (worked_example(), ["fork"], "joins"),
        (worked_example(), ["nowhere"], "ids of parts"),
        (worked_example(), ["knoll", "fork", "low", "nursery"], "at least one place"),
        (RIDGE, [RIDGE["bench"]] if RIDGE.get("bench") else ["nowhere"], ""),
    ],
)
def test_what_others_need_is_not_deleted_and_the_reason_is_said(
    document: dict[str, Any], parts: list[str], why: str
) -> None:
    with pytest.raises(DesignFaults) as refused:
        done(document, {"kind": "delete_parts", "parts": parts})
    assert why in str(refused.value)


def test_a_pipe_of_ones_own_goes_into_the_plan_with_its_row() -> None:
    own = {"product_id": "own-p", "name": "Shop pipe", "family": "PE100 by outside diameter", "outer_mm": 32.0,
           "wall_mm": 2.4, "roughness_mm": 0.007, "source_id": "own"}  # fmt: skip
    after = done(worked_example(), {"kind": "set_pipe", "line": "spur", "product": own}).design
    assert (found(after, "spur").product, found(after, "spur").bore_mm) == ("own-p", None)
    assert [pipe.product_id for pipe in after.own_pipes] == ["own-p"]


# what is added with figures to start from


@pytest.mark.parametrize("source", ["spring", "rain", "pump", "ram", "haul", "siphon", "transfer", "mains"])
def test_a_source_of_any_kind_fills_a_tank_that_no_float_fills(source: str) -> None:
    document = worked_example()
    document["vessels"].reverse()  # a trough comes first
    after = done(document, {"kind": "add_inflow", "source": source}, {"kind": "add_inflow", "source": source})
    one, other = last(after.design, "inflows", 2), last(after.design, "inflows")
    assert (one.kind, one.fills) == (source, "header")
    assert other.id == after.made[0] != one.id


def test_a_pump_is_told_by_its_curve_and_by_its_flow_again() -> None:
    document = done(
        worked_example(), {"kind": "add_inflow", "source": "pump"}, {"kind": "add_inflow", "source": "mains"}
    )
    pump, mains = last(document.design, "inflows", 2), last(document.design, "inflows")
    by = {"kind": "set_pump_by", "inflow": pump.id}
    curved = last(done(write_design(document.design), {**by, "by": "curve"}).design, "inflows", 2)
    assert [flow for flow, _ in curved.curve] == [0.0, pump.flow_lpm, 2.0 * pump.flow_lpm]
    again = last(done(write_design(document.design), {**by, "by": "curve"}, {**by, "by": "flow"}).design, "inflows", 2)
    assert again == pump
    with pytest.raises(DesignFaults, match="the id of a pump"):
        done(write_design(document.design), {**by, "inflow": mains.id, "by": "curve"})


@pytest.mark.parametrize("way", ["litres", "plants", "area", "minutes"])
def test_plants_are_told_in_one_way_after_another(way: str) -> None:
    document = worked_example()
    after = done(document, {"kind": "add_crop"})
    assert last(after.design, "crops").outlet == "drip"  # the first that fills no vessel
    crop = after.made[0]
    changed_way = done(write_design(after.design), {"kind": "set_crop_way", "crop": crop, "way": way}).design
    told = {"litres": "litres_lpd", "plants": "plants", "area": "area_m2", "minutes": "minutes_per_day"}
    given = {key for key in told.values() if getattr(last(changed_way, "crops"), key) is not None}
    assert given == {told[way]}


@pytest.mark.parametrize(
    ("latitude_deg", "dates", "begin", "end"),
    [
        (None, [], "2031-05-01", "2031-09-30"),
        (-38.0, [], "2031-11-01", "2032-03-31"),
        (None, ["2027-07-01", "2029-07-01"], "2027-05-01", "2027-09-30"),  # no case chosen: the first is shown
    ],
)
def test_moves_begin_in_the_summer_of_their_side_of_the_equator(
    latitude_deg: float | None, dates: list[str], begin: str, end: str
) -> None:
    document = worked_example()
    document.pop("shown_for", None)
    document["scenarios"] = [{"id": f"case-{number}", "date": date} for number, date in enumerate(dates)]
    if latitude_deg is not None:
        document["site"]["latitude_deg"] = latitude_deg
    herd = done(document, {"kind": "add_herd"})
    add = {"kind": "add_rotation", "herd": herd.made[0], "year": 2031}
    moves = last(done(write_design(herd.design), add).design, "calendar")
    assert (moves.from_, moves.to, moves.outlets) == (begin, end, [document["outlets"][0]["id"]])
    fenced = done(
        write_design(herd.design), {"kind": "add_paddock", "outlet": document["outlets"][0]["id"]}, add
    ).design
    assert fenced.calendar[-1].paddocks == [fenced.paddocks[-1].id]
    assert fenced.paddocks[-1].name == "Paddock 1"


def test_readings_begin_where_heights_are_measured_from() -> None:
    document = worked_example()
    document["bench"] = "low"
    ways = ["hose_level", "clinometer", "barometer", "satellite", "contour", "timed_flow"]
    after = done(document, *({"kind": "add_sight", "way": way} for way in ways), {"kind": "add_book"}).design
    hose = last(after, "sights", len(ways))
    assert (hose.kind, hose.from_, hose.to) == ("hose_level", "low", "knoll")
    assert [sight.kind for sight in after.sights] == ways
    assert after.books[-1].readings == []  # no reading is made up
    assert not any(sight.is_read for sight in after.sights)
    counted = done(document, *({"kind": "add_distance", "line": "spur", "counted": kind} for kind in
                               ("posts", "rolls", "paces", "tape"))).design  # fmt: skip
    assert [distance.kind for distance in counted.distances] == ["posts", "rolls", "paces", "tape"]
    assert not any(distance.is_read for distance in counted.distances)


@pytest.mark.parametrize(
    ("edit", "allowed"),
    [
        ({"kind": "add_herd"}, "a trough or a tap"),
        ({"kind": "add_timer"}, "plants"),
        ({"kind": "add_sight", "way": "hose_level"}, "two places"),
        ({"kind": "add_rotation", "herd": "nobody", "year": 2031}, "the id of one of the herds"),
        ({"kind": "add_pond_loss", "vessel": "nobody"}, "the id of one of the vessels"),
    ],
)
def test_what_has_nothing_to_begin_from_is_refused(edit: dict[str, Any], allowed: str) -> None:
    tank = write_design(new_design("Tamsel Ridge", "tank", "Hill", 300.0))
    with pytest.raises(DesignFaults, match=allowed):
        done(tank, edit)


# whatever is done, in whatever order

metres = st.floats(-400, 400).map(lambda value: round(value, 2))
spots = st.tuples(metres, metres)
shares = st.floats(0, 1)


@st.composite
def edits_of(draw: st.DrawFn, design: Design) -> dict[str, Any]:
    """An edit of any kind that names parts of a design, now and then one that is not there."""
    every = sorted(ids_of(write_design(design)))
    on_plan = [*ids(design, "places"), *ids(design, "vessels"), *ids(design, "outlets"), *ids(design, "lines")]
    standing = [(place.east_m, place.north_m) for place in design.places]
    somewhere = st.one_of(st.sampled_from(standing), spots)
    some = st.lists(st.sampled_from([*on_plan, "nobody"]), min_size=1, max_size=3)
    place, height, record = st.sampled_from(ids(design, "places")), st.floats(-100, 500), st.fixed_dictionaries
    things = st.sampled_from(get_args(Thing))
    way, corners = st.lists(somewhere, min_size=2, max_size=4), st.lists(spots, max_size=4)
    near, gone = st.sampled_from([0.0, 50.0]), st.lists(st.sampled_from(every), min_size=1, max_size=2)
    moves = st.dictionaries(place, spots, min_size=1, max_size=3)
    kinds: dict[str, st.SearchStrategy[dict[str, Any]]] = {
        "lay_line": record({"way": way, "lower_m": st.floats(-20, 20), "end": things, "name": st.just("New")}),
        "add_thing": record(
            {"spot": somewhere, "name": st.just(""), "ground_m": height, "on_line_m": near, "thing": things}
        ),
        "move_places": record({"places": moves}),
        "move_parts": record({"parts": some, "by": spots}),
        "copy_parts": record({"parts": some, "by": spots}),
        "delete_parts": record({"parts": gone, "with_pipes": st.booleans()}),
        "set_ground": record({"place": place, "ground_m": height}),
        "add_sight": record(
            {"way": st.sampled_from(["hose_level", "clinometer", "barometer", "satellite", "contour"])}
        ),
        **{kind: record({}) for kind in ("add_herd", "add_crop", "add_timer", "add_book")},
    }
    sort = st.sampled_from(["ordinary day", "hot spell", "winter day", "source lost", "valve stuck"])
    kinds["add_case"] = record({"case": sort})
    if design.scenarios:
        case = st.sampled_from(ids(design, "scenarios"))
        kinds |= {"copy_case": record({"case": case}), "delete_case": record({"case": case})}
    if design.vessels:
        source = st.sampled_from(["spring", "rain", "pump", "ram", "haul", "siphon", "transfer", "mains"])
        kinds["add_inflow"] = record({"source": source})
        vessel = st.sampled_from(ids(design, "vessels"))
        kinds["add_pond_loss"] = record({"vessel": vessel})
        shape = st.sampled_from(["upright_cylinder", "box", "lying_cylinder", "frustum", "stage_volume"])
        kinds["set_shape"] = record({"vessel": vessel, "shape": shape})
        sold = [product.model_dump(exclude_none=True) for product in vessels().values()]
        kinds["set_vessel"] = record({"vessel": vessel, "product": st.sampled_from(sold)})
    if design.inflows:
        inflow = st.sampled_from(ids(design, "inflows"))
        kinds["set_pump_by"] = record({"inflow": inflow, "by": st.sampled_from(["curve", "flow"])})
    if design.crops:
        way_told = st.sampled_from(["litres", "plants", "area", "minutes"])
        kinds["set_crop_way"] = record({"crop": st.sampled_from(ids(design, "crops")), "way": way_told})
    if design.herds:
        kinds["add_rotation"] = record({"herd": st.sampled_from(ids(design, "herds")), "year": st.just(2031)})
    if design.lines:
        line = st.sampled_from(ids(design, "lines"))
        product = st.sampled_from([pipe.model_dump(exclude_none=True) for pipe in list(pipes().values())[:5]])
        kinds |= {
            "set_corners": record({"line": line, "corners": corners}),
            "set_length": record({"line": line, "length_m": st.floats(0.5, 900)}),
            "set_point_ground": record({"line": line, "index": st.integers(0, 4), "ground_m": height}),
            "set_pipe": record({"line": line, "product": product}),
            "add_distance": record({"line": line, "counted": st.sampled_from(["posts", "rolls", "paces", "tape"])}),
        }
    if design.outlets:
        outlet = st.sampled_from(ids(design, "outlets"))
        kinds["add_paddock"] = record({"corners": corners, "name": st.just("P"), "outlet": outlet})
    if design.paddocks:
        kinds["set_fence"] = record({"paddock": st.sampled_from(ids(design, "paddocks")), "corners": corners})
    kind = draw(st.sampled_from(sorted(kinds)))
    return {"kind": kind, **draw(kinds[kind])}


def outcome(design: Design, edit: dict[str, Any]) -> tuple[Edited | None, tuple[Fault, ...]]:
    try:
        return edited(write_design(design), [READ.validate_python(edit)]), ()
    except DesignFaults as refused:
        return None, refused.faults


@examples(600, suppress_health_check=[HealthCheck.data_too_large, HealthCheck.too_slow])
@given(data=st.data(), begun=st.sampled_from([one_line(), worked_example(), RIDGE]))
def test_any_edits_in_any_order_leave_a_design_that_loads_and_can_be_undone(data: st.DataObject, begun: Any) -> None:
    design = read_design(copy.deepcopy(begun))
    done_before: list[tuple[Design, str]] = []
    for _ in range(8):
        edit = data.draw(edits_of(design))
        written = write_design(design)
        after, faults = outcome(design, edit)
        if after is None:  # refused for what was asked, never because a broken plan came of it
            assert all(fault.path.startswith("/edit/") for fault in faults), (edit, faults)
            assert write_design(design) == written
            continue
        assert read_design(write_design(after.design)) == after.design
        known = ids_of(write_design(after.design))
        assert set(after.made) <= known
        done_before.append((design, str(written)))
        design = after.design
    for before, written_before in reversed(done_before):  # what stood before is untouched: undo is to go back to it
        assert str(write_design(before)) == written_before


# edits are made before the document is checked: whatever it is, its faults are told

JUNK: st.SearchStrategy[Any] = st.sampled_from(
    [None, "x", -1, 1e308, True, [], {}, [[]], [{}], [None], {"id": 3}, [{"id": "a"}], "knoll"]
)


def spots_in(value: Any, path: tuple[Any, ...] = ()) -> list[tuple[Any, ...]]:
    """The way to everything that a document holds."""
    inner = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    return [path] * bool(path) + [spot for key, part in inner for spot in spots_in(part, (*path, key))]


def with_junk(document: Any, path: tuple[Any, ...], junk: Any) -> None:
    *way, last = path
    for key in way:
        document = document[key]
    document[last] = copy.deepcopy(junk)


@examples(1500, suppress_health_check=[HealthCheck.data_too_large, HealthCheck.too_slow])
@given(data=st.data(), begun=st.sampled_from([worked_example(), RIDGE]), junk=JUNK)
def test_an_edit_of_what_is_no_design_tells_its_faults(data: st.DataObject, begun: Any, junk: Any) -> None:
    edit = data.draw(edits_of(read_design(begun)))
    document = copy.deepcopy(begun)
    with_junk(document, data.draw(st.sampled_from(spots_in(document))), junk)
    with suppress(DesignFaults):  # and nothing else
        after = edited(document, [READ.validate_python(edit)])
        assert read_design(write_design(after.design)) == after.design


@pytest.mark.parametrize("thing", ["mains", "well", "ram"])
def test_a_source_under_pressure_is_put_down_piped_branched_off_moved_and_taken_away(thing: str) -> None:
    down = done(one_line(), {"kind": "add_thing", "spot": [0.0, 80.0], "thing": thing, "name": "Beck", "ground_m": 90})
    (source,) = down.design.pressure_sources
    assert source.assumed
    laid = done(write_design(down.design), {"kind": "lay_line", "way": [[0.0, 80.0], [100.0, 80.0]], "end": "trough"})
    line = laid.design.lines[-1]
    assert line.from_ == source.id
    again = {"kind": "lay_line", "way": [[0.0, 80.0], [0.0, 160.0]], "end": "trough"}
    with pytest.raises(DesignFaults, match="branch off"):
        done(write_design(laid.design), again)
    branch = done(write_design(laid.design), {"kind": "lay_line", "way": [[50.0, 80.0], [50.0, 160.0]], "end": "tap"})
    assert branch.design.lines[-1].from_ not in (source.id, line.to)
    end = found(down.design, "end")
    with pytest.raises(DesignFaults, match="begins there"):
        done(write_design(down.design), {"kind": "lay_line", "way": [[end.east_m, end.north_m], [0.0, 80.0]]})
    moved = done(write_design(laid.design), {"kind": "move_parts", "parts": [source.id], "by": [5.0, 0.0]})
    assert {place.id: place.east_m for place in moved.design.places}[source.place] == 5.0
    gone = done(write_design(laid.design), {"kind": "delete_parts", "parts": [source.id]})
    assert gone.design.pressure_sources == []
    assert gone.design.lines[-1].from_ == source.place
