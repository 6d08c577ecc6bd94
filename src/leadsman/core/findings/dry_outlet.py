"""An outlet that is meant to run and gets no water."""

from collections.abc import Iterator

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.wording import Quantity, say
from leadsman.core.design import OutletBase, label
from leadsman.core.findings.registry import Finding, Question, Severity, judgement
from leadsman.core.findings.settling import outlet_causes, what_would_settle
from leadsman.core.steady.answer import OutletState


@judgement("dry-outlet", "An outlet gets no water", Question.DOES_IT_RUN)
def dry_outlet(analysis: Analysis) -> Iterator[Finding]:
    """Yield each open outlet that the water does not reach, or whose line humps over the level."""
    layout = analysis.state.layout
    for outlet in analysis.fed_outlets:
        answer = analysis.answer(outlet)
        height_m = layout.outlet_height_m(outlet)
        if answer.state is OutletState.DRY and analysis.state.converged:
            over_m = None if answer.static_head_m is None else answer.static_head_m - height_m
            why = say("{}.", *answer.reason) if len(answer.reason) == 1 else (*answer.reason, ".")
            settles = what_would_settle(over_m, outlet_causes(analysis, outlet)) if over_m is not None else ()
            yield Finding(
                severity=Severity.STOP,
                where=outlet.id,
                value=over_m,
                limit=0.0,
                unit="m",
                headline=say("{} gets no water", label(outlet)),
                why=(*_sentence(why), *((" ", *settles) if settles else ())),
            )
        elif answer.below_atmospheric and answer.judged_flow_m3s <= 0.0 and analysis.is_led_to(outlet):
            peak, surface_m = analysis.highest_pipe_m(outlet), analysis.source_surface_m(outlet)
            yield Finding(
                severity=Severity.STOP,
                where=outlet.id,
                value=surface_m - peak,
                limit=0.0,
                unit="m",
                headline=say("{} gets no water over the hump", label(outlet)),
                why=say(
                    "The pipe climbs {} above the water that feeds it. It would run only as a primed, airtight siphon.",
                    Quantity(value=peak - surface_m, unit="m"),
                ),
            )
        elif answer.state is OutletState.RUNNING and answer.static_head_m is not None:
            yield from _perhaps_dry(analysis, outlet, answer.static_head_m - height_m)


def _perhaps_dry(analysis: Analysis, outlet: OutletBase, over_m: float) -> Iterator[Finding]:
    """Yield an outlet that runs by the likely heights, and would stand over its water by their errors."""
    causes = outlet_causes(analysis, outlet)
    if over_m - sum(effect for effect, _ in causes) >= 0.0:
        return
    yield Finding(
        severity=Severity.WATCH,
        where=outlet.id,
        value=over_m,
        limit=0.0,
        unit="m",
        headline=say("{} may get no water", label(outlet)),
        why=(
            *say(
                "By the heights as they are known it stands {} under the water that feeds it. ",
                Quantity(value=over_m, unit="m"),
            ),
            *what_would_settle(over_m, causes),
        ),
    )


def _sentence(parts: tuple[str | Quantity, ...]) -> tuple[str | Quantity, ...]:
    first = parts[0]
    return (first[:1].upper() + first[1:], *parts[1:]) if isinstance(first, str) else parts
