"""Sources under pressure on a plan's network: their curves, and the plan in which they stand as pumps."""

import numpy as np

from leadsman.core.base.array import Floats
from leadsman.core.base.units import head_m_from_pa, lpm_from_m3s, pa_from_kpa
from leadsman.core.design import (
    BoxShape,
    Design,
    GaugedSource,
    InflowBase,
    Line,
    PressureSource,
    Pump,
    RamSource,
    Scenario,
    Vessel,
    label,
)
from leadsman.core.farm.ram import ram_curve, ram_duty
from leadsman.core.farm.spring import timed_flow_m3s
from leadsman.core.physics.water import water_at

CURVE_POINTS = 40
SIDE_M = 1_000.0  # of what a source stands for: it never runs down
STANDS_M = 1e-4
MOST_BRIM_M = 100.0


class PressureInflow(InflowBase):
    """What a source under pressure gives in the plan at hand [L/min], as an inflow; no document holds one."""

    flow_lpm: float


def source_curve(source: PressureSource, density_kgm3: float) -> tuple[Floats, Floats]:
    """Return flows [m3/s], rising from 0, and the head over the source's ground at each [m].

    Of mains and wells the pressure falls with the square of the flow, from the least that stands at rest through what
    the slowest timed container says; a pressure tank's pump may hold more than that for a while.

    Source: p0 − (p0 − p1)(q/q1)² through the two measured points (losses grow as the square of a turbulent flow); of
    rams as `ram_curve`.
    >>> from leadsman.core.design import Timing
    >>> mains = GaugedSource(id="m", place="gate", kind="mains", static_kpa=300.0,
    ...                      timings=[Timing(volume_l=20.0, time_s=40.0)], timed_kpa=60.0)
    >>> flows, heads = source_curve(mains, density_kgm3=1000.0)
    >>> round(float(np.interp(30 / 60_000, flows, heads)) * 9.80665, 2), round(float(heads[0]) * 9.80665, 2)
    (60.0, 300.0)
    """
    if isinstance(source, RamSource):
        duty = ram_duty(source)
        return ram_curve(duty.drive_m3s, source.fall_m, duty.efficiency)
    rest_kpa, fallen_kpa = source.least_static_kpa, source.least_static_kpa - source.timed_kpa
    timed = min(timed_flow_m3s(timing.volume_l / 1e3, timing.time_s) for timing in source.timings)
    shares = np.unique([*np.linspace(0.0, np.sqrt(rest_kpa / fallen_kpa), CURVE_POINTS), 1.0])
    heads = [head_m_from_pa(pa_from_kpa(rest_kpa - fallen_kpa * share**2), density_kgm3) for share in shares]
    return shares * timed, np.maximum(heads, 0.0)


def with_sources(design: Design, scenario: Scenario | None = None) -> Design:
    """Return a plan with each source under pressure as water that never runs down and a pump on the line from it.

    One that the case has lost stands dry. What already stands so is left as it is.
    """
    known = {vessel.id for vessel in design.vessels}
    sources = [source for source in design.pressure_sources if source.id not in known]
    if not sources:
        return design
    lost = set(scenario.lost) if scenario else set()
    density = water_at(design.site.water_c).density_kgm3
    pumps = {source.id: _pump(source, density) for source in sources}
    return design.model_copy(
        update={
            "vessels": [*design.vessels, *(_standing(source, density, source.id in lost) for source in sources)],
            "lines": [_pumped(line, pumps) for line in design.lines],
        }
    )


def is_source(design: Design, vessel_id: str) -> bool:
    """Whether what stands in a plan as a vessel is a source under pressure."""
    return any(source.id == vessel_id for source in design.pressure_sources)


def _pumped(line: Line, pumps: dict[str, Pump]) -> Line:
    return line.model_copy(update={"pump": pumps[line.from_]}) if line.from_ in pumps else line


def _pump(source: PressureSource, density_kgm3: float) -> Pump:
    flows, heads = source_curve(source, density_kgm3)
    return Pump(curve=[[lpm_from_m3s(flow), head] for flow, head in zip(flows.tolist(), heads.tolist(), strict=True)])


def _standing(source: PressureSource, density_kgm3: float, lost: bool) -> Vessel:
    """Return a source as a vessel; its brim is as much higher as its pressure may be."""
    more_kpa = source.greatest_kpa - source.least_static_kpa if isinstance(source, GaugedSource) else 0.0
    more_m = head_m_from_pa(pa_from_kpa(more_kpa), density_kgm3)
    return Vessel(
        id=source.id,
        name=label(source),
        role="chamber",
        place=source.place,
        shape=BoxShape(kind="box", length_m=SIDE_M, width_m=SIDE_M, height_m=MOST_BRIM_M),
        overflow_m=min(STANDS_M + more_m, MOST_BRIM_M),
        level_m=0.0 if lost else STANDS_M,
    )
