"""The grazing calendar: paddocks with the water that serves them, and where a herd is over a time."""

from typing import Annotated

from pydantic import Field, model_validator

from leadsman.core.design.base import Day, Id, Name, Part, fault


class Paddock(Part):
    """A piece of ground that is grazed, and the outlet that waters it: a trough, or the tap a trough is moved to.

    Where no outlet is given, a herd in it drinks at the herd's own.
    `farthest_m` is its longest walk to water; `corners` are [east, north] in m.
    """

    id: Id
    name: Name | None = None
    outlet: Id | None = None
    farthest_m: Annotated[float, Field(ge=0, le=20_000)] | None = None
    corners: Annotated[list[Annotated[list[float], Field(min_length=2, max_length=2)]], Field(max_length=2_000)] = (
        Field(default_factory=list)
    )


class Rotation(Part):
    """Where a herd is over a time: in one paddock, or at one outlet, after the other, some days at each, in turn.

    `days_each` under 1 is several moves a day; one stop alone is set stocking. `to` is the last day, the end
    of the year where none is given. `farthest_m` is the longest walk to water, where the paddock
    does not say it.
    """

    id: Id
    herd: Id
    from_: Annotated[Day, Field(alias="from")]
    to: Day | None = None
    outlets: Annotated[list[Id], Field(max_length=400)] = Field(default_factory=list)
    paddocks: Annotated[list[Id], Field(max_length=400)] = Field(default_factory=list)
    days_each: Annotated[float, Field(ge=0.05, le=400)] = 1.0
    farthest_m: Annotated[float, Field(ge=0, le=20_000)] | None = None

    @model_validator(mode="after")
    def lasts(self) -> "Rotation":
        if self.to is not None and self.to < self.from_:
            raise fault("a last day that is not before the first")
        return self

    @model_validator(mode="after")
    def goes_somewhere(self) -> "Rotation":
        if bool(self.outlets) == bool(self.paddocks):
            raise fault("outlets or paddocks, one or more of them and not both")
        return self
