"""A run over time: phases between events, one after the other, summed up."""

from collections.abc import Callable, Collection, Iterator, Sequence
from dataclasses import dataclass, field

import numpy as np

from leadsman.core.base.array import Floats
from leadsman.core.base.errors import UnknownName, require_between
from leadsman.core.base.units import DAY_S, HOUR_S, m3s_from_lpm
from leadsman.core.dayrun.balance import Balance
from leadsman.core.dayrun.forcing import pond_spells, spells, watered_s
from leadsman.core.dayrun.happening import end_s, with_events
from leadsman.core.dayrun.phase import SIPHON, Phase
from leadsman.core.dayrun.record import Event, State, Told, Watch
from leadsman.core.dayrun.spell import Spell
from leadsman.core.design import Design, Leak, Scenario, SiphonPrimed
from leadsman.core.farm.grazing import set_for
from leadsman.core.farm.pressure_source import with_sources
from leadsman.core.steady.solve import model_of

LEAST_HOURS, MOST_HOURS, TOLD = 0.01, 90 * 24.0, 97
JUDGED_EVERY_S = 3.0 * HOUR_S  # whether valves get the pressure that opens them: tanks fall slowly; ours, no source
Wanting = dict[str, list[tuple[float, float]]]
Stop = Callable[[Sequence[Event], Wanting, float], bool]
AS_IT_STANDS = Scenario(id="as-it-stands")


@dataclass(frozen=True, kw_only=True)
class DayRun:
    """Levels [m], flows [m3/s] at times [s], shape (times, parts), events, and what went in and out in all [m3].

    `places_m` and `ends_m` are heads at places and at outlets; `usable_m3` is what vessels hold above their
    outlets. `beside_m3s` is what sources bring and herds, ponds, draws and leaks take, by id, shape (times,),
    `beside_m3` in all; `wanting_s` when each of them runs, from and to. `over_m3`, `drawn_m3`, `brought_m3` and
    `lacking_m3` (wanted, but not there) are of each vessel, `passed_m3` of each outlet, `escaped_m3` what came out
    of each event's hole, tap or end of a hose. `mass_error` is what is missing in the balance, as a share of the
    throughput. It lasted `length_s`; `ended_s` is where the run had to end, None where it came to its end, and `why`:
    the network has no solution (`no-answer`), or it took too many steps (`steps`).
    """

    times_s: Floats
    levels_m: Floats
    outlets_m3s: Floats
    lines_m3s: Floats
    places_m: Floats
    ends_m: Floats
    usable_m3: Floats
    beside_m3s: dict[str, Floats]
    beside_m3: dict[str, float]
    wanting_s: Wanting
    events: list[Event]
    over_m3: Floats
    drawn_m3: Floats
    brought_m3: Floats
    lacking_m3: Floats
    passed_m3: Floats
    escaped_m3: dict[str, float]
    mass_error: float
    length_s: float
    ended_s: float | None
    why: str
    steps: int


def times_to_tell(hours: float, at: str | None, count: int = TOLD) -> tuple[float, list[float]]:
    """Return a run's length [s] and the times [s] to tell: those of a list with commas, else so many over the run.

    Raises:
        OutOfRange: the length is not of 0.01 to 2,160 h (90 days), or a time is outside the run.
    """
    require_between("hours of the run [h]", hours, LEAST_HOURS, MOST_HOURS, "--hours")
    length_s = hours * HOUR_S
    if at is None:
        return length_s, np.linspace(0.0, length_s, count).tolist()
    times_s = [_time(text, number) for number, text in enumerate(at.split(","))]
    for number, time_s in enumerate(times_s):
        require_between("time [s]", time_s, 0.0, length_s, f"--at/{number}")
    return length_s, times_s


def _time(text: str, number: int) -> float:
    try:
        return float(text)
    except ValueError:
        raise UnknownName("time", text, ["a number of seconds"], f"--at/{number}") from None


def day_run(
    design: Design,
    length_s: float,
    times_s: Sequence[float],
    scenario: Scenario | None = None,
    *,
    watch: Watch = lambda _: None,
    stop: Stop | None = None,
    looks_s: float = HOUR_S,
) -> DayRun:
    """Return how the vessels of a design stand over a time from midnight on, under a scenario and the design's events.

    Args:
        length_s: above 0 [s].
        times_s: when levels and flows are told [s], rising, from 0 to the length.
        watch: called with the time of the run as it goes on; an exception in it ends the run.
        stop: called every `looks_s` [s] with what has happened so far, when what ran beside the network did, and the
            time; where it says so the run is over.
    Raises: as `model_of`; OutOfRange also where a figure of an inflow is outside its limits.
    Source: Rosenbrock's method ROS2 with an approximate Jacobian (Verwer et al. 1999, SIAM J. Sci. Comput. 20, from
    memory), on the network's steady flow at every moment.
    """
    run = _Run(design, length_s, times_s, scenario or AS_IT_STANDS, watch)
    return run.result(stop, looks_s)


