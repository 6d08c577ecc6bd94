"""The joints of a plan as fittings of its lines: what their bores take from the flow."""

from collections import Counter
from dataclasses import dataclass
from functools import cache

from leadsman.core.catalogue import fittings
from leadsman.core.design import Design, Fitting
from leadsman.core.design.change import JsonPatch
from leadsman.core.parts.chain import WALL_PIECE, adapters, coupling
from leadsman.core.parts.connection import Connection
from leadsman.core.parts.roll import Rolls


@dataclass(frozen=True, kw_only=True)
class JointsInLines:
    """What makes the lines of a design have its joints: a patch, how many fittings, and in how many lines.

    `left_out` are joints whose water is no line's: from a tee straight into an outlet.
    """

    patch: JsonPatch
    count: int
    lines: int
    left_out: int


def joints_in_lines(design: Design, joined: list[Connection], cut: list[Rolls]) -> JointsInLines | None:
    """Return how the lines of a design get the fittings of its joints; None where they have them all.

    What a line has of adapters already is replaced; fittings of other kinds stay.
    """
    wanted = {line.id: Counter[str]() for line in design.lines}
    left_out = 0
    for connection in joined:
        links = [link.product for link in connection.chain.links] if connection.chain else []
        walls = [one for one in connection.extra if one.product_id.startswith(WALL_PIECE)]
        if connection.through is not None:
            wanted[connection.through].update(product.product_id for product in [*links, *walls])
        elif links and connection.place is not None:
            left_out += 1
    for rolls in cut:
        chain = coupling(rolls.product)
        for line_id, _ in rolls.joins:
            wanted[line_id].update(link.product.product_id for link in (chain.links if chain else ()))
    patch: JsonPatch = []
    for index, line in enumerate(design.lines):
        has = Counter[str]()
        for fitting in line.fittings:
            if _is_of_joint(fitting):
                has[fitting.product or ""] += fitting.count
        if has != wanted[line.id]:
            kept = [one for one in line.fittings if not _is_of_joint(one)]
            new = [Fitting(product=product, count=count) for product, count in sorted(wanted[line.id].items())]
            value = [one.model_dump(mode="json", exclude_unset=True) for one in [*kept, *new]]
            patch.append({"op": "add", "path": f"/lines/{index}/fittings", "value": value})
    if not patch:
        return None
    count = sum(sum(of.values()) for of in wanted.values())
    return JointsInLines(patch=patch, count=count, lines=sum(bool(of) for of in wanted.values()), left_out=left_out)


def _is_of_joint(fitting: Fitting) -> bool:
    return fitting.product in _products_of_joints()


@cache
def _products_of_joints() -> frozenset[str]:
    walls = {product_id for product_id in fittings() if product_id.startswith(WALL_PIECE)}
    return frozenset({one.product_id for one in adapters()} | walls)
