"""A route: the one way that water takes from a vessel to a node, ready for computing.

Distances run along the pipe from the vessel.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from operator import mul

from leadsman.core.design import Line, Vessel
from leadsman.core.pipe import Pipe
from leadsman.core.water import Water


@dataclass(frozen=True)
class Reach:
    """Pipe of one bore from a distance [m] on, in the leg (line of the route) of that number."""

    leg: int
    start_m: float
    pipe: Pipe

    def share_before(self, at_m: float) -> float:
        """Return the share of the reach, 0 to 1, that lies before a distance [m]."""
        return min(max((at_m - self.start_m) / self.pipe.length_m, 0.0), 1.0)


@dataclass(frozen=True)
class Lump:
    """A loss at one distance [m]: head over flow squared [s2/m5]."""

    leg: int
    at_m: float
    per_flow2: float


@dataclass(frozen=True)
class Point:
    """A surveyed point: distance [m], heights of ground and pipe [m on the datum]."""

    leg: int
    at_m: float
    ground_m: float
    pipe_m: float


@dataclass(frozen=True)
class Route:
    """From a vessel to a node, with everything in between, in flow order.

    `before_points` holds, for each point, the share of each reach that lies before it and the losses over
    flow squared [s2/m5] of the lumps before it: see `Route.built`.
    """

    vessel: Vessel
    surface_m: float
    lines: tuple[Line, ...]
    node_ids: tuple[str, ...]
    node_at_m: tuple[float, ...]
    reaches: tuple[Reach, ...]
    lumps: tuple[Lump, ...]
    points: tuple[Point, ...]
    water: Water
    before_points: tuple[tuple[tuple[float, ...], float], ...] = ()

    @classmethod
    def built(
        cls,
        vessel: Vessel,
        surface_m: float,
        lines: Sequence[Line],
        nodes: Sequence[tuple[str, float]],
        reaches: Sequence[Reach],
        lumps: Sequence[Lump],
        points: Sequence[Point],
        water: Water,
    ) -> "Route":
        """Return a route with what lies before each of its points counted once and for all."""
        before = tuple(
            (
                tuple(reach.share_before(point.at_m) for reach in reaches),
                sum(lump.per_flow2 for lump in lumps if lump.at_m <= point.at_m and lump.leg <= point.leg),
            )
            for point in points
        )
        ids, at_m = tuple(node_id for node_id, _ in nodes), tuple(at for _, at in nodes)
        return cls(
            vessel, surface_m, tuple(lines), ids, at_m, tuple(reaches), tuple(lumps), tuple(points), water, before
        )

    @property
    def length_m(self) -> float:
        return self.node_at_m[-1]

    @property
    def last_bore_m(self) -> float:
        """Bore [m] of the pipe that ends at the route's end."""
        return self.reaches[-1].pipe.bore_m

    @property
    def siphon(self) -> bool:
        """Declared airtight and primed over its whole length."""
        return bool(self.lines) and all(line.siphon for line in self.lines)

    def loss_m(self, flow_m3s: float) -> tuple[float, float]:
        """Return the whole head loss [m] at a flow [m3/s], 0 or more, and its slope [m per m3/s]."""
        friction = [reach.pipe.friction_loss_m(flow_m3s, self.water.kinematic_viscosity_m2s) for reach in self.reaches]
        lumps = sum(lump.per_flow2 for lump in self.lumps)
        loss = sum(loss for loss, _ in friction) + lumps * flow_m3s**2
        return loss, sum(slope for _, slope in friction) + 2.0 * lumps * flow_m3s

    def head_m(self, at_m: float, leg: int, flow_m3s: float) -> float:
        """Return the head [m on the datum] at a distance [m] in a leg; a part that sits there is passed.

        Where two legs meet, the head of the earlier one is before the fittings of the later.
        """
        return self.surface_m - self.pipe_loss_to_m(at_m, flow_m3s) - self.fitting_loss_to_m(at_m, leg, flow_m3s)

    def point_heads_m(self, flow_m3s: float) -> list[float]:
        """Return the head [m on the datum] at each surveyed point, in their order."""
        losses, square = self.reach_losses_m(flow_m3s), flow_m3s**2
        return [
            self.surface_m - sum(map(mul, shares, losses)) - per_flow2 * square
            for shares, per_flow2 in self.before_points
        ]

    def inner_points(self, flow_m3s: float) -> list[tuple[Point, float]]:
        """Return the surveyed points between the route's ends, each with its head [m on the datum]."""
        heads = zip(self.points, self.point_heads_m(flow_m3s), strict=True)
        return [(point, head) for point, head in heads if 0.0 < point.at_m < self.length_m]

    def reach_losses_m(self, flow_m3s: float) -> list[float]:
        """Return the friction loss [m] of each reach."""
        viscosity = self.water.kinematic_viscosity_m2s
        return [reach.pipe.friction_loss_m(flow_m3s, viscosity)[0] for reach in self.reaches]

    def node_head_m(self, index: int, flow_m3s: float) -> float:
        """Return the head [m on the datum] at the node of that number; 0 is the vessel's surface."""
        return self.surface_m if index == 0 else self.head_m(self.node_at_m[index], index - 1, flow_m3s)

    def pipe_loss_to_m(self, at_m: float, flow_m3s: float) -> float:
        """Return the part of the loss [m] that the pipe's friction takes up to a distance [m]."""
        losses = self.reach_losses_m(flow_m3s)
        return sum(reach.share_before(at_m) * loss for reach, loss in zip(self.reaches, losses, strict=True))

    def fitting_loss_to_m(self, at_m: float, leg: int, flow_m3s: float) -> float:
        """Return the part of the loss [m] that fittings and parts take up to a distance [m] in a leg."""
        return sum(lump.per_flow2 for lump in self.lumps if lump.at_m <= at_m and lump.leg <= leg) * flow_m3s**2

    def cut_at(self, point: Point) -> "Route":
        """Return the same way up to a surveyed point, for water that leaves the full pipe there."""
        reaches = tuple(
            replace(r, pipe=replace(r.pipe, length_m=min(r.pipe.length_m, point.at_m - r.start_m)))
            for r in self.reaches
            if r.start_m < point.at_m
        )
        lumps = tuple(lump for lump in self.lumps if lump.at_m <= point.at_m and lump.leg <= point.leg)
        return replace(self, node_at_m=(0.0, point.at_m), reaches=reaches, lumps=lumps, points=(), before_points=())


def peaks_and_dips(points: tuple[Point, ...]) -> dict[int, str]:
    """Return which points are peaks and which dips of the pipe, by index; ends are neither."""
    marks: dict[int, str] = {}
    distinct = [i for i in range(len(points)) if i == 0 or points[i].pipe_m != points[i - 1].pipe_m]
    for (i, j), k in zip(pairwise(distinct), distinct[2:], strict=False):
        before, here, after = points[i].pipe_m, points[j].pipe_m, points[k].pipe_m
        if here > before and here > after:
            marks[j] = "peak"
        elif here < before and here < after:
            marks[j] = "dip"
    return marks
