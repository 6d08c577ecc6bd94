"""Judging a design without keeping it: what runs behind every edit."""

from flask import Response
from pydantic import ValidationError

from leadsman.api.cancelled import check_client
from leadsman.api.editing import edited_body
from leadsman.api.routes import Routes, answer, judged
from leadsman.api.schemas import (
    Analyse,
    AskCourse,
    AskDay,
    AskMixed,
    AskPipes,
    AskPreview,
    AskRemedies,
    AskValves,
    AskWinter,
    CompareOptions,
    CompareSchools,
    CompareYears,
    FitInLine,
    Fitted,
    Problem,
)
from leadsman.core.analysis.work import require_workable
from leadsman.core.base.fault import DesignFaults
from leadsman.core.design.file import document_faults
from leadsman.core.design.fitted import fitted
from leadsman.core.report.choices import (
    PipeChoicesReport,
    ValveChoicesReport,
    pipe_choices_report,
    valve_choices_report,
)
from leadsman.core.report.dayrun import DayRunReport, asked_day
from leadsman.core.report.dosing import DosesReport, MixedReport, doses_report, mixed_report
from leadsman.core.report.finding import RemediesReport, remedies_report
from leadsman.core.report.first_water import FirstWaterReport, first_water_report
from leadsman.core.report.options import OptionsReport, options_report
from leadsman.core.report.pond import PondsReport, ponds_report
from leadsman.core.report.preview import PreviewReport, preview_report
from leadsman.core.report.route import CourseReport, course_report
from leadsman.core.report.row_season import RowSeasonsReport, row_seasons_report
from leadsman.core.report.schools import SchoolsReport, schools_report
from leadsman.core.report.standby import StandbysReport, standbys_report
from leadsman.core.report.supply import SeasonRunReport, season_run_report
from leadsman.core.report.winter import WinterAnswer, winter_answer
from leadsman.core.report.workbench import AnalysisReport, RestReport, analysis_report, rest_report
from leadsman.core.report.yearly import ComparisonReport, comparison_report

analysis = Routes("analysis", __name__, url_prefix="/api/analyses")


@analysis.post("", operation_id="analyse", responses={200: AnalysisReport, 422: Problem})
def analyse(body: Analyse) -> Response:
    """Solve and judge a design, without trying remedies."""
    return answer(analysis_report(judged(body.document)))


@analysis.post("/preview", operation_id="preview", responses={200: PreviewReport, 422: Problem})
def preview(body: AskPreview) -> Response:
    """Solve a design with all outlets drawing together: what is shown while something is dragged.

    The answer carries the number of its request: who asks shows the newest and drops what comes late.
    """
    check_client()  # a hand that moves has often asked again before this is begun
    design = edited_body(body).design
    check_client()
    analysis = judged(design, together_only=True, expected_air=body.air)
    return answer(preview_report(analysis, body.outlet, body.number))


@analysis.post("/course", operation_id="askCourse", responses={200: CourseReport, 422: Problem})
def ask_course(body: AskCourse) -> Response:
    """Tell the profile between any two nodes of a design."""
    return answer(course_report(judged(body.document, together_only=True), body.start, body.end))


@analysis.post("/rest", operation_id="analyseAtRest", responses={200: RestReport, 422: Problem})
def analyse_at_rest(body: Analyse) -> Response:
    """Judge all of a design, try remedies, and let the herds drink: what takes longer than an edit may."""
    return answer(rest_report(judged(body.document, over_time=True)))


@analysis.post("/first-water", operation_id="planFirstWater", responses={200: FirstWaterReport, 422: Problem})
def plan_first_water(body: Analyse) -> Response:
    """Tell first water step by step: what to open and shut, when water comes where, what to measure."""
    return answer(first_water_report(judged(body.document)))


@analysis.post("/doses", operation_id="tellDoses", responses={200: DosesReport, 422: Problem})
def tell_doses(body: Analyse) -> Response:
    """Tell each dose for the water that is in its vessel, how to mix it, and how strong it stays in the pots."""
    return answer(doses_report(judged(body.document)))


@analysis.post("/rows", operation_id="tellRows", responses={200: RowSeasonsReport, 422: Problem})
def tell_rows(body: Analyse) -> Response:
    """Tell of each row of containers which lags and how it levels, its season, and how many could be served."""
    return answer(row_seasons_report(judged(body.document)))


