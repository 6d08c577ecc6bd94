"""Parts deleted, with what means nothing without them; what cannot be without them keeps them."""

from collections.abc import Callable

from leadsman.core.design.edit.model import DeleteParts
from leadsman.core.design.edit.parts import (
    STANDING,
    Document,
    Outcome,
    Part,
    all_parts,
    drop_empty,
    name_of,
    parts,
    refuse,
    stands_at,
)
from leadsman.core.design.edit.splitting import join_lines, joinable

# what goes with a part that one of its keys names
GO_ALONG = (
    ("requirements", "outlet"), ("requirements", "place"), ("requirements", "vessel"), ("requirements", "case"),
    ("distances", "line"),
    ("dosings", "vessel"), ("standbys", "fills"), ("standbys", "place"),
    ("ponds", "vessel"), ("draws", "vessel"), ("inflows", "fills"), ("calendar", "herd"), ("sights", "outlet"),
    ("events", "where"), ("events", "to"),
)  # fmt: skip
# lists of ids from which a deleted part is left out; where `needed` nothing is left, the holder goes too
LISTED = (
    ("calendar", "paddocks", True), ("timers", "crops", True), ("scenarios", "open", False),
    ("scenarios", "shut", False), ("scenarios", "lost", False),
)  # fmt: skip
DRINK_THERE = ("herds", "paddocks", "crops")


def delete_parts(document: Document, edit: DeleteParts) -> Outcome:
    """Delete parts; lines to a vessel or outlet that goes end at its place."""
    known = {found["id"] for _, found in all_parts(document)}
    for name in edit.parts:
        if name not in known:
            refuse("parts", repr(name), "ids of parts of the plan")
    named, tees = _pipes_of(document, edit.parts) if edit.with_pipes else ([], [])
    wanted = [*edit.parts, *named]
    held = what_holds(document, wanted)
    if held:
        refuse("parts", "; ".join(held), "parts that nothing else needs")
    gone = _with_what_goes_along(document, wanted)
    notes: list[str] = []
    stood_at = {part_id: place for part_id, place in stands_at(document).items() if part_id in gone}
    for name in edit.parts:
        notes += join_lines(document, name) if name in gone else []
    _end_lines_at_places(document, gone, stood_at)
    for kind, before in [(kind, listed) for kind, listed in document.items() if isinstance(listed, list)]:
        if kind != "places":
            document[kind] = [found for found in before if not (isinstance(found, dict) and found.get("id") in gone)]
            drop_empty(document, kind, before)
    _leave_out(document, gone)
    for key in ("shown_for", "bench"):
        if document.get(key) in gone:
            document.pop(key)
    _delete_bare_places(document, {*edit.parts, *stood_at.values()})
    for tee in tees:
        notes += join_lines(document, tee)
    _delete_bare_places(document, set(tees))
    return Outcome(notes=notes)


def _pipes_of(document: Document, part_ids: list[str]) -> tuple[list[str], list[str]]:
    """Return the pipes that end at parts and lead nowhere else, and the places at which they began, as tees."""
    gone = _with_what_goes_along(document, part_ids)
    lines = parts(document, "lines")
    ends = [line for line in lines if line["to"] in gone and not any(other["from"] == line["to"] for other in lines)]
    places = {place["id"] for place in parts(document, "places")}
    return [line["id"] for line in ends], [line["from"] for line in ends if line["from"] in places]


def what_holds(document: Document, part_ids: list[str]) -> list[str]:
    """Return in words why parts cannot be deleted; nothing where they can."""
    gone, why = _with_what_goes_along(document, part_ids), []
    dry = [found for kind in DRINK_THERE for found in _left(document, kind, gone) if found.get("outlet") in gone]
    if dry:
        why.append(f"{_names(dry)} would have no water: give other water first")
    if any(set(stop.get("outlets") or []) & gone for stop in _left(document, "calendar", gone)):
        why.append("the grazing calendar leads a herd there: change it first")
    standing = [found for kind in STANDING for found in _left(document, kind, gone)]
    for place in parts(document, "places"):
        if place["id"] not in gone:
            continue
        ends = [line for line in _left(document, "lines", gone) if place["id"] in (line["from"], line["to"])]
        if ends and not (len(part_ids) == 1 and joinable(document, place["id"])):
            why.append(f"{name_of(place)} joins {_names(ends)}: delete those lines first")
        on_it = [found for found in standing if found["place"] == place["id"]]
        if on_it:
            why.append(f"{_names(on_it)} stands at {name_of(place)}: delete or move that first")
        if _is_measured(document, place["id"], gone):
            why.append(f"{name_of(place)} stands in what was measured")
    if all(place["id"] in gone for place in parts(document, "places")):
        why.append("a plan has at least one place")
    return why


