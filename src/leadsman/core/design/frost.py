"""The frost that a plan is asked about: from when to when, how cold, what wind, what ground."""

from datetime import date
from typing import Annotated, Literal

from pydantic import Field, ValidationInfo, field_validator

from leadsman.core.base.fault import fault
from leadsman.core.design.base import Day, Id, Part

LONGEST_D = 250
SoilKind = Literal["sand", "loam", "clay", "peat"]


class Bleed(Part):
    """Water that is left running at an outlet so that its line stays open."""

    outlet: Id
    flow_lpm: Annotated[float, Field(gt=0, le=10_000)]


class Frost(Part):
    """A frost: its first and last day, and the mean of its air over day and night.

    `water_c` is the source's water temperature then, the site's where none is given; `depth_m` the frost depth that is
    usual there, used instead of the one from soil and degree-days. `snow_m` lies on open ice; `bleeds` is what is left
    running meanwhile; `drained` where the lines are emptied before it.
    """

    from_: Annotated[Day, Field(alias="from")]
    to: Day
    air_c: Annotated[float, Field(ge=-50, lt=0)]
    wind_mps: Annotated[float, Field(ge=0, le=40)] = 3.0
    water_c: Annotated[float, Field(ge=0, le=40)] | None = None
    soil: SoilKind = "loam"
    depth_m: Annotated[float, Field(ge=0, le=5)] | None = None
    snow_m: Annotated[float, Field(ge=0, le=3)] = 0.0
    drained: bool = False
    bleeds: Annotated[list[Bleed], Field(max_length=1_000)] = Field(default_factory=list)

    @field_validator("to")
    @classmethod
    def after_it_begins(cls, to: Day, info: ValidationInfo) -> Day:
        begins = info.data.get("from_")
        if begins is not None and not 0 <= _days_between(begins, to) < LONGEST_D:
            raise fault(f"from {begins} on, at most {LONGEST_D} days")
        return to

    @property
    def days(self) -> int:
        """How many days it lasts, its first and last among them."""
        return _days_between(self.from_, self.to) + 1

    @property
    def degree_days(self) -> float:
        """Days times degrees below 0 [°C·d]."""
        return -self.air_c * self.days


def _days_between(begins: str, ends: str) -> int:
    return (date.fromisoformat(ends) - date.fromisoformat(begins)).days
