"""A draw that is taken whatever the head, and leaves too little of it; or a network that has no answer."""

from collections.abc import Callable, Iterator
from functools import partial

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import kpa_from_pa, pa_from_head_m
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import FixedOutlet, Place, label
from leadsman.core.findings.registry import Finding, Question, Remedy, Severity, judgement
from leadsman.core.findings.remedies import larger_pipes, that_help
from leadsman.core.steady.answer import OutletState


@judgement("draw-short", "A fixed draw is short of pressure", Question.DOES_IT_RUN)
def draw_short(analysis: Analysis) -> Iterator[Finding]:
    """Yield each fixed draw below its least pressure, and each draw at a place that the water does not reach."""
    state = analysis.state
    for outlet in analysis.fed_outlets:
        if isinstance(outlet, FixedOutlet) and analysis.answer(outlet).state is OutletState.SHORT:
            height_m, head_m = state.layout.outlet_height_m(outlet), analysis.answer(outlet).head_m

            def over_kpa(changed: Analysis, outlet: FixedOutlet = outlet, height_m: float = height_m) -> float | None:
                return _kpa(changed, changed.answer(outlet).head_m, height_m)

            pipes = partial(that_help, analysis, larger_pipes(analysis, outlet), over_kpa, _brings)
            yield _short(outlet, _kpa(analysis, head_m, height_m) or 0.0, outlet.min_pressure_kpa, pipes)
    for place in analysis.design.places:
        if not state.converged or place.draw_lpm <= 0.0:
            continue
        head_m = state.heads_m[place.id]
        if head_m is None or head_m < place.ground_m:
            yield _short(place, _kpa(analysis, head_m, place.ground_m), 0.0, list)


@judgement("no-answer", "No steady flow was found", Question.DOES_IT_RUN)
def no_answer(analysis: Analysis) -> Iterator[Finding]:
    """Yield one finding where the network has no steady state."""
    state = analysis.state
    if not state.converged:
        yield Finding(
            severity=Severity.STOP,
            where=analysis.design.lines[0].id if analysis.design.lines else "",
            value=None,
            limit=None,
            unit="L/min",
            headline=say("No steady flow was found for this network"),
            why=(*say("As planned, "), *state.why, *say(".")),
        )


def _kpa(analysis: Analysis, head_m: float | None, height_m: float) -> float | None:
    return None if head_m is None else kpa_from_pa(pa_from_head_m(head_m - height_m, analysis.model.water.density_kgm3))


def _brings(pressure_kpa: float) -> Wording:
    return say("leaves it {}", Quantity(value=pressure_kpa, unit="kPa"))


def _short(
    where: FixedOutlet | Place, has_kpa: float | None, least_kpa: float, try_remedies: Callable[[], list[Remedy]]
) -> Finding:
    has = say("has {}", Quantity(value=has_kpa, unit="kPa")) if has_kpa is not None else say("gets no water")
    return Finding(
        severity=Severity.STOP,
        where=where.id,
        value=has_kpa,
        limit=least_kpa,
        unit="kPa",
        headline=say("{} is short of pressure", label(where)),
        why=(
            *say("Taking its flow it needs {} and ", Quantity(value=least_kpa, unit="kPa")),
            *has,
            *say(": the plan asks for more water than comes, so the numbers of the other outlets do not hold either."),
        ),
        try_remedies=try_remedies,
    )
