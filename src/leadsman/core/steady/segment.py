"""A line as links of the network: the segments between what divides it, and the pieces of pipe in each."""

from collections.abc import Callable, Sequence
from typing import NamedTuple

from leadsman.core.base.units import m3s_from_lpm
from leadsman.core.catalogue import PipeProduct
from leadsman.core.design import Line
from leadsman.core.design.line_pipe import Lump, line_lumps, line_reaches
from leadsman.core.physics.pipe import Pipe
from leadsman.core.physics.water import Water
from leadsman.core.solver.network import Control


class Piece(NamedTuple):
    """Pipe of one bore in a segment: number of its reach in the line, length [m] within the segment, and bore [m]."""

    reach: int
    length_m: float
    bore_m: float


class Segment(NamedTuple):
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

    @property
    def taken_per_flow2(self) -> tuple[float, float]:
        """What fittings and parts take over flow squared [s2/m5]: those on the pipe's bore, and those on their own."""
        on_bore = sum(lump.per_flow2 for lump in self.lumps if lump.on_bore)
        return on_bore, sum(lump.per_flow2 for lump in self.lumps if not lump.on_bore)


class LineLayout(NamedTuple):
    """A line as it is laid: its pieces of pipe from its `from` end, and its segments."""

    pipes: tuple[Pipe, ...]
    segments: tuple[Segment, ...]


class Cut(NamedTuple):
    """What divides a line: a distance [m] along its link, and the control at the end of the segment before it."""

    at_m: float
    control: Control | None = None
    setting: float = 0.0


def along_link(line: Line, forward: bool) -> Callable[[float], float]:
    """Return what turns a distance from a line's `from` end into one that runs with its links."""
    length = line.pipe_length_m
    return lambda at_m: at_m if forward else length - at_m


def line_layout(
    line: Line, index: int, water: Water, own: Sequence[PipeProduct], cuts: Sequence[Cut], forward: bool
) -> LineLayout:
    """Return a line, number `index` of its design, with its segments between the cuts.

    Args:
        own: the design's own products.
        forward: its links run from its `from` to its `to`.
    Raises:
        UnknownName: a product is neither the design's own nor the catalogue's.
    """
    path, length, along = f"/lines/{index}", line.pipe_length_m, along_link(line, forward)
    pipes = line_reaches(line, path, own)
    lumps = [Lump(along(lump.at_m), lump.per_flow2, lump.on_bore) for lump in line_lumps(line, path, water, own)]
    if not cuts and not lumps and line.pump is None and forward:  # most lines are of this kind
        pieces = tuple(Piece(reach, pipe.length_m, pipe.bore_m) for reach, pipe in enumerate(pipes))
        one_way = any(part.kind == "check_valve" for part in line.inline)
        whole = Segment(
            line_id=line.id, forward=True, from_m=0.0, to_m=length, start=line.from_, end=line.to, pieces=pieces,
            lumps=(), bore_m=pipes[0].bore_m, control=None, setting=0.0, one_way=one_way, pump=(),
        )  # fmt: skip
        return LineLayout(tuple(pipes), (whole,))
    reaches = list(enumerate(pipes))
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
    return LineLayout(tuple(pipes), tuple(segments))


def _pieces(reaches: Sequence[tuple[int, Pipe]], from_m: float, to_m: float) -> tuple[Piece, ...]:
    """Return what of a line's reaches, in their order, lies between two distances [m]."""
    pieces, at = [], 0.0
    for reach, pipe in reaches:
        length = min(at + pipe.length_m, to_m) - max(at, from_m)
        if length > 0.0:
            pieces.append(Piece(reach, length, pipe.bore_m))
        at += pipe.length_m
    return tuple(pieces)
