"""Sentences with numbers in them, kept apart from the units they are shown in.

A wording is text and quantities in turn. `plain` prints it in the document's units for the command
line; the interface prints the same parts in the units of its user.
"""

from dataclasses import dataclass
from typing import Literal

Unit = Literal["m", "mm", "L/min", "L", "L/d", "kPa", "min", "d", "°C", "kg", "count", "m/s", "s"]

DIGITS: dict[Unit, int] = {
    "m": 2,
    "mm": 0,
    "L/min": 1,
    "L": 0,
    "L/d": 0,
    "kPa": 1,
    "min": 0,
    "d": 1,
    "°C": 0,
    "kg": 0,
    "count": 0,
    "m/s": 2,
    "s": 0,
}
TRICKLE_LPM = 1.0
SPOKEN: dict[Unit, str] = {"count": "", "s": "seconds", "min": "minutes", "d": "days", "L/d": "L a day"}


@dataclass(frozen=True, kw_only=True)
class Quantity:
    """A number with its unit, in the units of the design document; decimals as usual for it, or as said."""

    value: float
    unit: Unit
    digits: int | None = None

    @property
    def is_trickle(self) -> bool:
        """Whether it is a flow so small that one decimal more is wanted."""
        return self.unit == "L/min" and abs(self.value) < TRICKLE_LPM

    def __str__(self) -> str:
        digits = DIGITS[self.unit] + self.is_trickle if self.digits is None else self.digits
        return f"{self.value:.{digits}f} {SPOKEN.get(self.unit, self.unit)}"


Wording = tuple[str | Quantity, ...]


def say(template: str, *values: str | Quantity) -> Wording:
    """Return a wording: the template with each {} filled in turn.

    Raises:
        ValueError: the template has more or fewer gaps than there are values.
    """
    texts = template.split("{}")
    if len(texts) != len(values) + 1:
        raise ValueError(f"{len(texts) - 1} gaps for {len(values)} values in {template!r}")
    parts: list[str | Quantity] = [texts[0]]
    for value, text in zip(values, texts[1:], strict=True):
        parts += [value, text]
    return tuple(part for part in parts if part != "")


def plain(wording: Wording) -> str:
    """Return the wording as one line of text in the document's units."""
    return "".join(str(part) for part in wording)
