"""Pressure in a plan's lines: what stands where, what warm pipe is good for, and the blow of a tap shut quickly."""

import math
from typing import Any

import numpy as np
import pytest

from examples import one_line
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.hammer import Hammer, hammer
from leadsman.core.analysis.pressure_limit import limits_pa, strain
from leadsman.core.base.units import pa_from_head_m
from leadsman.core.base.wording import plain
from leadsman.core.design.file import read_design
from leadsman.core.findings.registry import judge
from leadsman.core.physics.surge import joukowsky_pa, wave_speed_ms

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
        ("pe100-sdr13.6-32", 40.0, 0.74), ("pvc-sch40-1", 30.0, None),
        ("pvc-sch40-1", 32.2, 0.75), ("pvc-sch40-1", 48.9, 0.40), ("hose-0.75", 40.0, 0.66),
        ("hose-0.75", 20.0, 1.0),
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


@pytest.mark.parametrize(
    ("product", "known_c"), [("pe100-sdr13.6-32", 40.0), ("pvc-sch40-1", 48.9), ("hose-0.75", 60.0)]
)
def test_hotter_than_is_published_it_is_not_judged_and_that_is_said(product: str, known_c: float) -> None:
    for pipe_c, said in ((known_c, False), (known_c + 0.1, True)):
        told = analysis(**{"lines.0.product": product, "scenarios.0.pipe_c": pipe_c})
        assert bool(limits_pa(told)) is not said
        assert ("pipe-too-hot" in {finding.code for finding in judge(told)}) is said
    bare = {"lines.0.product": None, "lines.0.bore_mm": 27.2, "lines.0.roughness_mm": 0.007, "scenarios.0.pipe_c": 70.0}
    assert "pipe-too-hot" not in {finding.code for finding in judge(analysis(**bare))}  # it has no class to lose


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


TAP = {"lines.0.inline": [{"kind": "isolating_valve", "at_m": 209.0}]}  # at the trough
STEEP: dict[str, Any] = {"places.1.ground_m": 20, "lines.0.points": [], "outlets.0.valve.kv_m3h": 30}


def blow_of(**changes: Any) -> Hammer | None:
    told = analysis(**changes)
    return hammer(told, told.design.lines[0])


def test_the_blow_of_a_tap_at_the_trough_is_joukowsky_s_on_what_runs_with_all_drawing() -> None:
    told = analysis(**TAP, **{"outlets.0.valve.kv_m3h": 30})
    blow, runs = hammer(told, told.design.lines[0]), told.state.lines["line"].velocity_ms
    assert blow is not None
    density, pipe = told.model.water.density_kgm3, told.design.pipe("pe100-sdr13.6-32")
    speed = wave_speed_ms(pipe.bore_m, pipe.wall_m, pipe.modulus_pa or 0.0, density)
    assert blow.velocity_ms == runs
    assert blow.rise_pa == pytest.approx(joukowsky_pa(speed, runs, density))
    assert blow.quick_s == pytest.approx(2 * 209 / speed)
    assert blow.pressure_pa == blow.stands_pa + blow.rise_pa
    assert blow.modulus_pa == pipe.modulus_pa
    assert blow.rise_range_pa[0] < 0.9 * blow.rise_pa
    assert blow.rise_range_pa[1] > 1.1 * blow.rise_pa


def greatest_by_characteristics_pa(
    blow: Hammer, turned_s: float, *, length_m: float, speed_ms: float, fall_m: float, left_m: float
) -> float:
    """Return the greatest rise over what stands [Pa] at a tap that is turned evenly, by the method of characteristics.

    The column runs at the blow's velocity before, loses what is not `left_m` of the fall in friction, and leaves
    through the tap into air; the vessel stands.
    """
    cells, g, density = 60, 9.80665, 998.2
    step = length_m / cells / speed_ms
    impedance = speed_ms / g
    drag = (fall_m - left_m) / blow.velocity_ms**2 / cells  # head of one cell's friction at 1 m/s
    heads = np.linspace(fall_m, left_m, cells + 1)
    runs = np.full(cells + 1, blow.velocity_ms)
    most = left_m
    for number in range(1, int((turned_s + 6 * length_m / speed_ms) / step)):
        plus = heads[:-1] + impedance * runs[:-1] - drag * runs[:-1] * np.abs(runs[:-1])
        minus = heads[1:] - impedance * runs[1:] + drag * runs[1:] * np.abs(runs[1:])
        heads_after, runs_after = heads.copy(), runs.copy()
        heads_after[1:-1] = (plus[:-1] + minus[1:]) / 2
        runs_after[1:-1] = (plus[:-1] - minus[1:]) / (2 * impedance)
        heads_after[0], runs_after[0] = fall_m, (fall_m - minus[0]) / impedance
        opening = max(0.0, 1.0 - number * step / turned_s)
        passes = (opening * blow.velocity_ms) ** 2 / left_m  # v² of the tap at 1 m of head
        runs_after[-1] = (
            -passes * impedance + math.sqrt((passes * impedance) ** 2 + 4 * passes * max(plus[-1], 0.0))
        ) / 2
        heads_after[-1] = plus[-1] - impedance * runs_after[-1]
        heads, runs = heads_after, runs_after
        most = max(most, float(heads[-1]))
    return (most - fall_m) * g * density


