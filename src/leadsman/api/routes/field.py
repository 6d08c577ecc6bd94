"""The plan beside the log of its real line: what readings say of it, and where to look in trouble."""

from uuid import UUID

from flask import Response

from leadsman.api.routes import Routes, answer, database, judged
from leadsman.api.routes.log import entry_of, require_plan
from leadsman.api.schemas import Analyse, DesignPath, Problem
from leadsman.api.schemas.log import AskTrouble
from leadsman.core.calibration.fit import calibrated
from leadsman.core.calibration.reading import Measured, measured
from leadsman.core.design import Design
from leadsman.core.report.calibration import CalibrationReport, calibration_report
from leadsman.core.report.trouble import TroubleReport, trouble_report
from leadsman.db.log import LogPage, select_entries

MOST_READINGS = 2_000
READ_KINDS = ("timing", "gauge", "level", "mend", "service")

field = Routes("field", __name__, url_prefix="/api/designs")


@field.post(
    "/<uuid:design_id>/calibration",
    operation_id="calibrate",
    responses={200: CalibrationReport, 404: Problem, 422: Problem},
)
def calibrate(path: DesignPath, body: Analyse) -> Response:
    """Hold a plan against what its log says was measured: which one part is off, how surely, what to read next."""
    return answer(calibration_report(judged(body.document), _measured(path.design_id, body.document)))


@field.post(
    "/<uuid:design_id>/trouble",
    operation_id="findTrouble",
    responses={200: TroubleReport, 404: Problem, 422: Problem},
)
def find_trouble(path: DesignPath, body: AskTrouble) -> Response:
    """Tell what is behind a symptom at a part, after some answers, and what to look at next, the cheapest first."""
    analysis, taken = judged(body.document), _measured(path.design_id, body.document)
    calibration = calibrated(analysis, taken) if taken.readings else None
    return answer(trouble_report(analysis, body.symptom, body.part, body.answers, calibration))


def _measured(design_id: UUID, document: Design) -> Measured:
    with database().transaction() as connection:
        require_plan(connection, design_id)
        rows = select_entries(connection, design_id, LogPage(kinds=READ_KINDS, length=MOST_READINGS))
    return measured([entry_of(row) for row in rows], document)
