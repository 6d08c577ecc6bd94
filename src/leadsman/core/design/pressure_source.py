"""What gives water under pressure at a place, into the lines that begin at it: mains, wells with a tank, rams."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from leadsman.core.design.base import Assumed, Day, Id, Name, Part, fault
from leadsman.core.design.inflow import DailyFlow, Timing

SourceKpa = Annotated[float, Field(gt=0, le=2_000)]


class PressureSourceBase(Part):
    """What all sources under pressure share: the line that begins at its id carries its water.

    `assumed` names figures that are a default nobody has confirmed.
    """

    id: Id
    name: Name | None = None
    place: Id
    assumed: Assumed = Field(default_factory=list)


class GaugedSource(PressureSourceBase):
    """Mains, or a well with a pressure tank: what a gauge shows at its tap, and what a timed container says.

    `static_kpa` is read while nothing runs. A container is timed while the tap stands wide open, the gauge then
    showing `timed_kpa`. A pressure tank's pump runs from `cut_in_kpa` until `cut_out_kpa`. `backflow` is what keeps
    stock water out of mains.
    """

    kind: Literal["mains", "well"]
    static_kpa: SourceKpa
    timings: Annotated[list[Timing], Field(min_length=1, max_length=1_000)]
    timed_kpa: Annotated[float, Field(ge=0, le=2_000)] = 0.0
    cut_in_kpa: SourceKpa | None = None
    cut_out_kpa: SourceKpa | None = None
    backflow: Literal["none", "air_gap", "preventer"] = "none"

    @model_validator(mode="after")
    def pressures_in_order(self) -> "GaugedSource":
        if (self.cut_in_kpa is None) != (self.cut_out_kpa is None):
            raise fault("cut_in_kpa and cut_out_kpa together")
        if self.cut_in_kpa is not None and self.cut_out_kpa is not None:
            if self.cut_out_kpa <= self.cut_in_kpa:
                raise fault("a cut_out_kpa above cut_in_kpa")
            if not self.cut_in_kpa <= self.static_kpa <= self.cut_out_kpa:
                raise fault(f"a static_kpa between cut_in_kpa and cut_out_kpa, {self.cut_in_kpa:g} to "
                            f"{self.cut_out_kpa:g}")  # fmt: skip
        if self.timed_kpa >= self.least_static_kpa:
            raise fault(
                f"a timed_kpa under {self.least_static_kpa:g} kPa, where the pressure stands while nothing runs"
            )
        return self

    @property
    def least_static_kpa(self) -> float:
        """The least pressure that stands while nothing runs [kPa]: of a pressure tank that at which its pump starts."""
        return self.static_kpa if self.cut_in_kpa is None else self.cut_in_kpa

    @property
    def greatest_kpa(self) -> float:
        """The greatest pressure that may stand in the lines [kPa]."""
        return self.static_kpa if self.cut_out_kpa is None else self.cut_out_kpa


class RamTrial(Part):
    """A ram as it was tuned once: its waste and what it delivered, each by a timed container, and the lift then."""

    waste: Timing
    delivery: Timing
    lift_m: Annotated[float, Field(gt=0, le=500)]
    date: Day | None = None


class RamSource(PressureSourceBase):
    """A ram pump at a place: the fall to it, all the water that drives it, and its efficiency (q h over Q H).

    The last of its `trials`, where there is one, says drive flow and efficiency instead. `drive_length_m` and
    `drive_mm` are of its drive pipe.
    """

    kind: Literal["ram"]
    fall_m: Annotated[float, Field(gt=0, le=100)]
    drive_lpm: DailyFlow | None = None
    efficiency: Annotated[float, Field(gt=0, le=0.95)] = 0.5
    trials: Annotated[list[RamTrial], Field(max_length=200)] = Field(default_factory=list)
    drive_length_m: Annotated[float, Field(gt=0, le=1_000)] | None = None
    drive_mm: Annotated[float, Field(ge=5, le=1_000)] | None = None

    @model_validator(mode="after")
    def driven_by_something(self) -> "RamSource":
        if self.drive_lpm is None and not self.trials:
            raise fault("drive_lpm, or trials with waste and delivery timed")
        return self


PressureSource = Annotated[GaugedSource | RamSource, Field(discriminator="kind")]
