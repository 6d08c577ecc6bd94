"""Errors of the core: each says what was found, where, and what is allowed."""

from collections.abc import Sequence


class CoreError(Exception):
    """Base of every error that the core raises on purpose."""


class OutOfRange(CoreError, ValueError):
    """A quantity lies outside its limits, or is not a number.

    ``path`` is the JSON path of the figure in the design, where the caller knows it.
    """

    def __init__(self, name: str, value: float, low: float, high: float, path: str = "") -> None:
        self.name, self.value, self.low, self.high, self.path = name, value, low, high, path
        super().__init__(f"{name} is {value:g}; allowed is {low:g} to {high:g}")


class UnknownName(CoreError, LookupError):
    """A catalogue or table has no row of that name."""

    def __init__(self, kind: str, name: str, known: Sequence[str], path: str = "") -> None:
        self.kind, self.name, self.known, self.path = kind, name, tuple(known), path
        listed = ", ".join(self.known[:6]) + (", …" if len(self.known) > 6 else "")
        super().__init__(f"no {kind} is called {name!r}; known: {listed}")


def require_between(name: str, value: float, low: float, high: float, path: str = "") -> None:
    """Raise OutOfRange unless low <= value <= high (so NaN is refused too)."""
    if not low <= value <= high:
        raise OutOfRange(name, value, low, high, path)
