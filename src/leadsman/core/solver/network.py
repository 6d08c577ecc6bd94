"""A pipe network as numbers: nodes, links, and the cases in which it is to be solved.

Nodes are numbered junctions first (head unknown), then fixed heads (water surfaces, and the air at each
outlet). Links are directed from `start` to `end`. Cases stack along the first axis; an array whose
first axis is 1 holds for all of them.
"""

from collections.abc import Sequence
from dataclasses import dataclass, fields, replace
from enum import IntEnum

import numpy as np

from leadsman.core.base.array import Bools, Floats, Ints
from leadsman.core.physics.friction import FrictionLaw


class Control(IntEnum):
    """A link whose flow is not a law of its own two heads alone."""

    REDUCER = 0  # keeps the head at its end at or under the setting; passes forwards only
    SUSTAINER = 1  # keeps the head at its start at or over the setting; passes forwards only
    FIXED_FLOW = 2  # passes the setting as flow, whatever the heads
    LIMITER = 3  # passes the setting as flow where the heads can drive it, else what they can; forwards only


@dataclass(frozen=True, kw_only=True)
class PumpCurve:
    """Head lifted [m] at flows [m3/s], both as measured: flows rising, heads falling; straight lines between."""

    link: int
    flows_m3s: Floats
    heads_m: Floats

    @property
    def is_convex(self) -> bool:
        """Whether its curve is steeper the less it gives, as a ram's: a step of Newton from too much goes too far."""
        slopes = np.diff(self.heads_m) / np.diff(self.flows_m3s)
        return bool(len(slopes) > 3 and slopes[1] < slopes[len(slopes) // 2])

    def head_m(self, flow_m3s: Floats) -> tuple[Floats, Floats]:
        """Return the head lifted [m] and its slope [m per m3/s]; the last line runs on beyond the curve."""
        segment = np.clip(np.searchsorted(self.flows_m3s, flow_m3s) - 1, 0, len(self.flows_m3s) - 2)
        slope = np.diff(self.heads_m)[segment] / np.diff(self.flows_m3s)[segment]
        return self.heads_m[segment] + slope * (flow_m3s - self.flows_m3s[segment]), slope


@dataclass(frozen=True, kw_only=True)
class Network:
    """What does not change from case to case.

    Attributes:
        junctions, fixed: numbers of unknown and of given heads.
        start, end: node of each link, shape (links,).
        piece_link: link of each piece of pipe, rising, shape (pieces,).
        controls, control_kinds: link and kind of each control, shape (controls,).
        powers: link of each outlet with an exponent of its own, shape (powers,).
        pumps: curves of pumps on links.
        guess_m3s: a usual flow of each link, to start from, shape (links,).
    """

    junctions: int
    fixed: int
    start: Ints
    end: Ints
    piece_link: Ints
    controls: Ints
    control_kinds: Ints
    powers: Ints
    pumps: Sequence[PumpCurve]
    guess_m3s: Floats

    @property
    def links(self) -> int:
        return len(self.start)


@dataclass(frozen=True, kw_only=True)
class Cases:
    """What may differ from case to case; each array's first axis is the number of cases, or 1.

    Attributes:
        friction: law of the pieces, whose arrays broadcast to (cases, pieces).
        square: head loss over flow squared of each link [s2/m5], shape (·, links).
        power_scale, power_exponent: loss = scale · flow^exponent of each power outlet, shape (·, powers).
        fixed_m: heads given [m], shape (·, fixed).
        draw_m3s: flow taken out at each junction [m3/s], shape (·, junctions).
        closed: links that pass nothing, shape (·, links).
        way: 1 for links that pass forwards only, −1 for backwards only, 0 for both, shape (·, links).
        dead: junctions that no water reaches; their links are closed, shape (·, junctions).
        setting: head [m] or flow [m3/s] that each control keeps, shape (·, controls).
    """

    friction: FrictionLaw
    square: Floats
    power_scale: Floats
    power_exponent: Floats
    fixed_m: Floats
    draw_m3s: Floats
    closed: Bools
    way: Ints
    dead: Bools
    setting: Floats

    @property
    def count(self) -> int:
        arrays = (getattr(self, field.name) for field in fields(self) if field.name != "friction")
        return max(self.friction.count, *(len(array) for array in arrays))

    def take(self, rows: Ints) -> "Cases":
        """Return the cases of those numbers."""
        arrays = {field.name: getattr(self, field.name) for field in fields(self) if field.name != "friction"}
        chosen = {name: array if len(array) == 1 else array[rows] for name, array in arrays.items()}
        return replace(self, friction=self.friction.take(rows), **chosen)
