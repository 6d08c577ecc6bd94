"""What the looks at a trough say when they are taken together: a valve that passes, a trough that does not keep up."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from leadsman.core.base.wording import Wording, say
from leadsman.core.field.entry import LogEntry, standing

RUNNING_LOOKS = 3  # in a row at which a valve that runs is no chance any more: common practice, no source
LOW_LOOKS = 2  # in a row at which a trough does not keep up; ours


@dataclass(frozen=True, kw_only=True)
class Looked:
    """A part that was looked at: when last, and what its looks in a row say; nothing where all is well."""

    part: str
    last_at: datetime
    told: Wording


def looked(entries: Sequence[LogEntry]) -> list[Looked]:
    """Return what the looks at each part say, by the part that waits longest for one.

    A look that was corrected counts as its correction says.
    """
    looks: dict[str, list[LogEntry]] = {}
    for entry in sorted(standing(entries), key=lambda one: one.happened_at, reverse=True):
        if entry.kind == "look" and entry.part is not None:
            looks.setdefault(entry.part, []).append(entry)
    found = [Looked(part=part, last_at=own[0].happened_at, told=_told(own)) for part, own in looks.items()]
    return sorted(found, key=lambda one: one.last_at)


def _told(newest_first: list[LogEntry]) -> Wording:
    running = _in_a_row(newest_first, "running", (True,))
    low = _in_a_row(newest_first, "level", ("low", "dry"))
    if newest_first[0].figures.get("level") == "dry":
        return say("Dry at the last look: animals die within days without water. Find out now.")
    if running >= RUNNING_LOOKS:
        return say("Running at the last {} looks: the valve passes, or the trough leaks.", str(running))
    if low >= LOW_LOOKS:
        return say("Low at the last {} looks: it does not keep up. Time a pail there.", str(low))
    if newest_first[0].figures.get("clean") is False:
        return say("To be scrubbed.")
    return ()


def _in_a_row(newest_first: list[LogEntry], key: str, values: tuple[object, ...]) -> int:
    """Return how many of the newest looks, one after the other, have one of these values."""
    count = 0
    for entry in newest_first:
        if entry.figures.get(key) not in values:
            break
        count += 1
    return count
