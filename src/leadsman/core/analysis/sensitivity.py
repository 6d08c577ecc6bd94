"""How one head or flow of each solved case moves with every figure of the design.

Newton's matrix at the answer, transposed, gives what one answer owes to each link's energy; each figure acts
through the energy of its own links (the adjoint method). One linear solve a case, however many figures.
"""

from dataclasses import dataclass

import numpy as np

from leadsman.core.base.array import Floats, Ints
from leadsman.core.design.outlet_law import SQUARE
from leadsman.core.solver.gradient import KEEPING, LEAST_SLOPE, OPEN, Solution, control_rows
from leadsman.core.solver.network import Cases, Control
from leadsman.core.steady.loading import Figures, Loader
from leadsman.core.steady.plumbing import Plumbing

NUDGE = 1e-5  # share by which bores and roughness are moved to see the loss change
LEAST_ROUGHNESS_M = 1e-7
STILL_M3S = 1e-13
LEAST_HOLD = 1e-30  # [m3/s per m]: what hangs on nothing at all stays where it is
HARDLY_PASSES = 1e-9  # of a usual conductance: lets a dry outlet show which way it would go


@dataclass(frozen=True, kw_only=True)
class Outputs:
    """One answer for each case: the head at a node [m], less the rise of a place; or the flow of a link [m3/s].

    `node` and `link` are −1 where the answer is the other; `place` is −1 where no place's rise is taken off.
    """

    node: Ints
    link: Ints
    sign: Floats
    place: Ints

    def take(self, rows: Ints) -> "Outputs":
        return Outputs(node=self.node[rows], link=self.link[rows], sign=self.sign[rows], place=self.place[rows])

    def values(self, solution: Solution, figures: Figures) -> Floats:
        """Return the answer of each case."""
        rows = np.arange(len(self.node))
        flow = solution.flows_m3s[rows, np.maximum(self.link, 0)] if solution.flows_m3s.size else 0.0 * self.sign
        rise = np.broadcast_to(figures.place_rise_m, (len(rows), figures.place_rise_m.shape[1]))
        head = solution.heads_m[rows, np.maximum(self.node, 0)]
        head = head - np.where(self.place >= 0, rise[rows, np.maximum(self.place, 0)], 0.0)
        return np.where(self.node >= 0, head, flow) * self.sign


def gradient(loader: Loader, cases: Cases, figures: Figures, solution: Solution, outputs: Outputs) -> Figures:
    """Return the change of each case's answer per unit of every figure, in the shape of the figures."""
    weight, own = _energy_weights(loader.plumbing, cases, solution, outputs)
    plumbing, net = loader.plumbing, loader.plumbing.network
    count, lines = len(weight), len(plumbing.segments)
    given = np.zeros((count, net.junctions + net.fixed))
    np.add.at(given.T, net.start, weight.T)
    np.subtract.at(given.T, net.end, weight.T)
    given += own
    vessels = given[:, net.junctions : net.junctions + len(plumbing.vessels)]
    air = given[:, net.junctions + len(plumbing.vessels) :]
    place = np.zeros((count, figures.place_rise_m.shape[1]))
    np.add.at(place.T, loader.vessel_place, vessels.T)
    np.add.at(place.T, loader.air_place, air.T)
    rows = np.flatnonzero(outputs.place >= 0)
    place[rows, outputs.place[rows]] -= outputs.sign[rows]
    flows = solution.flows_m3s
    square = flows * np.abs(flows)
    fitting = np.zeros((count, figures.fitting_factor.shape[1]))
    taken = cases.square[:, :lines] / figures.fitting_factor[:, loader.segment_line]
    np.subtract.at(fitting.T, loader.segment_line, (weight[:, :lines] * taken * square[:, :lines]).T)
    opens = slice(lines, lines + len(plumbing.to_air))
    kv = 2.0 * weight[:, opens] * cases.square[:, opens] * square[:, opens] / figures.kv_factor
    bore, rough = _pipe_gradients(loader, cases, figures, flows, weight)
    return Figures(
        place_rise_m=place,
        level_rise_m=vessels,
        bore_m=bore,
        roughness_m=rough,
        fitting_factor=fitting,
        kv_factor=np.where(loader.law_exponent == SQUARE, kv, 0.0),
        blocked_per_flow2=np.zeros((count, len(plumbing.layout.design.lines))),
    )


