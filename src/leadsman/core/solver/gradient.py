"""The global-gradient method: heads and flows of pipe networks, many cases at once.

Newton's method on every link's energy and every junction's mass together, with the flows eliminated, so
that one symmetric matrix of the junctions is factored in each step (Todini & Pilati 1988). Links that
pass one way and controls change state between steps, as the present heads and flows say; a state is
part of the answer, and nothing counts as converged while one still changes.
"""

from dataclasses import dataclass

import numpy as np

from leadsman.core.base.array import Bools, Floats, Ints
from leadsman.core.base.cancel import CancelCheck, never_cancelled
from leadsman.core.solver.matrix import Matrix
from leadsman.core.solver.network import Cases, Control, Network
from leadsman.core.solver.still_part import settle_still_parts

MASS_WITHIN_M3S = 1e-15
MASS_WITHIN_SHARE = 1e-12  # of the largest flow: what arithmetic itself loses
ENERGY_WITHIN_M = 1e-8
MOST_ITERATIONS = 60
LEAST_SLOPE = 1e-5  # [m per m3/s]: below any pipe's; keeps a lossless link's conductance finite
DROOP = 1e-6  # [m per m3/s]: a kept head gives way by this, so that no setting asks for the impossible
HASTY_STEPS = 12
SETTLED_WITHIN_M = 1e-3
PATIENCE = 4  # steps after which a case changes though it has not settled: as it is, it may have no answer
SETTLED_WITHIN_M3S = 1e-7
# what holds a junction's head in one step [m3/s per m]: nothing at rest, but a part that hangs behind closed links,
# with water forced into it or out of it until some link opens, must not fly off
AFLOAT, AFLOAT_AT_FIRST = 1e-14, 1e-9
FAR_M = 1e5  # no head moves farther in one step
OPENS_OVER_M = 1e-9
RESTS_WITHIN_M = 1e-7  # a one-way link without flow may be this much off
CLOSES_UNDER_M3S = 1e-13
GROWS_AT_MOST = 8.0  # times its flow or its usual flow, in one step: keeps a start from nothing from flying off
CHANGES_AT_MOST = 4.0  # times in one step, what a pump gives whose curve is steeper the less it gives, as a ram's
BESIDE_LEVEL = 1.001
CLOSED, KEEPING, OPEN = 0, 1, 2


@dataclass(frozen=True, kw_only=True)
class Start:
    """What a solution starts from; each broadcast to (cases, links), the state to (cases, controls).

    Flows [m3/s] without the states that belong to them are a poor start: controls and one-way links that stand wrongly
    are put right one at a time. The default state is how controls mostly stand, and no one-way link shut.
    """

    flows_m3s: Floats
    control_state: Ints | None = None
    shut: Bools | bool = False


@dataclass(frozen=True, kw_only=True)
class Solution:
    """Heads [m] of all nodes, shape (cases, junctions + fixed), flows [m3/s], shape (cases, links), and how it ended.

    `shut` tells one-way links that are pressed shut, `settling` links without flow whose one side decides the head
    that stands on the other (see `settle_still_parts`); `control_state` is CLOSED, KEEPING (its setting) or
    OPEN; `mass_error` [m3/s] and `energy_error` [m] are the largest of each case.
    """

    heads_m: Floats
    flows_m3s: Floats
    shut: Bools
    settling: Bools
    control_state: Ints
    converged: Bools
    iterations: Ints
    mass_error_m3s: Floats
    energy_error_m: Floats


