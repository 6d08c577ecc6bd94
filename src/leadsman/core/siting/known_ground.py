"""The ground between the heights that a plan knows: at its places and along its lines."""

from collections.abc import Sequence

import numpy as np
from scipy.interpolate import LinearNDInterpolator
from scipy.spatial import QhullError, cKDTree

from leadsman.core.base.array import Floats
from leadsman.core.base.cached import cached_property
from leadsman.core.design import Design
from leadsman.core.design.layout import Layout, along_way

BETWEEN = "between known heights"  # where the height of a new place is from
ONE_SPOT_M = 0.5  # heights nearer to one another count as one, their mean


class KnownGround:
    """Heights of the ground between known ones, straight across triangles; none outside of them."""

    def __init__(self, design: Design) -> None:
        found = [(place.east_m, place.north_m, place.ground_m) for place in design.places]
        layout = Layout(design)
        for line in design.lines:
            length_m = line.pipe_length_m
            shares = [min(max(at_m / length_m, 0.0), 1.0) for at_m, _ in line.points]
            spots = along_way(layout.way_of(line), shares) if shares else []
            found += [(east, north, ground) for (east, north), (_, ground) in zip(spots, line.points, strict=True)]
        self.spots, self.heights_m = _merged(np.array(found, dtype=float))

    @cached_property
    def _between(self) -> LinearNDInterpolator | None:
        try:
            return LinearNDInterpolator(self.spots, self.heights_m)
        except (QhullError, ValueError):  # fewer than three, or all in a row
            return None

    @cached_property
    def _tree(self) -> cKDTree:
        return cKDTree(self.spots)

    def at(self, spots: Floats) -> Floats:
        """Return heights [m] at spots of the plan, shape (n, 2); NaN where none is known around them.

        Source: linear interpolation over the Delaunay triangles of the known heights.
        """
        if self._between is None:
            near_m, index = self._tree.query(spots)
            return np.where(near_m <= ONE_SPOT_M, self.heights_m[index], np.nan)
        return np.asarray(self._between(spots), dtype=float)

    def known(self, spots: Sequence[tuple[float, float]]) -> list[tuple[float, float]]:
        """Return the spots of which a height is known."""
        return [spot for spot, height in zip(spots, self.at(np.array(spots)).tolist(), strict=True) if height == height]

    def off_m(self, spots: Floats) -> Floats:
        """Return how far the nearest known height is from spots [m], shape (n,)."""
        return np.asarray(self._tree.query(spots)[0], dtype=float)


def _merged(found: Floats) -> tuple[Floats, Floats]:
    """Return spots, shape (n, 2), and heights [m], one for all that lie at one spot."""
    keys = np.round(found[:, :2] / ONE_SPOT_M).astype(np.int64)
    _, index = np.unique(keys, axis=0, return_inverse=True)
    index = index.reshape(-1)
    counts = np.bincount(index)
    east, north, height = (np.bincount(index, weights=found[:, column]) / counts for column in range(3))
    return np.stack([east, north], axis=-1), height
