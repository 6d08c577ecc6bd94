"""Where the fall goes: from the source's water down to an outlet, while it takes the flow that is wanted."""

import math
from collections.abc import Sequence
from typing import Literal, NamedTuple

import numpy as np

from leadsman.core.base.array import Floats
from leadsman.core.design import FixedOutlet, OutletBase
from leadsman.core.design.outlet_law import least_head_m
from leadsman.core.steady.flow import Flow
from leadsman.core.steady.way import Ways

SpareHead = Literal["short", "little", "some", "enough"]
ROUNDING_M = 0.005  # what is left below nought by no more than rounding is no shortfall
LITTLE_M, SOME_M = 1.0, 4.0  # head left under which it is little, and some; ours, no source


class Sounding(NamedTuple):
    """Heads [m] while an outlet takes a flow [m3/s]: what pipe and fittings take, and what the outlet needs.

    `surface_m` is the height from which the fall is counted: the source's water, with what pumps on the way add.
    `least_over_pipe_m` is the least height of the grade over the pipe between the route's ends, negative where
    the line would draw air in; None where it has no point in between or is a declared siphon.

    Source of the margin: head available at the wanted flow less (Q/Kv)² turned into metres.
    """

    flow_m3s: float
    surface_m: float
    outlet_m: float
    pipe_loss_m: float
    fitting_loss_m: float
    valve_needs_m: float
    least_over_pipe_m: float | None

    @property
    def draws_air(self) -> bool:
        """Whether the line would draw air in somewhere at this flow."""
        return self.least_over_pipe_m is not None and self.least_over_pipe_m < 0.0

    @property
    def spare(self) -> SpareHead:
        """How much head is left over what the outlet needs, as a word."""
        if self.draws_air or self.margin_m < -ROUNDING_M:
            return "short"
        return "little" if self.margin_m < LITTLE_M else "some" if self.margin_m < SOME_M else "enough"

    @property
    def left_m(self) -> float:
        """Head left above the outlet [m]; negative where the water does not get there at this flow."""
        return self.surface_m - self.outlet_m - self.pipe_loss_m - self.fitting_loss_m

    @property
    def margin_m(self) -> float:
        """Head left over what the outlet needs [m]; negative where it is short."""
        return self.left_m - self.valve_needs_m


def soundings(ways: Ways, flow: Flow, outlets: Sequence[OutletBase], flows_m3s: Sequence[float]) -> dict[str, Sounding]:
    """Return the soundings of outlets to which a way leads, in a case in which each takes a flow [m3/s], above 0.

    Args:
        ways: those along which losses are counted, of this case or another.
    """
    model = flow.model
    pipe_m, fitting_m = (lost.tolist() for lost in losses_m(ways, flow))
    least_m = least_over_pipe_m(ways, flow).tolist()
    density, number_of = model.water.density_kgm3, model.plumbing.outlet_nodes
    found: dict[str, Sounding] = {}
    for outlet, flow_m3s in zip(outlets, flows_m3s, strict=True):
        node = number_of[outlet.id]
        head_m = flow.outlet_head_m(outlet.id)
        if head_m is None or not ways.reached[node] or ways.is_vessel[node]:
            continue
        needs_m = model.plumbing.law_of(outlet).head_m(flow_m3s)
        if isinstance(outlet, FixedOutlet):
            needs_m = max(needs_m, least_head_m(outlet, density))
        found[outlet.id] = Sounding(
            flow_m3s=flow_m3s,
            surface_m=head_m + pipe_m[node] + fitting_m[node],
            outlet_m=model.layout.outlet_height_m(outlet),
            pipe_loss_m=pipe_m[node],
            fitting_loss_m=fitting_m[node],
            valve_needs_m=needs_m,
            least_over_pipe_m=least_m[node] if math.isfinite(least_m[node]) else None,
        )
    return found


def losses_m(ways: Ways, flow: Flow) -> Floats:
    """Return what pipe and fittings take [m] on the way to each node, shape (2, nodes)."""
    lost = flow.losses_of_lines_m
    total = np.zeros((2, len(ways.reached)))
    for nodes, before, line, forward in ways.steps:
        total[:, nodes] = total[:, before] + np.where(forward, lost[:, line], -lost[:, line])
    return total


def highest_pipe_m(ways: Ways, flow: Flow) -> Floats:
    """Return the greatest height of the pipe [m] on the way to each node, shape (nodes,); -inf where no way leads."""
    along = flow.model.along
    starts = np.cumsum(along.points_in_line) - along.points_in_line
    of_lines = np.maximum.reduceat(along.pipe_m, starts) if len(starts) else np.zeros(0)
    highest = np.full(len(ways.reached), -np.inf)
    for nodes, before, line, _ in ways.steps:
        highest[nodes] = np.maximum(highest[before], of_lines[line])
    return highest


def least_over_pipe_m(ways: Ways, flow: Flow) -> Floats:
    """Return the least height of the grade over the pipe [m] between the ends of the way to each node, shape (nodes,).

    It is infinite without a point between, and where the whole way is declared a siphon.
    """
    of_lines = flow.least_of_lines_m
    siphon = np.array([line.siphon for line in flow.model.layout.design.lines], dtype=bool)
    passed = np.full(len(ways.reached), np.inf)  # the least of all lines of the way but the first, whole
    begun, least = passed.copy(), passed.copy()  # the least of the first line without its beginning; the answer
    primed = np.ones(len(ways.reached), dtype=bool)
    for number, (nodes, before, line, forward) in enumerate(ways.steps):
        whole, but_first, but_last, inner = of_lines[:, line]
        but_begin, but_end = np.where(forward, but_first, but_last), np.where(forward, but_last, but_first)
        if number == 0:
            begun[nodes], least[nodes] = but_begin, inner
        else:
            begun[nodes] = begun[before]
            least[nodes] = np.minimum(np.minimum(passed[before], but_end), begun[before])
            passed[nodes] = np.minimum(passed[before], whole)
        primed[nodes] = primed[before] & siphon[line]
    return np.where(primed, np.inf, least)
