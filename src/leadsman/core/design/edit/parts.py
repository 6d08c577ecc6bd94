"""What every edit works with: parts of the parsed document by their ids, new ids, and refusals."""

from collections.abc import Iterator
from copy import deepcopy
from dataclasses import dataclass, field
from typing import Any, NoReturn

from leadsman.core.base.fault import DesignFaults, Fault
from leadsman.core.design.vessel import FILLED_BY_FLOATS

STANDING = ("vessels", "outlets", "pressure_sources")  # what stands at places
Document = dict[str, Any]
Part = dict[str, Any]


@dataclass(frozen=True, kw_only=True)
class Outcome:
    """The ids of parts that an edit made, and what else it did, for people."""

    made: list[str] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)


def refuse(path: str, found: str, allowed: str) -> NoReturn:
    """Refuse an edit.

    Raises:
        DesignFaults: always; `path` is of the edit's own field.
    """
    raise DesignFaults([Fault(path=f"/edit/{path}", code="edit", found=found, allowed=allowed)])


def parts(document: Document, kind: str) -> list[Part]:
    """Return a list of parts; none where the document has no such list."""
    found: list[Part] = document.get(kind) or []
    return found


def part(document: Document, kind: str, part_id: str, path: str) -> Part:
    """Return a part by its id.

    Raises:
        DesignFaults: there is none.
    """
    for found in parts(document, kind):
        if found["id"] == part_id:
            return found
    refuse(path, repr(part_id), f"the id of one of the {kind}")


def add(document: Document, kind: str, new: Part) -> str:
    """Add a copy of a part to its list, so that nothing is shared with what it was made from; return its id."""
    document[kind] = [*parts(document, kind), deepcopy(new)]
    return str(new["id"])


def free_id(document: Document, kind: str, prefix: str) -> str:
    """Return an id that no part of the document has: the prefix and a number."""
    taken = {found["id"] for _, found in all_parts(document)}
    number = len(parts(document, kind)) + 1
    while f"{prefix}-{number}" in taken:
        number += 1
    return f"{prefix}-{number}"


def numbered(document: Document, kind: str, prefix: str) -> Part:
    """Return a new part's id, as `free_id` gives it, and its name with the same number."""
    part_id = free_id(document, kind, prefix)
    return {"id": part_id, "name": part_id.replace("-", " ").capitalize()}


def all_parts(document: Document) -> Iterator[tuple[str, Part]]:
    """Yield every part that has an id, with the list that it stands in."""
    for kind, listed in document.items():
        if isinstance(listed, list):
            for found in listed:
                if isinstance(found, dict) and "id" in found:
                    yield kind, found


def name_of(found: Part) -> str:
    """Return what a part is called."""
    return str(found.get("name") or found["id"])


def gives_water(vessel: Part) -> bool:
    """Whether lines and sources may begin at a vessel, as `Vessel.gives_water`."""
    return vessel.get("role", "tank") not in FILLED_BY_FLOATS


def stands_at(document: Document) -> dict[str, str]:
    """Return the place of every vessel, outlet and source under pressure."""
    return {found["id"]: found["place"] for kind in STANDING for found in parts(document, kind)}


def cm(metres: float) -> float:
    """Return a length as the document keeps it: to the centimetre."""
    return round(float(metres), 2)


def exact(metres: float) -> float:
    """Return a length without the noise of arithmetic, to the micrometre."""
    return round(float(metres), 6)


def drop_empty(document: Document, kind: str, before: list[Part]) -> None:
    """Leave a list of parts out that was there and is empty now."""
    if before and not document.get(kind):
        document.pop(kind, None)
