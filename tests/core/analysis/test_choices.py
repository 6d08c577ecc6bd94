"""Choices laid side by side before one is taken: what is told of each is what taking it brings."""

from typing import Any

import jsonpatch
import pytest

from examples import SOUND, Document, one_line
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.choices import laid_in
from leadsman.core.base.errors import UnknownName
from leadsman.core.catalogue import PipeProduct, float_valves, pipes
from leadsman.core.design.file import read_design
from leadsman.core.report.choices import pipe_choices_report, valve_choices_report

OWN = PipeProduct.model_validate({"product_id": "own-p", "name": "From the shop", "family": "PE100 by outside diameter",
    "outer_mm": 32.0, "wall_mm": 2.4, "roughness_mm": 0.007, "class_bar": 12.5, "price_per_m": 0.8})  # fmt: skip


def analysis(**changes: Any) -> Analysis:
    return Analysis(read_design(one_line(**changes)))


def flow_lpm(document: Document) -> float:
    return Analysis(read_design(document)).state.outlets["valve"].judged_flow_m3s * 60_000


def test_each_pipe_brings_what_was_told_before_it_was_taken() -> None:
    told = pipe_choices_report(analysis(), "line", [OWN])
    assert ([(outlet.id, outlet.wanted_lpm) for outlet in told.outlets], told.currency) == ([("valve", 10.0)], "USD")
    found = {choice.product.product_id: choice for choice in told.choices}
    for product_id in ("pe100-sdr13.6-40", "pe-cid-1", "pvc-sch40-1", "hose-0.75", "own-p"):
        taken = laid_in(read_design(one_line()), "line", found[product_id].product)
        assert Analysis(taken).state.outlets["valve"].judged_flow_m3s * 60_000 == pytest.approx(
            found[product_id].flows_lpm[0], rel=1e-9
        )
    assert found["own-p"].flows_lpm[0] == pytest.approx(flow_lpm(one_line()), rel=1e-9)  # the same bore as it has
    assert found["own-p"].price == pytest.approx(168.0)
    assert found["pe100-sdr13.6-40"].price == pytest.approx(210 * (pipes()["pe100-sdr13.6-40"].price_per_m or 0))
    assert all(0.5 * 27.2 <= choice.bore_mm <= 2.2 * 27.2 for choice in told.choices)
    assert len(told.choices) > 20


def test_a_pipe_that_would_not_hold_says_so_at_its_own_temperature() -> None:
    deep = {"places.1.ground_m": 10.4, "lines.0.points": []}  # 1,087 kPa, all shut and full
    cold, hot = (
        {
            choice.product.product_id: choice
            for choice in pipe_choices_report(analysis(**deep, **more), "line", []).choices
        }
        for more in ({}, {"scenarios.0.pipe_c": 40.0})
    )
    assert cold["pe100-sdr13.6-32"].holds is True
    assert cold["pe100-sdr17-32"].holds is False
    assert hot["pe100-sdr13.6-32"].holds is False
    assert hot["pe100-sdr13.6-32"].limit_kpa == pytest.approx(1250 * 0.74)
    assert hot["pe100-sdr11-32"].holds is True


def test_each_valve_gives_fills_and_loses_what_was_told() -> None:
    told = valve_choices_report(analysis(), "valve", [])
    assert told.shut_kpa == pytest.approx(200.0, rel=0.005)  # 122 − 101.6 m of water at 10 °C
    assert {choice.product.product_id for choice in told.choices} == set(float_valves())
    for choice in told.choices:
        document = jsonpatch.apply_patch(one_line(), choice.patch)
        after = Analysis(read_design(document))
        assert after.flows_alone_m3s["valve"] * 60_000 == pytest.approx(choice.flow_lpm, rel=1e-9)
        assert (choice.product.max_kpa or 1e9) >= (told.shut_kpa or 0.0) or not choice.shuts
        filled = after.refills["valve"].time_s
        assert choice.fills_min == (None if filled is None else pytest.approx(filled / 60, rel=1e-6))
        assert choice.lost_l is not None
        assert choice.lost_l <= choice.flow_lpm * 720 + 1e-6
        assert (choice.share or 0.0) <= 1.0 + 1e-9


def test_shares_of_the_pipe_lie_where_practice_has_them() -> None:
    """Common practice, no source: small diaphragms over the side pass a quarter to a third, full-flow over nine tenths.

    So it is where head and pipe are those of a trough not far below its tank.
    """
    near = {"places.1.ground_m": 115.0, "lines.0.points": [], "lines.0.product": "hose-0.75", "lines.0.length_m": 201.0}
    share = {choice.product.product_id: choice.share or 0.0
             for choice in valve_choices_report(analysis(**near), "valve", []).choices}  # fmt: skip
    assert share["full-flow-0.75"] > 0.9
    short = {**near, "lines.0.length_m": 30.0, "places.1.east_m": 29.0}
    close = {choice.product.product_id: choice.share or 0.0
             for choice in valve_choices_report(analysis(**short), "valve", []).choices}  # fmt: skip
    assert close["over-side-0.75"] < share["over-side-0.75"]
    assert 0.1 < close["small-seat-0.5"] < 0.4
    assert share["mini-tube"] < 0.15


def test_what_a_stuck_valve_loses_is_never_more_than_there_is() -> None:
    told = valve_choices_report(analysis(**SOUND), "valve", [])
    little = valve_choices_report(analysis(), "valve", [])
    for much, some in zip(told.choices, little.choices, strict=True):
        assert (much.lost_l or 0.0) >= (some.lost_l or 0.0)
    holds_l = 1000 * 3.14159265 + 1.0 * 720  # the tank and what the spring brings by the next look
    assert max(choice.lost_l or 0.0 for choice in little.choices) == pytest.approx(holds_l, rel=1e-4)


def test_unknown_parts_are_named() -> None:
    with pytest.raises(UnknownName):
        pipe_choices_report(analysis(), "no-line", [])
    with pytest.raises(UnknownName):
        valve_choices_report(analysis(), "trough", [])
