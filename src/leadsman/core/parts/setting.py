"""Setting out the floats of a vessel: hole, levels, travel, room around each float, and how it is adjusted."""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from itertools import combinations
from typing import Literal

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import MILLIMETRE_M, lpm_from_m3s, m_from_mm, pa_from_head_m
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.catalogue.product import FloatValveProduct
from leadsman.core.design import FloatMount, FloatValveOutlet, Inside, LyingCylinderShape, Vessel, label
from leadsman.core.design.vessel import BoxShape
from leadsman.core.parts.connection import inlet_of
from leadsman.core.parts.float_travel import Arm, Travel, between_m, travel_of
from leadsman.core.parts.hole import hole_over_floor_m
from leadsman.core.parts.section import VesselSection, section_of
from leadsman.core.physics.ball_arm import WELL_SUNK, BallArm

PIN_MM = 40.0  # of an arm's pin in from the wall where nobody says; ours
FREE_M = 0.02  # that a float keeps from walls and whatever is in the vessel; ours, no source
MOST_BEND_RAD = math.radians(35.0)  # an arm that points further up or down belongs in another hole; ours, no source
THINGS = {
    "pump": "the pump",
    "skimmer": "the skimmer",
    "roots": "the roots",
    "basket": "the basket",
    "other": "what is in it",
}
GUARDS = {
    "enclosed": "{} is shut away from stock: nobody sees it run, so look under the lid at every round.",
    "guarded": "{} has a guard: see that the float stays clear of it over its whole travel.",
    "open": "{} is in the open: a fault is seen from afar, and hooves, horns and beaks reach it.",
}

LevelKind = Literal["rim", "overflow", "cable", "closes", "opens", "needs", "outlet", "tap"]


@dataclass(frozen=True, kw_only=True)
class SetLevel:
    """A height over the floor [m] that the drawing shows, and of what."""

    kind: LevelKind
    at_m: float
    name: str


@dataclass(frozen=True, kw_only=True)
class Room:
    """What a float comes near, and the least room between them over its travel [m]; below 0 they meet."""

    to: str
    room_m: float


@dataclass(frozen=True, kw_only=True)
class SetFloat:
    """One float valve set out [m over the vessel's floor].

    `hole_m` is where the plan has its hole, None where it says nothing; `level_hole_m` where its arm points level when
    shut; `sunk_m` how deep its float lies then. `is_known` says whether float and arm are the plan's, not those of the
    valve of the catalogue that passes about as much. `travel` is None where float or arm are not known, or where
    the arm does not reach.
    """

    outlet: FloatValveOutlet
    product: FloatValveProduct
    is_known: bool
    hole_m: float | None
    level_hole_m: float | None
    arm_m: float | None
    float_diameter_m: float | None
    sunk_m: float | None
    travel: Travel | None
    reaches: bool
    rooms: list[Room] = field(default_factory=list)
    adjust: list[Wording] = field(default_factory=list)

    @property
    def closes_at_m(self) -> float:
        """Level at which it shuts [m]."""
        return self.outlet.valve.closes_at_m

    @property
    def opens_at_m(self) -> float:
        """Level at which it is wide open again [m]."""
        return self.closes_at_m - self.outlet.valve.band_m

    @property
    def bend_rad(self) -> float | None:
        """How far its arm points up, below 0 down, when it shuts [rad]; None where that is not known."""
        return None if self.travel is None else self.travel.arm.bend_rad(self.travel.shut[1])

    @property
    def tightest(self) -> Room | None:
        """What it comes nearest to."""
        return min(self.rooms, key=lambda room: room.room_m, default=None)


@dataclass(frozen=True, kw_only=True)
class Setting:
    """A vessel with its floats set out."""

    vessel: Vessel
    section: VesselSection
    floats: list[SetFloat]
    levels: list[SetLevel]
    notes: list[Wording]


