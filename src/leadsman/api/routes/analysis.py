"""Judging a design without keeping it: what runs behind every edit."""

from flask import Response

from leadsman.api.abandoned import heed_the_asker
from leadsman.api.errors import NotFound, faults_in_document
from leadsman.api.routes import Routes, answer
from leadsman.api.schemas import (
    Analyse,
    AskCourse,
    AskPipes,
    AskRemedies,
    AskValves,
    CompareSchools,
    CompareYears,
    FitInLine,
    Fitted,
    HeldPath,
    LookAgain,
    LookAt,
    Problem,
)
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.design.fitted import fitted
from leadsman.core.design.held import Holder
from leadsman.core.report.choices import (
    PipeChoicesReport,
    ValveChoicesReport,
    pipe_choices_report,
    valve_choices_report,
)
from leadsman.core.report.finding import RemediesReport, remedies_report
from leadsman.core.report.glimpse import GlimpseReport, glimpse_report
from leadsman.core.report.route import CourseReport, course_report
from leadsman.core.report.schools import SchoolsReport, schools_report
from leadsman.core.report.supply import SeasonRunReport, season_run_report
from leadsman.core.report.workbench import AnalysisReport, RestReport, analysis_report, rest_report
from leadsman.core.report.yearly import ComparisonReport, comparison_report

analysis = Routes("analysis", __name__, url_prefix="/api/analyses")


@analysis.post("", operation_id="analyse", responses={200: AnalysisReport, 422: Problem})
def analyse(body: Analyse) -> Response:
    """Solve and judge a design, without trying remedies."""
    return answer(analysis_report(Analysis(body.document, heed=heed_the_asker)))


holder = Holder()


@analysis.put("/glimpses/<uuid:held_id>", operation_id="glimpse", responses={200: GlimpseReport, 422: Problem})
def glimpse(path: HeldPath, body: LookAt) -> Response:
    """Solve a design with all outlets drawing together, and hold it for what changes in it while a hand is on it."""
    with faults_in_document():
        design = holder.hold(str(path.held_id), body.document)
    return answer(glimpse_report(Analysis(design, together_only=True), body.outlet))


@analysis.patch(
    "/glimpses/<uuid:held_id>", operation_id="glimpseAgain", responses={200: GlimpseReport, 404: Problem, 422: Problem}
)
def glimpse_again(path: HeldPath, body: LookAgain) -> Response:
    """Solve a design that is held with what changed in it since; where it is not held any more, it is sent whole."""
    with faults_in_document():
        design = holder.change(str(path.held_id), body.step, body.change)
    if design is None:
        raise NotFound("No design is held under that name at the step before.")
    return answer(glimpse_report(Analysis(design, together_only=True), body.outlet))


@analysis.post("/course", operation_id="askCourse", responses={200: CourseReport, 422: Problem})
def ask_course(body: AskCourse) -> Response:
    """Tell the long section between any two nodes of a design."""
    return answer(course_report(Analysis(body.document, together_only=True), body.start, body.end))


@analysis.post("/rest", operation_id="analyseAtRest", responses={200: RestReport, 422: Problem})
def analyse_at_rest(body: Analyse) -> Response:
    """Judge all of a design, try remedies, and let the herds drink: what takes longer than an edit may."""
    return answer(rest_report(Analysis(body.document, heed=heed_the_asker)))


@analysis.post("/remedies", operation_id="tryRemedies", responses={200: RemediesReport, 422: Problem})
def try_remedies(body: AskRemedies) -> Response:
    """Try what would help against one finding: on a large plan all of them would take minutes."""
    return answer(remedies_report(Analysis(body.document, heed=heed_the_asker), body.code, body.where))


@analysis.post("/pipes", operation_id="comparePipes", responses={200: PipeChoicesReport, 422: Problem})
def compare_pipes(body: AskPipes) -> Response:
    """Tell what each pipe of about a line's size would do to the tightest outlet, before it is taken."""
    return answer(pipe_choices_report(Analysis(body.document, heed=heed_the_asker), body.line, body.own))


@analysis.post("/valves", operation_id="compareValves", responses={200: ValveChoicesReport, 422: Problem})
def compare_valves(body: AskValves) -> Response:
    """Lay float valves side by side at an outlet: whether they open and shut, what they pass, lose, and cost."""
    return answer(valve_choices_report(Analysis(body.document, heed=heed_the_asker), body.outlet, body.own))


@analysis.post("/fitted", operation_id="fitInLine", responses={200: Fitted, 422: Problem})
def fit_in_line(body: FitInLine) -> Response:
    """Tell how a fitting or a part of the catalogue stands in a line of a design."""
    return answer(Fitted.model_validate(fitted(body.document, body.line, body.fitting, body.part)))


@analysis.post("/season", operation_id="runSeason", responses={200: SeasonRunReport, 422: Problem})
def run_season(body: Analyse) -> Response:
    """Run the store through the design's weather: reliability, gaps, days in hand, what would close the gap."""
    return answer(season_run_report(Analysis(body.document)))


@analysis.post("/years", operation_id="compareYears", responses={200: ComparisonReport, 422: Problem})
def compare_years(body: CompareYears) -> Response:
    """Hold a year of metered water and of hauling of one design against another's."""
    return answer(comparison_report(Analysis(body.document), Analysis(body.other)))


@analysis.post("/schools", operation_id="compareSchools", responses={200: SchoolsReport, 422: Problem})
def compare_schools(body: CompareSchools) -> Response:
    """Feed one trough through a smaller and a larger valve: how the mob fares, and what a failure costs."""
    return answer(schools_report(Analysis(body.document), body.outlet))
