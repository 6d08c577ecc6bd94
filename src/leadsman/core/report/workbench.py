"""JSON of an analysis: all that the workbench shows of one design."""

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.pressure_limit import limits_pa
from leadsman.core.analysis.sounding import LITTLE_M, SOME_M
from leadsman.core.base.units import LITRE_M3, MILLIMETRE_M, kpa_from_pa
from leadsman.core.design import Line
from leadsman.core.findings.registry import Finding, checks, judge
from leadsman.core.findings.verdict import Standing, tightest_outlet, verdict, verdict_sentence
from leadsman.core.report.base import Report, Words, words
from leadsman.core.report.demand import DemandReport, demand_report
from leadsman.core.report.finding import CheckReport, FindingReport, finding_reports
from leadsman.core.report.ground import GroundReport, ground_report
from leadsman.core.report.inflow import InflowReport, inflow_reports
from leadsman.core.report.measuring import MeasuringReport, measuring_report
from leadsman.core.report.pressure_source import PressureSourceReport, pressure_source_reports
from leadsman.core.report.preview import PREVIEWED
from leadsman.core.report.route import FeedReport, RouteReport, feed_report, route_report
from leadsman.core.report.siphon import SiphonReport, siphon_reports
from leadsman.core.report.steady import SolveReport, solve_report
from leadsman.core.report.store import StandingReport, StoreReport, round_reports, store_reports
from leadsman.core.report.verdict import VerdictReport, verdict_report
from leadsman.core.report.watering import ClashReport, WateringReport, clash_reports, watering_reports

MOST_WITH_REMEDIES = 40  # outlets


class SupplyReport(Report):
    """Refill, need and store of the system that lasts least; `system` names it, null where the plan has one alone.

    `by_hand` where nothing of the plan fills it and only plants are watered from it.
    """

    system: str | None
    refill_lpd: float
    demand_lpd: float
    spare_lpd: float
    usable_l: float
    days_in_hand: float | None
    wanted_days: float
    dead_l: float
    inflows: list[InflowReport]
    pressure_sources: list[PressureSourceReport]
    stores: list[StoreReport]
    round: list[StandingReport]
    wanted_is_default: bool
    by_hand: bool


class BesideFlow(Report):
    """The verdict without what a preview judges: while a plan changes, the worse of the two is shown.

    `watch` is what to add to a sentence that is fine.
    """

    standing: Standing
    sentence: Words
    watch: Words


class LinePipeReport(Report):
    """A line's pipe, of its first run where it has several: bore, and outer diameter where it is called by that."""

    bore_mm: float
    outside_mm: float | None


class AnalysisReport(Report):
    """All that the workbench shows of one design; `solution` is with every open outlet drawing fully.

    `givers` are the vessels that may give water to lines; `limits_kpa` is what each line's pipe is good for at its own
    temperature, of lines whose pipe has a class.

    Remedies are null here: they take longer, and come with `RestReport`; where `remedies_on_request`, no such report is
    to be asked for, but the remedies of one finding.
    """

    solution: SolveReport
    verdict: VerdictReport
    routes: list[RouteReport]
    feeds: list[FeedReport]
    demand: DemandReport
    supply: SupplyReport
    ground: GroundReport
    findings: list[FindingReport]
    checked: list[str]
    check_titles: dict[str, str]
    limits_kpa: dict[str, float]
    pipes: dict[str, LinePipeReport]
    givers: list[str]
    siphons: list[SiphonReport]
    remedies_on_request: bool
    spare_limits_m: tuple[float, float]
    beside_flow: BesideFlow


class LastsReport(Report):
    """For how many days the system that lasts least does so with no refill; `first` is the vessel that lacks water."""

    days: float
    first: str | None


class RestReport(CheckReport):
    """What takes longer than an edit may: all findings with their remedies, the verdict on them, herds at troughs.

    `lasts` is found by running the plan over time, where animals drink and it is not very large.
    """

    lasts: LastsReport | None
    measuring: MeasuringReport
    watering: list[WateringReport]
    clashes: list[ClashReport]


