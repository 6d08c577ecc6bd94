"""How answers move with uncertain figures, and the ranges and bands that follow: against differences and corners."""

from dataclasses import replace
from typing import Any

import numpy as np
import pytest

from examples import Document, changed, one_line, worked_example
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.ranges import Answer, all_answers, node_head, outlet_flow, ranges, ranges_of
from leadsman.core.analysis.running import TOGETHER
from leadsman.core.analysis.section import route_band
from leadsman.core.analysis.sensitivity import Outputs, gradient
from leadsman.core.analysis.uncertainty import intervals, rows_of
from leadsman.core.design.file import read_design
from leadsman.core.report.ranges import ranges_report
from leadsman.core.steady.flow import Flow
from leadsman.core.steady.loading import Figures, likely_figures
from leadsman.core.steady.solve import solve
from networks import random_network
from properties import seeds

KINDS = {
    "place_rise_m": 1e-4, "level_rise_m": 1e-4, "bore_m": 1e-7, "roughness_m": 1e-8, "fitting_factor": 1e-4,
    "kv_factor": 1e-4,
}  # fmt: skip


def flow_of(document: Document) -> Flow:
    return solve(read_design(document), all_open=True).solved.used


def value_of(flow: Flow, figures: Figures, outputs: Outputs) -> float:
    solution = flow.model.plumbing.solver.solve(flow.model.loader.cases([flow.case], figures))
    assert solution.converged.all()
    return float(outputs.values(solution, figures)[0])


@pytest.mark.parametrize("seed", seeds(300, 12))
def test_each_answer_moves_with_each_figure_as_differences_say(seed: int) -> None:
    flow = flow_of(random_network(seed, most_places=6))
    plumbing = flow.model.plumbing
    outlets = [link for link in plumbing.outlet_link.values() if flow.flows_m3s[link] > 1e-6]
    nodes = [number for number in plumbing.junctions.values() if flow.reached[number]]
    for node, link in [(nodes[0], -1), *[(-1, link) for link in outlets[:2]]]:
        outputs = Outputs(node=np.array([node]), link=np.array([link]), sign=np.array([1.0]), place=np.array([-1]))
        figures = likely_figures(plumbing)
        figures = replace(figures, roughness_m=figures.roughness_m + 1e-6)  # room to move either way
        cases = flow.model.loader.cases([flow.case], figures)
        slopes = gradient(flow.model.loader, cases, figures, plumbing.solver.solve(cases), outputs)
        scale = abs(value_of(flow, figures, outputs)) + 1e-9
        for kind, step in KINDS.items():
            for column in range(getattr(figures, kind).shape[1]):
                ends = []
                for sign in (1.0, -1.0):
                    moved = getattr(figures, kind).copy()
                    moved[0, column] += sign * step
                    ends.append(value_of(flow, replace(figures, **{kind: moved}), outputs))
                by_differences = (ends[0] - ends[1]) / (2.0 * step)
                slope = float(getattr(slopes, kind)[0, column])
                assert slope == pytest.approx(by_differences, rel=5e-3, abs=2e-5 * scale / step * 1e-4), (kind, column)


def test_a_range_is_the_answer_at_its_own_corners() -> None:
    flow = flow_of(one_line(**{"places.1.height_error_m": 0.5}))
    found = ranges(flow, [outlet_flow(flow.model.layout.outlets["valve"])])
    one = next(iter(found.values()))
    bounds = intervals(flow.model.plumbing, flow.case)
    columns = bounds.columns()
    for extreme, best in ((one.worst, False), (one.best, True)):
        # wider, smoother, easier fittings, a larger valve, a fuller tank and a lower outlet give more
        more = {"bore_m": 1.0, "roughness_m": 0.0, "fitting_factor": 0.0, "kv_factor": 1.0, "level_rise_m": 1.0}
        shares = [more.get(kind, 1.0 if number == 0 else 0.0) for kind, number in columns]
        corner = rows_of(bounds, np.array([shares if best else [1.0 - share for share in shares]]))
        solution = flow.model.plumbing.solver.solve(flow.model.loader.cases([flow.case], corner))
        assert extreme == pytest.approx(solution.flows_m3s[0, flow.model.plumbing.outlet_link["valve"]], rel=1e-9)
    assert {cause.kind for cause in one.causes} >= {"kv_factor", "bore_m", "roughness_m", "place_rise_m"}
    effects = [cause.effect for cause in one.causes]
    assert effects == sorted(effects, reverse=True)


def test_what_is_known_exactly_has_no_range() -> None:
    exact = {"lines.0": {"id": "line", "from": "tank", "to": "valve", "bore_mm": 27.2, "roughness_mm": 0.05,
                         "length_m": 210.0}, "vessels.0.overflow_m": 1.0}  # fmt: skip
    flow = flow_of(one_line(**exact))
    bounds = intervals(flow.model.plumbing, flow.case)
    assert {kind for kind, _ in bounds.columns()} == {"kv_factor", "level_rise_m"}
    low, high = (float(bound.level_rise_m[0, 0]) for bound in (bounds.low, bounds.high))
    assert [low, high] == pytest.approx([-1.0, 0.0], abs=1e-5)  # from its outlet to its overflow


