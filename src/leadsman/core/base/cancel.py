"""Ending long work early: a check that is called between its parts, and whose exception ends it."""

from collections.abc import Callable

CancelCheck = Callable[[], None]


def never_cancelled() -> None:
    """Let the work go on."""
