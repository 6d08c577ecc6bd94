"""The whole document."""

from typing import Annotated, Literal

from pydantic import Field, ModelWrapValidatorHandler, ValidationError, model_validator
from pydantic_core import ErrorDetails, InitErrorDetails, PydanticCustomError

from leadsman.core.catalogue import PipeProduct, pipe_product
from leadsman.core.design.base import Id, Name, Part
from leadsman.core.design.dosing import Dosing
from leadsman.core.design.event import DayEvent, EventBase
from leadsman.core.design.frost import Frost
from leadsman.core.design.grazing import Paddock, Rotation
from leadsman.core.design.growing import Crop, Timer
from leadsman.core.design.herd import Herd
from leadsman.core.design.inflow import Inflow, InflowBase, SeasonPlan
from leadsman.core.design.line import Line
from leadsman.core.design.outlet import Outlet, OutletBase
from leadsman.core.design.pond import PondLoss
from leadsman.core.design.pressure_source import PressureSource, PressureSourceBase
from leadsman.core.design.price import Costs, Price
from leadsman.core.design.reference import reference_errors
from leadsman.core.design.site import Place, Site
from leadsman.core.design.sizing import Sizing
from leadsman.core.design.standby import Standby
from leadsman.core.design.survey import Distance, LevelBook, PaceCount, Sight
from leadsman.core.design.upgrade import upgraded
from leadsman.core.design.use import Draw, MeasuredStem, Requirement, Scenario, ShedItem
from leadsman.core.design.vessel import Vessel


class Design(Part):
    """One laid-out system on one site."""

    format: Literal["leadsman-design"]
    version: Literal[1]
    name: Name
    site: Site
    places: Annotated[list[Place], Field(min_length=1, max_length=50_000)]
    vessels: Annotated[list[Vessel], Field(max_length=10_000)] = Field(default_factory=list)
    lines: Annotated[list[Line], Field(max_length=50_000)] = Field(default_factory=list)
    pressure_sources: Annotated[list[PressureSource], Field(max_length=200)] = Field(default_factory=list)
    outlets: Annotated[list[Outlet], Field(max_length=10_000)] = Field(default_factory=list)
    herds: Annotated[list[Herd], Field(max_length=1_000)] = Field(default_factory=list)
    paddocks: Annotated[list[Paddock], Field(max_length=2_000)] = Field(default_factory=list)
    calendar: Annotated[list[Rotation], Field(max_length=2_000)] = Field(default_factory=list)
    crops: Annotated[list[Crop], Field(max_length=1_000)] = Field(default_factory=list)
    timers: Annotated[list[Timer], Field(max_length=200)] = Field(default_factory=list)
    dosings: Annotated[list[Dosing], Field(max_length=200)] = Field(default_factory=list)
    ponds: Annotated[list[PondLoss], Field(max_length=1_000)] = Field(default_factory=list)
    standbys: Annotated[list[Standby], Field(max_length=50)] = Field(default_factory=list)
    inflows: Annotated[list[Inflow], Field(max_length=1_000)] = Field(default_factory=list)
    draws: Annotated[list[Draw], Field(max_length=10_000)] = Field(default_factory=list)
    events: Annotated[list[DayEvent], Field(max_length=200)] = Field(default_factory=list)
    scenarios: Annotated[list[Scenario], Field(max_length=1_000)] = Field(default_factory=list)
    requirements: Annotated[list[Requirement], Field(max_length=10_000)] = Field(default_factory=list)
    shed: Annotated[list[ShedItem], Field(max_length=2_000)] = Field(default_factory=list)
    prices: Annotated[list[Price], Field(max_length=5_000)] = Field(default_factory=list)
    costs: Costs | None = None
    stems: Annotated[list[MeasuredStem], Field(max_length=2_000)] = Field(default_factory=list)
    books: Annotated[list[LevelBook], Field(max_length=200)] = Field(default_factory=list)
    sights: Annotated[list[Sight], Field(max_length=1_000)] = Field(default_factory=list)
    distances: Annotated[list[Distance], Field(max_length=5_000)] = Field(default_factory=list)
    pace: PaceCount | None = None
    bench: Id | None = None
    season: SeasonPlan | None = None
    frost: Frost | None = None
    sizing: Sizing | None = None
    shown_for: Id | None = None
    own_pipes: Annotated[list[PipeProduct], Field(max_length=200)] = Field(default_factory=list)

    def pipe(self, product_id: str, path: str = "") -> PipeProduct:
        """Return a pipe product, the document's own before the catalogue's.

        Raises:
            UnknownName: neither has one of that id.
        """
        return pipe_product(product_id, path, self.own_pipes)

    @model_validator(mode="wrap")
    @classmethod
    def with_references(cls, value: object, handler: ModelWrapValidatorHandler["Design"]) -> "Design":
        """Check references on the raw document beside the fields, so that one report lists every fault."""
        if isinstance(value, dict):
            try:
                value = upgraded(value)
            except PydanticCustomError as newer:
                told = InitErrorDetails(type=newer, loc=("version",), input=value["version"])
                raise ValidationError.from_exception_data("design", [told]) from None
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


def label(
    part: Place
    | Vessel
    | Line
    | OutletBase
    | Herd
    | Paddock
    | InflowBase
    | Scenario
    | Crop
    | Timer
    | Dosing
    | Standby
    | EventBase
    | PressureSourceBase,
) -> str:
    """Return the part's name for people: its name, or its id where it has none."""
    return part.name or part.id


def labels(design: Design) -> dict[str, str]:
    """Return what the places, vessels, lines, outlets and sources of a design are called, by their ids."""
    named = (design.places, design.vessels, design.lines, design.outlets, design.inflows, design.pressure_sources)
    return {part.id: label(part) for parts in named for part in parts}
