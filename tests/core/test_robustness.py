"""Whatever stands in a document: it is read and judged, or refused by name; nothing else ever happens."""

import copy
import json
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from examples import ONE_LINE, Document, one_line
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.errors import CoreError
from leadsman.core.base.fault import DesignFaults
from leadsman.core.design.file import read_design, read_design_text, write_design
from leadsman.core.report.supply import season_run_report
from leadsman.core.report.workbench import analysis_report, rest_report
from leadsman.demo import tamsel_ridge
from properties import examples

NONSENSE = st.one_of(
    st.none(), st.booleans(), st.integers(-(10**6), 10**6), st.floats(), st.text(max_size=8),
    st.sampled_from(["", "tank", "valve", "line", "top", "float_valve", "open_end", "box"]),
    st.just([]), st.just({}), st.just([[0, 1], [2]]), st.just({"kind": "box"}),
)  # fmt: skip
SMALL_STEPS = st.sampled_from([0.0, 1e-9, 1e-3, 0.1, 0.5, 0.999, 1.001, 2.0, 10.0, 1e3, -1.0])


def places_in(document: Any, here: tuple[str | int, ...] = ()) -> list[tuple[str | int, ...]]:
    """Every path in a document."""
    inner = (
        document.items() if isinstance(document, dict) else enumerate(document) if isinstance(document, list) else ()
    )
    return [here] * bool(here) + [path for key, value in inner for path in places_in(value, (*here, key))]


PATHS = places_in(ONE_LINE)


def put(document: Any, path: tuple[str | int, ...], value: Any) -> Any:
    """Set, in place, what stands at a path; a path that an earlier change took away is left."""
    for step in path[:-1]:
        try:
            document = document[step]
        except (KeyError, IndexError, TypeError):
            return
    last: Any = path[-1]
    if isinstance(document, dict) or (
        isinstance(document, list) and isinstance(path[-1], int) and path[-1] < len(document)
    ):
        document[last] = value


def judged(document: Document) -> None:
    try:
        report = analysis_report(Analysis(read_design(document)))
    except CoreError:
        return
    json.dumps(report.model_dump(mode="json"), allow_nan=False)


@given(st.lists(st.tuples(st.sampled_from(PATHS), NONSENSE), min_size=1, max_size=4))
@examples(300)
def test_nonsense_anywhere_is_refused_or_judged(changes: list[tuple[tuple[str | int, ...], Any]]) -> None:
    document = copy.deepcopy(ONE_LINE)
    for path, value in changes:
        put(document, path, copy.deepcopy(value))
    judged(document)


DEMONSTRATION: Document = json.loads(json.dumps(write_design(tamsel_ridge())))
DEMONSTRATED = places_in(DEMONSTRATION)


@given(st.lists(st.tuples(st.sampled_from(DEMONSTRATED), NONSENSE), min_size=1, max_size=2))
@examples(120)
def test_nonsense_anywhere_in_a_whole_farm_is_refused_or_judged(
    changes: list[tuple[tuple[str | int, ...], Any]],
) -> None:
    document = copy.deepcopy(DEMONSTRATION)
    for path, value in changes:
        put(document, path, copy.deepcopy(value))
    judged(document)


ENDINGS = (
    "_m", "_mm", "_c", "_l", "_s", "_kg", "_lpm", "_min", "_m3h", "_kpa", "_d", "head", "share", "visits",
)  # fmt: skip
FIGURES = [path for path in DEMONSTRATED if isinstance(path[-1], str) and path[-1].endswith(ENDINGS)]


@given(st.lists(st.tuples(st.sampled_from(FIGURES), SMALL_STEPS), min_size=1, max_size=4))
@examples(40)
def test_extreme_figures_of_a_whole_farm_are_refused_or_judged_with_their_troughs(
    changes: list[tuple[tuple[str | int, ...], float]],
) -> None:
    document = copy.deepcopy(DEMONSTRATION)
    for path, factor in changes:
        here: Any = DEMONSTRATION
        for step in path:
            here = here[step]
        if isinstance(here, int | float) and not isinstance(here, bool):
            put(document, path, here * factor)
    try:
        report = rest_report(Analysis(read_design(document)))
    except CoreError:
        return
    json.dumps(report.model_dump(mode="json"), allow_nan=False)


NUMBERS = [path for path in PATHS if path[0] not in {"version"} and isinstance(path[-1], str) and path[-1].endswith(
    ("_m", "_mm", "_c", "_l", "_s", "_kg", "_lpm", "_min", "_m3h", "_hand", "head"))]  # fmt: skip


