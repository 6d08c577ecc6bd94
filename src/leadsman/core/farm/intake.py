"""Published equations for what dairy cows drink in a day."""

from leadsman.core.base.errors import require_between

HOTTEST_C, COLDEST_C = 50.0, -40.0


def murphy(dry_matter_kgd: float, milk_kgd: float, sodium_gd: float, least_air_c: float) -> float:
    """Return the water that a cow in milk drinks [L/d], feed water not counted.

    Args:
        dry_matter_kgd: dry matter eaten [kg/d], 0 to 60.
        milk_kgd: milk given [kg/d], 0 to 100.
        sodium_gd: sodium eaten [g/d], 0 to 500.
        least_air_c: least temperature of the day [°C], −40 to 50.
    Raises:
        OutOfRange: an argument is outside those limits.
    Source: Murphy, Davis & McCoy 1983, J. Dairy Sci. 66:35, from memory.
    >>> round(murphy(dry_matter_kgd=20, milk_kgd=30, sodium_gd=40, least_air_c=15), 2)
    94.59
    """
    _within_cow(dry_matter_kgd, milk_kgd, sodium_gd, least_air_c)
    litres = 15.99 + 1.58 * dry_matter_kgd + 0.90 * milk_kgd + 0.05 * sodium_gd + 1.20 * least_air_c
    return max(0.0, litres)


def meyer(air_c: float, milk_kgd: float, weight_kg: float, sodium_gd: float) -> float:
    """Return the water that a cow in milk drinks [L/d], feed water not counted.

    Args:
        air_c: mean temperature of the day [°C], −40 to 50.
        milk_kgd: milk given [kg/d], 0 to 100.
        weight_kg: live weight [kg], 0 to 2,000.
        sodium_gd: sodium eaten [g/d], 0 to 500.
    Raises:
        OutOfRange: an argument is outside those limits.
    Source: Meyer et al. 2004, Livest. Prod. Sci. 90:117, from memory.
    >>> round(meyer(air_c=15, milk_kgd=30, weight_kg=600, sodium_gd=40), 2)
    86.63
    """
    _within_cow(0.0, milk_kgd, sodium_gd, air_c)
    require_between("weight [kg]", weight_kg, 0.0, 2_000.0)
    return max(0.0, -26.12 + 1.516 * air_c + 1.299 * milk_kgd + 0.058 * weight_kg + 0.406 * sodium_gd)


def holter_urban_dry(dry_matter_percent: float, dry_matter_kgd: float, crude_protein_percent: float) -> float:
    """Return the water that a dry cow drinks [L/d], feed water not counted; it knows no heat.

    Args:
        dry_matter_percent: dry matter of what is eaten [%], 0 to 100.
        dry_matter_kgd: dry matter eaten [kg/d], 0 to 60.
        crude_protein_percent: crude protein of the dry matter [%], 0 to 40.
    Raises:
        OutOfRange: an argument is outside those limits.
    Source: Holter & Urban 1992, J. Dairy Sci. 75:1472, from memory, rough.
    >>> round(holter_urban_dry(dry_matter_percent=50, dry_matter_kgd=10, crude_protein_percent=13), 2)
    29.93
    """
    require_between("dry matter of the feed [%]", dry_matter_percent, 0.0, 100.0)
    require_between("crude protein [%]", crude_protein_percent, 0.0, 40.0)
    _within_cow(dry_matter_kgd, 0.0, 0.0, 0.0)
    litres = -10.34 + 0.2296 * dry_matter_percent + 2.212 * dry_matter_kgd + 0.03944 * crude_protein_percent**2
    return max(0.0, litres)


def cow_dry_matter_kgd(weight_kg: float, milk_kgd: float) -> float:
    """Return the dry matter that a cow eats [kg/d] at a weight [kg] and a yield of milk [kg/d].

    Source: the rule of 2.5 % of weight and a tenth of the milk (MAFF bulletin 33, 1984), from memory.
    >>> cow_dry_matter_kgd(600.0, 20.0)
    17.0
    """
    return 0.025 * weight_kg + 0.1 * milk_kgd


def _within_cow(dry_matter_kgd: float, milk_kgd: float, sodium_gd: float, air_c: float) -> None:
    require_between("dry matter eaten [kg/d]", dry_matter_kgd, 0.0, 60.0)
    require_between("milk [kg/d]", milk_kgd, 0.0, 100.0)
    require_between("sodium [g/d]", sodium_gd, 0.0, 500.0)
    require_between("air temperature [°C]", air_c, COLDEST_C, HOTTEST_C)
