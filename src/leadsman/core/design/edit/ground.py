"""Heights and lengths that stand in several parts of the document at once."""

from leadsman.core.design.edit.model import SetGround, SetLength, SetPointGround
from leadsman.core.design.edit.parts import Document, Outcome, Part, exact, part, parts, refuse, stands_at


def set_ground(document: Document, edit: SetGround) -> Outcome:
    """Set a place's ground height, and the ends of the lines that stand there."""
    _set_place(document, edit.place, edit.ground_m, "place")
    place = part(document, "places", edit.place, "place")
    for key, value in (("height_error_m", edit.height_error_m), ("height_from", edit.height_from)):
        if value is not None:
            place[key] = value
    return Outcome()


def set_point_ground(document: Document, edit: SetPointGround) -> Outcome:
    """Set the ground height at one surveyed point of a line."""
    line = part(document, "lines", edit.line, "line")
    points, places = line.get("points") or [], stands_at(document)
    if edit.index == 0 or edit.index >= len(points) - 1:
        end = str(line["from" if edit.index == 0 else "to"])
        _set_place(document, places.get(end, end), edit.ground_m, "line")
    else:
        points[edit.index][1] = edit.ground_m
    return Outcome()


def set_length(document: Document, edit: SetLength) -> Outcome:
    """Set a line's length; one that is made of runs gets it from them."""
    line = part(document, "lines", edit.line, "line")
    if line.get("length_m") is None:
        refuse("line", repr(edit.line), "a line whose length is not that of its runs")
    stretch(line, edit.length_m)
    return Outcome()


def stretch(line: Part, length_m: float) -> None:
    """Give a line another length [m]; its surveyed points, parts and runs keep their share of it."""
    old = line.get("length_m")
    if not old:
        return
    share = length_m / old
    line["length_m"] = length_m
    for point in line.get("points") or []:
        point[0] = exact(point[0] * share)
    for inline in line.get("inline") or []:
        inline["at_m"] = min(length_m, exact(inline["at_m"] * share))
    for crossing in line.get("crossings") or []:
        crossing["at_m"] = exact(crossing["at_m"] * share)
    for run in line.get("runs") or []:
        run["length_m"] = exact(run["length_m"] * share)


def _set_place(document: Document, place_id: str, ground_m: float, path: str) -> None:
    part(document, "places", place_id, path)["ground_m"] = ground_m
    places = stands_at(document)
    for line in parts(document, "lines"):
        points = line.get("points") or []
        for key, number in (("from", 0), ("to", -1)):
            if points and places.get(line[key], line[key]) == place_id:
                points[number][1] = ground_m
