"""JSON of first water: what to do step by step, when water comes, what to measure."""

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import lpm_from_m3s
from leadsman.core.field.first_water import FieldStep, StepKind, first_water_steps
from leadsman.core.report.base import Report, Words, words


class FieldStepReport(Report):
    """One step; water comes between `soonest_s` and `latest_s` after the source is opened [s].

    `flow_lpm` is what a timed pail should show, `shut_kpa` what a gauge should.
    """

    id: str
    kind: StepKind
    told: Words
    seen: Words
    part: str | None
    soonest_s: float | None
    latest_s: float | None
    flow_lpm: float | None
    shut_kpa: float | None


class FirstWaterReport(Report):
    steps: list[FieldStepReport]


def first_water_report(analysis: Analysis) -> FirstWaterReport:
    """Return the steps of first water of a design."""
    return FirstWaterReport(steps=[_step(step) for step in first_water_steps(analysis)])


def _step(step: FieldStep) -> FieldStepReport:
    return FieldStepReport(
        id=step.step_id,
        kind=step.kind,
        told=words(step.told),
        seen=words(step.seen),
        part=step.part,
        soonest_s=step.soonest_s,
        latest_s=step.latest_s,
        flow_lpm=None if step.flow_m3s is None else lpm_from_m3s(step.flow_m3s),
        shut_kpa=step.shut_kpa,
    )
