"""JSON of a calibration: readings against the plan, what is off and how surely, what to read next."""

from typing import Any, Literal

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import kpa_from_pa, lpm_from_m3s
from leadsman.core.calibration.as_measured import as_measured
from leadsman.core.calibration.fit import Calibration, Explanation, calibrated
from leadsman.core.calibration.reading import Drawing, Measured, Reading, ReadingKind
from leadsman.core.calibration.separate import next_reading
from leadsman.core.calibration.suspect import SuspectKind
from leadsman.core.calibration.told import name_of, sure_words, to_look_at, told_explanation, told_next
from leadsman.core.report.base import Report, Words, words

SHOWN = 6  # explanations at most
HARDLY = 0.005  # one less sure than this is not shown, unless it is the first


class ReadingReport(Report):
    """A reading with one standard error, and what the plan gives, with its own; in L/min or kPa, as `kind` says."""

    kind: ReadingKind
    part: str
    name: str
    drawing: Drawing
    count: int
    measured: float
    error: float
    planned: float | None
    planned_error: float | None
    explained: float | None


class LevelReport(Report):
    """The level of a store while the readings were taken: read then, or else as in the plan."""

    part: str
    name: str
    level_m: float
    read: bool


class LookedAtReport(Report):
    name: str
    at_m: float


class ExplanationReport(Report):
    """One thing that may be off: how sure it is from 0 to 1, in words too; what to look at; the change of the plan."""

    kind: SuspectKind | Literal["nothing"]
    part: str | None
    name: str | None
    sure: float
    sure_words: str
    told: Words
    look_at: list[LookedAtReport]
    patch: list[dict[str, Any]]


class CalibrationReport(Report):
    """What the readings say; empty lists where nothing was read that the plan has an answer to.

    `fits` tells whether the first explanation leaves no more than errors do; `levels` at what the stores stood, and
    whether that was read or is the plan's.
    """

    readings: list[ReadingReport]
    explanations: list[ExplanationReport]
    fits: bool
    next: Words
    levels: list[LevelReport]


def calibration_report(analysis: Analysis, taken: Measured) -> CalibrationReport:
    """Return what readings say of a plan."""
    found = calibrated(analysis, taken)
    if found is None:
        left = [_reading(analysis, one, None, None, None) for one in taken.readings]
        return CalibrationReport(readings=left, explanations=[], fits=True, next=[], levels=[])
    rows = zip(found.readings, found.planned, found.planned_error, found.first.predicted, strict=True)
    readings = [_reading(analysis, one, float(plan), float(error), float(best)) for one, plan, error, best in rows]
    readings += [_reading(analysis, one, None, None, None) for one in found.left_out]
    shown = [one for number, one in enumerate(found.explanations) if number == 0 or one.sure >= HARDLY]
    return CalibrationReport(
        readings=readings,
        explanations=[_explanation(analysis, found, one) for one in shown[:SHOWN]],
        fits=found.fits,
        next=words(told_next(analysis, found, next_reading(analysis, found))),
        levels=_levels(analysis, taken),
    )


def _levels(analysis: Analysis, taken: Measured) -> list[LevelReport]:
    """Return the levels of the stores that the outlets draw from that were read."""
    routes = [analysis.routes.get(one.part) for one in taken.readings]
    stores = {route.vessel.id for route in routes if route is not None}
    return [
        LevelReport(
            part=vessel.id,
            name=name_of(analysis, vessel.id),
            level_m=taken.levels_m.get(vessel.id, analysis.standing.levels_m[vessel.id]),
            read=vessel.id in taken.levels_m,
        )
        for vessel in analysis.sources_of_outlets
        if vessel.id in stores and vessel.id in analysis.model.layout.vessels
    ]


def _reading(
    analysis: Analysis, reading: Reading, plan: float | None, plan_error: float | None, best: float | None
) -> ReadingReport:
    turn = lpm_from_m3s if reading.kind == "flow" else kpa_from_pa
    return ReadingReport(
        kind=reading.kind,
        part=reading.part,
        name=name_of(analysis, reading.part),
        drawing=reading.drawing,
        count=reading.count,
        measured=turn(reading.value),
        error=turn(reading.error),
        planned=None if plan is None else turn(plan),
        planned_error=None if plan_error is None else turn(plan_error),
        explained=None if best is None else turn(best),
    )


def _explanation(analysis: Analysis, found: Calibration, one: Explanation) -> ExplanationReport:
    suspect = one.suspect
    patch = []
    if suspect is not None:
        lines = analysis.model.layout.lines
        pipes = analysis.model.reaches_of_line(suspect.part) if suspect.part in lines else []
        patch = as_measured(analysis.document, suspect, one.best, pipes)
    return ExplanationReport(
        kind=suspect.kind if suspect else "nothing",
        part=one.part,
        name=name_of(analysis, suspect.part) if suspect else None,
        sure=one.sure,
        sure_words=sure_words(one.sure),
        told=words(told_explanation(analysis, found, one)),
        look_at=[LookedAtReport(name=name, at_m=at_m) for name, at_m in to_look_at(analysis, suspect)],
        patch=patch,
    )
