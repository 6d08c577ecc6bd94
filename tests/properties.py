"""How many examples a property is tried on: few and always the same by default, many and fresh ones at length."""

import os
from typing import Any

import hypothesis

LONG = "LEADSMAN_LONG_TESTS"
AT_LENGTH = bool(os.environ.get(LONG))
USUAL, SHARE, LEAST = 100, 6, 8


def examples(most: int = USUAL, **others: Any) -> hypothesis.settings:
    """Return the settings of a property that is worth so many examples at length; otherwise it gets a sixth of them."""
    count = most if AT_LENGTH else max(LEAST, most // SHARE)
    return hypothesis.settings(max_examples=count, **others)


def register() -> None:
    """Make this the profile of all properties."""
    usual = examples(deadline=None, suppress_health_check=[hypothesis.HealthCheck.too_slow])
    hypothesis.settings.register_profile("leadsman", usual, derandomize=not AT_LENGTH, database=None)
    hypothesis.settings.load_profile("leadsman")


def seeds(first: int, count: int) -> range:
    """Return the seeds of made-up cases: all of them at length, otherwise a third."""
    return range(first, first + (count if AT_LENGTH else max(1, count // 3)))
