"""Sentences with numbers in them, kept apart from the units they are shown in.

A wording is text and quantities in turn. `plain` prints it in the document's units for the command
line; the interface prints the same parts in the units of its user.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

Unit = Literal[
    "m", "mm", "mm rain", "m²", "L/min", "L", "L/d", "kPa", "min", "d", "°C", "kg", "count", "m/s", "m³/h", "s"
]

DIGITS: dict[Unit, int] = {
    "m": 2,
    "mm": 0,
    "mm rain": 1,  # a depth of water on the ground
    "m²": 0,
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
    "m³/h": 1,  # the Kv of a valve
    "s": 0,
}
TRICKLE_LPM = 1.0
SPOKEN: dict[Unit, str] = {
    "count": "", "s": "seconds", "min": "minutes", "d": "days", "L/d": "L a day", "mm rain": "mm",
    "m³/h": "m³/h at 1 bar",
}  # fmt: skip
ONE: dict[Unit, str] = {"s": "second", "min": "minute", "d": "day"}


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
        return with_unit(f"{self.value:.{digits}f}", self.unit, SPOKEN.get(self.unit, self.unit))


def with_unit(figure: str, unit: Unit, spoken: str) -> str:
    """Return a figure with what its unit is called, one of it in the singular."""
    return f"{figure} {ONE.get(unit, spoken) if figure == '1' else spoken}".rstrip()


Wording = tuple[str | Quantity, ...]


def say(template: str, *values: str | Quantity | Wording) -> Wording:
    """Return a wording: the template with each {} filled in turn, by a text, a quantity or another wording.

    Raises:
        ValueError: the template has more or fewer gaps than there are values.
    """
    texts = template.split("{}")
    if len(texts) != len(values) + 1:
        raise ValueError(f"{len(texts) - 1} gaps for {len(values)} values in {template!r}")
    parts: list[str | Quantity] = [texts[0]]
    for value, text in zip(values, texts[1:], strict=True):
        parts += [*(value if isinstance(value, tuple) else (value,)), text]
    return tuple(part for part in parts if part != "")


def duration(seconds: float) -> Wording:
    """Return a time as people say it: minutes up to two hours, hours up to two days, then days."""
    if seconds < 7_200.0:
        return (Quantity(value=seconds / 60.0, unit="min"),)
    if seconds < 172_800.0:
        return (f"{seconds / 3_600.0:.1f} hours",)
    return (Quantity(value=seconds / 86_400.0, unit="d"),)


def listed(wordings: Sequence[Wording], last: str = " and ") -> Wording:
    """Return wordings one after the other, with commas and, before the last, an "and"."""
    parts: list[str | Quantity] = []
    for number, wording in enumerate(wordings):
        parts += [(last if number == len(wordings) - 1 else ", ") if number else "", *wording]
    return tuple(part for part in parts if part != "")


def plain(wording: Wording) -> str:
    """Return the wording as one line of text in the document's units."""
    return "".join(str(part) for part in wording)
