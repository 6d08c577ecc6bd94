"""Ponds: levels by the network's solver and by the water's volume, changes, top-up, and what is refused."""

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from examples import Document, one_line
from leadsman.core.base.fault import DesignFaults
from leadsman.core.design.file import read_design
from leadsman.core.design.store import shape_of
from leadsman.core.pond.pond import FloatPlace, Pond, ponds, short_meanwhile
from leadsman.core.report.pond import ponds_report
from leadsman.core.steady.solve import solve
from systems import judged

LOOP = {"chamber": "filter", "pump_lpm": 90.0, "pipe_mm": 50.0, "pipe_m": 4.0}


def pond_document(**changes: Any) -> Document:
    """A pond of 24 m2 with a filter chamber of 1.5 m2 beside it, its floor 0.2 m lower; made up."""
    return one_line(**{
        "vessels.1.role": "pond", "vessels.1.shape": {"kind": "box", "length_m": 6, "width_m": 4, "height_m": 1.1},
        "vessels.1.overflow_m": 0.95, "vessels.1.level_m": 0.8, "outlets.0.valve.closes_at_m": 0.85, "herds": [],
        "vessels.2": {"id": "filter", "role": "chamber", "place": "end", "stand_m": -0.2, "level_m": 0.9,
                      "shape": {"kind": "box", "length_m": 1.5, "width_m": 1.0, "height_m": 1.3}},
        "requirements.0.refill_min": None,
        "ponds": [{"vessel": "trough", "pan_mm_d": 6.0, "circulation": LOOP}], **changes,
    })  # fmt: skip


def pond_of(**changes: Any) -> Pond:
    (found,) = ponds(judged(pond_document(**changes)))
    return found


def test_the_fall_to_the_chamber_is_what_the_networks_solver_says() -> None:
    """The pipe between them as a line of the network, with a fixed draw of the pump's flow at its end."""
    line = {"id": "gravity", "from": "tank", "to": "end", "bore_mm": 50.0, "roughness_mm": 0.0015, "length_m": 4.0,
            "fittings": [{"k": 1.5}]}  # fmt: skip
    heads = solve(read_design(one_line(**{"lines": [line], "outlets": [], "herds": [], "requirements": [],
                                          "places.1.draw_lpm": 90.0}))).heads_m  # fmt: skip
    levels = pond_of().levels
    assert levels is not None
    assert levels.fall_m == pytest.approx((heads["tank"] or 0.0) - (heads["end"] or 0.0), rel=1e-4)


@given(pump_lpm=st.floats(5.0, 140.0), back_l=st.floats(0.0, 400.0), keeps_m=st.floats(0.6, 0.9))
def test_when_the_pump_stops_no_water_is_lost(pump_lpm: float, back_l: float, keeps_m: float) -> None:
    pond = pond_of(**{"ponds.0.circulation": {**LOOP, "pump_lpm": pump_lpm, "drains_back_l": back_l},
                      "outlets.0.valve.closes_at_m": keeps_m})  # fmt: skip
    levels, chamber = pond.levels, pond.chamber
    assert levels is not None
    assert chamber is not None
    before = 24.0 * (levels.pond_on_m - 101.0) + 1.5 * (levels.chamber_on_m - 100.8) + back_l / 1000
    after = 24.0 * (levels.off_m - 101.0) + 1.5 * (levels.off_m - 100.8)
    assert after == pytest.approx(before, abs=1e-9)
    assert levels.chamber_on_m < levels.pond_on_m


@pytest.mark.parametrize(
    ("changes", "place", "over_floor_m"),
    [
        ({}, FloatPlace.POND, 0.85),
        ({"outlets.0.fills": "filter", "outlets.0.valve.closes_at_m": 0.9}, FloatPlace.FILTER, None),
        ({"vessels.3": {"id": "still", "role": "chamber", "place": "end", "stand_m": 0.1, "level_m": 0.7,
                        "shape": {"kind": "box", "length_m": 0.5, "width_m": 0.5, "height_m": 1.0}},
          "lines.1": {"id": "still-pipe", "from": "trough", "to": "still", "bore_mm": 50, "roughness_mm": 0.01,
                      "length_m": 2}, "outlets.0.fills": "still", "outlets.0.valve.closes_at_m": 0.75},
         FloatPlace.BALANCE, 0.85),
    ],
)  # fmt: skip
def test_where_the_float_is_follows_from_the_plan(
    changes: Document, place: FloatPlace, over_floor_m: float | None
) -> None:
    pond = pond_of(**changes)
    assert pond.place is place
    assert pond.levels is not None
    assert pond.keeps_m is not None
    # in the filter it swims on the lower water: 0.9 m over its floor, that 0.2 m under the pond's
    expected = 0.7 + pond.levels.fall_m if over_floor_m is None else over_floor_m
    assert pond.keeps_m - 101.0 == pytest.approx(expected)


