"""Floats that touch something, shut over an open hole in the wall, or open again too late for what needs the water."""

import math
from collections.abc import Iterator
from functools import partial

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import MILLIMETRE_M
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import Design, FloatValveOutlet, Vessel, label
from leadsman.core.farm.container_row import sharing_a_level
from leadsman.core.farm.drinking import over_nipples_m
from leadsman.core.findings.registry import Finding, Question, Remedy, Severity, judgement
from leadsman.core.findings.remedies import Candidate, that_help, that_set_lower
from leadsman.core.parts.setting import FREE_M, MOST_BEND_RAD, SetFloat, length, settings, told

BELOW_HOLE_M = 0.02  # of a closing level that is offered; ours, no source


@judgement("float-hits", "A float touches something, or has no room to travel", Question.DOES_IT_RUN, at_rest=True)
def float_hits(analysis: Analysis) -> Iterator[Finding]:
    """Yield each float that over its travel comes too near a wall, another float or what is in its vessel.

    Only where the plan says which valve it is, or its float and arm are measured.
    """
    for setting in settings(analysis):
        for one in setting.floats:
            tightest, bend = one.tightest, one.bend_rad
            if not one.is_known:
                continue
            if not one.reaches:
                yield _out_of_reach(one)
            elif tightest is not None and tightest.room_m < FREE_M:
                yield _hits(analysis, setting.vessel, one, tightest.to, tightest.room_m)
            elif bend is not None and abs(bend) > MOST_BEND_RAD:
                yield _bent_too_far(one, bend)


def _hits(analysis: Analysis, vessel: Vessel, one: SetFloat, thing: str, room_m: float) -> Finding:
    touches = room_m < 0.0
    return Finding(
        severity=Severity.FIX if touches else Severity.WATCH,
        where=one.outlet.id,
        value=room_m / MILLIMETRE_M,
        limit=FREE_M / MILLIMETRE_M,
        unit="mm",
        headline=say("The float of {} {} {}", label(one.outlet), "touches" if touches else "has little room to", thing),
        why=say(
            "Between shut and wide open {} {} there; {} is wanted (our own rule). A float that catches lets "
            "the water run, or none in. Move the hole, or take a shorter arm or a smaller float.",
            say("it lacks {}", length(-room_m)) if touches else say("{} is left", length(room_m)),
            "to be free" if touches else "between float and what it passes",
            length(FREE_M),
        ),
        try_remedies=partial(_other_wall, analysis, vessel, one),
    )


def _out_of_reach(one: SetFloat) -> Finding:
    arm_m, drop_m = one.arm_m or 0.0, abs((one.level_hole_m or 0.0) - (one.hole_m or 0.0))
    return Finding(
        severity=Severity.FIX,
        where=one.outlet.id,
        value=drop_m / MILLIMETRE_M,
        limit=arm_m / MILLIMETRE_M,
        unit="mm",
        headline=say("The arm of {} is too short for its closing level", label(one.outlet)),
        why=say(
            "When it shuts at {} its float is {} {} the hole, and its arm is {} long. Drill the hole at {}, or "
            "close at another level.",
            length(one.closes_at_m), length(drop_m),
            "under" if (one.hole_m or 0.0) > (one.level_hole_m or 0.0) else "over", length(arm_m),
            length(one.level_hole_m or 0.0),
        ),
    )  # fmt: skip


def _bent_too_far(one: SetFloat, bend: float) -> Finding:
    over = "high" if bend < 0.0 else "low"
    return Finding(
        severity=Severity.WATCH,
        where=one.outlet.id,
        value=abs(math.degrees(bend)),
        limit=math.degrees(MOST_BEND_RAD),
        unit="count",
        headline=say("The hole of {} is too {} for its closing level", label(one.outlet), over),
        why=say(
            "Its arm points {} by {} degrees when it shuts; over {} a float hangs more than it swings (our own rule). "
            "At {} over the floor the arm points level.",
            "down" if bend < 0 else "up", f"{abs(math.degrees(bend)):.0f}", f"{math.degrees(MOST_BEND_RAD):.0f}",
            length(one.level_hole_m or 0.0),
        ),
    )  # fmt: skip


def _other_wall(analysis: Analysis, vessel: Vessel, one: SetFloat) -> list[Remedy]:
    """Return the other wall, or the middle of this one, where the float has room there."""
    if vessel.shape.kind not in ("box", "lying_cylinder"):
        return []
    index = [outlet.id for outlet in analysis.document.outlets].index(one.outlet.id)
    mount = one.outlet.mount
    now = mount.wall if mount else "end"
    other = "side" if now == "end" else "end"
    kept = {} if mount is None else mount.model_dump(exclude_none=True)
    kept.pop("aside_mm", None)
    where = {"end": "an end", "side": "a long side"}
    op = "add" if mount is None else "replace"
    path = f"/outlets/{index}/mount"
    candidates = [Candidate(
        say("the valve through {} of {}", where[other], label(vessel)),
        [{"op": op, "path": path, "value": {**kept, "wall": other}}],
    )]  # fmt: skip
    if mount is not None and mount.aside_mm is not None:
        middle = [{"op": "replace", "path": path, "value": {**kept, "wall": now}}]
        candidates.insert(0, Candidate(say("the valve in the middle of its wall"), middle))

    def room_m(after: Analysis) -> float:
        own = next(found for each in settings(after) for found in each.floats if found.outlet.id == one.outlet.id)
        return own.tightest.room_m if own.tightest else -math.inf

    def effect(room: float) -> Wording:
        return say("then {} is left around its float", length(room))

    return that_help(analysis, candidates, room_m, effect, FREE_M)


