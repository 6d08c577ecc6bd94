"""What a source under pressure does in its plan: what it gives, at what pressure, and how its water climbs."""

from dataclasses import dataclass

import numpy as np

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.drain_back import DrainBack, drain_backs
from leadsman.core.analysis.profile import PipeProfile
from leadsman.core.analysis.route import route_to
from leadsman.core.base.array import Floats
from leadsman.core.base.units import m3s_from_lpm, pa_from_head_m, pa_from_kpa
from leadsman.core.design import GaugedSource, OutletBase, PressureSource, RamSource
from leadsman.core.farm.pressure_source import source_curve
from leadsman.core.farm.ram import RamDuty, ram_duty

LEAST_CLIMB_M = 0.1  # what rises less is not called a climb; ours, no source


@dataclass(frozen=True, kw_only=True)
class Climb:
    """Water going up an empty line to an outlet with all else shut: what the line holds over the source [m3].

    `lift_m` is the outlet's height over the source; `climb_s` is the time it takes at most [s], at the flow that comes
    up there in the end; None where none does.
    """

    outlet: OutletBase
    lift_m: float
    holds_m3: float
    climb_s: float | None


@dataclass(frozen=True, kw_only=True)
class SourceDuty:
    """A source with all outlets drawing [m3/s, gauge Pa at its own height], and the most that may stand there [Pa].

    `curve` is flows [m3/s] and heads [m]. Of a ram, `ram` says what drives it; `least_m3s` is what it gives to the
    outlet that it lifts to with most trouble.
    """

    source: PressureSource
    given_m3s: float
    pressure_pa: float
    greatest_pa: float
    curve: tuple[Floats, Floats]
    climbs: list[Climb]
    drain_backs: list[DrainBack]
    ram: RamDuty | None
    least_m3s: float


def source_duties(analysis: Analysis) -> list[SourceDuty]:
    """Return what each source under pressure does; none where the plan has no answer."""
    if not analysis.state.converged:
        return []
    backs = drain_backs(analysis) if analysis.design.pressure_sources else []
    return [_duty(analysis, source, backs) for source in analysis.design.pressure_sources]


def _duty(analysis: Analysis, source: PressureSource, backs: list[DrainBack]) -> SourceDuty:
    density = analysis.model.water.density_kgm3
    curve = source_curve(source, density)
    lines = [line.id for line in analysis.design.lines if line.from_ == source.id]
    given = max(sum(analysis.state.flow.line_flow_m3s(line_id) for line_id in lines), 0.0)
    own = {outlet.id for outlet in fed_by(analysis, source)}
    return SourceDuty(
        source=source,
        given_m3s=given,
        pressure_pa=pa_from_head_m(float(np.interp(given, *curve)), density),
        greatest_pa=pa_from_kpa(source.greatest_kpa)
        if isinstance(source, GaugedSource)
        else pa_from_head_m(float(curve[1][0]), density),
        curve=curve,
        climbs=_climbs(analysis, source),
        drain_backs=[back for back in backs if back.outlet.id in own],
        ram=ram_duty(source) if isinstance(source, RamSource) else None,
        least_m3s=m3s_from_lpm(next(one.flow_lpm for one in analysis.source_inflows if one.id == source.id)),
    )


def fed_by(analysis: Analysis, source: PressureSource) -> list[OutletBase]:
    """Return the outlets to which a source's water comes through pipe alone, not over another vessel."""
    flow, place = analysis.state.flow, analysis.model.plumbing
    number = place.vessels[source.id]
    return [outlet for outlet in analysis.fed_outlets if flow.ways.sources[place.outlet_nodes[outlet.id]] == number]


def _climbs(analysis: Analysis, source: PressureSource) -> list[Climb]:
    """Return the ways on which its water climbs, each alone, highest last."""
    layout, found = analysis.model.layout, []
    ground_m = layout.places[source.place].ground_m
    for outlet in fed_by(analysis, source):
        flow = analysis.state_of(outlet, together=False).flow
        route = route_to(flow, layout.node_of_outlet[outlet.id], analysis.state.flow.ways)
        lift_m = layout.outlet_height_m(outlet) - ground_m
        if route is None or lift_m < LEAST_CLIMB_M:
            continue
        holds_m3 = PipeProfile(analysis.model, route).volume_over_m3(0.0, route.length_m, ground_m)
        flow_m3s = flow.outlet_flow_m3s(outlet.id)
        climb_s = holds_m3 / flow_m3s if flow_m3s > 0.0 else None
        found.append(Climb(outlet=outlet, lift_m=lift_m, holds_m3=holds_m3, climb_s=climb_s))
    return sorted(found, key=lambda climb: climb.lift_m)
