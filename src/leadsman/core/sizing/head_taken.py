"""The head that a line or an outlet takes at a known flow, for every pipe that the line may be of."""

import numpy as np

from leadsman.core.base.array import Floats
from leadsman.core.design import Line, OpenEndOutlet, OutletBase
from leadsman.core.design.line_pipe import line_lumps, line_reaches
from leadsman.core.design.outlet_law import outlet_law
from leadsman.core.physics.friction import DarcyWeisbach, HazenWilliams
from leadsman.core.sizing.problem import Problem
from leadsman.core.sizing.slots import SizedLine

USUAL_BORE_M = 0.1  # only an open end without a bore of its own goes by it, and that is left out


def choices_take_m(problem: Problem, one: SizedLine, flow_m3s: float, share: float) -> Floats:
    """Return what a line takes [m] at a flow in each of its choices; with a share below 1 that of its pipe alone."""
    bores = [choice.bore_m for choice in one.choices]
    roughs = [choice.roughness_m for choice in one.choices]
    taken = _pipes_take_m(problem, [one.line.pipe_length_m] * len(bores), bores, roughs, abs(flow_m3s)) * share
    if share == 1.0 and (one.line.fittings or one.line.inline):
        lumps = [_lumped(problem, one.laid(number)) for number in range(len(one.choices))]
        taken = taken + np.array(lumps) * flow_m3s**2
    return taken if flow_m3s >= 0.0 else -taken


def takes_m(problem: Problem, line: Line, flow_m3s: float, share: float) -> float:
    """Return what a line takes [m] at a flow, as it is; with a share below 1 that of its pipe, without its fittings."""
    reaches = line_reaches(line, "", problem.design.own_pipes)
    each = _pipes_take_m(
        problem, [pipe.length_m for pipe in reaches], [pipe.bore_m for pipe in reaches],
        [pipe.roughness_m for pipe in reaches], abs(flow_m3s),
    )  # fmt: skip
    taken = float(each.sum()) * share + (_lumped(problem, line) * flow_m3s**2 if share == 1.0 else 0.0)
    return taken if flow_m3s >= 0.0 else -taken


def _pipes_take_m(
    problem: Problem, lengths_m: list[float], bores_m: list[float], roughs_m: list[float], flow_m3s: float
) -> Floats:
    law = (
        DarcyWeisbach(lengths_m, bores_m, roughs_m, problem.water.kinematic_viscosity_m2s)
        if problem.coefficient is None
        else HazenWilliams(lengths_m, bores_m, [problem.coefficient] * len(lengths_m))
    )
    return np.asarray(law(np.full((1, len(lengths_m)), flow_m3s))[0]).ravel()


def _lumped(problem: Problem, line: Line) -> float:
    return sum(lump.per_flow2 for lump in line_lumps(line, "", problem.water, problem.design.own_pipes))


def outlet_takes_m(outlet: OutletBase, flow_m3s: float, density_kgm3: float) -> float:
    """Return the head over an outlet [m] that passes a flow; 0 where it goes by the bore of its line."""
    if isinstance(outlet, OpenEndOutlet) and outlet.bore_mm is None:
        return 0.0
    return outlet_law(outlet, USUAL_BORE_M, density_kgm3).head_m(flow_m3s)
