"""A length of pipe of one bore."""

from dataclasses import dataclass

import numpy as np

from leadsman.core.base.errors import require_between
from leadsman.core.physics.fittings import bore_area_m2
from leadsman.core.physics.friction import ROUGHEST, DarcyWeisbach

PLASTIC_M = 1.5e-6  # roughness of plastic pipe, tube and hose, new: handbook value, from memory


@dataclass(frozen=True, kw_only=True)
class Pipe:
    """One bore [m] and roughness [m] over a length [m].

    Raises:
        OutOfRange: roughness over bore is outside 0 to 0.05.
    """

    length_m: float
    bore_m: float
    roughness_m: float

    def __post_init__(self) -> None:
        require_between("relative roughness", self.roughness_m / self.bore_m, 0.0, ROUGHEST)

    @property
    def area_m2(self) -> float:
        """Open area [m2]."""
        return bore_area_m2(self.bore_m)

    @property
    def volume_m3(self) -> float:
        """What it holds full [m3]."""
        return self.area_m2 * self.length_m

    def velocity_ms(self, flow_m3s: float) -> float:
        """Return the mean velocity [m/s], signed as the flow [m3/s]."""
        return flow_m3s / self.area_m2

    def friction_loss_m(self, flow_m3s: float, kinematic_viscosity_m2s: float) -> tuple[float, float]:
        """Return friction loss [m], signed as the flow [m3/s], and its slope [m per m3/s] (Darcy–Weisbach)."""
        law = DarcyWeisbach([self.length_m], [self.bore_m], [self.roughness_m], kinematic_viscosity_m2s)
        loss, slope = law(np.array([abs(flow_m3s)]))
        return (float(loss[0]) if flow_m3s >= 0.0 else -float(loss[0])), float(slope[0])