class GradientSolver:
    """The method on one network: what depends on its structure alone is worked out once."""

    def __init__(self, network: Network, check_cancelled: CancelCheck = never_cancelled) -> None:
        """Prepare it; `check_cancelled` is called before each step of each solution."""
        self.network, self.check_cancelled = network, check_cancelled
        self.matrix = Matrix(network)
        links, starts = np.unique(network.piece_link, return_index=True)
        self.piece_starts = starts
        self.has_pieces = slice(0, len(links)) if np.array_equal(links, np.arange(len(links))) else links
        self.each_one_piece = len(links) == len(network.piece_link)
        self.is_control = np.zeros(network.links, dtype=bool)
        self.is_control[network.controls] = True

    def solve(self, cases: Cases, start: Start | None = None, energy_within_m: float = ENERGY_WITHIN_M) -> Solution:
        """Return heads and flows of every case.

        Args:
            start: what to start from; default the network's guess.
            energy_within_m: what a link's energy may be off [m] where an answer counts as converged.
        Stopping: mass within 1e-10 m3/s, energy within that and no state changing, or 60 steps.
        """
        run = _Run(self, cases, start or Start(flows_m3s=self.network.guess_m3s), energy_within_m)
        while run.step():
            self.check_cancelled()
        return run.solution()

    def responses(self, case: Cases, solution: Solution, gaps: Floats) -> Floats:
        """Return how the flows of a solved case answer [m3/s] to small changes in which no state changes.

        Args:
            case, solution: one of each, in the first row.
            gaps: what each change adds to the head that drives each link [m], shape (links, sides).
        """
        net, flows = self.network, solution.flows_m3s[:1]
        _, slopes = self.link_losses(case, flows)
        passing = ~(case.closed[0] | solution.shut[0] | self.is_control)
        conductance = np.where(passing, 1.0 / slopes[0], 0.0)[:, None]
        pushed = conductance * gaps
        state = solution.control_state[:1]
        opened = np.where(state[0][:, None] == OPEN, gaps[net.controls], 0.0)
        right = np.concatenate([self.matrix.net_inflow(pushed.T).T, opened])
        holds = np.broadcast_to(np.where(case.dead[:1], 1.0, AFLOAT), (1, net.junctions))
        if not len(right):
            return pushed
        move = self.matrix.answers(conductance.T, holds, control_rows(net, state, slopes), right)
        padded = np.concatenate([move[: net.junctions], np.zeros((net.fixed, gaps.shape[1]))])
        answer: Floats = pushed + conductance * (padded[net.start] - padded[net.end])
        answer[net.controls] = move[net.junctions :]
        return answer

    def link_losses(self, cases: Cases, flows: Floats) -> tuple[Floats, Floats]:
        """Return head loss [m] of each link, negative where a pump lifts more, and its slope [m per m3/s]."""
        net, size = self.network, np.abs(flows)
        losses = cases.square * size
        slopes = 2.0 * losses
        losses *= size
        if len(net.piece_link):
            pieces = self.has_pieces if self.each_one_piece else net.piece_link
            loss, slope = cases.friction(size[:, pieces])
            if not self.each_one_piece:
                loss, slope = (np.add.reduceat(array, self.piece_starts, axis=1) for array in (loss, slope))
            losses[:, self.has_pieces] += loss
            slopes[:, self.has_pieces] += slope
        if len(net.powers):
            through = np.maximum(size[:, net.powers], 1e-12)
            loss = cases.power_scale * through**cases.power_exponent
            losses[:, net.powers] += loss
            slopes[:, net.powers] += cases.power_exponent * loss / through
        losses *= np.sign(flows)
        for pump in net.pumps:
            lift, slope = pump.head_m(np.maximum(flows[:, pump.link], 0.0))
            losses[:, pump.link] -= lift
            slopes[:, pump.link] -= slope
        return losses, np.maximum(slopes, LEAST_SLOPE)


