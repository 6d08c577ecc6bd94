"""Animals at a trough: a mob that comes at once, or the herd spread over the day."""

import math
from dataclasses import dataclass, replace

import numpy as np

from leadsman.core.base.units import HOUR_S, LITRE_M3, MINUTE_S
from leadsman.core.catalogue.livestock import animals
from leadsman.core.design import Drinking, Herd, Vessel
from leadsman.core.design.store import shape_of
from leadsman.core.design.vessel import BoxShape, FrustumShape, LyingCylinderShape, UprightCylinderShape

# Defaults that stand until the user says otherwise; ours, no source but where one is named
MOB_SHARE, NEAR_SHARE = 1.0, 0.1  # near water 5 to 10 % of a herd drink at once: typical, from memory
MOB_WITHIN_MIN, PATIENCE_MIN, VISITS = 15.0, 20.0, 2.0
DAYLIGHT_H, PEAK_FACTOR, PEAK_S = 14.0, 2.5, 2 * HOUR_S
OWN_CLASS_RIM_M, OWN_CLASS_LPM = 0.6, 8.0
OVER_NIPPLES_M = 0.1  # water that is to stand over nipples where nothing is said


@dataclass(frozen=True, kw_only=True)
class Habit:
    """How one herd drinks, with nothing left open: times [s], rate of one [m3/s], room of one at the rim [m].

    `assumed` names the figures that are our defaults.
    """

    pattern: str
    share: float
    within_s: float
    visits: float
    drinks_m3s: float
    width_m: float
    patience_s: float
    daylight_s: float
    peak_factor: float
    assumed: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class Mob:
    """Animals that come to one trough: heads, each drinking a draught [m3], with so many places at the rim."""

    heads: int
    draught_m3: float
    within_s: float
    places: float
    drinks_m3s: float
    patience_s: float


def habit_of(herd: Herd) -> Habit:
    """Return how a herd drinks; what it leaves open from its class, else our defaults."""
    given = herd.drinking or Drinking(pattern="mob")
    kind = animals().get(herd.animal)
    mob = given.pattern == "mob"
    figures = {
        "share": (given.share, MOB_SHARE if mob else NEAR_SHARE),
        "within_min": (given.within_min, MOB_WITHIN_MIN),
        "visits": (given.visits, VISITS),
        "rate_lpm": (given.rate_lpm, kind.drinks_m3s / LITRE_M3 * MINUTE_S if kind else OWN_CLASS_LPM),
        "width_m": (given.width_m, kind.rim_m if kind else OWN_CLASS_RIM_M),
        "patience_min": (given.patience_min, PATIENCE_MIN),
        "daylight_h": (given.daylight_h, DAYLIGHT_H),
        "peak_factor": (given.peak_factor, PEAK_FACTOR),
    }
    value = {name: default if own is None else own for name, (own, default) in figures.items()}
    return Habit(
        pattern=given.pattern,
        share=value["share"],
        within_s=value["within_min"] * MINUTE_S,
        visits=value["visits"],
        drinks_m3s=value["rate_lpm"] * LITRE_M3 / MINUTE_S,
        width_m=value["width_m"],
        patience_s=value["patience_min"] * MINUTE_S,
        daylight_s=value["daylight_h"] * HOUR_S,
        peak_factor=value["peak_factor"],
        assumed=tuple(name for name, (own, _) in figures.items() if own is None),
    )


def rim_m(vessel: Vessel) -> float:
    """Return the rim that animals can stand at [m]: as given, else all round, less what a fence shuts off.

    Source: the perimeter of its shape.
    >>> shape = {"kind": "box", "length_m": 1.5, "width_m": 0.5, "height_m": 0.4}
    >>> rim_m(Vessel.model_validate({"id": "t", "role": "trough", "place": "p", "shape": shape, "level_m": 0.2}))
    4.0
    """
    if vessel.rim_m is not None:
        return vessel.rim_m
    match vessel.shape:
        case BoxShape(length_m=length, width_m=width):
            around = 2.0 * (length + width)
        case UprightCylinderShape(diameter_m=across):
            around = np.pi * across
        case FrustumShape(top_diameter_m=across):
            around = np.pi * across
        case LyingCylinderShape(diameter_m=across, length_m=length):
            around = 2.0 * length
        case _:
            around = 0.0  # a pond's edge is not known
    return float(around)


