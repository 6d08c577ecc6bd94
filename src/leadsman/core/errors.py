"""Errors of the core: each says what was found, where, and what is allowed."""

from collections.abc import Sequence
from dataclasses import dataclass

from pydantic_core import PydanticCustomError


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


@dataclass(frozen=True)
class Fault:
    """One thing wrong in a design file: where (JSON pointer), what was found, what is allowed."""

    path: str
    code: str
    found: str
    allowed: str

    def __str__(self) -> str:
        return f"{self.path or '/'}: found {self.found}; allowed: {self.allowed}"


class DesignFaults(CoreError, ValueError):
    """The document is not a design: every fault found, none of it loaded."""

    def __init__(self, faults: Sequence[Fault]) -> None:
        self.faults = tuple(faults)
        super().__init__("\n".join(str(fault) for fault in self.faults))


def require_between(name: str, value: float, low: float, high: float, path: str = "") -> None:
    """Raise OutOfRange unless low <= value <= high (so NaN is refused too)."""
    if not low <= value <= high:
        raise OutOfRange(name, value, low, high, path)


def fault(allowed: str) -> PydanticCustomError:
    """Return the error that a model's validator raises: `design_file` turns it into a Fault."""
    return PydanticCustomError("not_allowed", "{allowed}", {"allowed": allowed})
