"""What is bought, as it stands in a line of a design: what it takes brought to the line's bore."""

from typing import Any

from leadsman.core.base.errors import UnknownName
from leadsman.core.base.units import MILLIMETRE_M
from leadsman.core.catalogue import FittingProduct, FloatValveProduct, PartProduct, fittings
from leadsman.core.design import Design, FloatValveOutlet
from leadsman.core.design.line_pipe import line_reaches

FROM_START_M = 0.5


def fitted(
    design: Design, line_id: str, fitting: FittingProduct | None = None, part: PartProduct | None = None
) -> dict[str, Any]:
    """Return a fitting, or a part at the line's start, as a design holds it, under "fitting" or "part".

    A fitting that ships goes by its name; one of the user's own by its K and bore, which the file then holds itself.

    Raises:
        UnknownName: the design has no such line.
    """
    lines = {line.id: index for index, line in enumerate(design.lines)}
    if line_id not in lines:
        raise UnknownName("line", line_id, list(lines), "/line")
    line = design.lines[lines[line_id]]
    bore_m = line_reaches(line, f"/lines/{lines[line_id]}", design.own_pipes)[0].bore_m
    told: dict[str, Any] = {}
    if fitting is not None and fitting.product_id in fittings():
        told["fitting"] = {"product": fitting.product_id}
    elif fitting is not None:
        k, on_m = fitting.loss(bore_m)
        told["fitting"] = {"k": round(k, 4), **({"bore_mm": round(on_m / MILLIMETRE_M, 3)} if on_m != bore_m else {})}
    if part is not None:
        told["part"] = part_document(part, min(FROM_START_M, line.pipe_length_m), bore_m)
    return told


def part_document(product: PartProduct, at_m: float, line_bore_m: float) -> dict[str, Any]:
    """Return a part as a design holds it: what it takes is its Kv, or its K brought to the line's bore."""
    told: dict[str, Any] = {"kind": product.inline_kind, "at_m": round(at_m, 2), "product": product.product_id}
    if product.kv_m3h is not None:
        told["kv_m3h"] = product.kv_m3h
    elif (k := product.line_k(line_bore_m)) is not None:
        told["k"] = round(k, 3)
    if product.kind == "reducer":
        told["outlet_kpa"] = product.outlet_kpa
    return told


def valve_document(outlet: FloatValveOutlet, product: FloatValveProduct) -> dict[str, Any]:
    """Return a float valve as a design holds it at an outlet, closing at the level of the one before."""
    valve: dict[str, Any] = {
        **outlet.valve.model_dump(include={"closes_at_m", "steps"}, exclude_unset=True, by_alias=True),
        "product": product.product_id,
        "kv_m3h": product.kv_m3h,
        "band_m": min(product.band_m, outlet.valve.closes_at_m),
        "min_pressure_kpa": product.min_kpa,
    }
    if product.sure_kpa is not None:
        valve["sure_pressure_kpa"] = product.sure_kpa
    if product.max_kpa is not None:
        valve["max_pressure_kpa"] = product.max_kpa
    return valve
