"""A flow beside the network for a while: what a source brings, what animals drink, what a pond loses."""

from dataclasses import dataclass


@dataclass(frozen=True, kw_only=True)
class Spell:
    """A flow [m3/s] from one time to another [s], into a vessel or out of one.

    `to` is None of what leaves the system, `from_` of what comes from outside; `switch_m` are the levels of the vessel
    it fills between which float switches let it run; `of` is the part that it belongs to. A siphon `breaks` where what
    it draws from is empty; of a `thirst` what is not there is wanted later, `since_s` since when.
    """

    of: str
    begins_s: float
    ends_s: float
    flow_m3s: float
    to: str | None = None
    from_: str | None = None
    switch_m: tuple[float, float] | None = None
    breaks: bool = False
    thirst: bool = False
    since_s: float | None = None
