"""Vents and pressure reducers that a sized plan is given beside its pipes: where, which, and what they cost."""

import math
from collections import defaultdict

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.cancel import CancelCheck
from leadsman.core.base.units import MILLIMETRE_M
from leadsman.core.catalogue import PartProduct, parts
from leadsman.core.catalogue.product import PartKind
from leadsman.core.design import Design, Line
from leadsman.core.design.price_book import price_of
from leadsman.core.sizing.laid import Added, with_added
from leadsman.core.sizing.problem import problem_of

MOST_ROUNDS = 6  # of vents: one that lets one line run may show what blocks the next
ABOUT_AS_WIDE = 0.8  # of a line; ours
MOST_REDUCED = 3  # lines at the beginning of which a reducer is tried


def vents_for(design: Design, check_cancelled: CancelCheck) -> list[Added]:
    """Return the fewest vents that let the first water through wherever air would block it; none where none can.

    Where several would do as well, the first is taken. Only where the pressure line stays above the pipe.
    """
    product = _cheapest(design, "vent")
    found: list[Added] = []
    if product is None:
        return found
    for _ in range(MOST_ROUNDS):
        analysis = Analysis(with_added(design, found), check_cancelled=check_cancelled)
        blocked = [one for one in analysis.first_waters.values() if one.stands_over_all and one.margin_m < 0.0]
        cured = [one for one in blocked if one.cures]
        if not cured:
            return found
        first = min(cured, key=lambda one: one.margin_m)
        for high_point in first.cures[0]:
            line_id, at_m = first.profile.spot(high_point.at_m)
            price = price_of(design, product) or 0.0
            found.append(Added(line=line_id, at_m=at_m, product_id=product.product_id, price=price))
    return found


def reducers_for(design: Design, whatever_it_saves: bool, check_cancelled: CancelCheck) -> list[Added]:
    """Return reducers to be tried: before lines and valves of which a cheaper one would do with less on it.

    Those at which most can be saved. None where all of them together save less than one reducer costs, unless
    `whatever_it_saves`.
    """
    analysis = Analysis(design, check_cancelled=check_cancelled)
    saved = _saved(analysis)
    found = []
    for line_id in sorted(saved, key=lambda line_id: -saved[line_id])[:MOST_REDUCED]:
        before = _before(analysis, line_id)
        product = None if before is None else _as_wide(design, analysis.model.reaches_of_line(before[0])[0].bore_m)
        if before is None or product is None:
            continue
        price = price_of(design, product) or 0.0
        put = Added(line=before[0], at_m=before[1], product_id=product.product_id, price=price)
        if put not in found and (whatever_it_saves or price < sum(saved.values())):
            found.append(put)
    return found


def _before(analysis: Analysis, line_id: str) -> tuple[str, float] | None:
    """Return the line from which the water comes into one, and its far end [m]; None where that is not one line.

    None, too, where a reducer stands in it already.
    """
    flow, lines = analysis.state.flow, analysis.design.lines

    def runs(line: Line) -> tuple[str, str]:
        return (line.from_, line.to) if flow.line_flow_m3s(line.id) >= 0.0 else (line.to, line.from_)

    begins = runs(next(line for line in lines if line.id == line_id))[0]
    into = [line for line in lines if not line.shut and line.id != line_id and runs(line)[1] == begins]
    if len(into) != 1 or any(part.kind == "reducer" for part in into[0].inline):
        return None
    return into[0].id, into[0].pipe_length_m if runs(into[0])[1] == into[0].to else 0.0


def _saved(analysis: Analysis) -> dict[str, float]:
    """Return by line what pipes and valves behind its beginning would cost less at most if nothing stood on them.

    A cheaper choice is held against the cheapest that bears what stands there and is no narrower.
    """
    bears, any_ = problem_of(analysis), problem_of(analysis, any_class=True)
    found: dict[str, float] = defaultdict(float)
    own = {one.line.id: one for one in bears.lines}
    for one in any_.lines:
        base = own.get(one.line.id)
        for choice in one.choices:
            wide = [other.price_per_m for other in (base.choices if base else ()) if other.bore_m >= choice.bore_m]
            if wide and min(wide) > choice.price_per_m:
                saving = (min(wide) - choice.price_per_m) * one.line.pipe_length_m
                found[one.line.id] = max(found[one.line.id], saving)
            elif not wide:
                found[one.line.id] = max(found[one.line.id], one.price(0))
    valves = {one.outlet.id: one for one in bears.valves}
    for valve in any_.valves:
        route = analysis.routes.get(valve.outlet.id)
        held = valves.get(valve.outlet.id)
        if route is None or not route.legs:
            continue
        for sold in valve.choices:
            as_good = [
                other.price for other in (held.choices if held else ())
                if other.kv_m3h >= sold.kv_m3h and other.least_kpa <= sold.least_kpa
            ]  # fmt: skip
            saving = min(as_good) - sold.price if as_good else sold.price
            if saving > 0.0:
                last = route.legs[-1].line.id
                found[last] = max(found[last], saving)
    return dict(found)


def _as_wide(design: Design, bore_m: float) -> PartProduct | None:
    """Return the cheapest reducer that is about as wide as a line, else the widest; None where none has a price."""
    priced = [part for part in parts().values() if part.kind == "reducer" and price_of(design, part) is not None]
    wide = [part for part in priced if (part.bore_mm or 0.0) * MILLIMETRE_M >= ABOUT_AS_WIDE * bore_m]
    if wide:
        return min(wide, key=lambda part: price_of(design, part) or math.inf)
    return max(priced, key=lambda part: part.bore_mm or 0.0, default=None)


def _cheapest(design: Design, kind: PartKind) -> PartProduct | None:
    priced = [part for part in parts().values() if part.kind == kind and price_of(design, part) is not None]
    return min(priced, key=lambda part: price_of(design, part) or math.inf, default=None)
