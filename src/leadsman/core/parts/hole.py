"""Holes through the walls of vessels: what passes, the bit to buy by the measured stem, and whether it has room."""

import math
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, field

from leadsman.core.base.units import MILLIMETRE_M
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.catalogue.product import Ended
from leadsman.core.catalogue.thread import threads
from leadsman.core.design import Design, FloatValveOutlet, FrustumShape, MeasuredStem, Vessel, label
from leadsman.core.design.layout import Layout
from leadsman.core.parts.chain import WALL_PIECE
from leadsman.core.parts.connection import Connection, connections, inlet_of

# millimetres; usual twist drills to 13, then hole saws, typical, from memory
BITS_MM = (
    *(0.5 * half for half in range(8, 27)), 14.0, 16.0, 17.0, 19.0, 20.0, 21.0, 22.0, 24.0, 25.0, 27.0, 29.0, 30.0,
    32.0, 33.0, 35.0, 37.0, 38.0, 40.0, 41.0, 43.0, 44.0, 46.0, 48.0, 51.0, 54.0, 57.0, 60.0, 64.0, 67.0, 70.0, 73.0,
    76.0, 79.0, 83.0, 86.0, 89.0, 92.0, 95.0, 98.0, 102.0, 105.0, 108.0, 111.0, 114.0, 121.0, 127.0, 140.0, 152.0,
)  # fmt: skip
ROOM_MM = 0.6  # between stem and hole at least; ours
LOOSE_MM = 3.0  # a hole wider than that over its stem takes a wide washer; ours
SEAL_MM = 12.0  # of the thread for gasket, washer and nut beside the wall; ours
SAME_M = 1e-6
LEANS_DEG = 5.0  # from upright, that a flat washer takes up; ours
WALL_ABOVE_M = 0.03  # of wall between a hole and the rim, or the floor; ours
STEMS, TUBES = ("npt-m", "bspp-m", "bspt-m"), ("push",)  # what passes a wall by itself
PRACTICE = (
    "Measure the stem across its thread, on the piece in hand: what it is called says nothing of the hole.",
    "A hole saw at low speed, backed by wood; catch the swarf, it ends under the valve's seat.",
    "On a flat spot; a ribbed or curved wall needs a wide washer. Smooth the edge of the hole.",
    "Gasket on the water side, washer and nut outside, no tape between; the nut hand tight, then a quarter turn.",
    "A tube passes in a rubber grommet: the hole is as wide as its groove, so measure that.",
    "Behind the wall leave room for the nut and a spanner, about the length of the stem.",
    "Thin walls bulge when full: mark the hole with the vessel full where you can, else leave room above it.",
)  # common practice, no source


@dataclass(frozen=True, kw_only=True)
class Hole:
    """A hole in a vessel's wall [mm; heights in m over its floor].

    `thread_mm` is over the thread by its standard, `stem` what was measured, `bit_mm` the bit to buy; `at_m` the middle
    of the hole where the plan says it. `troubles` are what to heed about it, in words, `unfit` those of them with which
    it cannot be made; `is_chosen` says whether what passes is the plan's, not assumed; `by_grommet` whether a tube
    passes it in a rubber grommet, whose groove is what is measured.
    """

    hole_id: str
    vessel: Vessel
    product: Ended
    thread_mm: float | None
    stem: MeasuredStem | None
    bit_mm: float | None
    at_m: float | None
    is_chosen: bool = False
    by_grommet: bool = False
    troubles: list[Wording] = field(default_factory=list)
    unfit: list[Wording] = field(default_factory=list)


def holes(design: Design, joined: list[Connection] | None = None) -> list[Hole]:
    """Return every hole of a design that something passes, vessel by vessel; a pond has no wall.

    Args:
        joined: its connections, where they are at hand.
    """
    joined = connections(design) if joined is None else joined
    found = [*_of_lines(design, joined), *_of_valves(design)]
    order = {vessel.id: number for number, vessel in enumerate(design.vessels)}
    return sorted(found, key=lambda hole: order[hole.vessel.id])


def bit_for(across_mm: float) -> float | None:
    """Return the next bit [mm] that leaves room around a stem [mm]; None where none is sold so large.

    >>> bit_for(20.8)
    22.0
    """
    return next((bit for bit in BITS_MM if bit >= across_mm + ROOM_MM), None)


def _of_lines(design: Design, joined: list[Connection]) -> Iterator[Hole]:
    """Yield the holes of bulkheads at the ends of lines."""
    vessels = {vessel.id: vessel for vessel in design.vessels}
    lines = {line.id: line for line in design.lines}
    for connection in joined:
        for piece in connection.extra:
            if not piece.product_id.startswith(WALL_PIECE) or connection.line is None or connection.at_m is None:
                continue
            line = lines[connection.line]
            leaves = connection.at_m < line.pipe_length_m / 2.0
            vessel = vessels[line.from_ if leaves else line.to]
            at_m = vessel.outlet_m if leaves and vessel.outlet_m > 0.0 else None
            if vessel.role != "pond":
                yield _hole(design, f"{connection.connection_id}:hole", vessel, piece, at_m)


