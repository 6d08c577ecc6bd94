"""An outlet that is meant to run and gets no water."""

from collections.abc import Iterator

from leadsman.core.analysis import Analysis
from leadsman.core.answer import OutletState
from leadsman.core.design import label
from leadsman.core.findings.registry import Finding, Question, Severity, judgement
from leadsman.core.wording import Quantity, say


@judgement("dry-outlet", "An outlet gets no water", Question.DOES_IT_RUN)
def dry_outlet(analysis: Analysis) -> Iterator[Finding]:
    """Yield each open outlet that the water does not reach, or whose line humps over the level."""
    layout = analysis.state.layout
    for outlet in analysis.fed_outlets:
        answer = analysis.answer(outlet)
        height_m, route = layout.outlet_height_m(outlet), analysis.routes[outlet.id]
        if answer.state is OutletState.DRY and analysis.state.converged:
            over_m = None if answer.static_head_m is None else answer.static_head_m - height_m
            why = say("{}.", *answer.reason) if len(answer.reason) == 1 else (*answer.reason, ".")
            yield Finding(
                Severity.STOP, outlet.id, over_m, 0.0, "m", say("{} gets no water", label(outlet)), _sentence(why)
            )
        elif answer.below_atmospheric is not None and answer.judged_flow_m3s <= 0.0 and route is not None:
            peak = max(float(analysis.model.along.pipe_m[one.number]) for one in route.points)
            surface_m = layout.surface_m(route.vessel)
            yield Finding(
                Severity.STOP,
                outlet.id,
                surface_m - peak,
                0.0,
                "m",
                say("{} gets no water over the hump", label(outlet)),
                say(
                    "The pipe climbs {} above the water that feeds it. It would run only as a primed, airtight siphon.",
                    Quantity(peak - surface_m, "m"),
                ),
            )


def _sentence(parts: tuple[str | Quantity, ...]) -> tuple[str | Quantity, ...]:
    first = parts[0]
    return (first[:1].upper() + first[1:], *parts[1:]) if isinstance(first, str) else parts