def remedies_on_request(analysis: Analysis) -> bool:
    """Whether trying remedies for every finding would take minutes."""
    return len(analysis.document.outlets) > MOST_WITH_REMEDIES


def _route(analysis: Analysis, outlet_id: str) -> RouteReport:
    analysis.check_cancelled()
    return route_report(analysis, outlet_id)


def rest_report(analysis: Analysis) -> RestReport:
    """Return what the workbench shows once the figures have come to rest."""
    findings = judge(analysis)
    lasts = analysis.lasts(analysis.worst_system) if analysis.worst_system else None
    return RestReport(
        lasts=LastsReport(days=lasts.days, first=lasts.first.id if lasts.first else None) if lasts else None,
        findings=finding_reports(findings, with_remedies=True),
        checked=[check.code for check in checks()],
        verdict=verdict_report(verdict(analysis, findings)),
        measuring=measuring_report(analysis),
        watering=watering_reports(analysis),
        clashes=clash_reports(analysis),
    )


def analysis_report(analysis: Analysis) -> AnalysisReport:
    """Return all that the workbench shows; on large plans all findings at once, since no second answer follows."""
    findings = judge(analysis, at_rest=remedies_on_request(analysis))
    return AnalysisReport(
        solution=solve_report(analysis.state),
        verdict=verdict_report(verdict(analysis, findings)),
        routes=[_route(analysis, outlet_id) for outlet_id in analysis.state.outlets],
        feeds=[feed_report(analysis, route) for route in analysis.feeds],
        demand=demand_report(analysis),
        supply=_supply(analysis),
        ground=ground_report(analysis),
        findings=finding_reports(findings, with_remedies=False),
        checked=[check.code for check in checks()],
        check_titles={check.code: check.title for check in checks()},
        limits_kpa={line_id: kpa_from_pa(limit) for line_id, limit in limits_pa(analysis).items()},
        pipes={line.id: _line_pipe(analysis, line) for line in analysis.document.lines},
        givers=[vessel.id for vessel in analysis.document.vessels if vessel.gives_water],
        siphons=siphon_reports(analysis),
        remedies_on_request=remedies_on_request(analysis),
        spare_limits_m=(LITTLE_M, SOME_M),
        beside_flow=_beside_flow(analysis, findings),
    )


def _beside_flow(analysis: Analysis, findings: list[Finding]) -> BesideFlow:
    others = [finding for finding in findings if finding.code not in PREVIEWED]
    standing, sentence = verdict_sentence(analysis, others, tightest_outlet(analysis, others))
    watch = (" Watch: ", *others[0].headline, ".") if standing == "watch" else ()
    return BesideFlow(standing=standing, sentence=words(sentence), watch=words(watch))


def _line_pipe(analysis: Analysis, line: Line) -> LinePipeReport:
    bore_m = analysis.model.reaches_of_line(line.id)[0].bore_m
    named = line.runs[0].product if line.runs else line.product
    own = named is None or (line.bore_mm is not None and not line.runs)
    outside_mm = None if own or named is None else analysis.document.pipe(named).called_mm
    return LinePipeReport(bore_mm=round(bore_m / MILLIMETRE_M, 3), outside_mm=outside_mm)


def _supply(analysis: Analysis) -> SupplyReport:
    day, (wanted, is_default) = analysis.balance, analysis.wanted_days
    stores = store_reports(analysis)
    worst = analysis.worst_system
    own = {store.id for store in worst.stores} if worst else set()
    return SupplyReport(
        system=analysis.name_among(worst) if worst else None,
        refill_lpd=day.refill_m3_per_day / LITRE_M3,
        demand_lpd=day.demand_m3_per_day / LITRE_M3,
        spare_lpd=day.spare_m3_per_day / LITRE_M3,
        usable_l=day.usable_m3 / LITRE_M3,
        days_in_hand=day.days_in_hand,
        wanted_days=wanted,
        dead_l=sum(store.dead_l for store in stores if store.vessel in own),
        inflows=inflow_reports(analysis),
        pressure_sources=pressure_source_reports(analysis),
        stores=stores,
        round=round_reports(analysis),
        wanted_is_default=is_default,
        by_hand=worst is not None and analysis.is_filled_by_hand(worst),
    )
