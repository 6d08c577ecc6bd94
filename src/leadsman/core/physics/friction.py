"""Friction of water in round pipes running full, on arrays: Darcy–Weisbach, and Hazen–Williams beside it.

Darcy's loss is worked through g(Re) = f·Re², proportional to head loss against flow. Laminar and
Colebrook–White branches are joined between Re 2,000 and 4,000 so that g rises everywhere and has no
corner: the flow for a given head is then always one value.
"""

import copy
import math
from typing import Protocol

import numpy as np
from numpy.typing import ArrayLike

from leadsman.core.base.array import Floats, Ints
from leadsman.core.base.errors import require_between
from leadsman.core.base.units import GRAVITY_MS2

LAMINAR_BELOW_RE = 2_000.0
TURBULENT_ABOVE_RE = 4_000.0
BRIDGE_RE = TURBULENT_ABOVE_RE - LAMINAR_BELOW_RE
ROUGHEST = 0.05
FASTEST_RE = 1e9
COLEBROOK_SMOOTH = 2.51
COLEBROOK_ROUGH = 3.7
COLEBROOK_STEPS = 2  # from Haaland's guess, 1.5 % off at most: 1e-10 after two of Newton's
LOG = 2.0 / math.log(10.0)
HAZEN_WILLIAMS_SI = 10.67
HAZEN_WILLIAMS_POWER = 1.852
HAZEN_WILLIAMS_BORE_POWER = 4.8704


def darcy_friction_factor(reynolds: float, relative_roughness: float) -> float:
    """Return the Darcy friction factor [-] of a round pipe running full.

    Args:
        reynolds: v·D/ν [-], above 0.
        relative_roughness: equivalent sand roughness over bore [-], 0 to 0.05.
    Raises:
        OutOfRange: an argument is outside those limits or not a number.
    Source: 64/Re (Hagen–Poiseuille) below 2,000; Colebrook 1939 above 4,000; between, a bridge.
    >>> darcy_friction_factor(500.0, 0.0)
    0.128
    >>> round(darcy_friction_factor(1e5, 1e-4), 6)
    0.018514
    """
    require_between("Reynolds number", reynolds, math.ulp(0.0), FASTEST_RE)
    return float(scaled_loss(reynolds, relative_roughness)[0]) / reynolds**2


def scaled_loss(reynolds: float, relative_roughness: float) -> tuple[float, float]:
    """Return f·Re² and its slope against Re [-, -], for Re from 0 upwards.

    Raises:
        OutOfRange: the roughness is outside 0 to 0.05, or either is not a number.
    Source: as `darcy_friction_factor`.
    >>> scaled_loss(500.0, 0.0)  # laminar: 64 Re
    (32000.0, 64.0)
    """
    require_between("relative roughness", relative_roughness, 0.0, ROUGHEST)
    require_between("Reynolds number", reynolds, 0.0, FASTEST_RE)
    value, slope = FrictionCurve(relative_roughness)(np.asarray(reynolds, dtype=float))
    return float(value), float(slope)


class FrictionCurve:
    """f·Re² against Re for pipes of given relative roughness [-], 0 to 0.05, any array shape.

    Between Re 2,000 and 4,000, f is the cubic in Re that meets 64/Re below and Colebrook–White above, each
    with its slope. Measurements scatter in this range; what is claimed is that f·Re² rises throughout.
    """

    def __init__(self, relative_roughness: ArrayLike) -> None:
        self.rough = np.asarray(relative_roughness, dtype=float) / COLEBROOK_ROUGH
        self.haaland = self.rough**1.11
        low = 64.0 / LAMINAR_BELOW_RE
        low_slope = -low / LAMINAR_BELOW_RE * BRIDGE_RE
        end, end_slope = self.turbulent(np.asarray(TURBULENT_ABOVE_RE))
        high = end / TURBULENT_ABOVE_RE**2
        high_slope = (end_slope / TURBULENT_ABOVE_RE**2 - 2.0 * high / TURBULENT_ABOVE_RE) * BRIDGE_RE
        self.low, self.low_slope = low, low_slope
        self.square = 3.0 * (high - low) - 2.0 * low_slope - high_slope
        self.cube = 2.0 * (low - high) + low_slope + high_slope

    def __call__(self, reynolds: Floats) -> tuple[Floats, Floats]:
        """Return f·Re² and its slope against Re [-, -], for Re from 0 upwards."""
        laminar, bridged = reynolds <= LAMINAR_BELOW_RE, reynolds < TURBULENT_ABOVE_RE
        value, slope = self.turbulent(np.maximum(reynolds, TURBULENT_ABOVE_RE))
        if bridged.any():
            bridge, bridge_slope = self._bridge(reynolds)
            value = np.where(laminar, 64.0 * reynolds, np.where(bridged, bridge, value))
            slope = np.where(laminar, 64.0, np.where(bridged, bridge_slope, slope))
        return value, slope

    def take(self, rows: Ints) -> "FrictionCurve":
        """Return the curves of the cases of those numbers (first axis; one case holds for all)."""
        chosen = copy.copy(self)
        for name in ("rough", "haaland", "square", "cube"):
            setattr(chosen, name, _rows(getattr(self, name), rows))
        return chosen

    def turbulent(self, reynolds: Floats) -> tuple[Floats, Floats]:
        """Return f·Re² and its slope after Colebrook & White, for Re of 4,000 and more.

        Source: C. F. Colebrook 1939, J. Inst. Civil Eng. 11:133, constants 3.7 and 2.51; first guess of
        Haaland 1983.
        """
        thin = COLEBROOK_SMOOTH / reynolds
        root = -0.9 * LOG * np.log(self.haaland + 6.9 / reynolds)
        for _ in range(COLEBROOK_STEPS):
            inner = self.rough + thin * root
            root = root - (root + LOG * np.log(inner)) / (1.0 + LOG * thin / inner)
        share = LOG * thin / (self.rough + thin * root)
        value = (reynolds / root) ** 2
        return value, 2.0 * value / reynolds * (1.0 - share / (1.0 + share))  # d ln(1/√f) / d ln Re

    def _bridge(self, reynolds: Floats) -> tuple[Floats, Floats]:
        share = (reynolds - LAMINAR_BELOW_RE) / BRIDGE_RE
        factor = self.low + share * (self.low_slope + share * (self.square + share * self.cube))
        factor_slope = (self.low_slope + share * (2.0 * self.square + share * 3.0 * self.cube)) / BRIDGE_RE
        return factor * reynolds**2, factor_slope * reynolds**2 + 2.0 * factor * reynolds


