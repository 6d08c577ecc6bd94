"""For how long a flow lasts, by hand and against the run over time."""

import numpy as np
import pytest

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.sustained import sustained
from leadsman.core.base.units import lpm_from_m3s
from leadsman.core.base.wording import plain
from leadsman.core.dayrun.run import day_run
from leadsman.core.design import Design
from leadsman.core.design.file import read_design, write_design
from leadsman.core.findings.registry import judge
from leadsman.core.findings.verdict import verdict
from runs import farm

SPRING = {"id": "spring", "kind": "spring", "fills": "tank", "claimed_lpm": 10.0}


def with_spring(lpm: float) -> Design:
    """The tank of 1.13 m2 over its 0.1 m outlet, 1.8 m full, a tap 20 m lower, and a spring."""
    return read_design({**write_design(farm()), "inflows": [{**SPRING, "claimed_lpm": lpm}]})


def test_a_tap_gets_its_flow_until_the_tank_is_down_and_then_what_the_spring_gives() -> None:
    analysis = Analysis(with_spring(10.0))
    tap = analysis.model.layout.outlets["tap"]
    flow = analysis.flows_alone_m3s["tap"]
    found = sustained(analysis, tap, together=False)
    assert found is not None
    usable = np.pi * 0.36 * (1.8 - 0.1)
    assert found.lasts_s == pytest.approx(usable / (flow - 10.0 / 60_000.0), rel=1e-6)
    assert lpm_from_m3s(found.then_m3s) == pytest.approx(10.0)


def test_the_run_over_time_says_the_same() -> None:
    """The flow falls a little with the level, so the tank lasts somewhat longer; then the spring's flow is left."""
    design = with_spring(10.0)
    analysis = Analysis(design)
    found = sustained(analysis, analysis.model.layout.outlets["tap"], together=True)
    assert found is not None
    told = day_run(design, 4.0 * found.lasts_s, [4.0 * found.lasts_s])
    dry = next(event.time_s for event in told.events if event.kind == "runs-dry")
    assert found.lasts_s <= dry <= 1.15 * found.lasts_s
    assert told.outlets_m3s[-1, 0] == pytest.approx(found.then_m3s, rel=1e-3)


def test_a_spring_that_keeps_up_makes_it_last() -> None:
    analysis = Analysis(with_spring(500.0))
    assert sustained(analysis, analysis.model.layout.outlets["tap"], together=True) is None
    flow = verdict(analysis, judge(analysis)).numbers[0]
    assert "then" not in plain(flow.wanted)


def test_the_verdict_tells_both() -> None:
    analysis = Analysis(with_spring(10.0))
    flow = verdict(analysis, judge(analysis)).numbers[0]
    assert plain(flow.wanted).endswith("minutes, then 10.0 L/min")
