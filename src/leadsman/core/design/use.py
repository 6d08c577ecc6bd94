"""Who drinks, what fills, and what is wanted: need, inflows, scenarios, requirements."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from leadsman.core.design.base import Day, Id, Name, Part, PressureKpa, fault


class HeadCount(Part):
    """How many animals there are from a day on."""

    from_: Annotated[Day, Field(alias="from")]
    head: Annotated[int, Field(ge=0, le=1_000_000)]


class Drinking(Part):
    """How a herd drinks: spread over the day with water near, or as a mob that comes to the trough at once.

    `share` of the herd comes within `within_min`, each drinks its part of the day's need (`visits` a day) at
    `rate_lpm` and needs `width_m` of rim; after `patience_min` of waiting it is counted as left waiting.
    """

    pattern: Literal["near", "mob"]
    share: Annotated[float, Field(gt=0, le=1)] | None = None
    within_min: Annotated[float, Field(gt=0, le=600)] | None = None
    visits: Annotated[float, Field(ge=1, le=48)] | None = None
    rate_lpm: Annotated[float, Field(gt=0, le=60)] | None = None
    width_m: Annotated[float, Field(gt=0, le=5)] | None = None
    patience_min: Annotated[float, Field(gt=0, le=600)] | None = None
    daylight_h: Annotated[float, Field(gt=0, le=24)] | None = None
    peak_factor: Annotated[float, Field(ge=1, le=20)] | None = None


class Herd(Part):
    """Animals of one class that drink at one outlet; `intake_lpd` is the user's own litres a head a day.

    With `intake_lpd` the class may be the user's own too. `counts` change the heads over the season.
    """

    id: Id
    name: Name | None = None
    animal: Annotated[str, Field(alias="class", min_length=1, max_length=60)]
    head: Annotated[int, Field(ge=0, le=1_000_000)]
    weight_kg: Annotated[float, Field(gt=0, le=2_000)] | None = None
    milk_kgd: Annotated[float, Field(ge=0, le=100)] = 0.0
    feed_dry_percent: Annotated[float, Field(ge=5, le=100)] | None = None
    outlet: Id
    intake_lpd: Annotated[float, Field(gt=0, le=500)] | None = None
    counts: Annotated[list[HeadCount], Field(max_length=400)] = []
    drinking: Drinking | None = None

    @model_validator(mode="after")
    def counts_in_order(self) -> "Herd":
        days = [count.from_ for count in self.counts]
        if days != sorted(set(days)):
            raise fault("counts whose days rise")
        return self

    def head_on(self, date: str | None) -> int:
        """Return how many there are on a day; `head` before the first count, and where no day is given."""
        now = [count.head for count in self.counts if date is not None and count.from_ <= date]
        return now[-1] if now else self.head


class Rotation(Part):
    """Where a herd is over a time: it drinks at one outlet after the other, some days at each, and begins again.

    `days_each` under 1 is several moves a day; one outlet alone is set stocking. `to` is the last day, the end
    of the year where none is given. `farthest_m` is the way from the farthest grass to the water.
    """

    id: Id
    herd: Id
    from_: Annotated[Day, Field(alias="from")]
    to: Day | None = None
    outlets: Annotated[list[Id], Field(min_length=1, max_length=400)]
    days_each: Annotated[float, Field(ge=0.05, le=400)] = 1.0
    farthest_m: Annotated[float, Field(ge=0, le=20_000)] | None = None

    @model_validator(mode="after")
    def lasts(self) -> "Rotation":
        if self.to is not None and self.to < self.from_:
            raise fault("a last day that is not before the first")
        return self


class Timing(Part):
    """A container filled by a source: litres and seconds."""

    volume_l: Annotated[float, Field(gt=0, le=100_000)]
    time_s: Annotated[float, Field(gt=0, le=864_000)]
    date: Day | None = None


class SpringInflow(Part):
    """A spring or intake that fills a vessel; its flow is what the slowest timing says."""

    id: Id
    name: Name | None = None
    kind: Literal["spring"]
    fills: Id
    timings: Annotated[list[Timing], Field(min_length=1, max_length=1_000)]


class Scenario(Part):
    """A case to judge: heat of air and water, the day, what is opened or shut by hand, and where vessels stand.

    `et0_mm_d` is reference evapotranspiration; without it the temperatures of the day tell it, at the site's
    latitude. `open` opens outlets fully, and lines, whatever the document says of them; `shut` closes them; everything
    else is as the document has it.
    """

    id: Id
    name: Name | None = None
    air_c: Annotated[float, Field(ge=-40, le=50)] = 20.0
    least_air_c: Annotated[float, Field(ge=-40, le=50)] | None = None
    et0_mm_d: Annotated[float, Field(ge=0, le=25)] | None = None
    humid: bool = False
    date: Day | None = None
    water_c: Annotated[float, Field(ge=0, le=60)] | None = None
    open: Annotated[list[Id], Field(max_length=10_000)] = []
    shut: Annotated[list[Id], Field(max_length=10_000)] = []
    levels_m: Annotated[dict[Id, Annotated[float, Field(ge=0, le=100)]], Field(max_length=10_000)] = {}

    @model_validator(mode="after")
    def not_both(self) -> "Scenario":
        both = sorted(set(self.open) & set(self.shut))
        if both:
            raise fault(f"each id in open or in shut, not in both ({', '.join(both[:3])})")
        return self


class Requirement(Part):
    """What is wanted: of an outlet (flow, pressure, minutes to refill), or of a vessel (days in hand)."""

    outlet: Id | None = None
    place: Id | None = None
    vessel: Id | None = None
    flow_lpm: Annotated[float, Field(gt=0, le=100_000)] | None = None
    pressure_kpa: PressureKpa | None = None
    refill_min: Annotated[float, Field(gt=0, le=14_400)] | None = None
    days_in_hand: Annotated[float, Field(gt=0, le=400)] | None = None

    @model_validator(mode="after")
    def about_one_thing(self) -> "Requirement":
        if sum(where is not None for where in (self.outlet, self.place, self.vessel)) != 1:
            raise fault("exactly one of outlet, place and vessel")
        return self