class _Run:
    """One run over all cases; those that have converged rest while the others go on."""

    def __init__(self, solver: GradientSolver, cases: Cases, start: Start, energy_within_m: float) -> None:
        net, count = solver.network, cases.count
        self.energy_within_m = energy_within_m
        self.solver, self.all_cases = solver, cases
        self.rows = np.arange(count)
        self.cases = cases
        shape = (count, net.links)
        self.closed = np.broadcast_to(cases.closed, shape)
        self.flows = np.where(self.closed, 0.0, np.broadcast_to(start.flows_m3s, shape))
        self.shut = (cases.way * self.flows < 0.0) | (start.shut & ~solver.is_control)
        self.flows[self.shut] = 0.0
        top = cases.fixed_m.max(axis=1, keepdims=True) if net.fixed else np.zeros((1, 1))
        self.datum = self.whole_datum = np.broadcast_to(top, (count, 1))  # heads are worked from the highest given
        fixed = np.broadcast_to(cases.fixed_m - self.datum, (count, net.fixed))
        self.heads = np.concatenate([np.zeros((count, net.junctions)), fixed], axis=1)
        state = usual_state(net) if start.control_state is None else start.control_state
        self.state = np.broadcast_to(state, (count, len(net.controls))).copy()
        self.iteration = 0
        self.error_m = self.as_it_is_m = np.full(count, np.inf)
        self.waited = np.zeros(count, dtype=np.intp)
        self.usual_m: Floats | None = None  # loss at the usual flows, once it is asked for
        nowhere = np.full(count, np.inf)
        self.done = Solution(
            heads_m=np.zeros_like(self.heads),
            flows_m3s=np.zeros(shape),
            shut=np.zeros(shape, dtype=bool),
            settling=np.zeros(shape, dtype=bool),
            control_state=np.zeros_like(self.state),
            converged=np.zeros(count, dtype=bool),
            iterations=np.zeros(count, dtype=np.intp),
            mass_error_m3s=nowhere,
            energy_error_m=nowhere.copy(),
        )

    def solution(self) -> Solution:
        self.done.heads_m[...] += self.whole_datum
        return settled(self.solver, self.all_cases, self.done)

    def step(self) -> bool:
        """Take one step; return whether any case is left that has not converged."""
        losses, slopes = self.solver.link_losses(self.cases, self.flows)
        changed = self._change_states(losses) if self.iteration else np.ones(len(self.rows), dtype=bool)
        if self.iteration and changed.any():
            losses, slopes = self.solver.link_losses(self.cases, self.flows)
        passing = ~(self.closed | self.shut | self.solver.is_control)
        gaps = self._energy_gaps(losses)
        mass = self._net_inflow(self.flows) - self.cases.draw_m3s
        mass = np.where(self.cases.dead, 0.0, mass)
        control_gaps = self._control_gaps(gaps)
        resting = (self.cases.way * gaps < RESTS_WITHIN_M) & (np.abs(self.flows) <= CLOSES_UNDER_M3S)
        energy_error = np.abs(np.where(passing & ~resting, gaps, 0.0)).max(axis=1, initial=0.0)
        energy_error = np.maximum(energy_error, np.abs(control_gaps).max(axis=1, initial=0.0))
        mass_error = np.abs(mass).max(axis=1, initial=0.0)
        self.as_it_is_m = np.where(mass_error > SETTLED_WITHIN_M3S, np.inf, energy_error)
        self.error_m = np.where(changed, np.inf, self.as_it_is_m)
        mass_within = MASS_WITHIN_M3S + MASS_WITHIN_SHARE * np.abs(self.flows).max(axis=1, initial=0.0)
        good = (mass_error <= mass_within) & (energy_error <= self.energy_within_m) & ~changed
        ended = good | (self.iteration >= MOST_ITERATIONS)
        if ended.any():
            self._store(np.flatnonzero(ended), good, mass_error, energy_error)
            stay = np.flatnonzero(~ended)
            if not len(stay):
                return False
            self._keep(stay)
            passing, gaps, slopes, mass = passing[stay], gaps[stay], slopes[stay], mass[stay]
            control_gaps = control_gaps[stay]
        self._move(passing, gaps, slopes, mass, control_gaps)
        self.iteration += 1
        return True

    def _move(self, passing: Bools, gaps: Floats, slopes: Floats, mass: Floats, control_gaps: Floats) -> None:
        net = self.solver.network
        conductance = np.where(passing, 1.0 / slopes, 0.0)
        pushed = np.where(passing, conductance * gaps, 0.0)
        right = np.concatenate([mass + self._net_inflow(pushed), control_gaps], axis=1)
        rows = control_rows(net, self.state, slopes)
        afloat = np.where(self.error_m < SETTLED_WITHIN_M, AFLOAT, AFLOAT_AT_FIRST)[:, None]
        holds = np.where(self.cases.dead, 1.0, afloat)
        move = self.solver.matrix.solve(conductance, holds, rows, right)
        np.clip(move, -FAR_M, FAR_M, out=move)
        padded = np.concatenate([move[:, : net.junctions], np.zeros((len(move), net.fixed))], axis=1)
        gained = pushed + conductance * (padded[:, net.start] - padded[:, net.end])
        if any(pump.is_convex for pump in net.pumps):
            share = self._step_share(passing, gained)[:, None]
            move, gained = move * share, gained * share
        self.heads[:, : net.junctions] += move[:, : net.junctions]
        most = GROWS_AT_MOST * np.maximum(np.abs(self.flows), net.guess_m3s)
        self.flows = np.where(passing, np.clip(self.flows + gained, -most, most), self.flows)
        self.flows[:, net.controls] += move[:, net.junctions :]

    def _step_share(self, passing: Bools, gained: Floats) -> Floats:
        """Return how much of a step each case takes [-]: no pump on a convex curve goes too far on it in one.

        Where it gives next to nothing such a curve is level: it is left and come to by a step that ends beside that.
        """
        share = np.ones(len(gained))
        for pump in self.solver.network.pumps:
            if not pump.is_convex:
                continue
            flow, change, level = self.flows[:, pump.link], gained[:, pump.link], pump.flows_m3s[1] * BESIDE_LEVEL
            least = np.where(flow > level, np.maximum(flow / CHANGES_AT_MOST, level), -np.inf)
            allowed = np.clip(change, least - flow, CHANGES_AT_MOST * np.maximum(flow, level) - flow)
            part = np.where(change == 0.0, 1.0, allowed / np.where(change == 0.0, 1.0, change))
            share = np.where(passing[:, pump.link], np.minimum(share, part), share)
        return share

    def _energy_gaps(self, losses: Floats) -> Floats:
        net = self.solver.network
        return np.asarray(self.heads[:, net.start] - self.heads[:, net.end] - losses)

    def _net_inflow(self, flows: Floats) -> Floats:
        return self.solver.matrix.net_inflow(flows)

    def _change_states(self, losses: Floats) -> Bools:
        """Let one-way links and controls open and close as heads and flows say; return which cases are not at rest.

        Where they chase each other in a circle, a case first settles as it is, and then changes one at a time.
        """
        net = self.solver.network
        way = np.where(self.closed | self.solver.is_control, 0, self.cases.way)
        drop = self.heads[:, net.start] - self.heads[:, net.end]
        for pump in net.pumps:
            drop[:, pump.link] += pump.heads_m[0]
        drop *= way
        backwards = ~self.shut & (way * self.flows < -CLOSES_UNDER_M3S)
        opening = self.shut & (drop > OPENS_OVER_M)
        wanted = self._wanted_control_states(losses)
        turning = wanted != self.state
        restless: Bools = (backwards | opening).any(axis=1) | turning.any(axis=1)
        if self.iteration > HASTY_STEPS:
            pressing = np.where(backwards | opening, np.abs(drop), -1.0)
            allowed = ((self.as_it_is_m < SETTLED_WITHIN_M) | (self.waited >= PATIENCE))[:, None]
            first = allowed & (pressing == pressing.max(axis=1, keepdims=True)) & (pressing >= 0.0)
            turning &= allowed & ~first.any(axis=1, keepdims=True) & (np.cumsum(turning, axis=1) == 1)
            backwards, opening = backwards & first, opening & first
            self.waited = np.where(first.any(axis=1) | turning.any(axis=1), 0, self.waited + 1)
        self._turn_links(backwards, opening, drop, way)
        self._turn_controls(np.where(turning, wanted, self.state))
        return restless

    def _turn_links(self, backwards: Bools, opening: Bools, drop: Floats, way: Ints) -> None:
        """Close what runs backwards against its head, and give what opens the flow that its head would drive."""
        net, closing = self.solver.network, backwards & (drop <= OPENS_OVER_M)
        if (backwards | opening).any():
            if self.usual_m is None:
                losses, _ = self.solver.link_losses(self.cases, np.broadcast_to(net.guess_m3s, self.flows.shape))
                self.usual_m = np.maximum(np.abs(losses), LEAST_SLOPE)
            share = np.sqrt(np.maximum(drop, 0.0) / self.usual_m)
            self.flows = np.where(backwards | opening, way * net.guess_m3s * np.minimum(share, 1.0), self.flows)
        self.flows[closing] = 0.0
        self.shut = (self.shut | closing) & ~opening

    def _wanted_control_states(self, losses: Floats) -> Ints:
        net = self.solver.network
        if not len(net.controls):
            return self.state
        setting = self.cases.setting - self.datum
        return wanted_control_states(net, self.cases, setting, self.closed, self.flows, self.heads, losses, self.state)

    def _turn_controls(self, state: Ints) -> None:
        net, self.state = self.solver.network, state
        if not len(net.controls):
            return
        flow = self.flows[:, net.controls]
        least = np.where(net.control_kinds == Control.FIXED_FLOW, -np.inf, 0.0)
        self.flows[:, net.controls] = np.where(state == CLOSED, 0.0, np.maximum(flow, least))

    def _control_gaps(self, gaps: Floats) -> Floats:
        return control_gaps(self.solver.network, self.cases, self.datum, self.flows, self.heads, gaps, self.state)

    def _store(self, ended: Ints, good: Bools, mass_error: Floats, energy_error: Floats) -> None:
        rows, done = self.rows[ended], self.done
        done.heads_m[rows], done.flows_m3s[rows] = self.heads[ended], self.flows[ended]
        done.shut[rows], done.control_state[rows] = self.shut[ended], self.state[ended]
        done.converged[rows], done.iterations[rows] = good[ended], self.iteration
        done.mass_error_m3s[rows], done.energy_error_m[rows] = mass_error[ended], energy_error[ended]

    def _keep(self, stay: Ints) -> None:
        self.rows, self.cases = self.rows[stay], self.cases.take(stay)
        self.heads, self.flows, self.state = self.heads[stay], self.flows[stay], self.state[stay]
        self.closed, self.shut, self.datum = self.closed[stay], self.shut[stay], self.datum[stay]
        self.error_m, self.as_it_is_m = self.error_m[stay], self.as_it_is_m[stay]
        self.waited = self.waited[stay]
        self.usual_m = None if self.usual_m is None else self.usual_m[stay]


