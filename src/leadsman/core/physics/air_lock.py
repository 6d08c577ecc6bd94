"""Air trapped in a line that is filled empty: whether the source can push it out, and which high points need a vent.

Water that comes over a high point runs down its far side under the air that is there, and shuts that air in: the
falling leg after every high point holds it, squeezed by the water that rises beyond.
"""

import math
from collections.abc import Collection, Sequence
from dataclasses import dataclass
from itertools import accumulate, pairwise

from leadsman.core.base.errors import require_between

LegProfile = Sequence[tuple[float, float]]


@dataclass(frozen=True, kw_only=True)
class Pocket:
    """Air behind one high point of a line, by the high point's number: its height [m] free, and squeezed."""

    high_point: int
    leg_m: float
    squeezed_m: float


@dataclass(frozen=True)
class LineFilling:
    """What it takes to fill a line: the least height of the source's water [m], as the heights are given.

    `naive_m` takes the air for stiff; `needed_m` lets it be squeezed. `pockets` are those of the line once filled.
    """

    needed_m: float
    naive_m: float
    pockets: tuple[Pocket, ...]


def filling(
    heights_m: Sequence[float],
    atmosphere_m: float,
    vented: Collection[int] = (),
    legs: Sequence[LegProfile] = (),
) -> LineFilling:
    """Return what fills a line that was empty, and the air that it keeps.

    Args:
        heights_m: of high and low points in turn, from the first high point, to the last low point and the outlet [m].
        atmosphere_m: pressure of the air as a height of water [m], above 0.
        vented: numbers of the high points, 0 the first, that let their air out.
        legs: the pipe of the falling leg after each high point, downwards: fall [m] and volume [m3] of each piece.
            Where none are given every leg is of even bore and slope.
    Raises:
        OutOfRange: the air has no pressure, or heights do not go down and up in turn.
    Source: Boyle's law on each pocket, worked back from the outlet; the stiff form in Jordan, Handbook of Gravity-Flow
        Water Systems (from memory).
    >>> filling([10.0, 5.0, 8.0], 10.33).naive_m  # the outlet, and the falling leg full of stiff air
    13.0
    """
    require_between("pressure of the air [m]", atmosphere_m, 0.1, 20.0)
    for i in range(0, len(heights_m) - 2, 2):
        lowest = min(heights_m[i], heights_m[i + 2])
        require_between(f"height of the low point {i // 2} [m]", heights_m[i + 1], -math.inf, lowest)
    above = most_above = (
        0.0  # over the high point in hand: what brings water to the outlet, and to any high point on the way
    )
    naive = needed = heights_m[-1]
    pockets: list[Pocket] = []
    for i in range(len(heights_m) - 3, -1, -2):
        high_point, low_point, beyond = heights_m[i : i + 3]
        push, most_push = (
            above + beyond - high_point,
            most_above + beyond - high_point,
        )  # of the water beyond, at the high point's height
        if i // 2 in vented:
            above, most_above = max(0.0, push), max(0.0, most_push)
        else:
            leg = _Leg(legs[i // 2] if legs else ((high_point - low_point, 1.0),), high_point - low_point)
            squeezed = leg.squeezed_m(atmosphere_m, push)
            pockets.append(Pocket(high_point=i // 2, leg_m=high_point - low_point, squeezed_m=squeezed))
            above = push + squeezed
            most_above = max(0.0, most_push + leg.squeezed_m(atmosphere_m, most_push))
            naive += high_point - low_point
        naive, needed = max(naive, high_point), max(needed, high_point + most_above)
    return LineFilling(needed, naive, tuple(reversed(pockets)))


class _Leg:
    """A falling leg by its pieces, from the high point down."""

    def __init__(self, pieces: LegProfile, leg_m: float) -> None:
        falls = list(accumulate((fall for fall, _ in pieces), initial=0.0))
        volumes = list(accumulate((volume for _, volume in pieces), initial=0.0))
        self._falls = [fall * leg_m / falls[-1] for fall in falls]  # what rises a little on the way is no fall
        self._held = [volume / volumes[-1] for volume in volumes]

    def squeezed_m(self, atmosphere_m: float, push_m: float) -> float:
        """Return the height [m] to which its air is squeezed, at its top, by a push [m] beyond its own height.

        It is where the share of the leg that the air still fills, times its pressure, is what it was: on the piece
        where that is reached, a quadratic.
        """
        base = atmosphere_m + push_m
        for before, after in pairwise(range(len(self._falls))):
            if self._held[after] * (base + self._falls[after]) >= atmosphere_m:
                return self._on_piece(before, after, atmosphere_m, base)
        return self._falls[-1]

    def _on_piece(self, before: int, after: int, atmosphere_m: float, base_m: float) -> float:
        fall, held = self._falls[before], self._held[before]
        span, more = self._falls[after] - fall, self._held[after] - held
        if span <= 0.0:
            return fall
        slope = more / span  # held = held0 + slope · (s − fall), and held · (base + s) = atmosphere
        b, c = held - slope * fall + slope * base_m, (held - slope * fall) * base_m - atmosphere_m
        if slope <= 0.0:
            return min(max(atmosphere_m / held - base_m, fall), fall + span) if held > 0.0 else fall + span
        root = (-b + math.sqrt(max(b * b - 4.0 * slope * c, 0.0))) / (2.0 * slope)
        return min(max(root, fall), fall + span)
