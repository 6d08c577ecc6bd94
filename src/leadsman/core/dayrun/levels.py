"""Levels of vessels by their volumes, many at once."""

from collections.abc import Sequence

import numpy as np

from leadsman.core.base.array import Floats
from leadsman.core.design import Vessel
from leadsman.core.design.store import shape_of
from leadsman.core.physics.vessel import Prism, level_m


class Levels:
    """Volumes [m3] and levels [m above the floor] of vessels, in their order."""

    def __init__(self, vessels: Sequence[Vessel]) -> None:
        self.shapes = [shape_of(vessel) for vessel in vessels]
        self.brim_m3 = self.volumes_m3([vessel.brim_m for vessel in vessels])
        self._height_m = np.array([shape.height_m for shape in self.shapes])
        full_m3 = np.array([shape.volume_m3(shape.height_m) for shape in self.shapes])
        self._full_m3 = full_m3
        straight = np.array([isinstance(shape, Prism) for shape in self.shapes], dtype=bool)
        self._bent = np.flatnonzero(~straight).tolist()
        self._per_m3 = self._height_m / full_m3 if len(full_m3) else full_m3

    def volumes_m3(self, levels_m: Sequence[float]) -> Floats:
        """Return the volume of each vessel [m3] at its level [m]."""
        return np.array([shape.volume_m3(level) for shape, level in zip(self.shapes, levels_m, strict=True)])

    def levels_m(self, volumes_m3: Floats) -> Floats:
        """Return the level of each vessel [m], shape (…, vessels); below nothing and over the top as at them."""
        held = np.clip(volumes_m3, 0.0, self._full_m3)
        levels: Floats = held * self._per_m3
        for number in self._bent:
            shape = self.shapes[number]
            if held.ndim == 1:
                levels[number] = level_m(shape, float(held[number]))
            else:
                levels[:, number] = [level_m(shape, volume) for volume in held[:, number].tolist()]
        return levels
