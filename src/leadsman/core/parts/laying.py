"""The laying sheet of each line: what to do at which distance, by spaces between posts and by paces."""

from dataclasses import dataclass

from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import Design, Line, label
from leadsman.core.design.layout import Layout
from leadsman.core.parts.connection import KINDS
from leadsman.core.parts.laid_pipe import pipes_of
from leadsman.core.parts.roll import Rolls, joins_of
from leadsman.core.parts.taps import taps_of
from leadsman.core.survey.paces import pace_of

ORDER = ("begin", "join", "tap", "roll", "part", "crossing", "end")  # at one distance


@dataclass(frozen=True, kw_only=True)
class Stop:
    """Something to do along a line [m from its start]: whole spaces between posts before it and metres beyond, paces.

    `spaces` is None where nobody has said how far apart the posts stand.
    """

    at_m: float
    kind: str
    told: Wording
    spaces: int | None
    beyond_m: float | None
    paces: float


@dataclass(frozen=True, kw_only=True)
class LayingSheet:
    """A line from its start on; `counted_pace` tells whether anybody has counted how long a pace is."""

    line: Line
    length_m: float
    stops: list[Stop]
    counted_pace: bool


def laying_sheets(design: Design, cut: list[Rolls]) -> list[LayingSheet]:
    """Return the laying sheet of every line, in the order of the plan."""
    layout = Layout(design)
    return [_sheet(design, line, cut, taps_of(design, layout, line, cut)) for line in design.lines]


def post_spaces(at_m: float, post_m: float) -> tuple[int, float]:
    """Return how many whole spaces between posts lie before a distance [m], and the metres beyond the last post.

    Six posts make five spaces: spaces are counted, not posts.
    >>> post_spaces(26.0, 5.0)
    (5, 1.0)
    """
    spaces = int((at_m + 1e-9) // post_m)
    return spaces, max(at_m - spaces * post_m, 0.0)


def _sheet(design: Design, line: Line, cut: list[Rolls], taps: list[float]) -> LayingSheet:
    length_m, pace = line.pipe_length_m, pace_of(design.pace)
    found: list[tuple[float, str, Wording]] = []
    for rolls in cut:
        for piece in (one for one in rolls.pieces if one.line == line.id):
            metres, name = Quantity(value=piece.length_m, unit="m", digits=1), rolls.product.name
            of = "" if rolls.roll_m is None else f"roll {piece.roll} of "
            found.append((piece.from_m, "roll", say("{} of {}{}", metres, of, name)))
    if not pipes_of(design, line):
        found.append((0.0, "roll", say("pipe not chosen yet")))
    found += [(at_m, "join", say("join")) for at_m, _ in joins_of(cut, line.id)]
    found += [(at_m, "tap", say("tap, with a mark on the fence that is taller than the grass")) for at_m in taps]
    found += [(part.at_m, "part", say(KINDS[part.kind])) for part in line.inline]
    for crossing in line.crossings:
        told = say(
            "into the ground in a sleeve for {}{}, a spade deep or more, marked at both sides; call the utility "
            "locating service before digging",
            Quantity(value=crossing.wide_m, unit="m", digits=1), f", under {crossing.name}" if crossing.name else "",
        )  # fmt: skip
        found.append((crossing.at_m, "crossing", told))
    found += [(0.0, "begin", say("start of {}", label(line))), (length_m, "end", say("end of {}", label(line)))]
    stops = []
    for at_m, kind, told in sorted(found, key=lambda stop: (stop[0], ORDER.index(stop[1]))):
        spaces = post_spaces(at_m, design.site.post_m) if design.site.post_m else None
        stops.append(
            Stop(
                at_m=at_m,
                kind=kind,
                told=told,
                spaces=spaces[0] if spaces else None,
                beyond_m=spaces[1] if spaces else None,
                paces=at_m / pace.length_m,
            )
        )
    return LayingSheet(line=line, length_m=length_m, stops=stops, counted_pace=pace.is_counted)
