"""Changes worth offering: each is made, solved, and offered only where it helps."""

import math
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import Any

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.change import changed
from leadsman.core.base.errors import CoreError
from leadsman.core.base.units import MILLIMETRE_M, lpm_from_m3s
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.catalogue import FloatValveProduct, PartProduct, PipeProduct, float_valves, parts, pipes
from leadsman.core.catalogue.product import PartKind
from leadsman.core.design import Design, FloatValveOutlet, Line, OutletBase, label
from leadsman.core.design.cost import price_of_change
from leadsman.core.design.fitted import part_document
from leadsman.core.findings.registry import Judgement, Remedy

LARGER_VALVE_TIMES = (1.5, 3.0)
SMALLER_VALVE_SHARES = (1.0, 0.5, 0.25)
ABOUT_AS_WIDE = 0.6  # of the line's bore: a part called by the pipe's size is often a little narrower; ours, no source
Rank = tuple[int, float, float]


@dataclass(frozen=True)
class Candidate:
    """A change to try: what it is called, and the JSON Patch that makes it."""

    text: str
    patch: list[dict[str, Any]]


def that_help(
    analysis: Analysis,
    candidates: Iterable[Candidate],
    measure: Callable[[Analysis], float | None],
    effect: Callable[[float], Wording],
    enough: float | None = None,
) -> list[Remedy]:
    """Return the candidates after which `measure` is larger by a hundredth or more, best value first.

    Those that bring it to what is `enough` come first, the cheapest of them first; the others by gain for the money.
    """
    before = measure(analysis) or 0.0
    helped: list[tuple[Rank, Remedy]] = []
    for candidate in candidates:
        after = changed(analysis, candidate.patch)
        try:
            value = measure(after) if after else None
        except CoreError:
            continue
        if value is not None and after is not None and value > before + abs(before) * 0.01 + 1e-9:
            price = price_of_change(analysis.document, after.document)
            remedy = Remedy(text=candidate.text, patch=candidate.patch, effect=effect(value), price=price)
            helped.append((_rank(value - before, price, enough is not None and value >= enough), remedy))
    return [remedy for _, remedy in sorted(helped, key=lambda entry: entry[0])]


def _rank(gain: float, price: float | None, cures: bool) -> Rank:
    if cures:
        return 0, math.inf if price is None else price, -gain
    if price is None:
        return 2, -gain, 0.0
    return 1, -gain / price if price > 0.0 else -math.inf, -gain


def that_end(
    analysis: Analysis, candidates: Iterable[Candidate], judge: Judgement, where: str, text: str
) -> list[Remedy]:
    """Return the candidates after which a judgement finds less at a place than before, the cheapest first."""

    def fewer(after: Analysis) -> float:
        return -float(sum(finding.where == where for finding in judge(after)))

    return that_help(analysis, candidates, fewer, lambda _: say(text), 0.0)


def with_parts(analysis: Analysis, text: str, added: Sequence[tuple[Line, dict[str, Any]]]) -> Candidate:
    """Return parts put into lines, each where its `at_m` says."""
    more: dict[str, list[dict[str, Any]]] = {}
    for line, part in added:
        more.setdefault(line.id, []).append(part)
    patch = []
    for index, line in enumerate(analysis.design.lines):
        if line.id in more:
            kept = [inline_part.model_dump(exclude_unset=True) for inline_part in line.inline]
            patch.append({"op": "add", "path": f"/lines/{index}/inline", "value": [*kept, *more[line.id]]})
    return Candidate(text, patch)


def drains(analysis: Analysis, line: Line, spots_m: Sequence[float]) -> Iterator[Candidate]:
    """Yield drains put into a line at some distances along it [m], all of them together."""
    product = sold_part("drain", 0.0)
    if product is not None:
        where = " and ".join(f"{at_m:.0f} m" for at_m in spots_m)
        text = f"{'a drain' if len(spots_m) == 1 else 'drains'} at {where} along {label(line)}"
        bore_m = analysis.model.reaches_of_line(line.id)[0].bore_m
        yield with_parts(analysis, text, [(line, part_document(product, at_m, bore_m)) for at_m in spots_m])


def sold_part(kind: PartKind, least_bore_m: float) -> PartProduct | None:
    """Return the cheapest part of a kind that is not narrower than a bore, else the widest; None where none is sold."""
    of_kind = [part for part in parts().values() if part.kind == kind]
    wide = [part for part in of_kind if (part.bore_mm or 0.0) * MILLIMETRE_M >= least_bore_m * ABOUT_AS_WIDE]
    if wide:
        return min(wide, key=lambda part: part.price or math.inf)
    return max(of_kind, key=lambda part: part.bore_mm or 0.0, default=None)


