"""Moving day: the next moves of the grazing calendar, what to do at each, and what it costs in litres and minutes."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, timedelta

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.wording import Quantity, Wording, duration, say
from leadsman.core.design import FloatValveOutlet, Herd, OutletBase, Vessel, label
from leadsman.core.design.store import kept_m3
from leadsman.core.farm.grazing import Stop, moves_on
from leadsman.core.farm.moving import thrown_l

LOOKED_AHEAD_D, MOST_MOVES = 120, 20


@dataclass(frozen=True, kw_only=True)
class Move:
    """One move of a herd on a day, from an outlet to the next, with what is done in order.

    `vessel` is the trough that goes along, None where each stop has its own; `thrown_l` what is thrown away with it,
    `minutes` what the work takes, None where nobody said; `wait_s` until the trough is full again [s].
    """

    day: date
    herd: Herd
    left: str
    reached: str
    paddock: str | None
    vessel: Vessel | None
    thrown_l: float
    minutes: float | None
    wait_s: float | None
    steps: list[Wording]


def next_moves(analysis: Analysis, today: date) -> list[Move]:
    """Return the next moves of the grazing calendar from a day on, no more than 20 and within 120 days.

    Where the calendar begins later than that, its first ones.
    """
    design = analysis.document
    begins = [date.fromisoformat(rotation.from_) for rotation in design.calendar]
    running = any(rotation.to is None or date.fromisoformat(rotation.to) >= today for rotation in design.calendar)
    first = max(today, min(begins)) if begins and running else None
    if first is None:
        return []
    found: list[Move] = []
    for ahead in range(LOOKED_AHEAD_D):
        day = first + timedelta(days=ahead)
        for herd in design.herds:
            if herd.head_on(day.isoformat()) > 0:
                found += [
                    move
                    for before, after in moves_on(design, herd, day.isoformat())
                    if (move := _move(analysis, day, herd, before, after)) is not None
                ]
        if len(found) >= MOST_MOVES:
            break
    return found[:MOST_MOVES]


def _move(analysis: Analysis, day: date, herd: Herd, before: Stop, after: Stop) -> Move | None:
    layout = analysis.model.layout
    left, reached = layout.outlets[before.outlet], layout.outlets[after.outlet]
    if left is reached:
        return None
    vessel = layout.vessels.get(reached.fills or "")
    carried = vessel if vessel is not None and vessel.portable and left.fills == reached.fills else None
    away_l = thrown_l(carried, left if isinstance(left, FloatValveOutlet) else None) if carried else 0.0
    filled_m3 = kept_m3(vessel, reached.valve) if vessel and isinstance(reached, FloatValveOutlet) else 0.0
    flow = analysis.flows_alone_m3s.get(reached.id, 0.0)
    wait_s = filled_m3 / flow if carried and flow > 0.0 else None
    return Move(
        day=day, herd=herd, left=left.id, reached=reached.id, paddock=after.paddock, vessel=carried, thrown_l=away_l,
        minutes=carried.portable.minutes if carried and carried.portable else None, wait_s=wait_s,
        steps=list(_steps(left, reached, carried, away_l, wait_s)),
    )  # fmt: skip


def _steps(
    left: OutletBase, reached: OutletBase, carried: Vessel | None, away_l: float, wait_s: float | None
) -> Iterator[Wording]:
    if carried is None:
        yield say("Look at {} before the herd comes: full, clean, its float free", label(reached))
        yield say("Open the tap of {}; let air out until it runs clear", label(reached))
        yield say("When the herd is gone: shut the tap of {}, and drain it before frost", label(left))
        return
    yield say("Shut the tap of {}", label(left))
    yield say("Take the hose off and tip {}: {} run away", label(carried), Quantity(value=away_l, unit="L"))
    yield say("Carry it to {}, level ground, not in the gateway", label(reached))
    yield say("Connect the hose, with slack; washer in, hand tight")
    yield say("Open the tap of {} slowly; let the air out", label(reached))
    if isinstance(reached, FloatValveOutlet):
        level = Quantity(value=reached.valve.closes_at_m, unit="m")
        yield say("Lift the float: it shuts. Set it to shut at {} over the floor", level)
    if wait_s is not None:
        yield say("Wait until it is full and shuts by itself: about {}", duration(wait_s))
    yield say("Guard over the float; no animal is without water until then")
