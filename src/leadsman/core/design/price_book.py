"""What a thing costs at a site: by its price book, else by the catalogue where that is in the site's money."""

from leadsman.core.catalogue import PipeProduct
from leadsman.core.catalogue.product import Ended
from leadsman.core.design import Design
from leadsman.core.design.price import Price

PRICED_IN = "USD"  # what the catalogue's own prices are in; in another currency only a user's own prices count


def price_of(design: Design, product: PipeProduct | Ended) -> float | None:
    """Return what one piece of a product costs, or a metre of pipe, in the site's money; None where nobody knows."""
    typical = product.price_per_m if isinstance(product, PipeProduct) else product.price
    return price_at(design, product.product_id, typical, product.is_own)


def price_at(design: Design, product_id: str, typical: float | None, own: bool = False) -> float | None:
    """Return what something costs: new, or used where that is cheaper and used things are bought.

    Args:
        typical: in US dollars; in the site's money where `own`.
    """
    new, used = new_price_at(design, product_id, typical, own), used_price_at(design, product_id)
    if used is None or not (design.costs is not None and design.costs.buy_used):
        return new
    return used if new is None else min(new, used)


def new_price_at(design: Design, product_id: str, typical: float | None, own: bool = False) -> float | None:
    """Return what something costs new: at the cheapest shop of the price book, else a typical price."""
    paid = min((one.price for one in asked_for(design, product_id) if not one.used), default=None)
    return in_site_money(design, typical, own) if paid is None else paid


def used_price_at(design: Design, product_id: str) -> float | None:
    """Return what something costs used, where it is cheapest by the price book; None where nobody asked."""
    return min((one.price for one in asked_for(design, product_id) if one.used), default=None)


def in_site_money(design: Design, price: float | None, own: bool = False) -> float | None:
    """Return a price where it is in the site's money: a catalogue's own in its currency only, a user's own always."""
    return price if own or design.site.currency == PRICED_IN else None


def asked_for(design: Design, product_id: str) -> list[Price]:
    """Return the latest price of each shop for a product, new and used apart; an undated one is the oldest."""
    latest: dict[tuple[str | None, bool], Price] = {}
    for one in design.prices:
        if one.product == product_id:
            before = latest.get((one.shop, one.used))
            if before is None or (one.date or "") >= (before.date or ""):
                latest[one.shop, one.used] = one
    return list(latest.values())
