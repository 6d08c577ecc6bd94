"""An outlet that is meant to run and gets no water."""

from collections.abc import Iterator

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.siphon_line import SiphonLine, siphon_lines
from leadsman.core.analysis.starved import starved_outlets
from leadsman.core.base.wording import Quantity, say
from leadsman.core.design import OutletBase, label
from leadsman.core.findings.registry import Finding, Question, Severity, judgement
from leadsman.core.findings.settling import is_settled, outlet_causes, static_causes, what_would_settle
from leadsman.core.steady.answer import OutletState


@judgement("dry-outlet", "An outlet gets no water", Question.DOES_IT_RUN)
def dry_outlet(analysis: Analysis) -> Iterator[Finding]:
    """Yield each open outlet that the water does not reach, or whose line high points over the level."""
    layout = analysis.state.layout
    for outlet in analysis.fed_outlets:
        answer = analysis.answer(outlet)
        height_m = layout.outlet_height_m(outlet)
        below = answer.below_atmospheric
        if below and answer.judged_flow_m3s <= 0.0 and analysis.is_led_to(outlet):
            siphon = next((line for line in siphon_lines(analysis) if line.line_id == below.line_id), None)
            yield _siphon_breaks(analysis, outlet, siphon) if siphon else _over_the_high_point(analysis, outlet)
        elif answer.state is OutletState.DRY and analysis.state.converged and not _fills_later(analysis, outlet):
            seen_m = answer.static_head_m
            if seen_m is not None and seen_m > height_m:  # the others draw the water down below it
                seen_m = answer.head_m
            over_m = None if seen_m is None else seen_m - height_m
            causes = outlet_causes(analysis, outlet) if over_m is not None else []
            surely = over_m is None or is_settled(over_m, causes)
            why = say("{}.", *answer.reason) if len(answer.reason) == 1 else (*answer.reason, ".")
            settles = what_would_settle(over_m, causes) if over_m is not None else ()
            yield Finding(
                severity=Severity.STOP if surely else Severity.WATCH,
                where=outlet.id,
                value=over_m,
                limit=0.0,
                unit="m",
                headline=say("{} gets no water" if surely else "{} may get no water", label(outlet)),
                why=(*_sentence(why), *((" ", *settles) if settles else ())),
            )
        elif answer.state is OutletState.RUNNING and answer.static_head_m is not None:
            yield from _perhaps_dry(analysis, outlet, answer.static_head_m - height_m)


def _fills_later(analysis: Analysis, outlet: OutletBase) -> bool:
    """Whether an outlet fills a store once others are shut: that a lower one takes its water until then is told."""
    filled = analysis.model.layout.vessels.get(outlet.fills or "")
    waits = filled is not None and filled.gives_water and analysis.flows_alone_m3s[outlet.id] > 0.0
    return waits and any(starved.outlet.id == outlet.id for starved in starved_outlets(analysis))


def _over_the_high_point(analysis: Analysis, outlet: OutletBase) -> Finding:
    """Return that a line climbs over the water that feeds it; a watch where its heights leave that open."""
    over_m = analysis.source_surface_m(outlet) - analysis.highest_pipe_m(outlet)
    top = analysis.highest_point(outlet)
    causes = static_causes(analysis, top) if top is not None else []
    surely = is_settled(over_m, causes)
    return Finding(
        severity=Severity.STOP if surely else Severity.WATCH,
        where=outlet.id,
        value=over_m,
        limit=0.0,
        unit="m",
        headline=say(
            "{} gets no water over the high point" if surely else "{} may get no water over the high point",
            label(outlet),
        ),
        why=(
            *say(
                "The pipe climbs {} above the water that feeds it. It would run only as an airtight, primed siphon. ",
                Quantity(value=-over_m, unit="m"),
            ),
            *what_would_settle(over_m, causes),
        ),
        spot=analysis.spot_of(top) if top is not None else None,
    )


def _siphon_breaks(analysis: Analysis, outlet: OutletBase, siphon: SiphonLine) -> Finding:
    """Return that a siphon cannot run: less pressure would be left at its crest than keeps water together."""
    line, altitude_m = analysis.model.layout.lines[siphon.line_id], analysis.design.site.altitude_m
    crest = min(
        analysis.model.along.of_line[line.id],
        key=lambda number: abs(analysis.model.along.points[number].at_m - siphon.crest_at_m),
    )
    causes = static_causes(analysis, crest)
    surely = is_settled(siphon.spare_m, causes)
    lost = Quantity(value=siphon.limit_m - siphon.lift_m - siphon.spare_m, unit="m")
    return Finding(
        severity=Severity.STOP if surely else Severity.WATCH,
        where=outlet.id,
        value=siphon.spare_m,
        limit=0.0,
        unit="m",
        headline=say(
            "{} is out of reach of the siphon" if surely else "{} may be out of reach of the siphon", label(outlet)
        ),
        why=(
            *say(
                "Its highest point is {} above the water that it draws from. At an altitude of {} water of {} "
                "can be lifted {}, with 1 m kept for the air that comes out of it",
                Quantity(value=siphon.lift_m, unit="m"),
                Quantity(value=altitude_m, unit="m", digits=0),
                Quantity(value=analysis.model.water.temperature_c, unit="°C"),
                Quantity(value=siphon.limit_m, unit="m"),
            ),
            *(say(". ") if siphon.lift_m > siphon.limit_m else say(", and running it would lose {} there. ", lost)),
            *say("Lay its highest point lower, or pump over it. "),
            *what_would_settle(siphon.spare_m, causes),
        ),
        spot=(line.id, siphon.crest_at_m),
    )


def _perhaps_dry(analysis: Analysis, outlet: OutletBase, over_m: float) -> Iterator[Finding]:
    """Yield an outlet that runs by the likely heights, and would stand over its water by their errors."""
    causes = outlet_causes(analysis, outlet)
    if over_m >= 0.0 and is_settled(over_m, causes):
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
                "By the heights as measured it is {} below the water that feeds it. ",
                Quantity(value=over_m, unit="m"),
            ),
            *what_would_settle(over_m, causes),
        ),
    )


def _sentence(parts: tuple[str | Quantity, ...]) -> tuple[str | Quantity, ...]:
    first = parts[0]
    return (first[:1].upper() + first[1:], *parts[1:]) if isinstance(first, str) else parts