class FrictionLaw(Protocol):
    """Head loss [m] of pieces of pipe and its slope [m per m3/s] at flows [m3/s] of 0 or more.

    Arrays have the shape (cases, pieces), where one case holds for all.
    """

    @property
    def count(self) -> int: ...

    def __call__(self, flow_m3s: Floats) -> tuple[Floats, Floats]: ...

    def take(self, rows: Ints) -> "FrictionLaw":
        """Return the law of the cases of those numbers."""
        ...


class DarcyWeisbach:
    """h = f L/D v²/2g, written as g(Re)·ν² L / (2g D³), for arrays of pieces.

    Source: Darcy–Weisbach with `FrictionCurve`.
    """

    def __init__(
        self, length_m: ArrayLike, bore_m: ArrayLike, roughness_m: ArrayLike, kinematic_viscosity_m2s: ArrayLike
    ) -> None:
        bore, viscosity = np.asarray(bore_m, dtype=float), np.asarray(kinematic_viscosity_m2s, dtype=float)
        self.curve = FrictionCurve(np.asarray(roughness_m, dtype=float) / bore)
        self.reynolds_per_flow = 4.0 / (math.pi * bore * viscosity)
        self.scale = np.asarray(length_m, dtype=float) * viscosity**2 / (2.0 * GRAVITY_MS2 * bore**3)

    @property
    def count(self) -> int:
        return len(self.scale)

    def __call__(self, flow_m3s: Floats) -> tuple[Floats, Floats]:
        value, slope = self.curve(flow_m3s * self.reynolds_per_flow)
        return value * self.scale, slope * (self.scale * self.reynolds_per_flow)

    def take(self, rows: Ints) -> "DarcyWeisbach":
        if self.count == 1:
            return self
        chosen = copy.copy(self)
        chosen.curve = self.curve.take(rows)
        chosen.reynolds_per_flow = _rows(self.reynolds_per_flow, rows)
        chosen.scale = self.scale[rows]
        return chosen


class HazenWilliams:
    """h = 10.67 L Q^1.852 / (C^1.852 D^4.8704), for arrays of pieces.

    Made for full turbulence in large clean pipes; it knows no viscosity. Source: Hazen & Williams 1905,
    SI constants as printed in most texts.
    """

    def __init__(self, length_m: ArrayLike, bore_m: ArrayLike, coefficient: ArrayLike) -> None:
        length, bore = np.asarray(length_m, dtype=float), np.asarray(bore_m, dtype=float)
        c = np.asarray(coefficient, dtype=float)
        self.scale = HAZEN_WILLIAMS_SI * length / (c**HAZEN_WILLIAMS_POWER * bore**HAZEN_WILLIAMS_BORE_POWER)

    @property
    def count(self) -> int:
        return len(self.scale)

    def take(self, rows: Ints) -> "HazenWilliams":
        chosen = copy.copy(self)
        chosen.scale = _rows(self.scale, rows)
        return chosen

    def __call__(self, flow_m3s: Floats) -> tuple[Floats, Floats]:
        slope = HAZEN_WILLIAMS_POWER * self.scale * flow_m3s ** (HAZEN_WILLIAMS_POWER - 1.0)
        return slope * flow_m3s / HAZEN_WILLIAMS_POWER, slope


def _rows(array: Floats, rows: Ints) -> Floats:
    return array if len(array) == 1 else array[rows]
