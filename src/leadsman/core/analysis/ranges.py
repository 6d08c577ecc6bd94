"""Ranges: the likely, worst and best of every answer over the intervals of what is uncertain.

Corners are chosen for each answer by itself: every figure goes to that end of its interval which makes this
answer less (worst) or more (best), as the sensitivities say; they are taken again at the corner, since what
was dry may run there, until nothing changes sides. Source of the idea: vertex method of interval analysis.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from leadsman.core.analysis.sensitivity import Outputs, gradient
from leadsman.core.analysis.uncertainty import Intervals, intervals, rows_of
from leadsman.core.base.array import Floats, Ints
from leadsman.core.design import FixedOutlet, OutletBase
from leadsman.core.solver.gradient import Start
from leadsman.core.steady.flow import Flow
from leadsman.core.steady.network_model import MOST_TOGETHER

MOST_ROUNDS = 6
HARDLY = 1e-4  # of the weightiest figure: what moves an answer by less keeps its side


@dataclass(frozen=True)
class Answer:
    """Which answer: the flow of an outlet or a line [m3/s], the head at a node [m], or that over an outlet [m]."""

    kind: Literal["outlet_flow", "outlet_head", "line_flow", "node_head"]
    part_id: str

    @property
    def is_head(self) -> bool:
        """Whether it is the head at a node."""
        return self.kind == "node_head"


def outlet_flow(outlet: OutletBase) -> Answer:
    """Return the flow of an outlet as an answer."""
    return Answer("outlet_flow", outlet.id)


def node_head(node_id: str) -> Answer:
    """Return the head at a node as an answer."""
    return Answer("node_head", node_id)


def has_flow_range(outlet: OutletBase) -> bool:
    """Whether an outlet's flow depends on heads at all."""
    return not isinstance(outlet, FixedOutlet)


@dataclass(frozen=True, kw_only=True)
class Cause:
    """A figure whose interval moves an answer: kind and number in `Figures`, and by how much either way."""

    kind: str
    number: int
    effect: float


@dataclass(frozen=True, kw_only=True)
class Range:
    """One answer: likely, worst (least) and best (greatest), and how it moves over each figure's whole interval.

    `likely_share` is where in its interval each figure likely is, 0 its lowest end to 1 its highest.
    """

    likely: float
    worst: float
    best: float
    moves: Floats
    columns: Sequence[tuple[str, int]]
    likely_share: Floats

    @property
    def shares(self) -> tuple[Floats, Floats]:
        """What part each figure has in the way down to the worst, and in the way up to the best."""
        rises = self.moves > 0.0
        down = np.abs(self.moves) * np.where(rises, self.likely_share, 1.0 - self.likely_share)
        up = np.abs(self.moves) - down
        return down / max(float(down.sum()), 1e-300), up / max(float(up.sum()), 1e-300)

    @property
    def causes(self) -> list[Cause]:
        """The figures that move it, the weightiest first."""
        pairs = zip(self.columns, self.moves.tolist(), strict=True)
        causes = [Cause(kind=kind, number=number, effect=abs(move) / 2.0) for (kind, number), move in pairs if move]
        return sorted(causes, key=lambda cause: -cause.effect)


def ranges(flow: Flow, answers: Sequence[Answer]) -> dict[Answer, Range]:
    """Return the range of each answer of a solved case; one of which some corner has no answer is left out."""
    found = zip(answers, ranges_of([(flow, answer) for answer in answers]), strict=True)
    return {answer: range_ for answer, range_ in found if range_ is not None}


def ranges_of(asked: Sequence[tuple[Flow, Answer]]) -> list[Range | None]:
    """Return the range of each answer, each of a solved case; None where some corner has no answer.

    Cases on one network at the same levels are searched together, in one batch.
    """
    groups: dict[tuple[int, tuple[float, ...]], list[int]] = {}
    for number, (flow, _) in enumerate(asked):
        groups.setdefault((id(flow.model), tuple(flow.case.levels_m.values())), []).append(number)
    found: list[Range | None] = [None] * len(asked)
    for numbers in groups.values():
        for number, range_ in zip(numbers, CornerSearch([asked[i] for i in numbers]).ranges(), strict=True):
            found[number] = range_
    return found


def all_answers(flow: Flow) -> list[Answer]:
    """Return every answer that has a range: outlets that are open, lines, and nodes that water gets to."""
    layout, case = flow.model.layout, flow.case
    answers = []
    for outlet in layout.design.outlets:
        if flow.outlet_head_m(outlet.id) is not None:
            if case.openings[outlet.id] > 0.0 and has_flow_range(outlet):
                answers.append(outlet_flow(outlet))
            answers.append(Answer("outlet_head", outlet.id))
    answers += [Answer("line_flow", line.id) for line in layout.design.lines if line.id not in case.shut_lines]
    nodes = [place.id for place in layout.design.places] + [vessel.id for vessel in layout.design.vessels]
    return answers + [node_head(node) for node in nodes if flow.head_m(node) is not None]


