"""The plan beside the log of its real line: what readings say of it."""

from flask import Response

from leadsman.api.routes import Routes, answer, database, judged
from leadsman.api.routes.log import entry_of, require_plan
from leadsman.api.schemas import Analyse, DesignPath, Problem
from leadsman.core.calibration.reading import measured
from leadsman.core.report.calibration import CalibrationReport, calibration_report
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
    with database().transaction() as connection:
        require_plan(connection, path.design_id)
        rows = select_entries(connection, path.design_id, LogPage(kinds=READ_KINDS, length=MOST_READINGS))
    taken = measured([entry_of(row) for row in rows], body.document)
    return answer(calibration_report(judged(body.document), taken))
