"""JSON of a design seen in passing: what the workbench shows while something is dragged, before the whole answer."""

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import lpm_from_m3s
from leadsman.core.design import OutletBase
from leadsman.core.findings.registry import judge
from leadsman.core.findings.verdict import Standing, flow_number, tightest_outlet, verdict_sentence
from leadsman.core.report.base import Report, Words, words
from leadsman.core.report.finding import FindingReport, finding_reports
from leadsman.core.report.route import GradeReport, SectionPointReport, grade_reports, is_wanted, section_point_report
from leadsman.core.report.verdict import NumberReport, number_report
from leadsman.core.steady.answer import OutletState

# judged from the state in which all draw together; what else is found needs the whole analysis
GLIMPSED = (
    "draw-short",
    "dry-outlet",
    "flow-below-wanted",
    "no-answer",
    "vacuum-at-peak",
    "valve-needs-pressure",
)
MOST_WORDED = 20  # as many as the workbench shows: the words of hundreds would take a third of the answer


class GlimpsedOutlets(Report):
    """What outlets get with all drawing together, in columns: half as long as in rows."""

    outlet: list[str]
    state: list[OutletState]
    flow_lpm: list[float]


class GlimpsedSoundings(Report):
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


class GlimpsedWay(Report):
    """The way to one outlet, as `RouteReport` has it; its grade has no range here."""

    outlet: str
    vessel: str | None
    lines: list[str]
    length_m: float
    section: list[SectionPointReport]
    grade: list[GradeReport]


class GlimpseReport(Report):
    """All outlets drawing together: what each gets, the way to one of them, and the answer on top.

    Of the findings the worst are put into words; the others only say their code, and where they are.
    """

    outlets: GlimpsedOutlets
    soundings: GlimpsedSoundings
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
        outlets=_outlets(analysis),
        soundings=_soundings(analysis),
        way=_way(analysis, shown) if shown else None,
        standing=standing,
        sentence=words(sentence),
        flow=number_report(flow_number(analysis, findings, tightest)),
        findings=finding_reports(findings, with_remedies=False, worded=MOST_WORDED),
        checked=list(GLIMPSED),
    )


def _outlets(analysis: Analysis) -> GlimpsedOutlets:
    answers = [analysis.answer(outlet) for outlet in analysis.design.outlets]
    return GlimpsedOutlets(
        outlet=[outlet.id for outlet in analysis.design.outlets],
        state=[one.state for one in answers],
        flow_lpm=[lpm_from_m3s(one.judged_flow_m3s) for one in answers],
    )


def _soundings(analysis: Analysis) -> GlimpsedSoundings:
    found = [(outlet, one) for outlet in analysis.design.outlets if (one := analysis.sounding(outlet))]
    taken = [one for _, one in found]
    return GlimpsedSoundings(
        outlet=[outlet.id for outlet, _ in found],
        flow_lpm=[lpm_from_m3s(one.flow_m3s) for one in taken],
        wanted=[is_wanted(analysis, outlet) for outlet, _ in found],
        surface_m=[one.surface_m for one in taken],
        outlet_m=[one.outlet_m for one in taken],
        pipe_loss_m=[one.pipe_loss_m for one in taken],
        fitting_loss_m=[one.fitting_loss_m for one in taken],
        left_m=[one.left_m for one in taken],
        valve_needs_m=[one.valve_needs_m for one in taken],
        margin_m=[one.margin_m for one in taken],
        least_over_pipe_m=[one.least_over_pipe_m for one in taken],
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
