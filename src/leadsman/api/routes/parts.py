"""What a design is made of: to buy, to join and to lay; as JSON, and as a workbook."""

from flask import Response

from leadsman.api.routes import Routes, answer, handed_out
from leadsman.api.schemas import Analyse, AskWorkbook, Problem
from leadsman.core.analysis.work import require_workable
from leadsman.core.report.parts import PartsReport, parts_report
from leadsman.formats.parts_workbook import parts_workbook

XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"

parts = Routes("parts", __name__, url_prefix="/api/analyses/parts")


@parts.post("", operation_id="listParts", responses={200: PartsReport, 422: Problem})
def list_parts(body: Analyse) -> Response:
    """Tell what a design is made of: rows to buy, joints with their chains, rolls, laying sheets."""
    require_workable(body.document)
    return answer(parts_report(body.document))


@parts.post("/workbook", operation_id="partsWorkbook", responses={200: None, 422: Problem})
def parts_as_workbook(body: AskWorkbook) -> Response:
    """Return what a design is made of as an XLSX file, lengths in the reader's units."""
    require_workable(body.document)
    written = parts_workbook(body.document, parts_report(body.document), body.units)
    return handed_out(written, body.document, "parts.xlsx", XLSX)
