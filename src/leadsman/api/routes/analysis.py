"""Judging a design without keeping it: what runs behind every edit."""

from flask import Response
from flask_openapi3.blueprint import APIBlueprint

from leadsman.api.routes import answer
from leadsman.api.schemas import Analyse, Problem
from leadsman.core.analysis import Analysis
from leadsman.core.report.finding import CheckReport, check_report
from leadsman.core.report.workbench import AnalysisReport, analysis_report

analysis = APIBlueprint("analysis", __name__, url_prefix="/api/analyses")


@analysis.post("", operation_id="analyse", responses={200: AnalysisReport, 422: Problem})
def analyse(body: Analyse) -> Response:
    """Solve and judge a design, without trying remedies."""
    return answer(analysis_report(Analysis(body.document)))


@analysis.post("/checks", operation_id="check", responses={200: CheckReport, 422: Problem})
def check(body: Analyse) -> Response:
    """Judge a design and try remedies: what `leadsman check` says."""
    return answer(check_report(Analysis(body.document)))
