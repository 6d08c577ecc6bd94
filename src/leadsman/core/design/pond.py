"""Ponds and other open vessels: what they lose, how their water goes round a filter, and how it is changed."""

from typing import Annotated

from pydantic import Field, model_validator

from leadsman.core.design.base import Id, Part, fault


class Circulation(Part):
    """A pump that takes a pond's water out of a filter chamber beside it and sends it back.

    The water runs into `chamber` by itself through a pipe of `pipe_mm` bore and `pipe_m` length; `pipe_k` are the
    fittings in it, its two ends among them. `drains_back_l` stands in filter and return pipe while the pump runs and
    comes back when it stops.
    """

    chamber: Id
    pump_lpm: Annotated[float, Field(gt=0, le=100_000)]
    pipe_mm: Annotated[float, Field(ge=5, le=2_000)]
    pipe_m: Annotated[float, Field(gt=0, le=1_000)]
    pipe_k: Annotated[float, Field(ge=0, le=200)] = 1.5
    drains_back_l: Annotated[float, Field(ge=0, le=1e6)] = 0.0


class PondLoss(Part):
    """What a vessel under the sky loses, by the air, into the ground, and by what is let out of it; and what it gets.

    Evaporation as such, or from a pan times `pan_factor`; `area_m2` where the vessel's own surface is not meant.
    `change_percent_week` of its water is changed in `changes_per_week` goes, let out at `change_lpm`. `wave_mm` is how
    high waves stand over still water, `storm_mm` the rain of a storm. `topped_lpd` is what its float was measured to
    let in on a day without rain. Where treated mains feed it, `remover_l` is what its chlorine remover takes at once,
    `remover_lpm` the flow up to which it does, `cartridge_l` how many litres it lasts.
    """

    vessel: Id
    evaporation_mm_d: Annotated[float, Field(ge=0, le=50)] | None = None
    pan_mm_d: Annotated[float, Field(ge=0, le=50)] | None = None
    pan_factor: Annotated[float, Field(gt=0, le=1.5)] | None = None
    seepage_mm_d: Annotated[float, Field(ge=0, le=500)] = 0.0
    change_percent_week: Annotated[float, Field(ge=0, le=700)] = 0.0
    changes_per_week: Annotated[float, Field(gt=0, le=168)] = 1.0
    change_lpm: Annotated[float, Field(gt=0, le=1e6)] | None = None
    discharge_lpd: Annotated[float, Field(ge=0, le=1e6)] = 0.0
    area_m2: Annotated[float, Field(gt=0, le=1e6)] | None = None
    wave_mm: Annotated[float, Field(ge=0, le=3_000)] = 0.0
    storm_mm: Annotated[float, Field(ge=0, le=1_000)] | None = None
    topped_lpd: Annotated[float, Field(ge=0, le=1e7)] | None = None
    remover_l: Annotated[float, Field(gt=0, le=1e9)] | None = None
    remover_lpm: Annotated[float, Field(gt=0, le=1e5)] | None = None
    cartridge_l: Annotated[float, Field(gt=0, le=1e9)] | None = None
    circulation: Circulation | None = None

    @model_validator(mode="after")
    def evaporates_once(self) -> "PondLoss":
        if self.evaporation_mm_d is not None and self.pan_mm_d is not None:
            raise fault("evaporation_mm_d or pan_mm_d, not both")
        return self

    @model_validator(mode="after")
    def beside_its_chamber(self) -> "PondLoss":
        if self.circulation is not None and self.circulation.chamber == self.vessel:
            raise fault("a chamber other than the pond itself, at circulation")
        return self
