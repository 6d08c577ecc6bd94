"""Plans of pipes tried on the network: many choices of bores in one batch, what each requirement has to spare."""

from dataclasses import dataclass

import numpy as np

from leadsman.core.base.array import Floats, Ints
from leadsman.core.base.cancel import CancelCheck, never_cancelled
from leadsman.core.base.units import MILLIMETRE_M
from leadsman.core.design.layout import Layout
from leadsman.core.physics.water import water_at
from leadsman.core.sizing.problem import Problem
from leadsman.core.solver.gradient import ENERGY_WITHIN_M
from leadsman.core.steady.case import case_of
from leadsman.core.steady.loading import Figures, likely_figures
from leadsman.core.steady.network_model import NetworkModel
from leadsman.core.steady.solve import FRICTION

TOGETHER = 64
MET_WITHIN = 1e-6  # what a requirement may lack: of a flow as a share, of a head in metres


@dataclass(frozen=True, kw_only=True)
class Tried:
    """What a batch of plans has to spare for each requirement, shape (plans, musts): flows as a share, heads [m]."""

    spare: Floats

    @property
    def lacks(self) -> Floats:
        """How much all requirements lack together, shape (plans,); 0 where every one is met."""
        return np.asarray(np.maximum(-self.spare - MET_WITHIN, 0.0).sum(axis=1))


class Trials:
    """A problem's network. `count` is how many plans it was solved for so far."""

    def __init__(self, problem: Problem, check_cancelled: CancelCheck = never_cancelled) -> None:
        self.problem, self.count = problem, 0
        design = problem.design
        sized = {one.line.id: one for one in problem.lines}
        lines = [
            line.model_copy(
                update={
                    "product": None, "runs": [], "length_m": line.pipe_length_m,
                    "bore_mm": sized[line.id].choices[-1].bore_m / MILLIMETRE_M,
                    "roughness_mm": sized[line.id].choices[-1].roughness_m / MILLIMETRE_M,
                    **({} if problem.coefficient is None else {"hazen_williams_c": problem.coefficient}),
                }
            )
            if line.id in sized
            else line
            for line in design.lines
        ]  # fmt: skip
        self.design = design.model_copy(update={"lines": lines})
        self.water = water_at(design.site.water_c)
        self.model = NetworkModel(
            Layout(self.design), self.water, FRICTION[problem.friction], check_cancelled=check_cancelled
        )
        self.check_cancelled = check_cancelled
        self.case = case_of(self.design, all_open=True)
        plumbing = self.model.plumbing
        number = {line.id: index for index, line in enumerate(design.lines)}
        of_line = np.full(len(design.lines), -1, dtype=np.intp)
        for position, one in enumerate(problem.lines):
            of_line[number[one.line.id]] = position
        self.position_of_reach = of_line[np.array(plumbing.reach_line, dtype=np.intp)]
        most = max(len(one.choices) for one in problem.lines)
        self.bores = np.zeros((len(problem.lines), most))
        self.roughs = np.zeros_like(self.bores)
        self.prices = np.full_like(self.bores, np.inf)
        for position, one in enumerate(problem.lines):
            for index, choice in enumerate(one.choices):
                self.bores[position, index], self.roughs[position, index] = choice.bore_m, choice.roughness_m
                self.prices[position, index] = one.price(index)
        self.most = np.array([len(one.choices) - 1 for one in problem.lines], dtype=np.intp)
        self._likely = likely_figures(plumbing)

    def costs(self, rows: Ints) -> Floats:
        """Return what plans cost, shape (plans,)."""
        return np.asarray(self.prices[np.arange(len(self.most))[None], rows].sum(axis=1))

    def tried(self, rows: Ints, rise_m: float = 0.0) -> Tried:
        """Solve plans, a choice for each line in each row, every tank higher by `rise_m`; what has no answer lacks."""
        found = [self._batch(rows[first : first + TOGETHER], rise_m) for first in range(0, len(rows), TOGETHER)]
        return Tried(spare=np.concatenate(found))

    def _batch(self, rows: Ints, rise_m: float) -> Floats:
        self.check_cancelled()
        self.count += len(rows)
        plumbing, likely = self.model.plumbing, self._likely
        bores = np.repeat(likely.bore_m, len(rows), axis=0)
        roughs = np.repeat(likely.roughness_m, len(rows), axis=0)
        sized = self.position_of_reach >= 0
        positions = self.position_of_reach[sized]
        bores[:, sized] = self.bores[positions[None], rows[:, positions]]
        roughs[:, sized] = self.roughs[positions[None], rows[:, positions]]
        one = np.ones((len(rows), 1))
        figures = Figures(
            place_rise_m=one * likely.place_rise_m, level_rise_m=one * (likely.level_rise_m + rise_m),
            bore_m=bores, roughness_m=roughs, fitting_factor=one * likely.fitting_factor,
            kv_factor=one * likely.kv_factor, blocked_per_flow2=one * likely.blocked_per_flow2,
        )  # fmt: skip
        cases = self.model.loader.cases([self.case] * len(rows), figures)
        solution = plumbing.solver.solve(cases, None, ENERGY_WITHIN_M)
        layout, spare = self.model.layout, np.empty((len(rows), len(self.problem.musts)))
        for column, must in enumerate(self.problem.musts):
            if must.flow_m3s is not None:
                flow = solution.flows_m3s[:, plumbing.outlet_link[must.where]]
                spare[:, column] = flow / must.flow_m3s - 1.0
            else:
                outlet = layout.outlets.get(must.where)
                node = layout.node_of_outlet[must.where] if outlet is not None else must.where
                height = layout.outlet_height_m(outlet) if outlet is not None else layout.places[must.where].ground_m
                spare[:, column] = solution.heads_m[:, plumbing.node(node)] - height - (must.pressure_m or 0.0)
        spare[~solution.converged] = -1e3
        return spare
