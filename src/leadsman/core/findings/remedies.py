"""Changes worth offering: each is made, solved, and offered only where it helps."""

import math
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import Any

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.change import changed
from leadsman.core.base.errors import CoreError
from leadsman.core.base.units import MILLIMETRE_M, lpm_from_m3s
from leadsman.core.base.wording import Quantity, Wording, listed, say
from leadsman.core.catalogue import FloatValveProduct, PartProduct, PipeProduct, float_valves, parts, pipes
from leadsman.core.catalogue.product import PartKind
from leadsman.core.design import Design, FloatValveOutlet, Line, OutletBase, label
from leadsman.core.design.cost import price_of_change
from leadsman.core.design.fitted import part_document, valve_document
from leadsman.core.findings.registry import Judgement, Remedy

LARGER_VALVE_TIMES = 1.5
SMALLER_VALVE_SHARES = (1.0, 0.5, 0.25)
ABOUT_AS_WIDE = 0.6  # of the line's bore: a part called by the pipe's size is often a little narrower; ours, no source
Rank = tuple[int, float, float]


@dataclass(frozen=True)
class Candidate:
    """A change to try: what it is called, and the JSON Patch that makes it."""

    text: Wording
    patch: list[dict[str, Any]]


@dataclass(frozen=True)
class Ladder:
    """Changes of one kind, each going farther than the one before: the first that is enough is offered.

    `rises` tells that each helps more than the one before, so that the first need not be sought one by one.
    """

    steps: Sequence[Candidate]
    rises: bool = True


def that_help(
    analysis: Analysis,
    candidates: Iterable[Candidate | Ladder],
    measure: Callable[[Analysis], float | None],
    effect: Callable[[float], Wording],
    enough: float | None = None,
    at_worst: Sequence[Ladder] = (),
) -> list[Remedy]:
    """Return the candidates after which `measure` is larger by a hundredth or more, best value first.

    Those that bring it to what is `enough` come first, the cheapest of them first; the others by gain for the money.

    Args:
        at_worst: what is tried only where nothing else is enough.
    """
    trial = _Trial(analysis, measure, effect, enough)
    for candidate in candidates:
        trial.take(candidate if isinstance(candidate, Ladder) else Ladder([candidate]))
    if enough is not None and not trial.is_cured:
        for ladder in at_worst:
            trial.take(ladder)
    return [remedy for _, remedy in sorted(trial.helped, key=lambda entry: entry[0])]


class _Trial:
    """Changes tried against one measure, each solved once, and what of them helped."""

    def __init__(
        self,
        analysis: Analysis,
        measure: Callable[[Analysis], float | None],
        effect: Callable[[float], Wording],
        enough: float | None,
    ) -> None:
        self.analysis, self.measure, self.effect, self.enough = analysis, measure, effect, enough
        self.before = measure(analysis) or 0.0
        self.helped: list[tuple[Rank, Remedy]] = []

    @property
    def is_cured(self) -> bool:
        """Whether a change was found that is enough."""
        return any(remedy.enough for _, remedy in self.helped)

    def take(self, ladder: Ladder) -> None:
        """Take the first step of a ladder that is enough; where none is, the one that helps most for its size."""
        steps = list(ladder.steps)
        values = [self._value(steps[0])] if steps else []
        if not steps:
            return
        if self.enough is not None and not self._is_enough(values[0]) and len(steps) > 1:
            number = self._first_enough(steps) if ladder.rises else self._first_of(steps)
            if number is None:  # no size of it is enough: the first that helps is offered for what it is
                number = 0 if self._helps(values[0]) or ladder.rises else self._best(steps)
            self._offer(steps[number])
        else:
            self._offer(steps[0])

    def _value(self, candidate: Candidate) -> float | None:
        after = changed(self.analysis, candidate.patch)
        try:
            return self.measure(after) if after else None
        except CoreError:
            return None

    def _is_enough(self, value: float | None) -> bool:
        return self.enough is not None and value is not None and value >= self.enough

    def _helps(self, value: float | None) -> bool:
        return value is not None and value > self.before + abs(self.before) * 0.01 + 1e-9

    def _first_enough(self, steps: Sequence[Candidate]) -> int | None:
        """Return the number of the first step that is enough, each helping more than the one before."""
        low, high = 0, len(steps) - 1
        if not self._is_enough(self._value(steps[high])):
            return None
        while high - low > 1:
            middle = (low + high) // 2
            low, high = (low, middle) if self._is_enough(self._value(steps[middle])) else (middle, high)
        return high

    def _first_of(self, steps: Sequence[Candidate]) -> int | None:
        return next((number for number, step in enumerate(steps) if self._is_enough(self._value(step))), None)

    def _best(self, steps: Sequence[Candidate]) -> int:
        values = [self._value(step) for step in steps]
        return max(range(len(steps)), key=lambda number: -math.inf if (value := values[number]) is None else value)

    def _offer(self, candidate: Candidate) -> None:
        value = self._value(candidate)
        after = changed(self.analysis, candidate.patch)
        if value is None or after is None or not self._helps(value):
            return
        price, cures = price_of_change(self.analysis.document, after.document), self._is_enough(value)
        remedy = Remedy(
            text=candidate.text,
            patch=candidate.patch,
            effect=self.effect(value),
            price=price,
            enough=None if self.enough is None else cures,
        )
        self.helped.append((_rank(value - self.before, price, cures), remedy))


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