def over_nipples_m(vessel: Vessel) -> float:
    """Return the height of water that is to stand over the nipples [m]: as said, else our default.

    Source: our own default, no source.
    >>> shape = {"kind": "box", "length_m": 1.5, "width_m": 0.5, "height_m": 0.4}
    >>> row = {"id": "t", "role": "trough", "place": "p", "shape": shape, "level_m": 0.2, "over_nipples_m": 0.03}
    >>> over_nipples_m(Vessel.model_validate(row))
    0.03
    """
    return OVER_NIPPLES_M if vessel.over_nipples_m is None else vessel.over_nipples_m


def out_of_reach_m3(vessel: Vessel) -> float:
    """Return what of a vessel's water nobody can drink [m3]: below nipples, or with too little over them.

    Source: the volume of its shape up to that height.
    >>> shape = {"kind": "box", "length_m": 1.0, "width_m": 0.5, "height_m": 0.4}
    >>> row = {"id": "t", "role": "trough", "place": "p", "shape": shape, "level_m": 0.3, "nipples": 4,
    ...        "nipples_m": 0.1, "over_nipples_m": 0.05}
    >>> round(out_of_reach_m3(Vessel.model_validate(row)), 6)
    0.075
    """
    if not vessel.nipples:
        return 0.0
    shape = shape_of(vessel)
    return shape.volume_m3(min(max(vessel.nipples_m + over_nipples_m(vessel), 0.0), shape.height_m))


def mob_of(herd_head: int, per_head_lpd: float, habit: Habit, rim: float, nipples: int = 0) -> Mob:
    """Return the mob that a herd sends to a trough; drinkers have a nipple each where there are any."""
    return Mob(
        heads=max(1, round(herd_head * habit.share)),
        draught_m3=per_head_lpd * LITRE_M3 / habit.visits,
        within_s=habit.within_s,
        places=float(nipples) if nipples else float(np.floor(rim / habit.width_m)),
        drinks_m3s=habit.drinks_m3s,
        patience_s=habit.patience_s,
    )


@dataclass(frozen=True, kw_only=True)
class NearWater:
    """A herd that drinks as it likes: peak draw [m3/s], what runs in [m3/s], and what a peak takes from store [m3]."""

    peak_m3s: float
    inflow_m3s: float
    taken_m3: float
    holds_m3: float

    @property
    def runs_empty(self) -> bool:
        return self.taken_m3 > self.holds_m3


def near_water(daily_m3: float, habit: Habit, inflow_m3s: float, holds_m3: float) -> NearWater:
    """Return how a trough stands a peak of two hours, with water near and drinking spread over the daylight."""
    peak = habit.peak_factor * daily_m3 / habit.daylight_s
    return NearWater(
        peak_m3s=peak, inflow_m3s=inflow_m3s, taken_m3=max(0.0, peak - inflow_m3s) * PEAK_S, holds_m3=holds_m3
    )


def shared_rim(mobs: list[Mob]) -> list[Mob]:
    """Return mobs of one trough with its places divided among them, by their heads, whole ones and one at least each.

    Source: largest remainders first.
    """
    heads = sum(mob.heads for mob in mobs)
    if len(mobs) < 2 or heads <= 0:
        return mobs
    due = [mob.places * mob.heads / heads for mob in mobs]
    whole = [max(1, math.floor(places)) for places in due]
    left = math.floor(sum(due) + 1e-9) - sum(whole)
    by_rest = sorted(range(len(mobs)), key=lambda i: whole[i] - due[i])
    for i in by_rest[: max(left, 0)]:
        whole[i] += 1
    return [replace(mob, places=float(places)) for mob, places in zip(mobs, whole, strict=True)]
