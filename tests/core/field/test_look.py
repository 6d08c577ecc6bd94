"""Looks taken together: what three running ones say and two do not; corrections; the one that waits longest first."""

import uuid
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest

from leadsman.core.base.wording import plain
from leadsman.core.field.entry import LogEntry
from leadsman.core.field.look import looked

FULL: dict[str, Any] = {"level": "full", "running": False, "clean": True}


def look(days_ago: float, part: str = "pan", **figures: Any) -> LogEntry:
    when = datetime(2026, 5, 20, 6, 40, tzinfo=UTC) - timedelta(days=days_ago)
    return LogEntry(id=uuid.uuid4(), kind="look", happened_at=when, part=part, figures={**FULL, **figures})


@pytest.mark.parametrize(("looks", "says"), [
    ([{"running": True}] * 3, "Running at the last 3 looks: the valve passes, or the trough leaks."),
    ([{"running": True}] * 5, "Running at the last 5 looks"),
    ([{"running": True}] * 2, ""),
    ([{"running": True}, {"running": False}, {"running": True}, {"running": True}], ""),  # newest first
    ([{"level": "low"}, {"level": "low"}], "Low at the last 2 looks"),
    ([{"level": "low"}, {"level": "full"}], ""),
    ([{"level": "dry", "running": True}] * 3, "Dry at the last look"),  # the worst is said
    ([{"level": "full"}, {"level": "dry"}], ""),
    ([{"clean": False}], "To be scrubbed."),
    ([{}], ""),
])  # fmt: skip
def test_what_looks_in_a_row_say(looks: list[dict[str, Any]], says: str) -> None:
    entries = [look(float(number), **figures) for number, figures in enumerate(looks)]
    for order in (entries, entries[::-1]):
        (found,) = looked(order)
        told = plain(found.told)
        assert told.startswith(says)
        assert bool(told) == bool(says)


def test_a_corrected_look_counts_as_its_correction_says() -> None:
    running = [look(float(day), running=True) for day in range(3)]
    right = look(0.9, running=False).model_copy(update={"corrects": running[1].id})
    (found,) = looked([*running, right])
    assert found.told == ()


def test_the_one_that_waits_longest_comes_first_and_other_entries_are_no_looks() -> None:
    note = look(0.0, part="pan").model_copy(update={"kind": "note"})
    found = looked([look(0.1, part="pan"), look(3.0, part="far"), look(9.0, part="pan"), note])
    assert [one.part for one in found] == ["far", "pan"]
