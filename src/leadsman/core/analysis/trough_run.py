"""Mobs at their troughs over time: what they draw against what the network brings, until all is full again."""

from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np

from leadsman.core.analysis.trough_inflow import TroughInflows
from leadsman.core.base.array import Floats
from leadsman.core.base.integrator import run_until
from leadsman.core.base.units import HOUR_S
from leadsman.core.design import FloatValveOutlet, Vessel
from leadsman.core.design.outlet_law import float_valve
from leadsman.core.design.store import shape_of
from leadsman.core.farm.drinking import Mob, out_of_reach_m3
from leadsman.core.farm.mob_queue import MobQueues
from leadsman.core.physics.vessel import Shape, level_m
from leadsman.core.steady.case import Case
from leadsman.core.steady.flow import SolvedNetwork

LONGEST_S, LONGEST_STEP_S, FIRST_STEP_S = 12 * HOUR_S, 90.0, 5.0
SHORTEST_STEP_S, STEPS_A_DRAUGHT = 0.25, 8.0
HALVINGS = 24
VOLUME_WITHIN = 2e-4  # of what a trough holds: allowed in one step
RECOVERED_SHARE = 0.99
LEVELS = 257


@dataclass(frozen=True, kw_only=True)
class Trough:
    """A vessel that float valves keep full, with the mobs that come to it."""

    outlets: tuple[FloatValveOutlet, ...]
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


def trough_runs(model: SolvedNetwork, standing: Case, troughs: Sequence[Trough]) -> list[TroughRun]:
    """Return how each trough fares when all mobs arrive together, from full until all are served and full again.

    Args:
        standing: what else draws, and where the tanks stand: they keep their levels here.
    Stopping: every animal has drunk and each trough is within 1 % of full; or 12 hours.
    """
    return _Run(model, standing, troughs).result()


def _level_table_m(shape: Shape) -> Floats:
    """Return the levels [m] at even volumes, from empty to full."""
    whole = shape.volume_m3(shape.height_m)
    return np.array([level_m(shape, volume) for volume in np.linspace(0.0, whole, LEVELS).tolist()])


@dataclass
class _Record:
    """What is kept of each step: time [s], volumes and clocks [m3], animals that wait and drink, what comes in [m3/s].

    What comes in is that of the step that ends at the time.
    """

    times_s: list[float] = field(default_factory=list)
    volumes_m3: list[Floats] = field(default_factory=list)
    clocks_m3: list[Floats] = field(default_factory=list)
    waiting: list[Floats] = field(default_factory=list)
    drinking: list[Floats] = field(default_factory=list)
    came_m3: list[Floats] = field(default_factory=list)


