"""The plan beside the log of its real line: what readings say of it, and where to look in trouble."""

from datetime import UTC, datetime, timedelta
from uuid import UUID

from flask import Response

from leadsman.api.routes import Routes, answer, database, judged, settings
from leadsman.api.routes.log import entry_of, require_plan
from leadsman.api.schemas import Analyse, DesignPath, Problem
from leadsman.api.schemas.log import AskExpected, AskLevels, AskTrouble
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import HOUR_S, LITRE_M3
from leadsman.core.calibration.fit import calibrated
from leadsman.core.calibration.reading import Measured, measured
from leadsman.core.design import Design, Vessel
from leadsman.core.field.store_known import store_known, store_share
from leadsman.core.report.calibration import CalibrationReport, calibration_report
from leadsman.core.report.levels import ExpectedReport, LevelsReport, expected_report, levels_report, vessel_of
from leadsman.core.report.trouble import TroubleReport, trouble_report
from leadsman.db.log import LogPage, select_entries
from leadsman.services.levels import LevelsUnavailable, ask_levels

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


@field.post(
    "/<uuid:design_id>/levels",
    operation_id="readLevels",
    responses={200: LevelsReport, 404: Problem, 422: Problem},
)
def read_levels(path: DesignPath, body: AskLevels) -> Response:
    """Tell a vessel's levels of the last days, by sensor and stick, and what they say beside the plan.

    A sensor that does not answer is told of; what the stick said is there without it.
    """
    analysis, now = judged(body.document), datetime.now(UTC)
    vessel = vessel_of(analysis, body.vessel)
    with database().transaction() as connection:
        require_plan(connection, path.design_id)
        page = LogPage(kinds=("level",), part=vessel.id, length=MOST_READINGS)
        entries = [entry_of(row) for row in select_entries(connection, path.design_id, page)]
    heard, trouble = None, None
    if address := settings().level_service_url:
        try:
            heard = ask_levels(address, _figures(analysis, vessel, body.days))
        except LevelsUnavailable as error:
            trouble = f"The sensor's service gives no levels: {error}."
    readings = heard.readings if heard else []
    offset = timedelta(minutes=body.utc_offset_min)
    source = heard.source if heard else None
    return answer(levels_report(analysis, vessel, readings, entries, now, offset, source, trouble))


@field.post(
    "/<uuid:design_id>/levels/expected",
    operation_id="expectLevels",
    responses={200: ExpectedReport, 404: Problem, 422: Problem},
)
def expect_levels(path: DesignPath, body: AskExpected) -> Response:
    """Tell which levels the plan expects of a vessel in the day from a midnight on: a run over time."""
    analysis = judged(body.document)
    with database().transaction() as connection:
        require_plan(connection, path.design_id)
    return answer(expected_report(analysis, vessel_of(analysis, body.vessel), body.midnight, body.level_m))


def _figures(analysis: Analysis, vessel: Vessel, days: float) -> dict[str, str | float]:
    """Return what a simulated sensor has to know of a vessel; a real one needs its name and the days alone."""
    store = store_known(analysis, vessel)
    system = analysis.system_of(vessel.id)
    daily = system.daily_l(analysis.herds, analysis.other_demands) if system else 0.0
    drawn = daily * store_share(analysis, vessel)
    return {
        "vessel": vessel.id, "days": days, "full_m": store.full_m, "area_m2": store.area_m2,
        "comes_lph": (store.comes_m3s or 0.0) * HOUR_S / LITRE_M3, "drawn_lpd": drawn, "start_m": vessel.level_m,
    }  # fmt: skip


def _measured(design_id: UUID, document: Design) -> Measured:
    with database().transaction() as connection:
        require_plan(connection, design_id)
        rows = select_entries(connection, design_id, LogPage(kinds=READ_KINDS, length=MOST_READINGS))
    return measured([entry_of(row) for row in rows], document)
