"""Pressure while everything is shut: more than a pipe is good for, or than a valve can close against."""

from collections.abc import Iterator
from functools import partial

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.pressure_limit import hottest_c, pipe_temperature_c, products_of, stands_on_pa, strain
from leadsman.core.base.units import head_m_from_pa, kpa_from_pa, pa_from_kpa
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import FloatValveOutlet, Line, label
from leadsman.core.design.fitted import part_document
from leadsman.core.findings.registry import Finding, Question, Remedy, Severity, judgement
from leadsman.core.findings.remedies import other_pipe, sold, sold_part, that_help, with_parts
from leadsman.core.findings.settling import is_settled, outlet_causes, static_causes, what_would_settle

KEPT_BY_REDUCER = 0.5  # of what the valve closes against; ours, no source


@judgement("class-exceeded", "Pressure above what the pipe is rated for", Question.DOES_IT_RUN)
def class_exceeded(analysis: Analysis) -> Iterator[Finding]:
    """Yield each line that holds more than its class where it is deepest, all shut and every vessel at its brim.

    Lines whose pipe is given by its bore alone have no class and are not judged.
    """
    for line in analysis.design.lines:
        worst = strain(analysis, line)
        if worst is None:
            continue
        spare_m = head_m_from_pa(worst.limit_pa - worst.pressure_pa, analysis.model.water.density_kgm3)
        causes = static_causes(analysis, worst.number)
        if spare_m >= 0.0 and is_settled(spare_m, causes):
            continue
        surely = spare_m < 0.0 and is_settled(spare_m, causes)
        stands, limit = (Quantity(value=kpa_from_pa(pa), unit="kPa") for pa in (worst.pressure_pa, worst.limit_pa))
        yield Finding(
            severity=Severity.STOP if surely else Severity.WATCH,
            where=line.id,
            value=stands.value,
            limit=limit.value,
            unit="kPa",
            headline=say(
                "Pressure in {} is above what its pipe is rated for"
                if surely
                else "Pressure in {} may be above what its pipe is rated for",
                label(line),
            ),
            why=(
                *say(
                    "{} {} along it with all shut and the tank full, on pipe rated for {}{}. It may hold for a "
                    "season and then burst. ",
                    Quantity(value=worst.at_m, unit="m", digits=0),
                    stands,
                    limit,
                    " while it is so warm" if worst.warm else "",
                ),
                *what_would_settle(spare_m, causes),
            ),
            try_remedies=partial(_stronger, analysis, line),
            spot=(line.id, worst.at_m),
        )


def _stronger(analysis: Analysis, line: Line) -> list[Remedy]:
    """Return the pipes of the same size that hold what stands in a line, the cheapest first."""
    if line.product is None:
        return []
    index, now = analysis.design.lines.index(line), analysis.design.pipe(line.product)
    known = [
        (stronger_pipe.class_kpa or 0.0, stronger_pipe)
        for stronger_pipe in sold(analysis.design)
        if stronger_pipe.same_size(now)
    ]
    known.sort(key=lambda pair: (pair[0], -pair[1].bore_m))
    stronger = [stronger_pipe for class_kpa, stronger_pipe in known if class_kpa > (now.class_kpa or 0.0)]

    def holds_kpa(after: Analysis) -> float | None:
        worst = strain(after, after.design.lines[index])
        return kpa_from_pa(worst.limit_pa) if worst and worst.pressure_pa <= worst.limit_pa else None

    def effect(limit_kpa: float) -> Wording:
        return say("rated for {}", Quantity(value=limit_kpa, unit="kPa"))

    candidates = [other_pipe(analysis, line, stronger_pipe) for stronger_pipe in stronger]
    return that_help(analysis, candidates, holds_kpa, effect, 0.0)


