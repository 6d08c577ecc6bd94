"""Lines laid on the plan, and what is put on it: troughs, taps, tanks, junctions, paddocks."""

import math
from typing import Any

from leadsman.core.design.edit.geometry import Spot, line_at, pipe_length_m, place_at, way_length_m
from leadsman.core.design.edit.model import AddPaddock, AddThing, LayLine, SetFence, SetPipe
from leadsman.core.design.edit.moving import set_way
from leadsman.core.design.edit.parts import (
    Document,
    Outcome,
    Part,
    add,
    cm,
    free_id,
    gives_water,
    numbered,
    part,
    parts,
    refuse,
)
from leadsman.core.design.edit.splitting import split_line
from leadsman.core.design.start import (
    DRINKER,
    DRINKER_VALVE,
    FLOAT_VALVE,
    OTHER_OUTLETS,
    PRESSURE_SOURCES,
    STARTS,
    TROUGH,
    USUAL_PIPE,
)

ON_LINE_M = 0.25  # so near to a line is on it: a click snaps to it before
SHORTEST_LINE_M = 0.5
FILLED_THINGS = {"trough": (TROUGH, FLOAT_VALVE), "drinker": (DRINKER, DRINKER_VALVE)}


def lay_line(document: Document, edit: LayLine) -> Outcome:
    """Lay a line; where a place or a line is at its end already, it ends in that."""
    if edit.end in PRESSURE_SOURCES:
        refuse("end", edit.end, "something that takes water: a line begins at a source under pressure")
    way = list(edit.way)
    start = _place_on(document, way[0])
    if start is None:
        refuse("way/0", "a spot where nothing stands", "a place or a line, for a line to begin on")
    there = _place_on(document, way[-1])
    if there is not None:
        node, ground_m = _end_node(document, there["id"]), there["ground_m"]
    else:
        ground_m = cm(start["ground_m"] - edit.lower_m)
        place_id = _add_place(document, way[-1], edit.name, ground_m)
        node = _add_at(document, place_id, edit.end, edit.name)
    begin = start_node(document, start["id"])
    if _begun(document, begin):
        refuse("way/0", "a source that a line begins at already", "a spot on that line, for another to branch off it")
    if begin == node:
        refuse("way", "a line that ends where it begins", "another end")
    length = math.hypot(way_length_m(way), ground_m - start["ground_m"])
    line: Part = {
        "id": free_id(document, "lines", "line"), "from": begin, "to": node, "product": USUAL_PIPE,
        "length_m": max(SHORTEST_LINE_M, round(length, 1)), "assumed": ["product"],
    }  # fmt: skip
    set_way(line, way[1:-1])
    return Outcome(made=[add(document, "lines", line)])


def add_thing(document: Document, edit: AddThing) -> Outcome:
    """Put a thing on the plan, on a line by a tee."""
    on = None if place_at(document, edit.spot) else line_at(document, edit.spot, edit.on_line_m)
    place_id = split_line(document, on, edit.name) if on else _add_place(document, edit.spot, edit.name, edit.ground_m)
    node = _add_at(document, place_id, edit.thing, edit.name)
    filled = [outlet.get("fills") for outlet in parts(document, "outlets") if outlet["id"] == node]
    return Outcome(made=[filled[0] or node if filled else node])


def add_paddock(document: Document, edit: AddPaddock) -> Outcome:
    """Fence a paddock in; how far its grass is from the water follows from where it lies."""
    outlet = edit.outlet or _nearest_outlet(document, edit.corners)
    new = numbered(document, "paddocks", "paddock")
    if outlet is not None:
        new["outlet"] = part(document, "outlets", outlet, "outlet")["id"]
    if edit.name is not None:
        new["name"] = edit.name
    return Outcome(made=[add(document, "paddocks", {**new, "corners": _drawn(edit.corners)})])


def _nearest_outlet(document: Document, corners: list[Spot]) -> str | None:
    """Return the outlet to which the way from the farthest of some corners is shortest; None where there is none."""
    at = {place["id"]: (place["east_m"], place["north_m"]) for place in parts(document, "places")}

    def farthest_m(outlet: Part) -> float:
        return max((math.dist(at[outlet["place"]], corner) for corner in corners), default=0.0)

    nearest = min(parts(document, "outlets"), key=farthest_m, default=None)
    return None if nearest is None else str(nearest["id"])


