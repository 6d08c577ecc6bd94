"""What each vessel gains at a moment, and what enters and leaves: by the network, and by all that runs beside it."""

from collections.abc import Sequence, Set
from dataclasses import dataclass, replace
from enum import Enum

import numpy as np

from leadsman.core.base.array import Floats, Ints
from leadsman.core.base.units import m3s_from_lpm
from leadsman.core.dayrun.forcing import Spell
from leadsman.core.design import Design, FloatValveOutlet, Scenario
from leadsman.core.design.outlet_law import FULLY_OPEN, float_valve
from leadsman.core.design.store import shape_of
from leadsman.core.physics.vessel import level_m
from leadsman.core.solver.gradient import Start, usual_state
from leadsman.core.steady.case import Case, case_of
from leadsman.core.steady.flow import Flow
from leadsman.core.steady.network_model import MOST_TOGETHER, NetworkModel
from leadsman.core.steady.opening import judge_openings, shut_in_turn

ABOVE_OUTLET_M = 1e-6


class Edge(Enum):
    """Where a vessel's water is kept: below its brim, under its outlet, or at nothing."""

    BRIM = "brim"
    OUTLET = "outlet"
    FLOOR = "floor"


class NoAnswer(Exception):
    """The network has no solution at a moment."""


@dataclass(frozen=True, kw_only=True)
class Rates:
    """Gains of vessels [m3/s], what runs over, is drawn and brought; what outlets and lines pass and places draw."""

    gains: Floats
    over: Floats
    drawn: Floats
    brought: Floats
    outlets: Floats
    lines: Floats
    places: float

    def whole(self) -> Floats:
        """Return what is summed over time as one row: gains first."""
        return np.concatenate([self.gains, self.over, self.drawn, self.brought, self.outlets, [self.places]])


@dataclass
class Modes:
    """What is as it is for a while: vessels that give, those held at an edge, what runs beside the network."""

    giving: set[int]
    held: dict[int, Edge]
    running: list[Spell]