def settings(analysis: Analysis) -> list[Setting]:
    """Return every vessel that float valves fill, set out as on the day shown."""
    filled: dict[str, list[FloatValveOutlet]] = {}
    for outlet in analysis.design.outlets:
        if isinstance(outlet, FloatValveOutlet) and outlet.fills:
            filled.setdefault(outlet.fills, []).append(outlet)
    return [_setting(analysis, vessel, filled[vessel.id]) for vessel in analysis.design.vessels if vessel.id in filled]


def _setting(analysis: Analysis, vessel: Vessel, outlets: list[FloatValveOutlet]) -> Setting:
    floats = [_set_float(analysis, vessel, outlet) for outlet in outlets]
    placed = [(one, _aside_m(vessel, one.outlet, number, len(floats))) for number, one in enumerate(floats)]
    for one, aside_m in placed:
        one.rooms.extend(_rooms(vessel, one, aside_m))
    for (one, aside_m), (other, other_aside_m) in combinations(placed, 2):
        if aside_m is not None and other_aside_m is not None:
            _between(one, other, other_aside_m - aside_m)
    return Setting(
        vessel=vessel,
        section=section_of(vessel.shape, _mount(outlets[0]).wall),
        floats=floats,
        levels=sorted(_levels(vessel, floats), key=lambda level: -level.at_m),
        notes=list(_notes(analysis, vessel, floats)),
    )


def _mount(outlet: FloatValveOutlet) -> FloatMount:
    return outlet.mount or FloatMount()


def _set_float(analysis: Analysis, vessel: Vessel, outlet: FloatValveOutlet) -> SetFloat:
    layout, mount, product = analysis.model.layout, _mount(outlet), inlet_of(outlet)
    # in a pond it hangs from a bracket, at the height that suits it
    hole_m = None if vessel.role == "pond" else hole_over_floor_m(layout, outlet, vessel)
    arm_m, float_m = _either_m(mount.arm_mm, product.float_arm_mm), _either_m(mount.float_mm, product.float_mm)
    measured = mount.arm_mm is not None and mount.float_mm is not None
    known = measured or product.product_id == outlet.valve.product
    if arm_m is None or float_m is None:
        unknown = say("Its float is in no table: measure arm and float, or move the float until it just shuts there.")
        return SetFloat(
            outlet=outlet, product=product, is_known=False, hole_m=hole_m, level_hole_m=None, arm_m=arm_m,
            float_diameter_m=float_m, sunk_m=None, travel=None, reaches=True, adjust=[unknown],
        )  # fmt: skip
    sunk_m = _sunk_m(analysis, outlet, product, float_m)
    shut_m = outlet.valve.closes_at_m - sunk_m + float_m / 2.0
    pin_m = hole_m if hole_m is not None else shut_m
    section = section_of(vessel.shape, mount.wall)
    pin_in_m = m_from_mm(PIN_MM if mount.pin_mm is None else mount.pin_mm)
    arm = Arm(pin=(section.near_wall_m(pin_m) + pin_in_m, pin_m), arm_m=arm_m, float_diameter_m=float_m)
    travel = travel_of(arm, shut_m, outlet.valve.band_m)
    return SetFloat(
        outlet=outlet, product=product, is_known=known, hole_m=hole_m, level_hole_m=shut_m, arm_m=arm_m,
        float_diameter_m=float_m, sunk_m=sunk_m, travel=travel, reaches=travel is not None,
        adjust=list(_adjust(None if mount.arm_mm else product.valve_arm_mm, arm, shut_m, hole_m)),
    )  # fmt: skip


def _either_m(own_mm: float | None, sold_mm: float | None) -> float | None:
    told = sold_mm if own_mm is None else own_mm
    return None if told is None else m_from_mm(told)