def usual_state(network: Network) -> Ints:
    """Return how each control mostly stands: water rarely draws in air, and what is set to a figure mostly keeps it."""
    return np.where(network.control_kinds == Control.SUSTAINER, OPEN, KEEPING)


def control_rows(network: Network, state: Ints, slopes: Floats) -> Floats:
    """Return each control's equation as factors of (head at start, head at end, flow), shape (cases, controls, 3).

    Args:
        state: CLOSED, KEEPING or OPEN of each control, shape (cases, controls).
        slopes: of each link's loss [m per m3/s], shape (cases, links).
    """
    rows = np.zeros((*state.shape, 3))
    if not rows.size:
        return rows
    slope, kinds = slopes[:, network.controls], network.control_kinds
    closed, opened, keeping = state == CLOSED, state == OPEN, state == KEEPING
    reducer, by_flow = kinds == Control.REDUCER, kinds >= Control.FIXED_FLOW
    rows[..., 0] = np.where(opened, -1.0, np.where(keeping & (kinds == Control.SUSTAINER), 1.0, 0.0))
    rows[..., 1] = np.where(opened, 1.0, np.where(keeping & reducer, 1.0, 0.0))
    rows[..., 2] = np.where(opened, slope, np.where(closed | by_flow, 1.0, np.where(reducer, DROOP, -DROOP)))
    return rows


