"""Parts of the plan copied beside themselves."""

from leadsman.core.design.edit.model import CopyParts
from leadsman.core.design.edit.parts import (
    Document,
    Outcome,
    Part,
    add,
    cm,
    free_id,
    name_of,
    parts,
    refuse,
    stands_at,
)

MEASURED = ("height_error_m", "height_from")  # of a place: a copy lies where nobody has measured


def copy_parts(document: Document, edit: CopyParts) -> Outcome:
    """Copy parts with their places and all that stands there; lines between copied places come along."""
    at, lines = stands_at(document), {line["id"]: line for line in parts(document, "lines")}
    picked = [end for name in edit.parts for end in _ends(lines.get(name), name)]
    wanted = {at.get(end, end) for end in picked}
    known = {place["id"] for place in parts(document, "places")}
    if not wanted <= known:
        refuse("parts", repr(sorted(wanted - known)[0]), "ids of places, vessels, outlets and lines")
    fresh: dict[str, str] = {}
    for place in list(parts(document, "places")):
        if place["id"] in wanted:
            new = {key: value for key, value in place.items() if key not in MEASURED}
            new |= {"east_m": cm(place["east_m"] + edit.by[0]), "north_m": cm(place["north_m"] + edit.by[1])}
            fresh[place["id"]] = _give(document, "places", "place", new)
    for vessel in list(parts(document, "vessels")):
        if vessel["place"] in wanted:
            new = {**vessel, "place": fresh[vessel["place"]]}
            fresh[vessel["id"]] = _give(document, "vessels", "vessel", new)
    for source in list(parts(document, "pressure_sources")):
        if source["place"] in wanted:
            new = {**source, "place": fresh[source["place"]]}
            fresh[source["id"]] = _give(document, "pressure_sources", "source", new)
    for outlet in list(parts(document, "outlets")):
        if outlet["place"] in wanted:
            fresh[outlet["id"]] = _copy_outlet(document, outlet, fresh)
    for line in lines.values():
        if line["from"] in fresh and line["to"] in fresh:
            new = {**line, "from": fresh[line["from"]], "to": fresh[line["to"]]}
            if line.get("way"):
                new["way"] = [[cm(east + edit.by[0]), cm(north + edit.by[1])] for east, north in line["way"]]
            fresh[line["id"]] = _give(document, "lines", "line", new)
    return Outcome(made=[fresh[name] for name in edit.parts if name in fresh])


def _ends(line: Part | None, part_id: str) -> tuple[str, ...]:
    return (line["from"], line["to"]) if line else (part_id,)


def _copy_outlet(document: Document, outlet: Part, fresh: dict[str, str]) -> str:
    new = {**outlet, "place": fresh[outlet["place"]]}
    filled = new.pop("fills", None)
    if filled in fresh:
        new["fills"] = fresh[filled]
    made = _give(document, "outlets", "outlet", new)
    wanted = [asked for asked in parts(document, "requirements") if asked.get("outlet") == outlet["id"]]
    for requirement in wanted[:1]:
        document["requirements"] = [*parts(document, "requirements"), {**requirement, "outlet": made}]
    return made


def _give(document: Document, kind: str, prefix: str, new: Part) -> str:
    """Add a copy of a part under an id and a name of its own."""
    name = f"{name_of(new)[:113]} (copy)"
    return add(document, kind, {**new, "id": free_id(document, kind, prefix), "name": name})
