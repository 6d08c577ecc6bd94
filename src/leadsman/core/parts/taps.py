"""Taps along a line: at each join of its pipe, near its far end, and at a chosen spacing between."""

from leadsman.core.design import Design, FloatValveOutlet, Line
from leadsman.core.design.layout import Layout
from leadsman.core.parts.roll import Rolls, joins_of

FAR_END_M = 2.0  # so far before its end: there is room to swing the tap beside what stands there; ours, no source
DOUBLED = 1.0 / 3.0  # of the spacing: no tap is set nearer than that to one that comes anyway; ours, no source


def taps_of(design: Design, layout: Layout, line: Line, cut: list[Rolls]) -> list[float]:
    """Return how far along a line [m] taps are set that the plan does not have by itself; none without a spacing.

    At each join of pieces of one pipe, and near its far end unless another line goes on from there or a tap stands
    there; between these as `taps_between` says.
    """
    every_m = line.tap_every_m
    if every_m is None:
        return []
    length_m = line.pipe_length_m
    own = [part.at_m for part in line.inline if part.kind == "tap_point"]
    joins = [at_m for at_m, _ in joins_of(cut, line.id) if all(abs(at_m - tap) > every_m * DOUBLED for tap in own)]
    fixed = sorted([*own, *joins])
    near_end = bool(fixed) and length_m - fixed[-1] <= every_m * DOUBLED
    if length_m > 2.0 * FAR_END_M and not near_end and _ends_without_tap(design, layout, line):
        fixed.append(length_m - FAR_END_M)
    return sorted({*fixed, *taps_between(fixed, length_m, every_m)} - set(own))


def taps_between(fixed_m: list[float], length_m: float, every_m: float) -> list[float]:
    """Return where taps are set between those that come anyway [m], each a spacing after the one before it.

    None is doubled: where the next one comes anyway within a third of the spacing, the gap is that much longer.
    >>> taps_between([150.0], 260.0, 50.0)
    [50.0, 100.0, 200.0]
    """
    found, last_m = list[float](), 0.0
    for goal_m in [*sorted(fixed_m), length_m]:
        while goal_m - last_m > every_m * (1.0 + DOUBLED):
            last_m += every_m
            found.append(last_m)
        last_m = goal_m
    return found


def _ends_without_tap(design: Design, layout: Layout, line: Line) -> bool:
    """Whether no other line goes on from a line's end, and nothing but a float valve takes water there."""
    goes_on = any(other is not line and line.to in (other.from_, other.to) for other in design.lines)
    taps = (one for one in design.outlets if not isinstance(one, FloatValveOutlet))
    return not goes_on and all(layout.node_of_outlet[one.id] != line.to for one in taps)
