"""What the network does at any volumes of its vessels: many states at once, each begun near the last ones."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from leadsman.core.base.array import Bools, Floats, Ints
from leadsman.core.dayrun.levels import Levels
from leadsman.core.design import Design
from leadsman.core.design.outlet_law import FULLY_OPEN
from leadsman.core.physics.float_valve import SHUT_BELOW, FloatValve
from leadsman.core.solver.gradient import Solution, Start, usual_state
from leadsman.core.solver.near_answer import near_answer
from leadsman.core.solver.network import Cases
from leadsman.core.steady.case import Case
from leadsman.core.steady.network_model import NetworkModel
from leadsman.core.steady.way import STILL_BELOW_M3S

ABOVE_OUTLET_M = 1e-6
ENERGY_WITHIN_M = 2e-4  # of each link: a step of Newton squares what is left, and levels are off more than that
MOST_NETWORKS = 8  # with more and more points open to air
LEAST_WAY = 1e-12  # squares of shares of what vessels hold: nothing is learnt of less
LEAST_LEFT = 0.1  # of the last flow: a start foretold from it goes no lower, so that nothing seems to turn round

Pattern = frozenset[int]
"""The numbers of the vessels that give."""


class NoAnswer(Exception):
    """The network has no solution at a moment."""


@dataclass(frozen=True, kw_only=True)
class _Last:
    """An answer in which the same vessels gave: at volumes [m3], and how its flows answer to them."""

    volumes_m3: Floats
    flows_m3s: Floats
    state: Ints
    shut: Bools
    answers: Floats | None


@dataclass(frozen=True, kw_only=True)
class _Template:
    """One case for each of some patterns, with every float open and every vessel empty."""

    made: list[Case]
    cases: Cases
    giving: Bools
    dry: Bools  # places and outlets that no water gets to
    passed: Floats  # what outlets without a link of their own pass
    places_m3s: Floats


@dataclass(frozen=True, eq=False)
class _Airless:
    """An answer in which no air came in: which links ran which way, heads [m], and by how much it did not [m]."""

    template: _Template
    running: Floats
    heads_m: Floats
    spare_m: float

    def holds(self, template: _Template, running: Floats, heads_m: Floats) -> bool:
        """Whether none comes in either at other heads: along a line the head lies between those of its ends."""
        alike = self.template is template and np.array_equal(self.running, running)
        return bool(alike and (self.heads_m - heads_m).max(initial=0.0) < self.spare_m)


class Hydraulics:
    """The network of a design, its floats following the levels.

    A row of an answer [m3/s]: gains of all vessels, what all outlets pass, what all lines pass (positive from their
    `from` to their `to`), then the heads at all places and all outlets [m] (the ground where no water gets to), and
    what places draw.
    """

    def __init__(
        self,
        design: Design,
        model: NetworkModel,
        levels: Levels,
        standing: Case,
        floats: Mapping[str, tuple[FloatValve, int]],
    ) -> None:
        """Prepare it.

        Args:
            standing: what is open, whatever the levels.
            floats: of each outlet that follows a level its valve, and the number of its vessel.
        """
        self.design, self.model, self.levels, self.standing = design, model, levels, standing
        joined = set(model.loader.joined)
        self.gives = np.array([vessel.id in joined for vessel in design.vessels], dtype=bool)
        self.outlet_m = np.array([vessel.outlet_m for vessel in design.vessels])
        ground_m = {place.id: place.ground_m for place in design.places}
        at = [*ground_m, *(outlet.place for outlet in design.outlets)]
        self.ground_m = np.array([ground_m[place] for place in at])
        self.floats = list(floats)
        self.float_vessel = np.array([number for _, number in floats.values()], dtype=np.intp)
        self.closes_m = np.array([valve.closes_at_m for valve, _ in floats.values()])
        self.band_m = np.array([valve.band_m for valve, _ in floats.values()])
        number = {vessel.id: index for index, vessel in enumerate(design.vessels)}
        self.filled = np.array([number[one.fills] if one.fills else -1 for one in design.outlets], dtype=np.intp)
        self._fills = np.eye(len(design.vessels))[self.filled]
        self._stand_on(model)

    def _stand_on(self, model: NetworkModel) -> None:
        """Answer from now on with a network that may be open to air at some points."""
        self.on, plumbing = model, model.plumbing
        net, pipes = plumbing.network, len(plumbing.segments)
        self._needs_flow = np.ones(net.links, dtype=bool)  # a pipe has friction at rest, the others have not
        self._needs_flow[net.piece_link] = False
        self._float_links = np.array([plumbing.outlet_link[outlet] for outlet in self.floats], dtype=np.intp)
        nodes = np.array([plumbing.vessels[vessel.id] for vessel in self.design.vessels], dtype=np.intp)
        nodes_told = [plumbing.junctions[place.id] for place in self.design.places]
        nodes_told += [plumbing.outlet_nodes[outlet.id] for outlet in self.design.outlets]
        self._told_nodes = np.array(nodes_told, dtype=np.intp)
        self._vessel_columns = nodes - net.junctions
        outlets = [
            plumbing.outlet_link.get(one.id, plumbing.limited_link.get(one.id, -1)) for one in self.design.outlets
        ]
        self._outlet_links = np.array(outlets, dtype=np.intp)
        first = pipes + len(plumbing.to_air)
        self._place_links = [first + n for n, draw in enumerate(plumbing.limited) if draw.outlet_id is None]
        into = (net.end[None] == nodes[:, None]).astype(float) - (net.start[None] == nodes[:, None])
        into[:, pipes:] = 0.0
        self._joined_vessel, self._joined_link = np.nonzero(into)
        self._joined_sign = into[self._joined_vessel, self._joined_link]
        self._into = into
        self._lifts = any(line.pump for line in self.design.lines)
        self._airless: _Airless | None = None
        self._templates: dict[tuple[Pattern, ...], _Template] = {}
        self._last: dict[Pattern, _Last] = {}

    def rows(self, volumes_m3: Floats, patterns: Sequence[Pattern]) -> Floats:
        """Return the row of each pattern at volumes [m3], shape (patterns, rates).

        Raises:
            NoAnswer: the network has no solution.
        """
        for _ in range(MOST_NETWORKS):
            template = self._template(tuple(patterns))
            cases = self._cases(template, volumes_m3)
            solver = self.on.plumbing.solver
            start = self._start(volumes_m3, patterns)
            near = near_answer(solver, cases, start, ENERGY_WITHIN_M)
            solution = near or solver.solve(cases, start, ENERGY_WITHIN_M)
            if not solution.converged.all():
                solution = solver.solve(cases, energy_within_m=ENERGY_WITHIN_M)
            self._asked = volumes_m3, template, cases, solution
            if solution.converged.all():
                break
            if not self._open_to_air(np.flatnonzero(~solution.converged)):
                raise NoAnswer
        for number, pattern in enumerate(patterns):
            last = self._last.get(pattern)
            self._last[pattern] = _Last(
                volumes_m3=volumes_m3,
                flows_m3s=solution.flows_m3s[number],
                state=solution.control_state[number],
                shut=solution.shut[number],
                answers=None if last is None else self._learnt(last, volumes_m3, solution.flows_m3s[number]),
            )
        return self._rows(solution, template)

    def _learnt(self, last: _Last, volumes_m3: Floats, flows_m3s: Floats) -> Floats | None:
        """Return how flows answer to volumes, put right along the way that was just gone (Broyden 1965)."""
        gone = volumes_m3 - last.volumes_m3
        weighed = gone / self.levels.brim_m3**2
        length = float(gone @ weighed)
        if last.answers is None or length < LEAST_WAY:
            return last.answers
        off = flows_m3s - last.flows_m3s - last.answers @ gone
        return last.answers + off[:, None] * (weighed / length)

    def answers(self, nudges_m3: Floats) -> Floats:
        """Return by how much the rows last asked for change per volume [1/s], shape (patterns, vessels, rates).

        Args:
            nudges_m3: which way each vessel's volume may go, and how far it takes to see its level move [m3].
        """
        volumes, template, cases, solution = self._asked
        solver, net = self.on.plumbing.solver, self.on.plumbing.network
        levels, x = self._levels_and_openings(np.array([volumes, volumes + nudges_m3]))
        wider = np.where(x[0] > 0.0, (x[1] - x[0]) / nudges_m3[self.float_vessel], 0.0)
        changes = []
        for number in range(len(template.made)):
            row = np.array([number])
            one = cases.take(row)
            stood = self._stood(levels, template.giving[number])
            higher = (stood[1] - stood[0]) / nudges_m3
            gaps = np.zeros((net.links, len(volumes)))
            gaps[self._joined_link, self._joined_vessel] = -self._joined_sign * higher[self._joined_vessel]
            links = self._float_links
            flows = solution.flows_m3s[number][links]
            lost = one.square[0][links] * flows * np.abs(flows)
            gaps[links, self.float_vessel] += 2.0 * lost * wider / np.where(x[0] > 0.0, x[0], 1.0)
            change = solver.responses(one, _taken(solution, row), gaps)
            pattern = frozenset(np.flatnonzero(template.giving[number]).tolist())
            self._last[pattern] = replace(self._last[pattern], answers=change)
            changes.append(self._changes(change.T, solution.flows_m3s[number]))
        return np.array(changes)

    def draws_air_in(self) -> bool:
        """Whether the network draws air in where it was last asked for; then the next answers have it there."""
        _, template, cases, solution = self._asked
        running = np.sign(np.where(np.abs(solution.flows_m3s) > STILL_BELOW_M3S, solution.flows_m3s, 0.0))
        if self._airless and self._airless.holds(template, running, solution.heads_m):
            return False
        found, spare_m = self.on.letting_air_in(cases, solution)
        self._airless = None if self._lifts else _Airless(template, running, solution.heads_m, spare_m)
        return bool(found.any()) and self._open_to_air(np.flatnonzero(found))

    def _open_to_air(self, rows: Ints) -> bool:
        """Have air stand where it comes in, in some cases last asked for; whether the network changed by it."""
        volumes, template, _, _ = self._asked
        opened = set(self.on.plumbing.air_points)
        for row in rows.tolist():
            giving = frozenset(np.flatnonzero(template.giving[row]).tolist())
            (full,) = self.model.full_flows([self.case_at(volumes, giving)])
            used = self.model.with_air(full).used
            if used.converged and isinstance(used.model, NetworkModel):
                opened |= set(used.model.plumbing.air_points)
        model = self.model.open_at(frozenset(opened)) if opened else self.model
        if model is self.on:
            return False
        self._stand_on(model)
        return True

    def _template(self, patterns: tuple[Pattern, ...]) -> _Template:
        if patterns not in self._templates:
            self._templates[patterns] = self._made_template(patterns)
        return self._templates[patterns]

    def _made_template(self, patterns: tuple[Pattern, ...]) -> _Template:
        vessels, plumbing, loader = self.design.vessels, self.on.plumbing, self.on.loader
        full = dict.fromkeys(self.floats, FULLY_OPEN)
        made = [
            replace(
                self.standing,
                openings={**self.standing.openings, **full},
                levels_m={
                    vessel.id: vessel.outlet_m + ABOVE_OUTLET_M if number in pattern else 0.0
                    for number, vessel in enumerate(vessels)
                },
            )
            for pattern in patterns
        ]
        giving = np.array([[number in pattern for number in range(len(vessels))] for pattern in patterns], dtype=bool)
        cases = loader.cases(made)
        fixed = np.broadcast_to(cases.fixed_m, (len(made), cases.fixed_m.shape[1])).copy()
        fixed[:, self._vessel_columns] -= np.where(giving, self.outlet_m + ABOVE_OUTLET_M, 0.0)
        reached = [loader.reached(case) for case in made]
        wanted = [loader.fixed_flows.get(one.id, 0.0) for one in self.design.outlets]
        wanted = [
            flow if self.standing.openings[one.id] > 0.0 else 0.0
            for one, flow in zip(self.design.outlets, wanted, strict=True)
        ]
        nodes = [plumbing.outlet_nodes[one.id] for one in self.design.outlets]
        wet = np.array([[row[node] for node in nodes] for row in reached], dtype=bool).reshape(len(made), len(nodes))
        draws = loader.place_draws if not plumbing.limited else []
        return _Template(
            made=made,
            cases=replace(cases, fixed_m=fixed),
            giving=giving,
            dry=~np.array([row[self._told_nodes] for row in reached], dtype=bool).reshape(len(made), -1),
            passed=np.where(self._outlet_links < 0, wet * wanted, 0.0),
            places_m3s=np.array([sum(draw for place, draw in draws if row[place]) for row in reached], dtype=float),
        )

    def _cases(self, template: _Template, volumes_m3: Floats) -> Cases:
        """Return the case of each pattern at volumes [m3]."""
        patterns, whole = len(template.made), template.cases
        levels, x = self._levels_and_openings(volumes_m3[None])
        fixed = whole.fixed_m.copy()
        fixed[:, self._vessel_columns] += self._stood(levels, template.giving)
        square, closed = _rows_of(whole.square, patterns), _rows_of(whole.closed, patterns)
        square[:, self._float_links] /= np.where(x > 0.0, x, 1.0) ** 2
        closed[:, self._float_links] |= x <= 0.0
        return replace(whole, fixed_m=fixed, square=square, closed=closed)

    def case_at(self, volumes_m3: Floats, giving: Pattern) -> Case:
        """Return the case at volumes [m3] in which those vessels give, as all other answers ask for it."""
        levels, x = self._levels_and_openings(volumes_m3[None])
        gives = np.array([number in giving for number in range(len(self.outlet_m))], dtype=bool)
        stood = self._stood(levels, gives)[0].tolist()
        return replace(
            self.standing,
            openings={**self.standing.openings, **dict(zip(self.floats, x[0].tolist(), strict=True))},
            levels_m=dict(zip((vessel.id for vessel in self.design.vessels), stood, strict=True)),
        )

    def _levels_and_openings(self, volumes_m3: Floats) -> tuple[Floats, Floats]:
        levels = self.levels.levels_m(volumes_m3)
        x = np.clip((self.closes_m - levels[:, self.float_vessel]) / self.band_m, 0.0, FULLY_OPEN)
        return levels, np.where(x < SHUT_BELOW, 0.0, x)

    def _stood(self, levels_m: Floats, giving: Bools) -> Floats:
        """Return levels [m] that say by themselves which vessels give."""
        own = np.where(
            giving, np.maximum(levels_m, self.outlet_m + ABOVE_OUTLET_M), np.minimum(levels_m, self.outlet_m)
        )
        return np.where(self.gives, own, levels_m)

    def _start(self, volumes_m3: Floats, patterns: Sequence[Pattern]) -> Start:
        """Return what the cases start from: where the last answer of the same pattern leads, by how it answered."""
        net = self.on.plumbing.network
        nothing = _Last(
            volumes_m3=volumes_m3,
            flows_m3s=net.guess_m3s,
            state=usual_state(net),
            shut=np.zeros(net.links, dtype=bool),
            answers=None,
        )
        lasts = [self._last.get(pattern, nothing) for pattern in patterns]
        begun = np.array([last.flows_m3s for last in lasts])
        ahead = np.array([_foretold(last, volumes_m3) for last in lasts])
        turned = ahead * begun <= LEAST_LEFT * begun**2
        ahead = np.where(turned & (begun != 0.0), LEAST_LEFT * begun, ahead)
        return Start(
            flows_m3s=np.where((ahead == 0.0) & self._needs_flow, net.guess_m3s, ahead),
            control_state=np.array([last.state for last in lasts]),
            shut=np.array([last.shut for last in lasts]),
        )

    def _rows(self, solution: Solution, template: _Template) -> Floats:
        flows_m3s = solution.flows_m3s
        heads = np.where(template.dry, self.ground_m, solution.heads_m[:, self._told_nodes])
        linked, links = self._outlet_links >= 0, self._outlet_links
        outlets = template.passed.copy()
        outlets[:, linked] = np.maximum(flows_m3s[:, links[linked]], 0.0)
        return self._in_order(flows_m3s, outlets, heads, template.places_m3s + self._from_places(flows_m3s))

    def _changes(self, flows_m3s: Floats, now_m3s: Floats) -> Floats:
        """Return changes of a row as changes of flows make them, shape (changes, rates)."""
        linked, links = self._outlet_links >= 0, self._outlet_links
        outlets = np.zeros((len(flows_m3s), len(links)))
        outlets[:, linked] = np.where(now_m3s[links[linked]] > 0.0, flows_m3s[:, links[linked]], 0.0)
        heads = np.zeros((len(flows_m3s), len(self.ground_m)))
        return self._in_order(flows_m3s, outlets, heads, self._from_places(flows_m3s))

    def _from_places(self, flows_m3s: Floats) -> Floats:
        return np.asarray(flows_m3s[:, self._place_links].sum(axis=1))

    def _in_order(self, flows_m3s: Floats, outlets: Floats, heads_m: Floats, places: Floats) -> Floats:
        plumbing, fills = self.on.plumbing, self.filled >= 0
        gains = (self._into @ flows_m3s.T).T
        gains += outlets[:, fills] @ self._fills[fills]
        lines = flows_m3s[:, plumbing.first_link] * plumbing.line_sign
        return np.concatenate([gains, outlets, lines, heads_m, places[:, None]], axis=1)


def _foretold(last: _Last, volumes_m3: Floats) -> Floats:
    if last.answers is None:
        return last.flows_m3s
    return last.flows_m3s + last.answers @ (volumes_m3 - last.volumes_m3)


def _taken(solution: Solution, rows: Ints) -> Solution:
    return Solution(**{name: array[rows] for name, array in vars(solution).items()})


def _rows_of(array: Any, count: int) -> Any:
    """Return an array with a row of its own for each case."""
    return np.broadcast_to(array, (count, array.shape[1])).copy()
