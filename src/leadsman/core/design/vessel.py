"""Bodies of water: their shapes and levels."""

from itertools import pairwise
from typing import Annotated, Literal

from pydantic import Field, ValidationInfo, field_validator

from leadsman.core.design.base import Assumed, Dimension, Id, Name, Part, fault


class UprightCylinderShape(Part):
    kind: Literal["upright_cylinder"]
    diameter_m: Dimension
    height_m: Dimension

    @property
    def inside_m(self) -> float:
        """Inside height [m], floor to rim."""
        return self.height_m


class BoxShape(Part):
    kind: Literal["box"]
    length_m: Dimension
    width_m: Dimension
    height_m: Dimension

    @property
    def inside_m(self) -> float:
        """Inside height [m], floor to rim."""
        return self.height_m


class LyingCylinderShape(Part):
    kind: Literal["lying_cylinder"]
    diameter_m: Dimension
    length_m: Dimension

    @property
    def inside_m(self) -> float:
        """Inside height [m], floor to rim."""
        return self.diameter_m


class FrustumShape(Part):
    kind: Literal["frustum"]
    bottom_diameter_m: Dimension
    top_diameter_m: Dimension
    height_m: Dimension

    @property
    def inside_m(self) -> float:
        """Inside height [m], floor to rim."""
        return self.height_m


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

    @property
    def inside_m(self) -> float:
        """Inside height [m], floor to rim."""
        return self.stages[-1][0]


VesselShape = Annotated[
    UprightCylinderShape | BoxShape | LyingCylinderShape | FrustumShape | StageVolumeShape, Field(discriminator="kind")
]


class Portable(Part):
    """A trough that goes with the herd: litres thrown away each time (all it holds where unknown), and minutes."""

    thrown_l: Annotated[float, Field(ge=0, le=100_000)] | None = None
    minutes: Annotated[float, Field(gt=0, le=1_440)] | None = None


FILLED_BY_FLOATS = ("trough", "bucket_row")


class Vessel(Part):
    """Any body of water at a place; levels are above its own floor.

    `rim_m` is the rim that animals can stand at, all round where none is given; `nipples` those below a drum, at
    `nipples_m` from its floor (below it where negative), over which `over_nipples_m` of water are to stand.
    `empty_kg` is its own weight without water; `portable` where it is moved from tap to tap. `overflow_mm` is the bore
    of its overflow, which runs into the vessel `overflow_into`, or `overflow_onto` a drain or the animals' ground;
    `link_mm` that of the links between its `count`, `stand_limit_kg` what its stand is rated for,
    `reachable` whether a vehicle or a hose gets to it, `product` what it is bought as;
    `wall_mm` is how thick its wall is where something passes it;
    `assumed` names figures that are a default nobody has confirmed.
    """

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
    rim_m: Annotated[float, Field(ge=0, le=1_000)] | None = None
    nipples: Annotated[int, Field(ge=0, le=100_000)] = 0
    nipples_m: Annotated[float, Field(ge=-5, le=100)] = 0.0
    over_nipples_m: Annotated[float, Field(ge=0, le=10)] | None = None
    empty_kg: Annotated[float, Field(gt=0, le=1e6)] | None = None
    portable: Portable | None = None
    overflow_into: Id | None = None
    overflow_onto: Literal["drain", "ground"] | None = None
    link_mm: Annotated[float, Field(gt=0, le=2_000)] | None = None
    overflow_mm: Annotated[float, Field(gt=0, le=2_000)] | None = None
    stand_limit_kg: Annotated[float, Field(gt=0, le=1e7)] | None = None
    wall_mm: Annotated[float, Field(gt=0, le=1_000)] | None = None
    food_grade: bool | None = None
    reachable: bool | None = None
    product: Id | None = None
    assumed: Assumed = Field(default_factory=list)

    @property
    def gives_water(self) -> bool:
        """Whether lines and sources may begin at it: animals drink from the others, and a float fills them."""
        return self.role not in FILLED_BY_FLOATS

    @property
    def brim_m(self) -> float:
        """Highest level [m] the vessel holds: its overflow, or its rim where none is given."""
        return self.shape.inside_m if self.overflow_m is None else self.overflow_m

    @field_validator("overflow_m", "outlet_m", "level_m")
    @classmethod
    def inside_the_shape(cls, value: float | None, info: ValidationInfo) -> float | None:
        shape, overflow = info.data.get("shape"), info.data.get("overflow_m")
        if value is None or shape is None:
            return value
        top = shape.inside_m if overflow is None else overflow
        if value > top:
            raise fault(f"at most {top:g} m, the {'rim' if overflow is None else 'overflow'}")
        return value
