"""Properties of liquid water at ordinary pressure, and of the air above it."""

import math
from dataclasses import dataclass
from functools import lru_cache

from leadsman.core.base.errors import require_between
from leadsman.core.base.units import KELVIN_AT_0_C, STANDARD_ATMOSPHERE_PA

LOWEST_C, HIGHEST_C = 0.0, 60.0

KELL_NUMERATOR = (999.83952, 16.945176, -7.9870401e-3, -46.170461e-6, 105.56302e-9, -280.54253e-12)
KELL_DENOMINATOR = 16.879850e-3
IAPWS_VISCOSITY = ((280.68, -1.9), (511.45, -7.7), (61.131, -19.6), (0.45903, -40.0))
SATURATION = (
    (-7.85951783, 1.0),
    (1.84408259, 1.5),
    (-11.7866497, 3.0),
    (22.6807411, 3.5),
    (-15.9618719, 4.0),
    (1.80122502, 7.5),
)
EARTH_RADIUS_M = 6_356_766.0
CRITICAL_K, CRITICAL_PA = 647.096, 22.064e6


@dataclass(frozen=True, kw_only=True)
class Water:
    """Water at one temperature: density [kg/m3], kinematic viscosity [m2/s], vapour pressure [Pa, absolute]."""

    temperature_c: float
    density_kgm3: float
    kinematic_viscosity_m2s: float
    vapour_pressure_pa: float


@lru_cache(maxsize=64)
def water_at(temperature_c: float) -> Water:
    """Return the properties of liquid water at 101.325 kPa.

    Args:
        temperature_c: water temperature [°C], 0 to 60.
    Raises:
        OutOfRange: outside those limits or not a number.
    >>> round(water_at(10.0).density_kgm3, 2)
    999.7
    """
    density = kell_density_kgm3(temperature_c)
    viscosity = iapws_dynamic_viscosity_pas(temperature_c)
    return Water(
        temperature_c=temperature_c,
        density_kgm3=density,
        kinematic_viscosity_m2s=viscosity / density,
        vapour_pressure_pa=wagner_vapour_pressure_pa(temperature_c),
    )


def kell_density_kgm3(temperature_c: float) -> float:
    """Return the density [kg/m3] of water at 101.325 kPa, 0 to 60 °C.

    Source: G. S. Kell 1975, J. Chem. Eng. Data 20(1):97, equation 16.
    >>> round(kell_density_kgm3(25.0), 3)
    997.045
    """
    require_between("water temperature [°C]", temperature_c, LOWEST_C, HIGHEST_C)
    numerator = sum(a * temperature_c**power for power, a in enumerate(KELL_NUMERATOR))
    return numerator / (1.0 + KELL_DENOMINATOR * temperature_c)


def iapws_dynamic_viscosity_pas(temperature_c: float) -> float:
    """Return the dynamic viscosity [Pa·s] of water at 0.1 MPa, 0 to 60 °C.

    Source: IAPWS SR6-08(2011), supplementary release on water at 0.1 MPa, equation 7.
    >>> round(iapws_dynamic_viscosity_pas(20.0) * 1e3, 4)
    1.0016
    """
    require_between("water temperature [°C]", temperature_c, LOWEST_C, HIGHEST_C)
    reduced = (temperature_c + KELVIN_AT_0_C) / 300.0
    return 1e-6 * sum(a * math.pow(reduced, b) for a, b in IAPWS_VISCOSITY)


def wagner_vapour_pressure_pa(temperature_c: float) -> float:
    """Return the saturation pressure [Pa, absolute] over water, 0 to 60 °C.

    Source: Wagner & Pruss 1993, J. Phys. Chem. Ref. Data 22:783, equation 1.
    >>> round(wagner_vapour_pressure_pa(25.0))
    3170
    """
    require_between("water temperature [°C]", temperature_c, LOWEST_C, HIGHEST_C)
    kelvin = temperature_c + KELVIN_AT_0_C
    tau = 1.0 - kelvin / CRITICAL_K
    exponent = CRITICAL_K / kelvin * sum(a * math.pow(tau, b) for a, b in SATURATION)
    return CRITICAL_PA * math.exp(exponent)


def atmospheric_pressure_pa(altitude_m: float) -> float:
    """Return the mean pressure [Pa, absolute] of the air at an altitude, −500 to 5,000 m.

    Source: U.S. Standard Atmosphere 1976, troposphere.
    Raises:
        OutOfRange: outside those limits or not a number.
    >>> round(atmospheric_pressure_pa(1_000.0) / 1e3, 1)
    89.9
    """
    require_between("altitude [m]", altitude_m, -500.0, 5_000.0)
    geopotential_m = EARTH_RADIUS_M * altitude_m / (EARTH_RADIUS_M + altitude_m)
    return STANDARD_ATMOSPHERE_PA * math.pow(1.0 - 2.25577e-5 * geopotential_m, 5.25588)
