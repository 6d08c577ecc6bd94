"""Pressure in a plan's lines: what stands where, what warm pipe is good for, and the blow of a tap shut quickly."""

from typing import Any

import pytest

from examples import one_line
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.hammer import hammer
from leadsman.core.analysis.pressure_limit import limits_pa, strain
from leadsman.core.base.units import pa_from_head_m
from leadsman.core.design.file import read_design
from leadsman.core.physics.surge import joukowsky_pa, rigid_column_pa, wave_speed_ms

DEEP = {"places.1.ground_m": 60.0, "lines.0.points": [[0, 120], [100, 40], [210, 60]]}


def analysis(**changes: Any) -> Analysis:
    return Analysis(read_design(one_line(**changes)))


def test_a_line_is_strained_most_at_its_lowest_point_with_every_vessel_at_its_brim() -> None:
    found = strain(model := analysis(**DEEP), model.design.lines[0])
    assert found is not None
    assert (found.at_m, found.warm) == (100, False)
    assert found.pressure_pa == pytest.approx(pa_from_head_m(122.0 - 40.0, model.model.water.density_kgm3))
    covered = strain(deeper := analysis(**DEEP, **{"lines.0.cover_m": 0.8}), deeper.design.lines[0])
    assert covered is not None
    assert covered.pressure_pa > found.pressure_pa


@pytest.mark.parametrize(
    ("product", "pipe_c", "share"),
    [  # EN 12201 / ISO 13761 and PVC makers' tables, from memory
        ("pe100-sdr13.6-32", None, 1.0), ("pe100-sdr13.6-32", 20.0, 1.0), ("pe100-sdr13.6-32", 30.0, 0.87),
        ("pe100-sdr13.6-32", 40.0, 0.74), ("pe100-sdr13.6-32", 60.0, 0.74), ("pvc-sch40-1", 30.0, None),
        ("pvc-sch40-1", 32.2, 0.75), ("pvc-sch40-1", 48.9, 0.40), ("hose-0.75", 40.0, 1.0),
    ],
)  # fmt: skip
def test_what_a_pipe_is_good_for_goes_by_its_own_temperature(
    product: str, pipe_c: float | None, share: float | None
) -> None:
    told = analysis(**{"lines.0.product": product, "scenarios.0.pipe_c": pipe_c})
    class_kpa = told.design.pipe(product).class_kpa
    assert class_kpa is not None
    (limit,) = limits_pa(told).values()
    if share is None:
        assert 0.75 < limit / class_kpa / 1000 < 1.0  # between two rows of the table
    else:
        assert limit == pytest.approx(class_kpa * 1000 * share)


def test_of_runs_the_weakest_counts_and_a_pipe_without_a_class_is_not_judged() -> None:
    runs = [{"product": "pe100-sdr11-32", "length_m": 105.0}, {"product": "pe100-sdr17-32", "length_m": 105.0}]
    mixed = analysis(**DEEP, **{"lines.0.product": None, "lines.0.runs": runs})
    assert limits_pa(mixed) == {"line": pytest.approx(1e6)}
    found = strain(mixed, mixed.design.lines[0])
    assert found is not None
    # at 100 m the strong pipe lies 20 m deeper; the weak one behind it is nearer to its limit
    assert found.at_m == 210
    assert found.limit_pa == pytest.approx(1e6)
    bare = analysis(**{"lines.0.product": None, "lines.0.bore_mm": 27.2, "lines.0.roughness_mm": 0.007})
    assert limits_pa(bare) == {}
    assert strain(bare, bare.design.lines[0]) is None


def test_the_blow_is_joukowsky_s_on_what_runs_with_all_drawing() -> None:
    told = analysis(**{"outlets.0.valve.kv_m3h": 30})
    blow, runs = hammer(told, told.design.lines[0]), told.state.lines["line"].velocity_ms
    assert blow is not None
    density, pipe = told.model.water.density_kgm3, told.design.pipe("pe100-sdr13.6-32")
    speed = wave_speed_ms(pipe.bore_m, pipe.wall_m, pipe.modulus_pa or 0.0, density)
    assert blow.velocity_ms == runs
    assert blow.rise_pa == pytest.approx(joukowsky_pa(speed, runs, density))
    assert blow.quick_s == pytest.approx(2 * 210 / speed)
    assert blow.pressure_pa == blow.stands_pa + blow.rise_pa


def test_shut_as_slowly_as_is_said_it_stays_within_the_class() -> None:
    told = analysis(**{"places.1.ground_m": 20, "lines.0.points": [], "outlets.0.valve.kv_m3h": 30})
    blow = hammer(told, told.design.lines[0])
    assert blow is not None
    assert blow.gentle_s is not None
    assert blow.gentle_s > blow.quick_s
    slow = rigid_column_pa(210.0, blow.velocity_ms, blow.gentle_s, told.model.water.density_kgm3)
    assert blow.stands_pa + slow == pytest.approx(blow.limit_pa)


@pytest.mark.parametrize(
    "changes",
    [
        {"lines.0.inline": []},  # nothing shuts it by hand, and a float shuts slowly
        {"lines.0.product": "hose-0.75"},  # of a hose no modulus is known
        {"outlets.0.shut": True},
        {"lines.0.product": None, "lines.0.bore_mm": 27.2, "lines.0.roughness_mm": 0.007},
    ],
)
def test_where_nothing_is_known_or_nothing_runs_no_blow_is_told(changes: dict[str, Any]) -> None:
    told = analysis(**changes)
    assert hammer(told, told.design.lines[0]) is None


def test_a_tap_at_the_end_of_a_line_shuts_it_too() -> None:
    tap = {"id": "valve", "place": "end", "kind": "open_end", "height_m": 0.6, "bore_mm": 20}
    told = analysis(**{"outlets.0": tap, "lines.0.inline": [], "requirements.0.refill_min": None})
    assert hammer(told, told.design.lines[0]) is not None
