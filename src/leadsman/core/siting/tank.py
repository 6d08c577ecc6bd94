"""Where a tank could stand on its hill, and how high its stand has to be there."""

from dataclasses import dataclass
from math import ceil, hypot

import numpy as np

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.feeds import feeds_of
from leadsman.core.base.cancel import CancelCheck, never_cancelled
from leadsman.core.base.fault import DesignFaults, Fault
from leadsman.core.design import Design, Vessel, label
from leadsman.core.design.change import with_part
from leadsman.core.design.edit import edited
from leadsman.core.design.edit.model import MovePlaces, SetGround
from leadsman.core.design.file import write_design
from leadsman.core.design.layout import Layout
from leadsman.core.design.site_costs import stand_price_per_m
from leadsman.core.siting.known_ground import BETWEEN, KnownGround
from leadsman.core.siting.net import joined_with
from leadsman.core.siting.position import (
    ENOUGH,
    Position,
    Spot,
    Watch,
    analysed,
    best_first,
    lacking,
    laid_m,
    more_cost,
)

MOST_STAND_M = 10.0  # a higher one is a tower
STAND_WITHIN_M = 0.02
ACROSS = 9  # positions each way
SHARES = (0.5, 0.6, 0.7, 0.8, 0.9, 1.0, 1.1, 1.2, 1.3, 1.4, 1.5)  # of what is wanted


@dataclass(frozen=True, kw_only=True)
class StandNeeded:
    """The least stand [m] for a share of all that is wanted [-]; None where the highest tried is too low."""

    share: float
    stand_m: float | None


def on_hill(
    design: Design,
    vessel_id: str,
    reach_m: float,
    *,
    for_all: bool = False,
    check_cancelled: CancelCheck = never_cancelled,
    watch: Watch | None = None,
) -> list[Position]:
    """Return positions of a tank within a distance of where it stands [m], best first, each with its least stand.

    Its lines follow as when it is dragged on the plan; only where the ground is known. Outlets get what is wanted of
    them where they get it now, and what feeds the tank still brings what comes.

    Args:
        for_all: outlets that the tank feeds and that lack water now get what is wanted, too.
    Raises:
        DesignFaults: there is no such vessel, or the ground around it is not known.
    """
    vessel = _vessel(design, vessel_id)
    place = next(place for place in design.places if place.id == vessel.place)
    ground = KnownGround(design)
    spots = ground.known(spots_around((place.east_m, place.north_m), reach_m))
    if len(spots) < 2:
        allowed = "heights around it: at places, or along lines"
        raise DesignFaults([Fault(path="/part", code="not_allowed",
                                  found=f"no known ground around {label(vessel)}", allowed=allowed)])  # fmt: skip
    heights, off = (each(np.array(spots)).tolist() for each in (ground.at, ground.off_m))
    now = analysed(design, check_cancelled)
    before = lacking(now)
    spared = before - fed_by(design, vessel_id) if for_all else before
    metre = stand_price_per_m(design, vessel).price
    found: list[Position] = []
    for number, (spot, height, off_m) in enumerate(zip(spots, heights, off, strict=True)):
        check_cancelled()
        moved = _moved(design, vessel.place, spot, height)
        stand_m = least_stand_m(moved, vessel_id, spared, check_cancelled=check_cancelled)
        if stand_m is not None:
            moved = with_part(moved, "vessels", vessel_id, {"stand_m": stand_m})
        after = analysed(moved, check_cancelled)
        pipe = more_cost(design, moved)
        raised = max(stand_m or 0.0, 0.0) - max(vessel.stand_m, 0.0)
        short = tuple(sorted(lacking(after) - before))
        feeds = stand_m is not None and _still_fed(now, after, vessel_id)
        found.append(
            Position(
                spot=spot, ground_m=height, off_m=off_m, more_m=laid_m(moved) - laid_m(design),
                cost=None if pipe is None or metre is None or stand_m is None else pipe + raised * metre,
                design=moved, short=short, stand_m=stand_m, works=stand_m is not None and not short and feeds,
            )
        )  # fmt: skip
        if watch is not None:
            watch((number + 1) / len(spots), best_first(found))
    return best_first(found)


