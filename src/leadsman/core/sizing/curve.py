"""What more or less flow costs: the cheapest plan for some shares of what is required, from little to all there is."""

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


def trade_off(
    document: Design,
    *,
    check_cancelled: CancelCheck = never_cancelled,
    watch: Callable[[float, list[Point]], None] | None = None,
) -> list[Point]:
    """Return the cheapest plans from little flow to the most that something fits for; each dearer than the one before.

    Raises:
        DesignFaults: nothing to choose from, or nothing required.
    """
    found: list[Point] = []
    for number, share in enumerate(SHARES):
        try:
            sized = size(document, share=share, check_cancelled=check_cancelled)
        except NothingFits:
            break
        if found and sized.cost <= found[-1].sized.cost * (1.0 + 1e-9):
            found[-1] = Point(share=share, sized=sized)  # more for the same money
        else:
            found.append(Point(share=share, sized=sized))
        if watch is not None:
            watch((number + 1.0) / len(SHARES), found)
    return found
