"""A level book reduced: rise and fall, height of collimation, misclosure, and what would explain it."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

from leadsman.core.base.errors import require_between
from leadsman.core.design import Design, LevelBook, StaffReading

ORDINARY_MM = 12.0  # times the root of the way in km: ordinary levelling; any text on surveying
SWAP_WITHIN_M = 0.0015
JUMP_SHARE = 0.25  # of the misclosure, that heights known otherwise may be off; ours
GRADUATION_SLIPS_M = (0.1, 0.5, 1.0)


@dataclass(frozen=True, kw_only=True)
class ReducedPoint:
    """A point of the book: its rise over the one before [m], collimation it was read from [m], level [m].

    `adjusted_m` has its share of the misclosure taken out; `rise_m` is None at the first point.
    """

    reading: StaffReading
    rise_m: float | None
    collimation_m: float
    level_m: float
    adjusted_m: float


@dataclass(frozen=True, kw_only=True)
class ReducedBook:
    """The book with its sums [m]; `misclosure_m` is None where it does not end on a known point.

    `sums_agree` is the check of the arithmetic: back less fore, rises less falls, last less first are the same.
    """

    points: list[ReducedPoint]
    back_sum_m: float
    fore_sum_m: float
    sums_agree: bool
    misclosure_m: float | None

    def allowed_m(self, length_km: float, factor_mm: float = ORDINARY_MM) -> float:
        """Return the misclosure that is let pass [m]: a factor [mm] times the root of the way [km, above 0]."""
        require_between("way [km]", length_km, 1e-6, 1e4)
        return factor_mm / 1000.0 * math.sqrt(length_km)


def reduced_book(
    readings: Sequence[StaffReading], first_level_m: float, last_level_m: float | None = None
) -> ReducedBook:
    """Return a level book reduced by rise and fall, and by height of collimation.

    Args:
        readings: in their order; the first has a back sight, points where the level moved have both.
        first_level_m: the known level of the first point [m].
        last_level_m: the known level of the last, where it is known; the misclosure is then shared out by set-ups.
    Source: rise and fall, and height of collimation; any text on surveying.
    """
    points: list[ReducedPoint] = []
    level, collimation, setups = first_level_m, first_level_m, 0
    before = 0.0
    at_setup: list[int] = []
    for number, reading in enumerate(readings):
        here = reading.mid_m if reading.mid_m is not None else reading.fore_m
        rise = None
        if number and here is not None:
            rise = before - here
            level = collimation - here
            before = here
        points.append(
            ReducedPoint(reading=reading, rise_m=rise, collimation_m=collimation, level_m=level, adjusted_m=level)
        )
        at_setup.append(setups)
        if reading.back_m is not None:
            collimation, before, setups = level + reading.back_m, reading.back_m, setups + 1
            if not number:
                points[0] = ReducedPoint(
                    reading=reading, rise_m=None, collimation_m=collimation, level_m=level, adjusted_m=level
                )
    back = sum(read.back_m for read in readings if read.back_m is not None)
    fore = sum(read.fore_m for read in readings if read.fore_m is not None)
    fore += readings[-1].mid_m if readings and readings[-1].mid_m is not None else 0.0  # the last closes the book
    risen = sum(point.rise_m for point in points if point.rise_m is not None)
    agree = abs(back - fore - risen) < 1e-9 and abs(level - first_level_m - risen) < 1e-9
    misclosure = level - last_level_m if last_level_m is not None and len(points) > 1 else None
    if misclosure is not None and setups:
        each = misclosure / setups
        shared = zip(points, at_setup, strict=True)
        points = [replace(point, adjusted_m=point.level_m - each * at) for point, at in shared]
    return ReducedBook(points=points, back_sum_m=back, fore_sum_m=fore, sums_agree=agree, misclosure_m=misclosure)


def reduced_books(design: Design) -> list[tuple[LevelBook, ReducedBook]]:
    """Return every level book of a design, from the height of the place that it begins at.

    One that comes back to that place closes on it; one that begins at no place of the design begins at 0.
    """
    ground = {place.id: place.ground_m for place in design.places}
    found = []
    for book in design.books:
        first = book.readings[0].place if book.readings else None
        closes = len(book.readings) > 1 and first is not None and book.readings[-1].place == first
        start_m = ground[first] if first is not None else 0.0
        found.append((book, reduced_book(book.readings, start_m, start_m if closes else None)))
    return found


def suspects(readings: Sequence[StaffReading], misclosure_m: float) -> list[tuple[int, str, float]]:
    """Return readings that would explain a misclosure if two neighbouring digits were swapped: number, which, as meant.

    A back sight that is read too high raises the levels after it, a fore sight lowers them; intermediate sights have
    no part in the misclosure.
    """
    found = []
    for number, reading in enumerate(readings):
        for key, sign in (("back_m", 1.0), ("fore_m", -1.0)):
            read = getattr(reading, key)
            for meant in _swapped(read) if read is not None else ():
                if abs(sign * (read - meant) - misclosure_m) <= SWAP_WITHIN_M:
                    found.append((number, key, meant))
    return found


def graduation_slip(misclosure_m: float) -> float | None:
    """Return the whole graduation [m] that some sight was misread by, where the misclosure is about one of them."""
    return next((slip for slip in GRADUATION_SLIPS_M if abs(abs(misclosure_m) - slip) <= 0.01), None)


def jump_between(book: ReducedBook, ground_m: Mapping[str, float]) -> tuple[int, int] | None:
    """Return between which readings the levels of a book that does not close jump against heights known otherwise.

    Of the readings at places of the plan, the two in a row between which what they are off by changes by about the
    misclosure, and hardly anywhere else: one of the sights from the first on, up to the second, is wrong. None where
    no place between its ends is known, or where they do not agree on it.

    Args:
        ground_m: heights of places [m], by their ids.
    """
    missed = book.misclosure_m
    if not missed:
        return None
    off = [
        (number, point.level_m - known)
        for number, point in enumerate(book.points)
        if (known := ground_m.get(point.reading.place or "")) is not None
    ]
    jumps = [(first, second, b - a) for (first, a), (second, b) in pairwise(off)]
    within_m = max(JUMP_SHARE * abs(missed), SWAP_WITHIN_M)
    found = [(first, second) for first, second, jump in jumps if abs(jump - missed) <= within_m]
    still = sum(abs(jump) <= within_m for *_, jump in jumps)
    return found[0] if len(jumps) > 1 and len(found) == 1 and still == len(jumps) - 1 else None


def _swapped(read_m: float) -> list[float]:
    digits = f"{round(abs(read_m) * 1000):04d}"
    swapped = {digits[:i] + digits[i + 1] + digits[i] + digits[i + 2 :] for i in range(len(digits) - 1)}
    return [int(figure) / 1000.0 for figure in sorted(swapped) if figure != digits]
