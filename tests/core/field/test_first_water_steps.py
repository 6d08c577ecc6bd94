"""First water: the order of its steps, when water comes, what is to be measured."""

from typing import Any

import pytest

from examples import one_line
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.wording import plain
from leadsman.core.design.file import read_design
from leadsman.core.field.first_water import FieldStep, first_water_steps
from leadsman.core.physics.front import Stretch, front_times_s
from leadsman.demo import tamsel_ridge


def steps_of(**changes: Any) -> list[FieldStep]:
    return first_water_steps(Analysis(read_design(one_line(**changes))))


def kinds(steps: list[FieldStep]) -> list[str]:
    return [step.kind for step in steps]


def test_the_demonstration_s_steps_come_in_the_order_of_the_work() -> None:
    steps = first_water_steps(Analysis(tamsel_ridge()))
    order = [
        "prime",
        "shut",
        "open",
        "fill",
        "arrives",
        "close",
        "vents",
        "flush",
        "float",
        "pail",
        "gauge",
        "night",
        "joints",
    ]
    once = [step.kind for step in steps if step.kind not in ("float", "pail")]
    assert once == sorted(once, key=order.index)
    assert len({step.step_id for step in steps}) == len(steps)
    arrivals = [step.soonest_s for step in steps if step.kind == "arrives"]
    assert arrivals == sorted(arrivals, key=lambda at: at or 0.0)
    layout = Analysis(tamsel_ridge()).model.layout
    closed = [layout.outlet_height_m(layout.outlets[step.part or ""]) for step in steps if step.kind == "close"]
    assert closed == sorted(closed, reverse=True)  # from the top down


def test_water_comes_when_the_front_does_and_never_sooner() -> None:
    analysis = Analysis(read_design(one_line()))
    (arrives,) = (step for step in first_water_steps(analysis) if step.kind == "arrives")
    (pipe,) = analysis.model.reaches_of_line("line")
    surface_m = analysis.model.layout.surface_m(analysis.design.vessels[0])
    along = analysis.model.along
    heights = [float(along.pipe_m[number]) for number in along.of_line["line"]]
    distances = [along.points[number].at_m for number in along.of_line["line"]]
    way = [
        Stretch(length_m=b - a, bore_m=pipe.bore_m, roughness_m=pipe.roughness_m, end_m=height)
        for a, b, height in zip(distances, distances[1:], heights[1:], strict=False)
    ]
    by_hand = front_times_s(surface_m, heights[0], way, analysis.state.water.kinematic_viscosity_m2s)[-1]
    assert arrives.soonest_s == pytest.approx(by_hand)
    assert arrives.latest_s is not None
    assert arrives.soonest_s is not None
    assert arrives.latest_s >= 2.0 * arrives.soonest_s
    assert "no later" not in plain(arrives.seen)


@pytest.mark.parametrize(("changes", "kind", "says"), [
    ({"lines.0.siphon": True}, "prime", "through its crest until no bubble comes"),
    ({"lines.0.inline": [{"kind": "drain", "at_m": 100}]}, "shut", "Shut the drain of line at 100 m"),
    ({"lines.0.inline": [{"kind": "vent", "at_m": 100}]}, "vents", "Close the vents"),
    ({"lines.0.cover_m": 0.3}, "joints", "covered on 3 days"),
    ({"inflows": [{"id": "well", "kind": "pump", "fills": "tank", "flow_lpm": 20, "hours_per_day": 5}]}, "prime",
     "never run it dry"),
])  # fmt: skip
def test_what_a_plan_has_brings_its_step_and_what_it_lacks_does_not(
    changes: dict[str, Any], kind: str, says: str
) -> None:
    (step,) = (one for one in steps_of(**changes) if one.kind == kind)
    assert says in plain(step.told)
    bare = steps_of(**{"lines.0.inline": [], "lines.0.cover_m": 0.0})
    assert kind not in kinds(bare)


def test_water_that_cannot_come_is_said_not_to() -> None:
    steps = steps_of(**{"lines.0.points": [[0, 120], [100, 130], [210, 101]], "lines.0.siphon": True})
    (arrives,) = (step for step in steps if step.kind == "arrives")
    assert arrives.soonest_s is None
    assert "stands over the source" in plain(arrives.seen)


def test_a_pail_and_a_gauge_are_told_what_the_plan_says() -> None:
    analysis = Analysis(read_design(one_line()))
    steps = {step.kind: step for step in first_water_steps(analysis)}
    assert steps["pail"].flow_m3s == pytest.approx(analysis.flows_alone_m3s["valve"])
    # 20.4 m of water over the valve, all shut
    static = analysis.answer(analysis.fed_outlets[0]).static_head_m
    assert static is not None
    over = static - analysis.model.layout.outlet_height_m(analysis.fed_outlets[0])
    assert steps["gauge"].shut_kpa == pytest.approx(over * 9.80665 * analysis.state.water.density_kgm3 / 1e3)


def test_a_plan_with_nothing_to_open_has_little_to_do() -> None:
    assert kinds(steps_of(**{"outlets.0.shut": True, "lines.0.inline": [], "lines.0.cover_m": 0.0})) == [
        "night",
    ]
