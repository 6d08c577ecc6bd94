"""Checks across the document: ids unique, and every name points at something.

They read the raw JSON and skip what has the wrong type, so that they run beside the field checks
and one report lists all that is wrong.
"""

from collections.abc import Iterator
from typing import Any

from leadsman.core.errors import Fault

KINDS = ("places", "vessels", "lines", "outlets", "herds", "inflows", "scenarios")
# (list, key, lists that it may name)
REFERENCES = (
    ("vessels", "place", ("places",)),
    ("outlets", "place", ("places",)),
    ("outlets", "fills", ("vessels",)),
    ("lines", "from", ("places", "vessels", "outlets")),
    ("lines", "to", ("places", "vessels", "outlets")),
    ("herds", "outlet", ("outlets",)),
    ("inflows", "fills", ("vessels",)),
    ("requirements", "outlet", ("outlets",)),
    ("requirements", "place", ("places",)),
    ("requirements", "vessel", ("vessels",)),
)


def reference_faults(document: dict[str, Any]) -> list[Fault]:
    """Return a fault for each duplicate id, each name without its thing, and each line that goes nowhere."""
    faults: list[Fault] = []
    ids: dict[str, set[str]] = {kind: set() for kind in KINDS}
    first: dict[str, str] = {}
    for kind in KINDS:
        for index, part in _parts(document, kind):
            name, path = part.get("id"), f"/{kind}/{index}/id"
            if not isinstance(name, str):
                continue
            if name in first:
                faults.append(Fault(path, "duplicate_id", f"{name!r} again", f"an id not yet used at {first[name]}"))
            first.setdefault(name, path)
            ids[kind].add(name)
    for kind, key, allowed in REFERENCES:
        known = set().union(*(ids[one] for one in allowed))
        for index, part in _parts(document, kind):
            name = part.get(key)
            if isinstance(name, str) and name not in known:
                what = ", ".join(_singular(one) for one in allowed)
                faults.append(Fault(f"/{kind}/{index}/{key}", "unknown_id", f"{name!r}", f"the id of a {what}"))
    for index, line in _parts(document, "lines"):
        if isinstance(line.get("from"), str) and line.get("from") == line.get("to"):
            faults.append(Fault(f"/lines/{index}/to", "same_ends", f"{line['to']!r}, where it starts", "another end"))
    shown = document.get("shown_for")
    if isinstance(shown, str) and shown not in ids["scenarios"]:
        faults.append(Fault("/shown_for", "unknown_id", f"{shown!r}", "the id of a scenario"))
    return faults


def _parts(document: dict[str, Any], kind: str) -> Iterator[tuple[int, dict[str, Any]]]:
    listed = document.get(kind)
    for index, part in enumerate(listed if isinstance(listed, list) else []):
        if isinstance(part, dict):
            yield index, part


def _singular(kind: str) -> str:
    return kind.removesuffix("s")
