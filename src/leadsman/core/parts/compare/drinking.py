"""Where stock drinks: a trough that moves or one that stays, a trough or nipples."""

import math
from datetime import date

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import LITRE_M3
from leadsman.core.base.wording import say
from leadsman.core.catalogue import parts, vessels
from leadsman.core.catalogue.livestock import animals, drinking_rooms
from leadsman.core.design import FloatValveOutlet, Rotation, Vessel, label
from leadsman.core.design.store import shape_of
from leadsman.core.parts.compare.comparison import ComparedRow, Comparison, litres, metres, money
from leadsman.core.parts.connection import inlet_of

TROUGH_MOVED, TROUGH_FIXED, TAP_POINT, DRUM = "trough-light-1.5", "trough-concrete-2", "key-tap-0.75", "drum-210"
NIPPLE_PRICE, HEADS_PER_NIPPLE = 4.0, 10  # typical, from memory, rough
ON_NIPPLES, NEED_OPEN_WATER = ("pigs", "poultry"), ("goose", "geese", "duck")


def many_or_few(analysis: Analysis) -> Comparison:
    """Return a tap at every place where stock drinks and light troughs that move, beside a fixed trough at each."""
    design = analysis.document
    places = {outlet for herd in analysis.herds for outlet in herd.outlets}
    places |= {paddock.outlet for paddock in design.paddocks if paddock.outlet}
    places |= {outlet for rotation in design.calendar for outlet in rotation.outlets}
    points, herds = max(len(places), 1), max(len(design.herds), 1)
    few = math.ceil(points / 2)
    moved, fixed, tap = vessels()[TROUGH_MOVED], vessels()[TROUGH_FIXED], parts()[TAP_POINT]
    valve = next((inlet_of(one) for one in design.outlets if isinstance(one, FloatValveOutlet)), None)
    each_valve = (valve.price or 0.0) if valve else 0.0
    by_move = points * (tap.price or 0.0) + herds * ((moved.price or 0.0) + each_valve)
    by_place = points * ((fixed.price or 0.0) + each_valve)
    moves = sum(_moves_a_year(rotation) for rotation in design.calendar)
    volume_l = _litres(TROUGH_MOVED)
    walks = [paddock.farthest_m for paddock in design.paddocks if paddock.farthest_m is not None]
    farthest = say("{}", metres(max(walks))) if walks else say("–")
    return Comparison(
        key="many-or-few",
        title="A trough that moves from tap to tap, or one that stays at each place",
        columns=["Places", "Troughs", "Price", "Moves a year", "Thrown away a year", "Longest walk", "What it means"],
        rows=[
            ComparedRow(name="Many taps, light troughs moved with the herd", cells=[
                say("{}", str(points)), say("{}", str(herds)), money(design, by_move), say("{}", f"{moves:.0f}"),
                say("{}", litres(moves * volume_l)), farthest,
                say("dung is spread, ground rests; a full one is not carried: shut, drain, move, connect"),
            ]),
            ComparedRow(name="A fixed trough at each place", cells=[
                say("{}", str(points)), say("{}", str(points)), money(design, by_place), say("0"),
                say("{}", litres(0.0)), farthest,
                say("nothing to move and a reserve at each; ground around it is worn, and mice and leaves are in it"),
            ]),
            ComparedRow(name="One large fixed trough for every two places", cells=[
                say("{}", str(few)), say("{}", str(few)), money(design, by_place / points * few),
                say("0"), say("{}", litres(0.0)), say("{}", metres(2.0 * max(walks))) if walks else say("–"),
                say("cheapest; they walk further, come as one mob and need more edge and flow at once"),
            ]),
        ],
        notes=[say(
            "By the places where herds drink on this plan, its calendar, and typical prices of a key-operated tap, "
            "a light and a concrete trough and a float valve; pipe is the same in both. The longest walk of the last "
            "is guessed at twice."
        )],
    )  # fmt: skip


def _moves_a_year(rotation: Rotation) -> float:
    """Return how often a herd moves in a rotation's time of one year."""
    if max(len(rotation.paddocks), len(rotation.outlets)) < 2:
        return 0.0
    begins = date.fromisoformat(rotation.from_)
    last = date.fromisoformat(rotation.to) if rotation.to else date(begins.year, 12, 31)
    return min((last - begins).days + 1, 365) / rotation.days_each


def _litres(product_id: str) -> float:
    shape = vessels()[product_id].shape
    vessel = Vessel.model_validate({"id": "sold", "place": "here", "shape": shape, "level_m": 0.0})
    return shape_of(vessel).volume_m3(vessel.brim_m) / LITRE_M3


def trough_or_nipples(analysis: Analysis) -> Comparison | None:
    """Return a trough beside nipples for herds of classes that drink from either; None where the plan has none."""
    rooms = drinking_rooms()
    rows, drum = [], vessels()[DRUM].price or 0.0
    for demand in analysis.herds:
        room, kind = rooms.get(demand.herd.animal), animals().get(demand.herd.animal)
        swims = any(word in demand.herd.animal for word in NEED_OPEN_WATER)
        if room is None and (kind is None or kind.species not in ON_NIPPLES or swims):
            continue
        nipples = math.ceil(demand.head / (room.heads_per_nipple if room else HEADS_PER_NIPPLE))
        edge = say("{}", metres(demand.head * room.trough_m, 1)) if room else say("–")
        rows += [
            ComparedRow(name=f"{label(demand.herd)}: a trough", cells=[
                edge, say("–"),
                money(analysis.document, vessels()[TROUGH_MOVED].price),
                say("open: they splash, foul and scratch in it; cleaned weekly"),
            ]),
            ComparedRow(name=f"{label(demand.herd)}: nipples under a closed drum", cells=[
                say("–"), say("{}", str(nipples)), money(analysis.document, nipples * NIPPLE_PRICE + drum),
                say("dark and clean; water over the nipples has to stand high enough at the lowest level"),
            ]),
        ]  # fmt: skip
    if not rows:
        return None
    return Comparison(
        key="trough-or-nipples",
        title="A trough, or nipples",
        columns=["Edge needed", "Nipples", "Price", "What it means"],
        rows=rows,
        notes=[
            say(
                "Edge and heads for each nipple of hens by Directive 1999/74/EC, from memory; of others {} to a "
                "nipple, typical, "
                "from memory; prices typical, from memory.",
                str(HEADS_PER_NIPPLE),
            )
        ],
    )
