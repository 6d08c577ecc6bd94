"""JSON of what a plan costs as a whole, and of typical prices that count where the site has none of its own."""

from leadsman.core.base.wording import Quantity, say
from leadsman.core.design import Design
from leadsman.core.design.price_book import in_site_money
from leadsman.core.design.site_costs import (
    KEPT_SHARE,
    LOAD_KG,
    MACHINE_M_DAY,
    MACHINE_PRICE_DAY,
    STAND_PRICE_M_T,
    TRENCH_PRICE,
    TRIP_PRICE,
)
from leadsman.core.parts.parts_list import PartsList
from leadsman.core.parts.whole_cost import Chapter, WholeCost, whole_cost
from leadsman.core.report.base import Report, Words, words


class CostRowReport(Report):
    """One chapter; `price` is null where nobody knows it, `typical` where some of it is no price of the site's own."""

    chapter: Chapter
    told: Words
    price: float | None
    typical: bool
    lifted: float


class UsedInsteadReport(Report):
    """A thing that is to be had used: what all that is to be bought of it costs new and used."""

    product_id: str
    name: str
    new: float
    used: float
    is_taken: bool


class TypicalCosts(Report):
    """Typical figures that count where the site has none of its own; null where they are of another currency."""

    stand_per_m_t: float | None
    digging_per_m: float | None
    machine_per_day: float | None
    machine_m_per_day: float
    trip: float | None
    load_kg: float
    kept_share: float


class WholeCostReport(Report):
    """What a plan costs; `price` as far as it is known, `is_known` where nothing is left out of it.

    `per_lease_year` is null where no lease is stated.
    """

    rows: list[CostRowReport]
    price: float
    is_known: bool
    unpriced: int
    lifted: float
    taking_away: float | None
    lease_years: float | None
    per_lease_year: float | None
    used: list[UsedInsteadReport]
    typical: TypicalCosts
    practice: list[Words]


def whole_cost_report(design: Design, needed: PartsList) -> WholeCostReport:
    """Return what a design costs, given its parts list."""
    found = whole_cost(design, needed)
    return WholeCostReport(
        rows=[
            CostRowReport(
                chapter=row.chapter, told=words(row.told), price=_rounded(row.price), typical=row.typical,
                lifted=round(row.lifted, 2),
            )
            for row in found.rows
        ],
        price=round(found.price, 2), is_known=found.is_known, unpriced=found.unpriced, lifted=round(found.lifted, 2),
        taking_away=_rounded(found.taking_away), lease_years=found.lease_years,
        per_lease_year=_rounded(found.per_lease_year), used=_used(found), typical=_typical(design),
        practice=[
            words(say("Hardly anybody digs pipe up again; what lies on the surface, tanks, troughs, taps "
                      "and valves go along when the lease ends (common practice, no source).")),
            words(say("A cubic metre of water weighs {}: a stand is built by someone competent. Call the utility "
                      "locating service before any digging.", Quantity(value=1_000.0, unit="kg", digits=0))),
        ],
    )  # fmt: skip


def _used(found: WholeCost) -> list[UsedInsteadReport]:
    return [
        UsedInsteadReport(
            product_id=one.row.product_id, name=one.row.name, new=round(one.new, 2), used=round(one.used, 2),
            is_taken=one.is_taken,
        )
        for one in found.used
    ]  # fmt: skip


def _typical(design: Design) -> TypicalCosts:
    return TypicalCosts(
        stand_per_m_t=in_site_money(design, STAND_PRICE_M_T),
        digging_per_m=in_site_money(design, TRENCH_PRICE),
        machine_per_day=in_site_money(design, MACHINE_PRICE_DAY),
        machine_m_per_day=MACHINE_M_DAY,
        trip=in_site_money(design, TRIP_PRICE),
        load_kg=LOAD_KG,
        kept_share=KEPT_SHARE,
    )


def _rounded(price: float | None) -> float | None:
    return None if price is None else round(price, 2)
