"""Water that stays in drained lines: by hand, and against pipes cut into short cells in which water runs downhill."""

import math
from typing import Any

import numpy as np
import pytest

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.design.layout import line_profile
from leadsman.core.winter.drain_down import held_water
from systems import farm, judged, line

AREA_M2 = math.pi / 4 * 0.0272**2
L_PER_M = 1_000 * AREA_M2
ENDS_AT_M = 100.5  # the valve of a trough at 100 m stands half a metre over its ground


def one(points: list[list[float]], **more: Any) -> Analysis:
    document = farm(
        [line("ax", "a", "x", length_m=points[-1][0], points=points, **more)], {"a": points[0][1]}, {"x": 100.0}
    )
    return judged(document)


def litres(analysis: Analysis, **asked: Any) -> float:
    return sum(held.litres for held in held_water(analysis, **asked))


def test_a_dip_keeps_what_lies_under_its_lower_rim() -> None:
    """120 m down to 98 at 40 m, up to 104 at 70, down to the valve at 100.5: the dip fills up to 104."""
    analysis = one([[0, 120.0], [40, 98.0], [70, 104.0], [100, 100.0]])
    (held,) = held_water(analysis)
    down_m, up_m = 40 * (104 - 98) / (120 - 98), 30.0
    assert (held.line.id, held.low_m) == ("ax", 40.0)
    assert held.to_m == pytest.approx(70.0)
    assert held.litres == pytest.approx((down_m + up_m) * L_PER_M, rel=1e-6)
    with_drain = one([[0, 120.0], [40, 98.0], [70, 104.0], [100, 100.0]], inline=[{"kind": "drain", "at_m": 40}])
    assert litres(with_drain) == 0.0
    beside = one([[0, 120.0], [40, 98.0], [70, 104.0], [100, 100.0]], inline=[{"kind": "drain", "at_m": 55}])
    assert litres(beside) == pytest.approx((40 * (101 - 98) / 22 + 15) * L_PER_M, rel=1e-6)


def test_a_line_that_falls_all_the_way_keeps_only_what_stands_under_its_valve() -> None:
    """The valve stands 0.5 m over the ground that falls 20 m in 100: with the end off the riser alone is full."""
    analysis = one([[0, 120.0], [100, 100.0]])
    assert litres(analysis) == 0.0  # its end is drawn at the valve
    assert litres(analysis, ends_open=False) == pytest.approx(100 * L_PER_M, rel=1e-3)


def by_cells_l(analysis: Analysis, cell_m: float = 0.05) -> float:
    """Return the litres that stay, by letting levels fall cell by cell until nothing moves any more."""
    layout = analysis.model.layout
    heights: list[float] = []
    beside: list[list[int]] = []
    nodes: dict[str, list[int]] = {}
    opened = []
    for own in analysis.document.lines:
        profile = line_profile(layout, own)
        at = np.arange(0.0, own.pipe_length_m + cell_m / 2, cell_m)
        first = len(heights)
        heights += np.interp(at, [point[0] for point in profile], [point[2] for point in profile]).tolist()
        beside += [[] for _ in at]
        for number in range(first, len(heights) - 1):
            beside[number].append(number + 1)
            beside[number + 1].append(number)
        if own.from_ not in layout.vessels:
            nodes.setdefault(own.from_, []).append(first)
        nodes.setdefault(own.to, []).append(len(heights) - 1)
        opened += [first + round(part.at_m / cell_m) for part in own.inline if part.kind == "drain"]
        if own.to in layout.outlets:
            opened.append(len(heights) - 1)
    for ends in nodes.values():
        for one_end in ends:
            beside[one_end] += [other for other in ends if other != one_end]
    level = np.full(len(heights), math.inf)
    level[opened] = np.array(heights)[opened]
    moved = True
    while moved:
        moved = False
        for order in (range(len(heights)), range(len(heights) - 1, -1, -1)):
            for number in order:
                lowest = min((level[other] for other in beside[number]), default=math.inf)
                new = min(level[number], max(heights[number], lowest))
                if new < level[number] - 1e-12:
                    level[number], moved = new, True
    return float(np.sum(level > np.array(heights) + 1e-9) * cell_m * L_PER_M)


@pytest.mark.parametrize("seed", range(12))
def test_a_branched_line_keeps_what_its_cells_do(seed: int) -> None:
    chance = np.random.default_rng(seed)

    def points(length_m: float, start: float, end: float) -> list[list[float]]:
        inner = sorted(chance.choice(np.arange(5, int(length_m) - 4), size=4, replace=False).tolist())
        between = np.interp(inner, [0, length_m], [start, end]) + chance.uniform(-4, 4, 4)
        return [[0, start], *[[float(at), float(h)] for at, h in zip(inner, between, strict=True)], [length_m, end]]

    drains = [{"kind": "drain", "at_m": float(chance.integers(10, 50))}] if seed % 2 else []
    document = farm(
        [
            line("main", "a", "at-j", length_m=60.0, points=points(60.0, 120.0, 108.0), inline=drains),
            line("left", "at-j", "x", length_m=50.0, points=points(50.0, 108.0, 100.0)),
            line("right", "at-j", "y", length_m=40.0, points=points(40.0, 108.0, 103.0)),
        ],
        {"a": 120.0},
        {"x": 100.0, "y": 103.0},
    )
    document["places"].append({"id": "at-j", "east_m": 10, "north_m": 10, "ground_m": 108.0})
    analysis = judged(document)
    assert litres(analysis) == pytest.approx(by_cells_l(analysis), abs=0.35)


@pytest.mark.parametrize("seed", range(6))
def test_another_drain_never_leaves_more(seed: int) -> None:
    chance = np.random.default_rng(seed)
    points = [[20.0 * number, float(120 - 4 * number + chance.uniform(-5, 5))] for number in range(6)]
    points[0][1], points[-1][1] = 120.0, 100.0
    inline: list[dict[str, Any]] = []
    before = litres(one(points, inline=inline))
    for at in chance.permutation(np.arange(10, 100, 17))[:4]:
        inline = [*inline, {"kind": "drain", "at_m": float(at)}]
        now = litres(one(points, inline=inline))
        assert now <= before + 1e-9
        before = now


def test_a_line_that_fills_a_tank_is_taken_off_there_and_only_then_runs_empty() -> None:
    document = farm([line("up", "a", "b", points=[[0, 140.0], [100, 120.0]])], {"a": 140.0, "b": 120.0}, {})
    analysis = judged({**document, "outlets": [], "herds": []})
    assert litres(analysis) == 0.0
    assert litres(analysis, ends_open=False) == pytest.approx(100 * L_PER_M)


def test_a_tap_at_mains_lets_nothing_out_and_a_drain_beside_it_does() -> None:
    """The line rises from the mains: with the tap there shut all of it stays, up to the valve at its end."""

    def rising(*inline: dict[str, Any]) -> Analysis:
        document = farm([line("up", "mains", "x", points=[[0, 100.0], [100, 110.0]], inline=list(inline))],
                        {}, {"x": 110.0})  # fmt: skip
        document["places"].append({"id": "gate", "east_m": 0, "north_m": 0, "ground_m": 100.0})
        document["pressure_sources"] = [
            {"id": "mains", "kind": "mains", "place": "gate", "static_kpa": 300.0, "backflow": "air_gap",
             "timings": [{"volume_l": 10.0, "time_s": 20.0}]}
        ]  # fmt: skip
        return judged({**document, "inflows": [], "herds": []})

    assert litres(rising()) == pytest.approx(100 * L_PER_M, rel=0.01)
    assert litres(rising({"kind": "drain", "at_m": 0.2})) < 0.2
