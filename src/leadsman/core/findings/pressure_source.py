"""Sources under pressure: rams shut in or asked for too much, drive pipes out of bounds, stock water in mains."""

from collections.abc import Iterator

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.source_duty import fed_by
from leadsman.core.base.wording import Quantity, say
from leadsman.core.design import FloatValveOutlet, GaugedSource, OutletBase, RamSource, label
from leadsman.core.farm.ram import MOST_LIFT_RATIO, USUAL_LIFT_RATIO, drive_pipe_lengths_m, ram_ratio
from leadsman.core.findings.registry import Finding, Question, Severity, judgement

LASTS = Question.HOW_LONG_DOES_IT_LAST


def _rams(analysis: Analysis) -> Iterator[tuple[RamSource, list[OutletBase]]]:
    for source in analysis.design.pressure_sources:
        if isinstance(source, RamSource) and analysis.state.converged:
            yield source, fed_by(analysis, source)


@judgement("ram-has-no-way-out", "A ram is shut in when every float on its line is shut", LASTS)
def ram_has_no_way_out(analysis: Analysis) -> Iterator[Finding]:
    """Yield each ram on the network whose water ends at floats alone: the last outlet is to overflow somewhere."""
    ends = {end for line in analysis.design.lines for end in (line.from_, line.to)}
    for source, fed in _rams(analysis):
        vessels = {vessel.id for vessel in analysis.design.vessels} - set(analysis.model.layout.sources)
        if not fed or not all(isinstance(outlet, FloatValveOutlet) for outlet in fed):
            continue
        if any(route.vessel.id == source.id for route in analysis.feeds) and ends & vessels:
            continue
        highest = max(fed, key=analysis.model.layout.outlet_height_m)
        yield Finding(
            severity=Severity.STOP,
            where=source.id,
            value=float(len(fed)),
            limit=None,
            unit="count",
            headline=say("{} is shut in when every float is shut", label(source)),
            why=say(
                "A ram must never be shut off: it then beats against a closed line. Let the last one, {}, run without "
                "a float into a tank whose overflow leads to a safe place.",
                label(highest),
            ),
        )


@judgement("ram-lifts-too-high", "An outlet on a ram's line is too high for its fall", LASTS)
def ram_lifts_too_high(analysis: Analysis) -> Iterator[Finding]:
    """Yield each ram that is to lift over 12 times its fall; over 25 times nothing comes up."""
    layout = analysis.model.layout
    for source, fed in _rams(analysis):
        highest = max(fed, key=layout.outlet_height_m, default=None)
        if highest is None:
            continue
        lift_m = layout.outlet_height_m(highest) - layout.places[source.place].ground_m
        ratio = ram_ratio(source.fall_m, lift_m)
        if ratio <= USUAL_LIFT_RATIO:
            continue
        never = ratio > MOST_LIFT_RATIO
        yield Finding(
            severity=Severity.STOP if never else Severity.WATCH,
            where=source.id,
            value=ratio,
            limit=MOST_LIFT_RATIO if never else USUAL_LIFT_RATIO,
            unit="count",
            headline=say(
                f"{{}} is to lift {{}} to {{}}, {ratio:.0f} times its fall of {{}}",
                label(source),
                Quantity(value=lift_m, unit="m"),
                label(highest),
                Quantity(value=source.fall_m, unit="m"),
            ),
            why=say(
                "Rams lift 5 to 12 times their fall, at most 20 to 25 times (Watt 1975, from memory): nothing would "
                "come up. More fall, by a longer drive pipe, or a pump."
            )
            if never
            else say(
                "Rams lift 5 to 12 times their fall as a rule (Watt 1975, from memory); over that they give less than "
                "their efficiency promises. Time what comes before you plan on it."
            ),
        )


@judgement("drive-pipe-length", "A drive pipe is too short or too long for its bore", LASTS)
def drive_pipe_length(analysis: Analysis) -> Iterator[Finding]:
    """Yield each ram whose drive pipe is not of 150 to 1,000 times its bore."""
    for source in analysis.design.pressure_sources:
        if not isinstance(source, RamSource) or source.drive_mm is None or source.drive_length_m is None:
            continue
        least_m, most_m = drive_pipe_lengths_m(source.drive_mm)
        if least_m <= source.drive_length_m <= most_m:
            continue
        short = source.drive_length_m < least_m
        yield Finding(
            severity=Severity.WATCH,
            where=source.id,
            value=source.drive_length_m,
            limit=least_m if short else most_m,
            unit="m",
            headline=say(
                "The drive pipe of {} is too {} for its bore of {}",
                label(source),
                "short" if short else "long",
                Quantity(value=source.drive_mm, unit="mm"),
            ),
            why=say(
                "A drive pipe of that bore is {} to {} long: 150 to 1,000 times its bore (Watt 1975, from memory). In "
                "a shorter one the water hardly gains way; in a longer one it takes too long to, and friction takes "
                "the fall.",
                Quantity(value=least_m, unit="m"),
                Quantity(value=most_m, unit="m"),
            ),
        )


@judgement("backflow", "Stock water can run back into mains", LASTS)
def backflow(analysis: Analysis) -> Iterator[Finding]:
    """Yield mains on the network with nothing against backflow."""
    for source in analysis.design.pressure_sources:
        if isinstance(source, GaugedSource) and source.kind == "mains" and source.backflow == "none":
            yield Finding(
                severity=Severity.STOP,
                where=source.id,
                value=None,
                limit=None,
                unit="count",
                headline=say("{} can draw stock water back into the mains", label(source)),
                why=say(
                    "Fit a backflow preventer, or let the mains fall into a tank through an air gap, as the local "
                    "plumbing code says; often a licensed plumber must do it."
                ),
            )
