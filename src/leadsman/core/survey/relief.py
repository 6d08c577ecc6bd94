"""A height model of the site: heights on a square grid of the plan, and what lies between its points."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from leadsman.core.base.array import Floats
from leadsman.core.base.errors import OutOfRange
from leadsman.core.design import Design

MOST_ROWS = 160
MARGIN_M = 200.0
LEAST_STEP_M = 2.0


@dataclass(frozen=True, kw_only=True)
class Relief:
    """Heights [m on the plan's datum] at points `step_m` apart, shape (rows, columns); NaN where none is known.

    The first row is the southernmost, the first column the westernmost, at `east_m` and `north_m`. `source` tells whose
    heights they are, `shift_m` what was added to bring them to the datum of the plan.
    """

    east_m: float
    north_m: float
    step_m: float
    heights_m: Floats
    source: str
    shift_m: float = 0.0

    def at(self, spots: Floats) -> Floats:
        """Return heights [m] at spots of the plan, shape (n, 2); NaN outside and beside points without one.

        Source: bilinear interpolation.
        """
        rows, columns = self.heights_m.shape
        column, row = (spots[..., 0] - self.east_m) / self.step_m, (spots[..., 1] - self.north_m) / self.step_m
        c0 = np.clip(np.floor(np.nan_to_num(column)).astype(int), 0, columns - 2)
        r0 = np.clip(np.floor(np.nan_to_num(row)).astype(int), 0, rows - 2)
        fc, fr = column - c0, row - r0
        outside = (fc < 0.0) | (fc > 1.0) | (fr < 0.0) | (fr > 1.0)
        corners = ((0, 0, (1 - fr) * (1 - fc)), (0, 1, (1 - fr) * fc), (1, 0, fr * (1 - fc)), (1, 1, fr * fc))
        parts = [
            np.where(weight > 0.0, weight * self.heights_m[r0 + up, c0 + right], 0.0) for up, right, weight in corners
        ]  # a gap that has no part in it does not count
        return np.where(outside, np.nan, sum(parts))


def mesh_over(design: Design) -> tuple[float, float, float, Floats]:
    """Return west, south and step [m] of a grid over all that is on the plan with room around it, and its spots.

    The spots have the shape (rows, columns, 2).
    """
    spots = [(place.east_m, place.north_m) for place in design.places]
    spots += [(east, north) for line in design.lines for east, north in line.way]
    spots += [(east, north) for paddock in design.paddocks for east, north in paddock.corners]
    low, high = np.min(spots, axis=0) - MARGIN_M, np.max(spots, axis=0) + MARGIN_M
    step = max(LEAST_STEP_M, float(np.ceil((high - low).max() / (MOST_ROWS - 1))))
    east, north = (np.arange(a, b + step, step) for a, b in zip(low, high, strict=True))
    return float(low[0]), float(low[1]), step, np.stack(np.meshgrid(east, north), axis=-1)


def relief_over(design: Design, corner: tuple[float, float], step_m: float, heights_m: Floats, source: str) -> Relief:
    """Return a height model brought to the plan's datum: by the middle of how far it is off at the places it covers.

    Args:
        corner: east and north of its first point [m].
    Raises:
        OutOfRange: it is too small to lie under anything.
    """
    if min(heights_m.shape) < 2:
        raise OutOfRange("points of a height model each way", min(heights_m.shape), 2, MOST_ROWS)
    raw = Relief(east_m=corner[0], north_m=corner[1], step_m=step_m, heights_m=heights_m, source=source)
    told = raw.at(np.array([(place.east_m, place.north_m) for place in design.places]))
    off = np.array([place.ground_m for place in design.places]) - told
    shift = float(np.nanmedian(off)) if np.isfinite(off).any() else 0.0
    return replace(raw, heights_m=heights_m + shift, shift_m=shift)


def rows_of(heights_m: Floats) -> list[list[float | None]]:
    """Return heights [m], shape (rows, columns), row by row to the centimetre; None where none is known."""
    return [[None if np.isnan(height) else round(float(height), 2) for height in row] for row in heights_m]


def heights_of(rows: Sequence[Sequence[float | None]]) -> Floats:
    """Return the array of `rows_of`."""
    return np.array([[np.nan if height is None else height for height in row] for row in rows], dtype=float)
