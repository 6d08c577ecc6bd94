"""A design as a pipe network: which line, outlet and vessel is which node and link.

A line is one link, or several where a pressure reducer or a point open to air divides it. An outlet that
opens to air is a link from its junction to the air at its own height; a fixed draw is taken out of its
junction.
"""

from collections.abc import Callable, Iterable, Sequence
from typing import NamedTuple

import numpy as np

from leadsman.core.base.cached import cached_property
from leadsman.core.base.cancel import CancelCheck, never_cancelled
from leadsman.core.base.units import head_m_from_pa, m3s_from_lpm, pa_from_kpa
from leadsman.core.design import FixedOutlet, Line, OutletBase
from leadsman.core.design.layout import Layout, line_profile
from leadsman.core.design.outlet_law import SQUARE, OutletLaw, outlet_law
from leadsman.core.physics.fittings import bore_area_m2
from leadsman.core.physics.pipe import Pipe
from leadsman.core.physics.water import Water
from leadsman.core.solver.gradient import GradientSolver
from leadsman.core.solver.network import Control, Network, PumpCurve
from leadsman.core.steady.segment import Cut, LineLayout, Segment, along_link, line_layout

USUAL_HEAD_M, USUAL_VELOCITY_MS = 1.0, 0.3  # to start from


class AirPoint(NamedTuple):
    """A point of a line where the water stands open to air: distance [m] from `from`, pipe height [m].

    `forward` tells that the water runs from `from` to `to` there.
    """

    line_id: str
    at_m: float
    pipe_m: float
    forward: bool


class LimitedDraw(NamedTuple):
    """A fixed draw where it may fail: of an outlet, or of a place (`outlet_id` None), at a height over its ground."""

    outlet_id: str | None
    node_id: str
    place_id: str
    height_m: float
    flow_lpm: float


