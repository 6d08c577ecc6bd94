"""What readings the plan would give, with some of its figures changed: many at once."""

from collections.abc import Mapping, Sequence
from dataclasses import replace

import numpy as np

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.array import Floats
from leadsman.core.base.units import pa_from_head_m
from leadsman.core.calibration.reading import Drawing, ReadingKind
from leadsman.core.steady.case import Case
from leadsman.core.steady.loading import Figures

ReadingKey = tuple[ReadingKind, str, Drawing]
MOST_ROWS = 1024  # solved at once: measured, fewer take longer in all; between two it is looked whether anybody waits


class Predictor:
    """The plan's answers to readings, with the vessels as they stood while these were taken."""

    def __init__(self, analysis: Analysis, levels_m: Mapping[str, float]) -> None:
        self.analysis, self.plumbing = analysis, analysis.model.plumbing
        known = {vessel: level for vessel, level in levels_m.items() if vessel in self.plumbing.vessels}
        self._standing = replace(analysis.standing, levels_m={**analysis.standing.levels_m, **known})

    def can(self, kind: ReadingKind, part: str, drawing: Drawing) -> bool:
        """Whether the plan has an answer to a reading: of a part that there is and that water comes to."""
        layout = self.plumbing.layout
        if kind == "flow" or drawing == "alone":
            return part in self.plumbing.outlet_link
        return part in layout.outlets or part in self.plumbing.junctions

    def case(self, drawing: Drawing, outlet: str) -> Case:
        """Return the case in which an outlet is read."""
        if drawing == "all":
            return self._standing
        return self._standing.with_only(outlet) if drawing == "alone" else self._standing.with_nothing_drawing()

    def predict(self, keys: Sequence[ReadingKey], figures: Figures) -> Floats:
        """Return each reading for each row of figures, shape (rows, keys), in m3/s and Pa; NaN without an answer."""
        rows = len(figures.kv_factor)
        asked = {
            (drawing, outlet if drawing == "alone" else ""): self.case(drawing, outlet) for _, outlet, drawing in keys
        }
        found = np.full((rows, len(keys)), np.nan)
        step = max(1, MOST_ROWS // max(1, len(asked)))
        for start in range(0, rows, step):
            self.analysis.check_cancelled()
            part = slice(start, min(rows, start + step))
            self._fill(found[part], keys, list(asked), list(asked.values()), _rows(figures, part))
        return found

    def _fill(
        self,
        found: Floats,
        keys: Sequence[ReadingKey],
        states: list[tuple[Drawing, str]],
        cases: list[Case],
        figures: Figures,
    ) -> None:
        plumbing, rows = self.plumbing, len(found)
        repeated = Figures(**{name: np.tile(array, (len(cases), 1)) for name, array in vars(figures).items()})
        loaded = self.analysis.model.loader.cases([case for case in cases for _ in range(rows)], repeated)
        solution = plumbing.solver.solve(loaded)
        for column, (kind, part, drawing) in enumerate(keys):
            first = states.index((drawing, part if drawing == "alone" else "")) * rows
            own = slice(first, first + rows)
            if kind == "flow":
                values = np.abs(solution.flows_m3s[own, plumbing.outlet_link[part]])
            else:
                values = self._pressure_pa(solution.heads_m[own], part, figures)
            found[:, column] = np.where(solution.converged[own], values, np.nan)

    def _pressure_pa(self, heads_m: Floats, part: str, figures: Figures) -> Floats:
        layout = self.plumbing.layout
        outlet = layout.outlets.get(part)
        place = part if outlet is None else outlet.place
        node = self.plumbing.junctions[part if outlet is None else layout.node_of_outlet[part]]
        own_m = layout.places[place].ground_m if outlet is None else layout.outlet_height_m(outlet)
        height_m = own_m + figures.place_rise_m[:, layout.place_number[place]]
        return (heads_m[:, node] - height_m) * pa_from_head_m(1.0, self.analysis.model.water.density_kgm3)


def _rows(figures: Figures, part: slice) -> Figures:
    return Figures(**{name: array[part] for name, array in vars(figures).items()})
