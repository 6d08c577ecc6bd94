"""The design document: one JSON object that describes a site and what is laid on it.

Keys carry their unit. The models are strict: a string is not a number, an unknown key is refused,
NaN and infinity are refused. `read_design` in `design_file` is the door; these classes are its shapes.
"""

from itertools import pairwise
from typing import Annotated, Literal

from pydantic import (
    BaseModel,
    ConfigDict,
    Field,
    ModelWrapValidatorHandler,
    ValidationError,
    ValidationInfo,
    field_validator,
    model_validator,
)
from pydantic_core import ErrorDetails, InitErrorDetails, PydanticCustomError

from leadsman.core.references import reference_errors

LENGTH_AGREES_WITHIN = 0.01

ID_PATTERN = r"^[a-z0-9][a-z0-9._-]{0,63}$"
DATE_PATTERN = r"^\d{4}-\d{2}-\d{2}$"

Id = Annotated[str, Field(pattern=ID_PATTERN)]
Name = Annotated[str, Field(min_length=1, max_length=120)]
Ground = Annotated[float, Field(ge=-500, le=9_000)]
Plan = Annotated[float, Field(ge=-1e7, le=1e7)]
Length = Annotated[float, Field(gt=0, le=100_000)]
Dimension = Annotated[float, Field(gt=0, le=1_000)]
BoreMm = Annotated[float, Field(ge=1, le=2_000)]
RoughnessMm = Annotated[float, Field(ge=0, le=50)]
LossCoefficient = Annotated[float, Field(ge=0, le=100_000)]
Kv = Annotated[float, Field(gt=0, le=10_000)]
FlowLpm = Annotated[float, Field(ge=0, le=100_000)]
PressureKpa = Annotated[float, Field(ge=0, le=10_000)]


class Part(BaseModel):
    """Base of everything in the document."""

    model_config = ConfigDict(strict=True, extra="forbid", frozen=True, allow_inf_nan=False)


class Site(Part):
    """The farm: heights above one datum, altitude for air pressure, water temperature for friction."""

    name: Name
    altitude_m: Annotated[float, Field(ge=-500, le=5_000)] = 0.0
    water_c: Annotated[float, Field(ge=0, le=60)] = 10.0
    note: Annotated[str, Field(max_length=500)] = ""


class Place(Part):
    """A named point on the ground; with `draw_lpm`, a fixed draw there."""

    id: Id
    name: Name | None = None
    east_m: Plan
    north_m: Plan
    ground_m: Ground
    height_error_m: Annotated[float, Field(ge=0, le=500)] | None = None
    height_from: Annotated[str, Field(max_length=60)] | None = None
    draw_lpm: FlowLpm = 0.0


class UprightCylinderShape(Part):
    kind: Literal["upright_cylinder"]
    diameter_m: Dimension
    height_m: Dimension


class BoxShape(Part):
    kind: Literal["box"]
    length_m: Dimension
    width_m: Dimension
    height_m: Dimension


class LyingCylinderShape(Part):
    kind: Literal["lying_cylinder"]
    diameter_m: Dimension
    length_m: Dimension


class FrustumShape(Part):
    kind: Literal["frustum"]
    bottom_diameter_m: Dimension
    top_diameter_m: Dimension
    height_m: Dimension


class StageVolumeShape(Part):
    """`stages` is [level in m, volume in L], both rising from [0, 0]."""

    kind: Literal["stage_volume"]
    stages: Annotated[
        list[Annotated[list[float], Field(min_length=2, max_length=2)]], Field(min_length=2, max_length=500)
    ]

    @field_validator("stages")
    @classmethod
    def rising_from_nothing(cls, stages: list[list[float]]) -> list[list[float]]:
        rises = all(a[0] < b[0] and a[1] < b[1] for a, b in pairwise(stages))
        if stages[0] != [0, 0] or not rises:
            raise fault("[0, 0] first, then level and volume both rising")
        return stages


VesselShape = Annotated[
    UprightCylinderShape | BoxShape | LyingCylinderShape | FrustumShape | StageVolumeShape, Field(discriminator="kind")
]


