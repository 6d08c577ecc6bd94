"""Which cause it is: weighed by each answer, and what to look at next, the cheapest first."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from leadsman.core.base.errors import UnknownName
from leadsman.core.trouble.cause import Cause
from leadsman.core.trouble.check import Check

FOUND = 0.7  # how likely the first cause is from which it is mended, not looked at further; ours
LEAST_GAIN = 0.01  # of the doubt [bits] that a look has to take away
QUICK_MIN = 1.0  # added to what each look takes: nobody runs about for a second


@dataclass(frozen=True, kw_only=True)
class Diagnosis:
    """Causes with how likely each is (they add up to 1), most likely first, and the check to make next."""

    causes: list[tuple[Cause, float]]
    next: Check | None

    @property
    def found(self) -> bool:
        """Whether the first cause is so likely that it is mended next, or there is nothing left to look at."""
        return bool(self.causes) and (self.causes[0][1] >= FOUND or self.next is None)


def diagnosis(found: Sequence[Cause], all_checks: Sequence[Check], answers: Mapping[str, str]) -> Diagnosis:
    """Return how likely each cause is after some answers, by check and answer ids, in any order.

    Raises:
        UnknownName: there is no such check, or it has no such answer.
    """
    by_id = {check.check_id: check for check in all_checks}
    likely = {cause.cause_id: cause.weight for cause in found}
    for check_id, answer_id in answers.items():
        if check_id not in by_id:
            raise UnknownName("check", check_id, list(by_id), "/answers")
        offered = {answer.answer_id: answer for answer in by_id[check_id].answers}
        if answer_id not in offered:
            raise UnknownName("answer", answer_id, list(offered), f"/answers/{check_id}")
        likely = {name: share * offered[answer_id].likely[name] for name, share in likely.items()}
    likely = _shared(likely)
    ranked = sorted(((cause, likely[cause.cause_id]) for cause in found), key=lambda pair: -pair[1])
    left = [check for check in all_checks if check.check_id not in answers]
    worth = [(gain, check) for check in left if (gain := _gain(check, likely)) > LEAST_GAIN]
    best = max(worth, key=lambda pair: pair[0] / (pair[1].minutes + QUICK_MIN), default=None)
    return Diagnosis(causes=ranked, next=None if best is None else best[1])


def _shared(likely: Mapping[str, float]) -> dict[str, float]:
    total = sum(likely.values())
    return {name: share / total for name, share in likely.items()} if total > 0.0 else dict(likely)


def _doubt(likely: Mapping[str, float]) -> float:
    """Return the entropy of shares [bits]."""
    return -sum(share * math.log2(share) for share in likely.values() if share > 0.0)


def _gain(check: Check, likely: Mapping[str, float]) -> float:
    """Return how much doubt [bits] a check takes away on the average; "can't tell" takes none."""
    left = 0.0
    for answer in check.answers[:-1]:
        weighed = {name: share * answer.likely[name] for name, share in likely.items()}
        chance = sum(weighed.values())
        if chance > 0.0:
            left += chance * _doubt(_shared(weighed))
    return _doubt(likely) - left
