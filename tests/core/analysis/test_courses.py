"""Ways through a network: to every outlet at once, between any two places, in passing and at a glance."""

import json
from typing import Any

import pytest
from bench.designs import comb, grid, tree

from examples import one_line, worked_example
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.route import course_between
from leadsman.core.analysis.running import MOST_RANGED_ALONE, TOGETHER, Running
from leadsman.core.analysis.sounding import Sounding
from leadsman.core.base.errors import UnknownName
from leadsman.core.design import Design
from leadsman.core.design.file import read_design, write_design
from leadsman.core.findings.registry import judge
from leadsman.core.report.glance import glance_report
from leadsman.core.report.preview import PREVIEWED, preview_report
from leadsman.core.report.route import course_report
from leadsman.core.report.workbench import analysis_report, rest_report
from leadsman.demo import tamsel_ridge

NETWORKS = [
    pytest.param(tree(60, 18), id="a tree"),
    pytest.param(grid(5), id="loops"),
    pytest.param(read_design(comb(3, 4)), id="a comb"),
    pytest.param(tamsel_ridge(), id="the demonstration"),
    pytest.param(read_design(worked_example()), id="the worked example"),
]


def brought_m3s(running: Running, line: str) -> float:
    return abs(running.state.flow.line_flow_m3s(line))


@pytest.mark.parametrize("design", NETWORKS)
def test_a_way_follows_at_each_node_the_line_that_brings_most(design: Design) -> None:
    running = Running(design, together_only=True)
    flow, vessels = running.state.flow, running.model.layout.vessels
    for outlet in running.fed_outlets:
        route = running.routes[outlet.id]
        if route is None:
            continue
        lengths = [leg.line.pipe_length_m for leg in route.legs]
        assert route.length_m == pytest.approx(sum(lengths))
        assert (route.legs[0].line.from_ if route.legs[0].forward else route.legs[0].line.to) in vessels
        along = [point.at_m for point in route.points]
        assert along == sorted(along)
        assert along[-1] == pytest.approx(route.length_m, rel=0.01)
        for leg in route.legs:
            end = leg.line.to if leg.forward else leg.line.from_
            into = [line for line in design.lines if end in (line.from_, line.to)]
            into = [line for line in into if (flow.line_flow_m3s(line.id) > 0.0) == (line.to == end)]
            most = max((brought_m3s(running, line.id) for line in into), default=0.0)
            assert brought_m3s(running, leg.line.id) == pytest.approx(most, rel=1e-9)


def test_an_outlet_that_no_water_runs_to_hangs_on_the_nearest_that_has_some() -> None:
    document = worked_example()
    document["places"].append({"id": "far", "east_m": 0, "north_m": 500, "ground_m": 400})
    for line_id, start, end in (("up", "fork", "far"), ("round", "far", "high")):
        document["lines"].append(
            {"id": line_id, "from": start, "to": end, "bore_mm": 20, "roughness_mm": 0.01, "length_m": 50}
        )
    document["outlets"].append({"id": "high", "kind": "open_end", "place": "far", "height_m": 0})
    running = Running(read_design(document), together_only=True)
    route = running.routes["high"]
    assert route is not None
    assert [leg.line.id for leg in route.legs] == ["main", "up", "round"]
    assert running.is_led_to(next(outlet for outlet in running.design.outlets if outlet.id == "high"))
    document["lines"][-2]["shut"] = True
    assert Running(read_design(document), together_only=True).routes["high"] is None


SIPHONED = worked_example()
SIPHONED["lines"][1]["siphon"] = True


