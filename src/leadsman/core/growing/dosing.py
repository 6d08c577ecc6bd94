"""Doses of a plan: how much for the water that is there, and how strong it is in the pots by either school."""

from dataclasses import dataclass
from typing import Literal

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.measures import METRIC_SPOONS, US_SPOONS, in_base, is_mass, spoons
from leadsman.core.base.units import LITRE_M3
from leadsman.core.design import Dosing, Vessel
from leadsman.core.design.store import shape_of
from leadsman.core.farm.container_row import ContainerRow
from leadsman.core.growing.strength import Cycle, PotWater, dose_that_keeps, dosed_pot

SHOWN_DAYS, WEEK_D = 28, 7.0
DRIFT = 0.25  # of the wanted strength, up or down: more burns or starves; ours, no source


@dataclass(frozen=True, kw_only=True)
class Amount:
    """How much of what is mixed in: g or mL, and the same in spoons where it is not weighed."""

    base: float
    is_mass: bool
    us_spoons: list[tuple[float, str]]
    metric_spoons: list[tuple[float, str]]


@dataclass(frozen=True, kw_only=True)
class School:
    """One of the two ways to dose a row: into its reservoir, or into its pots, topped up with plain water.

    `dose` goes in at once, `per_week` what the plants' water takes of it in a week; `least` and `most` are the strength
    in the pots, 1 for the recipe's: over the days shown, or from dose to dose. None where it grows for ever.
    """

    into: Literal["reservoir", "pot"]
    vessel: Vessel
    dose: Amount
    per_week: Amount
    least: float | None
    most: float | None


@dataclass(frozen=True, kw_only=True)
class Dose:
    """A dose for the water of a vessel [L], and what of that is out of the outlet's reach [L].

    `pump_m` is the level under which a pump in it runs dry [m], None where none is; `pump_l` what lies below that [L].

    `row` are the pots that drink of it, None where none do; `by_day` the strength in them day by day from now, 1 for
    the recipe's; `cycle` where it repeats between doses, `keeps` what of a full dose would hold it at 1 on the mean.
    """

    dosing: Dosing
    vessel: Vessel
    water_l: float
    dead_l: float
    pump_m: float | None
    pump_l: float
    amount: Amount
    row: ContainerRow | None
    by_day: list[float]
    cycle: Cycle | None
    keeps: float | None
    schools: tuple[School, ...]

    @property
    def strengths(self) -> tuple[float, float]:
        """The least and the greatest strength in the pots: over the cycle where it repeats, else over the days."""
        if self.cycle is not None:
            return self.cycle.least, self.cycle.most
        return min(self.by_day, default=1.0), max(self.by_day, default=1.0)

    @property
    def drifts(self) -> bool:
        """Whether the strength in the pots strays from the recipe's by more than a quarter."""
        return any(abs(strength - 1.0) > DRIFT for strength in self.strengths)


def doses(analysis: Analysis) -> list[Dose]:
    """Return every dose of a plan."""
    return [_dose(analysis, dosing) for dosing in analysis.document.dosings]


def amount_for(dosing: Dosing, litres: float) -> Amount:
    """Return how much of a recipe's goes into so many litres, all of the packet's dose."""
    base, by_mass = in_base(dosing.amount, dosing.measure) * litres / dosing.per_l, is_mass(dosing.measure)
    return Amount(
        base=base, is_mass=by_mass,
        us_spoons=[] if by_mass else spoons(base, US_SPOONS),
        metric_spoons=[] if by_mass else spoons(base, METRIC_SPOONS),
    )  # fmt: skip


