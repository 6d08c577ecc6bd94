"""JSON of an analysis: all that the workbench shows of one design."""

from leadsman.core.analysis import Analysis
from leadsman.core.answer import OutletState
from leadsman.core.design import FixedOutlet, OutletBase
from leadsman.core.findings.registry import checks, judge
from leadsman.core.report.base import Report
from leadsman.core.report.finding import CheckReport, FindingReport, finding_reports
from leadsman.core.report.ground import GroundReport, ground_report
from leadsman.core.report.inflow import InflowReport, inflow_reports
from leadsman.core.report.measuring import MeasuringReport, measuring_report
from leadsman.core.report.need import NeedReport, need_report
from leadsman.core.report.ranges import range_in_lpm
from leadsman.core.report.steady import RangeReport, SolveReport, solve_report
from leadsman.core.report.store import StandingReport, StoreReport, round_reports, store_reports
from leadsman.core.report.verdict import VerdictReport, verdict_report
from leadsman.core.report.watering import ClashReport, WateringReport, clash_reports, watering_reports
from leadsman.core.route import Route
from leadsman.core.section import Mark, SectionPoint, route_section
from leadsman.core.sounding import Sounding
from leadsman.core.units import LITRE_M3, kpa_from_pa, lpm_from_m3s
from leadsman.core.verdict import verdict
from leadsman.core.wording import plain


class SectionPointReport(Report):
    """A surveyed point of a route; `at_m` from the vessel on; null where no water gets to."""

    line: str
    at_m: float
    ground_m: float
    pipe_m: float
    shut_head_m: float | None
    shut_kpa: float | None
    mark: Mark | None


class GradeReport(Report):
    """Running water at a surveyed point, and how low and high its head may be; null where that has no answer."""

    head_m: float | None
    low_m: float | None
    high_m: float | None
    pressure_kpa: float | None
    velocity_ms: float


class SoundingReport(Report):
    flow_lpm: float
    wanted: bool
    surface_m: float
    outlet_m: float
    pipe_loss_m: float
    fitting_loss_m: float
    left_m: float
    valve_needs_m: float
    margin_m: float
    least_over_pipe_m: float | None


class RunReport(Report):
    """What an outlet does in one case; `flow_lpm` is the flow to count on, `grade` goes with the section's points."""

    state: OutletState
    reason: str
    flow_lpm: float
    flow_range: RangeReport | None
    grade: list[GradeReport]
    sounding: SoundingReport | None


class RouteReport(Report):
    """One outlet and the way its water comes: all drawing together, and the outlet by itself."""

    outlet: str
    vessel: str | None
    lines: list[str]
    length_m: float
    section: list[SectionPointReport]
    together: RunReport
    alone: RunReport


class FeedReport(Report):
    """The way on which one vessel fills another through lines, all outlets drawing."""

    vessel: str
    into: str
    lines: list[str]
    length_m: float
    flow_lpm: float
    section: list[SectionPointReport]
    grade: list[GradeReport]


class SupplyReport(Report):
    refill_lpd: float
    need_lpd: float
    spare_lpd: float
    usable_l: float
    days_in_hand: float | None
    wanted_days: float
    dead_l: float
    inflows: list[InflowReport]
    stores: list[StoreReport]
    round: list[StandingReport]
    wanted_is_default: bool


class AnalysisReport(Report):
    """All that the workbench shows of one design; `solution` is with every open outlet drawing fully.

    Remedies are null here: they take longer, and come with `RestReport`.
    """

    solution: SolveReport
    verdict: VerdictReport
    routes: list[RouteReport]
    feeds: list[FeedReport]
    need: NeedReport
    supply: SupplyReport
    ground: GroundReport
    findings: list[FindingReport]
    checked: list[str]
    check_titles: dict[str, str]


class RestReport(CheckReport):
    """What takes longer than an edit may: all findings with their remedies, the verdict on them, herds at troughs."""

    measuring: MeasuringReport
    watering: list[WateringReport]
    clashes: list[ClashReport]


def rest_report(analysis: Analysis) -> RestReport:
    """Return what the workbench shows once the figures have come to rest."""
    findings = judge(analysis)
    return RestReport(
        findings=finding_reports(findings, with_remedies=True),
        checked=[check.code for check in checks()],
        verdict=verdict_report(verdict(analysis, findings)),
        measuring=measuring_report(analysis),
        watering=watering_reports(analysis),
        clashes=clash_reports(analysis),
    )