def _sunk_m(analysis: Analysis, outlet: FloatValveOutlet, product: FloatValveProduct, float_m: float) -> float:
    """Return how deep the float lies when it shuts against the pressure there [m].

    Half of it where its weight and seat are not known.
    """
    head_m = analysis.answer(outlet).static_head_m
    density = analysis.state.water.density_kgm3
    measured = _mount(outlet).float_mm is not None or _mount(outlet).arm_mm is not None
    if (
        measured
        or head_m is None
        or product.seat_mm is None
        or product.valve_arm_mm is None
        or product.float_kg is None
    ):
        return WELL_SUNK * float_m
    over_m = max(0.0, head_m - analysis.model.layout.outlet_height_m(outlet))
    valve_arm_m = m_from_mm(product.valve_arm_mm)
    arm_m = m_from_mm(product.float_arm_mm or product.valve_arm_mm)
    ball = BallArm(
        seat_bore_m=m_from_mm(product.seat_mm), valve_arm_m=valve_arm_m, float_arm_m=arm_m,
        float_kg=product.float_kg, float_diameter_m=float_m,
    )  # fmt: skip
    sinks_m = ball.sinks_m(pa_from_head_m(over_m, density), density)
    return float_m if sinks_m is None else sinks_m


def _adjust(valve_arm_mm: float | None, arm: Arm, shut_m: float, hole_m: float | None) -> Iterator[Wording]:
    """Say how the float comes to shut at its level: the bend of the arm, and what a bend or the screw does."""
    rise_m = shut_m - arm.pin[1]
    if hole_m is None:
        yield say("With the hole or bracket at {} its arm points level when it shuts.", length(shut_m))
    elif abs(rise_m) > arm.arm_m:
        yield say("Its arm of {} does not reach from the hole to the float.", length(arm.arm_m))
    elif abs(rise_m) < 0.005:
        yield say("Its arm points level when it shuts: leave it straight.")
    else:
        yield say(
            "Bend the arm {} until the middle of the float is {} {} its pin when it shuts.",
            "up" if rise_m > 0.0 else "down", length(abs(rise_m)), "over" if rise_m > 0.0 else "under",
        )  # fmt: skip
    screw = ""
    if valve_arm_mm:
        moves = arm.arm_m / m_from_mm(valve_arm_mm)
        screw = f", or turn its screw in: each millimetre of screw moves the float about {moves:.0f}"
    yield say("To close lower bend the arm down by as much as the level shall fall{}.", screw)


def _aside_m(vessel: Vessel, outlet: FloatValveOutlet, number: int, count: int) -> float | None:
    """Return how far a hole is from the wall on its left [m]: as said, else spread evenly over its wall."""
    mount = _mount(outlet)
    if mount.aside_mm is not None:
        return m_from_mm(mount.aside_mm)
    breadth = _breadth_m(vessel, mount)
    return None if breadth is None else breadth * (number + 1.0) / (count + 1.0)


def _breadth_m(vessel: Vessel, mount: FloatMount) -> float | None:
    """Return how broad the wall is that carries a valve [m]; None where the vessel is round there."""
    match vessel.shape:
        case BoxShape(length_m=long, width_m=wide):
            return wide if mount.wall == "end" else long
        case LyingCylinderShape(length_m=long, diameter_m=across):
            return across if mount.wall == "end" else long
    return None


def _rooms(vessel: Vessel, one: SetFloat, aside_m: float | None) -> Iterator[Room]:
    """Yield what a float comes near: walls, floor, and what is in the vessel."""
    if one.travel is None:
        return
    section = section_of(vessel.shape, _mount(one.outlet).wall)
    if section.is_known:
        room_m, wall = one.travel.wall_room_m(section)
        yield Room(to=wall, room_m=room_m)
        beside_m = one.travel.side_room_m(section, aside_m)
        if beside_m is not None:
            yield Room(to="the wall beside it", room_m=beside_m)
    for thing in vessel.inside:
        corners = corners_of(thing, section)
        if corners is not None:
            yield Room(to=told(thing), room_m=one.travel.room_to_m(*corners))


def corners_of(thing: Inside, section: VesselSection) -> tuple[tuple[float, float], tuple[float, float]] | None:
    """Return the lower near and the upper far corner [m] of something in a vessel; None where nobody says."""
    if thing.from_wall_m is None or thing.top_m is None:
        return None
    near = section.near_wall_m(thing.top_m) + thing.from_wall_m
    far = section.far_wall_m(thing.top_m) if thing.wide_m is None else near + thing.wide_m
    return (near, thing.bottom_m), (max(near, far), thing.top_m)


