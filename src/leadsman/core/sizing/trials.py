"""Plans tried on the network: many choices in one batch, what each requirement has to spare, and what they cost."""

from dataclasses import dataclass

import numpy as np

from leadsman.core.base.array import Floats, Ints
from leadsman.core.base.cancel import CancelCheck, never_cancelled
from leadsman.core.base.units import head_m_from_pa, pa_from_kpa
from leadsman.core.design import Design
from leadsman.core.design.layout import Layout
from leadsman.core.design.outlet_law import least_head_m
from leadsman.core.physics.fittings import kv_loss_per_flow2
from leadsman.core.sizing.problem import Problem
from leadsman.core.sizing.wanted import ALONE, TOGETHER, Must
from leadsman.core.solver.gradient import ENERGY_WITHIN_M, Solution, Start
from leadsman.core.solver.network import Cases
from leadsman.core.steady.case import Case, case_of, scenario_named
from leadsman.core.steady.loading import Figures, likely_figures
from leadsman.core.steady.network_model import NetworkModel
from leadsman.core.steady.solve import FRICTION

TOGETHER_SOLVED = 64
MET_WITHIN = 1e-6  # what a requirement may lack: of a flow as a share, of a head in metres
NO_ANSWER = -1e3


@dataclass(frozen=True, kw_only=True)
class Tried:
    """What a batch of plans has to spare for each requirement, shape (plans, musts).

    Flows and velocities as a share of what is required, heads in metres.
    """

    spare: Floats

    @property
    def lacks(self) -> Floats:
        """How much all requirements lack together, shape (plans,); 0 where every one is met."""
        return np.asarray(np.maximum(-self.spare - MET_WITHIN, 0.0).sum(axis=1))


