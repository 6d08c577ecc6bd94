"""Bodies of requests and answers that are not the core's own reports."""

from datetime import datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from flask_openapi3.models.file import FileStorage
from pydantic import BaseModel, ConfigDict, Field, GetJsonSchemaHandler
from pydantic.json_schema import JsonSchemaValue
from pydantic_core import CoreSchema

from leadsman.core.base.pattern import DATE_PATTERN
from leadsman.core.catalogue import FittingProduct, FloatValveProduct, PartProduct, PipeProduct, VesselProduct
from leadsman.core.catalogue.product import ProductId, Table
from leadsman.core.design import Design, Fitting, InlinePart, Weather
from leadsman.core.design.edit import Edit
from leadsman.core.report.background import Pin
from leadsman.core.report.glance import GlanceReport
from leadsman.core.survey.pinning import MOST_PINS
from leadsman.formats.exporting import Export
from leadsman.formats.importing import ImportAsked
from leadsman.formats.relief_reader import ReliefAsked
from leadsman.services.weather import Climate, Failure


class Schema(BaseModel):
    """Base of the API's own bodies."""

    model_config = ConfigDict(extra="forbid")


class _DescribedAsDesign:
    """Describes parsed JSON as that of a design, for what checks it later."""

    @classmethod
    def __get_pydantic_json_schema__(cls, _schema: CoreSchema, handler: GetJsonSchemaHandler) -> JsonSchemaValue:
        return handler(Design.__pydantic_core_schema__)


UncheckedDesign = Annotated[dict[str, Any], _DescribedAsDesign]


class FaultBody(Schema):
    """One thing wrong: where (JSON pointer into the body), what was found, what is allowed."""

    code: str
    path: str
    value: str
    limit: str
    message: str


class Problem(Schema):
    """Why a request was refused."""

    code: str
    message: str
    faults: list[FaultBody] = []


class DesignPath(Schema):
    design_id: UUID


class RevisionPath(Schema):
    design_id: UUID
    number: int = Field(ge=1)


class NewDesign(Schema):
    """A design to keep as revision 1."""

    document: Design


class Analyse(Schema):
    """A design to judge; nothing is kept."""

    document: Design


class AskEdit(Schema):
    """A design, and what is to be changed in it: it is checked after that."""

    document: UncheckedDesign
    edits: list[Edit] = Field(min_length=1, max_length=200)


class NewSite(Schema):
    """A site to begin with: its name, what the water starts from, what that is called, and the ground there."""

    site: str = Field(min_length=1, max_length=120)
    start: Literal["tank", "spring box", "pond"]
    name: str = Field(min_length=1, max_length=120)
    ground_m: float = Field(ge=-500, le=9_000)


class EditedBody(Schema):
    """A design after its edits, the ids of the parts that the last one made, and what is to be told of them."""

    document: Design
    made: list[str]
    notes: list[str]


class AskPreview(Schema):
    """A design that is being changed, the number of this request, and the outlet whose way is shown.

    `edits` are made in it before it is checked. `air` are the points that stood open to air in the answer before: with
    them this one comes sooner, and is the same.
    """

    document: UncheckedDesign
    number: int = Field(ge=0)
    edits: list[Edit] = Field(default=[], max_length=200)
    air: list[tuple[str, int]] = Field(default=[], max_length=10_000)
    outlet: str | None = None


class AskCourse(Schema):
    """A design, and the two nodes between which its lines are followed."""

    document: Design
    start: str
    end: str


class AskRemedies(Schema):
    """A design, and one finding of it by its code and place."""

    document: Design
    code: str
    where: str


class AskPipes(Schema):
    """A design, one of its lines, and pipes of the user's own to be laid beside the catalogue's."""

    document: Design
    line: str
    own: list[PipeProduct] = Field(default=[], max_length=500)


class AskValves(Schema):
    """A design, one of its float valves, and valves of the user's own to be laid beside the catalogue's."""

    document: Design
    outlet: str
    own: list[FloatValveProduct] = Field(default=[], max_length=500)


class FitInLine(Schema):
    """A design, one of its lines, and a fitting or a part that is to sit in it, of the catalogue or the user's own."""

    document: Design
    line: str
    fitting: FittingProduct | None = None
    part: PartProduct | None = None


class Fitted(Schema):
    """The same as a design holds it: what it takes brought to the line's bore."""

    fitting: Fitting | None = None
    part: InlinePart | None = None


class CompareSchools(Schema):
    """A design, and the outlet whose valve is to be compared with a smaller and a larger one."""

    document: Design
    outlet: str


class Save(Schema):
    """A document edited from a revision, and what the one who saves it calls himself."""

    base_number: int = Field(ge=1)
    document: Design
    saved_by: str = Field(default="", max_length=60)


class DesignHeading(Schema):
    id: UUID
    site_name: str
    name: str
    number: int
    saved_at: datetime
    made_up: bool
    glance: GlanceReport | None


class DesignQuery(Schema):
    """A page of the list: how long it is, and after which design it begins, by when that was saved, and its id."""

    length: int = Field(default=50, ge=1, le=200)
    saved_before: datetime | None = None
    after_id: UUID | None = None


class DesignList(Schema):
    """A page of the designs, last saved first, and how many there are in all."""

    designs: list[DesignHeading]
    count: int


