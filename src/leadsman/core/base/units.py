"""Constants and the conversions between the document's units and SI. Nothing else converts.

Factors are exact by definition (SI brochure, NIST SP 811); tests hold them against Pint.
"""

GRAVITY_MS2 = 9.80665
BAR_PA = 100_000.0
KPA_PA = 1_000.0
STANDARD_ATMOSPHERE_PA = 101_325.0
KELVIN_AT_0_C = 273.15
HOUR_S = 3_600.0
DAY_S = 86_400.0
MINUTE_S = 60.0
LITRE_M3 = 1e-3
MILLIMETRE_M = 1e-3


def m3s_from_lpm(flow_lpm: float) -> float:
    """Return a flow [m3/s] given in litres a minute."""
    return flow_lpm * LITRE_M3 / MINUTE_S


def lpm_from_m3s(flow_m3s: float) -> float:
    """Return a flow [L/min] given in m3/s."""
    return flow_m3s * MINUTE_S / LITRE_M3


def pa_from_kpa(pressure_kpa: float) -> float:
    """Return a pressure [Pa] given in kPa, gauge or absolute as it was."""
    return pressure_kpa * KPA_PA


def kpa_from_pa(pressure_pa: float) -> float:
    """Return a pressure [kPa] given in Pa, gauge or absolute as it was."""
    return pressure_pa / KPA_PA


def m_from_mm(length_mm: float) -> float:
    """Return a length [m] given in millimetres."""
    return length_mm * MILLIMETRE_M


def head_m_from_pa(pressure_pa: float, density_kgm3: float) -> float:
    """Return the height [m] of water column of a pressure [Pa]."""
    return pressure_pa / (density_kgm3 * GRAVITY_MS2)


def pa_from_head_m(head_m: float, density_kgm3: float) -> float:
    """Return the pressure [Pa] under a height of water column [m]."""
    return head_m * density_kgm3 * GRAVITY_MS2
