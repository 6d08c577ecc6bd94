"""Nothing definite is said where the errors of heights decide: a watch that says what to survey."""

from typing import Any

import numpy as np
import pytest

from examples import one_line
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.wording import plain
from leadsman.core.design.file import read_design
from leadsman.core.design.layout import Layout
from leadsman.core.findings.registry import Finding, Severity, judge
from leadsman.core.findings.verdict import verdict
from leadsman.core.survey.line_profile import profile_from_walk, with_profiles

# the water stands at 121 m, at most at 122; the trough's valve at 100.6
HIGH_POINT = {"lines.0.points": [[0, 120], [70, 121.02], [140, 105], [210, 101]]}
ABOVE = {"places.1.ground_m": 121.0, "lines.0.points": []}
TOP, END, LINE = "places.0.height_error_m", "places.1.height_error_m", "lines.0.points_error_m"


def judged(**changes: Any) -> tuple[Analysis, dict[str, Finding]]:
    analysis = Analysis(read_design(one_line(**changes)))
    return analysis, {finding.code: finding for finding in judge(analysis)}


@pytest.mark.parametrize(
    ("code", "changes", "decides", "too_little", "sure"),
    [
        ("dry-outlet", HIGH_POINT, {LINE: 2.0}, {LINE: 0.01}, "stop"),
        ("dry-outlet", HIGH_POINT, {TOP: 2.0}, {LINE: 0.01, TOP: 0.005}, "stop"),
        ("dry-outlet", ABOVE, {END: 0.7}, {END: 0.5}, "stop"),
        ("vacuum-at-peak", {"lines.0.points": [[0, 120], [70, 118], [210, 101]]}, {LINE: 4.0}, {LINE: 0.5}, "fix"),
        ("valve-needs-pressure", {"outlets.0.valve.min_pressure_kpa": 205}, {END: 1.6}, {END: 1.4}, "stop"),
        ("valve-cannot-shut", {"outlets.0.valve.max_pressure_kpa": 190}, {TOP: 1.1}, {TOP: 0.9}, "stop"),
        ("class-exceeded", {"places.1.ground_m": -20, "lines.0.points": []}, {END: 15.0}, {END: 12.0}, "stop"),
    ],
)
def test_a_stop_needs_a_margin_over_the_errors_of_the_heights(
    code: str, changes: dict[str, Any], decides: dict[str, float], too_little: dict[str, float], sure: str
) -> None:
    for errors, severity in (({}, sure), (too_little, sure), (decides, "watch")):
        analysis, found = judged(**changes, **errors)
        assert found[code].severity == severity, errors
        assert ("level that better" in plain(found[code].why)) == (severity == "watch")
        if severity == "watch":
            assert "may" in plain(found[code].headline)
            told = verdict(analysis, list(found.values()))
            assert (told.standing == "stop") == any(finding.severity is Severity.STOP for finding in found.values())


def test_what_may_be_dry_is_not_told_to_run() -> None:
    analysis, found = judged(**HIGH_POINT, **{LINE: 2.0})
    told = verdict(analysis, list(found.values()))
    assert plain(told.sentence).startswith("Not certain: valve may get no water over the high point")
    assert told.standing == "watch"


def test_a_flow_that_the_heights_may_raise_to_what_is_wanted_is_uncertain() -> None:
    wanted = {"requirements.0.flow_lpm": 45.0}
    _, sure = judged(**wanted, **{TOP: 0.5})
    assert sure["flow-below-wanted"].severity == "fix"
    _, open_ = judged(**wanted, **{TOP: 9.0})
    assert "flow-below-wanted" not in open_
    assert open_["flow-uncertain"].severity == "watch"
    assert "level top" in plain(open_["flow-uncertain"].why)


@pytest.mark.parametrize("seed", range(6))
def test_a_walk_with_five_metres_of_noise_stops_nothing_that_its_true_ground_does_not(seed: int) -> None:
    """An even fall walked with a receiver: its true profile has no finding, so none of its noise may make a stop."""
    clean = one_line(**{"lines.0.points": []})
    true = {finding.code for finding in judge(Analysis(read_design(clean))) if finding.severity is not Severity.WATCH}
    design = read_design(clean)
    rng = np.random.default_rng(seed)
    start, end = (place for place in design.places)
    share = np.linspace(0.0, 1.0, 106)
    across = rng.normal(0.0, 2.5, (3, len(share)))
    walk = [
        (
            start.east_m + s * (end.east_m - start.east_m) + float(across[0, i]),
            start.north_m + s * (end.north_m - start.north_m) + float(across[1, i]),
            start.ground_m + s * (end.ground_m - start.ground_m) + float(across[2, i]),
        )
        for i, s in enumerate(share.tolist())
    ]
    layout = Layout(design)
    profile = profile_from_walk(layout, design.lines[0], walk, 5.0)
    found = judge(Analysis(with_profiles(design, [profile], "walk")))
    assert {finding.code for finding in found if finding.severity is not Severity.WATCH} <= true
