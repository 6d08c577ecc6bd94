"""Store against need: days in hand, and what refill leaves to spare."""

from dataclasses import dataclass

from leadsman.core.base.errors import require_between
from leadsman.core.base.units import DAY_S


@dataclass(frozen=True, kw_only=True)
class Balance:
    """A day's demand and refill [m3/d] against what the store can give [m3]."""

    demand_m3_per_day: float
    refill_m3_per_day: float
    usable_m3: float

    @property
    def spare_m3_per_day(self) -> float:
        """Refill less need [m3/d]; negative where more is drunk than comes back."""
        return self.refill_m3_per_day - self.demand_m3_per_day

    @property
    def days_in_hand(self) -> float | None:
        """Days that the store lasts with no refill; None where nothing is drawn."""
        return self.usable_m3 / self.demand_m3_per_day if self.demand_m3_per_day > 0.0 else None


def balance(demand_m3_per_day: float, refill_m3s: float, usable_m3: float) -> Balance:
    """Return the balance of a day's demand [m3/d], a steady refill [m3/s] and a usable store [m3].

    Raises:
        OutOfRange: any of them is negative or not a number.
    Source: need, refill and store counted over a day.
    >>> balance(demand_m3_per_day=4.0, refill_m3s=5 / DAY_S, usable_m3=10.0).days_in_hand
    2.5
    """
    for name, value in (("demand", demand_m3_per_day), ("refill", refill_m3s), ("store", usable_m3)):
        require_between(name, value, 0.0, 1e12)
    return Balance(demand_m3_per_day=demand_m3_per_day, refill_m3_per_day=refill_m3s * DAY_S, usable_m3=usable_m3)
