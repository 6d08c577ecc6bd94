"""Air trapped in a line that is filled empty: whether the source can push it out, and which peaks need a vent.

Water that comes over a peak runs down its far side under the air that is there, and shuts that air in: the falling
leg after every peak holds it, squeezed by the water that rises beyond.
"""

import math
from collections.abc import Collection, Sequence
from dataclasses import dataclass

from leadsman.core.errors import require_between


@dataclass(frozen=True)
class Pocket:
    """Air behind one peak of a line, by the peak's number: its height [m] free, and squeezed."""

    peak: int
    leg_m: float
    squeezed_m: float


@dataclass(frozen=True)
class Filling:
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
) -> Filling:
    """Return what fills a line that was empty, and the air that it keeps.

    Args:
        heights_m: of peaks and dips in turn, the first and the last being peaks or the outlet: peak, dip, peak, …,
            dip, outlet [m].
        atmosphere_m: pressure of the air as a height of water [m], above 0.
        vented: numbers of the peaks, 0 the first, that let their air out.
    Raises:
        OutOfRange: the air has no pressure, or heights do not go down and up in turn.
    Source: Boyle's law on each pocket in a pipe of even bore and slope, worked back from the outlet; the stiff form
        in Jordan, Handbook of Gravity-Flow Water Systems (from memory).
    """
    require_between("pressure of the air [m]", atmosphere_m, 0.1, 20.0)
    for i in range(0, len(heights_m) - 2, 2):
        lowest = min(heights_m[i], heights_m[i + 2])
        require_between(f"height of dip {i // 2} [m]", heights_m[i + 1], -math.inf, lowest)
    stages = [_stage(heights_m[: end + 1], atmosphere_m, vented) for end in range(0, len(heights_m), 2)]
    return Filling(max(one.needed_m for one in stages), max(one.naive_m for one in stages), stages[-1].pockets)


def _stage(heights: Sequence[float], atmosphere: float, vented: Collection[int]) -> Filling:
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
            half = (atmosphere + push) / 2.0
            squeezed = math.sqrt(half * half + atmosphere * leg) - half
            pockets.append(Pocket(i // 2, leg, squeezed))
            above = push + squeezed
            naive += leg
        naive = max(naive, peak)
        needed = max(needed, peak + above)
    return Filling(needed, naive, tuple(reversed(pockets)))
