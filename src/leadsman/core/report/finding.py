"""JSON of `leadsman check`: findings, their remedies, and which checks were made."""

from typing import Any, Literal

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.errors import UnknownName
from leadsman.core.base.wording import Unit, Wording, plain
from leadsman.core.findings.registry import Finding, Remedy, checks, judge
from leadsman.core.findings.verdict import verdict
from leadsman.core.report.base import Report, Words, words
from leadsman.core.report.verdict import VerdictReport, verdict_report


class RemedyReport(Report):
    text: str
    text_words: Words
    patch: list[dict[str, Any]]
    effect: str
    effect_words: Words
    price: float | None
    enough: bool | None


class SpotReport(Report):
    """A place along a line, from its `from` end."""

    line: str
    at_m: float


class FindingReport(Report):
    code: str
    severity: Literal["stop", "fix", "watch"]
    where: str
    value: float | None
    limit: float | None
    unit: Unit
    reason: str
    headline_words: Words
    why_words: Words
    spot: SpotReport | None
    inflow: str | None
    remedies: list[RemedyReport] | None


class CheckReport(Report):
    """JSON of `leadsman check`: the findings, which checks were made, and the sentence with its four numbers."""

    findings: list[FindingReport]
    checked: list[str]
    verdict: VerdictReport


class RemediesReport(Report):
    """What was tried against one finding and helps."""

    remedies: list[RemedyReport]


def remedies_report(analysis: Analysis, code: str, where: str) -> RemediesReport:
    """Return what helps against one finding, none where there is no such finding.

    Raises:
        UnknownName: there is no judgement of that code.
    """
    codes = [check.code for check in checks()]
    if code not in codes:
        raise UnknownName("judgement", code, codes, "/code")
    found = [finding for finding in judge(analysis, codes={code}) if finding.where == where]
    return RemediesReport(remedies=[_remedy(remedy) for finding in found for remedy in finding.remedies])


def check_report(analysis: Analysis) -> CheckReport:
    """Return the findings of an analysis, and which checks were made."""
    findings = judge(analysis)
    return CheckReport(
        findings=finding_reports(findings, with_remedies=True),
        checked=[check.code for check in checks()],
        verdict=verdict_report(verdict(analysis, findings)),
    )


def finding_reports(findings: list[Finding], *, with_remedies: bool, worded: int | None = None) -> list[FindingReport]:
    """Return findings as reports; without remedies theirs are null: not tried yet.

    Args:
        worded: so many of the first are put into words, the others only named; all where None.
    """
    silent: Wording = ()
    told = [(finding, finding.headline, finding.why) for finding in findings[:worded]]
    told += [(finding, silent, silent) for finding in findings[len(told) :]]
    return [
        FindingReport(
            code=finding.code,
            severity=finding.severity.value,
            where=finding.where,
            value=finding.value,
            limit=finding.limit,
            unit=finding.unit,
            reason=plain((*headline, ". ", *why)) if headline else "",
            headline_words=words(headline),
            why_words=words(why),
            spot=SpotReport(line=finding.spot[0], at_m=finding.spot[1]) if finding.spot else None,
            inflow=finding.inflow,
            remedies=[_remedy(remedy) for remedy in finding.remedies] if with_remedies else None,
        )
        for finding, headline, why in told
    ]


def _remedy(remedy: Remedy) -> RemedyReport:
    return RemedyReport(
        text=plain(remedy.text),
        text_words=words(remedy.text),
        patch=remedy.patch,
        effect=plain(remedy.effect),
        effect_words=words(remedy.effect),
        price=remedy.price,
        enough=remedy.enough,
    )
