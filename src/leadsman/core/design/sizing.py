"""What pipes may be chosen from when a plan is sized."""

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


class Sizing(Part):
    """The pipes to choose from, and whether a line may be of two of them one after the other.

    Where it lists none, each line is sized among the priced pipes of its own series.
    """

    products: Annotated[list[SizingProduct], Field(max_length=100)] = Field(default_factory=list)
    split: bool = False

    @model_validator(mode="after")
    def of_one_school(self) -> "Sizing":
        coefficients = {product.hazen_williams_c for product in self.products}
        if len(coefficients) > 1:
            raise fault("products all with roughness_mm, or all with one hazen_williams_c")
        ids = [product.id for product in self.products]
        if len(set(ids)) < len(ids):
            raise fault("products with ids of their own")
        return self