def _energy_weights(plumbing: Plumbing, cases: Cases, solution: Solution, outputs: Outputs) -> tuple[Floats, Floats]:
    """Return what each answer owes to each link's energy, shape (cases, links), and to each node's head as such."""
    solver, net = plumbing.solver, plumbing.network
    count = len(solution.flows_m3s)
    _, slopes = solver.link_losses(cases, solution.flows_m3s)
    conductance = 1.0 / np.maximum(slopes, LEAST_SLOPE)
    shape = conductance.shape
    barely = HARDLY_PASSES * net.guess_m3s
    closed = np.broadcast_to(cases.closed, shape)
    still = np.abs(solution.flows_m3s) <= STILL_M3S
    conductance = np.where(closed, 0.0, np.where(still & (cases.way != 0), barely, conductance))
    conductance = np.where(solution.settling, 1.0 / LEAST_SLOPE, conductance)
    through = conductance.copy()
    conductance[:, net.controls] = 0.0
    state = _settled_states(plumbing, cases, solution)
    equations = control_rows(net, state, np.where(solution.settling, LEAST_SLOPE, slopes))
    right = np.zeros((count, net.junctions + len(net.controls)))
    own = np.zeros((count, net.junctions + net.fixed))
    start, end = net.start[np.maximum(outputs.link, 0)], net.end[np.maximum(outputs.link, 0)]
    control = np.full(net.links, -1)
    control[net.controls] = np.arange(len(net.controls))
    for row in range(count):
        sign = outputs.sign[row]
        if outputs.node[row] >= 0:
            own[row, outputs.node[row]] = sign
        elif control[outputs.link[row]] >= 0:
            right[row, net.junctions + control[outputs.link[row]]] = sign
        else:
            passes = sign * through[row, outputs.link[row]]
            own[row, start[row]] += passes
            own[row, end[row]] -= passes
    right[:, : net.junctions] = own[:, : net.junctions]
    holds = np.where(np.broadcast_to(cases.dead, own[:, : net.junctions].shape), 1.0, LEAST_HOLD)
    owed = solver.matrix.solve(conductance, holds, equations, right, transposed=True)
    padded = np.concatenate([owed[:, : net.junctions], np.zeros((count, net.fixed))], axis=1)
    weight = conductance * (padded[:, net.end] - padded[:, net.start])
    weight[:, net.controls] = np.where(state == OPEN, owed[:, net.junctions :], 0.0)
    for row in np.flatnonzero(outputs.node < 0).tolist():
        if control[outputs.link[row]] < 0:
            weight[row, outputs.link[row]] += outputs.sign[row] * through[row, outputs.link[row]]
    # heads given move the answer through the energy of their links, and where they are the answer itself
    own[outputs.node < 0] = 0.0
    own[:, : net.junctions] = 0.0
    return weight, own


def _settled_states(plumbing: Plumbing, cases: Cases, solution: Solution) -> Ints:
    """Return the states of controls, of those without flow that one which decides the head behind them."""
    net = plumbing.network
    setting = np.broadcast_to(cases.setting, solution.control_state.shape)
    ahead = solution.heads_m[:, net.start[net.controls]]
    holding = (net.control_kinds == Control.REDUCER) & (ahead >= setting)
    decided = np.where(holding, KEEPING, OPEN)
    return np.where(solution.settling[:, net.controls], decided, solution.control_state)


def _pipe_gradients(
    loader: Loader, cases: Cases, figures: Figures, flows: Floats, weight: Floats
) -> tuple[Floats, Floats]:
    plumbing, net = loader.plumbing, loader.plumbing.network
    count, reach = len(weight), plumbing.piece_reach
    through = np.abs(flows[:, net.piece_link])
    sign = np.sign(flows[:, net.piece_link]) * weight[:, net.piece_link]
    loss = cases.friction(through)[0]
    bore, rough = np.zeros((count, len(plumbing.reaches))), np.zeros((count, len(plumbing.reaches)))
    wider = Figures(**{**vars(figures), "bore_m": figures.bore_m * (1.0 + NUDGE)})
    by_bore = (loader.friction(plumbing, wider)(through)[0] - loss) / (figures.bore_m[:, reach] * NUDGE)
    step = NUDGE * figures.roughness_m + LEAST_ROUGHNESS_M * NUDGE
    rougher = Figures(**{**vars(figures), "roughness_m": figures.roughness_m + step})
    by_roughness = (loader.friction(plumbing, rougher)(through)[0] - loss) / step[:, reach]
    np.subtract.at(bore.T, reach, (sign * by_bore).T)
    np.subtract.at(rough.T, reach, (sign * by_roughness).T)
    lines = len(plumbing.segments)
    first = loader.first_reach[loader.segment_line]
    nominal = np.array([segment.bore_m for segment in plumbing.segments])
    on_bore = (
        loader.on_bore * (nominal / figures.bore_m[:, first]) ** 4 * figures.fitting_factor[:, loader.segment_line]
    )
    lumped = 4.0 * on_bore / figures.bore_m[:, first] * flows[:, :lines] * np.abs(flows[:, :lines])
    np.add.at(bore.T, first, (weight[:, :lines] * lumped).T)
    return bore, rough
