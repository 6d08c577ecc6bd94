"""Heights and distances as people measure them: level books, sights of every way, counted lengths."""

from itertools import pairwise
from typing import Annotated, Literal

from pydantic import Field, model_validator

from leadsman.core.design.base import Dimension, Ground, Id, Length, Name, Part, fault

Staff = Annotated[float, Field(ge=-1, le=10)]
Error = Annotated[float, Field(gt=0, le=500)]
Count = Annotated[float, Field(gt=0, le=100_000)]
Datum = Literal["site", "differences"]


class StaffReading(Part):
    """A point of a level book: a place of the design or any other, with what was read on the staff there.

    `back_m` is read towards a point whose height is known, `fore_m` to one before the level moves, `mid_m` between.
    """

    place: Id | None = None
    name: Name | None = None
    back_m: Staff | None = None
    mid_m: Staff | None = None
    fore_m: Staff | None = None

    @model_validator(mode="after")
    def read_once(self) -> "StaffReading":
        if (self.mid_m is None) == (self.back_m is None and self.fore_m is None):
            raise fault("a mid_m alone, or a back_m, a fore_m, or both")
        return self


class LevelBook(Part):
    """Readings of a builder's level and a staff in their order, from a point of known height on.

    `length_km` is the way walked there and back, by which the misclosure that is let pass grows.
    """

    id: Id
    name: Name | None = None
    readings: Annotated[list[StaffReading], Field(max_length=2_000)] = Field(default_factory=list)
    length_km: Annotated[float, Field(gt=0, le=1_000)] | None = None

    @model_validator(mode="after")
    def can_be_reduced(self) -> "LevelBook":
        for number, reading in enumerate(self.readings):
            first, last = number == 0, number == len(self.readings) - 1
            if first and (reading.back_m is None or reading.fore_m is not None):
                raise fault("a first reading that is a back_m alone")
            if not first and not last and reading.fore_m is not None and reading.back_m is None:
                raise fault(f"a back_m beside the fore_m of reading {number + 1}: a turning point there")
            if not first and reading.back_m is not None and reading.fore_m is None:
                raise fault(f"a fore_m beside the back_m of reading {number + 1}")
        return self


class PaceCount(Part):
    """How long a pace is: paces counted over a known length, once or several times."""

    over_m: Length
    counts: Annotated[list[Count], Field(min_length=1, max_length=50)]


class SightBase(Part):
    """What every measured height has: an id and a name for people. What is not read yet is left out of it."""

    id: Id
    name: Name | None = None

    @property
    def is_read(self) -> bool:
        """Whether everything was read that it takes to say something."""
        return True


class BetweenPlaces(SightBase):
    """A measured rise from one place to another."""

    from_: Annotated[Id, Field(alias="from")]
    to: Id

    @model_validator(mode="after")
    def leads_somewhere(self) -> "BetweenPlaces":
        if self.from_ == self.to:
            raise fault("two places")
        return self


class HoseSetup(Part):
    """One set-up of a hose level: how high the water stands over the ground at the near and at the far end."""

    from_m: Annotated[float, Field(ge=-2, le=5)] | None = None
    to_m: Annotated[float, Field(ge=-2, le=5)] | None = None


class HoseLevelSight(BetweenPlaces):
    """A rise by a hose of water, in one or several set-ups one after the other; the error is of each."""

    kind: Literal["hose_level"]
    setups: Annotated[list[HoseSetup], Field(min_length=1, max_length=200)]
    error_each_m: Error | None = None

    @property
    def is_read(self) -> bool:
        return all(setup.from_m is not None and setup.to_m is not None for setup in self.setups)


class ClinometerLeg(Part):
    """A stretch of even slope: angle up from the near end, and its length along the ground, measured or in paces."""

    angle_deg: Annotated[float, Field(ge=-60, le=60)] | None = None
    slope_m: Length | None = None
    paces: Count | None = None

    @model_validator(mode="after")
    def measured_once(self) -> "ClinometerLeg":
        if self.slope_m is not None and self.paces is not None:
            raise fault("either slope_m or paces")
        return self


