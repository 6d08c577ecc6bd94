"""What more or less flow costs, and what it costs to be sure: the cheapest plan for each."""

from collections.abc import Callable
from dataclasses import dataclass

from leadsman.core.base.cancel import CancelCheck, never_cancelled
from leadsman.core.design import Design
from leadsman.core.sizing.problem import NothingFits
from leadsman.core.sizing.size import Sized, size

SHARES = (0.5, 0.7, 0.85, 1.0, 1.15, 1.35, 1.6, 2.0, 2.5, 3.2, 4.0)  # of every flow that is required; ours, no source


@dataclass(frozen=True, kw_only=True)
class Point:
    """The cheapest plan that gives a share of every required flow."""

    share: float
    sized: Sized


@dataclass(frozen=True, kw_only=True)
class Curve:
    """The cheapest plans from little flow to the most that something fits for, each dearer than the one before.

    `ends` says why there is none for more; "" where it was not looked for. `surely` is the cheapest plan that gives
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
            found[-1] = Point(share=share, sized=sized)  # more for the same money
        else:
            found.append(Point(share=share, sized=sized))
        if watch is not None:
            watch((number + 1.0) / steps, Curve(points=found))
    certain = _surely(document)
    if certain is not None:
        try:
            surely = size(certain, check_cancelled=check_cancelled)
        except NothingFits as nothing:
            surely_not = str(nothing)
    return Curve(points=found, ends=ends, surely=surely, surely_not=surely_not)


def _surely(document: Design) -> Design | None:
    """Return a plan in which every flow of an outlet is required surely; None where none is required."""
    wanted = [
        one.model_copy(update={"surely": True})
        if one.outlet is not None and one.flow_lpm is not None and one.case is None
        else one
        for one in document.requirements
    ]
    return document.model_copy(update={"requirements": wanted}) if any(one.surely for one in wanted) else None
