"""A sized plan as a design of its own: its pipes laid, its valves fitted, its tanks raised."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from leadsman.core.base.fault import DesignFaults, Fault
from leadsman.core.catalogue import float_valves, parts
from leadsman.core.design import Design, FloatValveOutlet
from leadsman.core.design.file import read_design, write_design
from leadsman.core.design.fitted import part_document, valve_document
from leadsman.core.design.line_pipe import line_reaches
from leadsman.core.design.sizing import SizingProduct
from leadsman.core.sizing.slots import AS_IT_IS, Piece

OF_PIPE = ("product", "runs", "bore_mm", "roughness_mm", "hazen_williams_c")


@dataclass(frozen=True, kw_only=True)
class Added:
    """A vent or a reducer that is put into a line at a distance along it [m], and its price."""

    line: str
    at_m: float
    product_id: str
    price: float


def laid_out(
    design: Design,
    lines: dict[str, list[Piece]],
    valves: dict[str, str],
    rises_m: dict[str, float],
    filters: dict[str, str] | None = None,
    added: Sequence[Added] = (),
) -> Design:
    """Return a design with its lines of these pipes, its outlets with these valves, and its tanks higher by so much.

    A valve or filter `AS_IT_IS` stays. Filters are given by the id of their line.

    Raises:
        DesignFaults: a line is of two pipes of the plan's own list, which a plan cannot say.
    """
    document = write_design(design)
    listed = {product.id: product for product in design.sizing.products} if design.sizing else {}
    for index, line in enumerate(document["lines"]):
        if line["id"] in lines:
            document["lines"][index] = _of_pipes(line, lines[line["id"]], listed, index)
    outlets = {outlet.id: outlet for outlet in design.outlets if isinstance(outlet, FloatValveOutlet)}
    for outlet in document.get("outlets", []):
        if valves.get(outlet["id"], AS_IT_IS) != AS_IT_IS:
            outlet["valve"] = valve_document(outlets[outlet["id"]], float_valves()[valves[outlet["id"]]])
    for vessel in document.get("vessels", []):
        if rises_m.get(vessel["id"]):
            vessel["stand_m"] = round(vessel.get("stand_m", 0.0) + rises_m[vessel["id"]], 6)
    for line in document["lines"]:
        name = (filters or {}).get(line["id"], AS_IT_IS)
        for number, part in enumerate(line.get("inline", [])):
            if part["kind"] == "filter" and name != AS_IT_IS:
                line["inline"][number] = part_document(parts()[name], part["at_m"], 1.0)
    return with_added(read_design(document), added)


def with_added(design: Design, added: Sequence[Added]) -> Design:
    """Return a design with vents and reducers put into its lines."""
    if not added:
        return design
    document = write_design(design)
    for line, model in zip(document["lines"], design.lines, strict=True):
        own = [one for one in added if one.line == line["id"]]
        bore_m = line_reaches(model, "", design.own_pipes)[0].bore_m if own else 0.0
        for one in own:
            put = part_document(parts()[one.product_id], one.at_m, bore_m)
            line["inline"] = [*line.get("inline", []), put]
    return read_design(document)


def _of_pipes(
    line: dict[str, Any], pieces: list[Piece], listed: dict[str, SizingProduct], index: int
) -> dict[str, Any]:
    long_m = sum(piece.length_m for piece in pieces)
    laid = {key: value for key, value in line.items() if key not in OF_PIPE} | {"length_m": long_m}
    if len(pieces) == 1 and pieces[0].product_id in listed:
        product = listed[pieces[0].product_id]
        laid |= {"bore_mm": product.bore_mm, "roughness_mm": product.roughness_mm or 0.0}
        return laid | ({} if product.hazen_williams_c is None else {"hazen_williams_c": product.hazen_williams_c})
    if len(pieces) == 1:
        return laid | {"product": pieces[0].product_id}
    if any(piece.product_id in listed for piece in pieces):
        fault = Fault(path=f"/lines/{index}/runs", code="not_allowed", found="pipes that the plan itself lists",
                      allowed="runs of pipes of the catalogue, or of the plan's own pipes")  # fmt: skip
        raise DesignFaults([fault])
    return laid | {"runs": [{"product": piece.product_id, "length_m": piece.length_m} for piece in pieces]}
