"""JSON of trouble: what it may be and how likely, what to look at next, what to do, and what holds until then."""

from collections.abc import Mapping

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.errors import UnknownName
from leadsman.core.base.wording import say
from leadsman.core.calibration.fit import LIKELY, Calibration
from leadsman.core.calibration.told import told_explanation
from leadsman.core.report.base import Report, Words, words
from leadsman.core.trouble.cause import Cause, causes, named
from leadsman.core.trouble.check import Check, checks
from leadsman.core.trouble.diagnosis import diagnosis
from leadsman.core.trouble.evidence import weighed
from leadsman.core.trouble.kinds import AFTER, KINDS, SYMPTOMS, Symptom
from leadsman.core.trouble.relief import relief

SHOWN = 5


class AnswerReport(Report):
    id: str
    text: str


class CheckReport(Report):
    """One thing to look at, with its answers; `minutes` with the walk there."""

    id: str
    told: Words
    part: str
    minutes: float
    answers: list[AnswerReport]


class CauseReport(Report):
    """One cause and how likely it is, from 0 to 1; `mend` step by step, and what would keep it away."""

    id: str
    told: Words
    part: str
    at_m: float | None
    likely: float
    mend: list[str]
    prevent: str


class TroubleReport(Report):
    """What it may be, most likely first; `next` is to be looked at; `found` tells that the first is to be mended."""

    causes: list[CauseReport]
    next: CheckReport | None
    found: bool
    readings: Words
    shut: Words
    lasts: list[Words]
    standby: Words
    lost: Words
    after: str


def trouble_report(
    analysis: Analysis, symptom: Symptom, part: str, answers: Mapping[str, str], calibration: Calibration | None
) -> TroubleReport:
    """Return what is behind a symptom at a part, after some answers.

    Raises:
        UnknownName: there is no such part, check or answer; or nothing is known that would show so there.
    """
    found = weighed(causes(analysis, symptom, part), calibration)
    if not found:
        layout = analysis.model.layout
        known = [*layout.outlets, *layout.lines, *layout.vessels]
        raise UnknownName(f"part with trouble of the kind “{SYMPTOMS[symptom]}”", part, known, "/part")
    judged = diagnosis(found, checks(analysis, symptom, part, found), answers)
    first = judged.causes[0][0]
    holds = relief(analysis, symptom, part, first if judged.found else None)
    return TroubleReport(
        causes=[_cause(analysis, cause, likely) for cause, likely in judged.causes[:SHOWN]],
        next=None if judged.next is None else _check(judged.next),
        found=judged.found,
        readings=_readings(analysis, calibration),
        shut=words(holds.shut),
        lasts=[words(one) for one in holds.lasts],
        standby=words(holds.standby),
        lost=words(holds.lost),
        after=AFTER,
    )


def _readings(analysis: Analysis, calibration: Calibration | None) -> Words:
    """Return what the last readings say, where they say it with some certainty."""
    if calibration is None or calibration.first.suspect is None or calibration.first.sure < LIKELY:
        return []
    return words(say("The last readings: {}", told_explanation(analysis, calibration, calibration.first)))


def _check(check: Check) -> CheckReport:
    return CheckReport(
        id=check.check_id,
        told=words(check.told),
        part=check.part,
        minutes=check.minutes,
        answers=[AnswerReport(id=one.answer_id, text=one.text) for one in check.answers],
    )


def _cause(analysis: Analysis, cause: Cause, likely: float) -> CauseReport:
    kind = KINDS[cause.kind]
    return CauseReport(
        id=cause.cause_id,
        told=words(say(kind.told, named(analysis, cause))),
        part=cause.part,
        at_m=cause.at_m,
        likely=likely,
        mend=list(kind.mend),
        prevent=kind.prevent,
    )
