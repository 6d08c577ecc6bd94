"""Values of the demand that are not to be trusted yet: unlikely, too far, or only our defaults."""

from collections.abc import Iterator

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.wording import Quantity, say
from leadsman.core.catalogue import sources
from leadsman.core.catalogue.livestock import WalkingLimit
from leadsman.core.design import label
from leadsman.core.farm.daily_weather import USUAL_LEAST_C, USUAL_MOST_C
from leadsman.core.farm.drinking import habit_of
from leadsman.core.farm.grazing import stops_on, walking_limit, walking_limit_m
from leadsman.core.findings.registry import Finding, Question, Severity, judgement

UNLIKELY_SHARE = 0.6  # of what is published: an own figure below this is doubted; ours, no source
WORDS = {
    "share": "arriving together", "within_min": "arrive within", "visits": "visits a day",
    "rate_lpm": "drinking rate", "width_m": "trough space each", "patience_min": "longest wait accepted",
    "daylight_h": "hours of drinking", "peak_factor": "peak factor",
}  # fmt: skip
OF_PATTERN = {
    "mob": ("share", "within_min", "visits", "rate_lpm", "width_m", "patience_min"),
    "near": ("daylight_h", "peak_factor"),
}


@judgement("own-figure-unlikely", "Own figure for a herd is unlikely", Question.HOW_LONG_DOES_IT_LAST)
def own_figure_unlikely(analysis: Analysis) -> Iterator[Finding]:
    """Yield each herd whose own figure for one animal is well under what is published for its class."""
    for demand in analysis.herds:
        own, intake = demand.herd.intake_lpd, demand.intake
        if own is None or intake is None or own >= UNLIKELY_SHARE * intake.planned_lpd:
            continue
        published = Quantity(value=intake.planned_lpd, unit="L/d", digits=1)
        yield Finding(
            severity=Severity.WATCH,
            where=demand.outlets[0],
            value=own,
            limit=intake.planned_lpd,
            unit="L/d",
            headline=say("{} are counted at {} each", label(demand.herd), Quantity(value=own, unit="L/d", digits=1)),
            why=say(
                "Plan on {} for their class in this heat. If your figure was measured on a cool day or with fewer "
                "animals, use the larger.",
                published,
            ),
        )


@judgement("water-too-far", "The walk to water is too long", Question.HOW_LONG_DOES_IT_LAST)
def water_too_far(analysis: Analysis) -> Iterator[Finding]:
    """Yield each herd whose longest walk to water, on the date of the case, is longer than stock are kept."""
    day = analysis.scenario.date
    for demand in analysis.herds:
        stops = stops_on(analysis.design, demand.herd, day)
        farthest_m = max((stop.farthest_m for stop in stops if stop.farthest_m is not None), default=0.0)
        if day is None:
            continue
        site, known = analysis.design.site, walking_limit(demand.herd.animal)
        limit = walking_limit_m(demand.herd.animal, day, southern=site.is_southern)
        if farthest_m > limit:
            yield Finding(
                severity=Severity.WATCH,
                where=demand.outlets[0],
                value=farthest_m,
                limit=limit,
                unit="m",
                headline=say(
                    "{} walk {} to the water", label(demand.herd), Quantity(value=farthest_m, unit="m", digits=0)
                ),
                why=say(
                    "For {} at most {} is advised while grass grows and {} while it does not ({}).{} A tap point "
                    "closer by costs one fitting.",
                    known.kind,
                    Quantity(value=known.growing_m, unit="m", digits=0),
                    Quantity(value=known.dormant_m, unit="m", digits=0),
                    _source_of(known),
                    "" if site.has_latitude else " Northern seasons are assumed: the site has no latitude.",
                ),
            )


def _source_of(limit: WalkingLimit) -> str:
    source = sources()[limit.source_id]
    return limit.note if limit.source_id == "typical" else f"{source.author} {source.year}, {limit.note}"


@judgement("weather-lacks-heat", "The weather data has no temperatures", Question.HOW_LONG_DOES_IT_LAST)
def weather_lacks_heat(analysis: Analysis) -> Iterator[Finding]:
    """Yield that the season is judged at one temperature, where its weather tells none and a demand goes by it."""
    season, design = analysis.design.season, analysis.design
    by_heat = any(herd.intake_lpd is None for herd in design.herds) or any(crop.area_m2 for crop in design.crops)
    if season is None or season.weather.most_c or not by_heat:
        return
    yield Finding(
        severity=Severity.WATCH,
        where=analysis.systems[0].stores[0].id if analysis.systems else design.places[0].id,
        value=USUAL_MOST_C,
        limit=None,
        unit="°C",
        headline=say("The season is calculated at {} every day", Quantity(value=USUAL_MOST_C, unit="°C")),
        why=say(
            "Its weather has rain but no temperatures. Assumed: {} by day and {} by night, please check. In heat "
            "animals and plants use more. Add the highest temperature of each day.",
            Quantity(value=USUAL_MOST_C, unit="°C"),
            Quantity(value=USUAL_LEAST_C, unit="°C"),
        ),
    )


@judgement("figures-assumed", "Values are assumed", Question.HOW_LONG_DOES_IT_LAST)
def figures_assumed(analysis: Analysis) -> Iterator[Finding]:
    """Yield one finding for all values of how the herds drink that nobody has confirmed."""
    assumed = [
        (
            demand,
            [WORDS[name] for name in habit_of(demand.herd).assumed if name in OF_PATTERN[demand.herd.drinking.pattern]],
        )
        for demand in analysis.herds
        if demand.herd.drinking and demand.head
    ]
    assumed = [(demand, names) for demand, names in assumed if names]
    count = sum(len(names) for _, names in assumed)
    if count:
        listed = "; ".join(f"{label(demand.herd)}: {', '.join(names)}" for demand, names in assumed)
        yield Finding(
            severity=Severity.WATCH,
            where=assumed[0][0].outlets[0],
            value=float(count),
            limit=0.0,
            unit="count",
            headline=say(f"{count} values of how they drink are assumed"),
            why=say("Assumed, please check: watch them once and type what you see. {}.", listed),
        )
