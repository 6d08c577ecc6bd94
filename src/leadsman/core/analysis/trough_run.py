"""Mobs at their troughs over time: what they draw against what the network brings, until all is full again."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from leadsman.core.base.array import Floats, Ints
from leadsman.core.base.integrator import run_until
from leadsman.core.base.units import HOUR_S
from leadsman.core.design import FloatValveOutlet, Vessel
from leadsman.core.design.outlet_law import float_valve
from leadsman.core.design.store import shape_of
from leadsman.core.farm.drinking import Drinkers, Mob, out_of_reach_m3
from leadsman.core.physics.float_valve import SHUT_BELOW
from leadsman.core.physics.vessel import Shape, level_m
from leadsman.core.solver.gradient import AFLOAT, Start, control_rows
from leadsman.core.solver.network import Cases
from leadsman.core.steady.case import Case
from leadsman.core.steady.flow import SolvedNetwork

LONGEST_S, LONGEST_STEP_S, FIRST_STEP_S = 12 * HOUR_S, 90.0, 5.0
VOLUME_WITHIN, DRUNK_WITHIN = 2e-4, 2e-4  # of what a trough holds, of what a mob drinks: allowed in one step
RECOVERED_SHARE = 0.99
LEVELS = 257
HARDLY_MOVED = 0.15  # of a float's travel
ENERGY_WITHIN_M = 2e-3  # of the network on the way: far finer than the straight line between
STIFFEST = 1e9  # [m per m3/s]: what hangs on next to nothing answers no more than this


@dataclass(frozen=True, kw_only=True)
class Trough:
    """A vessel that a float valve keeps full, with the mobs that come to it."""

    outlet: FloatValveOutlet
    vessel: Vessel
    mobs: tuple[Mob, ...]


@dataclass(frozen=True, kw_only=True)
class MobRun:
    """How one mob fares: shares of it [-] and times [s]; None where it never comes to that."""

    served_s: float | None
    longest_wait_s: float
    most_waiting_share: float
    left_waiting_share: float


@dataclass(frozen=True, kw_only=True)
class TroughRun:
    """How one trough stands its mobs: levels [m], volumes [m3], times [s]; `times_s` and what goes with it a trace.

    `waiting` and `drinking` are heads over all its mobs, `inflow_m3s` what its valve passes.
    """

    trough: Trough
    mobs: tuple[MobRun, ...]
    full_m3: float
    lowest_level_m: float
    lowest_m3: float
    runs_empty: bool
    recovered_s: float | None
    times_s: Floats
    levels_m: Floats
    waiting: Floats
    drinking: Floats
    inflow_m3s: Floats


class Inflows:
    """What the network brings to each trough at their levels, the other outlets as in a case; tanks keep theirs.

    The network is solved at the levels that `around` is told; between, each trough's inflow follows its own float
    on a straight line of the head before it against its flow, as the network answers there.
    """

    def __init__(self, model: SolvedNetwork, standing: Case, troughs: Sequence[Trough]) -> None:
        self.model, self.standing = model, standing
        plumbing = model.plumbing
        self.ids = [trough.outlet.id for trough in troughs]
        valves = [trough.outlet.valve for trough in troughs]
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
        """Solve the network at levels [m] and keep how each trough's inflow answers to its float from there.

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
        """Return the standing case with the troughs' floats at openings x [-]."""
        square, closed = self.cases.square.copy(), self.cases.closed.copy()
        square[:, self.links] = self.scale / np.where(opening > 0.0, opening, 1.0) ** 2
        closed[:, self.links] = (opening <= 0.0) | self.unreached
        return replace(self.cases, square=square, closed=closed)

    def openings(self, levels_m: Floats) -> Floats:
        """Return the opening x of each float [-] at its level [m]."""
        share = np.clip((self.closes_m - levels_m) / self.band_m, 0.0, 1.0)
        return np.asarray(np.where(self.held_shut | (share < SHUT_BELOW), 0.0, share))

    def __call__(self, levels_m: Floats) -> Floats:
        """Return the inflow of each trough [m3/s] at their levels [m], near those that `around` was told."""
        opening = self.openings(levels_m)
        law = self.scale / np.maximum(opening, 1e-6) ** 2
        whole_m = np.maximum(self.head_m + self.gives_m * self.flow_m3s, 0.0)
        flow = (np.sqrt(self.gives_m**2 + 4.0 * law * whole_m) - self.gives_m) / (2.0 * law)
        return np.where(opening > 0.0, flow, 0.0)