@judgement("closes-over-hole", "A float shuts above an open hole in the wall", Question.DOES_IT_RUN)
def closes_over_hole(analysis: Analysis) -> Iterator[Finding]:
    """Yield each float that at one of its settings shuts at or over the cable hole of its vessel."""
    for outlet in analysis.fed_outlets:
        vessel = analysis.model.layout.vessels.get(outlet.fills or "")
        if not isinstance(outlet, FloatValveOutlet) or vessel is None or vessel.cable_m is None:
            continue
        highest_m = max(_settings_m(analysis.document, outlet))
        if highest_m < vessel.cable_m or vessel.cable_m > vessel.brim_m:
            continue
        yield Finding(
            severity=Severity.STOP,
            where=outlet.id,
            value=highest_m,
            limit=vessel.cable_m,
            unit="m",
            headline=say("{} runs out of its cable hole before the float shuts", label(vessel)),
            why=say(
                "The float shuts at {}, and the lowest cable or hand hole is at {}: the water runs out there and "
                "the valve never shuts. Set the float lower, or move the hole.",
                Quantity(value=highest_m, unit="m"), Quantity(value=vessel.cable_m, unit="m"),
            ),
            try_remedies=partial(_under_hole, analysis, outlet, vessel.cable_m),
        )  # fmt: skip


def _settings_m(document: Design, outlet: FloatValveOutlet) -> list[float]:
    """Return the closing levels [m] that a float has over the season."""
    written = next(one for one in document.outlets if one.id == outlet.id)
    steps = written.valve.steps if isinstance(written, FloatValveOutlet) else []
    return [outlet.valve.closes_at_m, *(step.closes_at_m for step in steps)]


def _under_hole(analysis: Analysis, outlet: FloatValveOutlet, hole_m: float) -> list[Remedy]:
    def effect(below: float) -> Wording:
        return say("then it shuts {} below the hole", length(below))

    return that_set_lower(analysis, outlet, round(hole_m - BELOW_HOLE_M, 3), hole_m, effect)


@judgement("reopens-too-low", "A float opens again too late for what needs the water", Question.DOES_IT_RUN)
def reopens_too_low(analysis: Analysis) -> Iterator[Finding]:
    """Yield each float whose vessel, or a container that shares its level, falls too low before it is wide open."""
    layout = analysis.model.layout
    for outlet in analysis.fed_outlets:
        filled = layout.vessels.get(outlet.fills or "")
        if not isinstance(outlet, FloatValveOutlet) or filled is None:
            continue
        others = [
            each for each in analysis.design.outlets
            if isinstance(each, FloatValveOutlet) and each.fills == filled.id and each.id != outlet.id
        ]  # fmt: skip
        lowest_m = min(_settings_m(analysis.document, outlet)) - outlet.valve.band_m
        if any(each.valve.closes_at_m - each.valve.band_m > lowest_m for each in others):
            continue  # another float of the same vessel opens earlier
        surface_m = layout.floor_m(filled) + lowest_m
        for vessel in sharing_a_level(analysis.design, filled, layout):
            here_m = surface_m - layout.floor_m(vessel)
            for name, needs_m in _needs(vessel, filled, outlet):
                if here_m < needs_m:
                    yield _too_low(outlet, vessel, name, here_m, needs_m)


def _needs(vessel: Vessel, filled: Vessel, outlet: FloatValveOutlet) -> Iterator[tuple[str, float]]:
    """Yield what needs water in a vessel, and the least level for it [m]."""
    for thing in vessel.inside:
        if thing.needs_m is not None:
            yield told(thing), thing.needs_m
    over_m = vessel.nipples_m + over_nipples_m(vessel) if vessel.nipples else 0.0
    if vessel.nipples and vessel is filled and outlet.valve.closes_at_m >= over_m:
        yield "the nipples", over_m  # where it shuts too low for them, that is said elsewhere


def _too_low(outlet: FloatValveOutlet, vessel: Vessel, name: str, here_m: float, needs_m: float) -> Finding:
    return Finding(
        severity=Severity.FIX,
        where=outlet.id,
        value=here_m,
        limit=needs_m,
        unit="m",
        headline=say("{} opens again too late for {} in {}", label(outlet), name, label(vessel)),
        why=say(
            "It is wide open again when the water in {} has fallen to {}; {} need at least {}. Set the float higher, "
            "or take one that closes over less.",
            label(vessel), Quantity(value=max(0.0, here_m), unit="m"), name, Quantity(value=needs_m, unit="m"),
        ),
    )  # fmt: skip
