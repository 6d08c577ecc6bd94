"""A flow whose range crosses what was wanted: too little is known to decide, and what to measure."""

from collections.abc import Iterator

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.ranges import Cause
from leadsman.core.analysis.uncertainty import part_of
from leadsman.core.base.units import lpm_from_m3s
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import label
from leadsman.core.findings.registry import Finding, Question, Severity, judgement

COUNTS = 0.05  # of the weightiest figure's effect: what moves the flow by less is no matter to measure


@judgement("flow-uncertain", "Whether the flow is enough depends on values not known exactly", Question.HOW_FAST)
def flow_uncertain(analysis: Analysis) -> Iterator[Finding]:
    """Yield each outlet whose worst flow is under the wanted one and whose best is not."""
    for outlet in analysis.fed_outlets:
        wanted, found = analysis.wanted_m3s(outlet), analysis.flow_range(outlet)
        if wanted is None or found is None or not found.worst < wanted <= found.best:
            continue
        worst, best, limit = (
            Quantity(value=lpm_from_m3s(flow), unit="L/min") for flow in (found.worst, found.best, wanted)
        )
        enough = found.likely >= wanted
        shown = worst if enough else best
        template = "{} may get only {} of the {} wanted" if enough else "{} may get as much as {}; {} wanted"
        yield Finding(
            severity=Severity.WATCH,
            where=outlet.id,
            value=shown.value,
            limit=limit.value,
            unit="L/min",
            headline=say(template, label(outlet), shown, limit),
            why=(
                *say("Uncertain values put it between {} and {}. ", worst, best),
                *_what_decides(analysis, found.causes),
            ),
        )


def _what_decides(analysis: Analysis, causes: list[Cause]) -> Wording:
    """Say which figure weighs most, and which measurement would settle most of the rest."""
    if not causes:
        return say("No measurement would settle it.")
    measured = [cause for cause in causes if cause.kind != "level_rise_m" and cause.effect > COUNTS * causes[0].effect]
    level = causes[0].kind == "level_rise_m"
    stands: Wording = ()
    if level:
        stands = say(
            "It depends most on how full {} is. ",
            label(part_of(analysis.model.plumbing, causes[0].kind, causes[0].number)),
        )
    if not measured:
        return stands
    return (
        *stands,
        *say("Of what can be measured, " if level else "To settle it, "),
        *_measurement(analysis, measured[0]),
    )


def _measurement(analysis: Analysis, cause: Cause) -> Wording:
    part = part_of(analysis.model.plumbing, cause.kind, cause.number)
    match cause.kind:
        case "place_rise_m":
            error = analysis.design.places[cause.number].height_error_m
            return say("level {}: its height is known to {} only.", label(part), Quantity(value=error or 0.0, unit="m"))
        case "kv_factor":
            return say("time a pail at {} with a gauge before it: its valve may pass 10 % more or less.", label(part))
        case "fitting_factor":
            return say("time a pail at the end of {}: its fittings may take 30 % more or less.", label(part))
        case "bore_m":
            return say("measure the bore of {}: pipe of one size is made a little wider or narrower.", label(part))
    return say("time a pail at the end of {}: how rough its pipe has become with age is not known.", label(part))
