"""JSON of doses: how much for the water that is there, how to mix it, how strong it stays."""

from collections.abc import Iterator
from typing import Literal

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.errors import UnknownName
from leadsman.core.base.units import LITRE_M3, m_from_mm
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import FloatValveOutlet, label
from leadsman.core.design.store import shape_of
from leadsman.core.growing.dosing import Amount, Dose, amount_for, doses
from leadsman.core.growing.mixing import mixed_to
from leadsman.core.physics.orifice import seat_bore_m
from leadsman.core.report.base import Report, Words, words

SMALL_SEAT_MM = 5.0  # what grains block; ours, no source


class AmountReport(Report):
    """How much is mixed in: in g or mL, and in spoons where it is not weighed."""

    value: float
    unit: str
    us_spoons: list[tuple[float, str]]
    metric_spoons: list[tuple[float, str]]


class MixedReport(Report):
    """What brings water to a strength: a dose, or plain water [L]; null where it is the other."""

    dose: AmountReport | None
    plain_l: float | None


class SchoolReport(Report):
    """A way to dose the pots: into `vessel`, so much at once and in a week; least and greatest strength in the pots."""

    into: Literal["reservoir", "pot"]
    vessel: str
    dose: AmountReport
    per_week: AmountReport
    least: float | None
    most: float | None


class DoseReport(Report):
    """A dose for the water there is, in g or mL and in spoons; the strength in the pots day by day, 1 the recipe's."""

    id: str
    vessel: str
    water_l: float
    dead_l: float
    pump_m: float | None
    pump_l: float
    amount: AmountReport
    pots: int
    by_day: list[float]
    least: float | None
    most: float | None
    keeps: float | None
    schools: list[SchoolReport]
    steps: list[Words]


class DosesReport(Report):
    doses: list[DoseReport]


def doses_report(analysis: Analysis) -> DosesReport:
    """Return the doses of a design."""
    return DosesReport(doses=[_dose(analysis, dose) for dose in doses(analysis)])


def _dose(analysis: Analysis, dose: Dose) -> DoseReport:
    return DoseReport(
        id=dose.dosing.id,
        vessel=dose.vessel.id,
        water_l=dose.water_l,
        dead_l=dose.dead_l,
        pump_m=dose.pump_m,
        pump_l=dose.pump_l,
        amount=_amount(dose.amount),
        pots=dose.row.containers if dose.row is not None else 0,
        by_day=dose.by_day,
        least=None if dose.cycle is None else dose.cycle.least,
        most=None if dose.cycle is None else dose.cycle.most,
        keeps=dose.keeps,
        schools=[
            SchoolReport(
                into=school.into,
                vessel=school.vessel.id,
                dose=_amount(school.dose),
                per_week=_amount(school.per_week),
                least=school.least,
                most=school.most,
            )
            for school in dose.schools
        ],
        steps=[words(step) for step in _steps(analysis, dose)],
    )


def mixed_report(analysis: Analysis, dosing_id: str, now: float, wanted: float) -> MixedReport:
    """Return what brings the water that a recipe is for from one strength to another, 1 the recipe's.

    Raises:
        UnknownName: no such recipe.
        OutOfRange: no mixing makes that strength.
    """
    known = {dose.dosing.id: dose for dose in doses(analysis)}
    if dosing_id not in known:
        raise UnknownName("recipe", dosing_id, list(known), "/dosing")
    dose = known[dosing_id]
    shape = shape_of(dose.vessel)
    room_m3 = shape.volume_m3(dose.vessel.brim_m) - shape.volume_m3(dose.vessel.level_m)
    found = mixed_to(dose.water_l, max(0.0, room_m3) / LITRE_M3, now, wanted)
    if wanted < now:
        return MixedReport(dose=None, plain_l=found.plain_l)
    return MixedReport(dose=_amount(amount_for(dose.dosing, found.dose_for_l)), plain_l=None)


def _amount(amount: Amount) -> AmountReport:
    return AmountReport(
        value=amount.base,
        unit="g" if amount.is_mass else "mL",
        us_spoons=amount.us_spoons,
        metric_spoons=amount.metric_spoons,
    )


def _steps(analysis: Analysis, dose: Dose) -> Iterator[Wording]:
    """Yield how it is mixed, in order."""
    yield say("Read the level of {}: the dose is for {}", label(dose.vessel), Quantity(value=dose.water_l, unit="L"))
    if dose.dosing.into == "reservoir":
        yield say("Shut the valve below it, and leave it shut until all is dissolved and mixed")
    yield say("Stir it in a pail of its water first until nothing lies at the bottom, then pour it in and mix")
    small = _small_seats(analysis, dose)
    if small:
        yield say("A grain holds {} open: pour through a fine cloth, or fit a filter", small[0])
    if dose.dosing.into == "reservoir":
        yield say("Open the valve, and measure the strength in the first and the last pot")
    else:
        yield say("Let it spread before measuring: thin tubes take hours")


def _small_seats(analysis: Analysis, dose: Dose) -> list[str]:
    """Return the float valves behind a dosed vessel whose opening a grain blocks, without a filter on the way."""
    found = []
    for outlet in analysis.fed_outlets:
        route = analysis.routes[outlet.id]
        if not isinstance(outlet, FloatValveOutlet) or route is None or route.vessel.id != dose.vessel.id:
            continue
        filtered = any(part.kind == "filter" for leg in route.legs for part in leg.line.inline)
        if not filtered and seat_bore_m(outlet.valve.kv_m3h) < m_from_mm(SMALL_SEAT_MM):
            found.append(label(outlet))
    return found
