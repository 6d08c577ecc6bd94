"""What each vessel gains at a moment, and what enters and leaves: by the network, and by all that runs beside it."""

from collections.abc import Collection
from dataclasses import dataclass
from enum import Enum

import numpy as np

from leadsman.core.base.array import Floats
from leadsman.core.dayrun.hydraulics import Hydraulics
from leadsman.core.dayrun.levels import Levels
from leadsman.core.dayrun.spell import Spell
from leadsman.core.design import Design, FloatValveOutlet, Scenario
from leadsman.core.design.outlet_law import float_valve
from leadsman.core.physics.float_valve import FloatValve
from leadsman.core.steady.case import Case, case_of
from leadsman.core.steady.network_model import NetworkModel
from leadsman.core.steady.opening import judge_openings, lacks_to_open_m, shut_in_turn

MOST_OVERFLOWS = 8  # one running into the next


class Edge(Enum):
    """Where a vessel's water is kept: below its brim, under its outlet, or at nothing."""

    BRIM = "brim"
    OUTLET = "outlet"
    FLOOR = "floor"


@dataclass(frozen=True)
class Rates:
    """All rates of a moment [m3/s], and the heads then, as one row, and where each kind of them stands in it.

    What vessels gain, what runs over them, is drawn from them and brought to them, and what is wanted of them but not
    there; what outlets pass, what lines pass (positive from their `from`), the heads at places and at
    outlets [m], and what places draw.
    """

    row: Floats
    vessels: int
    outlets: int
    lines_too: int

    @property
    def gains(self) -> Floats:
        return self.row[: self.vessels]

    @property
    def over(self) -> Floats:
        return self.row[self.vessels : 2 * self.vessels]

    @property
    def drawn(self) -> Floats:
        return self.row[2 * self.vessels : 3 * self.vessels]

    @property
    def brought(self) -> Floats:
        return self.row[3 * self.vessels : 4 * self.vessels]

    @property
    def lacking(self) -> Floats:
        return self.row[4 * self.vessels : 5 * self.vessels]

    @property
    def passed(self) -> Floats:
        return self.row[5 * self.vessels : 5 * self.vessels + self.outlets]

    @property
    def lines(self) -> Floats:
        first = 5 * self.vessels + self.outlets
        return self.row[first : first + self.lines_too]

    @property
    def heads_m(self) -> Floats:
        return self.row[5 * self.vessels + self.outlets + self.lines_too : -1]

    @property
    def places(self) -> float:
        return float(self.row[-1])


@dataclass
class Modes:
    """What is as it is for a while: vessels that give, those held at an edge, what runs beside the network."""

    giving: set[int]
    held: dict[int, Edge]
    running: list[Spell]


