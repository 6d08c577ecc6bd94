"""A tote or a tank on a trailer that stands by for when the line gives nothing, or brings what no line brings."""

from typing import Annotated

from pydantic import Field, ValidationInfo, field_validator

from leadsman.core.design.base import Id, Name, Part, fault


class Standby(Part):
    """A container filled at `filled_at`, taken to `place`, from which it fills a vessel through a hose.

    It holds `holds_l`, `deep_m` deep when full, its floor `floor_m` over the ground at its place (of stand or
    trailer). By gravity, or by a pump of `pump_lpm`. It stands on so many `feet` (legs or pallets, `footprint_m2` under
    each), each rated `foot_limit_kg`; on a vehicle that may carry `vehicle_limit_kg`. `fill_lpm` is the flow at the
    filling point, `fill_hose_m` the hose there; `trip_min` the way there and back; `price_per_trip` fuel and water.
    """

    id: Id
    name: Name | None = None
    fills: Id
    place: Id
    holds_l: Annotated[float, Field(gt=0, le=100_000)]
    deep_m: Annotated[float, Field(gt=0, le=5)] = 1.0
    floor_m: Annotated[float, Field(ge=-2, le=20)] = 0.0
    empty_kg: Annotated[float, Field(ge=0, le=1e5)] = 0.0
    hose_mm: Annotated[float, Field(ge=4, le=200)] | None = None
    hose_m: Annotated[float, Field(gt=0, le=2_000)] | None = None
    pump_lpm: Annotated[float, Field(gt=0, le=10_000)] | None = None
    feet: Annotated[int, Field(ge=1, le=100)] | None = None
    footprint_m2: Annotated[float, Field(gt=0, le=100)] | None = None
    foot_limit_kg: Annotated[float, Field(gt=0, le=1e6)] | None = None
    vehicle_limit_kg: Annotated[float, Field(gt=0, le=1e6)] | None = None
    filled_at: Id | None = None
    fill_lpm: Annotated[float, Field(gt=0, le=10_000)] | None = None
    fill_hose_m: Annotated[float, Field(gt=0, le=2_000)] | None = None
    trip_min: Annotated[float, Field(ge=0, le=1_440)] | None = None
    price_per_trip: Annotated[float, Field(ge=0, le=1e6)] | None = None

    @field_validator("filled_at")
    @classmethod
    def elsewhere(cls, filled_at: str | None, info: ValidationInfo) -> str | None:
        if filled_at is not None and filled_at == info.data.get("place"):
            raise fault("a place other than where it stands: what is filled where it stands needs no trip")
        return filled_at