@pytest.mark.parametrize("ground_m", [20.0, 0.0, -2.0])
@pytest.mark.parametrize("kv", [8.0, 30.0, 45.0])
def test_turned_as_slowly_as_is_said_it_stays_within_the_class_by_the_method_of_characteristics(
    ground_m: float, kv: float
) -> None:
    told = analysis(**{**TAP, **STEEP, "places.1.ground_m": ground_m, "outlets.0.valve.kv_m3h": kv})
    blow = hammer(told, told.design.lines[0])
    assert blow is not None
    assert blow.gentle_s is not None
    assert blow.turned_s is not None
    assert blow.gentle_s > blow.quick_s
    pipe = told.design.pipe("pe100-sdr13.6-32")
    speed = wave_speed_ms(pipe.bore_m, pipe.wall_m, pipe.modulus_pa or 0.0, 998.2)
    fall = 121.0 - ground_m - 0.6
    left = (blow.velocity_ms * math.pi * pipe.bore_m**2 / 4 * 3600 / kv) ** 2 * 1e5 / 9806.65

    def rise_pa(turned_s: float) -> float:
        return greatest_by_characteristics_pa(blow, turned_s, length_m=209.0, speed_ms=speed, fall_m=fall, left_m=left)

    spare = blow.limit_pa - blow.stands_pa
    assert rise_pa(blow.turned_s) <= spare
    assert rise_pa(0.05) == pytest.approx(blow.rise_pa, rel=0.35)  # at once, it is the blow: line packing adds to it
    if kv > 8.0:
        assert rise_pa(blow.gentle_s) > spare  # the slow formula on the time of turning is not enough


@pytest.mark.parametrize(
    ("tap", "strikes"),
    [
        ({"kind": "isolating_valve", "at_m": 209.0}, True),
        ({"kind": "isolating_valve", "at_m": 1.0}, False),  # at the vessel: there is no column before it
        ({"kind": "tap_point", "at_m": 120.0}, True),
        ({"kind": "drain", "at_m": 209.0}, False),
    ],
)
def test_where_the_tap_sits_decides(tap: dict[str, Any], strikes: bool) -> None:
    blow = blow_of(**STEEP, **{"lines.0.inline": [tap]})
    assert (blow is not None and blow.pressure_pa > blow.limit_pa) is strikes


@pytest.mark.parametrize(("product", "strikes"), [("pilot-1.5", True), ("full-flow-1.5", False), (None, False)])
def test_a_float_valve_with_a_pilot_snaps_shut_and_one_on_an_arm_does_not(product: str | None, strikes: bool) -> None:
    blow = blow_of(**STEEP, **{"lines.0.inline": [], "outlets.0.valve.product": product})
    assert (blow is not None) is strikes
    if blow:
        assert blow.outlet is not None
        assert blow.gentle_s is None
        told = analysis(**STEEP, **{"lines.0.inline": [], "outlets.0.valve.product": product})
        (found,) = [finding for finding in judge(told) if finding.code == "hammer"]
        assert "valve causes water hammer in line" in plain(found.headline)


@pytest.mark.parametrize(
    "changes",
    [
        {"lines.0.inline": []},  # nothing shuts it by hand, and a float on an arm shuts slowly
        {**TAP, "lines.0.product": "hose-0.75"},  # of a hose no modulus is known
        {**TAP, "outlets.0.shut": True},
        {**TAP, "lines.0.product": None, "lines.0.bore_mm": 27.2, "lines.0.roughness_mm": 0.007},
    ],
)
def test_where_nothing_is_known_or_nothing_runs_no_blow_is_told(changes: dict[str, Any]) -> None:
    assert blow_of(**changes) is None


def test_a_tap_at_the_end_of_a_line_shuts_it_too() -> None:
    tap = {"id": "valve", "place": "end", "kind": "open_end", "height_m": 0.6, "bore_mm": 20}
    assert blow_of(**{"outlets.0": tap, "lines.0.inline": [], "requirements.0.refill_min": None}) is not None