def _dose(analysis: Analysis, dosing: Dosing) -> Dose:
    vessel = analysis.model.layout.vessels[dosing.vessel]
    water_l = shape_of(vessel).volume_m3(vessel.level_m) / LITRE_M3
    row = _row(analysis, dosing)
    if dosing.into == "pot" and row is not None:
        water_l = row.holds_m3 / LITRE_M3  # all pots at that level share it
    pot = _pot(dosing, row)
    needs = [one.needs_m for one in vessel.inside if one.kind == "pump" and one.needs_m is not None]
    pump_m = max(needs, default=None)
    return Dose(
        dosing=dosing, vessel=vessel, water_l=water_l,
        dead_l=shape_of(vessel).volume_m3(min(vessel.outlet_m, vessel.level_m)) / LITRE_M3,
        pump_m=pump_m, pump_l=0.0 if pump_m is None else shape_of(vessel).volume_m3(pump_m) / LITRE_M3,
        amount=amount_for(dosing, water_l * dosing.share),
        row=row,
        by_day=[] if pot is None else _by_day(dosing, pot, dosing.into),
        cycle=dosed_pot(pot, dosing.every_days, dosing.share) if pot is not None and dosing.into == "pot" else None,
        keeps=dose_that_keeps(pot, dosing.every_days) if pot is not None and dosing.into == "pot" else None,
        schools=() if pot is None or row is None else _schools(analysis, dosing, row, pot),
    )  # fmt: skip


def _row(analysis: Analysis, dosing: Dosing) -> ContainerRow | None:
    """Return the pots that drink of a dosed vessel: their own, or those that its water comes to."""
    for row in analysis.container_rows:
        route = analysis.routes.get(row.outlet.id)
        if dosing.into == "pot" and any(vessel.id == dosing.vessel for vessel in row.vessels):
            return row
        if dosing.into == "reservoir" and route is not None and route.vessel.id == dosing.vessel:
            return row
    return None


def _pot(dosing: Dosing, row: ContainerRow | None) -> PotWater | None:
    if row is None or row.holds_m3 <= 0.0 or row.demand_m3_per_day <= 0.0:
        return None
    used = row.demand_m3_per_day / LITRE_M3
    return PotWater(
        holds_l=row.holds_m3 / LITRE_M3, drunk_lpd=used * (1.0 - dosing.air_share), air_lpd=used * dosing.air_share,
        taken_share=dosing.taken_share,
    )  # fmt: skip


def _schools(analysis: Analysis, dosing: Dosing, row: ContainerRow, pot: PotWater) -> tuple[School, ...]:
    """Return both ways to give a recipe to a row; the reservoir's only where one feeds it."""
    found = []
    route = analysis.routes.get(row.outlet.id)
    used_lpd = pot.drunk_lpd + pot.air_lpd
    if route is not None and route.vessel.id in analysis.model.layout.vessels:
        reservoir_l = shape_of(route.vessel).volume_m3(route.vessel.level_m) / LITRE_M3
        by_day = _by_day(dosing, pot, "reservoir")
        found.append(
            School(
                into="reservoir", vessel=route.vessel, dose=amount_for(dosing, reservoir_l * dosing.share),
                per_week=amount_for(dosing, used_lpd * WEEK_D * dosing.share), least=min(by_day), most=max(by_day),
            )
        )  # fmt: skip
    cycle = dosed_pot(pot, dosing.every_days, dosing.share)
    each_l = pot.holds_l * dosing.share
    found.append(
        School(
            into="pot", vessel=row.vessels[-1], dose=amount_for(dosing, each_l),
            per_week=amount_for(dosing, each_l * WEEK_D / dosing.every_days),
            least=None if cycle is None else cycle.least, most=None if cycle is None else cycle.most,
        )
    )  # fmt: skip
    return tuple(found)


def _by_day(dosing: Dosing, pot: PotWater, into: str) -> list[float]:
    """Return the strength at the end of each day from now, the pots as strong as the recipe to begin with."""
    strength, found, since = 1.0, [1.0], 0.0
    for _ in range(SHOWN_DAYS):
        if into == "reservoir":
            strength = pot.fed(strength, dosing.share, 1.0)
        else:
            strength, since = pot.fed(strength, 0.0, 1.0), since + 1.0
            if since >= dosing.every_days:
                strength, since = strength + dosing.share, since - dosing.every_days
        found.append(strength)
    return found