@analysis.post("/ponds", operation_id="tellPonds", responses={200: PondsReport, 422: Problem})
def tell_ponds(body: Analyse) -> Response:
    """Tell of each pond its levels with the pump on and off, where its float may go, its changes and its top-up."""
    return answer(ponds_report(judged(body.document)))


@analysis.post("/standbys", operation_id="tellStandbys", responses={200: StandbysReport, 422: Problem})
def tell_standbys(body: Analyse) -> Response:
    """Tell of each standby container whom it waters for how long, its load, its reach and its trips."""
    return answer(standbys_report(judged(body.document)))


@analysis.post("/mixed", operation_id="tellMixed", responses={200: MixedReport, 422: Problem})
def tell_mixed(body: AskMixed) -> Response:
    """Tell what brings the water of a recipe's vessel from one strength to another."""
    return answer(mixed_report(judged(body.document), body.dosing, body.now, body.wanted))


@analysis.post("/winter", operation_id="askWinter", responses={200: WinterAnswer, 422: Problem})
def ask_winter(body: AskWinter) -> Response:
    """Tell what the plan's frost does to lines and vessels, the ways through it, and both walks along the lines."""
    return answer(winter_answer(judged(body.document), body.today))


@analysis.post("/remedies", operation_id="tryRemedies", responses={200: RemediesReport, 422: Problem})
def try_remedies(body: AskRemedies) -> Response:
    """Try what would help against one finding: on a large plan all of them would take minutes."""
    return answer(remedies_report(judged(body.document), body.code, body.where))


@analysis.post("/pipes", operation_id="comparePipes", responses={200: PipeChoicesReport, 422: Problem})
def compare_pipes(body: AskPipes) -> Response:
    """Tell what each pipe of about a line's size would do to the tightest outlet, before it is taken."""
    return answer(pipe_choices_report(judged(body.document), body.line, body.own))


@analysis.post("/valves", operation_id="compareValves", responses={200: ValveChoicesReport, 422: Problem})
def compare_valves(body: AskValves) -> Response:
    """Lay float valves side by side at an outlet: whether they open and shut, what they pass, lose, and cost."""
    return answer(valve_choices_report(judged(body.document), body.outlet, body.own))


@analysis.post("/day", operation_id="runDay", responses={200: DayRunReport, 422: Problem})
def run_day(body: AskDay) -> Response:
    """Run a design over time in the case that it shows: levels, flows, and what happens."""
    require_workable(body.document)
    return answer(asked_day(body.document, body.hours, with_events=body.events, watch=lambda _: check_client()))


@analysis.post("/fitted", operation_id="fitInLine", responses={200: Fitted, 422: Problem})
def fit_in_line(body: FitInLine) -> Response:
    """Tell how a fitting or a part of the catalogue stands in a line of a design."""
    told = fitted(body.document, body.line, body.fitting, body.part)
    try:
        return answer(Fitted.model_validate(told))
    except ValidationError as error:  # a row of one's own may take more than a line's part may
        raise DesignFaults(document_faults(error)) from None


@analysis.post("/season", operation_id="runSeason", responses={200: SeasonRunReport, 422: Problem})
def run_season(body: Analyse) -> Response:
    """Run the store through the design's weather: reliability, gaps, days in hand, what would close the gap."""
    return answer(season_run_report(judged(body.document)))


@analysis.post("/options", operation_id="compareOptions", responses={200: OptionsReport, 422: Problem})
def compare_options(body: CompareOptions) -> Response:
    """Lay two to four designs side by side: only what differs."""
    return answer(options_report([judged(document) for document in body.documents]))


@analysis.post("/years", operation_id="compareYears", responses={200: ComparisonReport, 422: Problem})
def compare_years(body: CompareYears) -> Response:
    """Hold a year of metered water and of hauling of one design against another's."""
    mine, other = (judged(document) for document in (body.document, body.other))
    return answer(comparison_report(mine, other))


@analysis.post("/schools", operation_id="compareSchools", responses={200: SchoolsReport, 422: Problem})
def compare_schools(body: CompareSchools) -> Response:
    """Feed one trough through a smaller and a larger valve: how the mob fares, and what a failure costs."""
    return answer(schools_report(judged(body.document), body.outlet))