def settled(solver: GradientSolver, cases: Cases, done: Solution) -> Solution:
    """Return a solution with the heads that what lies beyond links at rest decides (`settle_still_parts`)."""
    net, shape = solver.network, done.flows_m3s.shape
    closed = np.broadcast_to(cases.closed, shape)
    doors = np.broadcast_to((cases.way != 0) | solver.is_control, shape) & ~closed
    doors &= np.abs(done.flows_m3s) <= MASS_WITHIN_M3S
    taker = np.where(cases.way >= 0, net.end, net.start)
    resting = (doors & (taker < net.junctions)).any(axis=1)
    if not resting.any():
        return done
    ways = np.broadcast_to(cases.way, shape)
    settings = np.broadcast_to(cases.setting, (len(closed), len(net.controls)))
    for case in np.flatnonzero(resting).tolist():
        heads, settling = done.heads_m[case], done.settling[case]
        settling[settle_still_parts(net, heads, closed[case], doors[case], ways[case], settings[case])] = True
    return done


def wanted_control_states(
    net: Network,
    cases: Cases,
    setting: Floats,
    closed: Bools,
    flows: Floats,
    heads: Floats,
    losses: Floats,
    state: Ints,
) -> Ints:
    """Return how each control should stand by heads and flows [m, m3/s], shape (cases, controls).

    Args:
        setting: the heads that controls keep [m], counted from where `heads` are.
    """
    flow, loss = flows[:, net.controls], losses[:, net.controls]
    up, down = heads[:, net.start[net.controls]], heads[:, net.end[net.controls]]
    reducer, fixed, limiter = (
        net.control_kinds == kind for kind in (Control.REDUCER, Control.FIXED_FLOW, Control.LIMITER)
    )
    target = np.where(reducer, np.minimum(setting, up), np.where(limiter, down, np.maximum(setting, down)))
    reopens = np.where(reducer, target - down, up - target) > OPENS_OVER_M
    enough = np.where(state == KEEPING, up >= down, flow >= cases.setting)
    keeps = np.where(reducer, up - loss >= setting, np.where(limiter, enough, setting >= down + loss))
    passing = np.where(state == CLOSED, reopens, flow >= -CLOSES_UNDER_M3S)
    wanted = np.where(fixed, KEEPING, np.where(passing, np.where(keeps, KEEPING, OPEN), CLOSED))
    return np.where(closed[:, net.controls], CLOSED, wanted)


def control_gaps(
    net: Network, cases: Cases, datum: Floats, flows: Floats, heads: Floats, gaps: Floats, state: Ints
) -> Floats:
    """Return what is missing in each control's own equation: head [m], or flow [m3/s], shape (cases, controls)."""
    if not len(net.controls):
        return np.zeros((len(flows), 0))
    flow = flows[:, net.controls]
    up, down = heads[:, net.start[net.controls]], heads[:, net.end[net.controls]]
    kept = np.where(net.control_kinds == Control.REDUCER, down, up)
    by_flow = net.control_kinds >= Control.FIXED_FLOW
    keeping = np.where(by_flow, cases.setting - flow, cases.setting - datum - kept)
    return np.where(state == CLOSED, -flow, np.where(state == KEEPING, keeping, gaps[:, net.controls]))
