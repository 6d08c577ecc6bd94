"""What happens in a run over time: sources lost, valves stuck, hoses off, leaks, heat, frost."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from leadsman.core.design.base import Id, Name, Part, fault

LONGEST_RUN_S = 90 * 86_400
RunTime = Annotated[float, Field(ge=0, le=LONGEST_RUN_S)]
Left = Annotated[float, Field(ge=0.02, le=0.98)]


class EventBase(Part):
    """Something that begins at a time [s from the start of a run].

    It lasts until `until_s`; where `until_look`, until the next look at the troughs, when it is put right; else to the
    end of the run.
    """

    id: Id
    name: Name | None = None
    at_s: RunTime
    until_s: RunTime | None = None
    until_look: bool = False

    @model_validator(mode="after")
    def ends_in_one_way(self) -> "EventBase":
        if self.until_s is not None and self.until_s <= self.at_s:
            raise fault("an until_s after at_s")
        if self.until_s is not None and self.until_look:
            raise fault("either until_s or until_look")
        return self


class SourceLost(EventBase):
    """An inflow brings nothing."""

    kind: Literal["source_lost"]
    where: Id


class StuckOpen(EventBase):
    """A float valve stands fully open, whatever the level."""

    kind: Literal["stuck_open"]
    where: Id


class StuckShut(EventBase):
    """An outlet passes nothing."""

    kind: Literal["stuck_shut"]
    where: Id


class PartlyBlocked(EventBase):
    """Of what an outlet, or of the opening of a line, only a share is left."""

    kind: Literal["partly_blocked"]
    where: Id
    left: Left = 0.3


class HoseOff(EventBase):
    """A line comes off at its far end, and runs out on the ground there."""

    kind: Literal["hose_off"]
    where: Id


class Split(EventBase):
    """A hole in a line, at a distance from its start."""

    kind: Literal["split"]
    where: Id
    at_m: Annotated[float, Field(ge=0, le=100_000)]
    hole_mm: Annotated[float, Field(ge=0.5, le=500)] = 6.0


class TapLeftOpen(EventBase):
    """A tap at a place or of an outlet is left open, of a bore where the outlet has none of its own."""

    kind: Literal["tap_open"]
    where: Id
    bore_mm: Annotated[float, Field(ge=0.5, le=500)] = 12.0


class Leak(EventBase):
    """A vessel leaks, until it is empty."""

    kind: Literal["leak"]
    where: Id
    flow_lpm: Annotated[float, Field(gt=0, le=10_000)] = 1.0


class HotSpell(EventBase):
    """The air is as hot as this, and animals drink by it."""

    kind: Literal["hot_spell"]
    air_c: Annotated[float, Field(ge=-40, le=50)] = 35.0


class HerdMoved(EventBase):
    """A herd drinks elsewhere."""

    kind: Literal["herd_moved"]
    where: Id
    to: Id


class Freeze(EventBase):
    """A line or an outlet is frozen and passes nothing; every one of them where none is named."""

    kind: Literal["freeze"]
    where: Id | None = None


class CheckValveFailed(EventBase):
    """The check valves of a line let water back."""

    kind: Literal["check_valve_failed"]
    where: Id


class TroughTipped(EventBase):
    """A vessel lies on its side: what it held is lost, and so is all that comes."""

    kind: Literal["tipped"]
    where: Id


class ShutByHand(EventBase):
    """Somebody shuts an outlet or a line."""

    kind: Literal["shut_by_hand"]
    where: Id


class SiphonPrimed(EventBase):
    """Somebody fills a siphon that drew air: it runs again from then on. Nothing lasts of it."""

    kind: Literal["siphon_primed"]
    where: Id


DayEvent = Annotated[
    SourceLost
    | StuckOpen
    | StuckShut
    | PartlyBlocked
    | HoseOff
    | Split
    | TapLeftOpen
    | Leak
    | HotSpell
    | HerdMoved
    | Freeze
    | CheckValveFailed
    | TroughTipped
    | ShutByHand
    | SiphonPrimed,
    Field(discriminator="kind"),
]

WHERE: dict[str, tuple[str, ...]] = {
    "source_lost": ("inflows", "pressure_sources"),
    "stuck_open": ("outlets",),
    "stuck_shut": ("outlets",),
    "partly_blocked": ("outlets", "lines"),
    "hose_off": ("lines",),
    "split": ("lines",),
    "tap_open": ("outlets", "places"),
    "leak": ("vessels",),
    "herd_moved": ("herds",),
    "freeze": ("outlets", "lines"),
    "check_valve_failed": ("lines",),
    "tipped": ("vessels",),
    "shut_by_hand": ("outlets", "lines"),
    "siphon_primed": ("lines", "inflows"),
}
"""The lists whose parts an event of a kind may be at."""
