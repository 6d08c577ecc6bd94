"""Plants that are watered, and ponds that lose water."""

from typing import Annotated

from pydantic import Field, model_validator

from leadsman.core.base.pattern import CLOCK_PATTERN
from leadsman.core.design.base import Day, Id, Name, Part, fault

WAYS = "litres_lpd; plants and litres_each_lpd; area_m2 and crop_factor; or minutes_per_day"


class CropStep(Part):
    """Litres a day that one plant needs from a day on."""

    from_: Annotated[Day, Field(alias="from")]
    litres_each_lpd: Annotated[float, Field(ge=0, le=1_000)]


class Crop(Part):
    """Plants watered through one outlet, in one of four ways.

    Litres a day as such; so many plants at litres each; an area that gives to the air what a sward does times
    `crop_factor`; or minutes a day at the outlet's own flow. `applied_share` is what of the water gets to the
    roots (drip nine tenths by default). `over_season` changes the litres of one plant as it grows.
    """

    id: Id
    name: Name | None = None
    outlet: Id
    litres_lpd: Annotated[float, Field(gt=0, le=1e6)] | None = None
    plants: Annotated[int, Field(ge=1, le=1_000_000)] | None = None
    litres_each_lpd: Annotated[float, Field(gt=0, le=1_000)] | None = None
    area_m2: Annotated[float, Field(gt=0, le=1e7)] | None = None
    crop_factor: Annotated[float, Field(gt=0, le=2)] | None = None
    minutes_per_day: Annotated[float, Field(gt=0, le=1_440)] | None = None
    applied_share: Annotated[float, Field(gt=0.2, le=1)] | None = None
    over_season: Annotated[list[CropStep], Field(max_length=100)] = Field(default_factory=list)

    def litres_each_on(self, date: str | None) -> float | None:
        """Return what one plant needs on a day [L/d]; `litres_each_lpd` before the first step or without a day."""
        now = [step.litres_each_lpd for step in self.over_season if date is not None and step.from_ <= date]
        return now[-1] if now else self.litres_each_lpd

    @model_validator(mode="after")
    def grows_in_order(self) -> "Crop":
        days = [step.from_ for step in self.over_season]
        if days != sorted(set(days)) or (days and self.plants is None):
            raise fault("steps whose days rise, for plants that are counted")
        return self

    @model_validator(mode="after")
    def in_one_way(self) -> "Crop":
        pairs = [
            (self.litres_lpd,), (self.plants, self.litres_each_lpd), (self.area_m2, self.crop_factor),
            (self.minutes_per_day,),
        ]  # fmt: skip
        begun = [pair for pair in pairs if any(figure is not None for figure in pair)]
        if len(begun) != 1 or any(figure is None for figure in begun[0]):
            raise fault(f"exactly one of: {WAYS}")
        return self


class Timer(Part):
    """A timer that waters its crops one after the other, from `starts` on (a time of day), every day.

    Each runs for its `minutes_per_day`, else for as long as its outlet takes to give what it needs.
    """

    id: Id
    name: Name | None = None
    starts: Annotated[str, Field(pattern=CLOCK_PATTERN)]
    crops: Annotated[list[Id], Field(min_length=1, max_length=100)]

    @property
    def starts_min(self) -> int:
        """Minutes from midnight to its start."""
        hours, minutes = self.starts.split(":")
        return int(hours) * 60 + int(minutes)
