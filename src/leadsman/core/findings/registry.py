"""The one list of judgements. A module of this package that defines one is all it takes to add one."""

import importlib
import pkgutil
from collections.abc import Callable, Collection, Iterable
from dataclasses import dataclass, replace
from enum import IntEnum, StrEnum
from functools import cache
from typing import Any

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.cached import cached_property
from leadsman.core.base.wording import Unit, Wording


class Severity(StrEnum):
    """How bad: stop (it will not work), fix (it works badly), watch (it may turn)."""

    STOP = "stop"
    FIX = "fix"
    WATCH = "watch"


SEVERITIES = list(Severity)


class Question(IntEnum):
    """What people ask, in the order they ask it: of equally bad findings the first question's comes first."""

    DOES_IT_RUN = 1
    HOW_FAST = 2
    HOW_LONG_DOES_IT_LAST = 3


LineSpot = tuple[str, float]


@dataclass(frozen=True, kw_only=True)
class Remedy:
    """A change that was solved and found to help: JSON Patch on the design, and what it brings.

    `enough` tells whether it ends the trouble by itself; None where that has no figure.
    """

    text: Wording
    patch: list[dict[str, Any]]
    effect: Wording
    price: float | None = None
    enough: bool | None = None


@dataclass(frozen=True, kw_only=True)
class Finding:
    """One judgement: the number against its limit, in the design document's units, and why.

    `spot` is where along a line it is, where it is of one place: the line's id, and metres from its `from` end.
    `inflow` is the source that it is about, where it is about one.
    """

    severity: Severity
    where: str
    value: float | None
    limit: float | None
    unit: Unit
    headline: Wording
    why: Wording
    try_remedies: Callable[[], list[Remedy]] = list
    code: str = ""
    spot: LineSpot | None = None
    inflow: str | None = None

    @cached_property
    def remedies(self) -> list[Remedy]:
        """The changes that help, worked out when they are first asked for: each means solving the design anew."""
        return self.try_remedies()


Judgement = Callable[[Analysis], Iterable[Finding]]


@dataclass(frozen=True, kw_only=True)
class Check:
    """A registered judgement with its code and title."""

    code: str
    title: str
    question: Question
    judge: Judgement
    at_rest: bool


_checks: dict[str, Check] = {}


def judgement(code: str, title: str, question: Question, *, at_rest: bool = False) -> Callable[[Judgement], Judgement]:
    """Register a function that yields the findings of one code; `at_rest` where it takes too long for every edit.

    Raises:
        ValueError: the code is taken.
    """

    def register(judge: Judgement) -> Judgement:
        if code in _checks:
            raise ValueError(f"two judgements are called {code!r}")
        _checks[code] = Check(code=code, title=title, question=question, judge=judge, at_rest=at_rest)
        return judge

    return register


@cache
def checks() -> tuple[Check, ...]:
    """Return every judgement, by code; importing the package's modules registers them."""
    package = importlib.import_module("leadsman.core.findings")
    for module in pkgutil.iter_modules(package.__path__):
        importlib.import_module(f"{package.__name__}.{module.name}")
    return tuple(sorted(_checks.values(), key=lambda check: check.code))


def judge(analysis: Analysis, *, at_rest: bool = True, codes: Collection[str] | None = None) -> list[Finding]:
    """Return all findings of an analysis, worst first; without those that take long where it is not at rest.

    Args:
        codes: which judgements to make; all where None.
    Raises: as the parts of the analysis do.
    """
    found = []
    for check in checks():
        if (at_rest or not check.at_rest) and (codes is None or check.code in codes):
            analysis.check_cancelled()
            found += [
                (SEVERITIES.index(finding.severity), check.question, replace(finding, code=check.code))
                for finding in check.judge(analysis)
            ]
    return [finding for *_, finding in sorted(found, key=lambda entry: (*entry[:2], entry[2].code, entry[2].where))]
