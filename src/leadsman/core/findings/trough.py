"""Troughs and drums that do not suit the animals at them: too light, nipples too high, less room than a rule asks."""

from collections.abc import Iterator
from functools import partial

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.catalogue.livestock import animals, drinking_rooms
from leadsman.core.design import FloatValveOutlet, Vessel, label
from leadsman.core.design.vessel import FrustumShape, UprightCylinderShape
from leadsman.core.farm.demand import HerdDemand
from leadsman.core.farm.drinking import over_nipples_m, rim_m
from leadsman.core.farm.steadiness import base_m, rim_height_m, steady_kg
from leadsman.core.findings.registry import Finding, Question, Remedy, Severity, judgement
from leadsman.core.findings.remedies import Candidate, that_help


@judgement("trough-too-light", "Stock can push a trough over", Question.HOW_FAST, at_rest=True)
def trough_too_light(analysis: Analysis) -> Iterator[Finding]:
    """Yield each trough of known weight that, at its lowest while they drink, one animal can slide or tip."""
    for watering in analysis.waterings:
        across = base_m(watering.vessel)
        needs = [visit.demand for visit in watering.visits] + [demand for demand, *_ in watering.near]
        weights = {label(demand.herd): weight for demand in needs if (weight := _weight_kg(demand)) is not None}
        stands = watering.lowest_kg
        if stands is None or across is None or not weights:
            continue
        heaviest = max(weights, key=lambda name: weights[name])
        wanted = steady_kg(weights[heaviest], rim_height_m(watering.vessel), across)
        if stands < wanted:
            yield Finding(
                severity=Severity.FIX,
                where=watering.outlet.id,
                value=stands,
                limit=wanted,
                unit="kg",
                headline=say("{} can be pushed over", label(watering.vessel)),
                why=say(
                    "At its lowest level it weighs {} with its water. One animal of {}, at {}, can push over "
                    "anything under {} (our own rule: 15 % of its weight, at the edge). Tie it to a post, or use a "
                    "heavier one.",
                    Quantity(value=stands, unit="kg"),
                    heaviest,
                    Quantity(value=weights[heaviest], unit="kg"),
                    Quantity(value=wanted, unit="kg"),
                ),
            )


@judgement("nipples-above-water", "Nipples stand above the water", Question.DOES_IT_RUN)
def nipples_above_water(analysis: Analysis) -> Iterator[Finding]:
    """Yield each drum whose float shuts with less water over the nipples than is wanted, or under them."""
    for index, outlet in enumerate(analysis.design.outlets):
        vessel = analysis.model.layout.vessels.get(outlet.fills or "")
        if vessel is None or not vessel.nipples or not isinstance(outlet, FloatValveOutlet):
            continue
        over = min(outlet.valve.closes_at_m, vessel.brim_m) - vessel.nipples_m
        wanted = over_nipples_m(vessel)
        if over < wanted:
            yield Finding(
                severity=Severity.STOP if over <= 0.0 else Severity.FIX,
                where=outlet.id,
                value=over,
                limit=wanted,
                unit="m",
                headline=say("The nipples of {} are above the water", label(vessel))
                if over <= 0.0
                else say("Only {} of water above the nipples of {}", Quantity(value=over, unit="m"), label(vessel)),
                why=say(
                    "The float shuts at {}, the nipples are {} above the floor, and {} of water should stand "
                    "above them.",
                    Quantity(value=outlet.valve.closes_at_m, unit="m"),
                    Quantity(value=vessel.nipples_m, unit="m"),
                    Quantity(value=wanted, unit="m"),
                ),
                try_remedies=partial(_that_raise_the_float, analysis, index, vessel, wanted),
            )


@judgement("room-below-rule", "Less trough space than a welfare rule requires", Question.HOW_FAST)
def room_below_rule(analysis: Analysis) -> Iterator[Finding]:
    """Yield each herd whose trough or nipples give one animal less than a named directive asks for its class."""
    outlets = analysis.model.layout.outlets
    for demand in analysis.herds:
        rule, outlet = drinking_rooms().get(demand.herd.animal), outlets[demand.outlets[0]]
        vessel = analysis.model.layout.vessels.get(outlet.fills or "")
        if rule is None or vessel is None or demand.head <= 0:
            continue
        if vessel.nipples:
            value, limit, low = demand.head / vessel.nipples, rule.heads_per_nipple, False
            found = say(f"{demand.head} share {vessel.nipples} nipples; one for every {limit:g} is required.")
        else:
            is_round = isinstance(vessel.shape, UprightCylinderShape | FrustumShape)
            value, limit, low = rim_m(vessel) / demand.head, rule.round_m if is_round else rule.trough_m, True
            found = say(
                "Each has {} of edge; {} are required at a " + ("round" if is_round else "straight") + " trough.",
                Quantity(value=value, unit="m", digits=3),
                Quantity(value=limit, unit="m", digits=3),
            )
        if value < limit if low else value > limit:
            yield Finding(
                severity=Severity.WATCH,
                where=outlet.id,
                value=value,
                limit=limit,
                unit="m" if low else "count",
                headline=say("{} have less trough space than the rule requires", label(demand.herd)),
                why=(
                    *found,
                    *say(" Directive 1999/74/EC for laying hens, from memory; see the rule of your own country."),
                ),
            )


def _weight_kg(demand: HerdDemand) -> float | None:
    kind = animals().get(demand.herd.animal)
    return demand.herd.weight_kg or (kind.usual_kg if kind else None)


def _that_raise_the_float(analysis: Analysis, index: int, vessel: Vessel, wanted_m: float) -> list[Remedy]:
    """Return the closing level at which there is water enough over the nipples, where the drum is high enough."""
    level = round(vessel.nipples_m + wanted_m, 3)
    if level > vessel.brim_m:
        return []

    def over_m(changed: Analysis) -> float | None:
        outlet = changed.design.outlets[index]
        return outlet.valve.closes_at_m - vessel.nipples_m if isinstance(outlet, FloatValveOutlet) else None

    def effect(over: float) -> Wording:
        return say("{} over the nipples", Quantity(value=over, unit="m"))

    patch = [{"op": "replace", "path": f"/outlets/{index}/valve/closes_at_m", "value": level}]
    return that_help(analysis, [Candidate(say("the float set higher"), patch)], over_m, effect)
