"""What is sold, described generically: one row of a table each, in the units it is quoted in, and in SI beside them.

A user's own rows have the same columns; what is not given in them is None.
"""

import re
from typing import Annotated, Literal, get_args

from pydantic import BaseModel, ConfigDict, Field, field_validator, model_validator

from leadsman.core.base.fault import fault
from leadsman.core.base.pattern import TEXT_PATTERN
from leadsman.core.base.units import kpa_from_pa, m_from_mm
from leadsman.core.catalogue.thread import END_FAMILIES, End, end_of
from leadsman.core.physics.ball_arm import BallArm
from leadsman.core.physics.fittings import crane_full_turbulence_factor, sudden_contraction_k, sudden_expansion_k

SAME_M = 1e-5
OWN = "own"
ProductId = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9._-]{0,63}$")]
Text = Annotated[str, Field(max_length=300)]
Mm = Annotated[float, Field(gt=0, le=2_000)]
Price = Annotated[float, Field(ge=0, le=1e6)]
Kv = Annotated[float, Field(gt=0, le=10_000)]
Kpa = Annotated[float, Field(ge=0, le=10_000)]
Metres = Annotated[float, Field(gt=0, le=100)]

Joint = Literal["by outside", "by bore", "solvent", "hose", "push-fit"]
PartKind = Literal[
    "isolating_valve", "tap_point", "filter", "check_valve", "foot_valve", "reducer", "vent", "drain"
]  # fmt: skip
Principle = Literal["small-seat arm", "small-diaphragm", "full-flow", "pilot", "mini", "low-pressure arm"]


class Product(BaseModel):
    """What all rows share: where their figures come from, and what each costs (of pipe: a metre).

    `source_id` is "own" for what a user has added.
    """

    model_config = ConfigDict(strict=True, extra="forbid", frozen=True, allow_inf_nan=False)

    product_id: ProductId
    name: Annotated[str, Field(min_length=1, max_length=120, pattern=TEXT_PATTERN)]
    source_id: ProductId = OWN
    locator: Text = ""
    note: Text = ""

    @property
    def spoken(self) -> str:
        """Its name within a sentence."""
        return self.name[:1].lower() + self.name[1:]

    @property
    def is_own(self) -> bool:
        """Whether a user has added it."""
        return self.source_id == OWN


class PipeProduct(Product):
    """A pipe: diameters and roughness, pressure class at 20 °C, modulus of its wall for a quick load, how it is joined.

    `bore_m` leaves the least wall, `mean_bore_mm` the mean of what the standard's tolerances allow;
    `aged_roughness_mm` is that of pipe long in service.
    """

    family: Annotated[str, Field(min_length=1, max_length=60, pattern=TEXT_PATTERN)]
    outer_mm: Mm
    wall_mm: Mm
    mean_bore_mm: Mm | None = None
    roughness_mm: Annotated[float, Field(ge=0, le=5)]
    aged_roughness_mm: Annotated[float, Field(ge=0, le=5)] | None = None
    class_bar: Annotated[float, Field(gt=0, le=1_000)] | None = None
    modulus_gpa: Annotated[float, Field(gt=0, le=1_000)] | None = None
    end: Joint = "by outside"
    coil_m: Annotated[float, Field(gt=0, le=10_000)] | None = None
    price_per_m: Price | None = None

    @model_validator(mode="after")
    def leaves_a_bore(self) -> "PipeProduct":
        if not self.outer_mm - 2 * self.wall_mm >= 1.0:
            raise fault("walls that leave a bore of 1 mm or more")
        return self

    @property
    def outer_m(self) -> float:
        """Outer diameter [m]."""
        return m_from_mm(self.outer_mm)

    @property
    def called_mm(self) -> float | None:
        """Outer diameter [mm] where people call the pipe by that; None where they call it by its bore."""
        return self.outer_mm if "by outside diameter" in self.family else None

    @property
    def wall_m(self) -> float:
        """Least wall [m]."""
        return m_from_mm(self.wall_mm)

    @property
    def bore_m(self) -> float:
        """Outer diameter − 2 × least wall [m]."""
        return m_from_mm(round(self.outer_mm - 2 * self.wall_mm, 3))

    @property
    def mean_bore_m(self) -> float:
        """Mean bore that its standard allows [m]; the nominal one where nothing is known."""
        return self.bore_m if self.mean_bore_mm is None else m_from_mm(self.mean_bore_mm)

    @property
    def roughness_m(self) -> float:
        """Roughness, new [m]."""
        return m_from_mm(self.roughness_mm)

    @property
    def aged_roughness_m(self) -> float:
        """Roughness after years [m]; as when new where nothing is known."""
        return m_from_mm(max(self.aged_roughness_mm or 0.0, self.roughness_mm))

    @property
    def class_kpa(self) -> float | None:
        """Pressure class at 20 °C [kPa]; None where nothing is known."""
        return None if self.class_bar is None else self.class_bar * 100.0

    @property
    def modulus_pa(self) -> float | None:
        """Young's modulus of its wall for a quick load [Pa]; None where nothing is known."""
        return None if self.modulus_gpa is None else self.modulus_gpa * 1e9

    @property
    def series(self) -> str:
        """What it is called but for its size."""
        return self.product_id.rpartition("-")[0]

    def same_size(self, other: "PipeProduct") -> bool:
        """Whether it takes the same fittings: of one outer diameter, or of one family and bore."""
        alike = self.family == other.family and abs(self.bore_m - other.bore_m) < SAME_M
        return alike or abs(self.outer_m - other.outer_m) < SAME_M


