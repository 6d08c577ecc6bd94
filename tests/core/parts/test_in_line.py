"""Joints as fittings of their lines: their bores are in the losses, a narrow one is a neck, none counts twice."""

import math
from collections import Counter

import pytest

from examples import one_line
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import GRAVITY_MS2
from leadsman.core.catalogue import fittings, float_valves
from leadsman.core.design import Design
from leadsman.core.design.change import patched
from leadsman.core.design.file import read_design
from leadsman.core.design.line_pipe import line_lumps
from leadsman.core.findings.registry import judge
from leadsman.core.parts.connection import connections
from leadsman.core.parts.in_line import JointsInLines, joints_in_lines
from leadsman.core.parts.parts_list import parts_list
from leadsman.core.parts.roll import rolls_of
from leadsman.demo import tamsel_ridge


def found(design: Design) -> JointsInLines | None:
    return joints_in_lines(design, connections(design), rolls_of(design))


def with_joints(design: Design) -> Design:
    joints = found(design)
    assert joints is not None
    return patched(design, joints.patch)


def valve_on(pipe: str, valve: str, length_m: float) -> Design:
    """A tank with two metres of fall to a valve through a short wide pipe."""
    return read_design(
        one_line(
            **{
                "places.1.ground_m": 118.0, "places.1.east_m": length_m,
                "lines.0.product": pipe, "lines.0.length_m": length_m, "lines.0.inline": [],
                "lines.0.points": [[0, 120], [length_m, 118]],
                "outlets.0.valve.product": valve, "outlets.0.valve.kv_m3h": float_valves()[valve].kv_m3h,
            }
        )
    )  # fmt: skip


def necks(design: Design) -> list[str]:
    return [finding.where for finding in judge(Analysis(design), codes={"neck"})]


@pytest.mark.parametrize(("pipe", "valve", "length_m", "is_neck"), [
    ("pe100-sdr17-63", "full-flow-0.75", 6.0, True),  # bushes down to 3/4 in on a 63 mm pipe
    ("pe100-sdr17-32", "full-flow-0.75", 20.0, False),  # nearly as wide as the pipe
    ("pe100-sdr17-63", "full-flow-0.75", 600.0, False),  # the same bushes, and friction takes the head
])  # fmt: skip
def test_a_narrow_bush_is_a_neck_once_its_bore_counts(pipe: str, valve: str, length_m: float, is_neck: bool) -> None:
    before = valve_on(pipe, valve, length_m)
    after = with_joints(before)
    assert necks(before) == []
    assert necks(after) == (["valve"] if is_neck else [])
    flows = [Analysis(design).answer(design.outlets[0]).judged_flow_m3s for design in (before, after)]
    assert 0.0 < flows[1] < flows[0]


def test_every_bore_of_a_chain_is_in_the_losses_of_its_line() -> None:
    """By hand: K v2/2g on each piece's own bore, beside what the line lost without its joints."""
    before = tamsel_ridge()
    after = with_joints(before)
    water = Analysis(before, together_only=True).model.water
    for old, new in zip(before.lines, after.lines, strict=True):
        lost = [sum(one.per_flow2 for one in line_lumps(line, "/lines", water, ())) for line in (old, new)]
        bore_m = Analysis(before, together_only=True).model.reaches_of_line(old.id)[0].bore_m
        by_hand = 0.0
        for fitting in new.fittings[len(old.fittings) :]:
            k, on_m = fittings()[fitting.product or ""].loss(bore_m)
            by_hand += fitting.count * k / (2.0 * GRAVITY_MS2 * (math.pi * on_m**2 / 4.0) ** 2)
        assert lost[1] - lost[0] == pytest.approx(by_hand, rel=1e-9)
        narrowest = [
            link.on.bore_m
            for one in connections(before)
            if one.through == old.id and one.chain
            for link in one.chain.links
        ]
        used = [fittings()[one.product or ""].loss(bore_m)[1] for one in new.fittings[len(old.fittings) :]]
        assert min(used, default=1.0) <= min([*narrowest, 1.0]) + 1e-9


def test_joints_in_lines_are_bought_once_and_put_in_once() -> None:
    before = tamsel_ridge()
    after = with_joints(before)
    assert found(after) is None
    counts = [Counter({row.product_id: row.count for row in parts_list(one).rows}) for one in (before, after)]
    assert counts[0] == counts[1]
    for old, new in zip(before.lines, after.lines, strict=True):
        assert new.fittings[: len(old.fittings)] == old.fittings  # what was there stays


def test_joints_follow_the_plan() -> None:
    """A line in another pipe gets that pipe's adapters; the old ones go."""
    fitted = with_joints(valve_on("pe100-sdr17-63", "full-flow-0.75", 6.0))
    other = patched(fitted, [{"op": "replace", "path": "/lines/0/product", "value": "pe100-sdr17-32"}])
    again = with_joints(other)
    assert again.lines[0].fittings == with_joints(valve_on("pe100-sdr17-32", "full-flow-0.75", 6.0)).lines[0].fittings


def test_a_joint_from_a_tee_into_an_outlet_is_no_line_s_and_is_told() -> None:
    joints = found(tamsel_ridge())
    assert joints is not None
    through = [one for one in connections(tamsel_ridge()) if one.through is None and one.place and one.chain]
    assert joints.left_out == sum(bool(one.chain and one.chain.links) for one in through) == 1
