"""A line cut in two at a point of its way, and two lines made one again."""

import copy
from typing import Any

from leadsman.core.design.edit.geometry import OnLine, Spot, ground_along, pipe_length_m, way_length_m, way_of
from leadsman.core.design.edit.moving import set_way
from leadsman.core.design.edit.parts import (
    STANDING,
    Document,
    Part,
    add,
    cm,
    drop_empty,
    exact,
    free_id,
    name_of,
    part,
    parts,
    refuse,
)
from leadsman.core.design.layout import way_distances_m

ALIKE = ("product", "bore_mm", "roughness_mm", "hazen_williams_c", "cover_m", "tap_every_m", "siphon", "shut")


def split_line(document: Document, on: OnLine, name: str) -> str:
    """Cut a line at a point of its way; return the id of the new place there. The first part keeps the line's id.

    What was counted of its length is shared out by the pipe's.
    """
    line, length = on.line, pipe_length_m(on.line)
    at = cm(length * on.share)
    if not 0.0 < at < length:
        refuse("spot", f"a spot {on.share * length:.3f} m along {name_of(line)}", "one that is not at its end")
    ground = cm(ground_along(document, line, at))
    before, after = _corners_around(document, on)
    place: Part = {"name": name} if name else {}
    place |= {"id": free_id(document, "places", "place"), "east_m": cm(on.spot[0]), "north_m": cm(on.spot[1])}
    place_id = add(document, "places", {**place, "ground_m": ground})
    second = copy.deepcopy({key: value for key, value in line.items() if key not in ("pump", "fittings")})
    second |= {"id": free_id(document, "lines", "line"), "from": place_id}
    if line.get("name"):
        second["name"] = f"{line['name']}, far part"[:120]
    line["to"] = place_id
    _share_points(line, second, at, ground)
    _share_inline(line, second, at)
    _share_length(line, second, at, length)
    set_way(line, before)
    set_way(second, after)
    add(document, "lines", second)
    _share_counts(document, line["id"], second["id"], at / length)
    for scenario in parts(document, "scenarios"):
        for key in ("open", "shut"):
            if line["id"] in (scenario.get(key) or []):
                scenario[key] = [*scenario[key], second["id"]]
    return place_id


def joinable(document: Document, place_id: str) -> tuple[Part, Part] | None:
    """Return the two lines that meet at a place where they are of one pipe and run on, and nothing else is there."""
    lines = [line for line in parts(document, "lines") if place_id in (line["from"], line["to"])]
    into = next((line for line in lines if line["to"] == place_id), None)
    out = next((line for line in lines if line["from"] == place_id), None)
    if len(lines) != 2 or into is None or out is None or into["from"] == out["to"]:
        return None
    if any(found["place"] == place_id for kind in STANDING for found in parts(document, kind)):
        return None
    alike = all(into.get(key) == out.get(key) for key in ALIKE) and bool(into.get("runs")) == bool(out.get("runs"))
    return (into, out) if alike and not out.get("pump") else None


def join_lines(document: Document, place_id: str) -> list[str]:
    """Make the two lines that meet at a place one, which keeps the first one's id; return what is to be told."""
    pair = joinable(document, place_id)
    if pair is None:
        return []
    into, out = pair
    place = part(document, "places", place_id, "parts")
    at, rest = pipe_length_m(into), pipe_length_m(out)
    corner: Spot = (place["east_m"], place["north_m"])
    corners = [*way_of(document, into)[1:-1], corner, *way_of(document, out)[1:-1]]
    if into.get("points") or out.get("points"):
        first, second = (_points(document, line) for line in pair)
        into["points"] = [*first, *([exact(distance + at), ground] for distance, ground in second[1:])]
    if into.get("runs"):
        into["runs"] = [*into["runs"], *out["runs"]]
    if into.get("length_m") is not None:
        into["length_m"] = exact(at + rest)
    for key, moved in (("fittings", 0.0), ("inline", at), ("crossings", at)):
        joined = [*(into.get(key) or []), *(_moved(inner, moved) for inner in out.get(key) or [])]
        if joined:
            into[key] = joined
    set_way(into, corners)
    into["to"] = out["to"]
    document["lines"] = [line for line in parts(document, "lines") if line is not out]
    for scenario in parts(document, "scenarios"):
        for key in ("open", "shut"):
            if scenario.get(key):
                scenario[key] = [name for name in scenario[key] if name != out["id"]]
    return _join_counts(document, into, out)


