"""Plants that are watered, and ponds that lose water."""

from typing import Annotated

from pydantic import Field, model_validator

from leadsman.core.design.base import Id, Name, Part, fault

WAYS = "litres_lpd; plants and litres_each_lpd; area_m2 and crop_factor; or minutes_per_day"


class Crop(Part):
    """Plants watered through one outlet, in one of four ways.

    Litres a day as such; so many plants at litres each; an area that gives to the air what a sward does times
    `crop_factor`; or minutes a day at the outlet's own flow. `applied_share` is what of the water gets to the
    roots (drip nine tenths by default).
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

    @model_validator(mode="after")
    def in_one_way(self) -> "Crop":
        pairs = [
            (self.litres_lpd,), (self.plants, self.litres_each_lpd), (self.area_m2, self.crop_factor),
            (self.minutes_per_day,),
        ]  # fmt: skip
        begun = [pair for pair in pairs if any(one is not None for one in pair)]
        if len(begun) != 1 or any(one is None for one in begun[0]):
            raise fault(f"exactly one of: {WAYS}")
        return self


class PondLoss(Part):
    """What a vessel under the sky loses: by the air, into the ground, and by what is let out of it.

    Evaporation as such, or from a pan times `pan_factor`; `area_m2` where the vessel's own surface is not meant.
    """

    vessel: Id
    evaporation_mm_d: Annotated[float, Field(ge=0, le=50)] | None = None
    pan_mm_d: Annotated[float, Field(ge=0, le=50)] | None = None
    pan_factor: Annotated[float, Field(gt=0, le=1.5)] | None = None
    seepage_mm_d: Annotated[float, Field(ge=0, le=500)] = 0.0
    change_percent_week: Annotated[float, Field(ge=0, le=700)] = 0.0
    discharge_lpd: Annotated[float, Field(ge=0, le=1e6)] = 0.0
    area_m2: Annotated[float, Field(gt=0, le=1e6)] | None = None

    @model_validator(mode="after")
    def evaporates_once(self) -> "PondLoss":
        if self.evaporation_mm_d is not None and self.pan_mm_d is not None:
            raise fault("evaporation_mm_d or pan_mm_d, not both")
        return self
