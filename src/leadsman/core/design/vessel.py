"""Bodies of water: their shapes and levels."""

from itertools import pairwise
from typing import Annotated, Literal, TypeVar

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


InsideKind = Literal["pump", "skimmer", "roots", "basket", "other"]


class Inside(Part):
    """Something inside a vessel: `needs_m` the level under which it runs dry or stands bare.

    `from_wall_m` is the free room between the wall that carries the valve and its nearest side, `wide_m` how far it
    reaches from there (to the far wall where nobody says), `bottom_m` and `top_m` its ends over the floor.
    """

    kind: InsideKind
    name: Name | None = None
    needs_m: Annotated[float, Field(ge=0, le=100)] | None = None
    from_wall_m: Annotated[float, Field(ge=0, le=1_000)] | None = None
    wide_m: Annotated[float, Field(gt=0, le=1_000)] | None = None
    bottom_m: Annotated[float, Field(ge=0, le=100)] = 0.0
    top_m: Annotated[float, Field(gt=0, le=100)] | None = None

    @field_validator("top_m")
    @classmethod
    def over_its_bottom(cls, top: float | None, info: ValidationInfo) -> float | None:
        bottom = info.data.get("bottom_m")
        if top is not None and bottom is not None and top <= bottom:
            raise fault(f"over its bottom, {bottom:g} m")
        return top


class WallTap(Part):
    """A tap or drain in a vessel's wall on which no line ends: `at_m` over the floor; shut in all figures."""

    name: Name
    at_m: Annotated[float, Field(ge=0, le=100)]
    bore_mm: Annotated[float, Field(gt=0, le=500)] | None = None


FILLED_BY_FLOATS = ("trough", "bucket_row")


class Vessel(Part):
    """Any body of water at a place; levels are above its own floor.

    `rim_m` is the rim that animals can stand at, all round where none is given; `nipples` those below a drum, at
    `nipples_m` from its floor (below it where negative), over which `over_nipples_m` of water are to stand.
    `empty_kg` is its own weight without water; `portable` where it is moved from tap to tap. `overflow_mm` is the bore
    of its overflow, which runs into the vessel `overflow_into`, or `overflow_onto` a drain or the animals' ground;
    `link_mm` that of the links between its `count`, `link_m` how long each of them is, `fed_at` where along them the
    water comes in; `stand_limit_kg` what its stand is rated for, `air_min_per_h` for how long air is blown through it,
    `reachable` whether a vehicle or a hose gets to it, `product` what it is bought as;
    `wall_mm` is how thick its wall is where something passes it, `cable_m` its lowest open cable or hand hole,
    `inside` what stands or hangs in it, `taps` those in its wall on which no line ends;
    `lid` closes it, `dark` tells whether its walls are dark or light, `lagging_mm` is how thick the foam around its
    walls and on its lid is;
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
    link_m: Annotated[float, Field(gt=0, le=1_000)] | None = None
    fed_at: Literal["end", "middle"] = "end"
    air_min_per_h: Annotated[float, Field(ge=0, le=60)] | None = None
    overflow_mm: Annotated[float, Field(gt=0, le=2_000)] | None = None
    stand_limit_kg: Annotated[float, Field(gt=0, le=1e7)] | None = None
    wall_mm: Annotated[float, Field(gt=0, le=1_000)] | None = None
    cable_m: Annotated[float, Field(gt=0, le=100)] | None = None
    inside: Annotated[list[Inside], Field(max_length=20)] = Field(default_factory=list)
    taps: Annotated[list[WallTap], Field(max_length=20)] = Field(default_factory=list)
    lid: bool = False
    dark: bool | None = None
    lagging_mm: Annotated[float, Field(ge=0, le=500)] = 0.0
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

    @field_validator("cable_m")
    @classmethod
    def in_the_wall(cls, value: float | None, info: ValidationInfo) -> float | None:
        return _under_rim(value, "", [value], info)

    @field_validator("inside")
    @classmethod
    def needs_what_it_can_hold(cls, things: list[Inside], info: ValidationInfo) -> list[Inside]:
        return _under_rim(things, "needs_m of ", [thing.needs_m for thing in things], info)

    @field_validator("taps")
    @classmethod
    def under_the_rim(cls, taps: list[WallTap], info: ValidationInfo) -> list[WallTap]:
        return _under_rim(taps, "at_m of ", [tap.at_m for tap in taps], info)


Checked = TypeVar("Checked")


def _under_rim(checked: Checked, what: str, heights_m: list[float | None], info: ValidationInfo) -> Checked:
    """Return what is checked where none of its heights [m] lies over the vessel's rim."""
    shape = info.data.get("shape")
    if shape is not None and any(height is not None and height > shape.inside_m for height in heights_m):
        raise fault(f"{what}at most {shape.inside_m:g} m, the rim")
    return checked
