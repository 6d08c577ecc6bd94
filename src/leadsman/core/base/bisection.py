"""Where a quantity that only grows reaches a value. Importing a library for it takes longer than a whole check."""

from collections.abc import Callable

HALVINGS = 60


def reached_at(grows: Callable[[float], float], value: float, low: float, high: float) -> float:
    """Return where between `low` and `high` a growing quantity reaches a value; an end where it does so outside.

    Stops after 60 halvings: within 1e-18 of the interval, less than a float tells apart.
    >>> round(reached_at(lambda x: x * x, 2.0, 0.0, 2.0), 9)
    1.414213562
    """
    for _ in range(HALVINGS):
        middle = (low + high) / 2.0
        low, high = (middle, high) if grows(middle) < value else (low, middle)
    return high
