"""Heights and lengths that contradict each other."""

from collections.abc import Iterator

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.wording import Quantity, Wording, listed, say
from leadsman.core.design import label
from leadsman.core.findings.registry import Finding, Question, Severity, judgement
from leadsman.core.survey.height_network import PlaceHeight, Way
from leadsman.core.survey.sight import WAYS


@judgement("heights-disagree", "Two ways of measuring a height disagree", Question.DOES_IT_RUN)
def heights_disagree(analysis: Analysis) -> Iterator[Finding]:
    """Yield each place of which some way is farther from all together than their errors explain.

    Named is the way that is most out against all the others, not the one whose error is claimed to be least.
    """
    for found in analysis.heights.places:
        if not found.disagree:
            continue
        far = max(found.ways, key=lambda way: abs(way.apart_m) / way.observed.error_m)
        apart, explained = abs(far.apart_m), found.explained_m(far)
        place = analysis.model.layout.places[found.place_id]
        yield Finding(
            severity=Severity.WATCH, where=found.place_id, value=apart, limit=explained, unit="m",
            headline=say("the heights of {} disagree by {}", label(place), Quantity(value=apart, unit="m")),
            why=say("Their errors explain {}. {}", Quantity(value=explained, unit="m"), _which_is_out(found)),
        )  # fmt: skip


def _which_is_out(found: PlaceHeight) -> Wording:
    suspects = found.suspects
    if len(suspects) != 1:
        told = listed([_says(way) for way in suspects or found.ways])
        return say("{}: which of them is wrong is not clear. Measure once more, another way.", told)
    (way,) = suspects
    return say(
        "Most likely the {} is wrong: all the others say {}. Measure it again, or delete it.",
        _says(way),
        Quantity(value=way.height_m - (way.off_m or 0.0), unit="m"),
    )


def _says(way: Way) -> Wording:
    return say("{} says {}", WAYS[way.observed.way], Quantity(value=way.height_m, unit="m"))


@judgement("pipe-too-short", "A pipe is too short for its ends", Question.DOES_IT_RUN)
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
                    "{} is {} long where the straight distance is {}",
                    label(measured.line),
                    Quantity(value=length, unit="m"),
                    Quantity(value=measured.straight_m, unit="m"),
                ),
                why=say(
                    "Its length or the position of one of its ends is wrong. On a slope the pipe is longer than on "
                    "the plan."
                ),
            )
