"""The ways of the water to all nodes at once, and what is lost along them: one step from node to node for all."""

from collections.abc import Sequence

import numpy as np

from leadsman.core.analysis.sounding import Sounding
from leadsman.core.base.array import Bools, Floats, Ints
from leadsman.core.design import FixedOutlet, OutletBase
from leadsman.core.design.outlet_law import least_head_m
from leadsman.core.steady.flow import Flow


class Streams:
    """How the water comes to each node in a solved case: over the line that brings most, from vessels on.

    Attributes:
        steps: nodes as far from a vessel as each other, nearest first, each with the node before it, the number of the
            line between, and whether that is taken forward.
        reached: whether a way leads to each node, shape (nodes,).
    """

    def __init__(self, flow: Flow) -> None:
        plumbing = flow.model.plumbing
        nodes, vessels = plumbing.network.junctions + plumbing.network.fixed, list(plumbing.vessels.values())
        forward, (start, end) = flow.flows_of_lines_m3s > 0.0, plumbing.line_nodes
        out_of, line = np.where(forward, start, end), flow.greatest_lines
        self.reached = np.zeros(nodes, dtype=bool)
        self.reached[vessels] = True
        self.vessels = vessels
        self.steps: list[tuple[Ints, Ints, Ints, Bools]] = []
        left = np.flatnonzero((line >= 0) & ~self.reached)
        while len(left):
            near = self.reached[out_of[line[left]]]
            step = left[near]
            if not len(step):
                break  # they run in circles, or from where no water comes
            by = line[step]
            self.steps.append((step, out_of[by], by, forward[by]))
            self.reached[step] = True
            left = left[~near]

    def losses_m(self, flow: Flow) -> tuple[Floats, Floats]:
        """Return what pipe and fittings take [m] on the way to each node in a case, as this one or another."""
        lost = flow.losses_of_lines_m
        total = np.zeros((2, len(self.reached)))
        for nodes, before, by, forward in self.steps:
            total[:, nodes] = total[:, before] + np.where(forward, lost[:, by], -lost[:, by])
        return total[0], total[1]

    def least_over_pipe_m(self, flow: Flow) -> Floats:
        """Return the least height of the grade over the pipe [m] between the ends of the way to each node.

        It is infinite without a point between, and where the whole way is declared a siphon.
        """
        own = flow.least_of_lines_m
        siphon = np.array([line.siphon for line in flow.model.layout.design.lines], dtype=bool)
        passed, least = (np.full(len(self.reached), np.inf) for _ in range(2))  # whole lines but the first; the answer
        begun = passed.copy()
        primed = np.ones(len(self.reached), dtype=bool)
        for number, (nodes, before, by, forward) in enumerate(self.steps):
            whole, but_first, but_last, inner = own[:, by]
            but_begin, but_end = np.where(forward, but_first, but_last), np.where(forward, but_last, but_first)
            if number == 0:
                begun[nodes], least[nodes] = but_begin, inner
            else:
                begun[nodes] = begun[before]
                least[nodes] = np.minimum(np.minimum(passed[before], but_end), begun[before])
                passed[nodes] = np.minimum(passed[before], whole)
            primed[nodes] = primed[before] & siphon[by]
        return np.where(primed, np.inf, least)


def soundings(
    streams: Streams, flow: Flow, outlets: Sequence[OutletBase], flows_m3s: Sequence[float]
) -> dict[str, Sounding]:
    """Return the soundings of outlets to which a way leads, in a case in which each takes a flow [m3/s], above 0.

    Each is as `sounding` returns it, in a tenth of the time where they are many.
    """
    model = flow.model
    pipe_m, fitting_m = streams.losses_m(flow)
    least_m, reached = streams.least_over_pipe_m(flow).tolist(), streams.reached.tolist()
    pipes, fittings = pipe_m.tolist(), fitting_m.tolist()
    density, number_of = model.water.density_kgm3, model.plumbing.junctions
    found: dict[str, Sounding] = {}
    for outlet, flow_m3s in zip(outlets, flows_m3s, strict=True):
        node = number_of[model.layout.node_of_outlet[outlet.id]]
        head_m = flow.outlet_head_m(outlet.id)
        if head_m is None or not reached[node]:
            continue
        needs_m = model.plumbing.law_of(outlet).head_m(flow_m3s)
        if isinstance(outlet, FixedOutlet):
            needs_m = max(needs_m, least_head_m(outlet, density))
        found[outlet.id] = Sounding(
            flow_m3s,
            head_m + pipes[node] + fittings[node],
            model.layout.outlet_height_m(outlet),
            pipes[node],
            fittings[node],
            needs_m,
            least_m[node] if least_m[node] < np.inf else None,
        )
    return found
