"""Which vessel's water can flow to which outlet, and down to what height: over open lines, pumps and floats."""

import heapq

import numpy as np

from leadsman.core.steady.case import Case
from leadsman.core.steady.network_model import NetworkModel
from leadsman.core.steady.way import open_passages

NOTHING_M = float("-inf")
DOUBT_TIMES = 2.0  # what is no higher than so many times the error of its height may be none
Reach = dict[str, dict[str, float]]
Passage = tuple[
    int, float, bool
]  # the node it leads to, the height to get over [m], whether it lifts or leaves a float


def reach_of_vessels(model: NetworkModel, case: Case) -> Reach:
    """Return by vessel, and by outlet that its water can come to, the height [m] below which it no longer does.

    Water comes over open lines the way they pass it, over what a pump lifts, and through the float of another vessel.
    The height is the outlet's own or that of the highest pipe on the easiest way there, whichever is more; on the
    far side of a pump heights do not count, nor do they in a line declared a siphon.

    Args:
        case: which lines are shut by hand; whether outlets draw does not matter.
    """
    network = _Network(model, case)
    return {vessel_id: network.from_vessel(node) for vessel_id, node in model.plumbing.vessels.items()}


class _Network:
    """The passages of a case, and what leaves at each node."""

    def __init__(self, model: NetworkModel, case: Case) -> None:
        plumbing, layout = model.plumbing, model.layout
        over_m = _heights_to_get_over_m(model)
        pumped = [line.pump is not None for line in layout.design.lines]
        self.passages: dict[int, list[Passage]] = {
            start: [(end, over_m[line], pumped[line] and forward) for end, line, forward in passages]
            for start, passages in open_passages(model.loader, case).items()
        }
        self.outlets: dict[int, list[tuple[str, float, int | None]]] = {}
        for outlet in layout.design.outlets:
            fills = plumbing.vessels.get(outlet.fills or "")
            leaving = (outlet.id, layout.outlet_height_m(outlet), fills)
            self.outlets.setdefault(plumbing.outlet_nodes[outlet.id], []).append(leaving)

    def from_vessel(self, vessel: int) -> dict[str, float]:
        """Return by outlet the height [m] down to which a vessel's water comes to it: on the way that is least high."""
        found: dict[str, float] = {}
        done: set[tuple[int, bool]] = set()
        queue = [(NOTHING_M, vessel, False)]
        while queue:
            height, node, lifted = heapq.heappop(queue)
            if (node, lifted) in done or (node, True) in done:
                continue
            done.add((node, lifted))
            for outlet_id, own_m, fills in self.outlets.get(node, ()):
                down_to = height if lifted else max(height, own_m)
                found[outlet_id] = min(found.get(outlet_id, down_to), down_to)
                if fills is not None:
                    heapq.heappush(queue, (down_to, fills, True))
            for end, over_m, lifts in self.passages.get(node, ()):
                further = height if lifted or lifts else max(height, over_m)
                heapq.heappush(queue, (further, end, lifted or lifts))
        return found


def _heights_to_get_over_m(model: NetworkModel) -> list[float]:
    """Return for each line the height of its pipe [m] that water has to get over; where in doubt, the least it may be.

    Ends at vessels and outlets do not count: those are theirs.
    """
    along, layout = model.along, model.layout
    heights = along.pipe_m - DOUBT_TIMES * along.errors_m
    inner = np.where(along.inner, heights, NOTHING_M)
    return [
        NOTHING_M if line.siphon else max(inner[list(along.of_line[line.id])].tolist(), default=NOTHING_M)
        for line in layout.design.lines
    ]
