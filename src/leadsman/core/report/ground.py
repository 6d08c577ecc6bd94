"""Level books reduced, as JSON."""

from leadsman.core.design import Design, LevelBook
from leadsman.core.level_book import ReducedBook, graduation_slip, reduced_books, suspects
from leadsman.core.report.base import Report


class BookPointReport(Report):
    """A point of a book: rise over the one before, level, and the level with its share of the misclosure out [m]."""

    rise_m: float | None
    collimation_m: float
    level_m: float
    adjusted_m: float


class SuspectReport(Report):
    """A reading that two swapped digits would explain: its number from 0, which sight, and what may have been meant."""

    number: int
    sight: str
    meant_m: float


class BookReport(Report):
    """A book reduced; misclosure is null where it does not come back to where it began, allowed without a length."""

    id: str
    points: list[BookPointReport]
    back_sum_m: float
    fore_sum_m: float
    sums_agree: bool
    misclosure_m: float | None
    allowed_m: float | None
    suspects: list[SuspectReport]
    slip_m: float | None


def ground_report(design: Design) -> list[BookReport]:
    """Return every level book of a design reduced, from the height of the place it begins at."""
    return [_book(book, reduced) for book, reduced in reduced_books(design)]


def _book(book: LevelBook, reduced: ReducedBook) -> BookReport:
    missed = reduced.misclosure_m
    return BookReport(
        id=book.id,
        points=[
            BookPointReport(
                rise_m=point.rise_m,
                collimation_m=point.collimation_m,
                level_m=point.level_m,
                adjusted_m=point.adjusted_m,
            )
            for point in reduced.points
        ],
        back_sum_m=reduced.back_sum_m,
        fore_sum_m=reduced.fore_sum_m,
        sums_agree=reduced.sums_agree,
        misclosure_m=missed,
        allowed_m=reduced.allowed_m(book.length_km) if missed is not None and book.length_km else None,
        suspects=[
            SuspectReport(number=number, sight=sight, meant_m=meant)
            for number, sight, meant in (suspects(book.readings, missed) if missed else ())
        ],
        slip_m=graduation_slip(missed) if missed is not None else None,
    )