def _moved(inner: Part, by_m: float) -> Part:
    return {**inner, "at_m": exact(inner["at_m"] + by_m)} if "at_m" in inner else inner


def _points(document: Document, line: Part) -> list[list[float]]:
    if line.get("points"):
        return [list(point) for point in line["points"]]
    length = pipe_length_m(line)
    return [[0.0, ground_along(document, line, 0.0)], [length, ground_along(document, line, length)]]


def _corners_around(document: Document, on: OnLine) -> tuple[list[Spot], list[Spot]]:
    way = way_of(document, on.line)
    cut = way_length_m(way) * on.share
    lies = list(zip(way, way_distances_m(way), strict=True))[1:-1]
    return [corner for corner, at in lies if at < cut], [corner for corner, at in lies if at > cut]


def _share_points(line: Part, second: Part, at: float, ground: float) -> None:
    points = line.get("points") or []
    if points:
        line["points"] = [*([p, g] for p, g in points if p < at), [at, ground]]
        later = [[exact(p - at), g] for p, g in points if exact(p - at) > 0.0]
        second["points"] = [[0.0, ground], *later]


def _share_inline(line: Part, second: Part, at: float) -> None:
    inline = line.get("inline") or []
    if inline:
        line["inline"] = [inner for inner in inline if inner["at_m"] <= at]
        second["inline"] = [_moved(inner, -at) for inner in inline if inner["at_m"] > at]
    crossings = line.get("crossings") or []
    if crossings:
        line["crossings"] = [
            {**each, "wide_m": exact(min(each["wide_m"], at - each["at_m"]))} for each in crossings if each["at_m"] < at
        ]
        second["crossings"] = [
            {**each, "at_m": exact(max(each["at_m"] - at, 0.0)), "wide_m": exact(min(each["wide_m"], ends - at))}
            for each in crossings
            if (ends := each["at_m"] + each["wide_m"]) > at
        ]


def _share_length(line: Part, second: Part, at: float, length: float) -> None:
    if line.get("runs"):
        passed = 0.0
        first: list[Any] = []
        last: list[Any] = []
        for run in line["runs"]:
            own = min(max(at - passed, 0.0), run["length_m"])
            if exact(own) > 0.0:
                first.append({**run, "length_m": exact(own)})
            if exact(run["length_m"] - own) > 0.0:
                last.append({**run, "length_m": exact(run["length_m"] - own)})
            passed += run["length_m"]
        line["runs"], second["runs"] = first, last
    if line.get("length_m") is not None:
        line["length_m"], second["length_m"] = at, exact(length - at)


def _share_counts(document: Document, line_id: str, second_id: str, share: float) -> None:
    """Share out what was counted of a line over its two parts."""
    for counted in list(parts(document, "distances")):
        if counted["line"] != line_id:
            continue
        other = {**counted, "id": free_id(document, "distances", "distance"), "line": second_id}
        for key in ("count", "over_m"):
            if key in counted:
                counted[key], other[key] = counted[key] * share, counted[key] * (1.0 - share)
        add(document, "distances", other)


def _join_counts(document: Document, into: Part, out: Part) -> list[str]:
    """Add up what was counted of both lines in the same way; what was counted of one alone says nothing of both."""
    before = parts(document, "distances")
    own = {line["id"]: [counted for counted in before if counted["line"] == line["id"]] for line in (into, out)}
    joined: list[Part] = []
    for first in own[into["id"]]:
        alike = [
            other
            for other in own[out["id"]]
            if (other["kind"], other.get("each_m")) == (first["kind"], first.get("each_m"))
        ]
        if alike:
            sums = {key: first.get(key, 0.0) + alike[0].get(key, 0.0) for key in ("count", "over_m")}
            joined.append({**first, **{key: value for key, value in sums.items() if value}})
    lost = len(own[into["id"]]) + len(own[out["id"]]) - 2 * len(joined)
    document["distances"] = [counted for counted in before if counted["line"] not in own] + joined
    drop_empty(document, "distances", before)
    told = f"What was counted along one part of {name_of(into)} is dropped: it says nothing of the whole"
    return [told] if lost else []