@dataclass
class _Sums:
    """What went in and out over all phases so far [m3]."""

    over: Floats
    drawn: Floats
    brought: Floats
    lacking: Floats
    passed: Floats
    escaped: dict[str, float] = field(default_factory=dict)
    places: float = 0.0

    def add(self, phase: Phase) -> None:
        """Add what a phase passed; its own outlets, which stand after the design's, are events."""
        rates, outlets = phase.whole(), len(self.passed)
        self.over += rates.over
        self.drawn += rates.drawn
        self.brought += rates.brought
        self.lacking += rates.lacking
        self.passed += rates.passed[:outlets]
        self.places += rates.places
        for outlet, passed in zip(phase.balance.outlets[outlets:], rates.passed[outlets:].tolist(), strict=True):
            self.escaped[outlet.id] = self.escaped.get(outlet.id, 0.0) + passed


class _Run:
    def __init__(
        self, design: Design, length_s: float, times_s: Sequence[float], scenario: Scenario, watch: Watch
    ) -> None:
        self.design = set_for(design, scenario.date)
        self.length_s, self.scenario, self.watch = length_s, scenario, watch
        self.wanted = sorted({*times_s})
        self.lasting = [
            (event, event.at_s, end_s(design, event, length_s)) for event in design.events if event.at_s < length_s
        ]
        self.watered = watered_s(self.design, scenario)
        vessels, outlets = len(design.vessels) + len(design.pressure_sources), len(design.outlets)
        over, drawn, brought, lacking = (np.zeros(vessels) for _ in range(4))
        self.sums = _Sums(over, drawn, brought, lacking, np.zeros(outlets))
        self.events: list[Event] = []
        self.told: list[Told] = []
        self.steps = 0
        self.beside: dict[str, float] = {}
        self.wanting: Wanting = {}
        self.known: dict[tuple[tuple[str, ...], tuple[str, ...]], tuple[Balance, list[Spell]]] = {}

    def result(self, stop: Stop | None, looks_s: float) -> DayRun:
        looks = set(np.arange(looks_s, self.length_s, looks_s).tolist()) if stop else set()
        turns = {time for _, *times in self.lasting for time in times}
        days = self._every(DAY_S) if self.design.ponds else ()
        judged = self._every(JUDGED_EVERY_S) if self._as_it_is(0.0, set())[0].judges_opening else ()
        marks = sorted({0.0, self.length_s, *self._waterings(), *turns, *looks, *days, *judged})
        balance, running = self._as_it_is(0.0, set())
        state = State(volumes_m3=balance.start_m3.copy())
        time, why = 0.0, ""
        while time < self.length_s and not why:
            self._mark(time, state.broken)
            balance, running = self._as_it_is(time, state.broken)
            for number in balance.sources.values():  # lost, or come back
                state.volumes_m3[number] = balance.start_m3[number]
            held = np.minimum(state.volumes_m3, balance.brim_m3)
            self.sums.over += state.volumes_m3 - held
            state.volumes_m3 = held
            until = next(mark for mark in marks if mark > time)
            told = [at for at in self.wanted if at < until or at == until == self.length_s]
            if balance.judges_opening:
                state.opened = balance.judge_opening(state.volumes_m3, state.opened)
            levels_m = dict(zip(balance.number, balance.levels.levels_m(state.volumes_m3).tolist(), strict=True))
            running = [*running, *pond_spells(balance.design, levels_m, time, until)]
            phase = Phase(balance, running, time, until, state, told, self.watch)
            phase.run()
            self.wanted = [*phase.wanted, *self.wanted[len(told) :]]
            self.sums.add(phase)
            self.events += phase.events
            self.told += phase.told
            self.steps += phase.steps
            for of, volume in phase.beside_m3.items():
                self.beside[of] = self.beside.get(of, 0.0) + volume
            self._want(running, time, until)
            time = until if phase.ended_s is None else phase.ended_s
            why = "" if phase.why == SIPHON else phase.why
            if stop and stop(self.events, self.wanting, time):
                self.length_s = time
        self._mark(time, state.broken)
        held = np.clip(state.volumes_m3, 0.0, balance.brim_m3)
        self.beside |= {source: float(self.sums.brought[number]) for source, number in balance.sources.items()}
        stored_m3 = (held - self.start_m3)[: len(self.design.vessels)].sum()
        return self._summed_up(float(stored_m3), time if why else None, why)

    def _every(self, apart_s: float) -> list[float]:
        return [float(time) for time in np.arange(apart_s, self.length_s, apart_s)]

    def _waterings(self) -> Iterator[float]:
        """Yield when outlets that water plants open and shut [s]."""
        edges = [edge for open_s in self.watered.values() for spell in open_s for edge in spell]
        for day in range(-1, int(self.length_s // DAY_S) + 1):
            yield from (edge + day * DAY_S for edge in edges if 0.0 < edge + day * DAY_S < self.length_s)

    @property
    def start_m3(self) -> Floats:
        return self._as_it_is(0.0, set())[0].start_m3

    def _as_it_is(self, time: float, broken: Collection[str]) -> tuple[Balance, list[Spell]]:
        """Return the plan as it is from a time on, with what runs beside its network; lines of broken siphons shut."""
        lasting = [event for event, begins, ends in self.lasting if begins <= time < ends]
        lines = [line.id for line in self.design.lines if line.id in broken]
        dry = [outlet for outlet, open_s in self.watered.items() if not _within(open_s, time)]
        key = tuple(event.id for event in lasting), (*lines, *dry)
        if key not in self.known:
            design, scenario = with_events(self.design, self.scenario, lasting)
            dry = [outlet for outlet in dry if outlet not in scenario.open]
            scenario = scenario.model_copy(update={"shut": [*scenario.shut, *lines, *dry]})
            design = with_sources(design, scenario)
            balance = Balance(design, scenario, model_of(design, scenario=scenario))
            leaks = [
                Spell(of=leak.id, begins_s=begins, ends_s=ends, flow_m3s=m3s_from_lpm(leak.flow_lpm), from_=leak.where)
                for leak, begins, ends in self.lasting
                if isinstance(leak, Leak)
            ]
            self.known[key] = balance, [*spells(design, scenario, self.length_s), *leaks]
        return self.known[key]

    def _want(self, running: Sequence[Spell], begins: float, ends: float) -> None:
        """Keep when each of what runs beside the network does so, in a phase."""
        for spell in running:
            if spell.begins_s < ends and spell.ends_s > begins:
                spans = self.wanting.setdefault(spell.of, [])
                spans.append((max(spell.begins_s, begins), min(spell.ends_s, ends)))

    def _mark(self, time: float, broken: set[str]) -> None:
        """Note which of the design's events begin and end at a time; a siphon that is primed runs again."""
        for event, begins, ends in self.lasting:
            if isinstance(event, SiphonPrimed) and time == begins:
                broken.discard(event.where)
            if time == begins:
                self.events.append(Event(time_s=time, kind="begins", where=event.id))
            if time == ends < self.length_s:
                self.events.append(Event(time_s=time, kind="ends", where=event.id))

    def _summed_up(self, stored_m3: float, ended: float | None, why: str) -> DayRun:
        sums, design, count = self.sums, self.design, len(self.told)
        vessels, outlets, lines = len(design.vessels), len(design.outlets), len(design.lines)
        places = len(design.places)
        outside = sum(sums.passed[number] for number, outlet in enumerate(design.outlets) if outlet.fills is None)
        out = float(sums.over.sum() + sums.drawn.sum() + outside + sums.places) + sum(sums.escaped.values())
        brought = float(sums.brought.sum())
        throughput = max(brought, out, float(np.abs(sums.passed).sum()), 1e-12)
        beside = sorted({name for told in self.told for name in told.beside_m3s})
        return DayRun(
            times_s=np.array([told.time_s for told in self.told]),
            levels_m=np.array([told.levels_m[:vessels] for told in self.told]).reshape(count, vessels),
            outlets_m3s=np.array([told.outlets_m3s[:outlets] for told in self.told]).reshape(count, outlets),
            lines_m3s=np.array([told.lines_m3s[:lines] for told in self.told]).reshape(count, lines),
            places_m=np.array([told.places_m[:places] for told in self.told]).reshape(count, places),
            ends_m=np.array([told.ends_m[:outlets] for told in self.told]).reshape(count, outlets),
            usable_m3=np.array([told.usable_m3[:vessels] for told in self.told]).reshape(count, vessels),
            beside_m3=self.beside,
            wanting_s=self.wanting,
            beside_m3s={name: np.array([told.beside_m3s.get(name, 0.0) for told in self.told]) for name in beside},
            events=self.events,
            over_m3=sums.over[:vessels],
            drawn_m3=sums.drawn[:vessels],
            brought_m3=sums.brought[:vessels],
            lacking_m3=sums.lacking[:vessels],
            passed_m3=sums.passed,
            escaped_m3=sums.escaped,
            mass_error=abs(brought - out - stored_m3) / throughput,
            length_s=self.length_s,
            ended_s=ended,
            why=why,
            steps=self.steps,
        )


def _within(spells: Sequence[tuple[float, float]], time: float) -> bool:
    """Whether a time of a run [s] lies within one of some spells that come every day, over midnight too."""
    return any((time - begins) % DAY_S < ends - begins for begins, ends in spells)