def value_at(path: tuple[str | int, ...]) -> Any:
    found: Any = ONE_LINE
    for step in path:
        found = found[step]
    return found


@given(st.lists(st.tuples(st.sampled_from(NUMBERS), SMALL_STEPS), min_size=1, max_size=5))
@examples(200)
def test_extreme_figures_are_refused_or_judged(changes: list[tuple[tuple[str | int, ...], float]]) -> None:
    document = copy.deepcopy(ONE_LINE)
    for path, factor in changes:
        put(document, path, value_at(path) * factor)
    judged(document)


SOURCES: list[Document] = [
    {"id": "spring", "kind": "spring", "fills": "tank", "timings": [{"volume_l": 10, "time_s": 300}]},
    {"id": "roof", "kind": "rain", "fills": "tank", "length_m": 9, "width_m": 8, "first_flush_l": 30, "gutter_lpm": 60},
    {"id": "well", "kind": "pump", "fills": "tank", "flow_lpm": 20, "hours_per_day": 2, "limit_lpd": 1500,
     "cut_in_m": 0.4, "cut_out_m": 1.4},
    {"id": "ram", "kind": "ram", "fills": "tank", "fall_m": 1.5, "lift_m": 9, "drive_lpm": 30},
    {"id": "haul", "kind": "haul", "fills": "tank", "trip_l": 500, "trip_min": 30, "trips_per_week": 4},
    {"id": "siphon", "kind": "siphon", "fills": "tank", "flow_lpm": 3, "hours_per_day": 10},
]  # fmt: skip
FIGURES = [(index, key) for index, source in enumerate(SOURCES) for key, value in source.items()
           if isinstance(value, int | float)]  # fmt: skip


@given(
    st.lists(st.tuples(st.sampled_from(FIGURES), SMALL_STEPS), max_size=4),
    st.lists(st.floats(0, 300), min_size=1, max_size=40), st.floats(-60, 60), st.floats(0, 2.0), st.integers(0, 500),
)  # fmt: skip
@examples(150)
def test_extreme_sources_and_weather_are_refused_or_told_whole(
    changes: list[tuple[tuple[int, str], float]], rain: list[float], most_c: float, level: float, head: int
) -> None:
    inflows = copy.deepcopy(SOURCES)
    for (index, key), factor in changes:
        inflows[index][key] *= factor
    weather = {"from": "2026-06-20", "rain_mm": rain, "most_c": [most_c] * len(rain)}
    document = one_line(inflows=inflows, season={"weather": weather},
                        **{"vessels.0.level_m": level, "herds.0.head": head})  # fmt: skip
    try:
        analysis = Analysis(read_design(document))
        told = season_run_report(analysis)
        report = analysis_report(analysis)
    except CoreError:
        return
    for one in (told, report):
        json.dumps(one.model_dump(mode="json"), allow_nan=False)
    assert told.season is not None
    assert 0.0 <= told.season.cautious.days_share <= told.season.hopeful.days_share <= 1.0 or head == 0


@given(st.binary(max_size=300))
def test_bytes_that_are_no_design_are_refused(text: bytes) -> None:
    with pytest.raises(DesignFaults):
        read_design_text(text)


def test_the_demonstration_is_judged_in_the_three_shapes_it_is_shown_in() -> None:
    report = analysis_report(Analysis(tamsel_ridge()))
    assert [number.key for number in report.verdict.numbers] == ["flow", "refill", "days", "spare"]
    ways = {route.outlet: route.lines for route in report.routes}
    assert ways["low-valve"] == ["west-draw", "head-main", "low-leg"]
    assert ways["goose-valve"] == ["west-draw", "head-main", "fold-leg", "goose-hose"]
    assert {(feed.vessel, feed.into) for feed in report.feeds} == {("weir-box", "chambers")}
    assert all(
        route.together.flow_lpm < route.alone.flow_lpm
        for route in report.routes
        if route.outlet not in ("hop-drip", "mat-valve")
    )  # one takes its flow, one has a line of its own
    for route in report.routes:
        for run in (route.together, route.alone):
            assert run.sounding is not None
            assert len(run.grade) == len(route.section)
            grade = run.grade[-1]
            assert None not in (grade.low_m, grade.head_m, grade.high_m)
    marks = [point.mark for point in report.routes[0].section]
    assert (marks.count("high"), marks.count("low")) == (1, 2)
