"""What a run keeps: what happened, how things stood at times, and what one phase hands to the next."""

from collections.abc import Callable
from dataclasses import dataclass, field

from leadsman.core.base.array import Floats
from leadsman.core.dayrun.balance import Edge
from leadsman.core.dayrun.spell import Spell

Watch = Callable[[float], None]
"""Called with the time of a run [s] as it goes on; an exception ends the run."""


@dataclass(frozen=True, kw_only=True)
class Event:
    """Something that happened: when [s], what kind of thing, to which part."""

    time_s: float
    kind: str
    where: str


@dataclass(frozen=True, kw_only=True)
class Told:
    """How things stand at a time [s].

    Levels [m] of vessels and what they hold above their outlets [m3]; flows [m3/s] of outlets and lines, heads [m] at
    places and at outlets, and what runs beside them by the id of the source, herd, pond, draw or leak.
    """

    time_s: float
    levels_m: Floats
    usable_m3: Floats
    outlets_m3s: Floats
    lines_m3s: Floats
    places_m: Floats
    ends_m: Floats
    beside_m3s: dict[str, float]


@dataclass
class State:
    """What one phase hands to the next: volumes [m3], pumps on switches and which are on, siphons that have broken.

    `held` are vessels at an edge, which are still there; `wanted` what animals that found too little drink later, and
    `lacked` how much they did not find in each spell so far [m3]; `opened` float valves that stood open when that was
    last judged, `step_s` the step to go on with.
    """

    volumes_m3: Floats
    switched: set[str] = field(default_factory=set)
    on: set[str] = field(default_factory=set)
    broken: set[str] = field(default_factory=set)
    opened: set[str] = field(default_factory=set)
    step_s: float = 0.0
    held: dict[int, Edge] = field(default_factory=dict)
    wanted: list[Spell] = field(default_factory=list)
    lacked: dict[Spell, float] = field(default_factory=dict)
