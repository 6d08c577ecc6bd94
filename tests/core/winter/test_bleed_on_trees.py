"""What keeps made-up trees of pipe open: warmth followed pipe by pipe from the source, with nothing of the search."""

import math
import random
from typing import Any

import pytest

from leadsman.core.winter.bleed import LEAST_C
from leadsman.core.winter.winter import Winter, winter
from systems import farm, judged, line

AIR_C, SOURCE_C = -8.0, 5.0
FROST = {"from": "2031-12-01", "to": "2031-12-20", "air_c": AIR_C, "wind_mps": 4.0, "water_c": SOURCE_C}
SEEDS = range(10)


def made_up(seed: int) -> dict[str, Any]:
    """A tree of three to seven pipes of any length, bore and foam over one tank, a trough at each of its two last."""
    chance = random.Random(seed)

    def pipe(id_: str, start: str, end: str) -> dict[str, Any]:
        return line(id_, start, end, length_m=chance.uniform(10, 250), bore_mm=chance.choice([16.0, 20.4, 27.2, 40.8]),
                    lagging_mm=chance.choice([0.0, 9.0, 19.0, 40.0]))  # fmt: skip

    joints = [f"at-jm{number}" for number in range(chance.randint(1, 5))]
    lines = [pipe(f"m{number}", joints[chance.randrange(number)] if number else "a", joint)
             for number, joint in enumerate(joints)]  # fmt: skip
    lines += [pipe(f"to-{trough}", chance.choice(joints), trough) for trough in ("x", "y")]
    document = farm(lines, {"a": 150.0}, {"x": 100.0, "y": 100.0})
    document["frost"] = FROST
    return document


def in_frost(document: dict[str, Any]) -> Winter:
    found = winter(judged(document))
    assert found is not None
    return found


def ends_c(document: dict[str, Any], found: Winter, flows: dict[str, float]) -> dict[str, float]:
    """Return how warm water comes to each trough, by walking down the tree and summing what goes on in each pipe."""
    loss = {one.line.id: one.loss_wk for one in found.lines}
    below: dict[str, list[dict[str, Any]]] = {}
    for own in document["lines"]:
        below.setdefault(own["from"], []).append(own)

    def drawn(end: str) -> float:
        return flows.get(end, 0.0) + sum(drawn(own["to"]) for own in below.get(end, []))

    warm: dict[str, float] = {}

    def follow(start: str, comes_c: float) -> None:
        for own in below.get(start, []):
            flow = drawn(own["to"])
            if flow <= 0.0:
                continue  # a stub in which nothing runs
            leaves_c = AIR_C + (comes_c - AIR_C) * math.exp(-loss[own["id"]] / (4.2e6 * flow))
            warm[own["to"]] = leaves_c
            follow(own["to"], leaves_c)

    follow("a", SOURCE_C)
    return {end: warm[end] for end in flows}


@pytest.mark.parametrize("seed", SEEDS)
def test_all_ends_stay_open_and_with_a_hundredth_less_one_does_not(seed: int) -> None:
    document = made_up(seed)
    found = in_frost(document)
    flows = {one.outlet.id: one.least_m3s or 0.0 for one in found.bleeds}
    assert set(flows) == {"x", "y"}
    assert min(flows.values()) >= 0.0
    runs = {end: flow for end, flow in flows.items() if flow > 1e-9}
    assert min(ends_c(document, found, runs).values()) >= LEAST_C - 1e-3
    less = {end: 0.99 * flow for end, flow in runs.items()}
    assert min(ends_c(document, found, less).values()) < LEAST_C


@pytest.mark.parametrize("seed", SEEDS)
def test_it_is_near_the_least_of_all_pairs(seed: int) -> None:
    """Every pair of flows on a grid around it that keeps both ends open takes no less, but for the grid's width."""
    document = made_up(seed)
    found = in_frost(document)
    flows = {one.outlet.id: one.least_m3s or 0.0 for one in found.bleeds}
    total = sum(flows.values())
    best = math.inf
    for left in range(1, 81):
        for right in range(1, 81):
            tried = {"x": flows["x"] * left / 40.0 + 1e-12, "y": flows["y"] * right / 40.0 + 1e-12}
            if sum(tried.values()) < best and min(ends_c(document, found, tried).values()) >= LEAST_C:
                best = sum(tried.values())
    assert total <= 1.05 * best


@pytest.mark.parametrize("seed", SEEDS)
def test_a_warmer_source_and_milder_air_never_take_more(seed: int) -> None:
    document = made_up(seed)

    def total(**frost: float) -> float:
        found = in_frost({**document, "frost": {**FROST, **frost}})
        return sum(one.least_m3s or 0.0 for one in found.bleeds)

    assert total() >= total(water_c=7.0) >= total(water_c=10.0)
    assert total(air_c=-14.0) >= total() >= total(air_c=-3.0)
    assert total(wind_mps=9.0) >= total() >= total(wind_mps=0.5)


@pytest.mark.parametrize("seed", SEEDS)
def test_what_is_least_left_running_arrives_so(seed: int) -> None:
    """Asked for again as what runs, the least arrives as it was reckoned, where the lines pass it."""
    document = made_up(seed)
    found = in_frost(document)
    asked = [{"outlet": one.outlet.id, "flow_lpm": 60_000.0 * one.least_m3s} for one in found.bleeds if one.least_m3s]
    again = in_frost({**document, "frost": {**FROST, "bleeds": asked}})
    if not found.bled_at_once:
        assert sum(one.asked_m3s for one in again.bleeds) < sum(one.least_m3s or 0.0 for one in found.bleeds)
        return
    for one in again.bleeds:
        if one.asked_c is not None:
            assert one.asked_c >= LEAST_C - 1e-3
