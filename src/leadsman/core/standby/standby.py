"""What a standby tote or trailer is good for: whom it waters for how long, its load, its reach, its trips."""

import math
from dataclasses import dataclass

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.bisection import reached_at
from leadsman.core.base.cached import once_for_each
from leadsman.core.base.units import DAY_S, GRAVITY_MS2, LITRE_M3, MINUTE_S, m_from_mm
from leadsman.core.design import Herd, Standby, Vessel, label
from leadsman.core.physics.filling import time_to_level_s
from leadsman.core.physics.fittings import minor_loss_per_flow2
from leadsman.core.physics.pipe import PLASTIC_M, Pipe
from leadsman.core.physics.vessel import Prism

ENDS_K = 1.5  # into the hose and out of it
FASTEST_MS = 20.0
LONGEST_S = 30 * DAY_S
WEEK_D = 7.0
LOADED_ON_UNEVEN = 2  # legs or pallets across from each other carry all where the ground is not level


@dataclass(frozen=True, kw_only=True)
class Load:
    """What it weighs full [kg], and under each foot on level and on uneven ground; None where the feet are unknown."""

    full_kg: float
    level_kg: float | None
    uneven_kg: float | None
    level_pa: float | None
    uneven_pa: float | None


@dataclass(frozen=True, kw_only=True)
class Trips:
    """Trips, hours and money a week to bring all that is needed; None where minutes or price are unknown.

    `minutes` of one: the way, filling and pumping out, as far as they are known.
    """

    per_week: float
    minutes: float | None
    hours_per_week: float | None
    price_per_week: float | None


@dataclass(frozen=True, kw_only=True)
class StandbyAnswer:
    """A standby of the plan. `herds` drink from what it fills, of which `need_lpd` is needed a day in the case shown.

    `lasts_s` is None where nothing is needed. `away_m` is how far the vessel is, `fall_m` how far the container's
    floor stands over the brim of what it fills; `first_m3s` its flow while full, `empties_s` until it is empty, None
    where it gives nothing or the hose is unknown; `stays_l` what does not run out by gravity.
    """

    standby: Standby
    vessel: Vessel
    herds: tuple[Herd, ...]
    need_lpd: float
    lasts_s: float | None
    away_m: float
    reaches: bool | None
    fills_away_m: float | None
    fall_m: float
    first_m3s: float | None
    empties_s: float | None
    stays_l: float
    fill_s: float | None
    load: Load
    trips: Trips | None

    @property
    def name(self) -> str:
        return label(self.standby)

    @property
    def runs(self) -> bool:
        """Whether any water comes out by gravity or by its pump."""
        return self.standby.pump_lpm is not None or self.fall_m + self.standby.deep_m > 0.0


@once_for_each
def standbys(analysis: Analysis) -> list[StandbyAnswer]:
    """Return what every standby of a plan is good for in the case shown, worked out once."""
    return [_answer(analysis, standby) for standby in analysis.document.standbys]


def load_of(standby: Standby) -> Load:
    """Return what a standby weighs, and what is under each foot.

    On uneven ground two feet across from each other may carry all: half under each.
    Source: statics; a litre weighs a kilogram to within 0.5 % up to 30 °C.
    >>> load = load_of(Standby(id="s", fills="t", place="p", holds_l=900.0, empty_kg=60.0, feet=4, footprint_m2=0.05))
    >>> load.full_kg, load.level_kg, load.uneven_kg, round(load.uneven_pa)
    (960.0, 240.0, 480.0, 94144)
    """
    full_kg = standby.holds_l + standby.empty_kg
    if standby.feet is None:
        return Load(full_kg=full_kg, level_kg=None, uneven_kg=None, level_pa=None, uneven_pa=None)
    level, uneven = full_kg / standby.feet, full_kg / min(standby.feet, LOADED_ON_UNEVEN)
    area = standby.footprint_m2
    return Load(
        full_kg=full_kg, level_kg=level, uneven_kg=uneven,
        level_pa=None if area is None else level * GRAVITY_MS2 / area,
        uneven_pa=None if area is None else uneven * GRAVITY_MS2 / area,
    )  # fmt: skip


def hose_flow_m3s(hose: Pipe, head_m: float, kinematic_viscosity_m2s: float) -> float:
    """Return the flow of a hose that runs out free under a head [m3/s]; 0 where there is none.

    Source: Darcy–Weisbach, with 0.5 for the way in and 1 for the velocity that is lost.
    """
    if head_m <= 0.0:
        return 0.0
    ends = minor_loss_per_flow2(ENDS_K, hose.bore_m)

    def loss_m(flow: float) -> float:
        return hose.friction_loss_m(flow, kinematic_viscosity_m2s)[0] + ends * flow**2

    return reached_at(loss_m, head_m, 0.0, hose.area_m2 * FASTEST_MS)


