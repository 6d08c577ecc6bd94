"""A design as a pipe network: which line, outlet and vessel is which node and link.

A line is one link, or several where a pressure reducer or a point open to air divides it. An outlet that
opens to air is a link from its junction to the air at its own height; a fixed draw is taken out of its
junction.
"""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from leadsman.core.catalogue import PipeProduct
from leadsman.core.design import FixedOutlet, Line, OutletBase
from leadsman.core.fittings import bore_area_m2
from leadsman.core.gradient import GradientSolver
from leadsman.core.layout import LINES_KEPT, Layout, line_profile
from leadsman.core.network import Control, Network, PumpCurve
from leadsman.core.outlet import SQUARE, OutletLaw, outlet_law
from leadsman.core.pipe import Pipe
from leadsman.core.same import Same
from leadsman.core.segment import USUAL_VELOCITY_MS, Cut, Laid, Segment, along_link, laid_whole, laid_with
from leadsman.core.units import head_m_from_pa, m3s_from_lpm, pa_from_kpa
from leadsman.core.water import Water

USUAL_HEAD_M = 1.0


@dataclass(frozen=True)
class AirPoint:
    """A point of a line where the water stands open to air: distance [m] from `from`, pipe height [m].

    `forward` tells that the water runs from `from` to `to` there.
    """

    line_id: str
    at_m: float
    pipe_m: float
    forward: bool


@dataclass(frozen=True)
class LimitedDraw:
    """A fixed draw where it may fail: of an outlet, or of a place (`outlet_id` None), at a height over its ground."""

    outlet_id: str | None
    node_id: str
    place_id: str
    height_m: float
    flow_lpm: float


