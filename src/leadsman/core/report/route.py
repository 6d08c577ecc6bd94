"""JSON of the ways of the water: an outlet or a vessel back to its source, with section, grade and sounding."""

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.route import Route, course_between
from leadsman.core.analysis.section import Mark, SectionPoint, route_section
from leadsman.core.analysis.sounding import Sounding, SpareHead
from leadsman.core.analysis.sustained import sustained
from leadsman.core.base.errors import UnknownName
from leadsman.core.base.units import MINUTE_S, kpa_from_pa, lpm_from_m3s
from leadsman.core.design import FixedOutlet, OutletBase
from leadsman.core.report.base import Report, Words, words
from leadsman.core.report.ranges import range_in_lpm
from leadsman.core.report.steady import RangeReport
from leadsman.core.steady.answer import OutletState


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
    """Where the fall to an outlet goes; `spare` says in a word what is left where a flow is wanted."""

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
    draws_air: bool
    spare: SpareHead | None


class SustainedReport(Report):
    """A flow that does not last: for how many minutes the store bears it, and the most that there is afterwards."""

    lasts_min: float
    then_lpm: float


class RunReport(Report):
    """What an outlet does in one case; `flow_lpm` is the flow to count on, `grade` goes with the section's points."""

    state: OutletState
    reason_words: Words
    flow_lpm: float
    flow_range: RangeReport | None
    grade: list[GradeReport]
    sounding: SoundingReport | None
    sustained: SustainedReport | None = None


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


class CourseReport(Report):
    """The way between two nodes, all outlets drawing; distances from the first on."""

    start: str
    end: str
    lines: list[str]
    length_m: float
    section: list[SectionPointReport]
    grade: list[GradeReport]


def course_report(analysis: Analysis, start: str, end: str) -> CourseReport:
    """Return the way between two nodes.

    Raises:
        UnknownName: there is no such node, or no line leads from the one to the other.
    """
    known = {**analysis.model.plumbing.junctions, **analysis.model.plumbing.vessels}
    for key, node in (("/start", start), ("/end", end)):
        if node not in known:
            raise UnknownName("place, vessel or outlet with a line", node, list(known), key)
    course = course_between(analysis.model, start, end)
    if course is None:
        raise UnknownName(f"way of lines from {start}", end, [], "/end")
    state = analysis.state
    section = route_section(course, state.flow, state.shut)
    return CourseReport(
        start=start,
        end=end,
        lines=[line.id for line in course.lines],
        length_m=course.length_m,
        section=[section_point_report(point) for point in section],
        grade=grade_reports(section, analysis.band(course)),
    )


def route_report(analysis: Analysis, outlet_id: str) -> RouteReport:
    """Return an outlet with the way its water comes."""
    outlet, route = analysis.model.layout.outlets[outlet_id], analysis.routes[outlet_id]
    section = analysis.section(outlet)
    return RouteReport(
        outlet=outlet_id,
        vessel=route.vessel.id if route else None,
        lines=[line.id for line in route.lines] if route else [],
        length_m=route.length_m if route else 0.0,
        section=[section_point_report(point) for point in section],
        together=_run(analysis, outlet, section, together=True),
        alone=_run(analysis, outlet, analysis.section(outlet, together=False), together=False),
    )


def _run(analysis: Analysis, outlet: OutletBase, section: list[SectionPoint], *, together: bool) -> RunReport:
    answer = analysis.state_of(outlet, together).outlets[outlet.id]
    return RunReport(
        state=answer.state,
        reason_words=words(answer.reason),
        flow_lpm=lpm_from_m3s(answer.judged_flow_m3s),
        flow_range=range_in_lpm(flow_range) if (flow_range := analysis.flow_range(outlet, together)) else None,
        grade=grade_reports(section, analysis.band_to(outlet, together)),
        sounding=sounding_report(analysis, outlet, together),
        sustained=_sustained(analysis, outlet, together),
    )


def _sustained(analysis: Analysis, outlet: OutletBase, together: bool) -> SustainedReport | None:
    """Return for how long a flow lasts; not while something is dragged."""
    found = None if analysis.together_only else sustained(analysis, outlet, together=together)
    if found is None:
        return None
    return SustainedReport(lasts_min=found.lasts_s / MINUTE_S, then_lpm=lpm_from_m3s(found.then_m3s))


def feed_report(analysis: Analysis, route: Route) -> FeedReport:
    """Return the way on which one vessel fills another."""
    state, last = analysis.state, route.legs[-1].line
    section = route_section(route, state.flow, state.shut)
    return FeedReport(
        vessel=route.vessel.id,
        into=route.end,
        lines=[line.id for line in route.lines],
        length_m=route.length_m,
        flow_lpm=lpm_from_m3s(abs(state.flow.line_flow_m3s(last.id))),
        section=[section_point_report(point) for point in section],
        grade=grade_reports(section, analysis.band(route)),
    )


def grade_reports(section: list[SectionPoint], band: list[tuple[float, float] | None]) -> list[GradeReport]:
    """Return the running water at each point of a section, with the lowest and highest head there [m]."""
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


def section_point_report(point: SectionPoint) -> SectionPointReport:
    """Return a surveyed point of a route."""
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


def is_wanted(analysis: Analysis, outlet: OutletBase) -> bool:
    """Whether the flow of an outlet's sounding is one that is wanted, not just what runs."""
    return analysis.wanted_m3s(outlet) is not None or isinstance(outlet, FixedOutlet)


def spare_of(analysis: Analysis, outlet: OutletBase, taken: Sounding) -> SpareHead | None:
    """Return how much head an outlet keeps, as a word; None where no flow is wanted and none is lacking."""
    return taken.spare if is_wanted(analysis, outlet) or taken.draws_air else None


def sounding_report(analysis: Analysis, outlet: OutletBase, together: bool = True) -> SoundingReport | None:
    """Return where the fall to an outlet goes, None where there is none to tell."""
    taken = analysis.sounding(outlet, together)
    if taken is None:
        return None
    return SoundingReport(
        flow_lpm=lpm_from_m3s(taken.flow_m3s),
        wanted=is_wanted(analysis, outlet),
        surface_m=taken.surface_m,
        outlet_m=taken.outlet_m,
        pipe_loss_m=taken.pipe_loss_m,
        fitting_loss_m=taken.fitting_loss_m,
        left_m=taken.left_m,
        valve_needs_m=taken.valve_needs_m,
        margin_m=taken.margin_m,
        least_over_pipe_m=taken.least_over_pipe_m,
        draws_air=taken.draws_air,
        spare=spare_of(analysis, outlet, taken),
    )
