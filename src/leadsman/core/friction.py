"""Friction of water in a round pipe, after Darcy and Weisbach.

The loss is worked through g(Re) = f·Re², proportional to head loss against flow. Laminar and
Colebrook–White branches are joined between Re 2,000 and 4,000 so that g rises everywhere and has no
corner: the flow for a given head is then always one value.
"""

import math

from leadsman.core.errors import require_between

LAMINAR_BELOW_RE = 2_000.0
TURBULENT_ABOVE_RE = 4_000.0
ROUGHEST = 0.05
COLEBROOK_SMOOTH = 2.51
COLEBROOK_ROUGH = 3.7
ITERATIONS = 40


def darcy_friction_factor(reynolds: float, relative_roughness: float) -> float:
    """Return the Darcy friction factor [-] of a round pipe running full.

    Args:
        reynolds: v·D/ν [-], above 0.
        relative_roughness: equivalent sand roughness over bore [-], 0 to 0.05.
    Raises:
        OutOfRange: an argument is outside those limits or not a number.
    Source: 64/Re (Hagen–Poiseuille) below 2,000; Colebrook 1939 above 4,000; between, `bridge`.
    >>> darcy_friction_factor(500.0, 0.0)
    0.128
    >>> round(darcy_friction_factor(1e5, 1e-4), 6)
    0.018514
    """
    require_between("Reynolds number", reynolds, math.ulp(0.0), 1e9)
    return scaled_loss(reynolds, relative_roughness)[0] / reynolds**2


def scaled_loss(reynolds: float, relative_roughness: float) -> tuple[float, float]:
    """Return f·Re² and its slope against Re [-, -], for Re from 0 upwards.

    Raises:
        OutOfRange: the roughness is outside 0 to 0.05, or either is not a number.
    """
    require_between("relative roughness", relative_roughness, 0.0, ROUGHEST)
    require_between("Reynolds number", reynolds, 0.0, 1e9)
    if reynolds <= LAMINAR_BELOW_RE:
        return 64.0 * reynolds, 64.0
    if reynolds >= TURBULENT_ABOVE_RE:
        return _turbulent(reynolds, relative_roughness)
    return bridge(reynolds, relative_roughness)


def colebrook_friction_factor(reynolds: float, relative_roughness: float) -> float:
    """Return the Darcy friction factor [-] of Colebrook & White, solved to 1e-13 of 1/√f by Newton.

    Source: C. F. Colebrook 1939, J. Inst. Civil Eng. 11:133, constants 3.7 and 2.51.
    """
    rough = relative_roughness / COLEBROOK_ROUGH
    root = -1.8 * math.log10(rough**1.11 + 6.9 / reynolds)  # Haaland 1983, the first guess
    for _ in range(ITERATIONS):
        inner = rough + COLEBROOK_SMOOTH * root / reynolds
        slope = 1.0 + 2.0 / math.log(10.0) * COLEBROOK_SMOOTH / reynolds / inner
        step = (root + 2.0 * math.log10(inner)) / slope
        root -= step
        if abs(step) < 1e-13:
            break
    return 1.0 / root**2


def _turbulent(reynolds: float, relative_roughness: float) -> tuple[float, float]:
    factor = colebrook_friction_factor(reynolds, relative_roughness)
    root = 1.0 / math.sqrt(factor)
    inner = relative_roughness / COLEBROOK_ROUGH + COLEBROOK_SMOOTH * root / reynolds
    share = COLEBROOK_SMOOTH * root / reynolds / inner
    log_slope = (
        2.0 / math.log(10.0) * share / (1.0 + 2.0 / math.log(10.0) * share / root) / root
    )  # d ln(1/√f) / d ln Re
    return factor * reynolds**2, 2.0 * factor * reynolds * (1.0 - log_slope)


def bridge(reynolds: float, relative_roughness: float) -> tuple[float, float]:
    """Return f·Re² and its slope between Re 2,000 and 4,000 [-, -].

    f is the cubic in Re that meets 64/Re at 2,000 and Colebrook–White at 4,000, each with its slope.
    Measurements scatter in this range; what is claimed is that f·Re² rises throughout without a corner.
    """
    width = TURBULENT_ABOVE_RE - LAMINAR_BELOW_RE
    share = (reynolds - LAMINAR_BELOW_RE) / width
    low = 64.0 / LAMINAR_BELOW_RE
    low_slope = -low / LAMINAR_BELOW_RE * width
    end, end_slope = _turbulent(TURBULENT_ABOVE_RE, relative_roughness)
    high = end / TURBULENT_ABOVE_RE**2
    high_slope = (end_slope / TURBULENT_ABOVE_RE**2 - 2.0 * high / TURBULENT_ABOVE_RE) * width
    square = 3.0 * (high - low) - 2.0 * low_slope - high_slope
    cube = 2.0 * (low - high) + low_slope + high_slope
    factor = low + share * (low_slope + share * (square + share * cube))
    factor_slope = (low_slope + share * (2.0 * square + share * 3.0 * cube)) / width
    return factor * reynolds**2, factor_slope * reynolds**2 + 2.0 * factor * reynolds
