"""Pressure while everything is shut: more than a pipe is good for, or than a valve can close against."""

from collections.abc import Iterator
from dataclasses import dataclass
from functools import partial
from typing import Any

from leadsman.core.analysis import Analysis
from leadsman.core.catalogue import PipeProduct
from leadsman.core.design import Design, FloatValveOutlet, Line, label
from leadsman.core.findings.registry import Finding, Question, Remedy, Severity, judgement
from leadsman.core.findings.remedies import Candidate, other_pipe, sold, that_help
from leadsman.core.pressure_class import share_of_class, table_of
from leadsman.core.units import kpa_from_pa, pa_from_head_m
from leadsman.core.wording import Quantity, Wording, say

KEPT_BY_REDUCER = 0.5  # of what the valve closes against; ours, no source


@dataclass(frozen=True)
class _Strain:
    """Where a line is strained most: what stands there, and what its pipe is good for at its temperature [°C]."""

    at_m: float
    pressure_kpa: float
    limit_kpa: float
    pipe_c: float
    warm: bool


def _strain(analysis: Analysis, line: Line) -> _Strain | None:
    """Return where a line is strained most; None where its pipe has no class, or nothing stands in it."""
    flow, along, density = analysis.brimful, analysis.model.along, analysis.model.water.density_kgm3
    case = analysis.scenario
    pipe_c = case.pipe_c if case.pipe_c is not None else analysis.model.water.temperature_c
    worst: _Strain | None = None
    for number in along.of_line[line.id] if flow else ():
        point, head_m = along.points[number], flow.point_head_m(number) if flow else None
        for product in _products_at(analysis.design, line, point.at_m) if head_m is not None else ():
            if product.class_kpa is None:
                continue
            table = table_of(product.family)
            share = share_of_class(table, pipe_c)
            limit_kpa = product.class_kpa * (table[-1][1] if share is None else share)
            pressure_kpa = kpa_from_pa(pa_from_head_m((head_m or 0.0) - point.pipe_m, density))
            if worst is None or pressure_kpa / limit_kpa > worst.pressure_kpa / worst.limit_kpa:
                worst = _Strain(point.at_m, pressure_kpa, limit_kpa, pipe_c, share is None or share < 1.0)
    return worst


def _products_at(design: Design, line: Line, at_m: float) -> list[PipeProduct]:
    """Return the products that a point of a line lies on: where two meet, both."""
    if not line.runs:
        return [design.pipe(line.product)] if line.product else []
    found, end_m = [], 0.0
    for run in line.runs:
        start_m, end_m = end_m, end_m + run.length_m
        if start_m <= at_m <= end_m:
            found.append(design.pipe(run.product))
    return found


@judgement("class-exceeded", "More pressure than the pipe is good for", Question.DOES_IT_RUN)
def class_exceeded(analysis: Analysis) -> Iterator[Finding]:
    """Yield each line that holds more than its class where it is deepest, all shut and every vessel at its brim.

    Lines whose pipe is given by its bore alone have no class and are not judged.
    """
    for line in analysis.design.lines:
        worst = _strain(analysis, line)
        if worst is None or worst.pressure_kpa <= worst.limit_kpa:
            continue
        yield Finding(
            Severity.STOP,
            line.id,
            worst.pressure_kpa,
            worst.limit_kpa,
            "kPa",
            say("{} holds more pressure than its pipe is good for", label(line)),
            say(
                "At {} along it {} stand, all shut and the tank full, on pipe that is good for {}{}. "
                "It may hold for a season, and burst.",
                Quantity(worst.at_m, "m", digits=0),
                Quantity(worst.pressure_kpa, "kPa"),
                Quantity(worst.limit_kpa, "kPa"),
                " while it is so warm" if worst.warm else "",
            ),
            partial(_stronger, analysis, line),
        )


