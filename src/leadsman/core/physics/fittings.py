"""Losses at fittings: K on a stated bore, and the geometry that K comes from."""

import math

from leadsman.core.base.errors import require_between
from leadsman.core.base.units import BAR_PA, GRAVITY_MS2, HOUR_S

STEEL_ROUGHNESS_MM = 0.0457
FLUSH_ENTRANCE_K = 0.5
PROJECTING_ENTRANCE_K = 0.78
EXIT_K = 1.0
REFERENCE_DENSITY_KGM3 = 1_000.0


def bore_area_m2(bore_m: float) -> float:
    """Return the area [m2] of a round bore [m], above 0.

    Source: π D²/4.
    >>> round(bore_area_m2(0.1), 6)
    0.007854
    """
    require_between("bore [m]", bore_m, 1e-4, 10.0)
    return math.pi * bore_m**2 / 4.0


def minor_loss_per_flow2(loss_coefficient: float, bore_m: float) -> float:
    """Return the head loss over flow squared [s2/m5] of a fitting with K [-] on a bore [m].

    Source: h = K v²/2g; any fluid mechanics text.
    >>> round(minor_loss_per_flow2(1.0, 0.025) * bore_area_m2(0.025) ** 2, 5)  # of 1 m/s
    0.05099
    """
    require_between("loss coefficient K", loss_coefficient, 0.0, 1e6)
    return loss_coefficient / (2.0 * GRAVITY_MS2 * bore_area_m2(bore_m) ** 2)


def crane_full_turbulence_factor(bore_m: float) -> float:
    """Return f_T [-], the factor that scales tabulated fitting losses to a pipe size.

    Source: Crane TP-410, fully turbulent Nikuradse friction in clean steel (0.0018 in), from memory.
    >>> round(crane_full_turbulence_factor(0.0525), 3)  # nominal 2 in, as Crane's table has it
    0.019
    """
    require_between("bore [m]", bore_m, 1e-3, 10.0)
    return 0.25 / math.log10(STEEL_ROUGHNESS_MM * 1e-3 / bore_m / 3.7) ** 2


def sudden_expansion_k(small_bore_m: float, large_bore_m: float) -> float:
    """Return K [-] on the small bore of a sudden widening (Borda–Carnot).

    Source: any fluid mechanics text.
    >>> sudden_expansion_k(0.02, 0.04)
    0.5625
    """
    require_between("small bore over large", small_bore_m / large_bore_m, 0.0, 1.0)
    return (1.0 - (small_bore_m / large_bore_m) ** 2) ** 2


def sudden_contraction_k(large_bore_m: float, small_bore_m: float) -> float:
    """Return K [-] on the small bore of a sudden narrowing: 0.5 (1 − β²), as Crane TP-410 has it.

    Source: Crane TP-410, from memory.
    >>> sudden_contraction_k(0.04, 0.02)
    0.375
    """
    require_between("small bore over large", small_bore_m / large_bore_m, 0.0, 1.0)
    return 0.5 * (1.0 - (small_bore_m / large_bore_m) ** 2)


def kv_m3h_from_k(loss_coefficient: float, bore_m: float) -> float:
    """Return Kv [m3/h at 1 bar] of a fitting with K [-] above 0 on a bore [m], water of 1,000 kg/m3.

    Source: the definition of Kv: 1 bar over the part; IEC 60534, from memory.
    >>> round(kv_m3h_from_k(1.0, 0.025), 2)
    24.99
    """
    require_between("loss coefficient K", loss_coefficient, 1e-9, 1e9)
    return bore_area_m2(bore_m) * math.sqrt(2.0 * BAR_PA / (REFERENCE_DENSITY_KGM3 * loss_coefficient)) * HOUR_S


def kv_loss_per_flow2(kv_m3h: float, density_kgm3: float) -> float:
    """Return the head loss over flow squared [s2/m5] of a part rated by Kv [m3/h at 1 bar].

    Source: the definition of Kv: 1 bar over the part; IEC 60534, from memory.
    >>> round(kv_loss_per_flow2(1.0, 1_000.0) / HOUR_S**2, 3)  # 1 m3/h through Kv 1 takes 1 bar
    10.197
    """
    require_between("Kv [m3/h]", kv_m3h, 1e-6, 1e6)
    return (HOUR_S / kv_m3h) ** 2 * BAR_PA / (density_kgm3 * GRAVITY_MS2)
