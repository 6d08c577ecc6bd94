"""Packaged tables: sourced, unique, and true to the published dimensions."""

import re

import pytest

from leadsman.core.base.errors import UnknownName
from leadsman.core.base.fault import DesignFaults
from leadsman.core.base.units import LITRE_M3
from leadsman.core.catalogue import (
    fitting_product,
    fittings,
    float_valves,
    parts,
    pipe_product,
    pipes,
    rows,
    sources,
    vessels,
)
from leadsman.core.catalogue.own import own_products
from leadsman.core.catalogue.product import PRINCIPLES
from leadsman.core.catalogue.thread import End, end_of, joint, threads
from leadsman.core.design.store import shape_of
from leadsman.core.design.vessel import Vessel

TABLES = {
    "pipe": ("product_id",), "fitting": ("product_id",), "livestock_intake": ("animal", "weight_kg", "air_c"),
    "animal": ("animal",), "weight_rule": ("animal", "from_c"), "walking": ("kind",), "intake_equation": ("equation",),
    "drinking_room": ("animal",), "part": ("product_id",), "float_valve": ("product_id",), "vessel": ("product_id",),
    "thread": ("thread_id",),
}  # fmt: skip


@pytest.mark.parametrize("name", TABLES)
def test_every_row_has_a_source_and_a_key_of_its_own(name: str) -> None:
    keys = [tuple(row[column] for column in TABLES[name]) for row in rows(name)]
    assert len(set(keys)) == len(keys)
    for row in rows(name):
        assert row["source_id"] in sources()
        assert row["locator"]
        assert re.search("from memory|our own figure, no source|common practice, no source", row["note"])


def test_every_source_is_used() -> None:
    assert {row["source_id"] for name in TABLES for row in rows(name)} == set(sources())


@pytest.mark.parametrize(
    ("product", "bore_mm", "class_kpa"),
    [  # EN 12201-2 / ISO 4427-2 and ASTM D2239, from memory; class 20·MRS/(1.25 (SDR − 1))
        ("pe100-sdr11-20", 16.0, 1600),
        ("pe100-sdr11-63", 51.4, 1600),
        ("pe100-sdr13.6-40", 34.0, 1250),
        ("pe100-sdr17-110", 96.8, 1000),
        ("pe80-sdr13.6-32", 27.2, 1000),
        ("pe-cid-1", 26.64, 689),
        ("hose-0.625", 15.9, 600),
        ("pvc-sch40-1", 26.64, 3103),  # ASTM D1785 dimensions by least wall; 450 psi at 73 °F, from memory
        ("pvc-sch40-4", 102.26, 1517),
        ("pe-cid-sidr7-1", 26.64, 1379),
        ("hose-air-0.375", 9.53, 2000),
        ("tube-0.25in", 4.32, 400),
    ],
)
def test_pipes_have_their_published_bore_and_class(product: str, bore_mm: float, class_kpa: float) -> None:
    pipe = pipes()[product]
    assert pipe.bore_m * 1000 == pytest.approx(bore_mm, abs=0.011)
    assert pipe.class_kpa == pytest.approx(class_kpa, abs=1.0)


def test_an_unknown_name_is_never_replaced() -> None:
    for find in (pipe_product, fitting_product):
        with pytest.raises(UnknownName) as unknown:
            find("no-such-thing", "/lines/0/product")
        assert unknown.value.path == "/lines/0/product"


@pytest.mark.parametrize(
    ("thread", "outer_mm", "per_inch"),
    [  # ASME B1.20.1, ISO 7-1 / 228-1, ASME B1.20.7, from memory
        ("npt-1.4", 13.716, 18), ("npt-1.2", 21.336, 14), ("npt-3.4", 26.670, 14), ("npt-1", 33.401, 11.5),
        ("npt-1-1.4", 42.164, 11.5), ("npt-2", 60.325, 11.5), ("bspt-1.2", 20.955, 14), ("bspp-3.4", 26.441, 14),
        ("bspp-1", 33.249, 11), ("bspt-1-1.2", 47.803, 11), ("bspp-2", 59.614, 11), ("nh-3.4", 26.99, 11.5),
    ],
)  # fmt: skip
def test_threads_have_their_published_dimensions(thread: str, outer_mm: float, per_inch: float) -> None:
    found = threads()[thread]
    assert found.outer_m * 1000 == pytest.approx(outer_mm)
    assert found.per_inch == per_inch
    assert found.seals_with == ("tape on the thread" if found.family in ("npt", "bspt") else "washer or O-ring"
                                if found.family == "bspp" else "washer")  # fmt: skip


def end(told: str) -> End:
    found = end_of(f"{told} @15")
    assert found is not None
    return found


@pytest.mark.parametrize(
    ("one", "other", "seal"),
    [
        ("npt-m 3/4", "npt-f 3/4", "tape on the thread"),
        ("bspt-m 1", "bspp-f 1", "tape on the thread"),  # a tapered end in a parallel socket is usual
        ("bspp-m 1", "bspt-f 1", None),
        ("npt-m 1/2", "bspt-f 1/2", None),  # they start together, and do not seal
        ("npt-m 3/4", "bspp-f 3/4", None),
        ("nh-m 3/4", "npt-f 3/4", None),  # hose thread fits neither family of pipe thread
        ("nh-m 3/4", "bspp-f 3/4", None),
        ("nh-f 3/4", "nh-m 3/4", "washer"),
        ("npt-m 3/4", "npt-m 3/4", None),
        ("npt-m 3/4", "npt-f 1", None),
        ("barb 20", "barb 20", None),
    ],
)
def test_what_screws_into_what(one: str, other: str, seal: str | None) -> None:
    assert joint(end(one), end(other)) == seal == joint(end(other), end(one))