class Plumbing:
    """The network of a design, and where each of its parts is in it.

    Attributes:
        laid: each line as it is laid.
        segments: all segments, in the order of their links; `of_line` their numbers for each line.
        reaches: all pieces of pipe of all lines; `reach_line` the number of each one's line.
        junctions, vessels: number of each node by its id, in the network.
        to_air: outlets that open to air, in the order of their links; `outlet_link` their links by id.
        limited: fixed draws that may fail, each a link after those; only where a line is open to air.
    Raises:
        UnknownName: a product is not in the catalogue.
        OutOfRange: a pipe is rougher than its bore allows.
    """

    def __init__(self, layout: Layout, water: Water, air_points: Iterable[AirPoint] = ()) -> None:
        self.layout, self.water, self.air_points = layout, water, tuple(air_points)
        design = layout.design
        self.reaches: list[Pipe] = []
        self.reach_line: list[int] = []
        self.segments: list[Segment] = []
        self.laid: list[Laid] = []
        self.of_line: dict[str, range] = {}
        nodes = [place.id for place in design.places]
        nodes += [outlet_id for outlet_id, node in layout.node_of_outlet.items() if node == outlet_id]
        self.junctions = {node: index for index, node in enumerate(nodes)}
        open_at: dict[str, list[AirPoint]] = {}
        for point in self.air_points:
            open_at.setdefault(point.line_id, []).append(point)
        own = tuple(design.own_pipes)
        for index, line in enumerate(design.lines):
            laid = self._lay(index, line, len(self.reaches), own, open_at.get(line.id, ()))
            self.laid.append(laid)
            self.of_line[line.id] = range(len(self.segments), len(self.segments) + len(laid.segments))
            self.reaches += laid.pipes
            self.reach_line += [index] * len(laid.pipes)
            self.segments += laid.segments
            for segment in laid.segments[:-1]:
                self.junctions[segment.end] = len(self.junctions)
        self.vessels = {vessel.id: len(self.junctions) + index for index, vessel in enumerate(design.vessels)}
        self.to_air = [outlet for outlet in design.outlets if not isinstance(outlet, FixedOutlet)]
        self.limited = self._limited_draws() if self.air_points else []
        self.outlet_link = {outlet.id: len(self.segments) + index for index, outlet in enumerate(self.to_air)}
        first = len(self.segments) + len(self.to_air)
        self.limited_link = {
            draw.outlet_id: first + number for number, draw in enumerate(self.limited) if draw.outlet_id is not None
        }
        self.bores = self._bores_at_nodes()
        self.outlet_bore_m = [self.bores.get(layout.node_of_outlet[outlet.id], 0.0) for outlet in self.to_air]
        self.laws = [
            _law(Same(outlet), bore or 1.0, water.density_kgm3)
            for outlet, bore in zip(self.to_air, self.outlet_bore_m, strict=True)
        ]
        self.network = self._network()
        self.solver = GradientSolver(self.network)

    def node(self, node_id: str) -> int:
        """Return the number of a place, an outlet's own junction or a vessel."""
        return self.junctions[node_id] if node_id in self.junctions else self.vessels[node_id]

    def _lay(self, index: int, line: Line, first: int, own: tuple[PipeProduct, ...], air: Sequence[AirPoint]) -> Laid:
        """Return a line, number `index`, divided where a reducer or a point open to air divides it."""
        laid = None if air else laid_whole(Same(line), index, first, self.water, own)
        if laid is None:
            forward = all(point.forward for point in air)
            cuts = self._cuts(line, air, along_link(line, forward))
            laid = laid_with(line, index, first, self.water, own, cuts, forward)
        return laid

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
            for end, bore in zip((segment.start, segment.end), segment.end_bores_m, strict=True):
                if bore > bores.get(end, 0.0):
                    bores[end] = bore
        return bores

    def _network(self) -> Network:
        number = self.junctions | self.vessels
        outlet_nodes = [number[self.layout.node_of_outlet[outlet.id]] for outlet in self.to_air]
        outlet_nodes += [self.junctions[draw.node_id] for draw in self.limited]
        air = len(self.junctions) + len(self.vessels)
        pieces = [(link, piece) for link, segment in enumerate(self.segments) for piece in segment.pieces]
        self.piece_reach = np.array([piece.reach for _, piece in pieces], dtype=np.intp)
        self.piece_length_m = np.array([piece.length_m for _, piece in pieces])
        self.power_outlets = np.array([i for i, law in enumerate(self.laws) if law.exponent != SQUARE], dtype=np.intp)
        controls = [(link, one.control) for link, one in enumerate(self.segments) if one.control is not None]
        after = len(self.segments) + len(self.to_air)
        controls += [(after + number, Control.LIMITER) for number in range(len(self.limited))]
        return Network(
            junctions=len(self.junctions),
            fixed=len(self.vessels) + len(self.to_air) + len(self.limited),
            start=np.array([number[one.start] for one in self.segments] + outlet_nodes, dtype=np.intp),
            end=np.array(
                [*(number[one.end] for one in self.segments), *range(air, air + len(outlet_nodes))], dtype=np.intp
            ),
            piece_link=np.array([link for link, _ in pieces], dtype=np.intp),
            controls=np.array([link for link, _ in controls], dtype=np.intp),
            control_kinds=np.array([kind for _, kind in controls], dtype=np.intp),
            powers=len(self.segments) + self.power_outlets,
            pumps=[
                PumpCurve(
                    link,
                    np.array([m3s_from_lpm(flow) for flow, _ in one.pump]),
                    np.array([head for _, head in one.pump]),
                )
                for link, one in enumerate(self.segments)
                if one.pump
            ],
            guess_m3s=np.array(self._usual_flows()),
        )

    def _usual_flows(self) -> list[float]:
        flows = [segment.usual_flow_m3s for segment in self.segments]
        flows += [_usual_flow_m3s(law, bore) for law, bore in zip(self.laws, self.outlet_bore_m, strict=True)]
        return flows + [m3s_from_lpm(draw.flow_lpm) for draw in self.limited]


@lru_cache(maxsize=LINES_KEPT)
def _law(outlet: Same[OutletBase], bore_m: float, density_kgm3: float) -> OutletLaw:
    return outlet_law(outlet.it, bore_m, density_kgm3)


@lru_cache(maxsize=LINES_KEPT)
def _usual_flow_m3s(law: OutletLaw, bore_m: float) -> float:
    flow = (USUAL_HEAD_M / law.scale) ** (1.0 / law.exponent)
    return min(flow, USUAL_VELOCITY_MS * bore_area_m2(bore_m)) if bore_m else flow