class Ended(Product):
    """A product with ends, "family size @bore in mm" each, as in "npt-m 3/4 @20", parted by semicolons."""

    ends: Text = ""
    price: Price | None = None

    @field_validator("ends")
    @classmethod
    def of_known_families(cls, ends: str) -> str:
        for told in filter(None, re.split(r"\s*;\s*", ends)):
            if end_of(told) is None:
                allowed = f'ends as "npt-m 3/4 @20" parted by semicolons, of the families {", ".join(END_FAMILIES)}'
                raise fault(allowed)
        return ends

    @property
    def end_list(self) -> list[End]:
        """Its ends."""
        found = [end_of(told) for told in filter(None, re.split(r"\s*;\s*", self.ends))]
        return [product for product in found if product is not None]


class FittingProduct(Ended):
    """A fitting: K as a multiple of f_T of its size, or its own, and what its own bore, where narrower, adds."""

    times_ft: Annotated[float, Field(ge=0, le=1_000)] | None = None
    k: Annotated[float, Field(ge=0, le=100_000)] | None = None
    bore_mm: Mm | None = None

    @model_validator(mode="after")
    def has_a_loss(self) -> "FittingProduct":
        if self.times_ft is None and self.k is None and self.bore_mm is None:
            raise fault("times_ft, k or bore_mm")
        return self

    def loss(self, line_bore_m: float) -> tuple[float, float]:
        """Return K [-] in a line of a bore [m], and the bore [m] that it is on.

        An insert narrower than the line counts as a contraction and an expansion at its own bore.
        """
        return _loss(self.k, self.times_ft, self.bore_mm, line_bore_m)


def _loss(k: float | None, times_ft: float | None, bore_mm: float | None, line_bore_m: float) -> tuple[float, float]:
    """Return K [-] and the bore [m] that it is on: of a bend, and of what is narrower than its line."""
    own_m = line_bore_m if bore_mm is None else m_from_mm(bore_mm)
    bent = (k or 0.0) + crane_full_turbulence_factor(own_m) * (times_ft or 0.0)
    if own_m >= line_bore_m:
        return bent, own_m
    return bent + sudden_contraction_k(line_bore_m, own_m) + sudden_expansion_k(own_m, line_bore_m), own_m


class PartProduct(Ended):
    """A tap, filter, check or foot valve, reducer, vent or drain: its bore with K by f_T, or its Kv [m3/h]."""

    kind: PartKind
    bore_mm: Mm | None = None
    times_ft: Annotated[float, Field(ge=0, le=1_000)] | None = None
    kv_m3h: Kv | None = None
    outlet_kpa: Kpa | None = None

    @model_validator(mode="after")
    def a_reducer_has_a_setting(self) -> "PartProduct":
        if (self.kind == "reducer") != (self.outlet_kpa is not None):
            raise fault("outlet_kpa for a reducer, and for nothing else")
        return self

    @property
    def inline_kind(self) -> str:
        """What it is as a part in a line: a foot valve passes one way, like a check valve."""
        return "check_valve" if self.kind == "foot_valve" else self.kind

    def line_k(self, line_bore_m: float) -> float | None:
        """Return K [-] on the bore of its line [m]; None where it has a Kv instead, or takes nothing."""
        if self.kv_m3h is not None or self.times_ft is None:
            return None
        k, own_m = _loss(None, self.times_ft, self.bore_mm, line_bore_m)
        return k * (line_bore_m / own_m) ** 4


