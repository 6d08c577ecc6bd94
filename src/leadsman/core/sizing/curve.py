"""What more or less flow costs, a higher tank saves, and what it costs to be sure: the cheapest plan for each."""

from collections.abc import Callable
from dataclasses import dataclass

from leadsman.core.base.cancel import CancelCheck, never_cancelled
from leadsman.core.base.errors import UnknownName
from leadsman.core.design import Design
from leadsman.core.design.change import with_part
from leadsman.core.sizing.problem import NothingFits
from leadsman.core.sizing.size import Sized, size

SHARES = (0.5, 0.7, 0.85, 1.0, 1.15, 1.35, 1.6, 2.0, 2.5, 3.2, 4.0)  # of every flow that is required; ours, no source

STEPS = 8  # of a stand's height


@dataclass(frozen=True, kw_only=True)
class Point:
    """The cheapest plan for a share of every required flow [-], or with a tank so much higher than it stands [m]."""

    at: float
    sized: Sized


@dataclass(frozen=True, kw_only=True)
class Curve:
    """The cheapest plans from little flow to the most that something fits for, each dearer than the one before.

    Over the height of a tank they are from the lowest that does to the highest, each cheaper than the one before.
    `ends` says why there is none beyond; "" where it was not looked for. `surely` is the cheapest plan that gives
    every required flow at the worse end of its range too, or `surely_not` says why there is none.
    """

    points: list[Point]
    ends: str = ""
    surely: Sized | None = None
    surely_not: str = ""


def trade_off(
    document: Design,
    *,
    check_cancelled: CancelCheck = never_cancelled,
    watch: Callable[[float, Curve], None] | None = None,
) -> Curve:
    """Return the cheapest plans for shares of what is required, and the one that gives it surely.

    Raises:
        DesignFaults: nothing to choose from, or nothing required.
    """
    found: list[Point] = []
    ends, surely, surely_not = "", None, ""
    steps = len(SHARES) + 1.0
    for number, share in enumerate(SHARES):
        try:
            sized = size(document, share=share, check_cancelled=check_cancelled)
        except NothingFits as nothing:
            ends = str(nothing)
            break
        if found and sized.cost <= found[-1].sized.cost * (1.0 + 1e-9):
            found[-1] = Point(at=share, sized=sized)  # more for the same money
        else:
            found.append(Point(at=share, sized=sized))
        if watch is not None:
            watch((number + 1.0) / steps, Curve(points=found))
    certain = _surely(document)
    if certain is not None:
        try:
            surely = size(certain, check_cancelled=check_cancelled)
        except NothingFits as nothing:
            surely_not = str(nothing)
    return Curve(points=found, ends=ends, surely=surely, surely_not=surely_not)


def over_stand(
    document: Design,
    vessel_id: str,
    most_m: float,
    *,
    check_cancelled: CancelCheck = never_cancelled,
    watch: Callable[[float, Curve], None] | None = None,
) -> Curve:
    """Return the cheapest plans with a tank higher by nothing up to so much [m], what a stand costs left out.

    Raises:
        UnknownName: there is no such vessel.
        DesignFaults: nothing to choose from, or nothing required.
    """
    stands = {vessel.id: vessel.stand_m for vessel in document.vessels}
    if vessel_id not in stands:
        raise UnknownName("vessel", vessel_id, list(stands), "/vessel")
    found: list[Point] = []
    ends = ""
    for number in range(STEPS + 1):
        rise_m = most_m * number / STEPS
        try:
            sized = size(_raised(document, vessel_id, stands[vessel_id] + rise_m), check_cancelled=check_cancelled)
        except NothingFits as nothing:
            ends = ends if found else str(nothing)
            continue
        if not found or sized.cost < found[-1].sized.cost * (1.0 - 1e-9):
            found.append(Point(at=rise_m, sized=sized))
        if watch is not None:
            watch((number + 1.0) / (STEPS + 2.0), Curve(points=found, ends=ends))
    return Curve(points=found, ends=ends)


def _raised(document: Design, vessel_id: str, stand_m: float) -> Design:
    """Return a plan with a tank on a stand of a height, which is not chosen any more."""
    raised = with_part(document, "vessels", vessel_id, {"stand_m": stand_m})
    if raised.sizing is None:
        return raised
    stands = [stand for stand in raised.sizing.stands if stand.vessel != vessel_id]
    return raised.model_copy(update={"sizing": raised.sizing.model_copy(update={"stands": stands})})


def _surely(document: Design) -> Design | None:
    """Return a plan in which every flow of an outlet is required surely; None where none is required."""
    wanted = [
        one.model_copy(update={"surely": True})
        if one.outlet is not None and one.flow_lpm is not None and one.case is None
        else one
        for one in document.requirements
    ]
    return document.model_copy(update={"requirements": wanted}) if any(one.surely for one in wanted) else None