def _with_what_goes_along(document: Document, part_ids: list[str]) -> set[str]:
    """Return the parts with those that mean nothing without them, step by step until nothing more goes."""
    gone = set(part_ids)
    for outlet in parts(document, "outlets"):
        filled = outlet.get("fills")
        trough = any(v["id"] == filled and v.get("role", "tank") == "trough" for v in parts(document, "vessels"))
        if filled is not None and (filled in gone or (trough and outlet["id"] in gone)):
            gone |= {outlet["id"], filled} if trough else {outlet["id"]}
    while True:
        more = {
            found["id"]
            for kind, key in GO_ALONG
            for found in parts(document, kind)
            if found.get(key) in gone and "id" in found
        }
        for kind, key, needed in LISTED:
            if needed:
                more |= {found["id"] for found in parts(document, kind) if found.get(key) and set(found[key]) <= gone}
        if more <= gone:
            return gone
        gone |= more


def _end_lines_at_places(document: Document, gone: set[str], stood_at: dict[str, str]) -> None:
    before = parts(document, "lines")
    for line in before:
        for key in ("from", "to"):
            line[key] = stood_at.get(line[key], line[key])
    gone |= {line["id"] for line in before if line["from"] == line["to"]}  # nothing of them is left
    document["lines"] = [line for line in before if line["id"] not in gone]
    gone |= _with_what_goes_along(document, sorted(gone)) if gone else set()
    drop_empty(document, "lines", before)


def _leave_out(document: Document, gone: set[str]) -> None:
    """Leave what is gone out of lists of ids, and parts without an id that were about it."""
    for kind, key in GO_ALONG:
        _keep(document, kind, lambda found, key=key: found.get(key) not in gone)  # type: ignore[misc]
    for kind, key, _ in LISTED:
        for found in parts(document, kind):
            if found.get(key):
                found[key] = [name for name in found[key] if name not in gone]
    for kind, key in (("inflows", "draws_from"), ("vessels", "overflow_into"), ("standbys", "filled_at")):
        for found in parts(document, kind):
            if found.get(key) in gone:
                found.pop(key)
    frost = document.get("frost")
    if frost and frost.get("bleeds"):
        frost["bleeds"] = [bleed for bleed in frost["bleeds"] if bleed["outlet"] not in gone]
    sizing = document.get("sizing")
    if sizing and sizing.get("stands"):
        sizing["stands"] = [stand for stand in sizing["stands"] if stand["vessel"] not in gone]
    if sizing and sizing.get("keep"):
        sizing["keep"] = [name for name in sizing["keep"] if name not in gone]
    for pond in parts(document, "ponds"):
        if (pond.get("circulation") or {}).get("chamber") in gone:
            pond.pop("circulation")
    for scenario in parts(document, "scenarios"):
        if scenario.get("levels_m"):
            scenario["levels_m"] = {name: level for name, level in scenario["levels_m"].items() if name not in gone}


def _keep(document: Document, kind: str, is_kept: Callable[[Part], bool]) -> None:
    before = parts(document, kind)
    if before:
        document[kind] = [found for found in before if is_kept(found)]
        drop_empty(document, kind, before)


def _delete_bare_places(document: Document, candidates: set[str]) -> None:
    """Delete places on which nothing is left: no part, no line, no reading, no wish."""
    used = set(stands_at(document).values())
    used |= {line[key] for line in parts(document, "lines") for key in ("from", "to")}
    used |= {one[key] for one in parts(document, "standbys") for key in ("place", "filled_at") if one.get(key)}
    used |= {requirement["place"] for requirement in parts(document, "requirements") if requirement.get("place")}
    left = [
        place
        for place in parts(document, "places")
        if place["id"] not in candidates or place["id"] in used or _is_measured(document, place["id"], set())
    ]
    if left:
        document["places"] = left


def _is_measured(document: Document, place_id: str, gone: set[str]) -> bool:
    read = [*_left(document, "books", gone), *_left(document, "sights", gone)]
    return document.get("bench") == place_id or any(_names_it(found, place_id) for found in read)


def _names_it(value: object, place_id: str) -> bool:
    """Whether a reading, somewhere in it, names a place."""
    if isinstance(value, dict):
        return any(key != "id" and _names_it(inner, place_id) for key, inner in value.items())
    return any(_names_it(inner, place_id) for inner in value) if isinstance(value, list) else value == place_id


def _left(document: Document, kind: str, gone: set[str]) -> list[Part]:
    return [found for found in parts(document, kind) if found["id"] not in gone]


def _names(found: list[Part]) -> str:
    return ", ".join(name_of(part) for part in found)
