"""A sized plan as a design of its own: its pipes laid, its valves fitted, its tanks raised."""

from typing import Any

from leadsman.core.base.fault import DesignFaults, Fault
from leadsman.core.catalogue import float_valves
from leadsman.core.design import Design, FloatValveOutlet
from leadsman.core.design.file import read_design, write_design
from leadsman.core.design.fitted import valve_document
from leadsman.core.design.sizing import SizingProduct
from leadsman.core.sizing.slots import AS_IT_IS, Piece

OF_PIPE = ("product", "runs", "bore_mm", "roughness_mm", "hazen_williams_c")


def laid_out(
    design: Design, lines: dict[str, list[Piece]], valves: dict[str, str], rises_m: dict[str, float]
) -> Design:
    """Return a design with its lines of these pipes, its outlets with these valves, and its tanks higher by so much.

    A valve `AS_IT_IS` stays.

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
