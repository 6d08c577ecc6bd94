"""Draining before frost and starting in spring, step by step on the way round the lines."""

from collections.abc import Iterator
from dataclasses import dataclass

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.route import Leg
from leadsman.core.analysis.vessel_end import VesselEnd, has_tap
from leadsman.core.base.cached import once_for_each
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import FloatValveOutlet, Line, PressureSource, PumpInflow, Vessel, label
from leadsman.core.winter.drain_down import OPENED, held_water
from leadsman.core.winter.tour import Passed, Stretch, tour

PART_NAMES = {"drain": "drain", "tap_point": "tap"}
DRAINS = say("Air is drawn or blown at it: the way is empty")
# minutes for one person who is there already; ours, no source: count your own and go by that
SHUT_MIN, OPEN_MIN, FILTER_MIN, FIT_MIN, LOW_POINT_MIN = 2.0, 3.0, 10.0, 10.0, 20.0
WALKED_M_PER_MIN = 60.0  # along a fence, with a bag of tools: ours, no source


@dataclass(frozen=True, kw_only=True)
class WalkStep:
    """One step of a walk: what is done, what is seen then, at which part of the plan, and the minutes it takes."""

    step_id: str
    told: Wording
    seen: Wording = ()
    part: str | None = None
    minutes: float = 0.0


@once_for_each
def drain_walk(analysis: Analysis) -> list[WalkStep]:
    """Return the steps that empty a plan's lines before a frost.

    One stretch of lines after the other, the highest source first: its taps are shut, then everything is opened on the
    way down, branch by branch, and what stays in low points is emptied on the way back.
    """
    steps = list(_pumps(analysis))
    back = _left(analysis)
    for stretch in tour(analysis):
        steps += _shut(analysis, stretch)
        steps += [_opened(one) for one in stretch.passed if _is_opened(one)]
        steps += [step for line in reversed(stretch.lines) for step in back.get(line.id, ())]
    if analysis.document.lines:
        steps.append(
            WalkStep(
                step_id="leave", told=say("Leave all ends open until spring, off the ground"),
                seen=say("Ball valves half open: water stays in a shut ball and splits it."),
            )
        )  # fmt: skip
    return steps


@once_for_each
def spring_walk(analysis: Analysis) -> list[WalkStep]:
    """Return the steps that start a plan's lines again: all shut on the way up, what is primed, then first water."""
    steps = [
        _closed(one) for stretch in tour(analysis) for one in reversed(stretch.passed) if _is_opened(one)
    ]  # fmt: skip
    steps += _primed(analysis)
    if not analysis.document.lines:
        return steps
    fill = say("Fill as at first water: a quarter open, from the top")
    split = say("Walk along it: a split shows as wet ground or a hiss")
    look = say("Look at every outlet again next day: it shuts, and its joints are dry")
    return [*steps, WalkStep(step_id="first-water", told=fill, seen=split), WalkStep(step_id="look", told=look)]


def walk_h(analysis: Analysis, steps: list[WalkStep]) -> float:
    """Return the hours that a walk takes one person: its steps, and the way along all lines and back."""
    return sum(step.minutes for step in steps) / 60.0 + walking_h(analysis)


def walking_h(analysis: Analysis) -> float:
    """Return the hours of walking along all lines of a plan and back."""
    along_m = 2.0 * sum(line.pipe_length_m for line in analysis.document.lines)
    return along_m / WALKED_M_PER_MIN / 60.0


def _pumps(analysis: Analysis) -> Iterator[WalkStep]:
    dry_hands = say("Dry hands at the switch.")
    for inflow in analysis.document.inflows:
        if isinstance(inflow, PumpInflow):
            told = say("Switch off the pump of {} and empty it", label(inflow))
            yield WalkStep(step_id=f"pump-{inflow.id}", told=told, seen=dry_hands, minutes=FILTER_MIN)
    for line in analysis.document.lines:
        if line.pump is not None:
            told = say("Switch off the pump of {} and empty it", label(line))
            yield WalkStep(step_id=f"pump-{line.id}", part=line.id, told=told, seen=dry_hands, minutes=FILTER_MIN)


def _shut(analysis: Analysis, stretch: Stretch) -> Iterator[WalkStep]:
    for line, source in stretch.sources:
        leg = Leg(line=line, forward=True, start_m=0.0, end_m=line.pipe_length_m)
        end = VesselEnd(leg=leg, leaves=True, between=line.to in analysis.model.layout.vessels)
        yield _shut_at(line, source, has_none=isinstance(source, Vessel) and not has_tap(end))


def _shut_at(line: Line, source: Vessel | PressureSource, *, has_none: bool) -> WalkStep:
    if has_none:
        return WalkStep(
            step_id=f"source-{line.id}", part=line.id, minutes=FILTER_MIN,
            told=say("Plug {} in {}, or empty it: the plan has no tap there", label(line), label(source)),
            seen=say("A tap beside it, with a way for air just below, makes this a minute's work."),
        )  # fmt: skip
    return WalkStep(
        step_id=f"source-{line.id}", part=line.id, minutes=SHUT_MIN,
        told=say("Shut the tap of {} at {}", label(line), label(source)),
        seen=say("Let air in just below the tap: without it the line empties slowly or not at all."),
    )  # fmt: skip