def _answer(analysis: Analysis, standby: Standby) -> StandbyAnswer:
    layout = analysis.model.layout
    vessel, here = layout.vessels[standby.fills], layout.places[standby.place]
    there = layout.places[vessel.place]
    away_m = math.hypot(here.east_m - there.east_m, here.north_m - there.north_m)
    filled_at = layout.places[standby.filled_at] if standby.filled_at else None
    herds, need_lpd = _needed(analysis, vessel)
    fall_m = here.ground_m + standby.floor_m - (layout.floor_m(vessel) + vessel.brim_m)
    first_m3s, empties_s, stays_l = _emptying(analysis, standby, fall_m)
    return StandbyAnswer(
        standby=standby, vessel=vessel, herds=herds, need_lpd=need_lpd,
        lasts_s=(standby.holds_l - stays_l) / need_lpd * DAY_S if need_lpd > 0.0 else None,
        away_m=away_m, reaches=None if standby.hose_m is None else standby.hose_m >= away_m,
        fills_away_m=None if filled_at is None
        else math.hypot(here.east_m - filled_at.east_m, here.north_m - filled_at.north_m),
        fall_m=fall_m, first_m3s=first_m3s, empties_s=empties_s, stays_l=stays_l,
        fill_s=None if standby.fill_lpm is None else standby.holds_l / standby.fill_lpm * MINUTE_S,
        load=load_of(standby), trips=_trips(standby, need_lpd, stays_l, empties_s),
    )  # fmt: skip


def _needed(analysis: Analysis, vessel: Vessel) -> tuple[tuple[Herd, ...], float]:
    """Return the herds that drink from a vessel, or behind a tank, and all that is needed there [L/d]."""
    system = analysis.system_of(vessel.id)
    if vessel.role in ("tank", "pond", "chamber") and system is not None and vessel in system.stores:
        herds = [demand for demand in analysis.herds if any(system.serves(outlet) for outlet in demand.outlets)]
        return tuple(demand.herd for demand in herds), system.daily_l(analysis.herds, analysis.other_demands)
    own = {outlet.id for outlet in analysis.document.outlets if outlet.fills == vessel.id} | {vessel.id}
    drinking = [demand for demand in analysis.herds if own & set(demand.outlets)]
    # what drinks at several troughs drinks all of it here when the others are empty
    litres = sum(demand.daily_l for demand in drinking)
    litres += sum(demand.daily_l for demand in analysis.other_demands if demand.where in own)
    return tuple(demand.herd for demand in drinking), litres


def _emptying(analysis: Analysis, standby: Standby, fall_m: float) -> tuple[float | None, float | None, float]:
    """Return its flow while full [m3/s], the time until nothing more comes [s], and what stays in it [L]."""
    full_m3 = standby.holds_l * LITRE_M3
    if standby.pump_lpm is not None:
        flow = standby.pump_lpm * LITRE_M3 / MINUTE_S
        return flow, full_m3 / flow, 0.0
    stays_m = min(max(0.0, -fall_m), standby.deep_m)
    stays_l = standby.holds_l * stays_m / standby.deep_m
    if standby.hose_mm is None or standby.hose_m is None or stays_m >= standby.deep_m:
        return None, None, stays_l
    hose = Pipe(length_m=standby.hose_m, bore_m=m_from_mm(standby.hose_mm), roughness_m=PLASTIC_M)
    viscosity = analysis.model.water.kinematic_viscosity_m2s
    shape = Prism(floor_area_m2=full_m3 / standby.deep_m, height_m=standby.deep_m)
    down_to_m = stays_m + 1e-3 * standby.deep_m  # the last film takes for ever
    empties = time_to_level_s(
        shape, standby.deep_m, down_to_m, lambda level: -hose_flow_m3s(hose, level + fall_m, viscosity), LONGEST_S
    )
    return hose_flow_m3s(hose, standby.deep_m + fall_m, viscosity), empties, stays_l


def _trips(standby: Standby, need_lpd: float, stays_l: float, empties_s: float | None) -> Trips | None:
    brings_l = standby.holds_l - stays_l
    if need_lpd <= 0.0 or brings_l <= 0.0:
        return None
    per_week = need_lpd * WEEK_D / brings_l
    fill_min = standby.holds_l / standby.fill_lpm if standby.fill_lpm is not None else None
    minutes = None
    if standby.trip_min is not None:
        minutes = standby.trip_min + (fill_min or 0.0) + ((empties_s or 0.0) / MINUTE_S)
    return Trips(
        per_week=per_week, minutes=minutes,
        hours_per_week=None if minutes is None else per_week * minutes / 60.0,
        price_per_week=None if standby.price_per_trip is None else per_week * standby.price_per_trip,
    )  # fmt: skip
