"""JSON of a design that is being changed: what the workbench shows while something is dragged."""

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.sounding import SpareHead
from leadsman.core.base.units import lpm_from_m3s
from leadsman.core.design import OutletBase
from leadsman.core.findings.registry import judge
from leadsman.core.findings.verdict import Standing, flow_number, tightest_outlet, verdict_sentence
from leadsman.core.report.base import Report, Words, words
from leadsman.core.report.finding import FindingReport, finding_reports
from leadsman.core.report.route import (
    GradeReport,
    SectionPointReport,
    grade_reports,
    is_wanted,
    section_point_report,
    spare_of,
)
from leadsman.core.report.verdict import NumberReport, number_report
from leadsman.core.steady.answer import OutletState

# judged from the state in which all draw together; what else is found needs the whole analysis
PREVIEWED = (
    "draw-short",
    "dry-outlet",
    "flow-below-wanted",
    "no-answer",
    "vacuum-at-peak",
    "valve-needs-pressure",
)
MOST_WORDED = 20  # as many as the workbench shows: the words of hundreds would take a third of the answer


class PreviewedOutlets(Report):
    """What outlets get with all drawing together, in columns: half as long as in rows."""

    outlet: list[str]
    state: list[OutletState]
    flow_lpm: list[float]


class PreviewedSoundings(Report):
    """Soundings of the outlets that have one, in columns; each as in `SoundingReport`."""

    outlet: list[str]
    flow_lpm: list[float]
    wanted: list[bool]
    surface_m: list[float]
    outlet_m: list[float]
    pipe_loss_m: list[float]
    fitting_loss_m: list[float]
    left_m: list[float]
    valve_needs_m: list[float]
    margin_m: list[float]
    least_over_pipe_m: list[float | None]
    draws_air: list[bool]
    spare: list[SpareHead | None]


class PreviewedWay(Report):
    """The way to one outlet, as `RouteReport` has it; its grade has no range here."""

    outlet: str
    vessel: str | None
    lines: list[str]
    length_m: float
    section: list[SectionPointReport]
    grade: list[GradeReport]


class PreviewReport(Report):
    """All outlets drawing together: what each gets, the way to one of them, and the answer on top.

    Of the findings the worst are put into words; the others only say their code, and where they are. `air` are the
    points that stand open to air, each by its line and its number along it: a next request may name them.
    """

    number: int
    air: list[tuple[str, int]]
    outlets: PreviewedOutlets
    soundings: PreviewedSoundings
    way: PreviewedWay | None
    standing: Standing
    sentence: Words
    flow: NumberReport
    findings: list[FindingReport]
    checked: list[str]


def preview_report(analysis: Analysis, outlet_id: str | None, number: int = 0) -> PreviewReport:
    """Return what a design does while it is being changed.

    Args:
        analysis: one with `together_only`.
        number: of the request.
        outlet_id: the outlet whose way is shown; none where it is not in the design.
    """
    findings = judge(analysis, codes=PREVIEWED)
    tightest = tightest_outlet(analysis, findings)
    standing, sentence = verdict_sentence(analysis, findings, tightest)
    shown = analysis.model.layout.outlets.get(outlet_id or "")
    return PreviewReport(
        number=number,
        air=analysis.air,
        outlets=_outlets(analysis),
        soundings=_soundings(analysis),
        way=_way(analysis, shown) if shown else None,
        standing=standing,
        sentence=words(sentence),
        flow=number_report(flow_number(analysis, findings, tightest)),
        findings=finding_reports(findings, with_remedies=False, worded=MOST_WORDED),
        checked=list(PREVIEWED),
    )


def _outlets(analysis: Analysis) -> PreviewedOutlets:
    answers = [analysis.answer(outlet) for outlet in analysis.design.outlets]
    return PreviewedOutlets(
        outlet=[outlet.id for outlet in analysis.design.outlets],
        state=[answer.state for answer in answers],
        flow_lpm=[lpm_from_m3s(answer.judged_flow_m3s) for answer in answers],
    )


def _soundings(analysis: Analysis) -> PreviewedSoundings:
    found = [(outlet, sounding) for outlet in analysis.design.outlets if (sounding := analysis.sounding(outlet))]
    taken = [sounding for _, sounding in found]
    return PreviewedSoundings(
        outlet=[outlet.id for outlet, _ in found],
        flow_lpm=[lpm_from_m3s(sounding.flow_m3s) for sounding in taken],
        wanted=[is_wanted(analysis, outlet) for outlet, _ in found],
        surface_m=[sounding.surface_m for sounding in taken],
        outlet_m=[sounding.outlet_m for sounding in taken],
        pipe_loss_m=[sounding.pipe_loss_m for sounding in taken],
        fitting_loss_m=[sounding.fitting_loss_m for sounding in taken],
        left_m=[sounding.left_m for sounding in taken],
        valve_needs_m=[sounding.valve_needs_m for sounding in taken],
        margin_m=[sounding.margin_m for sounding in taken],
        least_over_pipe_m=[sounding.least_over_pipe_m for sounding in taken],
        draws_air=[sounding.draws_air for sounding in taken],
        spare=[spare_of(analysis, outlet, sounding) for outlet, sounding in found],
    )


def _way(analysis: Analysis, outlet: OutletBase) -> PreviewedWay:
    route, section = analysis.routes[outlet.id], analysis.section(outlet)
    return PreviewedWay(
        outlet=outlet.id,
        vessel=route.vessel.id if route else None,
        lines=[line.id for line in route.lines] if route else [],
        length_m=route.length_m if route else 0.0,
        section=[section_point_report(point) for point in section],
        grade=grade_reports(section, [None] * len(section)),
    )