def _is_opened(one: Passed) -> bool:
    return one.number is None or one.line.inline[one.number].kind in (*OPENED, "filter")


def _opened(one: Passed) -> WalkStep:
    """Return what is done at a spot on the way down."""
    line = one.line
    if one.vessel is not None:
        told = say("Take {} off at {}", label(line), label(one.vessel))
        seen = say("Water runs out there")
        return WalkStep(step_id=f"off-{line.id}", part=line.id, told=told, seen=seen, minutes=FIT_MIN)
    if one.outlet is not None:
        is_float = isinstance(one.outlet, FloatValveOutlet)
        told = (
            say("Take {} off, or hold its float down", label(one.outlet))
            if is_float
            else say("Open {} and leave it open", label(one.outlet))
        )
        step_id, minutes = f"end-{one.outlet.id}", FIT_MIN if is_float else OPEN_MIN
        return WalkStep(step_id=step_id, part=one.outlet.id, told=told, seen=DRAINS, minutes=minutes)
    if one.number is None:
        told = say("Open the end of {}", label(line))
        return WalkStep(step_id=f"open-end-{line.id}", part=line.id, told=told, seen=DRAINS, minutes=OPEN_MIN)
    part = line.inline[one.number]
    if part.kind == "filter":
        told = say("Take out the filter of {} and empty its bowl", label(line))
        return WalkStep(step_id=f"filter-{line.id}-{one.number}", part=line.id, told=told, minutes=FILTER_MIN)
    return WalkStep(
        step_id=f"open-{line.id}-{one.number}", part=line.id, minutes=OPEN_MIN,
        told=say("Open the {} of {} at {}", PART_NAMES[part.kind], label(line), _along(part.at_m)),
        seen=say("Wait until it only drips"),
    )  # fmt: skip


def _closed(one: Passed) -> WalkStep:
    """Return what is done at a spot on the way up in spring."""
    line = one.line
    if one.vessel is not None:
        told = say("Fit {} again at {}", label(line), label(one.vessel))
        return WalkStep(step_id=f"on-{line.id}", part=line.id, told=told, minutes=FIT_MIN)
    if one.outlet is not None:
        told = (
            say("Fit {}: washer soft, float free", label(one.outlet))
            if isinstance(one.outlet, FloatValveOutlet)
            else say("Shut {} until the line is full", label(one.outlet))
        )
        return WalkStep(step_id=f"fit-{one.outlet.id}", part=one.outlet.id, told=told, minutes=FIT_MIN)
    if one.number is None:
        told = say("Shut the end of {}", label(line))
        return WalkStep(step_id=f"shut-end-{line.id}", part=line.id, told=told, minutes=OPEN_MIN)
    part = line.inline[one.number]
    if part.kind == "filter":
        told = say("Clean the filter of {} and put it in", label(line))
        return WalkStep(step_id=f"filter-{line.id}-{one.number}", part=line.id, told=told, minutes=FILTER_MIN)
    told = say("Shut the {} of {} at {}", PART_NAMES[part.kind], label(line), _along(part.at_m))
    return WalkStep(step_id=f"shut-{line.id}-{one.number}", part=line.id, told=told, minutes=OPEN_MIN)


def _primed(analysis: Analysis) -> Iterator[WalkStep]:
    """Yield what has to be full of water before it draws: siphons and pumps."""
    for line in analysis.document.lines:
        if line.siphon:
            told = say("Shut {} at its foot and fill it at its crest until no bubble comes", label(line))
            seen = say("Never start it by mouth.")
            yield WalkStep(step_id=f"prime-{line.id}", part=line.id, told=told, seen=seen, minutes=LOW_POINT_MIN)
    parts: list[PumpInflow | Line] = [one for one in analysis.document.inflows if isinstance(one, PumpInflow)]
    for part in [*parts, *(line for line in analysis.document.lines if line.pump is not None)]:
        told = say("Fill the pump of {} with water before it is switched on", label(part))
        yield WalkStep(step_id=f"prime-{part.id}", told=told, seen=say("Dry hands at the switch."), minutes=FILTER_MIN)


def _left(analysis: Analysis) -> dict[str, list[WalkStep]]:
    """Return the steps that empty what stays in low points, by line."""
    found: dict[str, list[WalkStep]] = {}
    for held in held_water(analysis):
        litres = Quantity(value=held.litres, unit="L", digits=1)
        step = WalkStep(
            step_id=f"left-{held.line.id}-{held.low_m:.0f}", part=held.line.id, minutes=LOW_POINT_MIN,
            told=say("Empty the low point of {} at {}", label(held.line), _along(held.low_m)),
            seen=say("{} stay in it: lift the pipe along, part a joint, or blow it out gently from above.", litres),
        )  # fmt: skip
        found.setdefault(held.line.id, []).append(step)
    return found


def _along(metres: float) -> Quantity:
    return Quantity(value=metres, unit="m", digits=0)