def with_parts(analysis: Analysis, text: Wording, added: Sequence[tuple[Line, dict[str, Any]]]) -> Candidate:
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
        where = listed([(Quantity(value=at_m, unit="m", digits=0),) for at_m in spots_m])
        text = say("{} at {} along {}", "a drain" if len(spots_m) == 1 else "drains", where, label(line))
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


def that_raise_flow(analysis: Analysis, outlet: OutletBase, candidates: Iterable[Candidate | Ladder]) -> list[Remedy]:
    """Return the candidates that give an outlet more water to count on, most first."""

    def flow_m3s(changed: Analysis) -> float:
        return changed.state.outlets[outlet.id].judged_flow_m3s

    def effect(flow: float) -> Wording:
        return say("gives {}", Quantity(value=lpm_from_m3s(flow), unit="L/min"))

    wanted = analysis.wanted_m3s(outlet)
    return that_help(analysis, candidates, flow_m3s, effect, wanted, [whole_way(analysis, outlet)])


def larger_pipes(analysis: Analysis, outlet: OutletBase) -> Iterator[Ladder]:
    """Yield each line of the route in the larger pipes of its own family, the next larger first."""
    route = analysis.routes[outlet.id]
    for line in route.lines if route else ():
        yield larger_pipe(analysis, line)


def larger_pipe(analysis: Analysis, line: Line) -> Ladder:
    """Return a line in the larger pipes of its own series, the next larger first."""
    return Ladder([other_pipe(analysis, line, larger) for larger in larger_sizes(analysis.design, line)])


def whole_way(analysis: Analysis, outlet: OutletBase) -> Ladder:
    """Return all lines to an outlet larger by one size, by two, and so on, each as far as its series goes."""
    route = analysis.routes[outlet.id]
    sizes = [(line, larger_sizes(analysis.design, line)) for line in (route.lines if route else ())]
    steps = []
    for number in range(max((len(larger) for _, larger in sizes), default=0)):
        pipes_of = [(line, larger[min(number, len(larger) - 1)]) for line, larger in sizes if larger]
        laid = [other_pipe(analysis, line, product) for line, product in pipes_of]
        if len(laid) > 1:
            text = listed([say("{} in {}", label(line), product.name) for line, product in pipes_of])
            steps.append(Candidate(text, [change for candidate in laid for change in candidate.patch]))
    return Ladder(steps)


def other_pipe(analysis: Analysis, line: Line, product: PipeProduct) -> Candidate:
    """Return a line laid in another product, with its bore and roughness."""
    index = analysis.design.lines.index(line)
    patch = [{"op": "replace", "path": f"/lines/{index}/product", "value": product.product_id}]
    patch += [
        {"op": "remove", "path": f"/lines/{index}/{key}"}
        for key in ("bore_mm", "roughness_mm")
        if getattr(line, key) is not None
    ]
    return Candidate(say("{} in {}", label(line), product.name), patch)


def sold(design: Design) -> list[PipeProduct]:
    """Return all pipes that a line may be laid in: the design's own, and the catalogue's."""
    return [*design.own_pipes, *pipes().values()]


def larger_sizes(design: Design, line: Line) -> list[PipeProduct]:
    """Return the larger pipes of the line's series, the next larger first."""
    if line.product is None:
        return []
    now = design.pipe(line.product)
    larger = [pipe for pipe in sold(design) if pipe.series == now.series and pipe.bore_m > now.bore_m]
    return sorted(larger, key=lambda pipe: pipe.bore_m)


def larger_valves(analysis: Analysis, outlet: OutletBase) -> Iterator[Ladder]:
    """Yield the cheapest float valves that pass more, the least of them first; those that pass half more at least."""
    if not isinstance(outlet, FloatValveOutlet):
        return
    larger = [valve for valve in float_valves().values() if valve.kv_m3h >= LARGER_VALVE_TIMES * outlet.valve.kv_m3h]
    larger.sort(key=lambda valve: (valve.price or math.inf, valve.kv_m3h))
    steps: list[FloatValveProduct] = []
    for valve in larger:  # dearer ones only where they pass more
        if not steps or valve.kv_m3h > steps[-1].kv_m3h:
            steps.append(valve)
    yield Ladder([other_valve(analysis, outlet, valve) for valve in steps], rises=False)


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
    valve = valve_document(outlet, product)
    patch = [{"op": "replace", "path": f"/outlets/{index}/valve", "value": valve}]
    return Candidate(say("{} ({})", product.spoken, Quantity(value=product.kv_m3h, unit="m³/h")), patch)


def that_set_lower(
    analysis: Analysis, outlet: FloatValveOutlet, level_m: float, below_m: float, effect: Callable[[float], Wording]
) -> list[Remedy]:
    """Return a float set to a level [m], where that lies above the floor; none where its level goes by the season.

    Args:
        below_m: the height that it has to shut under [m].
        effect: says how far under it the float shuts then [m].
    """
    if level_m <= 0.0 or outlet.valve.steps:
        return []
    index = [each.id for each in analysis.document.outlets].index(outlet.id)
    patch = [{"op": "replace", "path": f"/outlets/{index}/valve/closes_at_m", "value": level_m}]

    def under_m(after: Analysis) -> float:
        set_lower = next(each for each in after.design.outlets if each.id == outlet.id)
        return below_m - set_lower.valve.closes_at_m if isinstance(set_lower, FloatValveOutlet) else 0.0

    text = say("the float set to {}", Quantity(value=level_m, unit="m", digits=3))
    return that_help(analysis, [Candidate(text, patch)], under_m, effect, 0.0)
