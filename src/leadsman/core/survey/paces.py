"""Lengths counted along the ground: paces calibrated, posts, rolls; slope length and plan length kept apart."""

import math
from dataclasses import dataclass

from leadsman.core.base.errors import require_between
from leadsman.core.design import Distance, PaceCount

USUAL_PACE_M, USUAL_PACE_SHARE = 0.75, 0.10  # a grown person who has not counted; typical, from memory
ONE_COUNT_SHARE, LEAST_SHARE = 0.05, 0.02  # our own: one count over a known length, and the best that paces are
SHARES = {"posts": 0.02, "rolls": 0.01, "tape": 0.005, "track": 0.03}  # of spacing, make, sag, jitter; our own


@dataclass(frozen=True, kw_only=True)
class Pace:
    """The length of a pace [m], the half-width of its error as a share, and whether it was counted at all."""

    length_m: float
    error_share: float
    is_counted: bool


@dataclass(frozen=True)
class CountedLength:
    """A length along the ground [m] with the half-width of its error [m]."""

    slope_m: float
    error_m: float


def pace_of(counted: PaceCount | None) -> Pace:
    """Return a pace from counts over a known length; where nobody counted, a usual one, good to a tenth.

    >>> pace = pace_of(PaceCount(over_m=90.0, counts=[118.0, 121.0, 124.0]))
    >>> round(pace.length_m, 4), round(pace.error_share, 4)
    (0.7438, 0.0248)
    """
    if counted is None:
        return Pace(length_m=USUAL_PACE_M, error_share=USUAL_PACE_SHARE, is_counted=False)
    mean = sum(counted.counts) / len(counted.counts)
    spread = (max(counted.counts) - min(counted.counts)) / 2.0 / mean
    share = ONE_COUNT_SHARE if len(counted.counts) == 1 else max(LEAST_SHARE, spread)
    return Pace(length_m=counted.over_m / mean, error_share=share, is_counted=True)


def counted_length(distance: Distance, pace: Pace) -> CountedLength:
    """Return the length along the ground that was counted: so many pieces, and what is left over."""
    each = pace.length_m if distance.kind == "paces" else distance.each_m or 0.0
    share = pace.error_share if distance.kind == "paces" else SHARES[distance.kind]
    slope = distance.count * each + distance.over_m
    over_share = SHARES["track" if distance.kind == "track" else "tape"]
    return CountedLength(slope, distance.count * each * share + distance.over_m * over_share)


def plan_m(slope_m: float, rise_m: float) -> float:
    """Return the length on plan [m] of an even slope, from its length along the ground and its rise [m].

    Raises:
        OutOfRange: the rise is more than the slope length.
    Source: Pythagoras.
    >>> round(plan_m(100.0, 17.364818), 3)
    98.481
    """
    require_between("rise [m]", rise_m, -slope_m, slope_m)
    return math.sqrt(slope_m**2 - rise_m**2)


def slope_m(plan_length_m: float, rise_m: float) -> float:
    """Return the length along an even slope [m], from its length on plan and its rise [m].

    Source: Pythagoras.
    >>> round(slope_m(1000.0, 120.0), 2)
    1007.17
    """
    return math.hypot(plan_length_m, rise_m)
