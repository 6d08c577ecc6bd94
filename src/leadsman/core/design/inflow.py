"""What refills a vessel: springs, rain, wells and pumps, rams, siphons, haul, mains."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from leadsman.core.base.pattern import TEXT_PATTERN
from leadsman.core.design.base import Day, Id, Name, Part, fault

DailyFlow = Annotated[float, Field(gt=0, le=100_000)]
Hours = Annotated[float, Field(ge=0, le=24)]


class Timing(Part):
    """A container filled by a source: litres and seconds."""

    volume_l: Annotated[float, Field(gt=0, le=100_000)]
    time_s: Annotated[float, Field(gt=0, le=864_000)]
    date: Day | None = None


class InflowBase(Part):
    """What all inflows share: the vessel that they fill."""

    id: Id
    name: Name | None = None
    fills: Id


class SpringInflow(InflowBase):
    """A spring or intake; its flow is what timings say, else `claimed_lpm`, what somebody says of it."""

    kind: Literal["spring"]
    timings: Annotated[list[Timing], Field(max_length=1_000)] = Field(default_factory=list)
    claimed_lpm: DailyFlow | None = None

    @model_validator(mode="after")
    def known_somehow(self) -> "SpringInflow":
        if not self.timings and self.claimed_lpm is None:
            raise fault("timings, or claimed_lpm where nobody has timed it")
        return self


class RainInflow(InflowBase):
    """Rain on a roof: its area seen from above, or length and width; `corners` are [east, north] in m.

    Of a day's rain `first_loss_mm` is lost on the roof, and of the first rain after a dry day `first_flush_l` fills the
    first-flush leg, which a slow weep empties again; the weep runs away with `weep_lpd` on every wet day.
    `gutter_lpm` is the most that gutter and downpipe carry; `storm_mm_h` the rain that overflows must stand.
    """

    kind: Literal["rain"]
    area_m2: Annotated[float, Field(gt=0, le=1e6)] | None = None
    length_m: Annotated[float, Field(gt=0, le=10_000)] | None = None
    width_m: Annotated[float, Field(gt=0, le=10_000)] | None = None
    corners: Annotated[list[Annotated[list[float], Field(min_length=2, max_length=2)]], Field(max_length=500)] = Field(
        default_factory=list
    )
    coefficient: Annotated[float, Field(gt=0, le=1)] = 0.85
    first_loss_mm: Annotated[float, Field(ge=0, le=20)] = 0.5
    first_flush_l: Annotated[float, Field(ge=0, le=100_000)] = 0.0
    weep_lpd: Annotated[float, Field(ge=0, le=100_000)] = 0.0
    gutter_lpm: DailyFlow | None = None
    storm_mm_h: Annotated[float, Field(gt=0, le=1_000)] | None = None

    @model_validator(mode="after")
    def has_an_area(self) -> "RainInflow":
        lengths = (self.length_m, self.width_m)
        ways = [self.area_m2 is not None, any(length is not None for length in lengths), bool(self.corners)]
        if sum(ways) != 1 or (ways[1] and None in lengths) or (self.corners and len(self.corners) < 3):
            raise fault("exactly one of: area_m2; length_m and width_m; three or more corners")
        return self


class PumpInflow(InflowBase):
    """A well, bore or cistern pump: a flow, or a curve of [L/min, m] against the lift, for so many hours a day.

    On float switches it runs from `cut_in_m` to `cut_out_m` of the vessel's level instead. `limit_lpd` is what the
    well itself gives in a day. `draws_from` names the vessel of the plan that it takes from, where it is one: it then
    brings no more than comes into that.
    """

    kind: Literal["pump"]
    draws_from: Id | None = None
    flow_lpm: DailyFlow | None = None
    curve: Annotated[list[Annotated[list[float], Field(min_length=2, max_length=2)]], Field(max_length=100)] = Field(
        default_factory=list
    )
    lift_m: Annotated[float, Field(ge=0, le=1_000)] | None = None
    hours_per_day: Hours = 24.0
    limit_lpd: Annotated[float, Field(gt=0, le=1e8)] | None = None
    cut_in_m: Annotated[float, Field(ge=0, le=100)] | None = None
    cut_out_m: Annotated[float, Field(gt=0, le=100)] | None = None

    @model_validator(mode="after")
    def gives_a_flow(self) -> "PumpInflow":
        if (self.flow_lpm is None) == (not self.curve):
            raise fault("flow_lpm or curve, one of them")
        rises = all(a[0] < b[0] and a[1] >= b[1] for a, b in zip(self.curve, self.curve[1:], strict=False))
        if self.curve and (self.lift_m is None or len(self.curve) < 2 or not rises):
            raise fault("a curve of two or more points, flow rising and head falling, and lift_m")
        if (self.cut_in_m is None) != (self.cut_out_m is None):
            raise fault("cut_in_m and cut_out_m together")
        _from_another_vessel(self.draws_from, self.fills)
        if self.cut_in_m is not None and self.cut_out_m is not None and self.cut_out_m <= self.cut_in_m:
            raise fault("a cut_out_m above cut_in_m")
        return self


class RamInflow(InflowBase):
    """A ram pump: fall to it, lift above it, all the water that drives it, and its efficiency (q h over Q H)."""

    kind: Literal["ram"]
    fall_m: Annotated[float, Field(gt=0, le=100)]
    lift_m: Annotated[float, Field(gt=0, le=500)]
    drive_lpm: DailyFlow
    efficiency: Annotated[float, Field(gt=0, le=0.95)] = 0.5


class HaulInflow(InflowBase):
    """Water brought by vehicle: litres and minutes a trip, trips a week; what the vehicle may carry, what it costs."""

    kind: Literal["haul"]
    trip_l: Annotated[float, Field(gt=0, le=100_000)]
    trip_min: Annotated[float, Field(gt=0, le=1_440)]
    trips_per_week: Annotated[float, Field(ge=0, le=200)]
    vehicle_limit_kg: Annotated[float, Field(gt=0, le=1e6)] | None = None
    tank_empty_kg: Annotated[float, Field(ge=0, le=1e5)] = 0.0
    price_per_trip: Annotated[float, Field(ge=0, le=1e6)] | None = None


class SteadyInflow(InflowBase):
    """A siphon from a pond, a transfer from another container, or treated mains: a flow for so many hours a day.

    Mains are to fall into the vessel through an air gap; a dechlorinating cartridge lasts `cartridge_l`. `draws_from`
    as for a pump.
    """

    kind: Literal["siphon", "transfer", "mains"]
    draws_from: Id | None = None
    flow_lpm: DailyFlow
    hours_per_day: Hours = 24.0
    air_gap: bool = False
    cartridge_l: Annotated[float, Field(gt=0, le=1e9)] | None = None

    @model_validator(mode="after")
    def from_another_vessel(self) -> "SteadyInflow":
        if self.kind == "mains" and self.draws_from is not None:
            raise fault("no draws_from for mains: they bring their water from elsewhere")
        _from_another_vessel(self.draws_from, self.fills)
        return self


def _from_another_vessel(draws_from: str | None, fills: str) -> None:
    if draws_from == fills:
        raise fault("a draws_from other than the vessel it fills")


Inflow = Annotated[
    SpringInflow | RainInflow | PumpInflow | RamInflow | HaulInflow | SteadyInflow, Field(discriminator="kind")
]


class Weather(Part):
    """Rain [mm] and temperatures [°C] day by day from a day on; `source` says where they come from."""

    from_: Annotated[Day, Field(alias="from")]
    rain_mm: Annotated[list[Annotated[float, Field(ge=0, le=2_000)]], Field(min_length=1, max_length=15_000)]
    most_c: Annotated[list[Annotated[float, Field(ge=-60, le=60)]], Field(max_length=15_000)] = Field(
        default_factory=list
    )
    least_c: Annotated[list[Annotated[float, Field(ge=-60, le=60)]], Field(max_length=15_000)] = Field(
        default_factory=list
    )
    source: Annotated[str, Field(max_length=200, pattern=TEXT_PATTERN)] = ""

    @model_validator(mode="after")
    def of_one_length(self) -> "Weather":
        days = len(self.rain_mm)
        if any(series and len(series) != days for series in (self.most_c, self.least_c)):
            raise fault(f"temperatures for each of the {days} days of rain, or none")
        if self.least_c and not self.most_c:
            raise fault("most_c where least_c is given")
        return self


class SeasonPlan(Part):
    """The daily series on which the store is run, and the share of days that is to be met."""

    weather: Weather
    wanted_share: Annotated[float, Field(gt=0, lt=1)] = 0.99