class CornerSearch:
    """The search of the corners of all answers of cases on one network at the same levels, all in one batch."""

    def __init__(self, asked: Sequence[tuple[Flow, Answer]]) -> None:
        self.cases = [flow.case for flow, _ in asked]
        flows = [flow for flow, _ in asked]
        self.start_m3s = np.array([flow.flows_m3s for flow in flows])
        self.start_state = _ints([list(flow.control_states.values()) for flow in flows])
        self.start_shut = np.array([flow.pressed_shut for flow in flows])
        self.model = asked[0][0].model
        self.outputs = self._outputs([answer for _, answer in asked])
        self.intervals: Intervals = intervals(self.model.plumbing, self.cases[0])
        self.columns = self.intervals.columns()
        low, high, likely = (
            np.array([float(getattr(bound, kind)[0, column]) for kind, column in self.columns])
            for bound in (self.intervals.low, self.intervals.high, self.intervals.likely)
        )
        self.width = high - low
        self.likely_share = (likely - low) / self.width

    def ranges(self) -> list[Range | None]:
        """Return the range of each answer; None where some corner has no answer."""
        rows = np.arange(len(self.cases))
        likely, slope = self.solved(rows, np.repeat(self.likely_share[None], len(rows), axis=0))
        worst, best = self._extremes(likely, slope)
        return [
            None
            if np.isnan(worst[row] + best[row])
            else Range(
                likely=float(likely[row]),
                worst=float(worst[row]),
                best=float(best[row]),
                moves=slope[row],
                columns=self.columns,
                likely_share=self.likely_share,
            )
            for row in rows
        ]

    def _extremes(self, likely: Floats, slope: Floats) -> tuple[Floats, Floats]:
        """Return the least and the greatest value of each answer; both sides are searched in one batch."""
        count = len(likely)
        side = np.repeat([-1.0, 1.0], count)
        answer = np.tile(np.arange(count), 2)
        extreme, slope = np.tile(likely, 2), np.tile(slope, (2, 1))
        shares = np.repeat(self.likely_share[None], 2 * count, axis=0)
        rows = np.arange(2 * count)
        for _ in range(MOST_ROUNDS):
            still = np.abs(slope) <= HARDLY * np.abs(slope).max(axis=1, keepdims=True, initial=0.0)
            wanted = np.where(still, shares[rows], (side[rows, None] * slope > 0.0).astype(float))
            moved = (wanted != shares[rows]).any(axis=1)
            rows = rows[moved]
            if not len(rows):
                break
            shares[rows] = wanted[moved]
            value, slope = self.solved(answer[rows], shares[rows])
            better = np.isnan(value) | (side[rows] * (value - extreme[rows]) > 0.0)
            extreme[rows[better]] = value[better]  # what has no answer stays so
        return extreme[:count], extreme[count:]

    def solved(self, answers: Ints, shares: Floats) -> tuple[Floats, Floats]:
        """Return, for each row, one of the answers and how it moves over the whole interval of each figure."""
        starts = range(0, len(answers), MOST_TOGETHER)
        batches = [slice(first, first + MOST_TOGETHER) for first in starts]
        found = [self._solved_together(answers[batch], shares[batch]) for batch in batches]
        values, moves = zip(*found, strict=True)
        return np.concatenate(values), np.concatenate(moves)

    def _solved_together(self, answers: Ints, shares: Floats) -> tuple[Floats, Floats]:
        figures = rows_of(self.intervals, shares)
        cases = self.model.loader.cases([self.cases[answer] for answer in answers], figures)
        outputs = self.outputs.take(answers)
        start = Start(
            flows_m3s=self.start_m3s[answers],
            control_state=self.start_state[answers],
            shut=self.start_shut[answers],
        )
        solution = self.model.plumbing.solver.solve(cases, start)
        moves = gradient(self.model.loader, cases, figures, solution, outputs)
        by_column = np.stack([getattr(moves, kind)[:, column] for kind, column in self.columns], axis=1)
        values = outputs.values(solution, figures)
        return np.where(solution.converged, values, np.nan), by_column * self.width

    def _outputs(self, answers: Sequence[Answer]) -> Outputs:
        plumbing, layout = self.model.plumbing, self.model.layout
        places = {place.id: index for index, place in enumerate(layout.design.places)}
        rows: list[tuple[int, int, float, int]] = []
        for answer in answers:
            match answer.kind:
                case "outlet_flow":
                    rows.append((-1, plumbing.outlet_link[answer.part_id], 1.0, -1))
                case "line_flow":
                    link = plumbing.of_line[answer.part_id][0]
                    rows.append((-1, link, 1.0 if plumbing.segments[link].forward else -1.0, -1))
                case "outlet_head":
                    node = plumbing.junctions[layout.node_of_outlet[answer.part_id]]
                    rows.append((node, -1, 1.0, places[layout.outlets[answer.part_id].place]))
                case _:
                    rows.append((plumbing.node(answer.part_id), -1, 1.0, -1))
        columns = list(zip(*rows, strict=True))
        return Outputs(
            node=_ints(columns[0]), link=_ints(columns[1]), sign=np.array(columns[2]), place=_ints(columns[3])
        )


def _ints(values: Sequence[object]) -> Ints:
    return np.array(values, dtype=np.intp)
