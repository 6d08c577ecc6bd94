"""Figures of the need that are not to be trusted yet: unlikely, too far, or only our defaults."""

from collections.abc import Iterator

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.wording import Quantity, say
from leadsman.core.design import label
from leadsman.core.farm.drinking import habit_of
from leadsman.core.farm.grazing import FAR_GROWING_M, FAR_WINTER_M, stops_on, walking_limit_m
from leadsman.core.findings.registry import Finding, Question, Severity, judgement

UNLIKELY_SHARE = 0.6  # of what is published: under it one's own figure is doubted; ours, no source
WORDS = {
    "share": "how many come at once", "within_min": "within what time", "visits": "visits a day",
    "rate_lpm": "how fast one drinks", "width_m": "rim for one", "patience_min": "how long they wait",
    "daylight_h": "over how many hours", "peak_factor": "the peak",
}  # fmt: skip
OF_PATTERN = {
    "mob": ("share", "within_min", "visits", "rate_lpm", "width_m", "patience_min"),
    "near": ("daylight_h", "peak_factor"),
}


@judgement("own-figure-unlikely", "Your own figure for a herd is unlikely", Question.HOW_LONG_DOES_IT_LAST)
def own_figure_unlikely(analysis: Analysis) -> Iterator[Finding]:
    """Yield each herd whose own figure for one animal is well under what is published for its class."""
    for need in analysis.herds:
        own, intake = need.herd.intake_lpd, need.intake
        if own is None or intake is None or own >= UNLIKELY_SHARE * intake.planned_lpd:
            continue
        published = Quantity(value=intake.planned_lpd, unit="L/d", digits=1)
        yield Finding(
            severity=Severity.WATCH,
            where=need.outlets[0],
            value=own,
            limit=intake.planned_lpd,
            unit="L/d",
            headline=say("{} are counted at {} for one", label(need.herd), Quantity(value=own, unit="L/d", digits=1)),
            why=say(
                "For their class {} is to be planned on in this heat. If yours was timed on a cool day or with half "
                "the heads, take the larger.",
                published,
            ),
        )


@judgement("water-too-far", "The water is too far from the grass", Question.HOW_LONG_DOES_IT_LAST)
def water_too_far(analysis: Analysis) -> Iterator[Finding]:
    """Yield each herd whose farthest grass, on the day shown, is farther from its water than stock are kept."""
    day = analysis.scenario.date
    for need in analysis.herds:
        stops = stops_on(analysis.design, need.herd, day)
        farthest_m = max((stop.farthest_m for stop in stops if stop.farthest_m is not None), default=0.0)
        if day is None:
            continue
        limit = walking_limit_m(day, southern=analysis.design.site.is_southern)
        if farthest_m > limit:
            yield Finding(
                severity=Severity.WATCH,
                where=need.outlets[0],
                value=farthest_m,
                limit=limit,
                unit="m",
                headline=say(
                    "{} walk {} to the water", label(need.herd), Quantity(value=farthest_m, unit="m", digits=0)
                ),
                why=say(
                    "In the growing season stock are kept within {} of water, dry stock in winter within {} (common "
                    "practice, no source). A tap point nearer by costs one fitting.",
                    Quantity(value=FAR_GROWING_M, unit="m", digits=0),
                    Quantity(value=FAR_WINTER_M, unit="m", digits=0),
                ),
            )


@judgement("figures-assumed", "Figures are our defaults, not yet yours", Question.HOW_LONG_DOES_IT_LAST)
def figures_assumed(analysis: Analysis) -> Iterator[Finding]:
    """Yield one finding for all figures of how the herds drink that nobody has confirmed."""
    assumed = [
        (need, [WORDS[name] for name in habit_of(need.herd).assumed if name in OF_PATTERN[need.herd.drinking.pattern]])
        for need in analysis.herds
        if need.herd.drinking and need.head
    ]
    assumed = [(need, names) for need, names in assumed if names]
    count = sum(len(names) for _, names in assumed)
    if count:
        listed = "; ".join(f"{label(need.herd)}: {', '.join(names)}" for need, names in assumed)
        yield Finding(
            severity=Severity.WATCH,
            where=assumed[0][0].outlets[0],
            value=float(count),
            limit=0.0,
            unit="count",
            headline=say(f"{count} figures of how they drink are our defaults"),
            why=say("Watch them once and type what you see. {}.", listed),
        )
