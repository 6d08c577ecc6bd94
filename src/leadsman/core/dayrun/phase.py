"""One phase of a run, in which the plan stays as it is: steps that stiff floats do not shorten, edges met exactly."""

import math
from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from leadsman.core.base.array import Floats
from leadsman.core.base.units import HOUR_S
from leadsman.core.dayrun.balance import Balance, Edge, Modes, Rates
from leadsman.core.dayrun.hydraulics import NoAnswer
from leadsman.core.dayrun.record import Event, State, Told, Watch
from leadsman.core.dayrun.schedule import Schedule
from leadsman.core.dayrun.spell import Spell

GAMMA = 1.0 - 1.0 / 2.0**0.5
WITHIN = 1e-3  # of what a vessel holds: what one step may be off a straight line
MEANT_OVER = 10  # vessels at most, of whose errors the root mean square is taken
FIRST_STEP_S, LONGEST_STEP_S, SHORTEST_STEP_S = 10.0, 6.0 * HOUR_S, 1e-6
NUDGE = 2e-3  # of what a vessel holds, to see how rates answer
AT_EDGE = 1e-9  # of what a vessel holds
STILL_M3S = 1e-12
MOST_STEPS = 200_000
ROUNDS = 8
MET = 20  # times to be told: so few are met exactly, more lie on straight lines between steps
SIPHON, NO_ANSWER, STEPS = "siphon", "no-answer", "steps"  # why a phase ended early
STEPS_HELD = 8  # for how many steps the answer of the rates to volumes is taken to hold