class Plumbing:
    """The network of a design, and where each of its parts is in it.

    Attributes:
        line_layouts: each line as it is laid; `divided` the numbers of those that are more than one link.
        segments: all segments, in the order of their links; `of_line` their numbers for each line, `segment_line` the
            number of each one's line, `pieces_in_segment` and `first_piece` how many pieces it has, and its first.
        reaches: all pieces of pipe of all lines; `reach_line` the number of each one's line, `first_reach` that of each
            line's first reach.
        first_link, line_sign, line_nodes: of each line the number of its first link, 1 where that runs as the line
            is drawn, else −1, and the numbers of its two ends, shape (2, lines).
        junctions, vessels: number of each node by its id, in the network.
        to_air: outlets that open to air, in the order of their links; `outlet_link` their links by id.
        limited: fixed draws that may fail, each a link after those; only where a line is open to air.
    Raises:
        UnknownName: a product is not in the catalogue.
        OutOfRange: a pipe is rougher than its bore allows.
    """

    def __init__(
        self,
        layout: Layout,
        water: Water,
        air_points: Iterable[AirPoint] = (),
        closed: "Plumbing | None" = None,
        check_cancelled: CancelCheck = never_cancelled,
    ) -> None:
        """Build the network.

        Args:
            air_points: where lines stand open to air.
            check_cancelled: as for `GradientSolver`.
            closed: the network of the same layout without such points, where there is one: other lines are as in it.
        """
        self.layout, self.water, self.air_points = layout, water, tuple(air_points)
        design = layout.design
        self.reaches: list[Pipe] = []
        self.reach_line: list[int] = []
        self.segments: list[Segment] = []
        self.divided: list[int] = []
        self.of_line: dict[str, range] = {}
        nodes = [place.id for place in design.places]
        nodes += [outlet_id for outlet_id, node in layout.node_of_outlet.items() if node == outlet_id]
        self.junctions = {node: index for index, node in enumerate(nodes)}
        open_at = self._open_at()
        self.line_layouts: list[LineLayout] = [
            closed.line_layouts[index]
            if closed and line.id not in open_at
            else self._line_layout(index, line, open_at.get(line.id, ()))
            for index, line in enumerate(design.lines)
        ]
        for index, (line, (pipes, segments)) in enumerate(zip(design.lines, self.line_layouts, strict=True)):
            self.of_line[line.id] = range(len(self.segments), len(self.segments) + len(segments))
            self.reaches += pipes
            self.reach_line += [index] * len(pipes)
            self.segments += segments
            if len(segments) > 1:
                self.divided.append(index)
                for segment in segments[:-1]:
                    self.junctions[segment.end] = len(self.junctions)
        self.vessels = {vessel.id: len(self.junctions) + index for index, vessel in enumerate(design.vessels)}
        self.to_air = [outlet for outlet in design.outlets if not isinstance(outlet, FixedOutlet)]
        self.limited = self._limited_draws() if self.air_points else []
        self.outlet_link = {outlet.id: len(self.segments) + index for index, outlet in enumerate(self.to_air)}
        first = len(self.segments) + len(self.to_air)
        self.limited_link = {
            draw.outlet_id: first + number for number, draw in enumerate(self.limited) if draw.outlet_id is not None
        }
        self.first_link = np.array([links.start for links in self.of_line.values()], dtype=np.intp)
        forward = np.array([self.segments[link].forward for link in self.first_link.tolist()], dtype=bool)
        self.line_sign = np.where(forward, 1.0, -1.0)
        ends = [[self.node(line.from_) for line in design.lines], [self.node(line.to) for line in design.lines]]
        self.line_nodes = np.array(ends, dtype=np.intp)
        self.bores = self._bores_at_nodes()
        self.outlet_bore_m = [self.bores.get(layout.node_of_outlet[outlet.id], 0.0) for outlet in self.to_air]
        density = water.density_kgm3
        self._law_of = {
            outlet.id: outlet_law(outlet, self.bores.get(layout.node_of_outlet[outlet.id], 0.0) or 1.0, density)
            for outlet in design.outlets
        }
        self.laws = [self._law_of[outlet.id] for outlet in self.to_air]
        self.network = self._network()
        self.solver = GradientSolver(self.network, check_cancelled)

    def _open_at(self) -> dict[str, list[AirPoint]]:
        open_at: dict[str, list[AirPoint]] = {}
        for point in self.air_points:
            open_at.setdefault(point.line_id, []).append(point)
        return open_at

    @cached_property
    def outlet_nodes(self) -> dict[str, int]:
        """The number of the node that each outlet draws from."""
        return {outlet_id: self.junctions[node] for outlet_id, node in self.layout.node_of_outlet.items()}

    def node(self, node_id: str) -> int:
        """Return the number of a place, an outlet's own junction or a vessel."""
        return self.junctions[node_id] if node_id in self.junctions else self.vessels[node_id]

    def law_of(self, outlet: OutletBase) -> OutletLaw:
        """Return the law of an outlet fully open, on the widest bore that ends where it draws."""
        return self._law_of[outlet.id]

    def _line_layout(self, index: int, line: Line, air: Sequence[AirPoint]) -> LineLayout:
        """Return a line, number `index`, divided where a reducer or a point open to air divides it."""
        forward = all(point.forward for point in air)
        cuts = self._cuts(line, air, along_link(line, forward)) if air or line.inline else []
        return line_layout(line, index, self.water, self.layout.design.own_pipes, cuts, forward)

    def _cuts(self, line: Line, air_points: Sequence[AirPoint], along: Callable[[float], float]) -> list[Cut]:
        cuts = []
        for point in air_points:  # a link of no length keeps the head before it
            cuts += [Cut(along(point.at_m)), Cut(along(point.at_m), Control.SUSTAINER, point.pipe_m)]
        for part in line.inline:
            if part.kind == "reducer":
                profile = line_profile(self.layout, line)
                height_m = np.interp(part.at_m, [at for at, *_ in profile], [pipe for *_, pipe in profile])
                kept_m = head_m_from_pa(pa_from_kpa(part.outlet_kpa or 0.0), self.water.density_kgm3)
                cuts.append(Cut(along(part.at_m), Control.REDUCER, float(height_m) + kept_m))
        return sorted(cuts, key=lambda cut: cut.at_m)

    def _limited_draws(self) -> list[LimitedDraw]:
        """Return fixed draws as links: with air in the line they may not get what they ask for."""
        layout = self.layout
        draws = [
            LimitedDraw(outlet.id, layout.node_of_outlet[outlet.id], outlet.place, outlet.height_m, outlet.flow_lpm)
            for outlet in layout.design.outlets
            if isinstance(outlet, FixedOutlet)
        ]
        return draws + [
            LimitedDraw(None, place.id, place.id, 0.0, place.draw_lpm)
            for place in layout.design.places
            if place.draw_lpm > 0.0
        ]

    def _bores_at_nodes(self) -> dict[str, float]:
        """Return the widest bore [m] that ends at each node."""
        bores: dict[str, float] = {}
        for segment in self.segments:
            pieces = segment.pieces
            at_start, at_end = (pieces[0].bore_m, pieces[-1].bore_m) if pieces else (segment.bore_m, segment.bore_m)
            if at_start > bores.get(segment.start, 0.0):
                bores[segment.start] = at_start
            if at_end > bores.get(segment.end, 0.0):
                bores[segment.end] = at_end
        return bores

    def _network(self) -> Network:
        number = self.junctions | self.vessels
        outlet_nodes = [number[self.layout.node_of_outlet[outlet.id]] for outlet in self.to_air]
        outlet_nodes += [self.junctions[draw.node_id] for draw in self.limited]
        air = len(self.junctions) + len(self.vessels)
        pieces_in = np.array([len(segment.pieces) for segment in self.segments], dtype=np.intp)
        in_line = np.array([len(segments) for _, segments in self.line_layouts], dtype=np.intp)
        reaches_in = np.array([len(pipes) for pipes, _ in self.line_layouts], dtype=np.intp)
        self.first_reach = np.cumsum(reaches_in) - reaches_in
        self.pieces_in_segment, self.first_piece = pieces_in, np.cumsum(pieces_in) - pieces_in
        self.segment_line = np.repeat(np.arange(len(in_line)), in_line)
        pieces = [piece for segment in self.segments for piece in segment.pieces]
        self.piece_reach = np.repeat(self.first_reach[self.segment_line], pieces_in)
        self.piece_reach += np.array([piece.reach for piece in pieces], dtype=np.intp)
        self.piece_length_m = np.array([piece.length_m for piece in pieces])
        self.power_outlets = np.array([i for i, law in enumerate(self.laws) if law.exponent != SQUARE], dtype=np.intp)
        controls = [
            (link, segment.control) for link, segment in enumerate(self.segments) if segment.control is not None
        ]
        after = len(self.segments) + len(self.to_air)
        controls += [(after + number, Control.LIMITER) for number in range(len(self.limited))]
        return Network(
            junctions=len(self.junctions),
            fixed=len(self.vessels) + len(self.to_air) + len(self.limited),
            start=np.array([number[segment.start] for segment in self.segments] + outlet_nodes, dtype=np.intp),
            end=np.array(
                [*(number[segment.end] for segment in self.segments), *range(air, air + len(outlet_nodes))],
                dtype=np.intp,
            ),
            piece_link=np.repeat(np.arange(len(self.segments)), pieces_in),
            controls=np.array([link for link, _ in controls], dtype=np.intp),
            control_kinds=np.array([kind for _, kind in controls], dtype=np.intp),
            powers=len(self.segments) + self.power_outlets,
            pumps=[
                PumpCurve(
                    link=link,
                    flows_m3s=np.array([m3s_from_lpm(flow) for flow, _ in segment.pump]),
                    heads_m=np.array([head for _, head in segment.pump]),
                )
                for link, segment in enumerate(self.segments)
                if segment.pump
            ],
            guess_m3s=np.array(self._usual_flows()),
        )

    def _usual_flows(self) -> list[float]:
        flows = [_usual_in_pipe_m3s(segment) for segment in self.segments]
        flows += [_usual_flow_m3s(law, bore) for law, bore in zip(self.laws, self.outlet_bore_m, strict=True)]
        return flows + [m3s_from_lpm(draw.flow_lpm) for draw in self.limited]


def _usual_in_pipe_m3s(segment: Segment) -> float:
    usual = USUAL_VELOCITY_MS * bore_area_m2(segment.bore_m)
    return min(usual, m3s_from_lpm(segment.pump[-1][0]) / 2.0) if segment.pump else usual


def _usual_flow_m3s(law: OutletLaw, bore_m: float) -> float:
    flow = float((USUAL_HEAD_M / law.scale) ** (1.0 / law.exponent))
    return min(flow, USUAL_VELOCITY_MS * bore_area_m2(bore_m)) if bore_m else flow
