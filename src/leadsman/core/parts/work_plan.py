"""The order of work from the empty field to the herd at its troughs, with hours for one person and for two."""

from collections.abc import Iterator
from dataclasses import dataclass, replace

from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import Design, FloatValveOutlet
from leadsman.core.design.layout import Layout
from leadsman.core.parts.accessories import marks_of
from leadsman.core.parts.connection import Connection
from leadsman.core.parts.hole import Hole
from leadsman.core.parts.roll import Rolls

# minutes for one person who has done it before; ours, no source: count your own and go by that
ROLL_OUT_MIN_PER_M = 0.15
JOINT_MIN, HOLE_MIN, FLOAT_MIN, STAND_MIN, MARK_MIN, PART_MIN = 6.0, 15.0, 30.0, 120.0, 3.0, 10.0
FIRST_WATER_MIN, LOOK_ROUND_MIN = 10.0, 30.0
DIG_MIN_PER_M = 10.0  # a spade deep by hand, laid and filled in
TWO_TAKE = 0.6  # of the time of one: rolls out and holes go faster with two, walking does not; ours


@dataclass(frozen=True, kw_only=True)
class WorkStep:
    """One step: what is done, what it is counted from, and hours for one person and for two; 0 where it waits only.

    `is_later` is what comes when the line has proved right, long after the herd drinks from it.
    """

    told: Wording
    counted: Wording
    one_h: float
    two_h: float
    is_later: bool = False


def work_plan(design: Design, joined: list[Connection], cut: list[Rolls], drilled: list[Hole]) -> list[WorkStep]:
    """Return the order of work of a design.

    Args:
        joined, cut, drilled: its connections, rolls and holes.
    """
    return list(_steps(design, joined, cut, drilled))


def _steps(design: Design, joined: list[Connection], cut: list[Rolls], drilled: list[Hole]) -> Iterator[WorkStep]:
    layout = Layout(design)
    length_m = sum(line.pipe_length_m for line in design.lines)
    crossings_m = sum(crossing.wide_m for line in design.lines for crossing in line.crossings)
    buried_m = sum(line.pipe_length_m for line in design.lines if line.cover_m > 0.0)
    if crossings_m or buried_m:
        yield _wait(say("Call the utility locating service, and wait for its answer before any digging"))
    stands = [vessel for vessel in design.vessels if vessel.gives_water and vessel.role != "pond"]
    if stands:
        yield _step(
            say("Level the footings, set up tanks and stands"),
            say("{} of them", _count(len(stands))),
            STAND_MIN * len(stands),
        )
    if drilled:
        yield _step(
            say("Measure stems, drill, fit what passes the walls"),
            say("{} holes", _count(len(drilled))),
            HOLE_MIN * len(drilled),
        )
    yield _step(
        say("Roll the pipe out on the surface along its way, weighted, in snakes; a warm day helps"),
        say("{} of pipe", Quantity(value=length_m, unit="m", digits=0)), ROLL_OUT_MIN_PER_M * length_m,
    )  # fmt: skip
    joints = sum(len(one.chain.mates) for one in joined if one.chain) + sum(len(rolls.joins) for rolls in cut)
    yield _step(say("Make the joints"), say("{} joints", _count(joints)), JOINT_MIN * joints)
    inline = sum(len(line.inline) for line in design.lines)
    if inline:
        yield _step(say("Fit stopcocks, filters, vents and drains"), say("{} parts", _count(inline)), PART_MIN * inline)
    marks = sum(marks_of(design, layout, line, cut) for line in design.lines)
    if marks:
        yield _step(say("Mark every tap and part"), say("{} marks", _count(marks)), MARK_MIN * marks)
    floats = [outlet for outlet in design.outlets if isinstance(outlet, FloatValveOutlet)]
    ends = len(design.outlets)
    yield _step(
        say("First water: all ends open, filled slowly from the top, flushed before filters and floats go on"),
        say("{} outlets", _count(ends)), FIRST_WATER_MIN * ends + LOOK_ROUND_MIN,
    )  # fmt: skip
    if floats:
        yield _step(
            say("Set the floats, lift each three times"), say("{} floats", _count(len(floats))), FLOAT_MIN * len(floats)
        )
    yield _wait(say("All ends shut, under full pressure, for a night; then look at every joint"))
    if crossings_m:
        metres = Quantity(value=crossings_m, unit="m", digits=0)
        yield _step(
            say("Put the crossings into the ground, in sleeves"),
            say("{} of trench", metres),
            DIG_MIN_PER_M * crossings_m,
        )
    yield _step(say("Go round the day after, and every day from then on"), say("one round"), LOOK_ROUND_MIN)
    if buried_m:
        metres = Quantity(value=buried_m, unit="m", digits=0)
        told = say("Bury the rest when it has proved right and the ground allows: by machine, or a spade deep by hand")
        yield replace(_step(told, say("{} of trench, by hand", metres), DIG_MIN_PER_M * buried_m), is_later=True)


def _step(told: Wording, counted: Wording, minutes: float) -> WorkStep:
    return WorkStep(told=told, counted=counted, one_h=minutes / 60.0, two_h=minutes / 60.0 * TWO_TAKE)


def _wait(told: Wording) -> WorkStep:
    return WorkStep(told=told, counted=(), one_h=0.0, two_h=0.0)


def _count(number: int) -> str:
    return str(number)