def _of_valves(design: Design) -> Iterator[Hole]:
    """Yield the holes of float valves whose inlet is a stem with a male thread, or a tube through a grommet."""
    vessels, layout = {vessel.id: vessel for vessel in design.vessels}, Layout(design)
    for outlet in design.outlets:
        if not isinstance(outlet, FloatValveOutlet):
            continue
        vessel, product = vessels.get(outlet.fills or ""), inlet_of(outlet)
        passes = product.end_list[0].family in (*STEMS, *TUBES)
        if vessel is not None and vessel.role != "pond" and passes:
            at_m = hole_over_floor_m(layout, outlet, vessel)
            chosen = product.product_id == outlet.valve.product
            yield _hole(design, f"{outlet.id}:hole", vessel, product, at_m, is_chosen=chosen)


def hole_over_floor_m(layout: Layout, outlet: FloatValveOutlet, vessel: Vessel) -> float | None:
    """Return how high over its vessel's floor the plan has a valve [m]; None where it says nothing of that."""
    over_floor_m = layout.outlet_height_m(outlet) - layout.floor_m(vessel)
    return over_floor_m if outlet.height_m > 0.0 and over_floor_m > 0.0 else None


def _hole(
    design: Design, hole_id: str, vessel: Vessel, product: Ended, at_m: float | None, *, is_chosen: bool = False
) -> Hole:
    stem = next((one for one in design.stems if one.product == product.product_id), None)
    end = product.end_list[0]
    thread = next((one for one in threads().values() if (one.family, one.size) == (end.thread, end.size)), None)
    bit_mm = None if stem is None else bit_for(stem.across_mm)
    male = end.family.endswith("-m")
    unfit = list(_unfit(vessel, stem, bit_mm, at_m))
    return Hole(
        hole_id=hole_id, vessel=vessel, product=product, stem=stem, bit_mm=bit_mm, at_m=at_m,
        thread_mm=thread.outer_m / MILLIMETRE_M if thread and male else None,
        is_chosen=is_chosen, by_grommet=end.family in TUBES, unfit=unfit,
        troubles=[*_troubles(stem, bit_mm, end.family in TUBES), *_lean(vessel), *unfit],
    )  # fmt: skip


def _lean(vessel: Vessel) -> Iterator[Wording]:
    """Yield that the wall leans, so that the stem does not stand level."""
    if isinstance(vessel.shape, FrustumShape):
        out_m = (vessel.shape.top_diameter_m - vessel.shape.bottom_diameter_m) / 2.0
        degrees = math.degrees(math.atan2(abs(out_m), vessel.shape.height_m))
        if degrees > LEANS_DEG:
            yield say(
                "the wall leans by {} degrees: drill square to it, put a soft or wedge washer under the nut, and "
                "see that "
                "the arm still swings upright", f"{degrees:.0f}",
            )  # fmt: skip


def _troubles(stem: MeasuredStem | None, bit_mm: float | None, by_grommet: bool) -> Iterator[Wording]:
    """Yield what to heed before it is drilled."""
    if stem is None:
        yield say("measure the groove of its rubber grommet" if by_grommet else "measure the stem")
    elif bit_mm is None:
        yield say("no usual bit is so large: cut the hole to {}", _mm(stem.across_mm + ROOM_MM))
    elif bit_mm - stem.across_mm > LOOSE_MM:
        yield say("the next bit is {} wider than the stem: use a wide washer", _mm(bit_mm - stem.across_mm))


def _unfit(vessel: Vessel, stem: MeasuredStem | None, bit_mm: float | None, at_m: float | None) -> Iterator[Wording]:
    """Yield why a hole cannot be made: a stem that does not reach through, no wall above it, none below."""
    long_mm, wall_mm = stem.long_mm if stem else None, vessel.wall_mm
    if long_mm is not None and wall_mm is not None and long_mm < wall_mm + SEAL_MM:
        yield say(
            "its thread of {} does not reach through a wall of {} with gasket, washer and nut, about {}",
            _mm(long_mm), _mm(wall_mm), _mm(SEAL_MM),
        )  # fmt: skip
    if at_m is None:
        return
    inside_m = vessel.shape.inside_m
    if at_m >= inside_m - SAME_M:
        yield say("the hole lies above the rim of {}, at {}", label(vessel), _metres(inside_m))
    elif stem is not None:
        half_m = (bit_mm or stem.across_mm) * MILLIMETRE_M / 2.0
        if at_m + half_m + WALL_ABOVE_M > inside_m:
            yield say("less than {} of wall is left between the hole and the rim", _metres(WALL_ABOVE_M))
        if at_m - half_m < 0.0:
            yield say("the middle of the hole has to lie {} over the floor, or it cuts into it", _metres(half_m))


def _mm(value: float) -> Quantity:
    return Quantity(value=value, unit="mm", digits=1)


def _metres(value: float) -> Quantity:
    return Quantity(value=value, unit="m", digits=2)


def bits(found: list[Hole]) -> list[tuple[float, int]]:
    """Return the bits to buy [mm] with how many holes each drills."""
    return sorted(Counter(hole.bit_mm for hole in found if hole.bit_mm is not None).items())
