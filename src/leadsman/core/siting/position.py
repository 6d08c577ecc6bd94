"""A position that was tried: the plan with the part there, and what it costs and gives."""

from collections.abc import Callable, Iterable
from dataclasses import dataclass

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.cancel import CancelCheck
from leadsman.core.design import Design
from leadsman.core.design.cost import pipe_price
from leadsman.core.design.site_costs import digging_price

ENOUGH = 0.999  # of what is wanted
Spot = tuple[float, float]


@dataclass(frozen=True, kw_only=True)
class Position:
    """A place for a part: where, how high, and how far off the nearest known height is [m].

    `more_m` is pipe laid beyond the plan as it is [m], below 0 where less is; `cost` what it costs more [the site's
    money], None where a price is not known. `flow_m3s` is what the outlet gets with all open; `short` are outlets
    that lack what is wanted of them there and do not now. `walk_m` is the longest walk to it, over paddocks it waters;
    `outside` those of them that it does not stand in or at the fence of. `stand_m` is the least stand that a tank
    needs there, None where the highest tried is too low. `works` says whether all is well.
    """

    spot: Spot
    ground_m: float
    off_m: float
    more_m: float
    cost: float | None
    design: Design
    works: bool
    flow_m3s: float | None = None
    short: tuple[str, ...] = ()
    walk_m: float | None = None
    outside: tuple[str, ...] = ()
    stand_m: float | None = None

    @property
    def order(self) -> tuple[bool, bool, float, float, float]:
        """What the best comes first by: those that work, the cheapest, the shortest walk, the most flow."""
        return (not self.works, self.cost is None, round(self.cost or self.more_m, 2), self.walk_m or 0.0,
                -(self.flow_m3s or 0.0))  # fmt: skip


Watch = Callable[[float, list[Position]], None]


def best_first(positions: Iterable[Position]) -> list[Position]:
    """Return positions, the best first."""
    return sorted(positions, key=lambda one: one.order)


def analysed(design: Design, check_cancelled: CancelCheck) -> Analysis:
    """Return the analysis of a design with all open."""
    return Analysis(design, together_only=True, check_cancelled=check_cancelled)


def lacking(analysis: Analysis, share: float = 1.0) -> set[str]:
    """Return outlets that get less with all open than a share of what is wanted of them, or nothing where cut off."""
    fed = {outlet.id for outlet in analysis.fed_outlets}
    found = set()
    for outlet in analysis.design.outlets:
        wanted = analysis.wanted_m3s(outlet)
        if wanted is None or outlet.shut:
            continue
        if outlet.id not in fed or analysis.answer(outlet).judged_flow_m3s < ENOUGH * share * wanted:
            found.add(outlet.id)
    return found


def laid_m(design: Design) -> float:
    """Return the length of all pipe [m]."""
    return sum(line.pipe_length_m for line in design.lines)


def more_cost(before: Design, after: Design) -> float | None:
    """Return what pipe and trench of a design cost more than those of another; None where a price is not known."""
    costs = [_laid_cost(design, other) for design, other in ((before, after), (after, before))]
    return None if None in costs else (costs[1] or 0.0) - (costs[0] or 0.0)


def _laid_cost(design: Design, other: Design) -> float | None:
    """Return what a design's lines cost that are not alike in another; their trench with them."""
    alike = {line.id: line for line in other.lines}
    total, trench_m = 0.0, 0.0
    for line in design.lines:
        if alike.get(line.id) == line:
            continue
        price = pipe_price(design, line)
        if price is None:
            return None
        total += price
        trench_m += line.pipe_length_m if line.cover_m > 0.0 else 0.0
    dug = digging_price(design, trench_m).price
    return None if dug is None else total + dug
