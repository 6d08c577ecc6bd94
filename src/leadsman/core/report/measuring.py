"""What to measure next, and timed flows held against the plan, as JSON."""

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.flow_check import FlowCheck, flow_checks
from leadsman.core.analysis.next_reading import Measured, NextReading, next_readings
from leadsman.core.base.units import lpm_from_m3s
from leadsman.core.report.base import Report


class NextReadingReport(Report):
    """A reading worth taking: the flow [L/min] of the outlet that it narrows most, before and about after.

    `turns`: the range crosses what is wanted there; `settles`: it no longer would. `stated` is false of a height
    of which nobody said how good it is: it counts as good to a metre.
    """

    kind: Measured
    part: str
    outlet: str
    limit_lpm: float
    before_lpm: tuple[float, float]
    after_lpm: tuple[float, float]
    turns: bool
    settles: bool
    stated: bool
    narrows: float


class FlowCheckReport(Report):
    """A timed flow: measured and planned [L/min], and how much higher than planned the outlet would stand [m]."""

    sight: str
    outlet: str
    measured_lpm: float
    error_lpm: float
    likely_lpm: float
    worst_lpm: float
    best_lpm: float
    agrees: bool
    higher_m: float | None
    least_m: float | None
    most_m: float | None


class MeasuringReport(Report):
    next: list[NextReadingReport]
    flows: list[FlowCheckReport]


def measuring_report(analysis: Analysis) -> MeasuringReport:
    """Return what to measure next and what timed flows say of the plan."""
    return MeasuringReport(
        next=[_reading(one) for one in next_readings(analysis)],
        flows=[_check(one) for one in flow_checks(analysis)],
    )


def _reading(one: NextReading) -> NextReadingReport:
    before, after = ((lpm_from_m3s(ends[0]), lpm_from_m3s(ends[1])) for ends in (one.before, one.after))
    return NextReadingReport(
        kind=one.kind, part=one.part_id, outlet=one.outlet_id, limit_lpm=lpm_from_m3s(one.limit_m3s),
        before_lpm=before, after_lpm=after, turns=one.turns, settles=one.settles, stated=one.is_stated,
        narrows=one.narrows,
    )  # fmt: skip


def _check(one: FlowCheck) -> FlowCheckReport:
    return FlowCheckReport(
        sight=one.sight.id,
        outlet=one.sight.outlet,
        measured_lpm=lpm_from_m3s(one.measured_m3s),
        error_lpm=lpm_from_m3s(one.error_m3s),
        likely_lpm=lpm_from_m3s(one.planned.likely),
        worst_lpm=lpm_from_m3s(one.planned.worst),
        best_lpm=lpm_from_m3s(one.planned.best),
        agrees=one.agrees,
        higher_m=one.higher_m,
        least_m=one.least_m,
        most_m=one.most_m,
    )
