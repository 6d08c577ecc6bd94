"""What a plan costs as a whole: parts, stands, digging, bringing; what is lifted again, and what a lease year costs."""

from dataclasses import dataclass
from typing import Literal

from leadsman.core.base.wording import Quantity, Wording, listed, say
from leadsman.core.design import Design, label
from leadsman.core.design.site_costs import (
    KEPT_SHARE,
    costs_of,
    digging_price,
    trips_for,
    trips_price,
)
from leadsman.core.parts.accessories import STAND
from leadsman.core.parts.laid_pipe import pipes_of
from leadsman.core.parts.parts_list import PartsList, Row

NAMED = 3  # stands that are told by name
Chapter = Literal["parts", "stands", "digging", "bringing"]


@dataclass(frozen=True, kw_only=True)
class CostRow:
    """What one chapter costs in the site's money; None where nobody knows. `typical` where prices are not the site's.

    `lifted` is what of it is worth something when the line is lifted again.
    """

    chapter: Chapter
    told: Wording
    price: float | None
    typical: bool
    lifted: float = 0.0


@dataclass(frozen=True, kw_only=True)
class UsedInstead:
    """Something that is to be had used: what it costs new and used, each as much of it as is to be bought."""

    row: Row
    new: float
    used: float
    is_taken: bool


@dataclass(frozen=True, kw_only=True)
class WholeCost:
    """What a plan costs, chapter by chapter; `unpriced` rows of the parts list are not in it.

    On leased ground `lease_years` are left; `taking_away` is what it costs to bring away what is lifted.
    """

    rows: list[CostRow]
    unpriced: int
    lease_years: float | None
    taking_away: float | None
    used: list[UsedInstead]

    @property
    def price(self) -> float:
        """All of it, as far as it is known."""
        return sum(row.price or 0.0 for row in self.rows)

    @property
    def lifted(self) -> float:
        """What can be lifted again is worth then."""
        return sum(row.lifted for row in self.rows)

    @property
    def is_known(self) -> bool:
        """Whether nothing is left out of the sum."""
        return not self.unpriced and all(row.price is not None for row in self.rows)

    @property
    def per_lease_year(self) -> float | None:
        """What a year of the lease costs: what is spent and not lifted again, and bringing that away.

        What is worth less than bringing it away stays.
        """
        if self.lease_years is None:
            return None
        return (self.price - max(0.0, self.lifted - (self.taking_away or 0.0))) / self.lease_years


def whole_cost(design: Design, needed: PartsList) -> WholeCost:
    """Return what a design costs as a whole.

    Args:
        needed: its parts list.
    """
    kept = costs_of(design).kept_share
    kept = KEPT_SHARE if kept is None else kept
    surface = _surface_shares(design)
    rows = [
        *_parts(design, needed, kept, surface),
        *_digging(design),
        *_bringing(design, needed),
    ]
    lifted_kg = sum((row.weight_kg or 0.0) * _lifted_share(design, row, surface) for row in needed.rows)
    unpriced = sum(not row.product_id.startswith(STAND) for row in needed.unpriced)
    return WholeCost(
        rows=rows, unpriced=unpriced, lease_years=costs_of(design).lease_years,
        taking_away=trips_price(design, lifted_kg).price, used=_used(needed),
    )  # fmt: skip


def _parts(design: Design, needed: PartsList, kept: float, surface: dict[str, float]) -> list[CostRow]:
    """Return the row of what is bought, and that of stands where there are some."""
    own = {one.product for one in design.prices} | {pipe.product_id for pipe in design.own_pipes}
    stands = [row for row in needed.rows if row.product_id.startswith(STAND) and row.to_buy > 0.0]
    others = [row for row in needed.rows if row.total and not row.product_id.startswith(STAND)]
    lifted = sum((row.total or 0.0) * _lifted_share(design, row, surface) for row in others)
    found = [
        CostRow(
            chapter="parts", told=say("Parts left to buy, {} kinds", str(len(others))),
            price=sum(row.total or 0.0 for row in others), typical=any(row.product_id not in own for row in others),
            lifted=kept * lifted,
        )
    ]  # fmt: skip
    if stands:
        names = {vessel.id: label(vessel) for vessel in design.vessels}
        under = listed([say(names[row.where[0]]) for row in stands])
        told = say("Stands under {}", under) if len(stands) <= NAMED else say("{} stands", str(len(stands)))
        price = None if any(row.total is None for row in stands) else sum(row.total or 0.0 for row in stands)
        typical = costs_of(design).stand_per_m_t is None and any(row.product_id not in own for row in stands)
        lifted = kept * (price or 0.0)
        found.append(CostRow(chapter="stands", told=told, price=price, typical=typical, lifted=lifted))
    return found


def _digging(design: Design) -> list[CostRow]:
    trench_m = sum(line.pipe_length_m for line in design.lines if line.cover_m > 0.0)
    if trench_m == 0.0:
        return []
    paid = digging_price(design, trench_m)
    told = say("Trench of {}, {}", Quantity(value=trench_m, unit="m", digits=0), costs_of(design).digging)
    return [CostRow(chapter="digging", told=told, price=paid.price, typical=paid.typical)]


def _bringing(design: Design, needed: PartsList) -> list[CostRow]:
    trips = trips_for(design, needed.weight_kg)
    if not trips:
        return []
    paid = trips_price(design, needed.weight_kg)
    told = say("Bringing {}, loads: {}", Quantity(value=needed.weight_kg, unit="kg"), str(trips))
    return [CostRow(chapter="bringing", told=told, price=paid.price, typical=paid.typical)]


def _surface_shares(design: Design) -> dict[str, float]:
    """Return of each pipe product the share of its metres that lies on the surface."""
    metres: dict[str, list[float]] = {}
    for line in design.lines:
        for product, length_m in pipes_of(design, line):
            both = metres.setdefault(product.product_id, [0.0, 0.0])
            both[0] += length_m
            both[1] += length_m if line.cover_m <= 0.0 else 0.0
    return {product: on_top / total for product, (total, on_top) in metres.items() if total > 0.0}


def _lifted_share(design: Design, row: Row, surface: dict[str, float]) -> float:
    """Return the share of a row that can be lifted again: not what is buried, used up, or a pond's."""
    if row.shop == "sundries":
        return 0.0
    if row.shop == "pipe":
        return surface.get(row.product_id, 0.0)
    buried = {line.id for line in design.lines if line.cover_m > 0.0}
    ponds = {vessel.id for vessel in design.vessels if vessel.role == "pond"}
    where = row.where or [""]
    return sum(one not in buried and one not in ponds for one in where) / len(where)


def _used(needed: PartsList) -> list[UsedInstead]:
    """Return the rows of which the price book has a used price, and a new one is known."""
    return [
        UsedInstead(
            row=row, new=row.prices.new * row.to_buy, used=row.prices.used * row.to_buy,
            is_taken=row.price == row.prices.used,
        )
        for row in needed.rows
        if row.to_buy > 0.0 and row.prices.new is not None and row.prices.used is not None
    ]  # fmt: skip