@pytest.mark.parametrize("design", [*NETWORKS, pytest.param(read_design(SIPHONED), id="a siphon on the way")])
@pytest.mark.parametrize("together", [True, False])
def test_a_sounding_is_what_adding_up_leg_by_leg_along_the_route_gives(design: Design, together: bool) -> None:
    running = Running(design)
    along = running.model.along
    for outlet in running.fed_outlets[:12]:
        route, told = running.routes[outlet.id], running.sounding(outlet, together)
        flow = running.wanted_flows[TOGETHER if together else outlet.id]
        if route is None or told is None:
            assert told is None
            continue
        numbers = {line.id: number for number, line in enumerate(design.lines)}
        signs = [1.0 if leg.forward else -1.0 for leg in route.legs]
        losses = flow.losses_of_lines_m[:, [numbers[leg.line.id] for leg in route.legs]] * signs
        assert (told.pipe_loss_m, told.fitting_loss_m) == pytest.approx(tuple(losses.sum(axis=1)), abs=1e-9)
        assert told.surface_m == pytest.approx((flow.outlet_head_m(outlet.id) or 0.0) + losses.sum(), abs=1e-9)
        inner = [point.number for point in route.points if 0.0 < point.at_m < route.length_m]
        least = min((float(flow.point_heads_m[number] - along.pipe_m[number]) for number in inner), default=None)
        least = None if route.siphon else least
        assert told.least_over_pipe_m == (None if least is None else pytest.approx(least, abs=1e-12))


@pytest.mark.parametrize(
    ("margin_m", "least_m", "spare"),
    [
        (-0.1, None, "short"), (-0.004, None, "little"), (0.4, None, "little"), (2.0, None, "some"),
        (6.0, None, "enough"), (6.0, -0.2, "short"), (6.0, 0.5, "enough"),
    ],
)  # fmt: skip
def test_what_is_left_is_told_in_a_word_and_rounding_is_no_shortfall(
    margin_m: float, least_m: float | None, spare: str
) -> None:
    taken = Sounding(1e-4, 20.0, 10.0, 4.0 - margin_m, 1.0, 5.0, least_m)
    assert taken.margin_m == pytest.approx(margin_m)
    assert taken.spare == spare


def test_what_no_water_runs_to_is_sounded_along_the_way_that_it_would_take() -> None:
    design = read_design(one_line(**{"places.1.ground_m": 300}))
    running = Running(design, together_only=True)
    (outlet,) = running.fed_outlets
    assert not running.state.flow.ways.running[running.model.plumbing.outlet_nodes[outlet.id]]
    assert running.is_led_to(outlet)
    told = running.sounding(outlet)
    assert told is not None
    assert told.left_m < 0.0


def test_seen_in_passing_a_design_says_what_the_whole_analysis_says_of_all_outlets_together() -> None:
    design = read_design(comb(4, 5))
    whole, passing = Analysis(design), Analysis(design, together_only=True)
    for outlet in design.outlets:
        expected = whole.answer(outlet).judged_flow_m3s
        assert passing.answer(outlet).judged_flow_m3s == pytest.approx(expected, rel=1e-6)
        assert passing.flow_range(outlet) is None
    seen = {(one.code, one.where) for one in judge(passing, codes=PREVIEWED)}
    assert seen == {(one.code, one.where) for one in judge(whole) if one.code in PREVIEWED}
    report = preview_report(passing, "nobody")
    assert report.way is None
    assert report.outlets.outlet == [outlet.id for outlet in design.outlets]


def test_of_very_many_outlets_ranges_are_told_only_for_all_together() -> None:
    few, many = read_design(comb(2, 3)), read_design(comb(6, 7))
    assert len(many.outlets) > MOST_RANGED_ALONE >= len(few.outlets)
    assert Running(few).flow_range(few.outlets[0], together=False) is not None
    running = Running(many)
    assert running.flow_range(many.outlets[0]) is not None
    assert running.flow_range(many.outlets[0], together=False) is None


@pytest.mark.parametrize(
    ("start", "end", "lines"),
    [
        ("low-valve", "drip", ["spur", "drip-feed"]),
        ("drip", "low-valve", ["drip-feed", "spur"]),
        ("header", "fork", ["main"]),
        ("fork", "header", ["main"]),
    ],
)
def test_between_any_two_places_the_lines_are_followed_whichever_way_the_water_runs(
    start: str, end: str, lines: list[str]
) -> None:
    analysis = Analysis(read_design(worked_example()), together_only=True)
    told = course_report(analysis, start, end)
    lengths = {line.id: line.pipe_length_m for line in analysis.design.lines}
    assert told.lines == lines
    assert told.length_m == pytest.approx(sum(lengths[line] for line in lines))
    assert told.section[0].at_m == 0.0
    heads = [told.grade[0].head_m, told.grade[-1].head_m]
    expected = [analysis.state.flow.head_m(node) for node in (start, end)]
    assert heads == pytest.approx(expected, abs=0.06)  # at a tank, behind its fittings


