"""Level books that do not close well enough."""

from collections.abc import Iterator

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.wording import Quantity, say
from leadsman.core.findings.registry import Finding, Question, Severity, judgement
from leadsman.core.survey.level_book import reduced_books


@judgement("misclosure", "A level book does not close", Question.DOES_IT_RUN)
def misclosure(analysis: Analysis) -> Iterator[Finding]:
    """Yield each level book that misses the point it began at by more than ordinary levelling lets pass."""
    for book, reduced in reduced_books(analysis.design):
        missed = reduced.misclosure_m
        if missed is None or book.length_km is None or abs(missed) <= reduced.allowed_m(book.length_km):
            continue
        allowed = reduced.allowed_m(book.length_km)
        yield Finding(
            severity=Severity.WATCH,
            where=book.readings[0].place or "",
            value=abs(missed),
            limit=allowed,
            unit="m",
            headline=say(
                "{} misses closure by {}", book.name or book.id, Quantity(value=abs(missed), unit="m", digits=3)
            ),
            why=say(
                "For its length {} would be acceptable (12 mm times the root of the kilometres, ordinary levelling). "
                "Check for a misread graduation or swapped digits before you trust its heights.",
                Quantity(value=allowed, unit="m", digits=3),
            ),
        )
