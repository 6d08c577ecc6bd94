"""Made-up days of the demonstration: any levels, outlets at the floor, overflows into others, up to three events."""

import random
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from examples import Document
from leadsman.core.dayrun.run import day_run
from leadsman.core.dayrun.story import story_of
from leadsman.core.design import Design
from leadsman.core.design.event import WHERE
from leadsman.core.design.file import read_design, write_design
from leadsman.core.steady.case import shown_scenario
from leadsman.core.steady.solve import solve
from leadsman.demo import tamsel_ridge
from properties import examples
from runs import HOUR_S, TANK, farm


def made_up(seed: int) -> Design:
    """The demonstration with other levels, and something happening."""
    rng = random.Random(seed)
    whole = write_design(tamsel_ridge())
    for vessel in whole["vessels"]:
        shape = vessel["shape"]
        top = vessel.get("overflow_m") or shape.get("height_m") or shape["diameter_m"]
        vessel["level_m"] = round(rng.choice([0.0, top, rng.uniform(0.0, top), vessel.get("outlet_m", 0.0)]), 3)
        if rng.random() < 0.2:
            vessel["outlet_m"] = 0.0
    if rng.random() < 0.5:
        one, other = rng.sample(whole["vessels"], 2)
        one["overflow_into"] = other["id"]
    whole["events"] = [happening(rng, whole, f"e{number}") for number in range(rng.randint(0, 3))]
    return read_design(whole)


def happening(rng: random.Random, whole: Any, event_id: str) -> Document:
    kind = rng.choice([*WHERE, "hot_spell"])
    event: Document = {"id": event_id, "kind": kind, "at_s": round(rng.uniform(0.0, 80_000.0))}
    if kind in WHERE:
        parts = list(whole[rng.choice(WHERE[kind])])
        if kind == "stuck_open":
            parts = [part for part in parts if part["kind"] == "float_valve"]
        event["where"] = rng.choice(parts)["id"]
    if kind == "split":
        event["at_m"] = 1.0
    if kind == "herd_moved":
        event["to"] = rng.choice(whole["outlets"])["id"]
    return event | rng.choice([{}, {"until_look": True}, {"until_s": event["at_s"] + 7_200}])


@given(st.integers(0, 100_000))
@examples(6)
def test_whatever_happens_no_water_is_made_or_lost(seed: int) -> None:
    design = made_up(seed)
    hours = 30.0
    told = day_run(design, hours * HOUR_S, np.linspace(0.0, hours * HOUR_S, 31).tolist(), shown_scenario(design))
    assert told.why == ""
    assert told.mass_error < 1e-6
    assert (told.lacking_m3 >= -1e-6).all()
    brims = np.array([vessel.brim_m for vessel in design.vessels])
    assert (told.levels_m >= -1e-6).all()
    assert (told.levels_m <= brims + 1e-6).all()
    times = [line.time_s for line in story_of(design, told, hours * HOUR_S).happenings]
    assert times == sorted(times)


def test_an_empty_tank_gives_nothing_to_another_empty_one() -> None:
    """Joined by one line without a place between: the higher one has no water to give."""
    low: Document = {**TANK, "id": "low", "place": "end", "level_m": 0.0, "outlet_m": 0.0}
    line = {"id": "line", "from": "tank", "to": "low", "bore_mm": 26.0, "roughness_mm": 0.01, "length_m": 202.0}
    empty = {**TANK, "level_m": 0.0, "outlet_m": 0.0}
    design = farm(vessels=[empty, low], lines=[line], outlets=[])
    assert solve(design).lines["line"].flow_m3s == pytest.approx(0.0, abs=1e-12)
    assert day_run(design, 24.0 * HOUR_S, [0.0, 24.0 * HOUR_S]).levels_m.tolist() == [[0.0, 0.0], [0.0, 0.0]]
