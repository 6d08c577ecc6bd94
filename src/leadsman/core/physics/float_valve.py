"""A float valve: how far it opens at a level, and what it passes."""

import math
from dataclasses import dataclass

from leadsman.core.physics.fittings import kv_loss_per_flow2

SHUT_BELOW = 1e-3
FULL_WITHIN_BAND = 0.05


@dataclass(frozen=True, kw_only=True)
class FloatValve:
    """Kv fully open [m3/h at 1 bar], closing level above the vessel's floor [m] and closing band [m]."""

    kv_m3h: float
    closes_at_m: float
    band_m: float

    @property
    def full_level_m(self) -> float:
        """Level [m] at which the vessel counts as full: a linear band only closes asymptotically."""
        return self.closes_at_m - FULL_WITHIN_BAND * self.band_m

    def opening(self, level_m: float) -> float:
        """Return the opening x [-], 0 to 1, at a water level [m]; below 0.001 it is shut."""
        share = min(max((self.closes_at_m - level_m) / self.band_m, 0.0), 1.0)
        return share if share >= SHUT_BELOW else 0.0

    def head_to_pass_m(self, flow_m3s: float, opening: float, density_kgm3: float) -> float:
        """Return the head [m] at the valve that passes a flow [m3/s] to air at an opening above 0."""
        return kv_loss_per_flow2(self.kv_m3h * opening, density_kgm3) * flow_m3s * abs(flow_m3s)

    def flow_m3s(self, head_m: float, opening: float, density_kgm3: float) -> float:
        """Return the flow [m3/s] to air under a head [m] at the valve; 0 when shut or without head.

        Source: definition of Kv (IEC 60534-2-1): m3/h of water at 1 bar of difference; no density
        correction, as the design format states.
        """
        if opening <= 0.0 or head_m <= 0.0:
            return 0.0
        return math.sqrt(head_m / kv_loss_per_flow2(self.kv_m3h * opening, density_kgm3))
