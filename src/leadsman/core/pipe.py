"""A length of pipe of one bore: its head loss and the slope of that loss."""

from dataclasses import dataclass

from leadsman.core.fittings import bore_area_m2
from leadsman.core.friction import scaled_loss
from leadsman.core.units import GRAVITY_MS2


@dataclass(frozen=True)
class Pipe:
    """One bore [m] and roughness [m] over a length [m]."""

    length_m: float
    bore_m: float
    roughness_m: float

    def velocity_ms(self, flow_m3s: float) -> float:
        """Return the mean velocity [m/s], signed as the flow [m3/s]."""
        return flow_m3s / bore_area_m2(self.bore_m)

    def friction_loss_m(self, flow_m3s: float, kinematic_viscosity_m2s: float) -> tuple[float, float]:
        """Return friction loss [m], signed as the flow [m3/s], and its slope [m per m3/s].

        Source: Darcy–Weisbach, h = f L/D v²/2g, written as g(Re)·ν² L / (2g D³).
        Raises:
            OutOfRange: roughness over bore is outside 0 to 0.05.
        """
        reynolds_per_flow = self.bore_m / (bore_area_m2(self.bore_m) * kinematic_viscosity_m2s)
        scale = self.length_m * kinematic_viscosity_m2s**2 / (2.0 * GRAVITY_MS2 * self.bore_m**3)
        value, slope = scaled_loss(abs(flow_m3s) * reynolds_per_flow, self.roughness_m / self.bore_m)
        return (value if flow_m3s >= 0.0 else -value) * scale, slope * scale * reynolds_per_flow
