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
from leadsman.core.design import FixedOutlet, Line
from leadsman.core.fittings import bore_area_m2
from leadsman.core.gradient import GradientSolver
from leadsman.core.layout import LINES_KEPT, Layout, line_profile
from leadsman.core.line import Lump, line_lumps, line_reaches
from leadsman.core.network import Control, Network, PumpCurve
from leadsman.core.outlet import SQUARE, outlet_law
from leadsman.core.pipe import Pipe
from leadsman.core.same import Same
from leadsman.core.units import head_m_from_pa, m3s_from_lpm, pa_from_kpa
from leadsman.core.water import Water

USUAL_VELOCITY_MS = 0.3
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
class Piece:
    """Pipe of one bore in a segment: number of its reach, and its length [m] within the segment."""

    reach: int
    length_m: float


@dataclass(frozen=True)
class Segment:
    """A part of a line that is one link; distances [m] run with the link.

    `forward` tells that the link runs from the line's `from` to its `to`; `control` is a reducer at its end, a
    point open to air at its start, or a pump of given flow, with the setting [m, or m3/s].
    """

    line_id: str
    forward: bool
    from_m: float
    to_m: float
    start: str
    end: str
    pieces: tuple[Piece, ...]
    lumps: tuple[Lump, ...]
    bore_m: float
    control: Control | None
    setting: float
    one_way: bool
    pump: tuple[tuple[float, float], ...]


@dataclass(frozen=True)
class LimitedDraw:
    """A fixed draw where it may fail: of an outlet, or of a place (`outlet_id` None), at a height over its ground."""

    outlet_id: str | None
    node_id: str
    place_id: str
    height_m: float
    flow_lpm: float


@dataclass(frozen=True)
class _Cut:
    at_m: float
    control: Control | None = None
    setting: float = 0.0