def analysis_report(analysis: Analysis) -> AnalysisReport:
    """Return all that the workbench shows."""
    findings = judge(analysis, at_rest=False)
    return AnalysisReport(
        solution=solve_report(analysis.state),
        verdict=verdict_report(verdict(analysis, findings)),
        routes=[_route(analysis, outlet_id) for outlet_id in analysis.state.outlets],
        feeds=[_feed(analysis, route) for route in analysis.feeds],
        need=need_report(analysis),
        supply=_supply(analysis),
        ground=ground_report(analysis),
        findings=finding_reports(findings, with_remedies=False),
        checked=[check.code for check in checks()],
        check_titles={check.code: check.title for check in checks()},
    )


def _route(analysis: Analysis, outlet_id: str) -> RouteReport:
    outlet, route = analysis.model.layout.outlets[outlet_id], analysis.routes[outlet_id]
    section = analysis.section(outlet)
    return RouteReport(
        outlet=outlet_id,
        vessel=route.vessel.id if route else None,
        lines=[line.id for line in route.lines] if route else [],
        length_m=route.length_m if route else 0.0,
        section=[_section_point(point) for point in section],
        together=_run(analysis, outlet, section, together=True),
        alone=_run(analysis, outlet, analysis.section(outlet, together=False), together=False),
    )


def _run(analysis: Analysis, outlet: OutletBase, section: list[SectionPoint], *, together: bool) -> RunReport:
    answer = analysis.state_of(outlet, together).outlets[outlet.id]
    taken = analysis.sounding(outlet, together)
    wanted = analysis.wanted_m3s(outlet) is not None or isinstance(outlet, FixedOutlet)
    return RunReport(
        state=answer.state,
        reason=plain(answer.reason),
        flow_lpm=lpm_from_m3s(answer.judged_flow_m3s),
        flow_range=range_in_lpm(flow_range) if (flow_range := analysis.flow_range(outlet, together)) else None,
        grade=_grade(section, analysis.band_to(outlet, together)),
        sounding=_sounding(taken, wanted) if taken else None,
    )


def _feed(analysis: Analysis, route: Route) -> FeedReport:
    state, last = analysis.state, route.legs[-1].line
    section = route_section(route, state.flow, state.shut)
    return FeedReport(
        vessel=route.vessel.id,
        into=route.end,
        lines=[line.id for line in route.lines],
        length_m=route.length_m,
        flow_lpm=lpm_from_m3s(abs(state.flow.line_flow_m3s(last.id))),
        section=[_section_point(point) for point in section],
        grade=_grade(section, analysis.band(route)),
    )


def _grade(section: list[SectionPoint], band: list[tuple[float, float] | None]) -> list[GradeReport]:
    return [
        GradeReport(
            head_m=point.running_head_m,
            low_m=within[0] if within else None,
            high_m=within[1] if within else None,
            pressure_kpa=_kpa(point.running_pa),
            velocity_ms=point.velocity_ms,
        )
        for point, within in zip(section, band, strict=True)
    ]


def _section_point(point: SectionPoint) -> SectionPointReport:
    return SectionPointReport(
        line=point.line_id,
        at_m=point.at_m,
        ground_m=point.ground_m,
        pipe_m=point.pipe_m,
        shut_head_m=point.shut_head_m,
        shut_kpa=_kpa(point.shut_pa),
        mark=point.mark,
    )


def _kpa(pressure_pa: float | None) -> float | None:
    return None if pressure_pa is None else kpa_from_pa(pressure_pa)


def _sounding(taken: Sounding, wanted: bool) -> SoundingReport:
    return SoundingReport(
        flow_lpm=lpm_from_m3s(taken.flow_m3s),
        wanted=wanted,
        surface_m=taken.surface_m,
        outlet_m=taken.outlet_m,
        pipe_loss_m=taken.pipe_loss_m,
        fitting_loss_m=taken.fitting_loss_m,
        left_m=taken.left_m,
        valve_needs_m=taken.valve_needs_m,
        margin_m=taken.margin_m,
        least_over_pipe_m=taken.least_over_pipe_m,
    )


def _supply(analysis: Analysis) -> SupplyReport:
    day, (wanted, is_default) = analysis.balance, analysis.wanted_days
    stores = store_reports(analysis)
    return SupplyReport(
        refill_lpd=day.refill_m3_per_day / LITRE_M3,
        need_lpd=day.need_m3_per_day / LITRE_M3,
        spare_lpd=day.spare_m3_per_day / LITRE_M3,
        usable_l=day.usable_m3 / LITRE_M3,
        days_in_hand=day.days_in_hand,
        wanted_days=wanted,
        dead_l=sum(store.dead_l for store in stores),
        inflows=inflow_reports(analysis),
        stores=stores,
        round=round_reports(analysis),
        wanted_is_default=is_default,
    )
