"""The cheapest plan while every outlet draws what is required of it, by mixed-integer programming (HiGHS, gap 0).

Of trees that plan is the cheapest there is. Lines that loop or join tanks, the core, are taken in every combination, or
where those are too many at their cheapest and without loss. What floats run freely draw is more than is required, so
what the plan costs is then still a bound.
"""

from dataclasses import dataclass

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, milp

from leadsman.core.base.array import Floats, Ints
from leadsman.core.base.cancel import CancelCheck, never_cancelled
from leadsman.core.base.units import head_m_from_pa, pa_from_kpa
from leadsman.core.design.layout import Layout, line_profile
from leadsman.core.design.outlet_law import least_head_m
from leadsman.core.physics.fittings import kv_loss_per_flow2
from leadsman.core.sizing.head_taken import choices_take_m, outlet_takes_m, takes_m
from leadsman.core.sizing.joined import joined_plans
from leadsman.core.sizing.problem import Problem
from leadsman.core.sizing.skeleton import Skeleton, flows_at
from leadsman.core.sizing.wanted import ALONE, TOGETHER, Must

MOST_LISTED = 150_000  # beginnings of plans that are looked at together
SAME_COST, WITHIN_M = 1e-9, 1e-6


@dataclass(frozen=True, kw_only=True)
class Proven:
    """The cheapest plan at the required flows: for each slot shares of its choices, one of them 1 unless it is split.

    `row` is that plan where no line is split.
    """

    shares: tuple[tuple[float, ...], ...]
    cost: float

    @property
    def row(self) -> Ints:
        """The choice of each slot: the one with the largest share."""
        return np.array([int(np.argmax(shares)) for shares in self.shares], dtype=np.intp)


def proven(
    problem: Problem,
    skeleton: Skeleton,
    *,
    split: bool = False,
    flows_m3s: Floats | None = None,
    check_cancelled: CancelCheck = never_cancelled,
) -> Proven | None:
    """Return the cheapest plan at the required flows, proven; None where no plan gives what is required.

    Each line is of one choice, or with `split` of shares of them, of which two are enough, where there is no core. A
    split line takes what its fittings do at each bore by its share of it.

    Args:
        flows_m3s: what flows in each line from its `from` end, where it is not what is drawn behind it.

    Source: shares x of slot s in choice p; the cost is linear in them, and so is the head that a way takes.
    """
    return _Program(problem, skeleton, split and not skeleton.core, flows_m3s, check_cancelled).solved()


def cheaper_than(
    problem: Problem,
    skeleton: Skeleton,
    cost: float,
    most: int,
    check_cancelled: CancelCheck = never_cancelled,
) -> Ints | None:
    """Return every plan below a cost that gives what is required at the required flows, the cheapest first.

    None where they are more than `most`, or cannot all be listed.
    """
    return _Program(problem, skeleton, False, None, check_cancelled).below(cost, most)