def _stronger(analysis: Analysis, line: Line) -> list[Remedy]:
    """Return the pipes of the same size that hold what stands in a line, the one of least class, and widest, first."""
    if line.product is None:
        return []
    index, now = analysis.design.lines.index(line), analysis.design.pipe(line.product)
    known = [(one.class_kpa or 0.0, one) for one in sold(analysis.design) if one.same_size(now)]
    known.sort(key=lambda pair: (pair[0], -pair[1].bore_m))
    stronger = [one for class_kpa, one in known if class_kpa > (now.class_kpa or 0.0)]

    def holds_kpa(after: Analysis) -> float | None:
        worst = _strain(after, after.design.lines[index])
        return worst.limit_kpa if worst and worst.pressure_kpa <= worst.limit_kpa else None

    def effect(limit_kpa: float) -> Wording:
        return say("good for {}", Quantity(limit_kpa, "kPa"))

    candidates = [other_pipe(analysis, line, one) for one in stronger]
    order = [one.text for one in candidates]
    return sorted(that_help(analysis, candidates, holds_kpa, effect), key=lambda remedy: order.index(remedy.text))


@judgement("valve-cannot-shut", "A valve cannot shut against the pressure", Question.DOES_IT_RUN)
def valve_cannot_shut(analysis: Analysis) -> Iterator[Finding]:
    """Yield each float valve that more stands on than it closes against, all shut and every vessel at its brim."""
    for outlet in analysis.fed_outlets:
        if not isinstance(outlet, FloatValveOutlet) or outlet.valve.max_pressure_kpa is None:
            continue
        stands_kpa = _stands_kpa(analysis, outlet)
        if stands_kpa is None or stands_kpa <= outlet.valve.max_pressure_kpa:
            continue
        yield Finding(
            Severity.STOP,
            outlet.id,
            stands_kpa,
            outlet.valve.max_pressure_kpa,
            "kPa",
            say("The valve of {} cannot shut", label(outlet)),
            say(
                "{} stand on it when all is shut, and it closes against {}: it runs on, and the vessel runs over. "
                "A smaller seat, a longer arm or a pressure reducer before it would let it shut.",
                Quantity(stands_kpa, "kPa"),
                Quantity(outlet.valve.max_pressure_kpa, "kPa"),
            ),
            partial(_reduced, analysis, outlet),
        )


def _stands_kpa(analysis: Analysis, outlet: FloatValveOutlet) -> float | None:
    flow = analysis.brimful
    head_m = flow.outlet_head_m(outlet.id) if flow else None
    if head_m is None:
        return None
    over_m = head_m - analysis.model.layout.outlet_height_m(outlet)
    return kpa_from_pa(pa_from_head_m(over_m, analysis.model.water.density_kgm3))


def _reduced(analysis: Analysis, outlet: FloatValveOutlet) -> list[Remedy]:
    """Return a pressure reducer at the end of the line that leads to the valve, where the valve then shuts."""
    limit_kpa, route = outlet.valve.max_pressure_kpa, analysis.routes[outlet.id]
    if limit_kpa is None or route is None or not route.legs:
        return []
    leg = route.legs[-1]
    index = analysis.design.lines.index(leg.line)
    kept_kpa = round(limit_kpa * KEPT_BY_REDUCER, 1)
    at_m = leg.line.pipe_length_m if leg.forward else 0.0
    part: dict[str, Any] = {"kind": "reducer", "at_m": at_m, "outlet_kpa": kept_kpa}
    kept = [one.model_dump(exclude_unset=True) for one in leg.line.inline]
    patch: list[dict[str, Any]] = [{"op": "add", "path": f"/lines/{index}/inline", "value": [*kept, part]}]

    def under_kpa(after: Analysis) -> float | None:
        changed = next(one for one in after.fed_outlets if one.id == outlet.id)
        stands = _stands_kpa(after, changed) if isinstance(changed, FloatValveOutlet) else None
        return limit_kpa - stands if stands is not None and stands <= limit_kpa else None

    def effect(under: float) -> Wording:
        return say("then {} stand on it", Quantity(limit_kpa - under, "kPa"))

    name = f"a pressure reducer set to {kept_kpa:g} kPa before it"
    return that_help(analysis, [Candidate(name, patch)], under_kpa, effect)