class Revision(Schema):
    """One saved document."""

    design_id: UUID
    number: int
    parent_number: int | None
    standing: Literal["kept", "sibling"]
    saved_at: datetime
    saved_by: str = ""
    label: str = ""
    document: Design


class RevisionHeadingBody(Schema):
    number: int
    parent_number: int | None
    standing: Literal["kept", "sibling"]
    saved_at: datetime
    saved_by: str
    label: str


class RevisionLabel(Schema):
    """What a revision is called; nothing where it has no name."""

    label: str = Field(max_length=120)


class RevisionList(Schema):
    """A design's revisions, newest first."""

    revisions: list[RevisionHeadingBody]


class SavedBody(Schema):
    """The number under which the document was kept."""

    number: int


class Conflict(Schema):
    """Somebody saved first: both versions are kept, the other one is the head."""

    code: Literal["stale"]
    message: str
    kept_as: int
    head: Revision


class PipeProductBody(Schema):
    """A pipe as the interface shows it; `product` is its row, as a design takes it among its own.

    `outside_mm` is its outer diameter where people call it by that.
    """

    id: str
    name: str
    outside_mm: float | None
    family: str
    bore_mm: float
    roughness_mm: float
    class_kpa: float | None
    price_per_m: float | None
    own: bool
    source: str
    product: PipeProduct


class AnimalBody(Schema):
    """A class of animal that a herd may name."""

    name: str
    species: str
    needs_weight: bool
    gives_milk: bool


class DefaultsBody(Schema):
    """What a design takes where it says nothing: water of a site, air of a case and beside a barometer [°C].

    `pipe`, `reach_flow_lpm` and `reach_needs_m` are what the reach of a source is asked for with to begin with.
    """

    water_c: float
    air_c: float
    reading_air_c: float
    pipe: str
    reach_flow_lpm: float
    reach_needs_m: float


class CatalogueBody(Schema):
    """`unread` names rows of the users' own that an earlier version took, and this one cannot read; they are kept."""

    pipes: list[PipeProductBody]
    fittings: list[FittingProduct]
    parts: list[PartProduct]
    float_valves: list[FloatValveProduct]
    vessels: list[VesselProduct]
    sources: dict[str, str]
    unread: list[str]
    animals: list[AnimalBody]
    defaults: DefaultsBody


class TablePath(Schema):
    table: Table


class ProductPath(Schema):
    table: Table
    product_id: ProductId


class OwnProduct(Schema):
    """A row of one's own for a table of the catalogue."""

    product: dict[str, str | float | None]


class OwnTable(Schema):
    """Rows of one's own as the text of a CSV table."""

    csv: Annotated[str, Field(max_length=500_000)]


class KeptProducts(Schema):
    """The names under which rows were kept."""

    product_ids: list[str]


class Health(Schema):
    status: Literal["up"]
    database: bool


class CompareYears(Schema):
    """Two designs, a year of each to be told."""

    document: Design
    other: Design


class AskWeather(Schema):
    """Made-up weather of whole years: a climate, a seed, which year is dry, which has a hot spell, how it fails."""

    climate: Climate
    since: str = Field(pattern=DATE_PATTERN)
    years: int = Field(ge=1, le=40)
    seed: int = Field(ge=0, le=2**31)
    drought_year: int | None = Field(default=None, ge=1, le=40)
    hot_spell_year: int | None = Field(default=None, ge=1, le=40)
    failure: Failure | None = None


class WeatherTable(Schema):
    """Daily weather as comma-separated values, and what to call where it comes from."""

    text: str
    name: str = Field(default="", max_length=200)


class ImportForm(Schema):
    """A file of surveyed things, and what its user says of it."""

    model_config = ConfigDict(extra="forbid", arbitrary_types_allowed=True)

    file: FileStorage
    asked: ImportAsked


class AskProfile(Schema):
    """A design, and the line whose surveyed points are to be filled from the height service."""

    document: Design
    line: str


class ExportAsked(Schema):
    document: Design
    kind: Export


class ReliefForm(Schema):
    """A grid of heights, and what its user says of it."""

    model_config = ConfigDict(extra="forbid", arbitrary_types_allowed=True)

    file: FileStorage
    asked: ReliefAsked


class Pins(Schema):
    """The points that pin a picture."""

    pins: list[Pin] = Field(min_length=2, max_length=MOST_PINS)


class PictureForm(Schema):
    """A picture, and the points that pin it."""

    model_config = ConfigDict(extra="forbid", arbitrary_types_allowed=True)

    file: FileStorage
    pinned: Pins


class AskReach(Schema):
    """A source, the flow wanted at the end, the pipe, and the head that is needed over the ground there."""

    document: Design
    vessel: str
    product: str
    flow_lpm: float = Field(gt=0, le=10_000)
    needs_m: float = Field(ge=0, le=500)


class AskGround(Schema):
    """Spots of the plan, east and north [m]."""

    spots: list[tuple[float, float]] = Field(min_length=1, max_length=2_000)


class GroundBody(Schema):
    """The ground at each of some spots [m on the plan's datum]; null where the height model knows none."""

    ground_m: list[float | None]


class WeatherBody(Schema):
    weather: Weather