class _Run:
    def __init__(self, model: SolvedNetwork, standing: Case, troughs: Sequence[Trough]) -> None:
        self.troughs = list(troughs)
        valves = [(index, outlet) for index, trough in enumerate(troughs) for outlet in trough.outlets]
        self.of_valve = np.array([index for index, _ in valves], dtype=np.intp)
        self.inflows = TroughInflows(model, standing, [outlet for _, outlet in valves])
        shapes = [shape_of(trough.vessel) for trough in troughs]
        self.full_m = np.array(
            [
                min(max(float_valve(outlet).full_level_m for outlet in trough.outlets), trough.vessel.brim_m)
                for trough in troughs
            ],
            dtype=float,
        )
        whole = [shape.volume_m3(shape.height_m) for shape in shapes]
        self.per_m3 = (LEVELS - 1) / np.array(whole)
        alike = {repr(shape): shape for shape in shapes}
        tables = {name: _level_table_m(shape) for name, shape in alike.items()}
        self.level_table_m = np.array([tables[repr(shape)] for shape in shapes])
        self.full_m3 = np.array([shape.volume_m3(level) for shape, level in zip(shapes, self.full_m, strict=True)])
        self.of_mob = np.array([index for index, trough in enumerate(troughs) for _ in trough.mobs], dtype=np.intp)
        self.mobs = [mob for trough in troughs for mob in trough.mobs]
        self.queues = MobQueues(self.mobs)
        self.out_of_reach_m3 = np.array([out_of_reach_m3(trough.vessel) for trough in troughs])
        self.count = len(troughs)
        self.rows = np.arange(self.count)
        self.ran_short = np.zeros(self.count, dtype=bool)
        self.record = _Record()

    def levels_m(self, volumes_m3: Floats) -> Floats:
        place = np.clip(volumes_m3 * self.per_m3, 0.0, LEVELS - 1.0)
        below = np.minimum(place.astype(np.intp), LEVELS - 2)
        low = self.level_table_m[self.rows, below]
        return np.asarray(low + (place - below) * (self.level_table_m[self.rows, below + 1] - low))

    def inflow_m3s(self, volumes_m3: Floats) -> Floats:
        """Return what comes into each trough at a volume [m3/s]."""
        passed = self.inflows(self.levels_m(np.maximum(volumes_m3, 0.0))[self.of_valve])
        return np.asarray(np.bincount(self.of_valve, passed, self.count), dtype=float)

    def around(self, volumes_m3: Floats) -> None:
        """Set up what comes in around some volumes [m3]."""
        self.inflows.around(self.levels_m(np.maximum(volumes_m3, 0.0))[self.of_valve])

    def result(self) -> list[TroughRun]:
        volumes = self._drink(self.full_m3.copy())
        self._fill_again(volumes)
        record = self.record
        times, clocks = np.array(record.times_s), np.array(record.clocks_m3)
        volumes_m3, waiting = np.array(record.volumes_m3), np.array(record.waiting)
        levels_m = np.array([self.levels_m(row) for row in volumes_m3])
        mobs = [self._mob(mob, times, clocks, waiting[:, mob]) for mob in range(len(self.mobs))]
        return [
            self._trough(index, times, volumes_m3[:, index], levels_m[:, index], waiting, mobs)
            for index in range(self.count)
        ]

    def _drink(self, volumes: Floats) -> Floats:
        """Let all mobs drink and return what is then in each trough [m3]: until all have drunk, or 12 hours."""
        queues, time, step = self.queues, 0.0, 0.0
        queues.let_come(0.0, 0.0)
        self._keep(0.0, volumes, np.zeros(self.count))
        eighth_s = queues.draught_m3 / queues.rate_m3s / STEPS_A_DRAUGHT
        while not queues.are_served and time < LONGEST_S:
            step = self._step_s(time, step, eighth_s)
            queues.let_come(time, time + step)
            self.around(volumes)
            volumes, came = self._after(volumes, step)
            time += step
            self._keep(time, volumes, came)
        return volumes

    def _step_s(self, time_s: float, before_s: float, eighth_s: Floats) -> float:
        """Return how long the next step is [s]: an eighth of a draught, longer while a trough is empty."""
        record, active = self.record, self.queues.left_m3 > 0.0
        share = np.ones(len(self.mobs))
        if before_s > 0.0:
            share = (record.clocks_m3[-1] - record.clocks_m3[-2]) / (self.queues.rate_m3s * before_s)
        wanted = float((eighth_s / np.maximum(share, 1e-3))[active].min(initial=LONGEST_STEP_S))
        most = 2.0 * before_s if before_s > 0.0 else 1.0
        return min(max(wanted, SHORTEST_STEP_S), max(most, SHORTEST_STEP_S), LONGEST_STEP_S, LONGEST_S - time_s)

    def _after(self, volumes: Floats, step_s: float) -> tuple[Floats, Floats]:
        """Return what is in each trough after a step, and what came into it [m3]; the clocks of the mobs run on.

        Where there is not water enough, all that drink there take less of it alike.
        """
        queues, before = self.queues, self.queues.drunk_m3(self.queues.clock_m3)
        gained = queues.rate_m3s * step_s

        def draw_m3(share: Floats) -> Floats:
            drunk = queues.drunk_m3(queues.clock_m3 + share[self.of_mob] * gained) - before
            return np.asarray(np.bincount(self.of_mob, drunk, self.count), dtype=float)

        share = np.ones(self.count)
        wanted = draw_m3(share)
        there = np.maximum(volumes - self.out_of_reach_m3, 0.0)
        comes = step_s * self.inflow_m3s(np.minimum(volumes, volumes - np.minimum(wanted, there)))
        short = wanted > there + comes
        if short.any():
            self.ran_short |= short
            low, high = np.where(short, 0.0, 1.0), share
            for _ in range(HALVINGS):
                share = np.where(short, (low + high) / 2.0, 1.0)
                enough = draw_m3(share) <= there + comes
                low, high = np.where(enough, share, low), np.where(enough, high, share)
            share = np.where(short, low, 1.0)
        drawn = draw_m3(share)
        queues.clock_m3 = queues.clock_m3 + share[self.of_mob] * gained
        after = self._filled_m3(volumes, drawn, step_s)
        return after, after - volumes + drawn

    def _filled_m3(self, volumes: Floats, drawn_m3: Floats, step_s: float) -> Floats:
        """Return what is in each trough after a step, what comes in being the mean of that before and after [m3].

        Where that would bring it over its full level, what comes in at the end of the step counts for all of it.
        """
        half_m3 = step_s / 2.0 * self.inflow_m3s(volumes)
        after = self._level_off(volumes - drawn_m3 + half_m3, step_s / 2.0)
        over = after > self.full_m3
        return np.where(over, self._level_off(volumes - drawn_m3, step_s), after) if over.any() else after

    def _level_off(self, volumes: Floats, step_s: float) -> Floats:
        """Return the volume [m3] that is another one and what comes in over a time at the volume itself."""
        low, most = volumes, step_s * self.inflow_m3s(volumes)
        high = low + most
        least = step_s * self.inflow_m3s(high)
        if np.all(most - least <= VOLUME_WITHIN * self.full_m3):
            return np.asarray(low + (most + least) / 2.0)
        for _ in range(HALVINGS):
            middle = (low + high) / 2.0
            more = volumes + step_s * self.inflow_m3s(middle) > middle
            low, high = np.where(more, middle, low), np.where(more, high, middle)
        return np.asarray((low + high) / 2.0)

    def _fill_again(self, volumes: Floats) -> None:
        """Let the troughs fill, nobody drinking, until each is within 1 % of full; or until 12 hours from the start."""
        since = self.record.times_s[-1]
        wanted = RECOVERED_SHARE * self.full_m3

        def lacking(state: Floats) -> float:
            return float(((wanted - state) / self.full_m3).max())

        if since >= LONGEST_S or lacking(volumes) <= 0.0:
            return
        reached = run_until(
            self.inflow_m3s,
            volumes,
            lacking,
            LONGEST_S - since,
            FIRST_STEP_S,
            0.0,
            VOLUME_WITHIN * self.full_m3,
            longest_step_s=LONGEST_STEP_S,
            before_step=self.around,
        )
        for time, before, state in zip(reached.times_s[1:].tolist(), reached.states, reached.states[1:], strict=False):
            self._keep(since + time, state, state - before)

    def _keep(self, time_s: float, volumes: Floats, came_m3: Floats) -> None:
        waiting, drinking = self.queues.waiting()
        record = self.record
        record.times_s.append(time_s)
        record.volumes_m3.append(np.maximum(volumes, 0.0))
        record.clocks_m3.append(self.queues.clock_m3)
        record.waiting.append(waiting)
        record.drinking.append(drinking)
        record.came_m3.append(came_m3)

    def _trough(
        self, index: int, times: Floats, inside: Floats, levels: Floats, waiting: Floats, mobs: list[MobRun]
    ) -> TroughRun:
        own = np.flatnonzero(self.of_mob == index)
        lowest = int(inside.argmin())
        wanted = RECOVERED_SHARE * self.full_m3[index] * (1.0 - 1e-9)
        again = np.flatnonzero(inside[lowest:] >= wanted)
        took = np.diff(times)
        came = np.array(self.record.came_m3)[1:, index] / took if len(took) else np.zeros(0)
        return TroughRun(
            trough=self.troughs[index],
            mobs=tuple(mobs[mob] for mob in own.tolist()),
            full_m3=float(self.full_m3[index]),
            lowest_level_m=float(levels[lowest]),
            lowest_m3=float(inside[lowest]),
            runs_empty=bool(self.ran_short[index]),
            recovered_s=_crossing_s(times, inside, lowest + int(again[0]), wanted) if len(again) else None,
            times_s=times,
            levels_m=levels,
            waiting=waiting[:, own].sum(axis=1),
            drinking=np.array(self.record.drinking)[:, own].sum(axis=1),
            inflow_m3s=np.concatenate([came, came[-1:]]) if len(came) else np.zeros(1),
        )

    def _mob(self, mob: int, times: Floats, clocks: Floats, waiting: Floats) -> MobRun:
        queues, heads = self.queues, int(self.queues.heads[mob])
        starts = queues.starts_m3[mob, :heads]
        begins_s = queues.times_of_m3(mob, starts, times, clocks)
        ends_s = queues.times_of_m3(mob, starts + queues.draught_m3[mob], times, clocks)
        waits = np.maximum(begins_s - queues.comes_s[mob, :heads], 0.0)
        served = float(ends_s.max(initial=0.0))
        return MobRun(
            served_s=served if np.isfinite(served) else None,
            longest_wait_s=float(waits.max(initial=0.0)),
            most_waiting_share=float(waiting.max() / heads),
            left_waiting_share=float((waits > self.mobs[mob].patience_s).mean()),
        )


def _crossing_s(times: Floats, volumes: Floats, after: int, wanted_m3: float) -> float:
    """Return when a volume comes to be what is wanted [s], on a straight line over the step that ends at `after`."""
    if after == 0 or volumes[after] <= volumes[after - 1]:
        return float(times[after])
    share = (wanted_m3 - volumes[after - 1]) / (volumes[after] - volumes[after - 1])
    return float(times[after - 1] + max(share, 0.0) * (times[after] - times[after - 1]))