def spots_around(spot: Spot, reach_m: float) -> list[Spot]:
    """Return spots within a distance of one [m], it among them."""
    offsets = np.linspace(-reach_m, reach_m, ACROSS).tolist()
    return [(spot[0] + x, spot[1] + y) for y in offsets for x in offsets if hypot(x, y) <= reach_m * (1.0 + 1e-9)]


def without_ground(design: Design, vessel_id: str, reach_m: float) -> int:
    """Return how many spots around a tank are left out, since no heights are known around them."""
    vessel = _vessel(design, vessel_id)
    place = next(place for place in design.places if place.id == vessel.place)
    spots = spots_around((place.east_m, place.north_m), reach_m)
    return len(spots) - len(KnownGround(design).known(spots))


def stands_needed(
    design: Design, vessel_id: str, *, check_cancelled: CancelCheck = never_cancelled
) -> list[StandNeeded]:
    """Return the least stand of a tank where it stands, for less and more than what is wanted of all outlets.

    Raises:
        DesignFaults: there is no such vessel.
    """
    _vessel(design, vessel_id)
    spared = {outlet.id for outlet in design.outlets} - fed_by(design, vessel_id)
    return [
        StandNeeded(
            share=share, stand_m=least_stand_m(design, vessel_id, spared, share, check_cancelled=check_cancelled)
        )
        for share in SHARES
    ]


def fed_by(design: Design, vessel_id: str) -> set[str]:
    """Return the outlets to which pipes lead from a vessel, other vessels left aside."""
    layout = Layout(design)
    nodes, _ = joined_with(design, layout, vessel_id)
    return {outlet for outlet, node in layout.node_of_outlet.items() if node in nodes}


def least_stand_m(
    design: Design,
    vessel_id: str,
    spared: set[str],
    share: float = 1.0,
    *,
    check_cancelled: CancelCheck = never_cancelled,
) -> float | None:
    """Return the least stand of a tank [m] with which nobody lacks a share of what is wanted; None above 10 m.

    Args:
        spared: outlets that need not get it.
    Source: bisection, to 2 cm, up to the next; a higher tank never gives an outlet less.
    """

    def lacks(stand_m: float) -> bool:
        raised = with_part(design, "vessels", vessel_id, {"stand_m": stand_m})
        return bool(lacking(analysed(raised, check_cancelled), share) - spared)

    low, high = min(_vessel(design, vessel_id).stand_m, 0.0), MOST_STAND_M
    if not lacks(low):
        return low
    if lacks(high):
        return None
    while high - low > STAND_WITHIN_M:
        middle = (low + high) / 2.0
        low, high = (middle, high) if lacks(middle) else (low, middle)
    return ceil(100.0 * high) / 100.0


def _vessel(design: Design, vessel_id: str) -> Vessel:
    found = next((vessel for vessel in design.vessels if vessel.id == vessel_id), None)
    if found is None:
        raise DesignFaults([Fault(path="/part", code="unknown_id", found=vessel_id, allowed="the id of a vessel")])
    return found


def _moved(design: Design, place_id: str, spot: Spot, ground_m: float) -> Design:
    return edited(write_design(design), [
        MovePlaces(kind="move_places", places={place_id: spot}),
        SetGround(kind="set_ground", place=place_id, ground_m=round(ground_m, 2), height_from=BETWEEN),
    ]).design  # fmt: skip


def _still_fed(now: Analysis, after: Analysis, vessel_id: str) -> bool:
    """Return whether lines that run into a tank bring as much as they have to."""
    flow = after.state.flow
    return all(
        flow.line_flow_m3s(line_id) * (1.0 if least > 0.0 else -1.0) >= ENOUGH * abs(least)
        for line_id, least in feeds_of(now, {vessel_id})
    )
