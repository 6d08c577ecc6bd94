"""The way round the lines: held against the plan as a graph, on made-up trees and rings of several tanks."""

import random
from typing import Any

import pytest

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.winter.tour import Passed, tour
from leadsman.core.winter.walk import drain_walk, spring_walk
from systems import farm, judged, line

SEEDS = range(12)


def made_up(seed: int) -> Analysis:
    """One to three tanks at the top of a tree of junctions with drains, taps and filters, now and then a ring in it."""
    chance = random.Random(seed)
    tanks = {f"t{number}": 150.0 + chance.uniform(0, 30) for number in range(chance.randint(1, 3))}
    joints = [f"at-jm{number}" for number in range(chance.randint(2, 7))]
    lines = []

    def parts(length_m: float) -> list[dict[str, Any]]:
        kinds = chance.sample(["drain", "tap_point", "filter", "vent", "isolating_valve"], chance.randint(0, 4))
        return [{"kind": kind, "at_m": round(chance.uniform(0.1, 0.9) * length_m, 1)} for kind in kinds]

    def add(id_: str, start: str, end: str) -> None:
        length_m = chance.uniform(20, 300)
        lines.append(line(id_, start, end, length_m=length_m, inline=parts(length_m)))

    for number, joint in enumerate(joints):  # of which the first hangs on a tank
        add(f"m{number}", joints[chance.randrange(number)] if number else "t0", joint)
    for number, tank in enumerate(list(tanks)[1:]):
        add(f"feed{number}", tank, chance.choice(joints))
    troughs = dict.fromkeys(["x", "y"][: chance.randint(1, 2)], 100.0)
    for trough in troughs:
        add(f"to-{trough}", chance.choice(joints), trough)
    if chance.random() < 0.5 and len(joints) > 2:
        add("ring", joints[0], joints[-1])
    return judged(farm(lines, tanks, troughs))


def far_m(analysis: Analysis) -> dict[str, float]:
    """Return how far each end of a line is from the first tank over pipe [m], by Bellman and Ford's method."""
    far = {"t0": 0.0}
    for _ in analysis.document.lines:
        for own in analysis.document.lines:
            for start, end in ((own.from_, own.to), (own.to, own.from_)):
                if start in far:
                    far[end] = min(far.get(end, float("inf")), far[start] + own.pipe_length_m)
    return far


@pytest.mark.parametrize("seed", SEEDS)
def test_everything_is_passed_once(seed: int) -> None:
    analysis = made_up(seed)
    (stretch,) = tour(analysis)
    parts = [(one.line.id, one.number) for one in stretch.passed if one.number is not None]
    assert sorted(parts) == sorted(
        (own.id, number) for own in analysis.document.lines for number in range(len(own.inline))
    )
    outlets = [one.outlet.id for one in stretch.passed if one.outlet is not None]
    assert sorted(outlets) == sorted(outlet.id for outlet in analysis.document.outlets)
    taps = [(own.id, source.id) for own, source in stretch.sources]
    assert sorted(taps) == sorted((own.id, own.from_) for own in analysis.document.lines if own.from_[0] == "t")


@pytest.mark.parametrize("seed", SEEDS)
def test_nobody_jumps_from_one_line_to_another_that_does_not_hang_on_what_was_walked(seed: int) -> None:
    analysis = made_up(seed)
    (stretch,) = tour(analysis)
    reached = {"t0"} | {source.id for _, source in stretch.sources}
    for own in stretch.lines:
        assert {own.from_, own.to} & reached, own.id
        reached |= {own.from_, own.to}
    assert sorted(own.id for own in stretch.lines) == sorted(analysis.model.layout.lines)
    order = [own.id for own in stretch.lines]
    assert [one.line.id for one in stretch.passed] == sorted((one.line.id for one in stretch.passed), key=order.index)


@pytest.mark.parametrize("seed", SEEDS)
def test_the_parts_of_a_line_come_one_after_the_other_from_the_nearer_end(seed: int) -> None:
    analysis = made_up(seed)
    (stretch,) = tour(analysis)
    has_ring, first = "ring" in analysis.model.layout.lines, stretch.sources[0][1].id
    by_line: dict[str, list[Passed]] = {}
    for one in stretch.passed:
        by_line.setdefault(one.line.id, []).append(one)
    for line_id, passed in by_line.items():
        own = analysis.model.layout.lines[line_id]
        at_m = [own.inline[one.number].at_m for one in passed if one.number is not None]
        up, down = sorted(at_m), sorted(at_m, reverse=True)
        assert at_m in (up, down)
        if not has_ring and first == "t0":
            far = far_m(analysis)
            assert at_m == (up if far[own.from_] < far[own.to] else down)


@pytest.mark.parametrize("seed", SEEDS)
def test_what_is_opened_is_shut_again_in_the_other_order(seed: int) -> None:
    analysis = made_up(seed)
    opened = [step for step in drain_walk(analysis) if step.step_id.split("-")[0] in ("open", "filter", "end")]
    shut = [step for step in spring_walk(analysis) if step.step_id.split("-")[0] in ("shut", "filter", "fit")]
    assert [step.part for step in opened] == [step.part for step in reversed(shut)]
    walk = [step.step_id for step in drain_walk(analysis)]
    assert len(set(walk)) == len(walk)
    last_tap = max(number for number, id_ in enumerate(walk) if id_.startswith("source-"))
    assert last_tap < min(walk.index(step.step_id) for step in opened)


def test_stretches_between_tanks_are_walked_one_by_one_from_the_top() -> None:
    """a (160) fills b (150) by one line, b fills c (140) by another, c feeds the trough; a ring of vessels is none."""
    chain = [line("cx", "c", "x"), line("bc", "b", "c"), line("ab", "a", "b")]
    analysis = judged(farm(chain, {"a": 160.0, "b": 150.0, "c": 140.0}, {"x": 100.0}))
    walked = [[one.line.id for one in stretch.passed] for stretch in tour(analysis)]
    assert walked == [["ab"], ["bc"], ["cx"]]
    heights = [stretch.sources[0][1].id for stretch in tour(analysis)]
    assert heights == ["a", "b", "c"]


def test_a_line_that_nothing_feeds_comes_last_and_is_walked_all_the_same() -> None:
    document = farm([line("loose", "at-jloose", "y"), line("ax", "a", "x")], {"a": 120.0})
    analysis = judged(document)
    assert [[one.line.id for one in stretch.passed] for stretch in tour(analysis)] == [["ax"], ["loose", "loose"]]