@pytest.mark.parametrize(("start", "end", "path"), [("nobody", "fork", "/start"), ("fork", "nobody", "/end")])
def test_a_course_wants_two_nodes(start: str, end: str, path: str) -> None:
    with pytest.raises(UnknownName) as refused:
        course_report(Analysis(read_design(worked_example())), start, end)
    assert refused.value.path == path


def test_where_no_line_leads_there_is_no_course() -> None:
    document = worked_example()
    document["places"].append({"id": "island", "east_m": 0, "north_m": 500, "ground_m": 260})
    analysis = Analysis(read_design(document))
    assert course_between(analysis.model, "header", "island") is None
    with pytest.raises(UnknownName):
        course_report(analysis, "header", "island")


def test_at_a_glance_a_design_shows_its_lines_its_marks_and_its_sentence() -> None:
    design = tamsel_ridge()
    seen = glance_report(design)
    assert len(seen.ways) == len(design.lines)
    assert seen.outlets == len(design.outlets)
    filled = {outlet.fills for outlet in design.outlets}
    tanks = [vessel for vessel in design.vessels if vessel.id not in filled]
    assert [mark.kind for mark in seen.marks] == ["vessel"] * len(tanks) + ["outlet"] * len(design.outlets)
    findings = judge(Analysis(design))
    assert seen.findings == len(findings)
    assert seen.standing == findings[0].severity.value
    assert "".join(str(part) for part in findings[0].headline if isinstance(part, str)).split()[0] in str(seen.sentence)


def test_of_a_very_large_plan_as_much_is_found_at_a_glance_as_in_the_workbench() -> None:
    document = comb(6, 7)
    document["requirements"] = [{"outlet": outlet["id"], "flow_lpm": 60.0} for outlet in document["outlets"]]
    design = read_design(document)
    seen, shown = glance_report(design), analysis_report(Analysis(design))
    assert seen.outlets == 42
    assert shown.remedies_on_request
    assert seen.findings == len(shown.findings) > 10


@pytest.mark.parametrize("list_name", ["vessels", "lines", "outlets"])
def test_figures_that_are_ours_stay_named_in_the_file_and_change_no_answer(list_name: str) -> None:
    document: Any = json.loads(json.dumps(worked_example()))
    document[list_name][0]["assumed"] = ["shape", "product"]
    design = read_design(document)
    assert write_design(design)[list_name][0]["assumed"] == ["shape", "product"]
    plain = Running(read_design(worked_example())).state.flow.flows_m3s
    assert Running(design).state.flow.flows_m3s == pytest.approx(plain)


def test_refills_solved_part_by_part_are_those_of_one_batch(monkeypatch: pytest.MonkeyPatch) -> None:
    design = tamsel_ridge()
    whole = Analysis(design).refills
    monkeypatch.setattr("leadsman.core.steady.network_model.MOST_TOGETHER", 5)
    parts = Analysis(design).refills
    assert list(parts) == list(whole) != []
    for outlet_id, refill in whole.items():
        time_s = parts[outlet_id].time_s
        assert time_s is None if refill.time_s is None else time_s == pytest.approx(refill.time_s, rel=1e-9)


class HungUp(Exception):
    """What a caller raises that no longer waits."""


@pytest.mark.parametrize("after", [0, 1, 5, 20])
def test_long_work_ends_where_its_caller_no_longer_waits(after: int) -> None:
    checked = 0

    def check_cancelled() -> None:
        nonlocal checked
        checked += 1
        if checked > after:
            raise HungUp

    with pytest.raises(HungUp):
        rest_report(Analysis(tamsel_ridge(), check_cancelled=check_cancelled))
    assert checked == after + 1
