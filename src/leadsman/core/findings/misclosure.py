"""Level books that do not close well enough."""

from collections.abc import Iterator

from leadsman.core.analysis import Analysis
from leadsman.core.findings.registry import Finding, Question, Severity, judgement
from leadsman.core.report.ground import ground_report
from leadsman.core.wording import Quantity, say


@judgement("misclosure", "A level book does not close", Question.DOES_IT_RUN)
def misclosure(analysis: Analysis) -> Iterator[Finding]:
    """Yield each level book that misses the point it began at by more than ordinary levelling lets pass."""
    names = {book.id: book.name or book.id for book in analysis.design.books}
    first = {book.id: book.readings[0].place for book in analysis.design.books if book.readings}
    for book in ground_report(analysis.design):
        missed, allowed = book.misclosure_m, book.allowed_m
        if missed is None or allowed is None or abs(missed) <= allowed:
            continue
        yield Finding(
            Severity.WATCH, first[book.id] or "", abs(missed), allowed, "m",
            say("{} misses by {}", names[book.id], Quantity(abs(missed), "m", digits=3)),
            say("For its way {} would pass (12 mm times the root of the kilometres, ordinary levelling). Look for a "
                "misread graduation or swapped digits before you trust its heights.",
                Quantity(allowed, "m", digits=3)),
        )  # fmt: skip
