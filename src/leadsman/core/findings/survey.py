"""Heights and lengths that contradict each other."""

from collections.abc import Iterator

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.wording import Quantity, say
from leadsman.core.design import label
from leadsman.core.findings.registry import Finding, Question, Severity, judgement
from leadsman.core.survey.sight import WAYS


@judgement("heights-disagree", "Two ways of measuring a height disagree", Question.DOES_IT_RUN)
def heights_disagree(analysis: Analysis) -> Iterator[Finding]:
    """Yield each place of which some way is farther from all together than their errors explain."""
    for found in analysis.heights.places:
        if not found.disagree:
            continue
        far = max(found.ways, key=lambda way: abs(way.apart_m) / way.observed.error_m)
        apart, explained = abs(far.apart_m), found.explained_m(far)
        place = analysis.model.layout.places[found.place_id]
        yield Finding(
            severity=Severity.WATCH, where=found.place_id, value=apart, limit=explained, unit="m",
            headline=say("the heights of {} disagree by {}", label(place), Quantity(value=apart, unit="m")),
            why=say("The {} says {}, all ways together {}; their errors explain {}. Measure it again, or take away the "
                "reading that is wrong.", WAYS[far.observed.way], Quantity(value=far.height_m, unit="m"),
                Quantity(value=found.height_m, unit="m"), Quantity(value=explained, unit="m")),
        )  # fmt: skip


@judgement("pipe-too-short", "A line's pipe does not reach between its ends", Question.DOES_IT_RUN)
def pipe_too_short(analysis: Analysis) -> Iterator[Finding]:
    """Yield each line whose pipe is shorter than the straight way between the places it joins."""
    for measured in analysis.line_lengths:
        if measured.is_too_short:
            length = measured.line.pipe_length_m
            yield Finding(
                severity=Severity.WATCH,
                where=measured.line.id,
                value=length,
                limit=measured.straight_m,
                unit="m",
                headline=say(
                    "{} is {} of pipe where the straight way is {}",
                    label(measured.line),
                    Quantity(value=length, unit="m"),
                    Quantity(value=measured.straight_m, unit="m"),
                ),
                why=say(
                    "Either its length or the place of one of its ends is wrong. A length on plan is not the pipe's: "
                    "on a slope the pipe is longer."
                ),
            )