def test_no_end_is_of_an_unknown_family_size_or_bore() -> None:
    assert [end_of(told) for told in ("npt-m 3/4", "xyz 3/4 @20", "npt-m 5 @20", "npt-m 3/4 @0", "")] == [None] * 5
    told = [one for table in (fittings(), parts(), float_valves(), vessels()) for one in table.values()]
    bores = [found.bore_m for one in told for found in one.end_list]
    assert len(bores) > 150
    assert 0.002 <= min(bores) < max(bores) <= 0.06


def test_an_insert_narrower_than_its_pipe_is_a_contraction_and_an_expansion() -> None:
    coupling = fittings()["insert-coupling-1"]
    k, bore_m = coupling.loss(26.64e-3)
    beta2 = (21.5 / 26.64) ** 2
    assert k == pytest.approx(0.5 * (1 - beta2) + (1 - beta2) ** 2)
    assert bore_m == pytest.approx(21.5e-3)
    assert coupling.loss(21.0e-3)[0] == 0.0  # in a narrower pipe it takes nothing
    assert fittings()["insert-elbow-1"].loss(26.64e-3)[0] > k


def test_float_valves_are_of_every_principle_and_agree_with_their_seats() -> None:
    valves = float_valves().values()
    assert {valve.principle for valve in valves} == set(PRINCIPLES)
    for valve in valves:
        assert valve.max_kpa is not None
        assert valve.min_kpa < valve.max_kpa
        if valve.principle in ("small-seat arm", "mini", "low-pressure arm") and valve.seat_mm:
            opening = 19.64 * valve.kv_m3h / (3.14159 * valve.seat_mm**2 / 4)  # Kv 1 is Cd·A of 19.64 mm²
            assert 0.4 < opening < 0.75, valve.product_id


def test_what_a_float_is_said_to_close_against_its_arm_can_hold() -> None:
    on_arms = [valve for valve in float_valves().values() if valve.float_arm_mm is not None]
    assert {arm.principle for arm in on_arms} == {"small-seat arm", "mini", "low-pressure arm"}
    for arm in on_arms:
        told = arm.model_copy(update={"max_kpa": None})
        held_kpa = told.closes_against_kpa(998.2)
        assert held_kpa is not None
        assert arm.max_kpa is not None
        assert arm.closes_against_kpa(998.2) == arm.max_kpa < held_kpa, arm.product_id
    example = on_arms[0].model_copy(update={"seat_mm": 6.0, "valve_arm_mm": 15.0, "float_arm_mm": 300.0,
                                            "float_kg": 0.2, "float_mm": 115.0, "max_kpa": None})  # fmt: skip
    assert example.closes_against_kpa(998.2) == pytest.approx(1370, abs=1)  # half sunk
    assert example.model_copy(update={"seat_mm": 12.0}).closes_against_kpa(998.2) == pytest.approx(342, abs=1)


def test_vessels_hold_what_their_names_say() -> None:
    for product in vessels().values():
        level = {"id": "v", "place": "p", "level_m": 0, "role": product.role, "shape": product.shape}
        vessel = Vessel.model_validate(level)
        said = re.search(r"about ([\d,.]+) (L|m3)", product.name)
        if said:
            litres = float(said[1].replace(",", "")) * (1000 if said[2] == "m3" else 1)
            assert shape_of(vessel).volume_m3(vessel.brim_m) / LITRE_M3 == pytest.approx(litres, rel=0.06), (
                product.product_id
            )


MINE = "product_id,name,family,outer_mm,wall_mm,roughness_mm,price_per_m\n"


def test_rows_of_ones_own_come_back_from_a_table_that_was_added_to() -> None:
    text = MINE + "shop-32,Pipe from the shop,PE100 by outside diameter,32,3,0.007,1.10\n"
    (own,) = own_products("pipe", "\ufeff" + text)
    assert (own.product_id, own.is_own, own.name) == ("own-shop-32", True, "Pipe from the shop")
    whole = "product_id,name,source_id\nelbow-90,90° elbow,crane-tp410\n"
    with pytest.raises(DesignFaults) as none_left:  # rows that ship are nobody's own
        own_products("fitting", whole)
    assert none_left.value.faults[0].code == "no_rows"


@pytest.mark.parametrize(
    ("table", "text", "path", "allowed"),
    [
        ("pipe", MINE + "a,A,F,32,16,0.007,1\n", "/1", "bore of 1 mm"),
        ("pipe", MINE + "a,A,F,32,3,0.007,1\nb,B,F,wide,3,0.007,1\n", "/2/outer_mm", "number"),
        ("pipe", MINE + "a,A,F,32,3\n", "/1", "as many as in the head"),
        ("pipe", "colour,name\n", "/0", "columns of product_id"),
        ("pipe", MINE, "/", "1 to 500"),
        ("fitting", "product_id,name\nx,X\n", "/1", "times_ft, k or bore_mm"),
        ("fitting", "product_id,name,k,ends\nx,X,1,npt-m 9 @20\n", "/1/ends", "npt-m"),
        ("vessel", "product_id,name,role,kind,length_m\nx,X,tank,box,2\n", "/1", "width_m, height_m for a box"),
    ],
)
def test_a_row_that_is_none_is_refused_with_its_place(table: str, text: str, path: str, allowed: str) -> None:
    with pytest.raises(DesignFaults) as refused:
        own_products(table, text)  # type: ignore[arg-type]
    assert [fault.path for fault in refused.value.faults] == [path]
    assert allowed in refused.value.faults[0].allowed
