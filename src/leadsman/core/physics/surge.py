"""Water hammer: what a moving column of water does to its pipe when something shuts in its way."""

import math

from leadsman.core.base.errors import require_between

BULK_MODULUS_PA = 2.19e9  # of water near 20 °C (IAPWS, from memory)


def wave_speed_ms(
    bore_m: float, wall_m: float, modulus_pa: float, density_kgm3: float, bulk_modulus_pa: float = BULK_MODULUS_PA
) -> float:
    """Return how fast a change of pressure runs along a thin-walled pipe full of water [m/s].

    Args:
        bore_m, wall_m: inner diameter and wall [m], above 0.
        modulus_pa: Young's modulus of the wall for a quick load [Pa], 1e6 to 1e12.
        density_kgm3, bulk_modulus_pa: of the water.
    Raises:
        OutOfRange: an argument is outside those limits or not a number.
    Source: Korteweg 1878, with no account of how the pipe is held; any text on fluid transients.
    >>> round(wave_speed_ms(0.0272, 0.0024, 0.8e9, 998.2), 1)
    261.7
    """
    require_between("bore [m]", bore_m, 1e-4, 5.0)
    require_between("wall [m]", wall_m, 1e-5, 1.0)
    require_between("modulus of the wall [Pa]", modulus_pa, 1e6, 1e12)
    require_between("density [kg/m3]", density_kgm3, 900.0, 1_100.0)
    require_between("bulk modulus [Pa]", bulk_modulus_pa, 1e8, 1e10)
    give = 1.0 + bulk_modulus_pa * bore_m / (modulus_pa * wall_m)
    return math.sqrt(bulk_modulus_pa / density_kgm3 / give)


def quick_below_s(length_m: float, wave_speed_ms: float) -> float:
    """Return the time [s] below which closing is as bad as at once: until the wave is back from the source.

    Raises:
        OutOfRange: the length is negative, or the wave does not run.
    Source: 2 L / a, any text on fluid transients.
    >>> round(quick_below_s(200.0, 261.7), 2)
    1.53
    """
    require_between("length [m]", length_m, 0.0, 1e6)
    require_between("wave speed [m/s]", wave_speed_ms, 1.0, 2_000.0)
    return 2.0 * length_m / wave_speed_ms


def joukowsky_pa(wave_speed_ms: float, velocity_change_ms: float, density_kgm3: float) -> float:
    """Return the rise of pressure [Pa] where water is stopped more quickly than its wave returns.

    Args:
        velocity_change_ms: what it loses of its velocity [m/s], 0 to 50.
    Raises:
        OutOfRange: an argument is outside its limits or not a number.
    Source: Joukowsky 1898.
    >>> round(joukowsky_pa(261.7, 0.8605, 998.2) / 1e5, 3)
    2.248
    """
    require_between("wave speed [m/s]", wave_speed_ms, 1.0, 2_000.0)
    require_between("change of velocity [m/s]", velocity_change_ms, 0.0, 50.0)
    require_between("density [kg/m3]", density_kgm3, 900.0, 1_100.0)
    return density_kgm3 * wave_speed_ms * velocity_change_ms


def slow_closing_pa(length_m: float, velocity_change_ms: float, closing_s: float, density_kgm3: float) -> float:
    """Return the greatest rise of pressure [Pa] where water is stopped slowly, its velocity falling evenly.

    It holds for closings of 2 L / a and more; twice the mean rise of a stiff column.

    Args:
        closing_s: time in which the velocity falls to nothing [s], above 0.
    Raises:
        OutOfRange: an argument is outside its limits or not a number.
    Source: Michaud 1878, in any text on fluid transients.
    >>> round(slow_closing_pa(200.0, 1.0, 4.0, 998.2) / 998.2 / 9.80665, 1)
    10.2
    """
    return 2.0 * rigid_column_pa(length_m, velocity_change_ms, closing_s, density_kgm3)


def rigid_column_pa(length_m: float, velocity_change_ms: float, closing_s: float, density_kgm3: float) -> float:
    """Return the mean rise of pressure [Pa] where water is stopped slowly, as one stiff column.

    Args:
        closing_s: time in which it is stopped [s], above 0.
    Raises:
        OutOfRange: an argument is outside its limits or not a number.
    Source: Newton's second law on the column; any text on fluid transients.
    >>> round(rigid_column_pa(200.0, 0.8605, 5.0, 998.2) / 1e5, 3)
    0.344
    """
    require_between("length [m]", length_m, 0.0, 1e6)
    require_between("change of velocity [m/s]", velocity_change_ms, 0.0, 50.0)
    require_between("closing time [s]", closing_s, 1e-6, 1e6)
    require_between("density [kg/m3]", density_kgm3, 900.0, 1_100.0)
    return density_kgm3 * length_m * velocity_change_ms / closing_s
