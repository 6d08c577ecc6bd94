"""Where two designs have the same parts, joined alike, what of one stands elsewhere than in the other."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TypeVar

from leadsman.core.design import Design, Line, Place

T = TypeVar("T")


@dataclass(frozen=True)
class Moved:
    """Places and lines that have other figures, by their numbers in the design."""

    places: dict[int, Place]
    lines: dict[int, Line]

    def lines_at(self, design: Design) -> list[int]:
        """Return the numbers of lines that have other figures, or end where something has."""
        ids = {place.id for place in self.places.values()}
        nodes = ids | {vessel.id for vessel in design.vessels if vessel.place in ids}
        nodes |= {outlet.id for outlet in design.outlets if outlet.place in ids}
        return [
            number
            for number, line in enumerate(design.lines)
            if number in self.lines or line.from_ in nodes or line.to in nodes
        ]


def moved_between(before: Design, after: Design) -> Moved | None:
    """Return what moved from one design to the next; None where more than figures of places and lines changed.

    Vessels, outlets and products of the user's own must be the very same lists, as in a design that is read again.
    """
    same = before.vessels is after.vessels and before.outlets is after.outlets and before.own_pipes is after.own_pipes
    if not same or before.site.altitude_m != after.site.altitude_m:
        return None
    if len(before.places) != len(after.places) or len(before.lines) != len(after.lines):
        return None
    places, lines = _others(before.places, after.places), _others(before.lines, after.lines)
    for number, place in places.items():
        old = before.places[number]
        if (place.id, place.draw_lpm) != (old.id, old.draw_lpm):
            return None
    for number, line in lines.items():
        was = before.lines[number]
        if (line.id, line.from_, line.to) != (was.id, was.from_, was.to):
            return None
    return Moved(places, lines)


def _others(before: Sequence[T], after: Sequence[T]) -> dict[int, T]:
    return {number: new for number, (old, new) in enumerate(zip(before, after, strict=True)) if new is not old}
