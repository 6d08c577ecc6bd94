"""A solved case: heads and flows of the full network, and with points of suction open to air."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Protocol

import numpy as np

from leadsman.core.base.array import Bools, Floats
from leadsman.core.base.cached import cached_property
from leadsman.core.design.layout import Layout
from leadsman.core.physics.water import Water
from leadsman.core.steady.along import Along
from leadsman.core.steady.case import Case
from leadsman.core.steady.loading import Loader
from leadsman.core.steady.plumbing import Plumbing
from leadsman.core.steady.way import STILL_BELOW_M3S, Ways


class SolvedNetwork(Protocol):
    """What a solved case needs of the network that it was solved on."""

    @property
    def layout(self) -> Layout:
        """The parts of the design."""

    @property
    def water(self) -> Water:
        """What runs in it."""

    @property
    def plumbing(self) -> Plumbing:
        """The network, and where each part is in it."""

    @property
    def loader(self) -> Loader:
        """What puts cases on the network."""

    @property
    def along(self) -> Along:
        """The surveyed points of its lines."""

    @property
    def air_at(self) -> Mapping[str, float]:
        """Height [m] of the water at places where it stands open to air."""

    def gauge_pressure_pa(self, head_m: float | None, height_m: float | None) -> float | None:
        """Return the pressure [Pa, gauge] under a head at a height; None without water, or where it boils."""


@dataclass(frozen=True, kw_only=True)
class Flow:
    """One solved case on one network: heads [m] by node and flows [m3/s] by link, as numbers of its plumbing."""

    model: SolvedNetwork
    case: Case
    heads_m: Floats
    flows_m3s: Floats
    pressed_shut: Bools
    control_states: dict[int, int]
    point_heads_m: Floats
    friction_m: Floats
    reached: Bools
    converged: bool
    iterations: int

    def head_m(self, node_id: str) -> float | None:
        """Return the head [m] at a place, an outlet's own end or a vessel; None where no water gets to."""
        plumbing = self.model.plumbing
        if node_id in plumbing.vessels:
            return self._heads_m[plumbing.vessels[node_id]]
        number = plumbing.junctions[node_id]
        if not self._reached[number]:
            return None
        head_m = self._heads_m[number]
        return max(head_m, self.model.air_at[node_id]) if node_id in self.model.air_at else head_m

    # numbers are taken out of a list five times as fast as out of an array
    @cached_property
    def _heads_m(self) -> list[float]:
        return self.heads_m.tolist()  # type: ignore[no-any-return]

    @cached_property
    def _reached(self) -> list[bool]:
        return self.reached.tolist()  # type: ignore[no-any-return]

    @cached_property
    def _flows_m3s(self) -> list[float]:
        still = np.abs(self.flows_m3s) < STILL_BELOW_M3S
        return np.where(still, 0.0, self.flows_m3s).tolist()  # type: ignore[no-any-return]

    def line_flow_m3s(self, line_id: str) -> float:
        """Return the flow [m3/s] of a line, positive from `from` to `to`."""
        plumbing = self.model.plumbing
        first = plumbing.of_line[line_id].start
        flow = self._flows_m3s[first]
        return flow if plumbing.segments[first].forward else -flow

    @cached_property
    def flows_of_lines_m3s(self) -> Floats:
        """Flow of each line [m3/s], positive from its `from` to its `to`, shape (lines,)."""
        plumbing = self.model.plumbing
        return np.array(self._flows_m3s)[plumbing.first_link] * plumbing.line_sign

    @cached_property
    def ways(self) -> Ways:
        """The ways on which the water comes to all nodes."""
        return Ways(self)

    @property
    def loader(self) -> Loader:
        """What put the case on the network."""
        return self.model.loader

    def outlet_flow_m3s(self, outlet_id: str) -> float:
        """Return the flow [m3/s] out of an outlet."""
        if outlet_id in self.case.draws_m3s:
            return self._drawn(outlet_id, self.case.draws_m3s[outlet_id])
        link = self.model.plumbing.outlet_link.get(outlet_id, self.model.plumbing.limited_link.get(outlet_id))
        if link is None:
            wanted = self.model.loader.fixed_flows[outlet_id] if self.case.openings[outlet_id] > 0.0 else 0.0
            return self._drawn(outlet_id, wanted)
        return max(self._flows_m3s[link], 0.0)

    def outlet_head_m(self, outlet_id: str) -> float | None:
        """Return the head [m] at the junction that an outlet draws from."""
        return self._outlet_heads_m[outlet_id]

    @cached_property
    def _outlet_heads_m(self) -> dict[str, float | None]:
        heads, reached, nodes = self._heads_m, self._reached, self.model.plumbing.outlet_nodes
        found = {outlet_id: heads[node] if reached[node] else None for outlet_id, node in nodes.items()}
        if self.model.air_at:
            places = self.model.layout.node_of_outlet
            found |= {
                outlet_id: self.head_m(node_id) for outlet_id, node_id in places.items() if node_id in self.model.air_at
            }
        return found

    def point_head_m(self, number: int) -> float | None:
        """Return the head [m] at a surveyed point by its number along the lines; None where no water gets to."""
        net, along = self.model.plumbing.network, self.model.along
        start, end = int(net.start[along.link[number]]), int(net.end[along.link[number]])
        wet = [node >= net.junctions or bool(self.reached[node]) for node in (start, end)]
        on_its_side = wet[1] if along.downstream_of_valve[number] else wet[0]  # a line to where no water gets is closed
        return float(self.point_heads_m[number]) if all(wet) or on_its_side else None

    @cached_property
    def over_pipe_m(self) -> Floats:
        """Height of the grade over the pipe [m] at each surveyed point, negative where it lies below."""
        return np.asarray(self.point_heads_m - self.model.along.pipe_m)

    @cached_property
    def least_of_lines_m(self) -> Floats:
        """The least height of the grade over the pipe [m] along each line, shape (4, lines).

        Of all its points, of all but the first, of all but the last, and of those between.
        """
        first, last = self.model.along.line_ends
        starts = np.flatnonzero(first)
        over = np.broadcast_to(self.over_pipe_m, (4, len(first))).copy()
        over[1, first] = over[2, last] = over[3, first | last] = np.inf
        return np.minimum.reduceat(over, starts, axis=1) if len(starts) else np.zeros((4, 0))

    @cached_property
    def losses_of_lines_m(self) -> Floats:
        """What each line's pipe takes and what its fittings, parts and controls take [m], shape (2, lines).

        Signed as the line's flow; what a pump adds counts as neither.
        """
        plumbing, lines = self.model.plumbing, self.model.layout.design.lines
        if not lines:
            return np.zeros((2, 0))
        heads_m, wet = self.heads_m.copy(), self.reached.copy()
        wet[len(plumbing.junctions) :] = True
        for node_id, air_m in self.model.air_at.items():
            heads_m[plumbing.junctions[node_id]] = max(heads_m[plumbing.junctions[node_id]], air_m)
        (start, end), flow = plumbing.line_nodes, self.flows_of_lines_m3s
        runs = (flow != 0.0) & wet[start] & wet[end]
        pipe = np.add.reduceat(self.friction_m, plumbing.first_link) * plumbing.line_sign
        losses = np.where(runs, [pipe, heads_m[start] - heads_m[end] - pipe], 0.0)
        for number, line in enumerate(lines):
            if line.pump is not None:
                lumps = sum(sum(segment.taken_per_flow2) for segment in plumbing.line_layouts[number].segments)
                losses[:, number] = pipe[number], lumps * flow[number] * abs(flow[number])
        return losses

    def _drawn(self, outlet_id: str, wanted_m3s: float) -> float:
        return wanted_m3s if self.outlet_head_m(outlet_id) is not None else 0.0


