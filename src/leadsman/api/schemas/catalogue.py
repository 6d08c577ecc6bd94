"""The catalogue and rows of the users' own."""

from typing import Annotated

from pydantic import Field

from leadsman.api.schemas.base import Schema
from leadsman.core.catalogue import FittingProduct, FloatValveProduct, PartProduct, PipeProduct, VesselProduct
from leadsman.core.catalogue.product import ProductId, Table


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
    gives_milk: bool
    usual_kg: float


class DefaultsBody(Schema):
    """What a design takes where it says nothing: water of a site, air of a case and beside a barometer [°C], hours
    between looks at the troughs.

    `pipe`, `reach_flow_lpm` and `reach_needs_m` are what the reach of a source is asked for with to begin with;
    `event_at` tells of each kind of event of a run the lists whose parts it may be at.
    """

    water_c: float
    air_c: float
    reading_air_c: float
    look_every_h: float
    pipe: str
    reach_flow_lpm: float
    reach_needs_m: float
    event_at: dict[str, list[str]]


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
