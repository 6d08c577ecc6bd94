"""An answer near a known one: Newton's steps without looking what opens and shuts, which is checked at the end.

A run over time asks for thousands of answers, each close to the one before. What opens and shuts is then mostly as it
was; where it is not, the whole method takes over.
"""

import numpy as np

from leadsman.core.base.array import Bools, Floats
from leadsman.core.solver.gradient import (
    AFLOAT,
    CLOSED,
    CLOSES_UNDER_M3S,
    OPENS_OVER_M,
    GradientSolver,
    Solution,
    Start,
    control_gaps,
    control_rows,
    settled,
    usual_state,
    wanted_control_states,
)
from leadsman.core.solver.network import Cases

MOST_STEPS = 12
MASS_WITHIN_SHARE, LEAST_M3S = 1e-9, 1e-6  # of the largest flow: far less than a run is off


def near_answer(solver: GradientSolver, cases: Cases, start: Start, within_m: float) -> Solution | None:
    """Return the answer in which everything stands as at the start; None where it does not, or is too far off.

    Args:
        start: flows [m3/s], states and what is shut, of every case.
        within_m: what a link's energy may be off [m].
    """
    net = solver.network
    shape = (cases.count, net.links)
    closed = np.broadcast_to(cases.closed, shape)
    shut = (np.broadcast_to(start.shut, shape) & ~solver.is_control) | ((cases.way * start.flows_m3s < 0.0) & ~closed)
    passing = ~(closed | shut | solver.is_control)
    flows = np.where(closed | shut, 0.0, np.broadcast_to(start.flows_m3s, shape))
    state = usual_state(net) if start.control_state is None else start.control_state
    state = np.where(closed[:, net.controls], CLOSED, np.broadcast_to(state, (len(flows), len(net.controls))))
    datum = cases.fixed_m.max(axis=1, keepdims=True) if net.fixed else np.zeros((1, 1))
    fixed = np.broadcast_to(cases.fixed_m - datum, (len(flows), net.fixed))
    heads = np.concatenate([np.zeros((len(flows), net.junctions)), fixed], axis=1)
    holds = np.broadcast_to(np.where(cases.dead, 1.0, AFLOAT), (len(flows), net.junctions))
    draw = np.where(cases.dead, 0.0, cases.draw_m3s)
    still = np.zeros((len(flows), net.fixed))
    off, lost = np.inf, True
    for step in range(MOST_STEPS):
        losses, slopes = solver.link_losses(cases, flows)
        gaps = heads[:, net.start] - heads[:, net.end] - losses
        missing = control_gaps(net, cases, datum, flows, heads, gaps, state)
        if step:
            off = max(
                float(np.abs(np.where(passing, gaps, 0.0)).max(initial=0.0)), float(np.abs(missing).max(initial=0.0))
            )
            if not np.isfinite(off):
                break
            if off <= within_m:
                mass = np.where(cases.dead, 0.0, solver.matrix.net_inflow(flows) - draw)
                most = max(float(np.abs(flows).max(initial=0.0)), LEAST_M3S)
                lost = float(np.abs(mass).max(initial=0.0)) > MASS_WITHIN_SHARE * most
                if not lost:
                    break
        conductance = np.where(passing, 1.0 / slopes, 0.0)
        pushed = flows + conductance * np.where(passing, gaps, 0.0)
        right = np.concatenate([solver.matrix.net_inflow(pushed) - draw, missing], axis=1)
        right[:, : net.junctions][np.broadcast_to(cases.dead, draw.shape)] = 0.0
        move = solver.matrix.solve(conductance, holds, control_rows(net, state, slopes), right)
        heads[:, : net.junctions] += move[:, : net.junctions]
        rise = np.concatenate([move[:, : net.junctions], still], axis=1)
        flows = pushed + conductance * (rise[:, net.start] - rise[:, net.end])
        flows[:, net.controls] += move[:, net.junctions :]
    if off > within_m or lost or not _stands(solver, cases, flows, heads, shut, passing):
        return None
    setting = cases.setting - datum
    if (
        len(net.controls)
        and (wanted_control_states(net, cases, setting, closed, flows, heads, losses, state) != state).any()
    ):
        return None
    count = len(flows)
    done = Solution(
        heads_m=heads + datum,
        flows_m3s=flows,
        shut=shut,
        settling=np.zeros(shape, dtype=bool),
        control_state=state,
        converged=np.ones(count, dtype=bool),
        iterations=np.full(count, step, dtype=np.intp),
        mass_error_m3s=np.zeros(count),
        energy_error_m=np.full(count, off),
    )
    return settled(solver, cases, done)


def _stands(solver: GradientSolver, cases: Cases, flows: Floats, heads: Floats, shut: Bools, passing: Bools) -> bool:
    """Whether every one-way link runs its way, and what is shut is pressed shut."""
    net = solver.network
    if (passing & (cases.way * flows < -CLOSES_UNDER_M3S)).any():
        return False
    if not shut.any():
        return True
    drop = heads[:, net.start] - heads[:, net.end]
    for pump in net.pumps:
        drop[:, pump.link] += pump.heads_m[0]
    return not (shut & (cases.way * drop > OPENS_OVER_M)).any()