class Balance:
    """The rates of a design's vessels at any volumes, under what runs just now."""

    def __init__(self, design: Design, scenario: Scenario | None, model: NetworkModel) -> None:
        self.design, self.model = design, model
        self.vessels = list(design.vessels)
        self.number = {vessel.id: index for index, vessel in enumerate(self.vessels)}
        self.shapes = [shape_of(vessel) for vessel in self.vessels]
        self.brim_m3 = self._volumes([vessel.brim_m for vessel in self.vessels])
        joined = set(model.loader.joined)
        self.gives = np.array([vessel.id in joined for vessel in self.vessels], dtype=bool)
        self.outlet_m3 = self._volumes([vessel.outlet_m for vessel in self.vessels])
        levels_m = case_of(design, scenario=scenario).levels_m
        self.start_m3 = np.minimum(self._volumes([levels_m[vessel.id] for vessel in self.vessels]), self.brim_m3)
        self.outlets = list(design.outlets)
        opened = set(scenario.open) if scenario else set()
        empty = design.model_copy(
            update={"vessels": [vessel.model_copy(update={"level_m": 0.0}) for vessel in self.vessels]}
        )
        self.standing = case_of(empty, scenario=scenario.model_copy(update={"levels_m": {}}) if scenario else None)
        self.floats = {
            outlet.id: (float_valve(outlet), self.number[outlet.fills])
            for outlet in self.outlets
            if isinstance(outlet, FloatValveOutlet) and outlet.fills is not None and outlet.id not in opened
            if self.standing.openings[outlet.id] > 0.0
        }
        self._hold_unopened()
        plumbing = model.plumbing
        net, pipes = plumbing.network, len(plumbing.segments)
        fixed = np.array([plumbing.vessels[vessel.id] for vessel in self.vessels], dtype=np.intp)
        self._into = (net.end[None, :pipes] == fixed[:, None]).astype(float) - (
            net.start[None, :pipes] == fixed[:, None]
        )
        self._pipes = pipes
        self._filled = np.array(
            [self.number[outlet.fills] if outlet.fills else -1 for outlet in self.outlets], dtype=np.intp
        )
        self._last: dict[frozenset[int], tuple[NetworkModel, Floats, Ints]] = {}
        self._places = [(place.id, m3s_from_lpm(place.draw_lpm)) for place in design.places if place.draw_lpm > 0.0]

    def _hold_unopened(self) -> None:
        """Hold those valves shut that get less than the pressure that opens them, all vessels as they stand."""
        start = self.case(self.start_m3, set(np.flatnonzero(self.start_m3 > self.outlet_m3).tolist()))
        asked = shut_in_turn(self.model, [start])
        if not asked:
            return
        flows = self.model.full_flows([start.with_shut(outlet.id) for _, outlet in asked])
        (opening,) = judge_openings(self.model, [start], asked, flows)
        for outlet_id in opening.unopened:
            self.floats.pop(outlet_id, None)
            self.standing = self.standing.with_shut(outlet_id)

    def _volumes(self, levels_m: Sequence[float]) -> Floats:
        return np.array([shape.volume_m3(level) for shape, level in zip(self.shapes, levels_m, strict=True)])

    def levels_m(self, volumes_m3: Floats) -> list[float]:
        """Return the level of each vessel [m above its floor] at a volume."""
        return [
            level_m(shape, max(volume, 0.0)) for shape, volume in zip(self.shapes, volumes_m3.tolist(), strict=True)
        ]

    def case(self, volumes_m3: Floats, giving: Set[int]) -> Case:
        """Return the case at volumes [m3], in which those vessels give that are named, and no others."""
        levels = self.levels_m(volumes_m3)
        openings = {
            outlet_id: min(valve.opening(levels[number]), FULLY_OPEN)
            for outlet_id, (valve, number) in self.floats.items()
        }
        for number in np.flatnonzero(self.gives).tolist():
            outlet_m = self.vessels[number].outlet_m
            if number in giving:
                levels[number] = max(levels[number], outlet_m + ABOVE_OUTLET_M)
            else:
                levels[number] = min(levels[number], outlet_m)
        told = {vessel.id: level for vessel, level in zip(self.vessels, levels, strict=True)}
        return replace(self.standing, openings={**self.standing.openings, **openings}, levels_m=told)

    def rates(self, asked: Sequence[Floats], modes: Modes) -> list[Rates]:
        """Return the rates at each of some volumes [m3], in the same modes.

        A vessel held at its outlet gives just what comes into it: a share of the time it gives, the rest it does not
        (Filippov 1988, from memory), so that nothing flutters.

        Raises:
            NoAnswer: the network has no solution.
        """
        edges = [number for number, edge in modes.held.items() if edge is Edge.OUTLET]
        giving = modes.giving - set(edges)
        patterns = [giving, *(giving | {number} for number in edges)]
        asked_for = [(frozenset(pattern), self.case(one, pattern)) for one in asked for pattern in patterns]
        flows = self._used(asked_for)
        if not all(flow.converged for flow in flows):
            raise NoAnswer
        told = [self._network(flow) for flow in flows]
        return [
            self._rates(told[first : first + len(patterns)], edges, modes)
            for first in range(0, len(told), len(patterns))
        ]

    def _used(self, asked: Sequence[tuple[frozenset[int], Case]]) -> list[Flow]:
        """Return the flows that count, of cases with the vessels that give in them, each begun from the last of those.

        Where air stood in the lines then, it is let in at the same points at once: that is the answer where no other
        point draws air in. Those that this leads nowhere are solved from nothing.
        """
        found: dict[int, Flow] = {}
        models = [self._last[pattern][0] if pattern in self._last else self.model for pattern, _ in asked]
        for model in {id(model): model for model in models}.values():
            numbers = [number for number, own in enumerate(models) if own is model]
            for first in range(0, len(numbers), MOST_TOGETHER):
                some = numbers[first : first + MOST_TOGETHER]
                flows = model.full_flows([asked[number][1] for number in some], start=self._start(model, asked, some))
                found |= dict(zip(some, flows, strict=True))
        for number, flow in found.items():
            model = models[number]
            if model is not self.model and flow.converged and not model.suctions(flow):
                continue
            if model is not self.model or not flow.converged:
                (flow,) = self.model.full_flows([asked[number][1]])
            found[number] = self.model.with_air(flow).used
        for number in reversed(range(len(asked))):  # what is kept of a pattern is of its first case
            self._keep(asked[number][0], found[number])
        return [found[number] for number in range(len(asked))]

    def _start(self, model: NetworkModel, asked: Sequence[tuple[frozenset[int], Case]], some: Sequence[int]) -> Start:
        """Return what some cases start from on a network: the last answer in which the same vessels give."""
        net = model.plumbing.network
        usual = net.guess_m3s, usual_state(net)
        starts = [
            self._last[pattern][1:] if pattern in self._last else usual for pattern in (asked[n][0] for n in some)
        ]
        return Start(
            flows_m3s=np.array([flows for flows, _ in starts]), control_state=np.array([states for _, states in starts])
        )

    def _keep(self, pattern: frozenset[int], flow: Flow) -> None:
        model = flow.model
        if flow.converged and isinstance(model, NetworkModel):
            moving = np.where(flow.flows_m3s == 0.0, model.plumbing.network.guess_m3s, flow.flows_m3s)
            states = np.array(list(flow.control_states.values()), dtype=np.intp)
            self._last[pattern] = model, moving, states

    def _network(self, flow: Flow) -> Floats:
        """Return what the network does: gains of vessels, what outlets and lines pass, what places draw [m3/s]."""
        outlets = np.array([flow.outlet_flow_m3s(outlet.id) for outlet in self.outlets])
        gains = self._into @ flow.flows_m3s[: self._pipes]
        into = self._filled >= 0
        np.add.at(gains, self._filled[into], outlets[into])
        places = sum(draw for place, draw in self._places if flow.head_m(place) is not None)
        return np.concatenate([gains, outlets, flow.flows_of_lines_m3s, [places]])

    def _rates(self, patterns: list[Floats], edges: list[int], modes: Modes) -> Rates:
        vessels = len(self.vessels)
        brought, drawn = np.zeros(vessels), np.zeros(vessels)
        for spell in modes.running:
            if spell.to is not None:
                brought[self.number[spell.to]] += spell.flow_m3s
            if spell.from_ is not None:
                drawn[self.number[spell.from_]] += spell.flow_m3s
        network = patterns[0]
        if edges:
            closed = (network[:vessels] + brought - drawn)[edges]
            change = np.array([(pattern - network)[edges] for pattern in patterns[1:]]).T
            weight = np.clip(np.linalg.lstsq(change, -closed, rcond=None)[0], 0.0, 1.0)
            network = network + weight @ np.array([pattern - network for pattern in patterns[1:]])
        gains = network[:vessels]
        over = np.zeros(vessels)
        for number, edge in modes.held.items():
            if edge is Edge.FLOOR and drawn[number] > 0.0:
                share = min(max(gains[number] + brought[number], 0.0) / drawn[number], 1.0)
                for spell in modes.running:
                    if spell.from_ == self.vessels[number].id and spell.to is not None:
                        brought[self.number[spell.to]] -= (1.0 - share) * spell.flow_m3s
                drawn[number] *= share
        for number, edge in modes.held.items():
            if edge is Edge.BRIM:
                over[number] = max(gains[number] + brought[number] - drawn[number], 0.0)
        return Rates(
            gains=gains + brought - drawn - over,
            over=over,
            drawn=drawn,
            brought=brought,
            outlets=network[vessels : vessels + len(self.outlets)],
            lines=network[vessels + len(self.outlets) : -1],
            places=float(network[-1]),
        )
