"""Places and corners moved on the plan; the pipe of their lines goes with them."""

from collections.abc import Mapping

from leadsman.core.design.edit.geometry import Spot, way_length_m, way_of
from leadsman.core.design.edit.ground import stretch
from leadsman.core.design.edit.model import MoveParts, MovePlaces, SetCorners
from leadsman.core.design.edit.parts import Document, Outcome, Part, cm, part, parts, refuse, stands_at

SHORTEST_WAY_M = 0.5  # below it a way says nothing of its pipe


def move_places(document: Document, edit: MovePlaces) -> Outcome:
    """Move places; the pipe of the lines that end there keeps what it has over the way."""
    _move(document, edit.places)
    return Outcome()


def _move(document: Document, moves: Mapping[str, Spot]) -> None:
    for place_id in moves:
        part(document, "places", place_id, "places")
    places = stands_at(document)
    touched = [
        line
        for line in parts(document, "lines")
        if any(places.get(line[key], line[key]) in moves for key in ("from", "to"))
    ]
    before = [way_length_m(way_of(document, line)) for line in touched]
    for place in parts(document, "places"):
        if place["id"] in moves:
            place["east_m"], place["north_m"] = (cm(metres) for metres in moves[place["id"]])
    for line, old in zip(touched, before, strict=True):
        _follow(document, line, old)


def move_parts(document: Document, edit: MoveParts) -> Outcome:
    """Move the places that parts stand at; what is moved whole keeps its corners and its length."""
    moves = _shifted(document, edit)
    places = stands_at(document)
    whole = [
        line
        for line in parts(document, "lines")
        if all(places.get(line[key], line[key]) in moves for key in ("from", "to"))
    ]
    lengths = [line.get("length_m") for line in whole]
    _move(document, moves)
    for line, length_m in zip(whole, lengths, strict=True):
        if line.get("way"):
            line["way"] = [[cm(east + edit.by[0]), cm(north + edit.by[1])] for east, north in line["way"]]
        if length_m is not None:
            stretch(line, length_m)
    return Outcome()


def set_corners(document: Document, edit: SetCorners) -> Outcome:
    """Give a line other corners; its pipe keeps what it has over the way."""
    line = part(document, "lines", edit.line, "line")
    before = way_length_m(way_of(document, line))
    set_way(line, list(edit.corners))
    _follow(document, line, before)
    return Outcome()


def set_way(line: Part, corners: list[Spot]) -> None:
    """Give a line corners between its ends; none where it runs straight."""
    if corners:
        line["way"] = [[cm(east), cm(north)] for east, north in corners]
    else:
        line.pop("way", None)


def _follow(document: Document, line: Part, old_m: float) -> None:
    """Let a line's pipe grow or shrink with its way, which was so long [m] before."""
    now_m = way_length_m(way_of(document, line))
    if line.get("length_m") is not None and old_m >= SHORTEST_WAY_M and now_m >= SHORTEST_WAY_M:
        stretch(line, max(0.01, cm(line["length_m"] * now_m / old_m)))


def _shifted(document: Document, edit: MoveParts) -> dict[str, Spot]:
    """Return where the places of the parts come to lie; parts at one place move it once."""
    lines = {line["id"]: line for line in parts(document, "lines")}
    at = {place["id"]: (place["east_m"], place["north_m"]) for place in parts(document, "places")}
    places, moves = stands_at(document), {}
    for part_id in edit.parts:
        line = lines.get(part_id)
        for end in (line["from"], line["to"]) if line else (part_id,):
            place_id = places.get(end, end)
            if place_id not in at:
                refuse("parts", repr(part_id), "ids of places, vessels, outlets and lines")
            east, north = at[place_id]
            moves[place_id] = (east + edit.by[0], north + edit.by[1])
    return moves
