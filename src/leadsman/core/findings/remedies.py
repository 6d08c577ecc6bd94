"""Changes worth offering: each is made, solved, and offered only where it helps."""

import json
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from typing import Any

import jsonpatch

from leadsman.core.analysis import Analysis
from leadsman.core.catalogue import PipeProduct, pipes
from leadsman.core.design import Design, FloatValveOutlet, Line, OutletBase, label
from leadsman.core.design_file import read_design, write_design
from leadsman.core.errors import CoreError
from leadsman.core.findings.registry import Remedy
from leadsman.core.units import lpm_from_m3s
from leadsman.core.wording import Quantity, Wording, say

LARGER_VALVE_TIMES = 2.0


@dataclass(frozen=True)
class Candidate:
    """A change to try: what it is called, and the JSON Patch that makes it."""

    text: str
    patch: list[dict[str, Any]]


def changed(analysis: Analysis, patch: list[dict[str, Any]]) -> Analysis | None:
    """Return the analysis of the design with a patch made, or None where that is no design."""
    key = json.dumps(patch)
    if key not in analysis.variants:  # two findings may try the same change
        try:
            document = jsonpatch.apply_patch(write_design(analysis.document), patch)
            analysis.variants[key] = Analysis(read_design(document), heed=analysis.heed)
        except (CoreError, jsonpatch.JsonPatchException):
            analysis.variants[key] = None
    return analysis.variants[key]


def that_help(
    analysis: Analysis,
    candidates: Iterable[Candidate],
    measure: Callable[[Analysis], float | None],
    effect: Callable[[float], Wording],
) -> list[Remedy]:
    """Return the candidates after which `measure` is larger by a hundredth or more, best first."""
    before = measure(analysis) or 0.0
    helped: list[tuple[float, Remedy]] = []
    for candidate in candidates:
        after = changed(analysis, candidate.patch)
        try:
            value = measure(after) if after else None
        except CoreError:
            continue
        if value is not None and value > before * 1.01 + 1e-9:
            helped.append((value, Remedy(candidate.text, candidate.patch, effect(value))))
    return [remedy for _, remedy in sorted(helped, key=lambda entry: -entry[0])]


def more_flow(analysis: Analysis, outlet: OutletBase) -> list[Remedy]:
    """Return the larger pipes and the larger valve that give an outlet more water."""
    return that_raise_flow(analysis, outlet, [*larger_pipes(analysis, outlet), *larger_valve(analysis, outlet)])


def that_raise_flow(analysis: Analysis, outlet: OutletBase, candidates: Iterable[Candidate]) -> list[Remedy]:
    """Return the candidates that give an outlet more water to count on, most first."""

    def flow_m3s(changed: Analysis) -> float:
        return changed.state.outlets[outlet.id].judged_flow_m3s

    def effect(flow: float) -> Wording:
        return say("gives {}", Quantity(lpm_from_m3s(flow), "L/min"))

    return that_help(analysis, candidates, flow_m3s, effect)


def larger_pipes(analysis: Analysis, outlet: OutletBase) -> Iterator[Candidate]:
    """Yield each line of the route in the next larger pipe of its own family."""
    route = analysis.routes[outlet.id]
    for line in route.lines if route else ():
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


def larger_valve(analysis: Analysis, outlet: OutletBase) -> Iterator[Candidate]:
    """Yield a float valve of twice the Kv."""
    if isinstance(outlet, FloatValveOutlet):
        index, kv = analysis.design.outlets.index(outlet), outlet.valve.kv_m3h * LARGER_VALVE_TIMES
        path = f"/outlets/{index}/valve/kv_m3h"
        yield Candidate(f"a float valve of Kv {kv:g}", [{"op": "replace", "path": path, "value": round(kv, 3)}])