@dataclass(frozen=True)
class Suction:
    """A point whose pipe lies over the running grade: its number along the lines, and how far [m], negative."""

    point: int
    head_over_pipe_m: float


@dataclass(frozen=True, kw_only=True)
class Solved:
    """A case: `full` with every pipe full; `opened` with every point of suction open to air, None where there is none.

    `used` is what judgements go by: like `opened`, but for declared siphons in which the water does not boil.
    `boils` tells that somewhere the full-pipe answer asks for less pressure than liquid water has.
    """

    full: Flow
    suctions: tuple[Suction, ...]
    opened: Flow | None
    used: Flow
    boils: bool

    def deepest_suction(self, node_id: str) -> tuple[Suction, bool] | None:
        """Return the deepest suction on the way on which a node's water comes, full; None where there is none.

        With it, whether all lines with suction on that way are declared siphons.
        """
        node = self.full.model.plumbing.node(node_id)
        deepest, siphons = self._deepest
        return (self.suctions[deepest[node]], siphons[node]) if deepest[node] >= 0 else None

    @cached_property
    def _deepest(self) -> tuple[list[int], list[bool]]:
        """For each node the number of the deepest suction on its way, -1 for none, and whether all are siphons."""
        ways, model = self.full.ways, self.full.model
        lines = model.layout.design.lines
        own = np.full(len(lines), -1, dtype=np.intp)
        depth = np.array([*(suction.head_over_pipe_m for suction in self.suctions), np.inf])  # the last: of none
        for number in np.argsort(-depth[:-1], kind="stable").tolist():
            own[model.along.line_of_point[self.suctions[number].point]] = number
        siphon = np.array([line.siphon for line in lines], dtype=bool) | (own < 0)
        deepest = np.full(len(ways.reached), -1, dtype=np.intp)
        siphons = np.ones(len(ways.reached), dtype=bool)
        for nodes, before, line, _ in ways.steps:
            earlier, here = deepest[before], own[line]
            deepest[nodes] = np.where(depth[here] < depth[earlier], here, earlier)
            siphons[nodes] = siphons[before] & siphon[line]
        deepest[~ways.running] = -1
        return deepest.tolist(), siphons.tolist()
