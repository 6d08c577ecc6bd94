"""What has to be bought for a design that another does not have yet."""

from collections import Counter
from collections.abc import Collection, Iterator
from dataclasses import dataclass
from functools import partial

from leadsman.core.catalogue import fittings, float_valves, parts
from leadsman.core.catalogue import vessels as sold_vessels
from leadsman.core.design import Design, FloatValveOutlet, Line, OutletBase, Vessel
from leadsman.core.design.price_book import price_of


@dataclass(frozen=True, kw_only=True)
class Item:
    """Something bought: for which part of the design, what, and a metre's or a piece's price; None where not known."""

    part_id: str
    what: str
    price: float | None


def price_of_change(before: Design, after: Design) -> float | None:
    """Return the price of what `after` needs and `before` does not have, in the site's currency.

    0 where nothing is to be bought; None where something is whose price is not known. What becomes free counts nothing.
    """
    alike = all(getattr(before, key) == getattr(after, key) for key in ("own_pipes", "site", "prices", "costs"))
    shared = {id(part) for part in _sold(before)} & {id(part) for part in _sold(after)} if alike else set()
    wanted, had = dict(_bought(after, shared)), dict(_bought(before, shared))
    price = 0.0
    for item, count in wanted.items():
        more = count - had.get(item, 0.0)
        if more > 0.0 and item.price is None:
            return None
        price += max(0.0, more) * (item.price or 0.0)
    return None if _stands_otherwise(before, after) else round(price, 2)


def pipe_price(design: Design, line: Line) -> float | None:
    """Return what the pipe of a line costs in the site's money; None where that is not known."""
    total = 0.0
    for product, metres in _pipe(line).items():
        price = price_of(design, design.pipe(product)) if product else None
        if price is None:
            return None
        total += price * metres
    return total


def _sold(design: Design) -> list[Line | OutletBase | Vessel]:
    return [*design.lines, *design.outlets, *design.vessels]


def _bought(design: Design, left_out: Collection[int]) -> Iterator[tuple[Item, float]]:
    """Yield what a design is made of, as far as it can be bought, with metres or pieces; not the parts left out."""
    priced = partial(price_of, design)
    for line in design.lines:
        if id(line) in left_out:
            continue
        for what, metres in _pipe(line).items():
            pipe = design.pipe(what) if what else None
            yield (
                Item(part_id=line.id, what=what, price=priced(pipe) if pipe else None),
                metres,
            )
        fitted = Counter({fitting.product or f"K {fitting.k}": 0 for fitting in line.fittings})
        for fitting in line.fittings:
            fitted[fitting.product or f"K {fitting.k}"] += fitting.count
        for what, count in fitted.items():
            sold = fittings().get(what)
            yield Item(part_id=line.id, what=what, price=priced(sold) if sold else None), count
        sitting = Counter((part.kind, part.product or "") for part in line.inline)
        for (kind, what), count in sitting.items():
            in_line = parts().get(what)
            yield Item(part_id=line.id, what=f"{kind} {what}", price=priced(in_line) if in_line else None), count
    for outlet in design.outlets:
        if isinstance(outlet, FloatValveOutlet) and id(outlet) not in left_out:
            valve = float_valves().get(outlet.valve.product or "")
            name = valve.product_id if valve else f"Kv {outlet.valve.kv_m3h}"
            yield Item(part_id=outlet.id, what=name, price=priced(valve) if valve else None), 1
    for vessel in design.vessels:
        if id(vessel) in left_out:
            continue
        box = sold_vessels().get(vessel.product or "")
        name = box.product_id if box else vessel.shape.model_dump_json()
        yield Item(part_id=vessel.id, what=name, price=priced(box) if box else None), vessel.count


def _pipe(line: Line) -> dict[str, float]:
    """Return metres of pipe by product; "" for pipe given by its bore alone."""
    if not line.runs:
        return {line.product or "": line.pipe_length_m}
    metres: dict[str, float] = {}
    for run in line.runs:
        metres[run.product] = metres.get(run.product, 0.0) + run.length_m
    return metres


def _unnamed_mm(line: Line) -> float | None:
    """Return the bore of a line of no product: what another bore costs is not known."""
    return None if line.product or line.runs else line.bore_mm


def _unpriced(vessel: Vessel) -> tuple[object, ...]:
    """Return what of a vessel is bought and has no price in the catalogue: links, foam, a lid."""
    return vessel.link_mm, vessel.link_m, vessel.fed_at, vessel.lagging_mm, vessel.lid


def _stands_otherwise(before: Design, after: Design) -> bool:
    """Whether something is raised, moved or dug, or bought that has no price: what that costs nobody here knows."""

    def stands(design: Design) -> list[object]:
        return [
            {vessel.id: (vessel.place, vessel.stand_m, *_unpriced(vessel)) for vessel in design.vessels},
            {line.id: (line.points, line.cover_m, line.lagging_mm, _unnamed_mm(line)) for line in design.lines},
            [(pond.vessel, pond.circulation, pond.remover_lpm, pond.remover_l) for pond in design.ponds],
            design.standbys,
            design.places,
            design.inflows,
        ]

    return stands(before) != stands(after)
