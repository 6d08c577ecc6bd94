"""Lines of pipe: what they are made of, and what sits in them."""

from itertools import pairwise
from typing import Annotated, Literal

from pydantic import Field, ValidationInfo, field_validator, model_validator

from leadsman.core.base.pattern import TEXT_PATTERN
from leadsman.core.design.base import (
    Assumed,
    BoreMm,
    FlowLpm,
    Id,
    Kv,
    Length,
    LossCoefficient,
    Name,
    Part,
    Plan,
    PressureKpa,
    RoughnessMm,
    fault,
)

LENGTH_AGREES_WITHIN = 0.01


class Fitting(Part):
    """A fitting by catalogue name and count, or by its own K; K is on `bore_mm` where that is given."""

    product: Id | None = None
    count: Annotated[int, Field(ge=1, le=10_000)] = 1
    k: LossCoefficient | None = None
    bore_mm: BoreMm | None = None

    @model_validator(mode="after")
    def named_or_numbered(self) -> "Fitting":
        if (self.product is None) == (self.k is None):
            raise fault("either product or k")
        return self


class InlinePart(Part):
    """A part in the line at a distance from its start; it adds loss only by its own k or kv_m3h.

    `product` is what it is bought as.
    """

    kind: Literal["check_valve", "isolating_valve", "filter", "reducer", "vent", "drain", "tap_point"]
    at_m: Annotated[float, Field(ge=0, le=100_000)]
    product: Id | None = None
    k: LossCoefficient | None = None
    kv_m3h: Kv | None = None
    outlet_kpa: PressureKpa | None = None

    @model_validator(mode="after")
    def a_reducer_has_a_setting(self) -> "InlinePart":
        if (self.kind == "reducer") != (self.outlet_kpa is not None):
            raise fault("outlet_kpa for a reducer, and for nothing else")
        return self


class Crossing(Part):
    """Where a line passes under a track or a gateway: from a distance along it, so wide [m]."""

    at_m: Annotated[float, Field(ge=0, le=100_000)]
    wide_m: Annotated[float, Field(gt=0, le=500)]
    name: Name | None = None


class Pump(Part):
    """A pump at the start of a line: head against flow as measured, or a flow it gives whatever the head."""

    curve: (
        Annotated[list[Annotated[list[float], Field(min_length=2, max_length=2)]], Field(min_length=2, max_length=100)]
        | None
    ) = None
    flow_lpm: FlowLpm | None = None

    @field_validator("curve")
    @classmethod
    def falls_with_flow(cls, curve: list[list[float]] | None) -> list[list[float]] | None:
        if curve is None:
            return curve
        falls = all(a[0] < b[0] and a[1] > b[1] for a, b in pairwise(curve))
        if not falls or curve[0][0] < 0 or curve[-1][1] < 0 or curve[-1][0] > 100_000 or curve[0][1] > 10_000:
            raise fault("[flow_lpm, head_m] pairs of 0 or more, flows rising and heads falling")
        return curve

    @model_validator(mode="after")
    def by_curve_or_flow(self) -> "Pump":
        if (self.curve is None) == (self.flow_lpm is None):
            raise fault("either curve or flow_lpm")
        return self


class Run(Part):
    """One product over part of a line."""

    product: Id
    length_m: Length


class Line(Part):
    """Pipe between two places, with surveyed points along it.

    `way` are the corners of its way on the plan, [east, north] in m, between its ends; straight where there are none.
    `assumed` names figures that are a default which nobody has confirmed.
    `points_error_m` is the half-width of the error of the points between the ends, `points_from` where they come from.
    `tap_every_m` is how far apart taps are wanted along it beside those of the plan, with one at each join and its end.
    `crossings` are where it lies in a sleeve under a track; `lagging_mm` is how thick the foam around it is; `empties`
    tells that it runs empty whenever it is not in use, as a sloping draw-off pipe with its tap at the top.
    """

    id: Id
    name: Name | None = None
    from_: Annotated[Id, Field(alias="from")]
    to: Id
    product: Id | None = None
    bore_mm: BoreMm | None = None
    roughness_mm: RoughnessMm | None = None
    hazen_williams_c: Annotated[float, Field(ge=40, le=180)] = 150.0
    runs: Annotated[list[Run], Field(max_length=100)] = Field(default_factory=list)
    length_m: Length | None = None
    points: Annotated[list[Annotated[list[float], Field(min_length=2, max_length=2)]], Field(max_length=10_000)] = (
        Field(default_factory=list)
    )
    way: Annotated[list[Annotated[list[Plan], Field(min_length=2, max_length=2)]], Field(max_length=2_000)] = Field(
        default_factory=list
    )
    points_error_m: Annotated[float, Field(ge=0, le=500)] | None = None
    points_from: Annotated[str, Field(max_length=60, pattern=TEXT_PATTERN)] | None = None
    cover_m: Annotated[float, Field(ge=-20, le=20)] = 0.0
    lagging_mm: Annotated[float, Field(ge=0, le=200)] = 0.0
    empties: bool = False
    tap_every_m: Annotated[float, Field(ge=5, le=2_000)] | None = None
    fittings: Annotated[list[Fitting], Field(max_length=1_000)] = Field(default_factory=list)
    crossings: Annotated[list[Crossing], Field(max_length=100)] = Field(default_factory=list)
    inline: Annotated[list[InlinePart], Field(max_length=1_000)] = Field(default_factory=list)
    pump: Pump | None = None
    siphon: bool = False
    shut: bool = False
    assumed: Assumed = Field(default_factory=list)

    @property
    def pipe_length_m(self) -> float:
        """True length of the pipe [m]."""
        return sum(run.length_m for run in self.runs) if self.length_m is None else self.length_m

    @field_validator("points")
    @classmethod
    def along_the_pipe(cls, points: list[list[float]], info: ValidationInfo) -> list[list[float]]:
        runs, length = info.data.get("runs", []), info.data.get("length_m")
        length = sum(run.length_m for run in runs) if length is None else length
        if not points or not length:
            return points
        rises = all(a[0] < b[0] for a, b in pairwise(points))
        if len(points) < 2 or points[0][0] != 0 or not rises:
            raise fault("two or more, the first at 0, distances rising")
        if abs(points[-1][0] - length) > LENGTH_AGREES_WITHIN * length:
            raise fault(f"the last within 1 % of the pipe's length of {length:g} m")
        if not all(-500 <= ground <= 9_000 for _, ground in points):
            raise fault("ground heights from -500 to 9000 m")
        return points

    @model_validator(mode="after")
    def made_of_something(self) -> "Line":
        if self.runs:
            if self.product or self.bore_mm or self.roughness_mm is not None:
                raise fault("runs instead of product, bore_mm and roughness_mm, not beside them")
            total = sum(run.length_m for run in self.runs)
            if self.length_m is not None and abs(total - self.length_m) > LENGTH_AGREES_WITHIN * self.length_m:
                raise fault("runs whose lengths add up to length_m within 1 %")
        elif self.length_m is None or (self.product is None and (self.bore_mm is None or self.roughness_mm is None)):
            raise fault("length_m with a product or with bore_mm and roughness_mm; or runs")
        if any(part.at_m > self.pipe_length_m for part in self.inline):
            raise fault("inline parts within the pipe's length")
        if any(crossing.at_m >= self.pipe_length_m for crossing in self.crossings):
            raise fault("crossings that begin within the pipe's length")
        return self
