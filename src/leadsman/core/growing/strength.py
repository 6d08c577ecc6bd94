"""How strong the water in pots stays: a mass balance of what comes in, what plants take, and what the air takes."""

import math
from dataclasses import dataclass

from leadsman.core.base.errors import require_between


@dataclass(frozen=True, kw_only=True)
class PotWater:
    """Water in pots at one level: how much [L], what plants drink and what the air takes of it a day [L/d].

    `taken_share` is how strong what the plants take is, against what they stand in: 1 where they take water and
    nutrient alike, less where they leave nutrient behind.
    """

    holds_l: float
    drunk_lpd: float
    air_lpd: float
    taken_share: float

    @property
    def per_day(self) -> float:
        """The share of the nutrient that plants take in a day [1/d]."""
        return self.taken_share * self.drunk_lpd / self.holds_l

    def fed(self, begins: float, comes: float, days: float) -> float:
        """Return the strength after some days in which water of a strength came in as fast as it left.

        d(strength)/dt = (all that comes × its strength − taken) / holds, solved; strengths as shares of the recipe's.

        Raises:
            OutOfRange: a negative strength or time.
        """
        require_between("strength", min(begins, comes), 0.0, 1e6)
        require_between("days", days, 0.0, 1e5)
        rate, brought = self.per_day, (self.drunk_lpd + self.air_lpd) / self.holds_l * comes
        if rate == 0.0:
            return begins + brought * days
        settles = brought / rate
        return settles + (begins - settles) * math.exp(-rate * days)


@dataclass(frozen=True, kw_only=True)
class Cycle:
    """The strength between two doses once it repeats: least just before a dose, most just after it."""

    least: float
    most: float


def dosed_pot(pot: PotWater, every_days: float, added: float) -> Cycle | None:
    """Return the cycle of pots that plain water tops up and a dose goes into every so many days.

    Args:
        every_days: between two doses, above 0.
        added: what a dose adds to the strength, 1 for the recipe's for all the water in them.
    Returns: None where nothing is taken: each dose adds to the last for ever.
    Raises:
        OutOfRange: no days between doses, or no dose.
    """
    require_between("days between doses", every_days, 1e-3, 1e4)
    require_between("dose", added, 1e-9, 1e6)
    left = math.exp(-pot.per_day * every_days)
    if left >= 1.0:
        return None
    most = added / (1.0 - left)
    return Cycle(least=most * left, most=most)


def dose_that_keeps(pot: PotWater, every_days: float, mean: float = 1.0) -> float | None:
    """Return what a dose has to add so that the strength's mean over the cycle is that [share of the recipe's].

    The mean between doses is added / (rate × days). None where nothing is taken.
    """
    require_between("days between doses", every_days, 1e-3, 1e4)
    return mean * pot.per_day * every_days if pot.per_day > 0.0 else None
