"""The cheapest pipes for a plan: proven where it is a tree at known flows, else the best found, with a bound."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import prod

import numpy as np

from leadsman.core.base.array import Ints
from leadsman.core.base.bisection import reached_at
from leadsman.core.base.cancel import CancelCheck, never_cancelled
from leadsman.core.base.units import LITRE_M3, MINUTE_S, kpa_from_pa, pa_from_head_m
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import Design, labels
from leadsman.core.physics.water import water_at
from leadsman.core.sizing.problem import Must, NothingFits, Problem, SizedLine, problem_of
from leadsman.core.sizing.search import SEED, cheapest_of_all, feasible_from, improved
from leadsman.core.sizing.tree import SHARE_WITHIN, TreePlan, cheapest, tree_of, trees_in
from leadsman.core.sizing.trials import MET_WITHIN, Trials

MOST_TRIES, MOST_STARTS, MOST_ENUMERATED = 6_000, 12, 5_000
MOST_RISE_M, RISE_WITHIN_M = 100.0, 0.01
PROVEN_WITHIN, SPLIT_WITHIN = 1e-9, 1e-4


@dataclass(frozen=True, kw_only=True)
class Piece:
    """A length of a line [m] of one pipe."""

    product_id: str
    length_m: float


@dataclass(frozen=True, kw_only=True)
class Why:
    """Why a line is not of its next cheaper pipe: the requirement that fails then, what it has, and what it needs.

    Flows in m3/s, pressures in m of water. `product_id` is that cheaper pipe.
    """

    line: str
    product_id: str
    where: str
    has: float
    needs: float
    told: Wording


@dataclass(frozen=True, kw_only=True)
class Sized:
    """A plan: pipes of each line, its cost, and by how much at most a cheaper one may exist, as a share of the cost.

    `proven_gap` is 0 where none does.
    """

    cost: float
    lines: dict[str, list[Piece]]
    proven_gap: float
    why: list[Why]
    tries: int


def size(design: Design, *, most_tries: int = MOST_TRIES, check_cancelled: CancelCheck = never_cancelled) -> Sized:
    """Return the cheapest pipes with which everything that is required holds, all floats open and running freely.

    Raises:
        DesignFaults: nothing to choose from, or nothing required.
        NothingFits: the widest pipes do not give what is required; says what would.
    """
    water = water_at(design.site.water_c)
    problem = problem_of(design, water.density_kgm3)
    trials = Trials(problem, check_cancelled)
    tree = tree_of(problem, water.density_kgm3)
    plan = None if tree is None else cheapest(problem, tree, water)
    if plan is not None and problem.split:
        return _split(problem, trials, plan)
    bound = plan.cost if plan is not None else sum(line.price(0) for line in problem.lines)
    starts = [trials.most]
    if plan is not None:
        row = np.array([shares.index(1.0) for shares in plan.shares], dtype=np.intp)
        if float(trials.tried(row[None]).lacks[0]) == 0.0:
            return _whole(problem, trials, row, bound)
        starts.append(row)
    if prod((trials.most + 1).tolist()) <= MOST_ENUMERATED:
        least = cheapest_of_all(trials)
        if least is None:
            raise NothingFits(_what_would(problem, trials))
        return _whole(problem, trials, least, float(trials.costs(least[None])[0]))
    feasible = feasible_from(trials, [*starts, *_tree_starts(problem, trials)])
    if not feasible:
        raise NothingFits(_what_would(problem, trials))
    return _whole(problem, trials, improved(trials, feasible, most_tries), bound)


def _tree_starts(problem: Problem, trials: Trials) -> list[Ints]:
    """Return plans of a problem with loops: some lines as narrow as may be, the tree that is left at its cheapest."""
    found = []
    for without in trees_in(problem, SEED):
        tree = tree_of(problem, trials.water.density_kgm3, without)
        plan = None if tree is None else cheapest(problem, tree, trials.water)
        if plan is not None:
            row = [0 if number in without else shares.index(max(shares)) for number, shares in enumerate(plan.shares)]
            found.append((plan.cost, np.array(row, dtype=np.intp)))
        trials.check_cancelled()
    return [row for _, row in sorted(found, key=lambda one: one[0])[:MOST_STARTS]]


def _whole(problem: Problem, trials: Trials, row: Ints, bound: float) -> Sized:
    """Return a plan of one pipe in each line."""
    cost = float(trials.costs(row[None])[0])
    lines = {
        one.line.id: [Piece(product_id=one.choices[number].product_id, length_m=one.line.pipe_length_m)]
        for one, number in zip(problem.lines, row.tolist(), strict=True)
    }
    gap = max(0.0, 1.0 - bound / cost) if cost > 0.0 else 0.0
    return Sized(
        cost=cost, lines=lines, proven_gap=0.0 if gap < PROVEN_WITHIN else gap, why=_whys(problem, trials, row),
        tries=trials.count,
    )  # fmt: skip


def _split(problem: Problem, trials: Trials, plan: TreePlan) -> Sized:
    """Return a plan of lines that may be of two pipes, the wider first."""
    lines: dict[str, list[Piece]] = {}
    for one, shares in zip(problem.lines, plan.shares, strict=True):
        used = [number for number, share in enumerate(shares) if share > SHARE_WITHIN]
        lines[one.line.id] = [
            Piece(product_id=one.choices[number].product_id, length_m=shares[number] * one.line.pipe_length_m)
            for number in reversed(used)
        ]
    solved = Trials(_laid(problem, lines), trials.check_cancelled)
    if float(np.maximum(-solved.tried(solved.most[None]).spare - SPLIT_WITHIN, 0.0).sum()) > 0.0:
        raise NothingFits("the split plan does not hold when its floats run freely: size it unsplit")
    why = _whys(solved.problem, solved, solved.most, SPLIT_WITHIN)
    return Sized(cost=plan.cost, lines=lines, proven_gap=0.0, why=why, tries=solved.count)


def _laid(problem: Problem, lines: dict[str, list[Piece]]) -> Problem:
    """Return the problem of a split plan, each piece a line of its own, of its pipe or of the next cheaper one.

    Fittings and parts stand in the first piece, the widest.
    """
    design, choices = problem.design, {one.line.id: one for one in problem.lines}
    places, laid, sized = list(design.places), [], []
    for line in design.lines:
        pieces = lines.get(line.id)
        if pieces is None:
            laid.append(line)
            continue
        start = line.from_
        for number, piece in enumerate(pieces):
            end = line.to
            if number < len(pieces) - 1:
                end = f"{line.id}-joint-{number}"
                joined = next(place for place in design.places)
                places.append(joined.model_copy(update={"id": end, "draw_lpm": 0.0}))
            own = line.model_copy(
                update={"id": f"{line.id}-{number}", "from_": start, "to": end, "length_m": piece.length_m,
                        "name": line.name or line.id, "points": [], "way": [], "runs": [],
                        "fittings": [] if number else line.fittings,
                        "inline": [] if number else [part.model_copy(update={"at_m": min(part.at_m, piece.length_m)})
                                                     for part in line.inline]}
            )  # fmt: skip
            laid.append(own)
            listed = choices[line.id].choices
            at = next(at for at, one in enumerate(listed) if one.product_id == piece.product_id)
            sized.append(SizedLine(line=own, choices=listed[max(0, at - 1) : at + 1], of=line.id))
            start = end
    return replace(problem, design=design.model_copy(update={"places": places, "lines": laid}), lines=tuple(sized))


def _whys(problem: Problem, trials: Trials, row: Ints, within: float = MET_WITHIN) -> list[Why]:
    """Return for each line that could be cheaper which requirement fails with its next cheaper pipe."""
    at = [line for line in range(len(row)) if row[line] > 0]
    if not at:
        return []
    tried = np.array([row - (np.arange(len(row)) == line) for line in at], dtype=np.intp)
    spare = trials.tried(tried).spare
    names = labels(problem.design)
    found = []
    for line, spares in zip(at, spare, strict=True):
        worst = int(np.argmin(spares))
        if spares[worst] >= -within:
            continue  # it would do: what was found is not the cheapest, and the gap says so
        one, must = problem.lines[line], problem.musts[worst]
        cheaper = one.choices[int(row[line]) - 1].product_id
        needs, has = _figures(must, float(spares[worst]))
        told = say(
            "{} in {}: {} has {}, and {} is required", names[one.line.id], cheaper, names[must.where],
            _quantity(must, has, trials), _quantity(must, needs, trials),
        )  # fmt: skip
        found.append(
            Why(line=one.of or one.line.id, product_id=cheaper, where=must.where, has=has, needs=needs, told=told)
        )
    return found


def _figures(must: Must, spare: float) -> tuple[float, float]:
    """Return what a requirement needs and what it has, by what it has to spare."""
    if must.flow_m3s is not None:
        return must.flow_m3s, must.flow_m3s * (1.0 + spare)
    needs = must.pressure_m or 0.0
    return needs, needs + spare


def _quantity(must: Must, figure: float, trials: Trials) -> Quantity:
    if must.flow_m3s is not None:
        return Quantity(value=figure / LITRE_M3 * MINUTE_S, unit="L/min")
    return Quantity(value=kpa_from_pa(pa_from_head_m(figure, trials.water.density_kgm3)), unit="kPa")


def _what_would(problem: Problem, trials: Trials) -> str:
    """Return the smallest changes with which the widest pipes would do: a higher tank, or less required."""
    row = trials.most[None]
    spare = trials.tried(row).spare[0]
    worst = int(np.argmin(spare))
    must, names = problem.musts[worst], labels(problem.design)
    needs, has = _figures(must, float(spare[worst]))
    have, want = (_quantity(must, figure, trials) for figure in (has, needs))
    told = f"with the widest pipes {names[must.where]} has {have} of the {want} required"
    ways: Sequence[str] = [f"{want.value - have.value:.1f} {want.unit} less there"]

    def holds(rise_m: float) -> float:
        return 1.0 if float(trials.tried(row, rise_m).lacks[0]) == 0.0 else 0.0

    if holds(MOST_RISE_M):
        rise_m = reached_at(holds, 0.5, 0.0, MOST_RISE_M)
        ways = [f"{rise_m + RISE_WITHIN_M:.1f} m more of stand", *ways]
    return f"{told}; {', or '.join(ways)} would do"
