"""JSON of a design at a glance: its lines and marks for a small map, and how it stands."""

from typing import Literal

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.cancel import CancelCheck, never_cancelled
from leadsman.core.design import Design
from leadsman.core.design.layout import Layout
from leadsman.core.findings.registry import judge
from leadsman.core.findings.verdict import Standing, tightest_outlet, verdict_sentence
from leadsman.core.report.base import Report, Words, words

Spot = tuple[float, float]


class SmallMark(Report):
    """What stands at a spot of the small map."""

    kind: Literal["vessel", "outlet"]
    at: Spot


class GlanceReport(Report):
    """Ways of the lines and spots of the marks [east, north in m], and the sentence on top.

    `lasts_days` is for how long the worst system's store lasts with no refill [d]; None where nothing is needed of it.
    """

    ways: list[list[Spot]]
    marks: list[SmallMark]
    outlets: int
    findings: int
    standing: Standing
    sentence: Words
    lasts_days: float | None = None


def glance_report(design: Design, check_cancelled: CancelCheck = never_cancelled) -> GlanceReport:
    """Return a design at a glance, judged as it is everywhere else."""
    analysis, layout = Analysis(design, check_cancelled=check_cancelled), Layout(design)
    findings = judge(analysis)
    standing, sentence = verdict_sentence(analysis, findings, tightest_outlet(analysis, findings))
    filled = {outlet.fills for outlet in design.outlets}
    tanks = [vessel for vessel in design.vessels if vessel.id not in filled]
    marks = [SmallMark(kind="vessel", at=_spot(layout, tank.place)) for tank in tanks]
    marks += [SmallMark(kind="outlet", at=_spot(layout, outlet.place)) for outlet in design.outlets]
    return GlanceReport(
        ways=[layout.way_of(line) for line in design.lines],
        marks=marks,
        outlets=len(design.outlets),
        findings=len(findings),
        standing=standing,
        sentence=words(sentence),
        lasts_days=_lasts_days(analysis),
    )


def _lasts_days(analysis: Analysis) -> float | None:
    worst = analysis.worst_system
    lasts = analysis.lasts(worst) if worst is not None else None
    return None if lasts is None else lasts.days


def _spot(layout: Layout, place_id: str) -> Spot:
    place = layout.places[place_id]
    return place.east_m, place.north_m
