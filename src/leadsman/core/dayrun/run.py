"""The run: from event to event, in steps of a method that stiff floats do not shorten."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from leadsman.core.base.array import Floats
from leadsman.core.base.errors import UnknownName, require_between
from leadsman.core.base.units import HOUR_S
from leadsman.core.dayrun.balance import Balance, Edge, Modes, NoAnswer, Rates
from leadsman.core.dayrun.forcing import spells
from leadsman.core.design import Design, Scenario
from leadsman.core.steady.solve import model_of

GAMMA = 1.0 - 1.0 / 2.0**0.5
WITHIN = 5e-4  # of what a vessel holds: what one step may be off a straight line
FIRST_STEP_S, LONGEST_STEP_S, SHORTEST_STEP_S = 10.0, 6.0 * HOUR_S, 1e-6
NUDGE = 2e-3  # of what a vessel holds, to see how rates answer
AT_EDGE = 1e-9  # of what a vessel holds
STILL_M3S = 1e-12
MOST_STEPS = 200_000
LEAST_HOURS, MOST_HOURS, TOLD = 0.01, 90 * 24.0, 97
ROUNDS = 8
MET = 20  # times to be told: so few are met exactly, more lie on straight lines between steps
STEPS_HELD = 6  # for how many steps the answer of the rates to volumes is taken to hold


@dataclass(frozen=True, kw_only=True)
class Event:
    """Something that happened: when [s], what kind of thing, to which part."""

    time_s: float
    kind: str
    where: str


@dataclass(frozen=True, kw_only=True)
class DayRun:
    """Levels [m], flows [m3/s] at times [s], shape (times, parts), events, and what went in and out in all [m3].

    `mass_error` is what is missing in the balance, as a share of the throughput. `ended_s` is where the run had to end
    because the network has no solution, None where it came to its end.
    """

    times_s: Floats
    levels_m: Floats
    outlets_m3s: Floats
    lines_m3s: Floats
    events: list[Event]
    over_m3: Floats
    drawn_m3: Floats
    brought_m3: Floats
    passed_m3: Floats
    mass_error: float
    ended_s: float | None
    steps: int


def times_to_tell(hours: float, at: str | None) -> tuple[float, list[float]]:
    """Return a run's length [s] and the times [s] to tell: those of a list with commas, else 97 over the run.

    Raises:
        OutOfRange: the length is not of 0.01 to 2,160 h (90 days), or a time is outside the run.
    """
    require_between("hours of the run [h]", hours, LEAST_HOURS, MOST_HOURS, "--hours")
    length_s = hours * HOUR_S
    if at is None:
        return length_s, np.linspace(0.0, length_s, TOLD).tolist()
    times_s = [_time(text, number) for number, text in enumerate(at.split(","))]
    for number, time_s in enumerate(times_s):
        require_between("time [s]", time_s, 0.0, length_s, f"--at/{number}")
    return length_s, times_s


def _time(text: str, number: int) -> float:
    try:
        return float(text)
    except ValueError:
        raise UnknownName("time", text, ["a number of seconds"], f"--at/{number}") from None


def day_run(design: Design, length_s: float, times_s: Sequence[float], scenario: Scenario | None = None) -> DayRun:
    """Return how the vessels of a design stand over a time from midnight on, under a scenario.

    Args:
        length_s: above 0 [s].
        times_s: when levels and flows are told [s], rising, from 0 to the length.
    Raises: as `model_of`; OutOfRange also where a figure of an inflow is outside its limits.
    Source: Rosenbrock's method ROS2 with an approximate Jacobian (Verwer et al. 1999, SIAM J. Sci. Comput. 20, from
    memory), on the network's steady flow at every moment.
    """
    return _Run(design, length_s, times_s, scenario).result()


class _Run:
    def __init__(self, design: Design, length_s: float, times_s: Sequence[float], scenario: Scenario | None) -> None:
        self.balance = Balance(design, scenario, model_of(design, scenario=scenario))
        self.spells = spells(design, scenario or Scenario(id="as-it-stands"), length_s)
        self.length_s, self.wanted = length_s, sorted({*times_s})
        edges = {time for spell in self.spells for time in (spell.begins_s, spell.ends_s)} | {length_s}
        if len(self.wanted) <= MET:
            edges |= {*self.wanted}
        self.turns = sorted(time for time in edges if 0.0 < time <= length_s)
        balance = self.balance
        self.volumes = balance.start_m3.copy()
        self.holds = np.maximum(balance.brim_m3, 1e-9)
        giving = set(np.flatnonzero(balance.gives & (self.volumes > balance.outlet_m3)).tolist())
        self.modes = Modes(giving=giving, held={}, running=[])
        self.switches = self._switches()
        self.on = {name for name, (number, _, high) in self.switches.items() if self.volumes[number] < high}
        self.summed = np.zeros(0)
        self.events: list[Event] = []
        self.told: list[tuple[float, list[float], Floats, Floats]] = []
        self.steps = 0
        self.ahead: Rates
        self.answers: Floats | None = None
        self.answered_in: object = None
        self.answered_at = 0

    def result(self) -> DayRun:
        time, step, ended = 0.0, FIRST_STEP_S, None
        try:
            while True:
                here = self._settled(time)
                if self.summed.size == 0:
                    self.summed = np.zeros(len(here.whole()) - len(self.volumes))
                if time >= self.length_s or self.steps > MOST_STEPS:
                    break
                begun, volumes = time, self.volumes
                time, step = self._advance(time, step, here)
                self._tell(begun, volumes, here, time)
            self._tell(time, self.volumes, here, math.inf)
        except NoAnswer:
            ended = time
        return self._summed_up(ended)

    def _settled(self, time: float) -> Rates:
        """Return the rates at a moment, once what runs and what is held at an edge fit them."""
        self.modes.running = [
            spell
            for spell in self.spells
            if spell.begins_s <= time
            and (time < spell.ends_s or time == self.length_s == spell.ends_s)
            and (spell.switch_m is None or spell.of in self.on)
        ]
        for _ in range(ROUNDS):
            (rates,) = self.balance.rates([self.volumes], self.modes)
            if not self._rearranged(time, rates.gains):
                return rates
        return rates

    def _rearranged(self, time: float, gains: Floats) -> bool:
        """Hold at their edges what would leave them, let go what leaves them by itself; whether any changed."""
        balance, held, changed = self.balance, self.modes.held, False
        for number, vessel in enumerate(balance.vessels):
            gain, edge = gains[number], held.get(number)
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
                held[number], changed = Edge.OUTLET, True
            elif gain < 0.0 and volume <= near:
                held[number], changed = Edge.FLOOR, True
                self._note(time, "empty", vessel.id)
        return changed

    def _note(self, time: float, kind: str, where: str) -> None:
        self.events.append(Event(time_s=time, kind=kind, where=where))

    def _advance(self, time: float, step: float, here: Rates) -> tuple[float, float]:
        """Take one step, shorter where something happens on the way; return the time then and the next step."""
        turn = next(one for one in self.turns if one > time)
        row, vessels = here.whole(), len(self.volumes)
        response = self._response(row)
        taken = min(step, turn - time, LONGEST_STEP_S)
        after, error = self._stepped(row, response, taken)
        while error > 1.0 and taken > SHORTEST_STEP_S:
            taken *= max(0.2, 0.9 * error**-0.5)
            after, error = self._stepped(row, response, taken)
        crossed = self._first_crossing(row, response, taken, after)
        if crossed is not None:
            taken, after, number, target = crossed
            after[number] = target
        self.steps += 1
        before = self.volumes
        self.volumes = after[:vessels]
        self.summed = self.summed + after[vessels:]
        time = turn if crossed is None and taken == turn - time else time + taken
        self._switch(time, before)
        grown = min(4.0, 0.9 * max(error, 1e-4) ** -0.5)
        return time, max(taken * grown, SHORTEST_STEP_S) if crossed is None else max(step * 0.5, FIRST_STEP_S)

    def _response(self, row: Floats) -> Floats:
        """Return how all rates answer to each vessel's volume [1/s], shape (rates, vessels)."""
        known = (
            frozenset(self.modes.giving),
            tuple(sorted((n, e.value) for n, e in self.modes.held.items())),
            tuple(spell.of for spell in self.modes.running),
        )
        if self.answers is not None and known == self.answered_in and self.steps < self.answered_at + STEPS_HELD:
            return self.answers
        self.answers, self.answered_in, self.answered_at = self._fresh_response(row), known, self.steps
        return self.answers

    def _fresh_response(self, row: Floats) -> Floats:
        free = [number for number in range(len(self.volumes)) if number not in self.modes.held]
        response = np.zeros((len(row), len(self.volumes)))
        if not free:
            return response
        nudges = []
        for number in free:
            nudge = NUDGE * self.holds[number]
            if self.volumes[number] + nudge > self.balance.brim_m3[number]:
                nudge = -nudge
            nudges.append(nudge)
        asked = [
            self.volumes + nudge * np.eye(len(self.volumes))[number] for number, nudge in zip(free, nudges, strict=True)
        ]
        for number, nudge, rates in zip(free, nudges, self.balance.rates(asked, self.modes), strict=True):
            response[:, number] = (rates.whole() - row) / nudge
        return response

    def _stepped(self, row: Floats, response: Floats, step: float) -> tuple[Floats, float]:
        """Return volumes and sums after a step, and how far it is off a straight line, over what is allowed [-]."""
        vessels = len(self.volumes)
        within = np.eye(vessels) - GAMMA * step * response[:vessels]
        first = np.linalg.solve(within, row[:vessels])
        first_all = np.concatenate([first, row[vessels:] + GAMMA * step * (response[vessels:] @ first)])
        ahead = self.volumes + step * first
        (rates,) = self.balance.rates([np.clip(ahead, 0.0, self.balance.brim_m3)], self.modes)
        self.ahead = rates
        second_row = rates.whole() - 2.0 * first_all
        second = np.linalg.solve(within, second_row[:vessels])
        second_all = np.concatenate([second, second_row[vessels:] + GAMMA * step * (response[vessels:] @ second)])
        gained = step * (1.5 * first_all + 0.5 * second_all)
        error = np.abs(gained[:vessels] - step * first) / (WITHIN * self.holds)
        return np.concatenate([self.volumes, np.zeros(len(row) - vessels)]) + gained, float(error.max(initial=0.0))

    def _first_crossing(
        self, row: Floats, response: Floats, step: float, after: Floats
    ) -> tuple[float, Floats, int, float] | None:
        """Return the first level event within a step: how long until it [s], all then, which vessel, at what volume."""
        found: tuple[float, Floats, int, float] | None = None
        for number, target in self._targets(after):
            low, low_off = 0.0, self.volumes[number] - target
            high, high_off, reached = step, after[number] - target, after
            if found is not None:
                if (found[1][number] - target) * low_off > 0.0:
                    continue
                high, reached = found[0], found[1]
                high_off = reached[number] - target
            for _ in range(60):
                if abs(high_off) <= 0.1 * AT_EDGE * self.holds[number]:
                    break
                middle = low + (high - low) * min(max(low_off / (low_off - high_off), 0.02), 0.98)
                state, _ = self._stepped(row, response, middle)
                off = state[number] - target
                if off * low_off > 0.0:
                    low, low_off = middle, off
                else:
                    high, high_off, reached = middle, off, state
                if high - low < 1e-9 * step:
                    break
            found = (high, reached.copy(), number, target)
        return found

    def _targets(self, after: Floats) -> list[tuple[int, float]]:
        """Return which volumes are crossed in a step: of brims, outlets, floors and float switches."""
        balance, crossed = self.balance, []
        for number in range(len(self.volumes)):
            if number in self.modes.held:
                continue
            marks = [balance.brim_m3[number], 0.0]
            if balance.gives[number]:
                marks.append(balance.outlet_m3[number])
            marks += [mark for own, low, high in self.switches.values() if own == number for mark in (low, high)]
            near = AT_EDGE * self.holds[number]
            for mark in set(marks):
                start, end = self.volumes[number] - mark, after[number] - mark
                if abs(start) > near and start * end < 0.0:
                    crossed.append((number, float(mark)))
        return crossed

    def _switches(self) -> dict[str, tuple[int, float, float]]:
        """Return of each pump on float switches its vessel, and the volumes at which it starts and stops [m3]."""
        found = {}
        for spell in self.spells:
            if spell.switch_m is not None and spell.to is not None:
                number = self.balance.number[spell.to]
                low, high = (self.balance.shapes[number].volume_m3(level) for level in spell.switch_m)
                found[spell.of] = number, low, high
        return found

    def _switch(self, time: float, before: Floats) -> None:
        """Let float switches follow the levels."""
        for name, (number, low, high) in self.switches.items():
            near = AT_EDGE * self.holds[number]
            if name in self.on and self.volumes[number] >= high - near and before[number] < self.volumes[number]:
                self.on.discard(name)
                self._note(time, "pump-stops", name)
            elif name not in self.on and self.volumes[number] <= low + near:
                self.on.add(name)
                self._note(time, "pump-starts", name)

    def _tell(self, begun: float, volumes: Floats, here: Rates, time: float) -> None:
        """Keep what is to be told of a step, on straight lines: within what a step may be off."""
        while self.wanted and self.wanted[0] < time:
            at = self.wanted.pop(0)
            share = 0.0 if math.isinf(time) else (at - begun) / (time - begun)
            then = here if math.isinf(time) else self.ahead
            outlets, lines = (
                getattr(here, key) + share * (getattr(then, key) - getattr(here, key)) for key in ("outlets", "lines")
            )
            levels = self.balance.levels_m(volumes + share * (self.volumes - volumes))
            self.told.append((at, levels, outlets, lines))

    def _summed_up(self, ended: float | None) -> DayRun:
        balance, vessels, outlets = self.balance, len(self.balance.vessels), len(self.balance.outlets)
        count = len(self.told)
        summed = self.summed if self.summed.size else np.zeros(3 * vessels + outlets + 1)
        over, drawn, brought = (summed[first * vessels : (first + 1) * vessels] for first in range(3))
        passed, places = summed[3 * vessels : 3 * vessels + outlets], float(summed[-1])
        outside = sum(passed[number] for number, outlet in enumerate(balance.outlets) if outlet.fills is None)
        out = float(over.sum() + drawn.sum() + outside + places)
        stored = float((self.volumes - balance.start_m3).sum())
        throughput = max(float(brought.sum()), out, float(np.abs(passed).sum()), 1e-12)
        return DayRun(
            times_s=np.array([time for time, _, _, _ in self.told]),
            levels_m=np.array([levels for _, levels, _, _ in self.told]).reshape(count, vessels),
            outlets_m3s=np.array([flows for _, _, flows, _ in self.told]).reshape(count, outlets),
            lines_m3s=np.array([flows for _, _, _, flows in self.told]).reshape(count, len(balance.design.lines)),
            events=self.events,
            over_m3=over,
            drawn_m3=drawn,
            brought_m3=brought,
            passed_m3=passed,
            mass_error=abs(float(brought.sum()) - out - stored) / throughput,
            ended_s=ended,
            steps=self.steps,
        )
