"""Threads and other ends by which parts are joined: what fits what, and what seals it."""

import re
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from types import MappingProxyType

from leadsman.core.base.units import m_from_mm
from leadsman.core.catalogue.table import rows

# threads, inner and outer; then ends that take pipe, hose or nothing
THREADS = ("npt", "bspt", "bspp", "nh", "s60")
TAKING = ("barb", "comp", "push", "solvent", "open")
END_FAMILIES = (*(f"{thread}-{side}" for thread in THREADS for side in "mf"), *TAKING)
END = re.compile(r"^(?P<family>[a-z0-9-]+) (?P<size>[0-9./ ]+?) @(?P<bore>[0-9.]+)$")


@dataclass(frozen=True, kw_only=True)
class Thread:
    """A thread: outer diameter [m], turns to the inch, whether it tapers, what seals it."""

    thread_id: str
    family: str
    size: str
    outer_m: float
    per_inch: float
    angle_deg: float
    taper: str
    seals_with: str
    source_id: str
    locator: str
    note: str


@dataclass(frozen=True, kw_only=True)
class End:
    """One end of a part: family ("npt-m", "barb"), size as it is called, bore through it [m]."""

    family: str
    size: str
    bore_m: float

    @property
    def thread(self) -> str | None:
        """The family of its thread; None where it has none."""
        return self.family[:-2] if self.family[:-2] in THREADS else None


@cache
def threads() -> Mapping[str, Thread]:
    """Return every thread by its id."""
    found = {}
    for row in rows("thread"):
        figures = {key: float(row[key]) for key in ("per_inch", "angle_deg")}
        told = {key: value for key, value in row.items() if key not in (*figures, "outer_mm")}
        found[row["thread_id"]] = Thread(**told, **figures, outer_m=m_from_mm(float(row["outer_mm"])))  # type: ignore[arg-type]
    return MappingProxyType(found)


def end_of(told: str) -> End | None:
    """Return an end from its text, as "npt-m 3/4 @20"; None where it is none: of no known family, thread or bore."""
    match = END.match(told)
    if match is None or match["family"] not in END_FAMILIES:
        return None
    try:
        end = End(family=match["family"], size=match["size"], bore_m=m_from_mm(float(match["bore"])))
    except ValueError:
        return None
    sizes = {thread.size for thread in threads().values() if thread.family == end.thread}
    return end if end.bore_m > 0.0 and (end.thread is None or end.size in sizes) else None


def joint(end: End, other: End) -> str | None:
    """Return what seals two threaded ends that are screwed together; None where they do not fit.

    Threads that start together and do not seal, as tapered pipe thread of the two families, fit nowhere.
    """
    threads_ = end.thread, other.thread
    if None in threads_ or end.size != other.size or end.family[-1] == other.family[-1]:
        return None
    inner, outer = (end, other) if end.family[-1] == "f" else (other, end)
    if inner.thread == outer.thread or (inner.thread, outer.thread) == ("bspp", "bspt"):
        of_size = [
            thread for thread in threads().values() if (thread.family, thread.size) == (outer.thread, outer.size)
        ]
        return of_size[0].seals_with if of_size else None
    return None
