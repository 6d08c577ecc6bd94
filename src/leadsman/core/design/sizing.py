"""What may be chosen from when a plan is sized."""

from typing import Annotated

from pydantic import Field, model_validator

from leadsman.core.design.base import BoreMm, Id, Part, RoughnessMm, fault


class SizingProduct(Part):
    """A pipe that may be laid: its bore, its roughness or its Hazen–Williams coefficient, a metre's price."""

    id: Id
    bore_mm: BoreMm
    roughness_mm: RoughnessMm | None = None
    hazen_williams_c: Annotated[float, Field(ge=40, le=180)] | None = None
    price_per_m: Annotated[float, Field(ge=0, le=1e6)]

    @model_validator(mode="after")
    def rough_in_one_way(self) -> "SizingProduct":
        if (self.roughness_mm is None) == (self.hazen_williams_c is None):
            raise fault("exactly one of roughness_mm and hazen_williams_c")
        return self


class SizingStand(Part):
    """A vessel that may stand higher than it does: by how much at most, and what a metre of stand costs.

    Where no price is given, the site's costs tell it, by what the vessel weighs.
    """

    vessel: Id
    most_m: Annotated[float, Field(gt=0, le=50)]
    price_per_m: Annotated[float, Field(ge=0, le=1e6)] | None = None


class Sizing(Part):
    """What may be chosen from: pipes, and whether a line may be of two of them; float valves; stands of vessels.

    Where it lists no pipes, each line is sized among the priced pipes of its own family that hold its pressure. With
    `valves`, each float valve among those of the catalogue that have a price and close against its pressure. With
    `parts`, a filter that stands in a line may be another one, vents are put where air would block the first water, and
    a pressure reducer where that makes the plan cheaper. With `laid`, what the plan has costs nothing, so that the
    cheapest change is found. What is in `keep`, lines, outlets and vessels, stays as it is. `most_ms` is how fast water
    may run in lines that are sized: 3 m/s where nothing is said and pipes are of the catalogue, no limit where they are
    listed.
    """

    products: Annotated[list[SizingProduct], Field(max_length=100)] = Field(default_factory=list)
    split: bool = False
    most_ms: Annotated[float, Field(gt=0, le=50)] | None = None
    valves: bool = False
    parts: bool = False
    laid: bool = False
    stands: Annotated[list[SizingStand], Field(max_length=200)] = Field(default_factory=list)
    keep: Annotated[list[Id], Field(max_length=10_000)] = Field(default_factory=list)

    @model_validator(mode="after")
    def raised_or_kept(self) -> "Sizing":
        both = sorted({stand.vessel for stand in self.stands} & set(self.keep))
        if both:
            raise fault(f"each vessel in stands or in keep, not in both ({', '.join(both[:3])})")
        if len({stand.vessel for stand in self.stands}) < len(self.stands):
            raise fault("each vessel in stands once")
        return self

    @model_validator(mode="after")
    def of_one_school(self) -> "Sizing":
        coefficients = {product.hazen_williams_c for product in self.products}
        if len(coefficients) > 1:
            raise fault("products all with roughness_mm, or all with one hazen_williams_c")
        ids = [product.id for product in self.products]
        if len(set(ids)) < len(ids):
            raise fault("products with ids of their own")
        return self