def set_fence(document: Document, edit: SetFence) -> Outcome:
    """Give a paddock other corners."""
    corners = _drawn(edit.corners) if len(edit.corners) >= 3 else []
    part(document, "paddocks", edit.paddock, "paddock")["corners"] = corners
    return Outcome()


def set_pipe(document: Document, edit: SetPipe) -> Outcome:
    """Lay a line in another pipe; what it had of its own in bore, roughness and runs goes."""
    line, product = part(document, "lines", edit.line, "line"), edit.product
    line["length_m"] = pipe_length_m(line)
    line["product"] = product.product_id
    for key in ("bore_mm", "roughness_mm", "runs"):
        line.pop(key, None)
    if product.is_own:
        others = [own for own in parts(document, "own_pipes") if own["product_id"] != product.product_id]
        document["own_pipes"] = [*others, product.model_dump(mode="json", exclude_none=True)]
    return Outcome()


def start_node(document: Document, place_id: str) -> str:
    """Return what a line from a place is joined to: the vessel or source there that gives water, else the junction."""
    giving = [
        vessel["id"] for vessel in parts(document, "vessels") if vessel["place"] == place_id and gives_water(vessel)
    ]
    giving += [source["id"] for source in parts(document, "pressure_sources") if source["place"] == place_id]
    return str(giving[0]) if giving else place_id


def _begun(document: Document, node: str) -> bool:
    """Whether a node is a source under pressure with its one line."""
    is_source = any(source["id"] == node for source in parts(document, "pressure_sources"))
    return is_source and any(line["from"] == node for line in parts(document, "lines"))


def _end_node(document: Document, place_id: str) -> str:
    """Return what a line to a place is joined to: a float or tap there without a line, a tank, or the junction."""
    joined = {line[key] for line in parts(document, "lines") for key in ("from", "to")}
    node = start_node(document, place_id)
    if any(source["id"] == node for source in parts(document, "pressure_sources")):
        refuse("way", "a line that ends at a source under pressure", "one that begins there")
    if node in joined:  # where a pipe is there already, the float draws from it
        return node
    free = [
        outlet["id"]
        for outlet in parts(document, "outlets")
        if outlet["place"] == place_id and outlet["id"] not in joined
    ]
    return str(free[0]) if free else node


def _place_on(document: Document, spot: Spot) -> Part | None:
    """Return the place at a spot; on a line, a new one where that is cut in two."""
    there = place_at(document, spot)
    on = None if there else line_at(document, spot, ON_LINE_M)
    return part(document, "places", split_line(document, on, "Tee"), "way") if on else there


def _add_place(document: Document, spot: Spot, name: str, ground_m: float) -> str:
    named = {"name": name} if name else {}
    new = {"id": free_id(document, "places", "place"), **named}
    return add(document, "places", {**new, "east_m": cm(spot[0]), "north_m": cm(spot[1]), "ground_m": cm(ground_m)})


def _add_at(document: Document, place_id: str, thing: str, name: str) -> str:
    """Put a thing at a place; return the id that a line to it ends on."""
    named = {"name": name} if name else {}
    if thing == "junction":
        return place_id
    if thing in OTHER_OUTLETS:
        new = {"id": free_id(document, "outlets", "outlet"), **named, "place": place_id, **OTHER_OUTLETS[thing]}
        return add(document, "outlets", new)
    if thing in PRESSURE_SOURCES:
        new = {"id": free_id(document, "pressure_sources", "source"), **named, "place": place_id}
        return add(document, "pressure_sources", {**new, **PRESSURE_SOURCES[thing]})
    vessel: dict[str, Any] = {"id": free_id(document, "vessels", "vessel"), **named, "place": place_id}
    if thing not in FILLED_THINGS:
        return add(document, "vessels", {**vessel, **STARTS[thing]})
    own, floats = FILLED_THINGS[thing]
    filled = add(document, "vessels", {**vessel, **own})
    valve = {"id": free_id(document, "outlets", "outlet"), "name": f"{name or thing.capitalize()} valve"[:120]}
    return add(document, "outlets", {**valve, "place": place_id, "fills": filled, **floats})


def _drawn(corners: list[Spot]) -> list[list[float]]:
    return [[cm(east), cm(north)] for east, north in corners]
