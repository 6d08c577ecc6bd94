"""Water that has some strength already, brought to another: by a dose, or by plain water as far as there is room."""

from dataclasses import dataclass

from leadsman.core.base.errors import OutOfRange, require_between

STRONGEST = 10.0  # times the recipe's: nothing grows in it


@dataclass(frozen=True, kw_only=True)
class Mixed:
    """What brings water to a strength: a dose for so many litres of full strength, or plain water [L]."""

    dose_for_l: float
    plain_l: float


def mixed_to(water_l: float, room_l: float, now: float, wanted: float) -> Mixed:
    """Return what brings water from one strength to another, strengths as shares of the recipe's.

    Args:
        water_l: what is in the vessel [L], above 0. room_l: what still goes in [L], 0 or more.
        now, wanted: 0 to 10; wanted above 0.
    Raises:
        OutOfRange: outside those limits; or weaker than plain water up to the brim makes it.
    >>> mixed_to(100.0, 50.0, 0.4, 1.0)
    Mixed(dose_for_l=60.0, plain_l=0.0)
    >>> mixed_to(100.0, 50.0, 1.2, 1.0)
    Mixed(dose_for_l=0.0, plain_l=20.0)
    """
    require_between("litres in it", water_l, 1e-6, 1e9, "/water_l")
    require_between("strength now", now, 0.0, STRONGEST, "/now")
    require_between("strength wanted", wanted, 1e-6, STRONGEST, "/wanted")
    if wanted >= now:
        return Mixed(dose_for_l=round(water_l * (wanted - now), 9), plain_l=0.0)
    plain = water_l * (now / wanted - 1.0)
    if plain > room_l + 1e-9:
        weakest = now * water_l / (water_l + room_l)
        raise OutOfRange("strength that plain water up to the brim makes", wanted, weakest, STRONGEST, "/wanted")
    return Mixed(dose_for_l=0.0, plain_l=round(plain, 9))