def more_flow(analysis: Analysis, outlet: OutletBase) -> list[Remedy]:
    """Return the larger pipes and the larger valve that give an outlet more water."""
    candidates = [*larger_pipes(analysis, outlet), *larger_valves(analysis, outlet)]
    return that_raise_flow(analysis, outlet, candidates)


def that_raise_flow(analysis: Analysis, outlet: OutletBase, candidates: Iterable[Candidate]) -> list[Remedy]:
    """Return the candidates that give an outlet more water to count on, most first."""

    def flow_m3s(changed: Analysis) -> float:
        return changed.state.outlets[outlet.id].judged_flow_m3s

    def effect(flow: float) -> Wording:
        return say("gives {}", Quantity(value=lpm_from_m3s(flow), unit="L/min"))

    return that_help(analysis, candidates, flow_m3s, effect, analysis.wanted_m3s(outlet))


def larger_pipes(analysis: Analysis, outlet: OutletBase) -> Iterator[Candidate]:
    """Yield each line of the route in the next larger pipe of its own family."""
    route = analysis.routes[outlet.id]
    for line in route.lines if route else ():
        yield from larger_pipe(analysis, line)


def larger_pipe(analysis: Analysis, line: Line) -> Iterator[Candidate]:
    """Yield a line in the next larger pipe of its own series, where there is one."""
    larger = next_larger(analysis.design, line)
    if larger is not None:
        yield other_pipe(analysis, line, larger)


def other_pipe(analysis: Analysis, line: Line, product: PipeProduct) -> Candidate:
    """Return a line laid in another product, with its bore and roughness."""
    index = analysis.design.lines.index(line)
    patch = [{"op": "replace", "path": f"/lines/{index}/product", "value": product.product_id}]
    patch += [
        {"op": "remove", "path": f"/lines/{index}/{key}"}
        for key in ("bore_mm", "roughness_mm")
        if getattr(line, key) is not None
    ]
    return Candidate(f"{label(line)} in {product.name}", patch)


def sold(design: Design) -> list[PipeProduct]:
    """Return all pipes that a line may be laid in: the design's own, and the catalogue's."""
    return [*design.own_pipes, *pipes().values()]


def next_larger(design: Design, line: Line) -> PipeProduct | None:
    """Return the next larger pipe of the line's series, or None."""
    if line.product is None:
        return None
    now = design.pipe(line.product)
    larger = [pipe for pipe in sold(design) if pipe.series == now.series and pipe.bore_m > now.bore_m]
    return min(larger, key=lambda pipe: pipe.bore_m, default=None)


def larger_valves(analysis: Analysis, outlet: OutletBase) -> Iterator[Candidate]:
    """Yield the cheapest float valves that pass half as much again, and three times as much."""
    if isinstance(outlet, FloatValveOutlet):
        found: dict[str, Candidate] = {}
        for times in LARGER_VALVE_TIMES:
            larger = [valve for valve in float_valves().values() if valve.kv_m3h >= times * outlet.valve.kv_m3h]
            if larger:
                cheapest = min(larger, key=lambda valve: valve.price or math.inf)
                found[cheapest.product_id] = other_valve(analysis, outlet, cheapest)
        yield from found.values()


def smaller_valves(analysis: Analysis, outlet: FloatValveOutlet) -> list[Candidate]:
    """Return the float valves that pass next less than an outlet's, next less than half of it, and than a quarter."""
    found: dict[str, Candidate] = {}
    for share in SMALLER_VALVE_SHARES:
        smaller = [valve for valve in float_valves().values() if valve.kv_m3h < share * outlet.valve.kv_m3h]
        if smaller:
            largest = max(smaller, key=lambda valve: valve.kv_m3h)
            found[largest.product_id] = other_valve(analysis, outlet, largest)
    return list(found.values())


def other_valve(analysis: Analysis, outlet: FloatValveOutlet, product: FloatValveProduct) -> Candidate:
    """Return an outlet with another float valve, closing at the level of the one before."""
    index = analysis.document.outlets.index(
        next(candidate for candidate in analysis.document.outlets if candidate.id == outlet.id)
    )
    kept = outlet.valve.model_dump(include={"closes_at_m", "steps"}, exclude_unset=True, by_alias=True)
    valve = {
        **kept,
        "product": product.product_id,
        "kv_m3h": product.kv_m3h,
        "band_m": min(product.band_m, outlet.valve.closes_at_m),
        "min_pressure_kpa": product.min_kpa,
    }
    if product.sure_kpa is not None:
        valve["sure_pressure_kpa"] = product.sure_kpa
    if product.max_kpa is not None:
        valve["max_pressure_kpa"] = product.max_kpa
    patch = [{"op": "replace", "path": f"/outlets/{index}/valve", "value": valve}]
    return Candidate(f"{product.spoken} (Kv {product.kv_m3h:g})", patch)