def trough_runs(model: SolvedNetwork, standing: Case, troughs: Sequence[Trough]) -> list[TroughRun]:
    """Return how each trough fares when all mobs come at once, from full troughs until all are served and full again.

    Args:
        standing: what else draws, and where the tanks stand: they keep their levels here.
    Stopping: all but half an animal of each mob have drunk and each trough is within 1 % of full; or 12 hours.
    """
    return _Run(model, standing, troughs).result()


def _level_table_m(shape: Shape) -> Floats:
    """Return the levels [m] at even volumes, from empty to full."""
    whole = shape.volume_m3(shape.height_m)
    return np.array([level_m(shape, volume) for volume in np.linspace(0.0, whole, LEVELS).tolist()])


class _Run:
    def __init__(self, model: SolvedNetwork, standing: Case, troughs: Sequence[Trough]) -> None:
        self.troughs, self.inflows = list(troughs), Inflows(model, standing, troughs)
        shapes = [shape_of(trough.vessel) for trough in troughs]
        self.full_m = np.array(
            [min(float_valve(trough.outlet).full_level_m, trough.vessel.brim_m) for trough in troughs], dtype=float
        )
        whole = [shape.volume_m3(shape.height_m) for shape in shapes]
        self.per_m3 = (LEVELS - 1) / np.array(whole)
        alike = {repr(shape): shape for shape in shapes}
        tables = {name: _level_table_m(shape) for name, shape in alike.items()}
        self.level_table_m = np.array([tables[repr(shape)] for shape in shapes])
        self.full_m3 = np.array([shape.volume_m3(level) for shape, level in zip(shapes, self.full_m, strict=True)])
        self.of_mob = np.array([index for index, trough in enumerate(troughs) for _ in trough.mobs], dtype=np.intp)
        mobs = [mob for trough in troughs for mob in trough.mobs]
        self.out_of_reach_m3 = np.array([out_of_reach_m3(trough.vessel) for trough in troughs])
        self.drinkers = Drinkers(mobs, self.full_m3[self.of_mob], self.out_of_reach_m3[self.of_mob])
        self.whole = self.drinkers.heads * self.drinkers.draught
        self.count = len(troughs)
        self.rows = np.arange(self.count)

    def levels_m(self, volumes_m3: Floats) -> Floats:
        place = np.clip(volumes_m3 * self.per_m3, 0.0, LEVELS - 1.0)
        below = np.minimum(place.astype(np.intp), LEVELS - 2)
        low = self.level_table_m[self.rows, below]
        return np.asarray(low + (place - below) * (self.level_table_m[self.rows, below + 1] - low))

    def rate(self, state: Floats) -> Floats:
        volumes, drunk = np.maximum(state[: self.count], 0.0), state[self.count : -1]
        draw = self.drinkers.draw_m3s(float(state[-1]), drunk, volumes[self.of_mob])
        change = self.inflows(self.levels_m(volumes)) - np.bincount(self.of_mob, draw, self.count)
        return np.concatenate([change, draw, [1.0]])

    def before_step(self, state: Floats) -> None:
        self.inflows.around(self.levels_m(np.maximum(state[: self.count], 0.0)))

    def left(self, state: Floats) -> float:
        """Return what is left to do, as a share; 0 and below where all are served and full again."""
        drunk = 1.0 - state[self.count : -1] / self.whole - 0.5 / self.drinkers.heads
        lacking = RECOVERED_SHARE - state[: self.count] / self.full_m3
        return float(max(drunk.max(), lacking.max()))

    def result(self) -> list[TroughRun]:
        start = np.concatenate([self.full_m3, np.zeros(len(self.whole)), [0.0]])
        allowed = np.concatenate([VOLUME_WITHIN * self.full_m3, DRUNK_WITHIN * self.whole, [1e-3]])
        reached = run_until(
            self.rate,
            start,
            self.left,
            LONGEST_S,
            FIRST_STEP_S,
            0.0,
            allowed,
            longest_step_s=LONGEST_STEP_S,
            before_step=self.before_step,
        )
        times, volumes = reached.times_s, np.maximum(reached.states[:, : self.count], 0.0)
        drunk = reached.states[:, self.count : -1]
        levels = np.array([self.levels_m(row) for row in volumes])
        inflow = self._inflows_of(times, volumes, drunk, levels)
        drinking = self.drinkers.drinking(times, drunk)
        present = np.maximum(self.drinkers.arrived(times) - drunk / self.drinkers.draught, 0.0)
        return [
            self._trough(index, times, volumes, levels, inflow, drunk, drinking, present) for index in range(self.count)
        ]

    def _inflows_of(self, times: Floats, volumes: Floats, drunk: Floats, levels: Floats) -> Floats:
        """Return what came in over each recorded step [m3/s]: by what was drunk and what is there."""
        taken = np.zeros_like(volumes)
        np.add.at(taken.T, self.of_mob, drunk.T)
        came = np.diff(volumes + taken, axis=0) / np.diff(times)[:, None]
        return np.concatenate([came, came[-1:]]) if len(came) else np.zeros_like(levels)

    def _trough(
        self, index: int, times: Floats, volumes: Floats, levels: Floats, inflow: Floats, drunk: Floats,
        drinking: Floats, present: Floats,
    ) -> TroughRun:  # fmt: skip
        own = np.flatnonzero(self.of_mob == index)
        lowest = int(volumes[:, index].argmin())
        wanted = RECOVERED_SHARE * self.full_m3[index] * (1.0 - 1e-9)
        again = np.flatnonzero(volumes[lowest:, index] >= wanted)
        runs = tuple(self._mob(mob, times, drunk, (present - drinking)[:, mob]) for mob in own.tolist())
        return TroughRun(
            trough=self.troughs[index],
            mobs=runs,
            full_m3=float(self.full_m3[index]),
            lowest_level_m=float(levels[lowest, index]),
            lowest_m3=float(volumes[lowest, index]),
            runs_empty=bool(
                volumes[lowest, index] - self.out_of_reach_m3[index] <= self.drinkers.nearly_empty[own].max(initial=0.0)
            ),
            recovered_s=_crossing_s(times, volumes[:, index], lowest + int(again[0]), wanted) if len(again) else None,
            times_s=times,
            levels_m=levels[:, index],
            waiting=(present - drinking)[:, own].sum(axis=1),
            drinking=drinking[:, own].sum(axis=1),
            inflow_m3s=inflow[:, index],
        )

    def _mob(self, mob: int, times: Floats, drunk: Floats, waiting: Floats) -> MobRun:
        heads = float(self.drinkers.heads[mob])
        done = 1.0 - 0.5 / heads - drunk[:, mob] / self.whole[mob]
        served = np.flatnonzero(done <= 0.0)
        waits = self.drinkers.waits_s(times, drunk, mob)
        return MobRun(
            served_s=float(np.interp(0.0, -done, times)) if len(served) else None,
            longest_wait_s=float(waits.max()),
            most_waiting_share=float(waiting.max() / heads),
            left_waiting_share=float((waits > self.drinkers.mobs[mob].patience_s).mean()),
        )


def _crossing_s(times: Floats, volumes: Floats, after: int, wanted_m3: float) -> float:
    """Return when a volume comes to be what is wanted [s], on a straight line over the step that ends at `after`."""
    if after == 0 or volumes[after] <= volumes[after - 1]:
        return float(times[after])
    share = (wanted_m3 - volumes[after - 1]) / (volumes[after] - volumes[after - 1])
    return float(times[after - 1] + max(share, 0.0) * (times[after] - times[after - 1]))
