"""A plan from what people know without a map: fall, distance, pipe, animals, trough."""

import math
from typing import Annotated

from pydantic import Field

from leadsman.core.base.units import LITRE_M3
from leadsman.core.catalogue import pipes
from leadsman.core.design import Design
from leadsman.core.design.edit.laying import lay_line, set_pipe
from leadsman.core.design.edit.model import EditBase, LayLine, SetPipe
from leadsman.core.design.edit.parts import Document, Part, add, part, parts, refuse
from leadsman.core.design.file import read_design, write_design

TROUGH_NAME = "Trough"
LEAST_PLAN_M = 1.0  # a line on the plan is never shorter, however steep
LENGTH_DIGITS = 3


class FirstLine(EditBase):
    """One line from the source to one trough: how much lower the trough's ground is, how long the pipe is.

    `product` is the id of a pipe, `animal` a class of livestock, `trough_l` what the trough holds to its rim.
    """

    fall_m: Annotated[float, Field(ge=-500, le=2_000)]
    distance_m: Annotated[float, Field(ge=1, le=50_000)]
    product: Annotated[str, Field(max_length=120)]
    animal: Annotated[str, Field(min_length=1, max_length=60)]
    head: Annotated[int, Field(ge=1, le=1_000_000)]
    trough_l: Annotated[float, Field(gt=0, le=50_000)]


def with_first_line(design: Design, first: FirstLine) -> Design:
    """Return a new plan with a straight line east from its source to a trough, and the animals that drink there.

    The trough keeps the width and height that a new one has; its length is what makes it hold the litres.

    Raises:
        DesignFaults: there is no such pipe or class of livestock, or the fall is more than the pipe is long.
    """
    if abs(first.fall_m) > first.distance_m:
        refuse("fall_m", f"{first.fall_m:g} m", f"no more than the pipe is long, {first.distance_m:g} m")
    product = pipes().get(first.product)
    if product is None:
        refuse("product", repr(first.product), "the id of a pipe of the catalogue")
    document: Document = write_design(design)
    start = parts(document, "places")[0]
    plan_m = max(math.sqrt(first.distance_m**2 - first.fall_m**2), LEAST_PLAN_M)
    way = [(start["east_m"], start["north_m"]), (start["east_m"] + round(plan_m, 2), start["north_m"])]
    laid = lay_line(document, LayLine(kind="lay_line", way=way, end="trough", name=TROUGH_NAME, lower_m=first.fall_m))
    line = part(document, "lines", laid.made[0], "line")
    line["length_m"] = first.distance_m
    set_pipe(document, SetPipe(kind="set_pipe", line=line["id"], product=product))
    outlet = part(document, "outlets", line["to"], "outlet")
    _resize(part(document, "vessels", outlet["fills"], "vessel"), first.trough_l)
    name = first.animal.capitalize()
    herd = {"id": "herd-1", "name": name, "class": first.animal, "head": first.head, "outlet": outlet["id"]}
    herd["drinking"] = {"pattern": "mob"}  # asks more of the trough than animals that drink one by one
    add(document, "herds", herd)
    return read_design(document)


def _resize(trough: Part, trough_l: float) -> None:
    """Give a trough the length that makes it hold so much, its depths as they are."""
    shape = trough["shape"]
    volume_m3 = trough_l * LITRE_M3
    shape["length_m"] = round(volume_m3 / (shape["width_m"] * shape["height_m"]), LENGTH_DIGITS)