class Phase:
    """A run from one time to another [s], from a state on, which it changes.

    After `run`: `events`, `told`, `summed` (all rates over time [m3]), `beside_m3` (what ran beside the network), and
    `ended_s` and `why` where it ended early.
    """

    def __init__(
        self,
        balance: Balance,
        spells: Sequence[Spell],
        begins_s: float,
        ends_s: float,
        state: State,
        wanted_s: Sequence[float],
        watch: Watch,
    ) -> None:
        self.balance, self.state, self.watch = balance, state, watch
        self.begins_s, self.ends_s = begins_s, ends_s
        self.wanted = list(wanted_s)
        met = self.wanted if len(self.wanted) <= MET else []
        self.schedule = Schedule(spells, begins_s, ends_s, state, balance.number, met)
        self.volumes = state.volumes_m3
        self.holds = np.maximum(balance.brim_m3, 1e-9)
        giving = set(np.flatnonzero(balance.gives & (self.volumes > balance.outlet_m3)).tolist())
        at_m3 = {Edge.BRIM: balance.brim_m3, Edge.OUTLET: balance.outlet_m3, Edge.FLOOR: np.zeros_like(self.volumes)}
        off = {number: abs(self.volumes[number] - at_m3[edge][number]) for number, edge in state.held.items()}
        held = {number: edge for number, edge in state.held.items() if off[number] <= AT_EDGE * self.holds[number]}
        self.modes = Modes(giving=giving, held=held, running=[])
        self.switches = self._switches()
        fresh = {name: at for name, at in self.switches.items() if name not in state.switched}
        state.switched |= set(fresh)
        state.on |= {name for name, (number, _, high) in fresh.items() if self.volumes[number] < high}
        self.marks_m3 = np.array([balance.brim_m3, np.zeros_like(balance.brim_m3), balance.outlet_m3])
        self.marked = np.ones_like(self.marks_m3, dtype=bool)
        self.marked[2] = balance.gives
        self.summed = self._nothing().row
        self.beside_m3: dict[str, float] = {}
        self.events: list[Event] = []
        self.told: list[Told] = []
        self.steps = 0
        self.ended_s: float | None = None
        self.why = ""
        self.ahead = self.volumes, self._nothing()  # volumes and rates near the end of the last step
        self.smooth = False  # whether nothing has happened since
        self.answers = np.zeros((0, 0))
        self.answered_in: object = None
        self.answered_at = 0

    def whole(self) -> Rates:
        """Return all that was passed in it [m3]."""
        return replace(self._nothing(), row=self.summed)

    def _nothing(self) -> Rates:
        design = self.balance.design
        vessels, outlets, lines = len(design.vessels), len(design.outlets), len(design.lines)
        width = 5 * vessels + outlets + lines + len(design.places) + outlets + 1
        return Rates(np.zeros(width), vessels, outlets, lines)

    def run(self) -> None:
        """Go from the begin to the end, or to where the network has no solution, or a line's siphon breaks."""
        time, step = self.begins_s, max(self.state.step_s, FIRST_STEP_S)
        try:
            while True:
                self.watch(time)
                here = self._settled(time)
                if time >= self.ends_s or self.why:
                    break
                begun, volumes = time, self.volumes
                time, step = self._advance(time, step, here)
                if time > begun:
                    self._tell(begun, volumes, here, time)
                    lacking = self.summed[4 * len(self.volumes) : 5 * len(self.volumes)]
                    self.schedule.lack(self.modes.running, here, time - begun, lacking)
                    for of, flow in self._beside(here).items():
                        self.beside_m3[of] = self.beside_m3.get(of, 0.0) + flow * (time - begun)
                if self.steps > MOST_STEPS:
                    self.why = STEPS
                    break
            if not self.why:
                self._tell(time, self.volumes, here, math.inf)
        except NoAnswer:
            self.why = NO_ANSWER
        self.ended_s = time if self.why else None
        self.state.volumes_m3, self.state.held, self.state.step_s = self.volumes, self.modes.held, step

    def _settled(self, time: float) -> Rates:
        """Return the rates at a moment, once what runs and what is held at an edge fit them."""
        for _ in range(ROUNDS):
            running = self.schedule.running(time, self.modes)
            near = self._near() if running == self.modes.running else None
            self.modes.running = running
            rates = near or self._exact()
            if not self._rearranged(time, rates.gains):
                break
            self.smooth = False
        return rates

    def _near(self) -> Rates | None:
        """Return the rates now as those near the end of the last step lead to; None where they may not be right.

        They are as near as the step's own error: the volumes asked for then were no farther off.
        """
        if not self.smooth or self._stale():
            return None
        (volumes, rates), vessels = self.ahead, len(self.volumes)
        row = rates.row + self.answers @ (self.volumes - volumes)
        held = list(self.modes.held)
        if held and np.abs(row[:vessels][held]).max() > STILL_M3S:
            return None
        return replace(rates, row=row)

    def _exact(self) -> Rates:
        """Return the rates now, and see how they answer to the volumes where that is not known."""
        if not self._stale():
            return self.balance.rates(self.volumes, self.modes)
        return self._with_answers()

    def _stale(self) -> bool:
        return self.answered_in != self._arrangement() or self.steps >= self.answered_at + STEPS_HELD

    def _arrangement(self) -> object:
        return frozenset(self.modes.giving), tuple(sorted((n, e.value) for n, e in self.modes.held.items()))

    def _rearranged(self, time: float, gains: Floats) -> bool:
        """Hold at their edges what would leave them, let go what leaves them by itself; whether any changed."""
        balance, held, changed = self.balance, self.modes.held, False
        at_edge = (np.abs(self.volumes - self.marks_m3) <= AT_EDGE * self.holds).any(axis=0)
        for number in sorted({*held, *np.flatnonzero(at_edge & (np.abs(gains) > STILL_M3S)).tolist()}):
            vessel, gain, edge = balance.vessels[number], gains[number], held.get(number)
            if abs(gain) <= STILL_M3S:
                continue
            volume, near = self.volumes[number], AT_EDGE * self.holds[number]
            if edge is not None:
                del held[number]
                if edge is Edge.OUTLET:
                    (self.modes.giving.add if gain > 0.0 else self.modes.giving.discard)(number)
                self._note(
                    time,
                    {
                        Edge.BRIM: "overflow-ends",
                        Edge.OUTLET: "gives-again" if gain > 0.0 else "below-outlet",
                        Edge.FLOOR: "wet-again",
                    }[edge],
                    vessel.id,
                )
                changed = True
            elif gain > 0.0 and volume >= balance.brim_m3[number] - near:
                held[number], changed = Edge.BRIM, True
                self._note(time, "overflows", vessel.id)
            elif (
                balance.gives[number]
                and abs(volume - balance.outlet_m3[number]) <= near
                and ((number in self.modes.giving) == (gain < 0.0))
            ):
                if number in self.modes.giving:
                    self._note(time, "runs-dry", vessel.id)
                    self._break_lines(time, vessel.id)
                held[number], changed = Edge.OUTLET, True
            elif gain < 0.0 and volume <= near:
                held[number], changed = Edge.FLOOR, True
                self._note(time, "empty", vessel.id)
                self._break_siphons(time, vessel.id)
        return changed

    def _break_siphons(self, time: float, vessel_id: str) -> None:
        """Stop the siphons that draw from a vessel that is empty; until somebody primes them nothing runs."""
        for spell in self.modes.running:
            if spell.breaks and spell.from_ == vessel_id and spell.of not in self.state.broken:
                self.state.broken.add(spell.of)
                self._note(time, "siphon-breaks", spell.of)

    def _break_lines(self, time: float, vessel_id: str) -> None:
        """End the phase where a declared siphon draws air at its intake: from here on that line is without water."""
        for line in self.balance.design.lines:
            if line.siphon and vessel_id in (line.from_, line.to) and line.id not in self.state.broken:
                self.state.broken.add(line.id)
                self._note(time, "siphon-breaks", line.id)
                self.why = SIPHON

    def _note(self, time: float, kind: str, where: str) -> None:
        self.events.append(Event(time_s=time, kind=kind, where=where))

    def _advance(self, time: float, step: float, here: Rates) -> tuple[float, float]:
        """Take one step, shorter where something happens on the way; return the time then and the next step.

        Where air comes into the lines on the way, nothing is taken: from then on it stands in them. Nor is it where a
        vessel that stood at an edge, without gain, leaves it the wrong way: it is held there first.
        """
        turn = self.schedule.next_turn(time)
        row, vessels = here.row, len(self.volumes)
        taken = min(step, turn - time, LONGEST_STEP_S)
        after, error = self._stepped(row, taken)
        while error > 1.0 and taken > SHORTEST_STEP_S:
            taken *= max(0.2, 0.9 * error**-0.5)
            after, error = self._stepped(row, taken)
        if self._strays(time, after) or self.balance.hydraulics.draws_air_in():
            self.smooth, self.answered_in = False, None
            return time, step
        crossed = self._first_crossing(row, taken, after)
        if crossed is not None:
            taken, after, number, target = crossed
            after[number] = target
        self.smooth = crossed is None
        self.steps += 1
        before = self.volumes
        self.volumes = after[:vessels].copy()
        after[:vessels] = after[4 * vessels : 5 * vessels] = 0.0  # volumes are kept, what is lacking counted by itself
        self.summed = self.summed + after
        time = turn if crossed is None and taken == turn - time else time + taken
        self._switch(time, before)
        grown = min(4.0, 0.9 * max(error, 1e-4) ** -0.5)
        return time, max(taken * grown, SHORTEST_STEP_S) if crossed is None else max(step * 0.5, FIRST_STEP_S)

    def _strays(self, time: float, after: Floats) -> bool:
        """Hold those vessels at their edge that stand there and would leave it in a step; whether any did."""
        balance, vessels = self.balance, len(self.volumes)
        near = AT_EDGE * self.holds
        at, ahead = self.volumes - self.marks_m3, after[:vessels] - self.marks_m3
        giving = np.zeros(vessels, dtype=bool)
        giving[list(self.modes.giving)] = True
        beyond = np.array([ahead[0] > near, ahead[1] < -near, np.where(giving, ahead[2] < -near, ahead[2] > near)])
        strays = self.marked & (np.abs(at) <= near) & beyond
        strays[:, list(self.modes.held)] = False
        for mark, edge, kind in ((0, Edge.BRIM, "overflows"), (2, Edge.OUTLET, "runs-dry"), (1, Edge.FLOOR, "empty")):
            for number in np.flatnonzero(strays[mark]).tolist():
                if number in self.modes.held:
                    continue
                self.modes.held[number] = edge
                vessel_id = balance.vessels[number].id
                if edge is Edge.FLOOR:
                    self._break_siphons(time, vessel_id)
                if edge is not Edge.OUTLET or giving[number]:
                    self._note(time, kind, vessel_id)
                if edge is Edge.OUTLET and giving[number]:
                    self._break_lines(time, vessel_id)
        return bool(strays.any())

    def _with_answers(self) -> Rates:
        """Return the rates now; find how all answer to each vessel's volume [1/s], shape (rates, vessels)."""
        here = self.balance.rates(self.volumes, self.modes)
        nudges = NUDGE * self.holds
        nudges = np.where(self.volumes + nudges > self.balance.brim_m3, -nudges, nudges)
        self.answers = self.balance.answers(self.modes, nudges)
        self.answered_in, self.answered_at = self._arrangement(), self.steps
        return here

    def _stepped(self, row: Floats, step: float) -> tuple[Floats, float]:
        """Return volumes and sums after a step, and how far it is off a straight line, over what is allowed [-]."""
        vessels, answers = len(self.volumes), self.answers
        within = np.eye(vessels) - GAMMA * step * answers[:vessels]
        first = np.linalg.solve(within, row[:vessels])
        first_all = row + GAMMA * step * (answers @ first)
        ahead = np.clip(self.volumes + step * first, 0.0, self.balance.brim_m3)
        rates = self.balance.rates(ahead, self.modes)
        self.ahead = ahead, rates
        second_row = rates.row - 2.0 * first_all
        second = np.linalg.solve(within, second_row[:vessels])
        second_all = second_row + GAMMA * step * (answers @ second)
        gained = step * (1.5 * first_all + 0.5 * second_all)
        error = np.abs(gained[:vessels] - step * first) / (WITHIN * self.holds)
        after = gained.copy()
        after[:vessels] += self.volumes
        return after, math.sqrt(float(error @ error) / min(max(len(error), 1), MEANT_OVER))

    def _first_crossing(self, row: Floats, step: float, after: Floats) -> tuple[float, Floats, int, float] | None:
        """Return the first level event within a step: how long until it [s], all then, which vessel, at what volume."""
        found: tuple[float, Floats, int, float] | None = None
        for number, target in self._targets(after):
            end, reached = (step, after) if found is None else found[:2]
            off = reached[number] - target
            if (self.volumes[number] - target) * off > 0.0:
                continue
            found = *self._met(row, end, reached, number, target), number, target
        return found

    def _met(self, row: Floats, step: float, after: Floats, number: int, target: float) -> tuple[float, Floats]:
        """Return when within a step a vessel stands at a volume [s], and all then: by secants, kept in a bracket."""
        low, low_off = 0.0, float(self.volumes[number] - target)
        high, high_off, reached = step, float(after[number] - target), after
        within = 0.1 * AT_EDGE * self.holds[number]
        bend = (high_off - low_off - row[number] * step) / step**2
        tried = _root(bend, float(row[number]), low_off, high)
        for _ in range(60):
            if abs(high_off) <= within or high - low < 1e-9 * step:
                break
            if not low < tried < high:
                tried = (low + high) / 2.0
            state, _ = self._stepped(row, tried)
            off = float(state[number] - target)
            if abs(off) <= within:
                return tried, state
            near, near_off = (low, low_off) if abs(low_off) < abs(high_off) else (high, high_off)
            if off * low_off > 0.0:
                low, low_off = tried, off
            else:
                high, high_off, reached = tried, off, state
            tried -= off * (tried - near) / (off - near_off) if off != near_off else 0.0
        return high, reached.copy()

    def _targets(self, after: Floats) -> list[tuple[int, float]]:
        """Return which volumes are crossed in a step: of brims, outlets, floors and float switches."""
        vessels = len(self.volumes)
        free = np.ones(vessels, dtype=bool)
        free[list(self.modes.held)] = False
        start, end = self.volumes - self.marks_m3, after[:vessels] - self.marks_m3
        crosses = self.marked & free & (np.abs(start) > AT_EDGE * self.holds) & (start * end < 0.0)
        found = {(number, float(self.marks_m3[mark, number])) for mark, number in np.argwhere(crosses).tolist()}
        for number, low, high in self.switches.values():
            for mark in (low, high) if free[number] else ():
                off = self.volumes[number] - mark
                if abs(off) > AT_EDGE * self.holds[number] and off * (after[number] - mark) < 0.0:
                    found.add((number, mark))
        return sorted(found)

    def _switches(self) -> dict[str, tuple[int, float, float]]:
        """Return of each pump on float switches its vessel, and the volumes at which it starts and stops [m3]."""
        found = {}
        for spell in self.schedule.spells:
            if spell.switch_m is not None and spell.to is not None:
                number = self.balance.number[spell.to]
                low, high = (self.balance.levels.shapes[number].volume_m3(level) for level in spell.switch_m)
                found[spell.of] = number, low, high
        return found

    def _switch(self, time: float, before: Floats) -> None:
        """Let float switches follow the levels."""
        for name, (number, low, high) in self.switches.items():
            near = AT_EDGE * self.holds[number]
            if name in self.state.on and self.volumes[number] >= high - near and before[number] < self.volumes[number]:
                self.state.on.discard(name)
                self._note(time, "pump-stops", name)
            elif name not in self.state.on and self.volumes[number] <= low + near:
                self.state.on.add(name)
                self._note(time, "pump-starts", name)

    def _tell(self, begun: float, volumes: Floats, here: Rates, time: float) -> None:
        """Keep what is to be told of a step, on straight lines: within what a step may be off."""
        places = len(self.balance.design.places)
        while self.wanted and self.wanted[0] < time:
            at = self.wanted.pop(0)
            row, held = here.row, volumes
            if not math.isinf(time):
                share = (at - begun) / (time - begun)
                row = row + share * (self.ahead[1].row - row)
                held = volumes + share * (self.volumes - volumes)
            rates = replace(here, row=row)
            self.told.append(
                Told(
                    time_s=at,
                    levels_m=self.balance.levels.levels_m(held),
                    usable_m3=np.maximum(held - self.balance.outlet_m3, 0.0),
                    outlets_m3s=rates.passed,
                    lines_m3s=rates.lines,
                    places_m=rates.heads_m[:places],
                    ends_m=rates.heads_m[places:],
                    beside_m3s=self._beside(rates),
                )
            )

    def _beside(self, rates: Rates) -> dict[str, float]:
        """Return what runs beside the network [m3/s], less what is not there to be drawn, and what sources give it."""
        flows = {source: float(rates.brought[number]) for source, number in self.balance.sources.items()}
        for spell in self.modes.running:
            flow = spell.flow_m3s
            if spell.from_ is not None:
                number = self.balance.number[spell.from_]
                wanted = float(rates.drawn[number] + rates.lacking[number])
                flow *= float(rates.drawn[number]) / wanted if wanted > 0.0 else 1.0
            flows[spell.of] = flows.get(spell.of, 0.0) + flow
        return flows


def _root(bend: float, slope: float, start: float, end: float) -> float:
    """Return where a parabola is 0 before an end: start + slope·t + bend·t²; outside where it has no root there."""
    inside = slope**2 - 4.0 * bend * start
    if inside < 0.0 or (slope == 0.0 and bend == 0.0):
        return -1.0
    lower = -0.5 * (slope + math.copysign(math.sqrt(inside), slope))
    roots = [lower / bend if bend != 0.0 else math.inf, start / lower if lower != 0.0 else math.inf]
    return min((root for root in roots if 0.0 < root < end), default=-1.0)