def shape_height_m(shape: VesselShape) -> float:
    """Return the inside height [m] of a shape, floor to rim."""
    if isinstance(shape, LyingCylinderShape):
        return shape.diameter_m
    return shape.stages[-1][0] if isinstance(shape, StageVolumeShape) else shape.height_m


class Vessel(Part):
    """Any body of water at a place; levels are above its own floor."""

    id: Id
    name: Name | None = None
    role: Literal["tank", "trough", "pond", "chamber", "bucket_row"] = "tank"
    place: Id
    shape: VesselShape
    count: Annotated[int, Field(ge=1, le=1_000)] = 1
    stand_m: Annotated[float, Field(ge=-50, le=100)] = 0.0
    overflow_m: Annotated[float, Field(gt=0, le=100)] | None = None
    outlet_m: Annotated[float, Field(ge=0, le=100)] = 0.0
    level_m: Annotated[float, Field(ge=0, le=100)]

    @property
    def brim_m(self) -> float:
        """Highest level [m] the vessel holds: its overflow, or its rim where none is given."""
        return shape_height_m(self.shape) if self.overflow_m is None else self.overflow_m

    @field_validator("overflow_m", "outlet_m", "level_m")
    @classmethod
    def inside_the_shape(cls, value: float | None, info: ValidationInfo) -> float | None:
        shape, overflow = info.data.get("shape"), info.data.get("overflow_m")
        if value is None or shape is None:
            return value
        top = shape_height_m(shape) if overflow is None else overflow
        if value > top:
            raise fault(f"at most {top:g} m, the {'rim' if overflow is None else 'overflow'}")
        return value


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
    """A part in the line at a distance from its start; it adds loss only by its own k or kv_m3h."""

    kind: Literal["check_valve", "isolating_valve", "filter", "reducer", "vent", "drain", "tap_point"]
    at_m: Annotated[float, Field(ge=0, le=100_000)]
    k: LossCoefficient | None = None
    kv_m3h: Kv | None = None
    outlet_kpa: PressureKpa | None = None


class Run(Part):
    """One product over part of a line."""

    product: Id
    length_m: Length


class Line(Part):
    """Pipe between two places, with surveyed points along it."""

    id: Id
    name: Name | None = None
    from_: Annotated[Id, Field(alias="from")]
    to: Id
    product: Id | None = None
    bore_mm: BoreMm | None = None
    roughness_mm: RoughnessMm | None = None
    hazen_williams_c: Annotated[float, Field(ge=40, le=180)] = 150.0
    runs: Annotated[list[Run], Field(max_length=100)] = []
    length_m: Length | None = None
    points: Annotated[list[Annotated[list[float], Field(min_length=2, max_length=2)]], Field(max_length=10_000)] = []
    cover_m: Annotated[float, Field(ge=-20, le=20)] = 0.0
    fittings: Annotated[list[Fitting], Field(max_length=1_000)] = []
    inline: Annotated[list[InlinePart], Field(max_length=1_000)] = []
    siphon: bool = False
    shut: bool = False

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
        return self


class ValveData(Part):
    """A float valve: Kv fully open, closing level above its vessel's floor, band, pressures it works at."""

    kv_m3h: Kv
    closes_at_m: Annotated[float, Field(gt=0, le=100)]
    band_m: Annotated[float, Field(gt=0, le=10)]
    min_pressure_kpa: PressureKpa = 0.0
    max_pressure_kpa: PressureKpa | None = None


class OutletBase(Part):
    id: Id
    name: Name | None = None
    place: Id
    height_m: Annotated[float, Field(ge=-50, le=100)] = 0.0
    fills: Id | None = None
    shut: bool = False


class FloatValveOutlet(OutletBase):
    kind: Literal["float_valve"]
    valve: ValveData


class OpenEndOutlet(OutletBase):
    kind: Literal["open_end"]
    bore_mm: BoreMm | None = None