class ClinometerSight(BetweenPlaces):
    """A rise by angles and distances along the ground."""

    kind: Literal["clinometer"]
    legs: Annotated[list[ClinometerLeg], Field(min_length=1, max_length=200)]
    angle_error_deg: Annotated[float, Field(gt=0, le=20)] | None = None

    @property
    def is_read(self) -> bool:
        return all(leg.angle_deg is not None and (leg.slope_m or leg.paces) is not None for leg in self.legs)


class BarometerReading(Part):
    """What the instrument told at a place: minutes after the first reading, air pressure or the height it shows."""

    place: Id
    minute: Annotated[float, Field(ge=0, le=1_440)]
    pressure_hpa: Annotated[float, Field(ge=300, le=1_100)] | None = None
    height_m: Ground | None = None

    @model_validator(mode="after")
    def read_once(self) -> "BarometerReading":
        if self.pressure_hpa is not None and self.height_m is not None:
            raise fault("either pressure_hpa or height_m")
        return self


class BarometerSight(SightBase):
    """A walk with a barometer or an altimeter that ends where it began, so that the drift can be taken out."""

    kind: Literal["barometer"]
    readings: Annotated[list[BarometerReading], Field(min_length=3, max_length=500)]
    air_c: Annotated[float, Field(ge=-40, le=50)] = 15.0
    error_m: Error | None = None

    @model_validator(mode="after")
    def comes_back(self) -> "BarometerSight":
        if self.readings[0].place != self.readings[-1].place:
            raise fault("a walk that ends where it began")
        if any(a.minute >= b.minute for a, b in pairwise(self.readings)):
            raise fault("minutes that rise")
        if any(reading.pressure_hpa is not None for reading in self.readings) and any(
            reading.height_m is not None for reading in self.readings
        ):
            raise fault("pressures alone or heights alone")
        return self

    @property
    def is_read(self) -> bool:
        return all(reading.pressure_hpa is not None or reading.height_m is not None for reading in self.readings)


class HeightSight(SightBase):
    """A height read at one place from something that has a datum of its own: phone, contour map, height grid.

    Heights of one `source` hang together. `datum` says whether they are above the site's datum, or right among
    themselves only: then they are lifted or lowered together, by the places that they share with other ways.
    """

    kind: Literal["satellite", "contour", "grid"]
    place: Id
    height_m: Ground | None = None
    error_m: Error
    source: Name
    datum: Datum

    @property
    def is_read(self) -> bool:
        return self.height_m is not None


class TimedFlow(SightBase):
    """A pail held under an outlet that runs alone: a check of the head, not a height."""

    kind: Literal["timed_flow"]
    outlet: Id
    volume_l: Annotated[float, Field(gt=0, le=100_000)]
    time_s: Annotated[float, Field(gt=0, le=86_400)] | None = None
    time_error_s: Annotated[float, Field(gt=0, le=3_600)] | None = None

    @property
    def is_read(self) -> bool:
        return self.time_s is not None


Sight = Annotated[
    HoseLevelSight | ClinometerSight | BarometerSight | HeightSight | TimedFlow, Field(discriminator="kind")
]


class Distance(Part):
    """The length of a line as counted along the ground: pieces of one length, and what is left over.

    `posts` counts the spaces between fence posts, not the posts; `rolls` whole pipe rolls; `track` is a walked track's.
    """

    id: Id
    line: Id
    kind: Literal["posts", "rolls", "paces", "tape", "track"]
    count: Annotated[float, Field(ge=0, le=100_000)] = 0.0
    each_m: Dimension | None = None
    over_m: Annotated[float, Field(ge=0, le=100_000)] = 0.0

    @property
    def is_read(self) -> bool:
        """Whether what was counted makes a length: pieces whose length is known, or what is left over."""
        return self.over_m > 0.0 or (self.count > 0.0 and (self.kind == "paces" or self.each_m is not None))
