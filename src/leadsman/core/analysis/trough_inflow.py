"""What the network brings to troughs while their levels change."""

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from leadsman.core.base.array import Floats, Ints
from leadsman.core.design import FloatValveOutlet
from leadsman.core.physics.float_valve import SHUT_BELOW
from leadsman.core.solver.gradient import AFLOAT, Start, control_rows
from leadsman.core.solver.network import Cases
from leadsman.core.steady.case import Case
from leadsman.core.steady.flow import SolvedNetwork

HARDLY_MOVED = 0.15  # of a float's travel
ENERGY_WITHIN_M = 2e-3  # of the network on the way: far finer than the straight line between
STIFFEST = 1e9  # [m per m3/s]: what hangs on next to nothing answers no more than this


class TroughInflows:
    """What troughs' float valves pass at the levels that they see, the other outlets as in a case; tanks keep theirs.

    The network is solved at the levels that `around` is told; between, what each passes follows its own float
    on a straight line of the head before it against its flow, as the network answers there.
    """

    def __init__(self, model: SolvedNetwork, standing: Case, outlets: Sequence[FloatValveOutlet]) -> None:
        self.model, self.standing = model, standing
        plumbing = model.plumbing
        self.ids = [outlet.id for outlet in outlets]
        valves = [outlet.valve for outlet in outlets]
        self.closes_m, self.band_m = (
            np.array([getattr(valve, key) for valve in valves]) for key in ("closes_at_m", "band_m")
        )
        self.held_shut = np.array([standing.openings[outlet_id] <= 0.0 for outlet_id in self.ids])
        self.links = np.array([plumbing.outlet_link[outlet_id] for outlet_id in self.ids], dtype=np.intp)
        self.nodes = plumbing.network.start[self.links]
        self.scale = np.array([law.scale for law in plumbing.laws])[self.links - len(plumbing.segments)]
        self.cases = self.model.loader.cases([standing])
        self.flows = plumbing.network.guess_m3s[None]
        self.control_state: Ints | None = None  # as it stood when last solved
        self.unreached = self.cases.dead[0, self.nodes]
        self.solved_at: Floats | None = None
        self.head_m = self.flow_m3s = self.gives_m = np.zeros(len(self.ids))

    def around(self, levels_m: Floats) -> None:
        """Solve the network at each valve's level [m] and keep how what it passes answers to its float from there.

        While no float has moved by 15 % of its travel since, what was kept still holds.
        """
        net, solver = self.model.plumbing.network, self.model.plumbing.solver
        opening = self.openings(levels_m)
        if self.solved_at is not None and np.abs(opening - self.solved_at).max() < HARDLY_MOVED:
            return
        if self.solved_at is not None:
            self.flows[0, self.links] = self(levels_m)  # a float that hardly passes takes many steps from afar
        self.solved_at = opening
        cases = self._cases_at(opening)
        start = Start(flows_m3s=self.flows, control_state=self.control_state)
        solution = solver.solve(cases, start, ENERGY_WITHIN_M)
        self.control_state = solution.control_state
        self.flows = np.where(solution.flows_m3s == 0.0, net.guess_m3s, solution.flows_m3s)
        _, slopes = solver.link_losses(cases, solution.flows_m3s)
        closed = cases.closed | solution.shut
        conductance = np.where(closed | solver.is_control, 0.0, 1.0 / slopes)
        rows = control_rows(net, solution.control_state, slopes)
        holds = np.where(cases.dead, 1.0, AFLOAT)
        response = solver.matrix.own_responses(conductance, holds, rows, self.nodes)
        own = conductance[0, self.links]
        air_m = cases.fixed_m[0, net.end[self.links] - net.junctions]
        self.gives_m = np.clip(response / np.maximum(1.0 - own * response, 1e-9), 0.0, STIFFEST)
        self.head_m = np.where(cases.dead[0, self.nodes], 0.0, solution.heads_m[0, self.nodes] - air_m)
        self.flow_m3s = np.maximum(solution.flows_m3s[0, self.links], 0.0)

    def _cases_at(self, opening: Floats) -> Cases:
        """Return the standing case with the floats at openings x [-]."""
        square, closed = self.cases.square.copy(), self.cases.closed.copy()
        square[:, self.links] = self.scale / np.where(opening > 0.0, opening, 1.0) ** 2
        closed[:, self.links] = (opening <= 0.0) | self.unreached
        return replace(self.cases, square=square, closed=closed)

    def openings(self, levels_m: Floats) -> Floats:
        """Return the opening x of each float [-] at its level [m]."""
        share = np.clip((self.closes_m - levels_m) / self.band_m, 0.0, 1.0)
        return np.asarray(np.where(self.held_shut | (share < SHUT_BELOW), 0.0, share))

    def __call__(self, levels_m: Floats) -> Floats:
        """Return what each valve passes [m3/s] at its level [m], near those that `around` was told."""
        opening = self.openings(levels_m)
        law = self.scale / np.maximum(opening, 1e-6) ** 2
        whole_m = np.maximum(self.head_m + self.gives_m * self.flow_m3s, 0.0)
        flow = (np.sqrt(self.gives_m**2 + 4.0 * law * whole_m) - self.gives_m) / (2.0 * law)
        return np.where(opening > 0.0, flow, 0.0)
