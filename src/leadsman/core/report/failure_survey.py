"""What each failure would cost, what would help, and the reserve at each drinker, as JSON."""

from collections.abc import Callable
from typing import Any

from leadsman.core.analysis.failure_survey import LONGEST_S, Cost, Failure, failure_survey
from leadsman.core.analysis.no_refill import no_refill
from leadsman.core.base.units import LITRE_M3
from leadsman.core.design import Design
from leadsman.core.report.base import Report, Words, words
from leadsman.core.report.reserve import ReserveReport, reserve_reports
from leadsman.core.steady.case import shown_scenario


class CostReport(Report):
    """What a failure costs: litres lost, when something is dry that else is not [s], and how long animals wait."""

    lost_l: float
    dry_s: float | None
    dry_where: str | None
    animal_hours: float
    short: list[str]


class MeasureReport(Report):
    """What would make it cost less; a patch is there where it can be tried on the plan."""

    told: Words
    cost: CostReport
    price: float | None
    patch: list[dict[str, Any]]


class FailureReport(Report):
    """One failure, of a kind of event at a part."""

    kind: str
    where: str
    cost: CostReport
    measures: list[MeasureReport]


class FailureSurveyReport(Report):
    """Every failure, worst first; `left_out` are those that a large plan has beyond what is run.

    With no source at all it lasts `no_refill_s`, until water is missing at `no_refill_where`; null: a fortnight.
    """

    look_s: float
    no_refill_s: float | None
    no_refill_where: str | None
    failures: list[FailureReport]
    left_out: int
    reserves: list[ReserveReport]


def failure_survey_report(design: Design, progress: Callable[[float], None] = lambda _: None) -> FailureSurveyReport:
    """Return what each failure would cost in the case that a design shows.

    Args:
        progress: as for `failure_survey`.
    """
    found = failure_survey(design, shown_scenario(design), progress)
    quiet = design.model_copy(update={"events": []})
    lasts = no_refill(quiet, shown_scenario(design), LONGEST_S, watch=lambda _: progress(1.0))
    where, lasts_s = lasts.first or (None, None)
    return FailureSurveyReport(
        look_s=found.look_s,
        no_refill_s=lasts_s,
        no_refill_where=where,
        failures=[_failure(one) for one in found.failures],
        left_out=found.left_out,
        reserves=reserve_reports(design),
    )


def _failure(failure: Failure) -> FailureReport:
    return FailureReport(
        kind=failure.kind,
        where=failure.where,
        cost=_cost(failure.cost),
        measures=[
            MeasureReport(told=words(one.told), cost=_cost(one.cost), price=one.price, patch=one.patch)
            for one in failure.measures
        ],
    )


def _cost(cost: Cost) -> CostReport:
    return CostReport(
        lost_l=cost.lost_m3 / LITRE_M3,
        dry_s=cost.dry_s,
        dry_where=cost.dry_where,
        animal_hours=cost.animal_hours,
        short=cost.short,
    )
