"""Draining before frost and starting in spring, step by step from the source down."""

from collections.abc import Iterator
from dataclasses import dataclass

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import FloatValveOutlet, Line, PumpInflow, label
from leadsman.core.winter.drain_down import OPENED, held_water

PART_NAMES = {"drain": "drain", "tap_point": "tap"}


@dataclass(frozen=True, kw_only=True)
class WalkStep:
    """One step of a walk: what is done, what is seen then, at which part of the plan."""

    step_id: str
    told: Wording
    seen: Wording = ()
    part: str | None = None


def drain_walk(analysis: Analysis) -> list[WalkStep]:
    """Return the steps that empty a plan's lines before a frost: shut at the source, open from there down."""
    return [*_shut(analysis), *_opened(analysis), *_ends(analysis), *_left(analysis), *_last(analysis)]


def spring_walk(analysis: Analysis) -> list[WalkStep]:
    """Return the steps that start a plan's lines again: everything shut that was opened, then first water."""
    steps = []
    for line, number, at in _openings(analysis):
        name = PART_NAMES[line.inline[number].kind]
        steps.append(
            WalkStep(
                step_id=f"shut-{line.id}-{number}",
                part=line.id,
                told=say("Shut the {} of {} at {}", name, label(line), at),
            )
        )
    for line in analysis.document.lines:
        if any(part.kind == "filter" for part in line.inline):
            told = say("Clean the filter of {} and put it in", label(line))
            steps.append(WalkStep(step_id=f"filter-{line.id}", part=line.id, told=told))
    for line in analysis.document.lines:
        if line.to in analysis.model.layout.vessels:
            told = say("Fit {} again at {}", label(line), label(analysis.model.layout.vessels[line.to]))
            steps.append(WalkStep(step_id=f"on-{line.id}", part=line.id, told=told))
    for outlet in analysis.fed_outlets:
        if isinstance(outlet, FloatValveOutlet):
            told = say("Fit {}: washer soft, float free", label(outlet))
            steps.append(WalkStep(step_id=f"fit-{outlet.id}", part=outlet.id, told=told))
    steps.append(
        WalkStep(
            step_id="first-water", told=say("Fill as at first water: a quarter open, from the top"),
            seen=say("Walk along it: a split shows as wet ground or a hiss"),
        )
    )  # fmt: skip
    return steps


def _shut(analysis: Analysis) -> Iterator[WalkStep]:
    layout = analysis.model.layout
    leaving = [(line, layout.vessels[line.from_]) for line in analysis.document.lines if line.from_ in layout.vessels]
    for line, vessel in sorted(leaving, key=lambda pair: -layout.floor_m(pair[1])):
        yield WalkStep(
            step_id=f"source-{line.id}", part=line.id,
            told=say("Shut the tap of {} at {}", label(line), label(vessel)),
            seen=say("Let air in just below the tap: without it the line empties slowly or not at all."),
        )  # fmt: skip
    for inflow in analysis.document.inflows:
        if isinstance(inflow, PumpInflow):
            told = say("Switch off the pump of {} and empty it", label(inflow))
            yield WalkStep(step_id=f"pump-{inflow.id}", told=told, seen=say("Dry hands at the switch."))


def _openings(analysis: Analysis) -> Iterator[tuple[Line, int, Quantity]]:
    """Yield each part that is opened, by its line in the order of the water: line, number of the part, where."""
    order: dict[str, float] = {}
    for outlet in analysis.fed_outlets:
        route = analysis.routes[outlet.id]
        for leg in route.legs if route else ():
            order[leg.line.id] = min(order.get(leg.line.id, float("inf")), leg.start_m)
    for line in sorted(analysis.document.lines, key=lambda line: order.get(line.id, float("inf"))):
        parts = [(part.at_m, number) for number, part in enumerate(line.inline) if part.kind in OPENED]
        for at_m, number in sorted(parts):
            yield line, number, Quantity(value=at_m, unit="m", digits=0)


def _opened(analysis: Analysis) -> Iterator[WalkStep]:
    for line, number, at in _openings(analysis):
        name = PART_NAMES[line.inline[number].kind]
        yield WalkStep(
            step_id=f"open-{line.id}-{number}", part=line.id,
            told=say("Open the {} of {} at {}", name, label(line), at),
            seen=say("Wait until it only drips"),
        )  # fmt: skip


def _ends(analysis: Analysis) -> Iterator[WalkStep]:
    for line in analysis.document.lines:
        if any(part.kind == "filter" for part in line.inline):
            told = say("Take out the filter of {} and empty its bowl", label(line))
            yield WalkStep(step_id=f"filter-{line.id}", part=line.id, told=told)
    vessels = analysis.model.layout.vessels
    for line in analysis.document.lines:
        if line.to in vessels:
            told = say("Take {} off at {}", label(line), label(vessels[line.to]))
            yield WalkStep(step_id=f"off-{line.id}", part=line.id, told=told, seen=say("Water runs out there"))
    for outlet in analysis.fed_outlets:
        told = (
            say("Take {} off, or hold its float down", label(outlet))
            if isinstance(outlet, FloatValveOutlet)
            else say("Open {} and leave it open", label(outlet))
        )
        seen = say("Air is drawn or blown at it: the way is empty")
        yield WalkStep(step_id=f"end-{outlet.id}", part=outlet.id, told=told, seen=seen)


def _left(analysis: Analysis) -> Iterator[WalkStep]:
    for held in held_water(analysis):
        litres = Quantity(value=held.litres, unit="L", digits=1)
        low = Quantity(value=held.low_m, unit="m", digits=0)
        yield WalkStep(
            step_id=f"left-{held.line.id}-{held.low_m:.0f}", part=held.line.id,
            told=say("Empty the low point of {} at {}", label(held.line), low),
            seen=say("{} stay in it: lift the pipe along, part a joint, or blow it out gently from above.", litres),
        )  # fmt: skip


def _last(analysis: Analysis) -> Iterator[WalkStep]:
    if analysis.document.lines:
        yield WalkStep(
            step_id="leave", told=say("Leave all ends open until spring, off the ground"),
            seen=say("Ball valves half open: water stays in a shut ball and splits it."),
        )  # fmt: skip