class FloatValveProduct(Ended):
    """A float valve by its working principle: Kv open, pressures it works at, seat, band, float on its arm, stem.

    Under `min_kpa` none of its kind opens, from `sure_kpa` on every one; between, some do. `max_kpa` is what its maker
    says; where seat, float and arms are known, they tell too (`closes_against_kpa`).
    """

    principle: Principle
    kv_m3h: Kv
    min_kpa: Kpa = 0.0
    sure_kpa: Kpa | None = None
    max_kpa: Kpa | None = None
    seat_mm: Mm | None = None
    band_m: Annotated[float, Field(gt=0, le=10)]
    float_mm: Mm | None = None
    float_kg: Annotated[float, Field(ge=0, le=100)] | None = None
    valve_arm_mm: Mm | None = None
    float_arm_mm: Mm | None = None
    stem_mm: Mm | None = None

    def closes_against_kpa(self, density_kgm3: float) -> float | None:
        """Return the greatest pressure that it closes against [kPa]: what is said of it, and what its float holds.

        None where neither is known.
        """
        told = [] if self.max_kpa is None else [self.max_kpa]
        arm = (self.seat_mm, self.valve_arm_mm, self.float_arm_mm, self.float_kg, self.float_mm)
        if None not in arm:
            seat, valve_arm, float_arm, float_kg, float_mm = (value or 0.0 for value in arm)
            metres = [m_from_mm(length_mm) for length_mm in (seat, valve_arm, float_arm)]
            ball = BallArm(
                seat_bore_m=metres[0],
                valve_arm_m=metres[1],
                float_arm_m=metres[2],
                float_kg=float_kg,
                float_diameter_m=m_from_mm(float_mm),
            )
            told.append(kpa_from_pa(ball.greatest_pressure_pa(density_kgm3)))
        return min(told, default=None)


class VesselProduct(Ended):
    """A trough, tank or drum by its inside dimensions [m] and own weight [kg]; a frustum's bottom is `diameter_m`."""

    role: Literal["tank", "trough", "chamber", "bucket_row"]
    kind: Literal["upright_cylinder", "box", "lying_cylinder", "frustum"]
    diameter_m: Metres | None = None
    length_m: Metres | None = None
    width_m: Metres | None = None
    height_m: Metres | None = None
    top_diameter_m: Metres | None = None
    empty_kg: Annotated[float, Field(gt=0, le=1e6)] | None = None

    @model_validator(mode="after")
    def has_its_dimensions(self) -> "VesselProduct":
        lacking = [key for key in DIMENSIONS[self.kind] if getattr(self, key) is None]
        if lacking:
            raise fault(f"{', '.join(lacking)} for a {self.kind}")
        return self

    @property
    def shape(self) -> dict[str, float | str]:
        """Its shape as in a design document."""
        told = {key: getattr(self, key) for key in DIMENSIONS[self.kind]}
        if self.kind == "frustum":
            told["bottom_diameter_m"] = told.pop("diameter_m")
        return {"kind": self.kind, **told}


DIMENSIONS = {
    "upright_cylinder": ("diameter_m", "height_m"),
    "box": ("length_m", "width_m", "height_m"),
    "lying_cylinder": ("diameter_m", "length_m"),
    "frustum": ("diameter_m", "height_m", "top_diameter_m"),
}
Table = Literal["pipe", "fitting", "part", "float_valve", "vessel"]
TABLES: dict[Table, type[Product]] = {
    "pipe": PipeProduct,
    "fitting": FittingProduct,
    "part": PartProduct,
    "float_valve": FloatValveProduct,
    "vessel": VesselProduct,
}
PRINCIPLES: tuple[str, ...] = get_args(Principle)
