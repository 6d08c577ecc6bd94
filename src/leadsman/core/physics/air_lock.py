"""Air trapped in a line that is filled empty: whether the source can push it out, and which peaks need a vent.

Water that comes over a peak runs down its far side under the air that is there, and shuts that air in: the falling
leg after every peak holds it, squeezed by the water that rises beyond.
"""

import math
from collections.abc import Collection, Sequence
from dataclasses import dataclass

import numpy as np

from leadsman.core.base.bisection import reached_at
from leadsman.core.base.errors import require_between

LegProfile = Sequence[tuple[float, float]]


@dataclass(frozen=True, kw_only=True)
class Pocket:
    """Air behind one peak of a line, by the peak's number: its height [m] free, and squeezed."""

    peak: int
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
        heights_m: of peaks and dips in turn, the first and the last being peaks or the outlet: peak, dip, peak, …,
            dip, outlet [m].
        atmosphere_m: pressure of the air as a height of water [m], above 0.
        vented: numbers of the peaks, 0 the first, that let their air out.
        legs: the pipe of the falling leg after each peak, from the peak down: fall [m] and volume [m3] of each piece.
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
        require_between(f"height of dip {i // 2} [m]", heights_m[i + 1], -math.inf, lowest)
    stages = [_stage(heights_m[: end + 1], atmosphere_m, vented, legs) for end in range(0, len(heights_m), 2)]
    return LineFilling(
        max(stage.needed_m for stage in stages), max(stage.naive_m for stage in stages), stages[-1].pockets
    )


def _stage(
    heights: Sequence[float], atmosphere: float, vented: Collection[int], legs: Sequence[LegProfile]
) -> LineFilling:
    """Return what brings water to the last of some heights."""
    above, naive = 0.0, heights[-1]
    pockets: list[Pocket] = []
    needed = heights[-1]
    for i in range(len(heights) - 3, -1, -2):
        peak, dip, beyond = heights[i : i + 3]
        push = above + beyond - peak  # of the water beyond, at the height of the peak
        if i // 2 in vented:
            above = max(0.0, push)
        else:
            leg = peak - dip
            pieces = legs[i // 2] if legs else ((leg, 1.0),)
            squeezed = _squeezed_m(pieces, leg, atmosphere, push)
            pockets.append(Pocket(peak=i // 2, leg_m=leg, squeezed_m=squeezed))
            above = push + squeezed
            naive += leg
        naive = max(naive, peak)
        needed = max(needed, peak + above)
    return LineFilling(needed, naive, tuple(reversed(pockets)))


def _squeezed_m(pieces: LegProfile, leg_m: float, atmosphere_m: float, push_m: float) -> float:
    """Return the height [m] to which the air of a leg is squeezed, at its top, by a push [m] beyond its own height."""
    falls = np.concatenate([[0.0], np.cumsum([fall for fall, _ in pieces])])
    volumes = np.concatenate([[0.0], np.cumsum([volume for _, volume in pieces])])
    falls = falls * (leg_m / falls[-1])  # what rises a little on the way is no fall of the leg

    def pressed_m(squeezed_m: float) -> float:
        held = float(np.interp(squeezed_m, falls, volumes) / volumes[-1])
        return held * (atmosphere_m + push_m + squeezed_m)

    return reached_at(pressed_m, atmosphere_m, 0.0, leg_m)