class Trials:
    """A problem's network. `count` is how many plans it was solved for so far."""

    def __init__(self, problem: Problem, check_cancelled: CancelCheck = never_cancelled) -> None:
        self.problem, self.count, self.check_cancelled = problem, 0, check_cancelled
        design, self.water = _widest(problem), problem.water
        self.design = design
        self.model = NetworkModel(
            Layout(design), self.water, FRICTION[problem.friction], check_cancelled=check_cancelled
        )
        plumbing = self.model.plumbing
        number = {line.id: index for index, line in enumerate(design.lines)}
        of_line = np.full(len(design.lines), -1, dtype=np.intp)
        for position, one in enumerate(problem.lines):
            of_line[number[one.line.id]] = position
        self.position_of_reach = of_line[np.array(plumbing.reach_line, dtype=np.intp)]
        most = max((len(one.choices) for one in problem.slots), default=1)
        shape = (len(problem.slots), most)
        self.bores, self.roughs, self.prices = np.zeros(shape), np.zeros(shape), np.full(shape, np.inf)
        self.kv_factors, self.least_m, self.rises_m = np.ones(shape), np.zeros(shape), np.zeros(shape)
        for position, slot in enumerate(problem.slots):
            for index in range(len(slot.choices)):
                self.prices[position, index] = slot.price(index)
        for position, one in enumerate(problem.lines):
            for index, choice in enumerate(one.choices):
                self.bores[position, index], self.roughs[position, index] = choice.bore_m, choice.roughness_m
        outlets = [outlet.id for outlet in plumbing.to_air]
        vessels = [vessel.id for vessel in design.vessels]
        first = len(problem.lines)
        self.valve_slots = [(first + at, outlets.index(one.outlet.id)) for at, one in enumerate(problem.valves)]
        for position, valve in enumerate(problem.valves, first):
            for index, sold in enumerate(valve.choices):
                self.kv_factors[position, index] = sold.kv_m3h / valve.outlet.valve.kv_m3h
                self.least_m[position, index] = head_m_from_pa(pa_from_kpa(sold.least_kpa), self.water.density_kgm3)
        self.filter_slots = [
            (problem.first_filter + at, number[one.line.id]) for at, one in enumerate(problem.filters)
        ]  # fmt: skip
        self.filters_take = np.zeros(shape)
        for position, sieve in enumerate(problem.filters, problem.first_filter):
            for index, passes in enumerate(sieve.choices):
                loss = kv_loss_per_flow2(passes.kv_m3h, self.water.density_kgm3)
                self.filters_take[position, index] = loss
        first = problem.first_stand
        self.stand_slots = [(first + at, vessels.index(one.vessel.id)) for at, one in enumerate(problem.stands)]
        for position, stand in enumerate(problem.stands, first):
            for index, rise in enumerate(stand.choices):
                self.rises_m[position, index] = rise.rise_m
        self.most = np.array([len(one.choices) - 1 for one in problem.slots], dtype=np.intp)
        self._likely = likely_figures(plumbing)
        self._shed = self._shed_of()
        self._cases = self._cases_of()
        self._starts: dict[str, Start] = {}  # flows of the plan solved last: the next are like it
        self._valve_of = {one.outlet.id: len(problem.lines) + at for at, one in enumerate(problem.valves)}

    def _shed_of(self) -> list[tuple[float, float, Floats]]:
        """Return of each product in the shed how much of it there is, its price, and what each choice takes of it."""
        found = []
        for stock, price, amounts in self.problem.taken_of_shed():
            takes = np.zeros_like(self.prices)
            for (position, index), amount in amounts.items():
                takes[position, index] = amount
            found.append((stock, price, takes))
        return found

    def _cases_of(self) -> dict[str, tuple[Case, list[int]]]:
        """Return the cases that are required anything in, and the numbers of the musts of each."""
        design, together = self.design, case_of(self.design, all_open=True)
        found: dict[str, tuple[Case, list[int]]] = {TOGETHER: (together, [])}
        for number, must in enumerate(self.problem.musts):
            if must.when == TOGETHER:
                found[TOGETHER][1].append(number)
                continue
            key = f"{ALONE} {must.where}" if must.when == ALONE else must.when
            if key not in found:
                if must.when == ALONE:
                    own = must.where in self.model.layout.outlets
                    case = together.with_only(must.where) if own else together.with_nothing_drawing()
                else:
                    case = case_of(design, all_open=True, scenario=scenario_named(design, must.when))
                found[key] = case, []
            found[key][1].append(number)
        return found

    def costs(self, rows: Ints) -> Floats:
        """Return what plans cost, shape (plans,): what is in the shed costs nothing as far as it goes."""
        slots = np.arange(len(self.most))[None]
        cost = self.prices[slots, rows].sum(axis=1)
        for stock, price, takes in self._shed:
            cost = cost - price * np.minimum(stock, takes[slots, rows].sum(axis=1))
        return np.asarray(cost)

    def cost(self, row: Ints) -> float:
        """Return what one plan costs."""
        return float(self.costs(row[None])[0])

    def tried(self, rows: Ints, rise_m: float = 0.0) -> Tried:
        """Solve plans, a choice for each slot in each row, every tank higher by `rise_m`; what has no answer lacks."""
        found = [
            self._batch(rows[first : first + TOGETHER_SOLVED], rise_m) for first in range(0, len(rows), TOGETHER_SOLVED)
        ]
        return Tried(spare=np.concatenate(found))

    def flows_m3s(self, row: Ints) -> Floats:
        """Return the flow in each line of a plan [m3/s] from its `from` end, all open."""
        self.count += 1
        cases = self.model.loader.cases([self._cases[TOGETHER][0]], self._figures(row[None], 0.0))
        solution = self.model.plumbing.solver.solve(cases, self._starts.get(TOGETHER), ENERGY_WITHIN_M)
        plumbing = self.model.plumbing
        return np.asarray(solution.flows_m3s[0, plumbing.first_link] * plumbing.line_sign)

    def _batch(self, rows: Ints, rise_m: float) -> Floats:
        self.check_cancelled()
        self.count += len(rows)
        figures, spare = self._figures(rows, rise_m), np.full((len(rows), len(self.problem.musts)), np.inf)
        for key, (case, musts) in self._cases.items():
            if not musts:
                continue
            cases = self.model.loader.cases([case] * len(rows), figures)
            solution = self.model.plumbing.solver.solve(cases, self._starts.get(key), ENERGY_WITHIN_M)
            if solution.converged[0]:
                self._starts[key] = Start(flows_m3s=solution.flows_m3s[0])
            for number in musts:
                spare[:, number] = self._spare(self.problem.musts[number], rows, figures, solution)
            points = [number for number in musts if self.problem.musts[number].over_at_m is not None]
            if points:
                spare[:, points] = self._over_pipe_m(cases, solution, points)
            spare[np.ix_(np.flatnonzero(~solution.converged), np.array(musts))] = NO_ANSWER
        return spare

    def _figures(self, rows: Ints, rise_m: float) -> Figures:
        likely = self._likely
        bores = np.repeat(likely.bore_m, len(rows), axis=0)
        roughs = np.repeat(likely.roughness_m, len(rows), axis=0)
        sized = self.position_of_reach >= 0
        positions = self.position_of_reach[sized]
        bores[:, sized] = self.bores[positions[None], rows[:, positions]]
        roughs[:, sized] = self.roughs[positions[None], rows[:, positions]]
        one = np.ones((len(rows), 1))
        kv, level = one * likely.kv_factor, one * (likely.level_rise_m + rise_m)
        for slot, column in self.valve_slots:
            kv[:, column] = self.kv_factors[slot, rows[:, slot]]
        blocked = one * likely.blocked_per_flow2
        for slot, column in self.filter_slots:
            blocked[:, column] += self.filters_take[slot, rows[:, slot]]
        for slot, column in self.stand_slots:
            level[:, column] += self.rises_m[slot, rows[:, slot]]
        return Figures(
            place_rise_m=one * likely.place_rise_m, level_rise_m=level, bore_m=bores, roughness_m=roughs,
            fitting_factor=one * likely.fitting_factor, kv_factor=kv, blocked_per_flow2=blocked,
        )  # fmt: skip

    def _spare(self, must: Must, rows: Ints, figures: Figures, solution: Solution) -> Floats:
        plumbing, layout = self.model.plumbing, self.model.layout
        if must.most_ms is not None:
            number = layout.line_number[must.where]
            bores_m = figures.bore_m[:, plumbing.first_reach[number]]  # a sized line is of one reach
            flows = np.abs(solution.flows_m3s[:, plumbing.first_link[number]])
            return np.asarray(1.0 - flows / (np.pi / 4.0 * bores_m**2) / must.most_ms)
        if must.feeds_m3s is not None:
            number = layout.line_number[must.where]
            flow = solution.flows_m3s[:, plumbing.first_link[number]] * plumbing.line_sign[number]
            return np.asarray(flow / must.feeds_m3s - 1.0)
        if must.over_at_m is not None:
            return np.full(len(rows), np.inf)
        outlet = layout.outlets.get(must.where)
        node = must.where if outlet is None else layout.node_of_outlet[must.where]
        height = layout.places[must.where].ground_m if outlet is None else layout.outlet_height_m(outlet)
        over_m = solution.heads_m[:, plumbing.node(node)] - height
        if must.opens and outlet is not None:
            slot = self._valve_of.get(must.where)
            own_m = least_head_m(outlet, self.water.density_kgm3)
            return np.asarray(over_m - (own_m if slot is None else self.least_m[slot, rows[:, slot]]))
        if must.flow_m3s is None:
            return np.asarray(over_m - (must.pressure_m or 0.0))
        return np.asarray(solution.flows_m3s[:, plumbing.outlet_link[must.where]] / must.flow_m3s - 1.0)

    def _over_pipe_m(self, cases: Cases, solution: Solution, musts: list[int]) -> Floats:
        """Return how far the grade lies over the pipe [m] at the points that must not be in suction."""
        along = self.model.along
        spots = {(point.line_id, point.at_m): number for number, point in enumerate(along.points)}
        numbers = [spots[one.where, one.over_at_m or 0.0] for one in (self.problem.musts[must] for must in musts)]
        friction = along.friction_m(cases, solution.flows_m3s)
        heads = along.heads_m(cases, solution.heads_m, solution.flows_m3s, friction, cases.closed)
        return np.asarray(heads[:, numbers] - along.pipe_m[numbers])


def _widest(problem: Problem) -> Design:
    """Return the plan with every sized line of its widest pipe: the network that trials change."""
    rough = {} if problem.coefficient is None else {"hazen_williams_c": problem.coefficient}
    sized = {one.line.id: one.laid(len(one.choices) - 1).model_copy(update=rough) for one in problem.lines}
    lines = [sized.get(line.id, line) for line in problem.design.lines]
    return problem.design.model_copy(update={"lines": lines})