def told(thing: Inside) -> str:
    """Return what something in a vessel is called."""
    return thing.name or THINGS[thing.kind]


def _between(one: SetFloat, other: SetFloat, apart_m: float) -> None:
    """Note the room between two floats of a vessel that hang from one wall, their holes so far apart [m]."""
    if one.travel is None or other.travel is None or _mount(one.outlet).wall != _mount(other.outlet).wall:
        return
    room_m = between_m(one.travel, other.travel, apart_m)
    one.rooms.append(Room(to=f"the float of {label(other.outlet)}", room_m=room_m))
    other.rooms.append(Room(to=f"the float of {label(one.outlet)}", room_m=room_m))


def _levels(vessel: Vessel, floats: Sequence[SetFloat]) -> Iterator[SetLevel]:
    yield SetLevel(kind="rim", at_m=vessel.shape.inside_m, name="rim")
    if vessel.overflow_m is not None:
        yield SetLevel(kind="overflow", at_m=vessel.overflow_m, name="overflow")
    if vessel.cable_m is not None:
        yield SetLevel(kind="cable", at_m=vessel.cable_m, name="cable hole")
    for one in floats:
        of = f" ({label(one.outlet)})" if len(floats) > 1 else ""
        yield SetLevel(kind="closes", at_m=one.closes_at_m, name=f"closes{of}")
        yield SetLevel(kind="opens", at_m=max(0.0, one.opens_at_m), name=f"wide open again{of}")
    for thing in vessel.inside:
        if thing.needs_m is not None:
            yield SetLevel(kind="needs", at_m=thing.needs_m, name=f"least for {told(thing)}")
    if vessel.nipples and 0.0 <= vessel.nipples_m <= vessel.shape.inside_m:
        yield SetLevel(kind="needs", at_m=vessel.nipples_m, name="nipples")
    if vessel.gives_water and vessel.outlet_m > 0.0:
        yield SetLevel(kind="outlet", at_m=vessel.outlet_m, name="outlet")
    for tap in vessel.taps:
        yield SetLevel(kind="tap", at_m=tap.at_m, name=tap.name)


def _notes(analysis: Analysis, vessel: Vessel, floats: Sequence[SetFloat]) -> Iterator[Wording]:
    if vessel.count > 1:
        link = say("links of {}", length(m_from_mm(vessel.link_mm))) if vessel.link_mm else say("their links")
        yield say(
            "{} alike share one level through {} at the bottom; a second link at the height of the overflow lets any "
            "of them run over where that is when a bottom link clogs.", str(vessel.count), link,
        )  # fmt: skip
    if len(floats) > 1:
        yield from _of_several(analysis, floats)
    for one in floats:
        said = GUARDS.get(_mount(one.outlet).guard or "")
        if said:
            yield say(said, label(one.outlet))


def _of_several(analysis: Analysis, floats: Sequence[SetFloat]) -> Iterator[Wording]:
    """Say what two valves on one vessel bring: as much more as the pipe has to give."""
    together = sum(analysis.answer(one.outlet).judged_flow_m3s for one in floats)
    most = max(analysis.flows_alone_m3s.get(one.outlet.id, 0.0) for one in floats)
    yield say(
        "Its {} valves bring {} with everything running; the best of them alone brings {}: they give no more than the "
        "pipe has.", str(len(floats)), _flow(together), _flow(most),
    )  # fmt: skip
    last = max(floats, key=lambda one: one.closes_at_m)
    if last.closes_at_m - min(one.closes_at_m for one in floats) > 0.0:
        yield say("{} shuts last, at {}.", label(last.outlet), length(last.closes_at_m))


def length(metres: float) -> Quantity:
    """Return a length as it is measured with a rule: under a metre in millimetres."""
    if abs(metres) < 1.0:
        return Quantity(value=metres / MILLIMETRE_M, unit="mm")
    return Quantity(value=metres, unit="m", digits=2)


def _flow(flow_m3s: float) -> Quantity:
    return Quantity(value=lpm_from_m3s(flow_m3s), unit="L/min")
