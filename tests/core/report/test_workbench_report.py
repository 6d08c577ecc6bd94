"""What the page is given hangs together: routes, sections, runs, soundings, feeds, verdict and demand agree."""

import pytest

from examples import Document, changed, worked_example
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.design.file import read_design, write_design
from leadsman.core.report.route import RouteReport
from leadsman.core.report.workbench import AnalysisReport, analysis_report, rest_report
from leadsman.demo import tamsel_ridge


@pytest.fixture(scope="module")
def report() -> AnalysisReport:
    return analysis_report(Analysis(tamsel_ridge()))


def report_of(document: Document) -> AnalysisReport:
    return analysis_report(Analysis(read_design(document)))


def test_every_outlet_has_its_route_with_a_run_for_all_drawing_and_for_itself(report: AnalysisReport) -> None:
    assert [route.outlet for route in report.routes] == list(report.solution.outlets)
    for route in report.routes:
        assert route.together.state == report.solution.outlets[route.outlet].state
        assert route.together.flow_lpm == pytest.approx(report.solution.outlets[route.outlet].flow_lpm)
        assert len(route.section) == len(route.together.grade) == len(route.alone.grade)
        distances = [point.at_m for point in route.section]
        assert distances == sorted(distances)
        assert distances[-1] == pytest.approx(route.length_m)
        assert list(dict.fromkeys(point.line for point in route.section)) == route.lines


def test_grade_and_pressure_of_a_section_say_the_same(report: AnalysisReport) -> None:
    for route in report.routes:
        for point, grade in zip(route.section, route.together.grade, strict=True):
            assert grade.head_m is not None
            assert grade.pressure_kpa is not None
            assert grade.pressure_kpa / 9.80665 / 0.99978 == pytest.approx(grade.head_m - point.pipe_m, abs=2e-3)
            assert grade.low_m is not None
            assert grade.high_m is not None
            assert grade.low_m <= grade.head_m + 1e-9
            assert grade.head_m <= grade.high_m + 1e-9
            assert grade.velocity_ms > 0.0


def margin(route: RouteReport) -> float:
    assert route.together.sounding is not None
    return route.together.sounding.margin_m


def test_who_lacks_head_at_the_wanted_flow_gets_less_than_that(report: AnalysisReport) -> None:
    wanted = {
        requirement.outlet: requirement.flow_lpm
        for requirement in tamsel_ridge().requirements
        if requirement.outlet and requirement.flow_lpm
    }
    for route in report.routes:
        if route.outlet in wanted:
            # with every outlet at its wanted flow the margin may differ in sign only where flows are near it
            short = route.together.flow_lpm < wanted[route.outlet]
            assert short is (margin(route) < 0.0)
        sounding = route.alone.sounding
        assert sounding is not None
        fall = sounding.surface_m - sounding.outlet_m
        assert fall == pytest.approx(sounding.pipe_loss_m + sounding.fitting_loss_m + sounding.left_m)
        assert sounding.margin_m == pytest.approx(sounding.left_m - sounding.valve_needs_m)
        assert sounding.margin_m >= margin(route)


def test_a_feed_runs_from_the_higher_vessel_and_carries_what_its_line_does(report: AnalysisReport) -> None:
    heads = {vessel: report.solution.nodes[vessel].head_m or 0.0 for vessel in ("weir-box", "butt", "chambers")}
    assert heads["weir-box"] > heads["chambers"] < heads["butt"]
    for feed in report.feeds:
        assert feed.flow_lpm == pytest.approx(abs(report.solution.lines[feed.lines[-1]].flow_lpm))
        assert len(feed.section) == len(feed.grade)
        assert feed.grade[0].head_m == pytest.approx(heads[feed.vessel], abs=0.05)


def test_what_is_cut_off_has_nulls_and_its_reason() -> None:
    report = report_of(changed(worked_example(), {"lines.1.shut": True}))
    cut = next(route for route in report.routes if route.outlet == "low-valve")
    assert cut.vessel is None
    assert (cut.lines, cut.section, cut.together.grade) == ([], [], [])
    assert cut.together.state == "dry"
    assert any("no open line" in part for part in cut.together.reason_words if isinstance(part, str))
    assert cut.together.sounding is None
    assert cut.together.flow_range is None
    running = next(route for route in report.routes if route.outlet == "drip")
    assert running.together.state == "running"


def test_at_rest_the_same_is_said_and_more() -> None:
    analysis = Analysis(tamsel_ridge())
    edit, rest = analysis_report(analysis), rest_report(analysis)
    codes = [(finding.code, finding.where) for finding in edit.findings]
    assert set(codes) < {(finding.code, finding.where) for finding in rest.findings}
    assert rest.checked == edit.checked
    assert [number.key for number in rest.verdict.numbers] == [number.key for number in edit.verdict.numbers]
    assert {one.outlet for one in rest.watering} == {"low-valve", "ewe-valve", "goose-valve"}
    assert all(finding.remedies is not None for finding in rest.findings)


def test_the_demand_adds_up_and_is_what_the_balance_counts(report: AnalysisReport) -> None:
    demand = report.demand
    parts = [herd.daily_l for herd in demand.herds] + [other.daily_l for other in demand.others]
    assert demand.daily_l == pytest.approx(sum(parts))
    apart = sum(other.daily_l for other in demand.others if other.where == "mat-valve")  # the butt's benches
    assert report.supply.demand_lpd == pytest.approx(demand.daily_l - apart)
    assert sum(demand.hours_l["hot-spell"]) == pytest.approx(demand.daily_l)
    assert set(demand.season.asked_lpd) == {"low-valve", "ewe-valve", "goose-valve"}
    day = demand.season.days.index(demand.date or "")
    assert {herd: stops[day] for herd, stops in demand.season.stops.items()} == {
        herd.id: herd.outlets for herd in demand.herds
    }


def test_a_finding_of_a_source_names_it_and_a_store_tells_how_full_it_is() -> None:
    document = worked_example()
    document["inflows"] = [
        {"id": "west", "kind": "mains", "fills": "header", "flow_lpm": 3.0, "air_gap": False},
        {"id": "east", "kind": "mains", "fills": "header", "flow_lpm": 3.0, "air_gap": True},
    ]
    told = report_of(document)
    assert [one.inflow for one in told.findings if one.code == "no-air-gap"] == ["west"]
    assert {one.inflow for one in told.findings if one.where != "header"} == {None}
    (store,) = told.supply.stores
    assert store.full_share == pytest.approx(1.6 / 2.1)


def test_the_demonstration_is_written_and_read_as_it_is() -> None:
    assert read_design(write_design(tamsel_ridge())) == tamsel_ridge()
    assert {part.animal for part in tamsel_ridge().herds} == {"growing cattle", "ewe in milk", "goose"}
