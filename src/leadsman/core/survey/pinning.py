"""A picture pinned to the plan: from points known in both to the transformation of all its pixels."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from leadsman.core.base.errors import OutOfRange

Pair = tuple[float, float]
MOST_PINS = 30
APART_PX = 5.0


@dataclass(frozen=True, kw_only=True)
class Pinned:
    """East and north [m] of a pixel: east = a x + b y + c, north = d x + e y + f; y runs down the picture.

    `off_m` is how far each pin then lies from where it should: all zero with two, since nothing checks them.
    """

    a: float
    b: float
    c: float
    d: float
    e: float
    f: float
    off_m: tuple[float, ...]


def pinned(pixels: Sequence[Pair], metres: Sequence[Pair]) -> Pinned:
    """Return how a picture lies on the plan: shifted, turned and scaled evenly to fit its pins best.

    Args:
        pixels: x and y of each pin in the picture, y downwards; two or more, not all in one spot.
        metres: east and north of the same pins [m].
    Raises:
        OutOfRange: fewer than two pins or too many, or pins too close together in the picture or on the plan.
    Source: least squares of a similarity (Helmert) transformation; any survey text.
    """
    if not 2 <= len(pixels) <= MOST_PINS or len(pixels) != len(metres):
        raise OutOfRange("pins", len(pixels), 2, MOST_PINS, "/pins")
    z = np.array([complex(x, -y) for x, y in pixels])
    w = np.array([complex(east, north) for east, north in metres])
    dz, dw = z - z.mean(), w - w.mean()
    spread = float(np.abs(dz).max())
    if not APART_PX <= spread <= 1e6:
        raise OutOfRange("pixels between the pins", spread, APART_PX, 1e6, "/pins")
    apart = float(np.abs(dw).max())
    if not 0.1 <= apart <= 1e6:
        raise OutOfRange("metres between the pins", apart, 0.1, 1e6, "/pins")
    turn = complex((dz.conj() * dw).sum() / (np.abs(dz) ** 2).sum())
    shift = complex(w.mean() - turn * z.mean())
    off = tuple(float(distance) for distance in np.abs(turn * z + shift - w))
    return Pinned(a=turn.real, b=turn.imag, c=shift.real, d=turn.imag, e=-turn.real, f=shift.imag, off_m=off)
