"""Troughs that go with the herd: what is thrown away at each move, and the minutes it takes."""

from dataclasses import dataclass

from leadsman.core.base.units import LITRE_M3
from leadsman.core.design import Design, FloatValveOutlet, Herd, Vessel
from leadsman.core.design.store import kept_m3, shape_of
from leadsman.core.farm.grazing import moves_on


@dataclass(frozen=True, kw_only=True)
class Moving:
    """A trough that is carried after a herd on a day: the outlet it comes to last, moves, litres thrown away in all.

    `minutes` in all, None where the time of one is unknown.
    """

    herd: Herd
    vessel: Vessel
    outlet: str
    moves: int
    thrown_l: float
    minutes: float | None


def movings(design: Design, day: str | None) -> list[Moving]:
    """Return the troughs that are carried on a day: those of one herd's moves whose two outlets fill the same one."""
    found = []
    for herd in design.herds:
        if herd.head_on(day) > 0:
            found += _of_herd(design, herd, day)
    return found


def thrown_l(vessel: Vessel, outlet: FloatValveOutlet | None) -> float:
    """Return the litres thrown away when a trough is moved: as said, else all that it holds when its float shuts.

    Source: the volume of its shape.
    >>> shape = {"kind": "box", "length_m": 1.5, "width_m": 0.5, "height_m": 0.4}
    >>> trough = Vessel.model_validate({"id": "t", "role": "trough", "place": "p", "shape": shape, "level_m": 0.2})
    >>> round(thrown_l(trough, None), 6)
    150.0
    """
    if vessel.portable and vessel.portable.thrown_l is not None:
        return vessel.portable.thrown_l
    kept = kept_m3(vessel, outlet.valve) if outlet else shape_of(vessel).volume_m3(vessel.level_m)
    return kept / LITRE_M3


def _of_herd(design: Design, herd: Herd, day: str | None) -> list[Moving]:
    outlets = {outlet.id: outlet for outlet in design.outlets}
    vessels = {vessel.id: vessel for vessel in design.vessels if vessel.portable}
    by_vessel: dict[str, list[tuple[str, float]]] = {}
    for before, after in moves_on(design, herd, day):
        left, reached = outlets[before.outlet], outlets[after.outlet]
        if left is not reached and left.fills == reached.fills and left.fills in vessels:
            valve = left if isinstance(left, FloatValveOutlet) else None
            by_vessel.setdefault(left.fills, []).append((reached.id, thrown_l(vessels[left.fills], valve)))
    found = []
    for vessel_id, moves in by_vessel.items():
        portable = vessels[vessel_id].portable
        minutes = portable.minutes * len(moves) if portable and portable.minutes is not None else None
        thrown = sum(litres for _, litres in moves)
        found.append(
            Moving(
                herd=herd,
                vessel=vessels[vessel_id],
                outlet=moves[-1][0],
                moves=len(moves),
                thrown_l=thrown,
                minutes=minutes,
            )
        )
    return found