def test_cases_of_one_network_are_ranged_together_as_each_by_itself() -> None:
    analysis = Analysis(read_design(worked_example()))
    states = analysis.states
    asked = [(state.solved.used, node_head("fork")) for state in states.values()]
    together = ranges_of(asked)
    for (flow, answer), one in zip(asked, together, strict=True):
        alone = ranges(flow, [answer])[answer]
        assert one is not None
        assert (one.likely, one.worst, one.best) == pytest.approx((alone.likely, alone.worst, alone.best), abs=1e-7)
    assert analysis.ranges.keys() >= {(TOGETHER, Answer("outlet_flow", "low-valve"))}


def test_the_band_of_a_section_holds_the_grade_and_what_each_end_may_be() -> None:
    analysis = Analysis(read_design(changed(worked_example(), {"outlets.1.flow_lpm": 4.0})))
    outlet = analysis.design.outlets[0]
    route = analysis.routes[outlet.id]
    assert route is not None
    band, points = analysis.band_to(outlet), analysis.section(outlet)
    assert len(band) == len(points)
    fork = ranges(analysis.state.solved.used, [node_head("fork")])[node_head("fork")]
    for within, point in zip(band, points, strict=True):
        assert within is not None
        assert point.running_head_m is not None
        assert within[0] <= point.running_head_m <= within[1]
    at_fork = next(within for within, point in zip(band, points, strict=True) if point.at_m == 224.0)
    assert at_fork == pytest.approx((fork.worst, fork.best), abs=1e-6)
    assert route_band(route, analysis.state.flow, {}) == [None] * len(points)


HIGH_POINT: dict[str, Any] = {"lines.0.points": [[0, 120], [70, 119.5], [140, 105], [210, 101]],
                        "outlets.0.valve.kv_m3h": 8.0}  # fmt: skip


def test_where_the_grade_shown_is_not_judged_by_there_is_no_band() -> None:
    analysis = Analysis(read_design(one_line(**HIGH_POINT)))
    assert analysis.state.solved.opened is not None
    assert set(analysis.band_to(analysis.design.outlets[0])) == {None}
    found = analysis.flow_range(analysis.design.outlets[0])
    assert found is not None
    assert found.likely == pytest.approx(analysis.answer(analysis.design.outlets[0]).judged_flow_m3s)


def drawn(flow: Flow, count: int, seed: int) -> Figures:
    """Figures drawn at random from within their intervals, each by itself."""
    bounds = intervals(flow.model.plumbing, flow.case)
    return rows_of(bounds, np.random.default_rng(seed).uniform(size=(count, len(bounds.columns()))))


@pytest.mark.parametrize(
    ("document", "outlet"),
    [
        (worked_example(), "low-valve"),
        (one_line(), "valve"),
        (one_line(**HIGH_POINT), "valve"),  # its line draws in air at the high point
        (changed(one_line(**HIGH_POINT), {"places.1.height_error_m": 1.5}), "valve"),
    ],
)
def test_what_is_drawn_at_random_lies_in_the_range_and_comes_near_its_ends(document: Document, outlet: str) -> None:
    flow = flow_of(document)
    answer = outlet_flow(flow.model.layout.outlets[outlet])
    found = ranges(flow, [answer])[answer]
    figures = drawn(flow, 300, 7)
    cases = flow.model.loader.cases([flow.case] * 300, figures)
    solution = flow.model.plumbing.solver.solve(cases)  # from nothing, where the range starts from what is solved
    flows = solution.flows_m3s[solution.converged, flow.model.plumbing.outlet_link[outlet]]
    assert len(flows) > 290
    width = found.best - found.worst
    assert flows.min() >= found.worst - 1e-6 * found.best
    assert flows.max() <= found.best + 1e-6 * found.best
    assert flows.max() - flows.min() > 0.4 * width  # the corners are not far beyond what ever comes


def test_the_report_of_ranges_is_in_the_documents_units_and_over_the_outlet() -> None:
    state = solve(read_design(worked_example()), all_open=True)
    report = ranges_report(state)
    valve = report.outlets["low-valve"]
    assert valve["flow_lpm"].likely == pytest.approx(state.outlets["low-valve"].flow_m3s * 60_000)
    assert valve["pressure_kpa"].likely == pytest.approx(107.5, abs=0.6)  # the format's example
    assert "flow_lpm" not in report.outlets["drip"]  # it takes its flow whatever the head
    assert "washout" not in report.lines
    assert report.nodes["fork"]["head_m"].worst < report.nodes["fork"]["head_m"].likely
    assert {answer.kind for answer in all_answers(state.solved.used)} == {
        "outlet_flow", "outlet_head", "line_flow", "node_head"}  # fmt: skip