@judgement("pipe-too-hot", "A pipe hotter than its data covers", Question.DOES_IT_RUN)
def pipe_too_hot(analysis: Analysis) -> Iterator[Finding]:
    """Yield each line whose pipe has a class and is hotter than what is published of how much of it then is left."""
    pipe_c = pipe_temperature_c(analysis)
    for line in analysis.design.lines:
        rated = [product for product in products_of(analysis.design, line) if product.class_kpa is not None]
        limit_c = min((hottest_c(product) for product in rated), default=pipe_c)
        if pipe_c > limit_c:
            yield Finding(
                severity=Severity.FIX,
                where=line.id,
                value=pipe_c,
                limit=limit_c,
                unit="°C",
                headline=say("{} is too hot to know what its pipe holds", label(line)),
                why=say(
                    "Pipe temperature {}. How much of its class is left is known here up to {}: it is not judged "
                    "whether it holds. Bury or shade it, or ask its maker.",
                    Quantity(value=pipe_c, unit="°C"),
                    Quantity(value=limit_c, unit="°C"),
                ),
            )


@judgement("valve-cannot-shut", "A valve cannot shut against the pressure", Question.DOES_IT_RUN)
def valve_cannot_shut(analysis: Analysis) -> Iterator[Finding]:
    """Yield each float valve that more stands on than it closes against, all shut and every vessel at its brim."""
    for outlet in analysis.fed_outlets:
        if not isinstance(outlet, FloatValveOutlet) or outlet.valve.max_pressure_kpa is None:
            continue
        stands_kpa, most_kpa = _stands_kpa(analysis, outlet), outlet.valve.max_pressure_kpa
        if stands_kpa is None:
            continue
        spare_m = head_m_from_pa(pa_from_kpa(most_kpa - stands_kpa), analysis.model.water.density_kgm3)
        causes = outlet_causes(analysis, outlet)
        if spare_m >= 0.0 and is_settled(spare_m, causes):
            continue
        surely = spare_m < 0.0 and is_settled(spare_m, causes)
        yield Finding(
            severity=Severity.STOP if surely else Severity.WATCH,
            where=outlet.id,
            value=stands_kpa,
            limit=most_kpa,
            unit="kPa",
            headline=say("The valve of {} cannot shut" if surely else "The valve of {} may not shut", label(outlet)),
            why=(
                *say(
                    "{} act on it when all is shut, and it shuts against {} at most: above that it keeps running and "
                    "the vessel overflows. A smaller seat, a longer arm or a pressure reducer before it would let it "
                    "shut. ",
                    Quantity(value=stands_kpa, unit="kPa"),
                    Quantity(value=most_kpa, unit="kPa"),
                ),
                *what_would_settle(spare_m, causes),
            ),
            try_remedies=partial(_reduced, analysis, outlet),
        )


def _stands_kpa(analysis: Analysis, outlet: FloatValveOutlet) -> float | None:
    stands = stands_on_pa(analysis, outlet)
    return None if stands is None else kpa_from_pa(stands)


def _reduced(analysis: Analysis, outlet: FloatValveOutlet) -> list[Remedy]:
    """Return a pressure reducer at the end of the line that leads to the valve, where the valve then shuts."""
    limit_kpa, route = outlet.valve.max_pressure_kpa, analysis.routes[outlet.id]
    if limit_kpa is None or route is None or not route.legs:
        return []
    leg = route.legs[-1]
    kept_kpa = round(limit_kpa * KEPT_BY_REDUCER, 1)
    at_m = leg.line.pipe_length_m if leg.forward else 0.0
    bore_m = analysis.model.reaches_of_line(leg.line.id)[-1].bore_m
    product = sold_part("reducer", bore_m)
    if product is None:
        return []
    part = {**part_document(product, at_m, bore_m), "outlet_kpa": kept_kpa}

    def under_kpa(after: Analysis) -> float | None:
        changed = next(candidate for candidate in after.fed_outlets if candidate.id == outlet.id)
        stands = _stands_kpa(after, changed) if isinstance(changed, FloatValveOutlet) else None
        return limit_kpa - stands if stands is not None and stands <= limit_kpa else None

    def effect(under: float) -> Wording:
        return say("then {} act on it", Quantity(value=limit_kpa - under, unit="kPa"))

    name = say("a pressure reducer set to {} before it", Quantity(value=kept_kpa, unit="kPa"))
    return that_help(analysis, [with_parts(analysis, name, [(leg.line, part)])], under_kpa, effect, 0.0)
