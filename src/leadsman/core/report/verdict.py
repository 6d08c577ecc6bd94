"""The sentence on top and its four numbers, as JSON."""

from typing import Literal

from leadsman.core.findings.verdict import Standing, Verdict, VerdictNumber
from leadsman.core.report.base import QuantityReport, Report, Words, quantity_report, words


class NumberReport(Report):
    key: Literal["flow", "refill", "days", "spare"]
    title: Words
    value: QuantityReport | None
    instead: str
    wanted: Words
    standing: Standing
    where: str | None


class VerdictReport(Report):
    standing: Standing
    sentence: Words
    numbers: list[NumberReport]


def verdict_report(given: Verdict) -> VerdictReport:
    """Return the verdict as reports hold it."""
    return VerdictReport(
        standing=given.standing,
        sentence=words(given.sentence),
        numbers=[number_report(number) for number in given.numbers],
    )


def number_report(number: VerdictNumber) -> NumberReport:
    """Return one number of the strip as reports hold it."""
    return NumberReport(
        key=number.key,
        title=words(number.title),
        value=quantity_report(number.value) if number.value else None,
        instead=number.instead,
        wanted=words(number.wanted),
        standing=number.standing,
        where=number.where,
    )
