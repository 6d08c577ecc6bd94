"""Where water leaves: float valves, open ends, fixed draws and emitters."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from leadsman.core.design.base import Assumed, BoreMm, Day, FlowLpm, Id, Kv, Name, Part, PressureKpa, fault


class LevelStep(Part):
    """The closing level [m above its vessel's floor] to which a float is set from a day on."""

    from_: Annotated[Day, Field(alias="from")]
    closes_at_m: Annotated[float, Field(gt=0, le=100)]


class ValveData(Part):
    """A float valve: Kv fully open, closing level above its vessel's floor, band, pressures it works at.

    Under `min_pressure_kpa` it does not open; valves of a kind scatter, and from `sure_pressure_kpa` on every one does.
    `steps` set the closing level anew over the season; `product` is what it is bought as.
    """

    product: Id | None = None
    kv_m3h: Kv
    closes_at_m: Annotated[float, Field(gt=0, le=100)]
    band_m: Annotated[float, Field(gt=0, le=10)]
    min_pressure_kpa: PressureKpa = 0.0
    sure_pressure_kpa: PressureKpa | None = None
    max_pressure_kpa: PressureKpa | None = None
    steps: Annotated[list[LevelStep], Field(max_length=100)] = Field(default_factory=list)

    @model_validator(mode="after")
    def steps_in_order(self) -> "ValveData":
        days = [step.from_ for step in self.steps]
        if days != sorted(set(days)):
            raise fault("steps whose days rise")
        return self

    @model_validator(mode="after")
    def opens_surely_no_earlier(self) -> "ValveData":
        if self.sure_pressure_kpa is not None and self.sure_pressure_kpa < self.min_pressure_kpa:
            raise fault("sure_pressure_kpa no less than min_pressure_kpa")
        return self

    @property
    def opens_kpa(self) -> float:
        """The pressure from which it opens for certain [kPa]."""
        return self.min_pressure_kpa if self.sure_pressure_kpa is None else self.sure_pressure_kpa

    def on(self, date: str | None) -> "ValveData":
        """Return the valve as it is set on a day; as it is where no step has come, or no day is given."""
        now = [step.closes_at_m for step in self.steps if date is not None and step.from_ <= date]
        return self.model_copy(update={"closes_at_m": now[-1]}) if now else self


class FloatMount(Part):
    """How a float valve sits in its vessel [mm]; what is not given is taken from what it is bought as.

    `wall` is the wall it passes: at an end of a box or drum, so that its arm points along it, or in a long side.
    `pin_mm` is how far the arm's pin stands in from the wall, `arm_mm` from the pin to the middle of the float,
    `float_mm` across the float, `aside_mm` from the hole's middle to the wall on its left, seen from inside.
    `guard` is what keeps stock off it: nothing, a guard, or a closed chamber.
    """

    wall: Literal["end", "side"] = "end"
    pin_mm: Annotated[float, Field(ge=0, le=2_000)] | None = None
    arm_mm: Annotated[float, Field(gt=0, le=5_000)] | None = None
    float_mm: Annotated[float, Field(gt=0, le=2_000)] | None = None
    aside_mm: Annotated[float, Field(ge=0, le=100_000)] | None = None
    guard: Literal["open", "guarded", "enclosed"] | None = None


class OutletBase(Part):
    id: Id
    name: Name | None = None
    place: Id
    height_m: Annotated[float, Field(ge=-50, le=100)] = 0.0
    fills: Id | None = None
    shut: bool = False
    assumed: Assumed = Field(default_factory=list)


class FloatValveOutlet(OutletBase):
    kind: Literal["float_valve"]
    valve: ValveData
    mount: FloatMount | None = None


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
