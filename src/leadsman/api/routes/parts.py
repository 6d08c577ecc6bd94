"""What a design is made of: to buy, to join and to lay; as JSON, as a workbook, as a sheet to take outside."""

from flask import Response

from leadsman.api.routes import Routes, answer, handed_out, judged
from leadsman.api.schemas import Analyse, AskComparisons, AskInUnits, AskSheet, LayingDrawn, Problem, SettingsDrawn
from leadsman.core.analysis.work import require_workable
from leadsman.core.design import label
from leadsman.core.report.comparison import ComparisonsReport, comparisons_report
from leadsman.core.report.parts import PartsReport, parts_report
from leadsman.core.report.setting import settings_report
from leadsman.formats.drawing.canvas import PAGE
from leadsman.formats.drawing.laying import laying_drawing
from leadsman.formats.drawing.setting import setting_drawing
from leadsman.formats.job_sheet.content import SheetAsked
from leadsman.formats.job_sheet.pdf import job_sheet
from leadsman.formats.parts_workbook import parts_workbook

PDF = "application/pdf"
XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"

STRIP_PX = 700.0  # how wide a line is drawn

parts = Routes("parts", __name__, url_prefix="/api/analyses/parts")


@parts.post("", operation_id="listParts", responses={200: PartsReport, 422: Problem})
def list_parts(body: Analyse) -> Response:
    """Tell what a design is made of: rows to buy, joints with their chains, rolls, laying sheets."""
    require_workable(body.document)
    return answer(parts_report(body.document))


@parts.post("/settings", operation_id="setOutFloats", responses={200: SettingsDrawn, 422: Problem})
def set_out_floats(body: AskInUnits) -> Response:
    """Set out the floats of a design: hole, levels, travel and room in the section of each vessel."""
    report = settings_report(judged(body.document))
    names = {vessel.id: label(vessel) for vessel in body.document.vessels}
    drawings = {
        setting.vessel: setting_drawing(setting, names[setting.vessel], body.units, PAGE) for setting in report.settings
    }
    return answer(SettingsDrawn(**report.model_dump(), drawings=drawings))


@parts.post("/laying", operation_id="drawLaying", responses={200: LayingDrawn, 422: Problem})
def draw_laying(body: AskInUnits) -> Response:
    """Draw every line of a design rolled out straight, with its posts, joins, taps and crossings."""
    require_workable(body.document)
    post_m = body.document.site.post_m
    drawings = {
        sheet.line: laying_drawing(sheet, post_m, STRIP_PX, body.units, PAGE)
        for sheet in parts_report(body.document).laying
    }
    return answer(LayingDrawn(drawings=drawings))


@parts.post("/comparisons", operation_id="compareParts", responses={200: ComparisonsReport, 422: Problem})
def compare_parts(body: AskComparisons) -> Response:
    """Lay parts and ways of doing it side by side, each with what it costs and does on this design."""
    return answer(comparisons_report(judged(body.document), body.outlet, body.bucket_l))


@parts.post("/workbook", operation_id="partsWorkbook", responses={200: None, 422: Problem})
def parts_as_workbook(body: AskInUnits) -> Response:
    """Return what a design is made of as an XLSX file, lengths in the reader's units."""
    require_workable(body.document)
    written = parts_workbook(body.document, parts_report(body.document), body.units)
    return handed_out(written, body.document, "parts.xlsx", XLSX)


@parts.post("/sheet", operation_id="jobSheet", responses={200: None, 422: Problem})
def sheet(body: AskSheet) -> Response:
    """Return everything of a design that is taken outside as one PDF."""
    asked = SheetAsked(
        system=body.units,
        paper=body.paper,
        revision=body.revision,
        is_saved=body.is_saved,
        date=body.date,
        link=body.link,
    )
    return handed_out(job_sheet(judged(body.document, over_time=True), asked), body.document, "job-sheet.pdf", PDF)
