"""JSON of a design seen in passing: what the workbench shows while something is dragged, before the whole answer."""

from leadsman.core.analysis import Analysis
from leadsman.core.answer import OutletState
from leadsman.core.design import OutletBase
from leadsman.core.findings.registry import judge
from leadsman.core.report.base import Report, Words, words
from leadsman.core.report.finding import FindingReport, finding_reports
from leadsman.core.report.route import (
    GradeReport,
    SectionPointReport,
    SoundingReport,
    grade_reports,
    section_point_report,
    sounding_report,
)
from leadsman.core.report.verdict import NumberReport, number_report
from leadsman.core.units import lpm_from_m3s
from leadsman.core.verdict import Standing, flow_number, tightest_outlet, verdict_sentence

# judged from the state in which all draw together; what else is found needs the whole analysis
GLIMPSED = (
    "draw-short",
    "dry-outlet",
    "flow-below-wanted",
    "no-answer",
    "vacuum-at-peak",
    "valve-needs-pressure",
)


class GlimpsedOutlet(Report):
    """What an outlet gets with all drawing together."""

    state: OutletState
    flow_lpm: float
    sounding: SoundingReport | None


class GlimpsedWay(Report):
    """The way to one outlet, as `RouteReport` has it; its grade has no range here."""

    outlet: str
    vessel: str | None
    lines: list[str]
    length_m: float
    section: list[SectionPointReport]
    grade: list[GradeReport]


class GlimpseReport(Report):
    """All outlets drawing together: what each gets, the way to one of them, and the answer on top."""

    outlets: dict[str, GlimpsedOutlet]
    way: GlimpsedWay | None
    standing: Standing
    sentence: Words
    flow: NumberReport
    findings: list[FindingReport]
    checked: list[str]


def glimpse_report(analysis: Analysis, outlet_id: str | None) -> GlimpseReport:
    """Return a design seen in passing.

    Args:
        analysis: one with `together_only`.
        outlet_id: the outlet whose way is shown; none where it is not in the design.
    """
    findings = judge(analysis, codes=GLIMPSED)
    tightest = tightest_outlet(analysis, findings)
    standing, sentence = verdict_sentence(analysis, findings, tightest)
    shown = analysis.model.layout.outlets.get(outlet_id or "")
    return GlimpseReport(
        outlets={outlet.id: _outlet(analysis, outlet) for outlet in analysis.design.outlets},
        way=_way(analysis, shown) if shown else None,
        standing=standing,
        sentence=words(sentence),
        flow=number_report(flow_number(analysis, findings, tightest)),
        findings=finding_reports(findings, with_remedies=False),
        checked=list(GLIMPSED),
    )


def _outlet(analysis: Analysis, outlet: OutletBase) -> GlimpsedOutlet:
    answer = analysis.answer(outlet)
    return GlimpsedOutlet(
        state=answer.state,
        flow_lpm=lpm_from_m3s(answer.judged_flow_m3s),
        sounding=sounding_report(analysis, outlet),
    )


def _way(analysis: Analysis, outlet: OutletBase) -> GlimpsedWay:
    route, section = analysis.routes[outlet.id], analysis.section(outlet)
    return GlimpsedWay(
        outlet=outlet.id,
        vessel=route.vessel.id if route else None,
        lines=[line.id for line in route.lines] if route else [],
        length_m=route.length_m if route else 0.0,
        section=[section_point_report(point) for point in section],
        grade=grade_reports(section, [None] * len(section)),
    )
