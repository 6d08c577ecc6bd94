"""What is judged, and what is wanted: scenarios, requirements."""

from typing import Annotated

from pydantic import Field, model_validator

from leadsman.core.design.base import Day, Id, Name, Part, PressureKpa, fault


class Scenario(Part):
    """A case to judge: heat of air and water, the day, what is opened or shut by hand, and where vessels stand.

    Of rain only what `rain_mm_d` says falls in it. `et0_mm_d` is reference evapotranspiration; without it the
    temperatures of the day tell it, at the site's latitude. `pipe_c` is of the pipe itself, which in the sun is hotter
    than its water: that of the water where nothing is said. `open` opens outlets fully, and lines, whatever the
    document says of them, and a float valve that is opened so runs over all day; `shut` closes them; `lost` inflows
    bring nothing; everything else is as the document has it.
    """

    id: Id
    name: Name | None = None
    air_c: Annotated[float, Field(ge=-40, le=50)] = 20.0
    least_air_c: Annotated[float, Field(ge=-40, le=50)] | None = None
    et0_mm_d: Annotated[float, Field(ge=0, le=25)] | None = None
    humid: bool = False
    rain_mm_d: Annotated[float, Field(ge=0, le=2_000)] = 0.0
    date: Day | None = None
    water_c: Annotated[float, Field(ge=0, le=60)] | None = None
    pipe_c: Annotated[float, Field(ge=-40, le=100)] | None = None
    open: Annotated[list[Id], Field(max_length=10_000)] = Field(default_factory=list)
    lost: Annotated[list[Id], Field(max_length=1_000)] = Field(default_factory=list)
    shut: Annotated[list[Id], Field(max_length=10_000)] = Field(default_factory=list)
    levels_m: Annotated[dict[Id, Annotated[float, Field(ge=0, le=100)]], Field(max_length=10_000)] = {}

    @model_validator(mode="after")
    def not_both(self) -> "Scenario":
        both = sorted(set(self.open) & set(self.shut))
        if both:
            raise fault(f"each id in open or in shut, not in both ({', '.join(both[:3])})")
        return self


class ShedItem(Part):
    """Something that is in the shed already: a product by its id, and how many pieces, rolls or metres of it."""

    product: Id
    count: Annotated[float, Field(gt=0, le=100_000)]


class MeasuredStem(Part):
    """What passes a wall, as measured on the piece in hand: across its thread, and how long the thread is [mm]."""

    product: Id
    across_mm: Annotated[float, Field(ge=3, le=300)]
    long_mm: Annotated[float, Field(ge=3, le=1_000)] | None = None


class Draw(Part):
    """Water taken out of a vessel between two times [s from the start of a run]; it stops where that is empty."""

    vessel: Id
    from_s: Annotated[float, Field(ge=0, le=90 * 86_400)]
    to_s: Annotated[float, Field(ge=0, le=90 * 86_400)]
    flow_lpm: Annotated[float, Field(ge=0, le=100_000)]

    @model_validator(mode="after")
    def ends_after_it_begins(self) -> "Draw":
        if self.to_s <= self.from_s:
            raise fault("a to_s after from_s")
        return self


class Requirement(Part):
    """What is wanted: of an outlet (flow, pressure, minutes to refill), or of a vessel (days in hand).

    Flow and pressure are wanted with every outlet open; with `alone` of this outlet by itself; with `case` in that one.
    With `surely` they must hold at the worse end of the range that uncertain heights and bores leave, too.
    """

    outlet: Id | None = None
    place: Id | None = None
    vessel: Id | None = None
    flow_lpm: Annotated[float, Field(gt=0, le=100_000)] | None = None
    pressure_kpa: PressureKpa | None = None
    refill_min: Annotated[float, Field(gt=0, le=14_400)] | None = None
    days_in_hand: Annotated[float, Field(gt=0, le=400)] | None = None
    alone: bool = False
    case: Id | None = None
    surely: bool = False

    @model_validator(mode="after")
    def in_one_case(self) -> "Requirement":
        if self.alone and self.case is not None:
            raise fault("alone, or in a case, not both")
        if self.surely and (self.case is not None or self.flow_lpm is None or self.outlet is None):
            raise fault("surely with the flow of an outlet, all open or alone")
        return self

    @model_validator(mode="after")
    def about_one_thing(self) -> "Requirement":
        if sum(where is not None for where in (self.outlet, self.place, self.vessel)) != 1:
            raise fault("exactly one of outlet, place and vessel")
        return self