class _Program:
    """The program: a column for each choice of each slot, then for each plan of the core; rows as `_require` adds."""

    def __init__(
        self,
        problem: Problem,
        skeleton: Skeleton,
        split: bool,
        flows_m3s: Floats | None,
        check_cancelled: CancelCheck,
    ) -> None:
        self.problem, self.skeleton, self.split = problem, skeleton, split
        self.layout = Layout(problem.design)
        self.flows = _flows(skeleton, flows_at(problem, self.layout))
        if flows_m3s is not None:
            for upper, number in skeleton.up.values():
                away = problem.design.lines[number].from_ == upper
                self.flows[number] = float(flows_m3s[number]) * (1.0 if away else -1.0)
        self.core = joined_plans(problem, skeleton, self.layout, check_cancelled) if skeleton.core else None
        self.in_core = {slot for choices in self.core.choices for slot in choices} if self.core else set()
        sizes = [len(slot.choices) for slot in problem.slots]
        self.first = np.concatenate([[0], np.cumsum(sizes)]).astype(int)
        self.slot_of_line = {one.line.id: at for at, one in enumerate(problem.lines)}
        self.slot_of_valve = {one.outlet.id: len(problem.lines) + at for at, one in enumerate(problem.valves)}
        self.slot_of_filter = {one.line.id: problem.first_filter + at for at, one in enumerate(problem.filters)}
        self.slot_of_stand = {one.vessel.id: problem.first_stand + at for at, one in enumerate(problem.stands)}
        self.columns = int(self.first[-1]) + (len(self.core.costs) if self.core else 0)
        self.rows: list[Floats] = []
        self.room: list[float] = []
        self.upper = np.ones(self.columns)
        self.taken: dict[tuple[int, float, float], Floats] = {}

    def solved(self) -> Proven | None:
        """Return the plan, or None."""
        problem = self.problem
        cost, one_each = np.zeros(self.columns), []
        for at, slot in enumerate(problem.slots):
            own = slice(self.first[at], self.first[at + 1])
            if at in self.in_core:
                self.upper[own] = 0.0
                continue
            cost[own] = [slot.price(index) for index in range(len(slot.choices))]
            chosen = np.zeros(self.columns)
            chosen[own] = 1.0
            one_each.append(chosen)
        if self.core is not None:
            cost[self.first[-1] :] = self.core.costs
            chosen = np.zeros(self.columns)
            chosen[self.first[-1] :] = 1.0
            one_each.append(chosen)
        for must in problem.musts:
            self._require(must)
        shed = self._shed()
        width = self.columns + len(shed)
        constraints = []
        if one_each:
            constraints.append(LinearConstraint(_wide(np.array(one_each), width), 1.0, 1.0))
        if self.rows:
            constraints.append(LinearConstraint(_wide(np.array(self.rows), width), -np.inf, np.array(self.room)))
        upper, price = np.concatenate([self.upper, np.zeros(len(shed))]), np.concatenate([cost, np.zeros(len(shed))])
        for number, (stock, each, takes) in enumerate(shed):
            at = self.columns + number
            upper[at], price[at] = stock, -each
            row = np.zeros(width)
            row[: self.columns], row[at] = -takes, 1.0
            constraints.append(LinearConstraint(row[None], -np.inf, 0.0))
        whole = np.ones(width, dtype=np.intp)
        whole[self.columns :] = 0
        if self.split:
            whole[: int(self.first[len(problem.lines)])] = 0
        found = milp(
            price, constraints=constraints, bounds=Bounds(0.0, upper), integrality=whole, options={"mip_rel_gap": 0.0}
        )
        if found.x is None:
            return None
        return Proven(shares=self._shares(found.x), cost=float(found.fun))

    def below(self, most_cost: float, most: int) -> Ints | None:
        """Return every plan below a cost, slot by slot: what can no longer be cheap enough or hold is left out."""
        problem = self.problem
        if problem.shed or (self.core is not None and not self.core.whole):
            return None
        for must in problem.musts:
            self._require(must)
        takes, room = np.array(self.rows).reshape(-1, self.columns), np.array(self.room)
        groups = [
            np.arange(self.first[at], self.first[at + 1]) for at in range(len(problem.slots)) if at not in self.in_core
        ]
        groups = [own[self.upper[own] > 0.0] for own in groups]
        price = np.concatenate([[slot.price(index) for index in range(len(slot.choices))] for slot in problem.slots])
        if self.core is not None:
            price = np.concatenate([price, self.core.costs])
            groups.append(np.arange(self.first[-1], self.columns))
        groups.sort(key=lambda own: float(price[own].min() - price[own].max()))  # what tells most, first
        rest_cost = np.cumsum([0.0, *(float(price[own].min()) for own in reversed(groups))])[::-1]
        least = [takes[:, own].min(axis=1) for own in groups]
        rest_takes = np.cumsum([np.zeros(len(room)), *reversed(least)], axis=0)[::-1]
        plans, costs, taken = np.zeros((1, 0), dtype=np.intp), np.zeros(1), np.zeros((1, len(room)))
        for number, own in enumerate(groups, 1):
            plans = np.concatenate([np.repeat(plans, len(own), axis=0), np.tile(own, len(plans))[:, None]], axis=1)
            costs = np.repeat(costs, len(own)) + np.tile(price[own], len(costs))
            taken = np.repeat(taken, len(own), axis=0) + np.tile(takes[:, own].T, (len(taken), 1))
            hopeful = costs + rest_cost[number] < most_cost * (1.0 - SAME_COST)
            hopeful &= np.all(taken + rest_takes[number] <= room + WITHIN_M, axis=1)
            plans, costs, taken = plans[hopeful], costs[hopeful], taken[hopeful]
            if len(plans) > MOST_LISTED:
                return None
        if len(plans) > most:
            return None
        return self._rows(plans[np.argsort(costs, kind="stable")])

    def _rows(self, plans: Ints) -> Ints:
        """Return plans, given by their columns, as a choice for each slot."""
        found = np.zeros((len(plans), len(self.problem.slots)), dtype=np.intp)
        for column in plans.T:
            slots = np.searchsorted(self.first, column, side="right") - 1
            for row, (at, chosen) in enumerate(zip(slots.tolist(), column.tolist(), strict=True)):
                if at < len(self.problem.slots):
                    found[row, at] = chosen - self.first[at]
                elif self.core is not None:
                    for slot, choice in self.core.choices[chosen - int(self.first[-1])].items():
                        found[row, slot] = choice
        return found

    def _shares(self, x: Floats) -> tuple[tuple[float, ...], ...]:
        found = [tuple(x[self.first[at] : self.first[at + 1]].tolist()) for at in range(len(self.problem.slots))]
        if self.core is not None:
            choices = self.core.choices[int(np.argmax(x[self.first[-1] : self.columns]))]
            for at, choice in choices.items():
                found[at] = tuple(float(index == choice) for index in range(len(self.problem.slots[at].choices)))
        lines = len(self.problem.lines)
        return tuple(
            shares if self.split and at < lines else tuple(float(round(share)) for share in shares)
            for at, shares in enumerate(found)
        )

    def _shed(self) -> list[tuple[float, float, Floats]]:
        """Return of each product in the shed its stock, its price, and what each column takes of it."""
        found = []
        for stock, each, amounts in self.problem.taken_of_shed():
            takes = np.zeros(self.columns)
            for (at, index), amount in amounts.items():
                takes[self.first[at] + index] = amount
            if self.core is not None:
                for number, choices in enumerate(self.core.choices):
                    takes[self.first[-1] + number] = sum(takes[self.first[at] + index] for at, index in choices.items())
            for at in self.in_core:
                takes[self.first[at] : self.first[at + 1]] = 0.0
            found.append((stock, each, takes))
        return found

    def _require(self, must: Must) -> None:
        """Write down a requirement, as far as it is known at the required flows."""
        layout = self.layout
        if must.feeds_m3s is not None:
            return
        if must.most_ms is not None:
            self._slow(must)
            return
        if must.over_at_m is not None:
            self._over_pipe(must)
            return
        outlet = layout.outlets.get(must.where)
        node = must.where if outlet is None else layout.node_of_outlet[must.where]
        if node not in self.skeleton.nodes:  # no water gets there
            self.rows.append(np.zeros(self.columns))
            self.room.append(-1.0)
            return
        drawing = must if must.flow_m3s is not None else self._flow_of(must)
        alone = must.when == ALONE and drawing is not None and self.core is None
        if must.when != TOGETHER and not alone:
            return
        height = layout.places[must.where].ground_m if outlet is None else layout.outlet_height_m(outlet)
        flows = self.flows
        if alone:
            flows = _flows(self.skeleton, flows_at(self.problem, layout, drawing))
        row, room = self._way(node, flows)
        room -= height
        density = self.problem.water.density_kgm3
        at = self.slot_of_valve.get(must.where) if must.flow_m3s is not None or must.opens else None
        if at is not None:
            for index, valve in enumerate(self.problem.valves[at - len(self.problem.lines)].choices):
                least_m = head_m_from_pa(pa_from_kpa(valve.least_kpa), density)
                loss_m = kv_loss_per_flow2(valve.kv_m3h, density) * (must.flow_m3s or 0.0) ** 2
                row[self.first[at] + index] += least_m if must.opens else loss_m
        elif must.opens and outlet is not None:
            room -= least_head_m(outlet, density)
        elif must.flow_m3s is not None and outlet is not None:
            room -= outlet_takes_m(outlet, must.flow_m3s, density)
        else:
            room -= must.pressure_m or 0.0
        self.rows.append(row)
        self.room.append(room)

    def _flow_of(self, must: Must) -> Must | None:
        """Return the flow that is required of an outlet in the case in which its valve has to open."""
        same = (one for one in self.problem.musts if (one.where, one.when) == (must.where, must.when))
        return next((one for one in same if one.flow_m3s is not None), None) if must.opens else None

    def _way(self, node: str, flows: dict[int, float]) -> tuple[Floats, float]:
        """Return what each column takes on the way to a node [m], and the head there without it."""
        row = np.zeros(self.columns)
        root, way = self.skeleton.way(node)
        room = 0.0
        vessel = self.layout.vessels.get(root)
        if self.core is not None:
            row[self.first[-1] :] = -self.core.heads_m[root]
        elif vessel is not None:
            room = self.layout.surface_m(vessel)
            if root in self.slot_of_stand:
                at = self.slot_of_stand[root]
                for index, rise in enumerate(self.problem.slots[at].choices):
                    row[self.first[at] + index] -= getattr(rise, "rise_m", 0.0)
        for number in way:
            room -= self._take(row, number, flows[number], 1.0)
        return row, room

    def _take(self, row: Floats, number: int, flow_m3s: float, share: float) -> float:
        """Add what a line takes, or a share of its pipe, to a row; return it where the line is not chosen."""
        line = self.problem.design.lines[number]
        at, sieve = self.slot_of_line.get(line.id), self.slot_of_filter.get(line.id)
        if sieve is not None and share == 1.0:
            density = self.problem.water.density_kgm3
            for index, choice in enumerate(self.problem.filters[sieve - self.problem.first_filter].choices):
                loss = kv_loss_per_flow2(choice.kv_m3h, density)
                row[self.first[sieve] + index] += loss * flow_m3s * abs(flow_m3s)
        if at is None:
            return takes_m(self.problem, line, flow_m3s, share)
        own = slice(self.first[at], self.first[at + 1])
        key = at, flow_m3s, share
        if key not in self.taken:
            self.taken[key] = choices_take_m(self.problem, self.problem.lines[at], flow_m3s, share)
        row[own] += self.taken[key]
        return 0.0

    def _over_pipe(self, must: Must) -> None:
        number = self.layout.line_number[must.where]
        line = self.problem.design.lines[number]
        lower = next((node for node, (_, over) in self.skeleton.up.items() if over == number), None)
        if lower is None or lower not in self.skeleton.nodes:
            return
        upper = self.skeleton.up[lower][0]
        at_m = must.over_at_m or 0.0
        share = at_m / line.pipe_length_m if upper == line.from_ else 1.0 - at_m / line.pipe_length_m
        row, room = self._way(upper, self.flows)
        room -= self._take(row, number, self.flows[number], share)
        pipe_m = next(pipe for at, _, pipe in line_profile(self.layout, line) if at == at_m)
        self.rows.append(row)
        self.room.append(room - pipe_m)

    def _slow(self, must: Must) -> None:
        at, number = self.slot_of_line[must.where], self.layout.line_number[must.where]
        if at in self.in_core or number not in self.flows:
            return
        for index, choice in enumerate(self.problem.lines[at].choices):
            if abs(self.flows[number]) / (np.pi / 4.0 * choice.bore_m**2) > (must.most_ms or 0.0) * (1.0 + 1e-9):
                self.upper[self.first[at] + index] = 0.0


def _wide(rows: Floats, width: int) -> Floats:
    return np.concatenate([rows, np.zeros((len(rows), width - rows.shape[1]))], axis=1)


def _flows(skeleton: Skeleton, drawn: dict[str, float]) -> dict[int, float]:
    """Return the flow in each line of the trees [m3/s]."""
    flows = {number: 0.0 for _, number in skeleton.up.values()}
    for node, flow in drawn.items():
        for number in skeleton.way(node)[1]:
            flows[number] += flow
    return flows