class Balance:
    """The rates of a design's vessels at any volumes, under what runs just now.

    `sources` are the numbers of those that stand for sources under pressure.
    """

    def __init__(self, design: Design, scenario: Scenario | None, model: NetworkModel) -> None:
        self.design = design
        self.vessels = list(design.vessels)
        self.number = {vessel.id: index for index, vessel in enumerate(self.vessels)}
        self.levels = Levels(self.vessels)
        self.brim_m3 = self.levels.brim_m3
        self.outlet_m3 = self.levels.volumes_m3([vessel.outlet_m for vessel in self.vessels])
        self.over_into = [
            None if vessel.overflow_into is None else self.number[vessel.overflow_into] for vessel in self.vessels
        ]
        levels_m = case_of(design, scenario=scenario).levels_m
        begun = self.levels.volumes_m3([levels_m[vessel.id] for vessel in self.vessels])
        self.start_m3 = np.minimum(begun, self.brim_m3)
        self.outlets = list(design.outlets)
        self.sources = {source.id: self.number[source.id] for source in design.pressure_sources}
        self._model = model
        self._standing, self._floats = self._as_asked(scenario)
        self._with_shut: dict[frozenset[str], Hydraulics] = {}
        self._all_floats = self.hydraulics = self._hydraulics(frozenset())
        self.gives = self.hydraulics.gives
        self.judges_opening = any(
            isinstance(outlet, FloatValveOutlet) and outlet.id in self._floats and outlet.valve.min_pressure_kpa > 0.0
            for outlet in self.outlets
        )

    def _as_asked(self, scenario: Scenario | None) -> tuple[Case, dict[str, tuple[FloatValve, int]]]:
        """Return what is open whatever the levels, and of each outlet that follows one its valve and its vessel."""
        opened = set(scenario.open) if scenario else set()
        empty = self.design.model_copy(
            update={"vessels": [vessel.model_copy(update={"level_m": 0.0}) for vessel in self.vessels]}
        )
        standing = case_of(empty, scenario=scenario.model_copy(update={"levels_m": {}}) if scenario else None)
        floats = {
            outlet.id: (float_valve(outlet), self.number[outlet.fills])
            for outlet in self.outlets
            if isinstance(outlet, FloatValveOutlet) and outlet.fills is not None and outlet.id not in opened
            if standing.openings[outlet.id] > 0.0
        }
        return standing, floats

    def _hydraulics(self, held_shut: frozenset[str]) -> Hydraulics:
        """Return the network with some valves held shut, whatever their floats say."""
        if held_shut not in self._with_shut:
            standing = self._standing
            for outlet_id in held_shut:
                standing = standing.with_shut(outlet_id)
            floats = {outlet_id: valve for outlet_id, valve in self._floats.items() if outlet_id not in held_shut}
            self._with_shut[held_shut] = Hydraulics(self.design, self._model, self.levels, standing, floats)
        return self._with_shut[held_shut]

    def judge_opening(self, volumes_m3: Floats, running: Collection[str]) -> set[str]:
        """Hold those valves shut that see less than the pressure that opens them; return which stand open then.

        That is judged of those that the float calls for, and of those that it may call for soon.

        Args:
            running: valves that stood open already: running they need no such pressure.
        """
        giving = frozenset(np.flatnonzero(volumes_m3 > self.outlet_m3).tolist())
        start = self._all_floats.case_at(volumes_m3, giving)
        asked = [(row, outlet) for row, outlet in shut_in_turn(self._model, [start]) if outlet.id not in running]
        held: frozenset[str] = frozenset()
        if asked:
            flows = self._model.full_flows([start.with_shut(outlet.id) for _, outlet in asked])
            (judged,) = judge_openings(self._model, [start], asked, flows)
            held = judged.unopened - set(running)
        idle = [
            outlet
            for outlet in self.outlets
            if isinstance(outlet, FloatValveOutlet) and outlet.valve.min_pressure_kpa > 0.0
            if outlet.id in self._floats and start.openings[outlet.id] <= 0.0
        ]
        if idle:
            (flow,) = self._model.full_flows([start])
            held |= {outlet.id for outlet in idle if lacks_to_open_m(self._model, flow, outlet) > 0.0}
        self.hydraulics = self._hydraulics(held)
        return {outlet_id for outlet_id in self._floats if start.openings[outlet_id] > 0.0 and outlet_id not in held}

    def rates(self, volumes_m3: Floats, modes: Modes) -> Rates:
        """Return the rates at volumes [m3], shape (vessels,), in some modes.

        A vessel held at its outlet gives just what comes into it: a share of the time it gives, the rest it does not
        (Filippov 1988, from memory), so that nothing flutters.

        Raises:
            NoAnswer: the network has no solution.
        """
        edges = self._edges(modes)
        giving = frozenset(modes.giving - set(edges))
        self.rows = self.hydraulics.rows(volumes_m3, [giving, *(giving | {number} for number in edges)])
        row = self._row(self.rows[:, None], modes)[0]
        return Rates(row, len(self.vessels), len(self.outlets), len(self.design.lines))

    def answers(self, modes: Modes, nudges_m3: Floats) -> Floats:
        """Return how the rates last returned answer to each vessel's volume [1/s], shape (rates, vessels).

        Args:
            nudges_m3: as for the network's.
        """
        changes = self.hydraulics.answers(nudges_m3)
        held = list(modes.held)
        changes[:, held] = 0.0
        nudged = self.rows[:, None] + changes * nudges_m3[:, None]
        rows = self._row(np.concatenate([self.rows[:, None], nudged], axis=1), modes)
        return np.asarray(((rows[1:] - rows[0]) / nudges_m3[:, None]).T)

    def _edges(self, modes: Modes) -> list[int]:
        return [number for number, edge in modes.held.items() if edge is Edge.OUTLET]

    def _row(self, patterns: Floats, modes: Modes) -> Floats:
        """Return all rates of states, shape (states, rates), by what the network does in each pattern of giving.

        Args:
            patterns: rows of the network, shape (patterns, states, rates of it).
        """
        vessels, states = len(self.vessels), patterns.shape[1]
        brought, drawn = np.zeros((states, vessels)), np.zeros((states, vessels))
        for spell in modes.running:
            if spell.to is not None:
                brought[:, self.number[spell.to]] += spell.flow_m3s
            if spell.from_ is not None:
                drawn[:, self.number[spell.from_]] += spell.flow_m3s
        over, lacking, network = np.zeros((states, vessels)), np.zeros((states, vessels)), patterns[0]
        runs_on = any(self.over_into[number] is not None for number in modes.held)
        for _ in range(1 + runs_on * MOST_OVERFLOWS):
            network = self._mixed(patterns, brought + self._run_into(over) - drawn, modes)
            before = over
            over = self._over(network[:, :vessels] + brought - drawn, over, modes)
            if not runs_on or np.array_equal(before, over):
                break
        gains = network[:, :vessels] + self._run_into(over)
        for number, edge in modes.held.items():
            if edge is Edge.FLOOR and (drawn[:, number] > 0.0).any():
                share = np.clip((gains[:, number] + brought[:, number]) / drawn[:, number], 0.0, 1.0)
                for spell in modes.running:
                    if spell.from_ == self.vessels[number].id and spell.to is not None:
                        brought[:, self.number[spell.to]] -= (1.0 - share) * spell.flow_m3s
                lacking[:, number] = drawn[:, number] * (1.0 - share)
                drawn[:, number] *= share
        for number in self.sources.values():  # what one gives comes from outside the plan, just as it is wanted
            brought[:, number] -= gains[:, number]
        gained = gains + brought - drawn - over
        brought = brought + self._run_into(over)
        return np.concatenate([gained, over, drawn, brought, lacking, network[:, vessels:]], axis=1)

    def _mixed(self, patterns: Floats, beside: Floats, modes: Modes) -> Floats:
        """Return what the network does where vessels held at their outlets give just what comes, shape as a pattern."""
        network: Floats = patterns[0]
        edges = self._edges(modes)
        if not edges:
            return network
        closed = (network[:, : len(self.vessels)] + beside)[:, edges]
        change = np.moveaxis(patterns[1:] - network, 0, 2)  # (states, rates, patterns)
        weight = np.clip(np.linalg.pinv(change[:, edges]) @ -closed[..., None], 0.0, 1.0)
        return np.asarray(network + (change @ weight)[..., 0])

    def _over(self, gains: Floats, over: Floats, modes: Modes) -> Floats:
        """Return what runs over each vessel, given what ran over the others."""
        comes, now = gains + self._run_into(over), np.zeros_like(over)
        for number, edge in modes.held.items():
            if edge is Edge.BRIM:
                now[:, number] = np.maximum(comes[:, number], 0.0)
        return now

    def _run_into(self, over: Floats) -> Floats:
        """Return what comes into each vessel out of the overflows of others."""
        into = np.zeros_like(over)
        for number, to in enumerate(self.over_into):
            if to is not None:
                into[:, to] += over[:, number]
        return into
