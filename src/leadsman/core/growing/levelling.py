"""How a row of containers levels over time through its tubes: the float's container full, the others empty."""

from dataclasses import dataclass

import numpy as np
from scipy.integrate import solve_ivp

from leadsman.core.base.array import Floats
from leadsman.core.growing.row_chain import RowChain

LEVEL_SHARE = 0.05  # of the depth: nearer than that counts as level; ours, no source
POINTS, LONGEST_LAGS, CLOSE_M = 60, 4.0, 1e-5


@dataclass(frozen=True, kw_only=True)
class Levelling:
    """Depths over time [m], shape (times, containers), and when the last is within a twentieth of its depth [s]."""

    times_s: Floats
    depths_m: Floats
    level_s: float | None


def levelling(row: RowChain, empty_share: float = 1.0) -> Levelling:
    """Return how the containers fill while the float's stays at its level, so much of their depth being gone.

    The float's own flow is not counted: this is what the tubes allow at best.
    Source: each container's change of depth is what comes in through its tube less what goes on, Darcy–Weisbach in
    the tubes with laminar and turbulent flow; integrated by scipy's LSODA.
    """
    chain = row.chain
    areas = np.array(chain.areas_m2)
    parents = np.array(chain.parents)

    def rate(_: float, levels: Floats) -> Floats:
        flows = chain.flows_m3s(levels)
        empty = levels <= -row.depths_m  # gives nothing on, whatever the height of its floor
        flows = np.where(np.where(flows > 0.0, empty[parents], empty[1:]) & (flows != 0.0), 0.0, flows)
        change = np.zeros_like(levels)
        np.add.at(change, parents, -flows)
        change[1:] += flows
        change /= areas
        change[0] = 0.0
        return change

    # levels are counted from the float's, so that floors at different heights need no other datum
    start = np.where(row.depths_m > 0.0, -empty_share * row.depths_m, 0.0)
    start[0] = 0.0
    longest_s = max(LONGEST_LAGS * row.lag_s, 1.0)
    times = np.linspace(0.0, longest_s, POINTS)
    found = solve_ivp(rate, (0.0, longest_s), start, method="LSODA", t_eval=times, rtol=1e-6, atol=CLOSE_M)
    gone = -found.y.T
    last = row.last
    near = np.flatnonzero(gone[:, last] <= LEVEL_SHARE * max(row.depths_m[last], CLOSE_M))
    level_s = None
    if len(near) > 0:
        at = int(near[0])
        level_s = float(times[at])
        if at > 0:
            before, after = gone[at - 1, last], gone[at, last]
            share = (before - LEVEL_SHARE * row.depths_m[last]) / max(before - after, 1e-12)
            level_s = float(times[at - 1] + share * (times[at] - times[at - 1]))
    return Levelling(times_s=times, depths_m=np.asarray(row.depths_m - gone), level_s=level_s)
