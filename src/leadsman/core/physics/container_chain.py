"""Containers joined by thin tubes behind one whose level is held: how far and how long each stays behind."""

import math
from dataclasses import dataclass

import numpy as np

from leadsman.core.base.array import Floats
from leadsman.core.base.cached import cached_property
from leadsman.core.base.errors import require_between
from leadsman.core.base.units import GRAVITY_MS2
from leadsman.core.physics.friction import DarcyWeisbach, FrictionCurve
from leadsman.core.physics.pipe import Pipe

FASTEST_RE, TABLE_POINTS = 1e6, 400


@dataclass(frozen=True)
class ContainerChain:
    """A tree of containers: container `number` hangs by `tubes[number - 1]` on `parents[number - 1]`, a lower number.

    Container 0 is the one whose level is held. `areas_m2` are the free surfaces, above 0 [m2]. Losses at the ends of
    the tubes are left out: at the trickle that plants take they are under a hundredth of the friction.

    Raises:
        OutOfRange: a parent that is not a lower number, or an area of 0.
    """

    areas_m2: tuple[float, ...]
    parents: tuple[int, ...]
    tubes: tuple[Pipe, ...]
    kinematic_viscosity_m2s: float

    def __post_init__(self) -> None:
        for number, parent in enumerate(self.parents, 1):
            require_between("parent", parent, 0, number - 1)
        for area in self.areas_m2:
            require_between("surface", area, 1e-9, 1e9)

    def through(self, taken_m3s: Floats) -> Floats:
        """Return the flow in each tube [m3/s] that brings each container what is taken from it [m3/s]."""
        beyond = np.array(taken_m3s, dtype=float)
        for number in range(len(self.parents), 0, -1):
            beyond[self.parents[number - 1]] += beyond[number]
        return beyond[1:]

    def drops_m(self, taken_m3s: Floats) -> Floats:
        """Return how far each container stands below container 0 [m] while so much is taken from each [m3/s].

        Source: Darcy–Weisbach along the tubes, the flow steady.
        """
        flows, found = self.through(taken_m3s), np.zeros(len(self.areas_m2))
        losses_m = np.sign(flows) * self._friction(np.abs(flows))[0]
        for number, parent in enumerate(self.parents, 1):
            found[number] = found[parent] + losses_m[number - 1]
        return found

    def lags_s(self) -> Floats:
        """Return how long each container stays behind a level that moves slowly at container 0 [s], flow laminar.

        Source: Hagen–Poiseuille; the delay of a tree of resistances and capacities (Elmore 1948, from memory): each
        tube's resistance times the surface that lies beyond it.
        >>> tube = Pipe(length_m=0.5, bore_m=0.004, roughness_m=0.0)
        >>> chain = ContainerChain((0.1, 0.1), (0,), (tube,), 1.0e-6)
        >>> round(float(chain.lags_s()[1]), 1)  # 128·1e-6·0.5 / (π·9.80665·0.004⁴) = 8114.6 s/m2, on 0.1 m2
        811.5
        """
        beyond, found = self.through(np.array(self.areas_m2)), np.zeros(len(self.areas_m2))
        for number, (parent, tube) in enumerate(zip(self.parents, self.tubes, strict=True), 1):
            per_flow = 128.0 * self.kinematic_viscosity_m2s * tube.length_m / (math.pi * GRAVITY_MS2 * tube.bore_m**4)
            found[number] = found[parent] + per_flow * beyond[number - 1]
        return found

    def flows_m3s(self, levels_m: Floats) -> Floats:
        """Return the flow in each tube away from container 0 [m3/s] at levels on one datum [m]; turbulent too."""
        head = levels_m[list(self.parents)] - levels_m[1:]
        asked = 2.0 * GRAVITY_MS2 * np.abs(head) / self._per_loss
        reynolds = np.array(
            [
                one / 64.0 if one <= losses[0] else np.exp(np.interp(np.log(one), np.log(losses), self._log_re))
                for one, losses in zip(asked, self._losses, strict=True)
            ]
        )
        return np.asarray(np.sign(head) * reynolds * self._per_re)

    @cached_property
    def _friction(self) -> DarcyWeisbach:
        tubes = self.tubes
        return DarcyWeisbach(
            [tube.length_m for tube in tubes], [tube.bore_m for tube in tubes], [tube.roughness_m for tube in tubes],
            self.kinematic_viscosity_m2s,
        )  # fmt: skip

    @cached_property
    def _log_re(self) -> Floats:
        return np.linspace(math.log(100.0), math.log(FASTEST_RE), TABLE_POINTS)

    @cached_property
    def _losses(self) -> list[Floats]:
        reynolds = np.exp(self._log_re)
        return [FrictionCurve(tube.roughness_m / tube.bore_m)(reynolds)[0] for tube in self.tubes]

    @cached_property
    def _per_loss(self) -> Floats:
        """Head times 2g for one f·Re² [m2/s2]."""
        return np.array(
            [self.kinematic_viscosity_m2s**2 * tube.length_m / tube.bore_m**3 for tube in self.tubes], dtype=float
        )

    @cached_property
    def _per_re(self) -> Floats:
        """Flow for a Reynolds number of 1 [m3/s]."""
        return np.array([math.pi / 4.0 * tube.bore_m * self.kinematic_viscosity_m2s for tube in self.tubes])
