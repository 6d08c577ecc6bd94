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
        next=[_reading(reading) for reading in next_readings(analysis)],
        flows=[_check(check) for check in flow_checks(analysis)],
    )


def _reading(reading: NextReading) -> NextReadingReport:
    before, after = ((lpm_from_m3s(ends[0]), lpm_from_m3s(ends[1])) for ends in (reading.before, reading.after))
    return NextReadingReport(
        kind=reading.kind, part=reading.part_id, outlet=reading.outlet_id, limit_lpm=lpm_from_m3s(reading.limit_m3s),
        before_lpm=before, after_lpm=after, turns=reading.turns, settles=reading.settles, stated=reading.is_stated,
        narrows=reading.narrows,
    )  # fmt: skip


def _check(check: FlowCheck) -> FlowCheckReport:
    return FlowCheckReport(
        sight=check.sight.id,
        outlet=check.sight.outlet,
        measured_lpm=lpm_from_m3s(check.measured_m3s),
        error_lpm=lpm_from_m3s(check.error_m3s),
        likely_lpm=lpm_from_m3s(check.planned.likely),
        worst_lpm=lpm_from_m3s(check.planned.worst),
        best_lpm=lpm_from_m3s(check.planned.best),
        agrees=check.agrees,
        higher_m=check.higher_m,
        least_m=check.least_m,
        most_m=check.most_m,
    )