class Plumbing:
    """The network of a design, and where each of its parts is in it.

    Attributes:
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
        self.of_line: dict[str, range] = {}
        nodes = [place.id for place in design.places]
        nodes += [outlet_id for outlet_id, node in layout.node_of_outlet.items() if node == outlet_id]
        self.junctions = {node: index for index, node in enumerate(nodes)}
        open_at: dict[str, list[AirPoint]] = {}
        for point in self.air_points:
            open_at.setdefault(point.line_id, []).append(point)
        for index, line in enumerate(design.lines):
            self._add_line(index, line, open_at.get(line.id, []))
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
            outlet_law(outlet, bore or 1.0, water.density_kgm3)
            for outlet, bore in zip(self.to_air, self.outlet_bore_m, strict=True)
        ]
        self.network = self._network()
        self.solver = GradientSolver(self.network)

    def node(self, node_id: str) -> int:
        """Return the number of a place, an outlet's own junction or a vessel."""
        return self.junctions[node_id] if node_id in self.junctions else self.vessels[node_id]

    def _add_line(self, index: int, line: Line, air_points: Sequence[AirPoint]) -> None:
        first, before = len(self.reaches), len(self.segments)
        own = tuple(self.layout.design.own_pipes)
        if air_points or any(part.kind == "reducer" for part in line.inline):
            forward = all(point.forward for point in air_points)
            cuts = self._cuts(line, air_points, _along(line, forward))
            pipes, segments = _divided(line, index, first, self.water, own, cuts, forward)
        else:
            pipes, segments = _whole(Same(line), index, first, self.water, own)
        self.reaches += pipes
        self.reach_line += [index] * len(pipes)
        for segment in segments[:-1]:
            self.junctions[segment.end] = len(self.junctions)
        self.segments += segments
        self.of_line[line.id] = range(before, len(self.segments))

    def _cuts(self, line: Line, air_points: Sequence[AirPoint], along: Callable[[float], float]) -> list[_Cut]:
        cuts = []
        for point in air_points:  # a link of no length keeps the head before it
            cuts += [_Cut(along(point.at_m)), _Cut(along(point.at_m), Control.SUSTAINER, point.pipe_m)]
        for part in line.inline:
            if part.kind == "reducer":
                profile = line_profile(self.layout, line)
                height_m = np.interp(part.at_m, [at for at, *_ in profile], [pipe for *_, pipe in profile])
                kept_m = head_m_from_pa(pa_from_kpa(part.outlet_kpa or 0.0), self.water.density_kgm3)
                cuts.append(_Cut(along(part.at_m), Control.REDUCER, float(height_m) + kept_m))
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
            for end, piece in ((segment.start, segment.pieces[:1]), (segment.end, segment.pieces[-1:])):
                bore = self.reaches[piece[0].reach].bore_m if piece else segment.bore_m
                bores[end] = max(bore, bores.get(end, 0.0))
        return bores

    def _network(self) -> Network:
        outlet_nodes = [self.junctions[self.layout.node_of_outlet[outlet.id]] for outlet in self.to_air]
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
            start=np.array([self.node(one.start) for one in self.segments] + outlet_nodes, dtype=np.intp),
            end=np.array(
                [self.node(one.end) for one in self.segments] + list(range(air, air + len(outlet_nodes))), dtype=np.intp
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
        flows = [USUAL_VELOCITY_MS * bore_area_m2(segment.bore_m) for segment in self.segments]
        for law, bore in zip(self.laws, self.outlet_bore_m, strict=True):
            flow = (USUAL_HEAD_M / law.scale) ** (1.0 / law.exponent)
            flows.append(min(flow, USUAL_VELOCITY_MS * bore_area_m2(bore)) if bore else flow)
        return flows + [m3s_from_lpm(draw.flow_lpm) for draw in self.limited]


def _along(line: Line, forward: bool) -> Callable[[float], float]:
    """Return what turns a distance from a line's `from` end into one that runs with the water."""
    length = line.pipe_length_m
    return lambda at_m: at_m if forward else length - at_m


@lru_cache(maxsize=LINES_KEPT)
def _whole(
    line: Same[Line], index: int, first: int, water: Water, own: tuple[PipeProduct, ...]
) -> tuple[tuple[Pipe, ...], tuple[Segment, ...]]:
    """Return pipes and the one segment of a line that nothing divides; of a line met before they are the same."""
    return _divided(line.it, index, first, water, own, [], True)


def _divided(
    line: Line, index: int, first: int, water: Water, own: Sequence[PipeProduct], cuts: Sequence[_Cut], forward: bool
) -> tuple[tuple[Pipe, ...], tuple[Segment, ...]]:
    """Return the pipes of a line, and its segments between the cuts; `first` is the number of its first reach."""
    path, length, along = f"/lines/{index}", line.pipe_length_m, _along(line, forward)
    pipes = line_reaches(line, path, own)
    lumps = [Lump(along(lump.at_m), lump.per_flow2, lump.on_bore) for lump in line_lumps(line, path, water, own)]
    reaches = list(enumerate(pipes, first))
    one_way = line.pump is not None or any(part.kind == "check_valve" for part in line.inline)
    start, stop = (line.from_, line.to) if forward else (line.to, line.from_)
    segments: list[Segment] = []
    from_m = 0.0
    for number, cut in enumerate([*cuts, None]):
        to_m, end = (cut.at_m, f"{line.id}\n{number}") if cut else (length, stop)
        control, setting = (cut.control, cut.setting) if cut else (None, 0.0)
        if line.pump is not None and line.pump.flow_lpm is not None and cut is None:
            control, setting = Control.FIXED_FLOW, m3s_from_lpm(line.pump.flow_lpm)
        segments.append(
            Segment(
                line_id=line.id,
                forward=forward,
                from_m=from_m,
                to_m=to_m,
                start=start,
                end=end,
                pieces=_pieces(reaches if forward else reaches[::-1], from_m, to_m),
                lumps=tuple(lump for lump in lumps if from_m < lump.at_m <= to_m or (number == 0 and lump.at_m <= 0.0)),
                bore_m=pipes[0].bore_m,
                control=control,
                setting=setting,
                one_way=one_way,
                pump=tuple((q, h) for q, h in line.pump.curve or ()) if line.pump and number == 0 else (),
            )
        )
        start, from_m = end, to_m
    return tuple(pipes), tuple(segments)


def _pieces(reaches: Sequence[tuple[int, Pipe]], from_m: float, to_m: float) -> tuple[Piece, ...]:
    """Return what of a line's reaches, in their order, lies between two distances [m]."""
    pieces, at = [], 0.0
    for reach, pipe in reaches:
        length = min(at + pipe.length_m, to_m) - max(at, from_m)
        if length > 0.0:
            pieces.append(Piece(reach, length))
        at += pipe.length_m
    return tuple(pieces)