def test_what_each_place_is_set_to_keeps_the_same_water() -> None:
    """Set in the filter as the report says for it, the pond stands where it stood with the float in the pond."""
    report = ponds_report(judged(pond_document())).ponds[0]
    set_to = {place.place: place.set_to_m for place in report.places}
    moved = pond_of(**{"outlets.0.fills": "filter", "outlets.0.valve.closes_at_m": round(set_to["filter"] or 0.0, 6)})
    assert moved.keeps_m == pytest.approx(101.85, abs=1e-5)
    assert [place.place for place in report.places if place.is_here] == ["pond"]


def test_a_pond_without_a_pump_has_no_filter_to_put_a_float_in() -> None:
    report = ponds_report(judged(pond_document(ponds=[{"vessel": "trough", "wave_mm": 60, "storm_mm": 130}]))).ponds[0]
    assert [place.place for place in report.places] == ["pond", "balance"]
    assert report.storm_over_l == pytest.approx(24.0 * 30.0)  # 100 mm of room, 130 mm of rain
    assert report.waves_over_m == pytest.approx(-0.04)
    assert report.loop is None


def test_a_change_is_what_is_let_out_and_comes_in_again() -> None:
    loss = {"vessel": "trough", "pan_mm_d": 6.0, "change_percent_week": 30, "changes_per_week": 2, "change_lpm": 40}
    pond = pond_of(ponds=[loss])
    change = pond.change
    assert change is not None
    assert change.volume_l == pytest.approx(24.0 * 800 * 0.15)
    assert change.out_s == pytest.approx(24.0 * 800 * 0.15 / 40 * 60)
    lost = 24.0 * 6.0 * 0.7 / 86_400 / 1000
    assert change.refill_s == pytest.approx(change.volume_l / 1000 / (pond.feed_m3s - lost))
    assert change.between_s == 3.5 * 86_400


def test_who_goes_short_while_a_pond_refills_is_named() -> None:
    far = {
        "places.2": {"id": "far", "east_m": 260, "north_m": 0, "ground_m": 101.0},
        "vessels.3": {"id": "pan", "role": "trough", "place": "far", "level_m": 0.1,
                      "shape": {"kind": "box", "length_m": 1, "width_m": 0.5, "height_m": 0.5}},
        "lines.0.to": "end", "lines.1": {"id": "on", "from": "end", "to": "far-valve", "bore_mm": 27.2,
                                        "roughness_mm": 0.007, "length_m": 60},
        "outlets.1": {"id": "far-valve", "place": "far", "kind": "float_valve", "height_m": 0.5, "fills": "pan",
                      "valve": {"kv_m3h": 2.0, "closes_at_m": 0.4, "band_m": 0.05}},
        "ponds.0.change_percent_week": 10,
    }  # fmt: skip
    alone = judged(pond_document(**far)).flows_alone_m3s["far-valve"] * 60_000
    for wanted, short in ((alone * 0.95, ["far-valve"]), (alone * 0.1, []), (alone * 1.1, [])):
        analysis = judged(pond_document(**far, **{"requirements.2": {"outlet": "far-valve", "flow_lpm": wanted}}))
        (pond,) = ponds(analysis)
        assert pond.change is not None
        assert [outlet.id for outlet, _ in short_meanwhile(analysis, pond)] == short


def test_the_top_up_expected_is_evaporation_and_what_is_let_out() -> None:
    loss = {"vessel": "trough", "pan_mm_d": 6.0, "seepage_mm_d": 1.0, "discharge_lpd": 20.0, "cartridge_l": 9_000.0}
    top_up = pond_of(ponds=[loss]).top_up
    assert top_up.expected_lpd == pytest.approx(24.0 * (6.0 * 0.7 + 1.0) + 20.0)
    assert top_up.most_lpd - top_up.expected_lpd == pytest.approx(0.3 * 24.0 * 6.0 * 0.7)
    report = ponds_report(judged(pond_document(ponds=[loss]))).ponds[0]
    assert report.remover_d == pytest.approx(9_000.0 / top_up.expected_lpd)
    assert report.still_mm_d == pytest.approx(top_up.most_lpd / 24.0)


@pytest.mark.parametrize(
    ("changes", "path"),
    [
        ({"ponds.0.circulation.chamber": "well"}, "/ponds/0/circulation/chamber"),
        ({"ponds.0.circulation.chamber": "trough"}, "/ponds/0"),
        ({"ponds.0.circulation.pump_lpm": 0}, "/ponds/0/circulation/pump_lpm"),
        ({"vessels.1.level_m": 1.0}, "/vessels/1/level_m"),  # over its brim
    ],
)
def test_what_cannot_be_is_refused_where_it_stands(changes: Document, path: str) -> None:
    with pytest.raises(DesignFaults) as refused:
        read_design(pond_document(**changes))
    assert path in [fault.path for fault in refused.value.faults]


def test_the_shape_of_the_pond_counts_where_its_banks_slope() -> None:
    banks = {"kind": "stage_volume", "stages": [[0, 0], [0.5, 6_000], [1.1, 20_000]]}
    pond = pond_of(**{"vessels.1.shape": banks})
    assert pond.basin.area_m2(101.85) == pytest.approx(shape_of(pond.vessel).surface_m2(0.85))
