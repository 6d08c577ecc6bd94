"""Where water leaves: float valves, open ends, fixed draws and emitters."""

from typing import Annotated, Literal

from pydantic import Field

from leadsman.core.design.base import BoreMm, FlowLpm, Id, Kv, Name, Part, PressureKpa


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