class FixedOutlet(OutletBase):
    kind: Literal["fixed"]
    flow_lpm: FlowLpm
    min_pressure_kpa: PressureKpa = 0.0


class EmitterOutlet(OutletBase):
    kind: Literal["emitter"]
    flow_lpm: Annotated[float, Field(gt=0, le=100_000)]
    pressure_kpa: Annotated[float, Field(gt=0, le=10_000)]
    exponent: Annotated[float, Field(gt=0, le=1)] = 0.5


Outlet = Annotated[FloatValveOutlet | OpenEndOutlet | FixedOutlet | EmitterOutlet, Field(discriminator="kind")]


class Herd(Part):
    """Animals of one class that drink at one outlet; `intake_lpd` is the user's own litres a head a day."""

    id: Id
    name: Name | None = None
    animal: Annotated[str, Field(alias="class", min_length=1, max_length=60)]
    head: Annotated[int, Field(ge=0, le=1_000_000)]
    weight_kg: Annotated[float, Field(gt=0, le=2_000)]
    outlet: Id
    intake_lpd: Annotated[float, Field(gt=0, le=500)] | None = None


class Timing(Part):
    """A container filled by a source: litres and seconds."""

    volume_l: Annotated[float, Field(gt=0, le=100_000)]
    time_s: Annotated[float, Field(gt=0, le=864_000)]
    date: Annotated[str, Field(pattern=DATE_PATTERN)] | None = None


class SpringInflow(Part):
    """A spring or intake that fills a vessel; its flow is what the slowest timing says."""

    id: Id
    name: Name | None = None
    kind: Literal["spring"]
    fills: Id
    timings: Annotated[list[Timing], Field(min_length=1, max_length=1_000)]


class Scenario(Part):
    """A case to judge: here the temperature of the air."""

    id: Id
    name: Name | None = None
    air_c: Annotated[float, Field(ge=-40, le=50)]


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


class Design(Part):
    """One laid-out system on one site."""

    format: Literal["leadsman-design"]
    version: Literal[1]
    name: Name
    site: Site
    places: Annotated[list[Place], Field(min_length=1, max_length=50_000)]
    vessels: Annotated[list[Vessel], Field(max_length=10_000)] = []
    lines: Annotated[list[Line], Field(max_length=50_000)] = []
    outlets: Annotated[list[Outlet], Field(max_length=10_000)] = []
    herds: Annotated[list[Herd], Field(max_length=1_000)] = []
    inflows: Annotated[list[SpringInflow], Field(max_length=1_000)] = []
    scenarios: Annotated[list[Scenario], Field(max_length=1_000)] = []
    requirements: Annotated[list[Requirement], Field(max_length=10_000)] = []
    shown_for: Id | None = None

    @model_validator(mode="wrap")
    @classmethod
    def with_references(cls, value: object, handler: ModelWrapValidatorHandler["Design"]) -> "Design":
        """Check references on the raw document beside the fields, so that one report lists every fault."""
        broken = reference_errors(value) if isinstance(value, dict) else []
        try:
            design = handler(value)
        except ValidationError as error:
            fields = [_again(details) for details in error.errors(include_url=False)]
            raise ValidationError.from_exception_data("design", fields + broken) from None
        if broken:
            raise ValidationError.from_exception_data("design", broken)
        return design


def _again(details: ErrorDetails) -> InitErrorDetails:
    """Return a field error in the form that a new report takes."""
    context = details.get("ctx", {})
    kind = details["type"]
    return InitErrorDetails(
        type=PydanticCustomError("not_allowed", "{allowed}", context) if kind == "not_allowed" else kind,
        loc=details["loc"],
        input=details["input"],
        ctx=context,
    )


def fault(allowed: str) -> PydanticCustomError:
    """Return the error that a validator raises: `design_file` turns it into a Fault."""
    return PydanticCustomError("not_allowed", "{allowed}", {"allowed": allowed})


def label(part: Place | Vessel | Line | OutletBase | Herd | SpringInflow | Scenario) -> str:
    """Return the part's name for people: its name, or its id where it has none."""
    return part.name or part.id
