"""Times in findings and in the verdict: minutes up to two hours, hours up to two days, then days."""

from collections.abc import Iterator
from typing import Any

import pytest

from examples import one_line, worked_example
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.wording import Quantity, Wording, duration, plain
from leadsman.core.design import Design
from leadsman.core.design.file import read_design
from leadsman.core.findings.registry import judge
from leadsman.demo import tamsel_ridge, tamsel_ridge_in_winter
from systems import farm, line

LONGEST_MIN = 120.0


@pytest.mark.parametrize(
    ("seconds", "told"),
    [
        (0.0, "0 minutes"), (60.0, "1 minute"), (7_199.0, "120 minutes"), (7_200.0, "2.0 hours"),
        (172_799.0, "48.0 hours"), (172_800.0, "2.0 days"), (30 * 86_400.0, "30.0 days"),
    ],
)  # fmt: skip
def test_a_time_is_told_in_what_people_count_it_in(seconds: float, told: str) -> None:
    assert plain(duration(seconds)) == told


def slow() -> Design:
    """A trickle into a large trough, a stuck valve over a large tank, a pond that is changed every week."""
    lines = [line("ax", "a", "x", bore_mm=4.0), line("by", "b", "y", bore_mm=6.0)]
    document = farm(lines, {"a": 120.0, "b": 118.0})
    place = {"id": "at-pond", "east_m": 400, "north_m": 0, "ground_m": 100.0}
    pond = {"id": "pond", "place": "at-pond", "role": "pond", "level_m": 0.8,
            "shape": {"kind": "box", "length_m": 6.0, "width_m": 4.0, "height_m": 1.0}}  # fmt: skip
    document["places"].append(place)
    document["vessels"].append(pond)
    document["outlets"][1]["fills"] = "pond"
    document["ponds"] = [{"vessel": "pond", "evaporation_mm_d": 4.0, "change_percent_week": 60.0}]
    document["requirements"] = [{"outlet": "x", "refill_min": 300.0}]
    return read_design(document)


PLANS: dict[str, Any] = {
    "demonstration": tamsel_ridge,
    "in winter": lambda: tamsel_ridge_in_winter(tamsel_ridge()),
    "worked example": lambda: read_design(worked_example()),
    "one line": lambda: read_design(one_line()),
    "slow": slow,
}


def quantities(wording: Wording) -> Iterator[Quantity]:
    return (part for part in wording if isinstance(part, Quantity))


@pytest.mark.parametrize("name", PLANS)
def test_no_finding_tells_hours_in_minutes(name: str) -> None:
    findings = judge(Analysis(PLANS[name]()))
    for finding in findings:
        for told in (finding.headline, finding.why):
            for quantity in quantities(told):
                assert quantity.unit != "min" or quantity.value <= LONGEST_MIN, plain(told)


def test_the_slow_plan_has_times_to_tell() -> None:
    """Else the test before would hold of nothing."""
    said = " ".join(plain(finding.headline) for finding in judge(Analysis(slow())))
    assert "days" in said or "hours" in said, said
