"""The chain of adapters from one end to another: fewest parts first, then the cheapest, then the widest."""

import heapq
from dataclasses import dataclass
from functools import cache

from leadsman.core.catalogue import FittingProduct, PipeProduct, fittings
from leadsman.core.catalogue.thread import End
from leadsman.core.parts.mate import STUB, TAKEN, Mate, PipeEnd, mate, pipe_end

MOST_ADAPTERS = 6
WALL_PIECE = "bulkhead"  # what products through a wall begin with
UNPRICED = 5.0  # what an adapter without a price counts as, in the order of choice only


@dataclass(frozen=True, kw_only=True)
class Link:
    """One adapter of a chain, the end that looks back and the one that looks on, and how it joins what is before it."""

    product: FittingProduct
    back: End
    on: End
    mate: Mate


@dataclass(frozen=True, kw_only=True)
class Chain:
    """Adapters in order from one end to the other, and how the last one joins that; none where the two fit by
    themselves.
    """

    start: End
    goal: End
    links: tuple[Link, ...]
    last: Mate

    @property
    def price(self) -> float | None:
        """What its adapters cost together; None where one has no price."""
        prices = [link.product.price for link in self.links]
        return None if None in prices else sum(price or 0.0 for price in prices)

    @property
    def narrowest_m(self) -> float:
        """The least bore on the way [m], the two ends among them."""
        return min([self.start.bore_m, self.goal.bore_m, *(min(one.back.bore_m, one.on.bore_m) for one in self.links)])

    @property
    def mates(self) -> list[Mate]:
        """How each pair joins, in order."""
        return [*(link.mate for link in self.links), self.last]


@cache
def adapters() -> tuple[FittingProduct, ...]:
    """Return every fitting with two ends, straight through: bends and tees are not for this."""
    found = [one for one in fittings().values() if len(one.end_list) == 2 and "elbow" not in one.product_id]
    return tuple(one for one in found if not one.product_id.startswith((WALL_PIECE, "saddle")))


@cache
def chain_between(start: End, goal: End, least_bore_m: float = 0.0) -> Chain | None:
    """Return the chain of fewest adapters between two ends, of equals the cheapest; None where there is none.

    Threads that start together and never seal are not joined.

    Args:
        least_bore_m: no adapter is narrower than that [m].
    """
    queue: list[tuple[int, float, float, int, End, tuple[Link, ...]]] = [(0, 0.0, -start.bore_m, 0, start, ())]
    done: set[tuple[str, str, bool]] = set()
    number = 0
    while queue:
        count, price, _, _, end, links = heapq.heappop(queue)
        last = STUB if _over_a_stub(end, goal) else mate(end, goal)
        if isinstance(last, Mate):
            return Chain(start=start, goal=goal, links=links, last=last)
        key = end.family, end.size, isinstance(end, PipeEnd)
        if key in done or count == MOST_ADAPTERS:
            continue
        done.add(key)
        for product, back, on, joined in _next_to(end.family, end.size, isinstance(end, PipeEnd), not links):
            if min(back.bore_m, on.bore_m) >= least_bore_m:
                number += 1
                link = Link(product=product, back=back, on=on, mate=joined)
                cost = price + (UNPRICED if product.price is None else product.price)
                heapq.heappush(queue, (count + 1, cost, -on.bore_m, number, on, (*links, link)))
    return None


def coupling(product: PipeProduct) -> Chain | None:
    """Return what joins two pieces of one pipe; None where nothing of the catalogue does."""
    end = pipe_end(product)
    return chain_between(end, end)


def _over_a_stub(end: End, goal: End) -> bool:
    """Whether two fittings take the same pipe: a short piece of it joins them."""
    are_fittings = not isinstance(end, PipeEnd) and not isinstance(goal, PipeEnd)
    return are_fittings and end.family in TAKEN and (end.family, end.size) == (goal.family, goal.size)


@cache
def _next_to(
    family: str, size: str, is_pipe: bool, is_first: bool
) -> tuple[tuple[FittingProduct, End, End, Mate], ...]:
    """Return the adapters that go on an end, and how; the first one of a chain may be joined by a stub of pipe."""
    end = (PipeEnd if is_pipe else End)(family=family, size=size, bore_m=0.0)  # its bore does not matter here
    found = []
    for product, back, on in _turned_both_ways():
        joined = STUB if is_first and _over_a_stub(end, back) else mate(end, back)
        if isinstance(joined, Mate):
            found.append((product, back, on, joined))
    return tuple(found)


@cache
def _turned_both_ways() -> tuple[tuple[FittingProduct, End, End], ...]:
    """Return every adapter with the end that looks back and the one that looks on, both ways round."""
    pairs = [(one, one.end_list[0], one.end_list[1]) for one in adapters()]
    return (*pairs, *((one, second, first) for one, first, second in pairs))


def nearest_reached(start: End, goal: End) -> tuple[FittingProduct, End] | None:
    """Return the adapter that comes nearest where no chain reaches a goal: it ends in the goal's kind of thread."""
    near = [
        (product, on)
        for product in adapters()
        for back, on in (product.end_list, product.end_list[::-1])
        if isinstance(mate(start, back), Mate) and (on.thread or on.family) == (goal.thread or goal.family)
    ]
    return min(near, key=lambda found: found[0].price or UNPRICED, default=None)
