"""Links between vessels that fill together: what they pass while the first stands a little higher than the others."""

import math
from dataclasses import dataclass

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.bisection import reached_at
from leadsman.core.base.units import GRAVITY_MS2, m_from_mm
from leadsman.core.design import RainInflow, Vessel
from leadsman.core.design.line_pipe import line_lumps, line_reaches
from leadsman.core.design.store import shape_of
from leadsman.core.farm.overflow import greatest_inflow_m3s
from leadsman.core.physics.fittings import bore_area_m2, minor_loss_per_flow2
from leadsman.core.physics.friction import darcy_friction_factor
from leadsman.core.physics.pipe import Pipe
from leadsman.core.physics.water import Water, water_at

ENTRANCE_AND_EXIT_K = 1.5  # flush entrance 0.5 and exit 1.0 (Crane TP-410, from memory)
LEAST_HEAD_M, MOST_HEAD_M = 0.05, 0.3  # by which the first may stand higher; ours, no source
SHORT_M, LEVEL_WITHIN_M = 10.0, 0.3  # a line that links rather than feeds; ours, no source
USUAL_LINK_M, USUAL_ROUGHNESS_M = 0.5, 7e-6


@dataclass(frozen=True, kw_only=True)
class Link:
    """What passes from a roof's vessel to those that fill with it [m3/s], and what of a storm should."""

    vessel: Vessel
    passes_m3s: float
    wanted_m3s: float


def pipe_flow_m3s(head_m: float, pipe: Pipe, per_flow2: float, water: Water) -> float:
    """Return the flow [m3/s] that a head [m, not negative] drives through a pipe and its fittings, by bisection.

    Args:
        per_flow2: loss of the fittings over flow squared [s2/m5].
    Source: Darcy–Weisbach; a doctest in `friction` and tests on the network hold its factor.
    """
    area = bore_area_m2(pipe.bore_m)

    def loss_m(flow: float) -> float:
        speed = flow / area
        reynolds = max(speed * pipe.bore_m / water.kinematic_viscosity_m2s, 1e-9)
        factor = darcy_friction_factor(reynolds, pipe.roughness_m / pipe.bore_m)
        friction = factor * pipe.length_m / pipe.bore_m * speed**2 / (2.0 * GRAVITY_MS2)
        return friction + per_flow2 * flow**2

    return reached_at(loss_m, head_m, 0.0, area * math.sqrt(2.0 * GRAVITY_MS2 * max(head_m, 1e-12)) * 10.0)


def links(analysis: Analysis) -> list[Link]:
    """Return what the links pass of every vessel that a roof fills and that others fill with."""
    found = []
    for vessel in analysis.design.vessels:
        storm = sum(
            greatest_inflow_m3s(inflow)
            for inflow in analysis.design.inflows
            if isinstance(inflow, RainInflow) and inflow.fills == vessel.id
        )
        link = _link(analysis, vessel, storm) if storm > 0.0 else None
        if link is not None:
            found.append(link)
    return found


def _link(analysis: Analysis, vessel: Vessel, storm_m3s: float) -> Link | None:
    layout, water = analysis.model.layout, water_at(analysis.design.site.water_c)
    freeboard = vessel.shape.inside_m - vessel.brim_m
    head = min(max(freeboard, LEAST_HEAD_M), MOST_HEAD_M)
    own = shape_of(vessel.model_copy(update={"count": 1})).surface_m2(vessel.level_m)
    others, passes = 0.0, 0.0
    if vessel.count > 1 and vessel.link_mm is not None:
        bore = m_from_mm(vessel.link_mm)
        pipe = Pipe(length_m=USUAL_LINK_M, bore_m=bore, roughness_m=USUAL_ROUGHNESS_M)
        passes += pipe_flow_m3s(head, pipe, minor_loss_per_flow2(ENTRANCE_AND_EXIT_K, bore), water)
        others += own * (vessel.count - 1)
    for index, line in enumerate(analysis.design.lines):
        ends = {line.from_, line.to}
        other = layout.vessels.get(next(iter(ends - {vessel.id}), ""))
        if vessel.id not in ends or other is None or line.shut or line.pipe_length_m > SHORT_M:
            continue
        if abs(layout.floor_m(other) - layout.floor_m(vessel)) > LEVEL_WITHIN_M:
            continue
        path = f"/lines/{index}"
        bought = analysis.design.own_pipes
        pipe = line_reaches(line, path, bought)[0]
        lumps = sum(lump.per_flow2 for lump in line_lumps(line, path, water, bought))
        passes += pipe_flow_m3s(head, pipe, lumps + minor_loss_per_flow2(ENTRANCE_AND_EXIT_K, pipe.bore_m), water)
        others += shape_of(other).surface_m2(other.level_m)
    return (
        Link(vessel=vessel, passes_m3s=passes, wanted_m3s=storm_m3s * others / (own + others)) if others > 0.0 else None
    )
