"""The cheapest plan that gives what is required: proven where it can be, else the best found, with a bound."""

from collections.abc import Callable
from dataclasses import dataclass, field, replace
from math import prod

import numpy as np

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.array import Ints
from leadsman.core.base.cancel import CancelCheck, never_cancelled
from leadsman.core.design import Design, labels
from leadsman.core.sizing.added import reducers_for, vents_for
from leadsman.core.sizing.held_against import short_of
from leadsman.core.sizing.laid import Added, laid_out, with_added
from leadsman.core.sizing.problem import NothingFits, Problem, parts_of, problem_of
from leadsman.core.sizing.proof import Proven, cheaper_than, proven
from leadsman.core.sizing.respread import of_all_trees, respread
from leadsman.core.sizing.search import cheapest_of_all, feasible_from, first_that_works, improved, stepped_down
from leadsman.core.sizing.skeleton import Skeleton, skeleton_of
from leadsman.core.sizing.slots import Piece, SizedLine
from leadsman.core.sizing.trials import MET_WITHIN, Trials
from leadsman.core.sizing.wanted import Must
from leadsman.core.sizing.why import SPLIT_WITHIN, Why, figures_of, what_would, whys

TRIES_EACH, MOST_ENUMERATED = 750, 3_000  # plans solved for each thing that is chosen; plans listed
MOST_BELOW = 12_000  # plans below the best one that are all tried
FIRST_ROUNDS = 8
MOST_ROUNDS, MOST_FREED = 6, 10  # of asking for more to spare; of parts kept that are freed by themselves
PROVEN_WITHIN = 1e-9
SHARE_WITHIN = 1e-7  # a share of a line below this is none of it

Watch = Callable[[float, "Sized"], None]
"""Called with how far sizing is, 0 to 1, and the best plan so far."""


@dataclass(frozen=True, kw_only=True)
class Sized:
    """A plan: pipes of each line, valves of outlets, rises of tanks [m], its cost, and what could be cheaper at most.

    `filters` are by their line; `added` vents and reducers.

    `proven_gap` is by what share of its cost a cheaper one may exist: 0 where none does. `musts` are what had to hold,
    `has` what the plan has of each, as `figures_of` tells it.
    """

    cost: float
    lines: dict[str, list[Piece]]
    valves: dict[str, str]
    rises_m: dict[str, float]
    filters: dict[str, str] = field(default_factory=dict)
    added: tuple[Added, ...] = ()
    proven_gap: float
    why: list[Why]
    tries: int
    musts: tuple[Must, ...]
    has: tuple[float, ...] = ()


@dataclass(frozen=True, kw_only=True)
class _Found:
    """The plan of a part of a problem, and a bound under which none is."""

    problem: Problem
    trials: Trials
    row: Ints
    bound: float
    pieces: dict[str, list[Piece]] | None = None
    split_cost: float | None = None

    @property
    def cost(self) -> float:
        """What it costs."""
        return self.trials.cost(self.row) if self.split_cost is None else self.split_cost


def size(
    document: Design,
    *,
    most_tries: int | None = None,
    share: float = 1.0,
    check_cancelled: CancelCheck = never_cancelled,
    watch: Watch | None = None,
) -> Sized:
    """Return the cheapest plan with which everything that is required holds, the floats running freely.

    Tanks keep what lies on both sides of them apart: each part is sized by itself. What must hold surely, or fill
    a trough in time, is asked for with more to spare until it does; a proof is for the flows so asked for.

    Args:
        most_tries: how many plans are solved where the cheapest cannot be proven.
        share: of every flow that is required, how much is asked for.
        watch: called now and then with how far it is and the best plan so far.
    Raises:
        DesignFaults: nothing to choose from, or nothing required.
        NothingFits: nothing that may be chosen gives what is required; says what would.
    """
    if document.sizing is None or not document.sizing.parts:
        return _sized_plan(document, most_tries, share, check_cancelled, watch)
    sized = _with_reducers(document, most_tries, share, check_cancelled, watch)
    vents = vents_for(laid_in(document, sized), check_cancelled)
    cost = sized.cost + sum(vent.price for vent in vents)
    return replace(sized, added=(*sized.added, *vents), cost=cost)


def laid_in(document: Design, sized: Sized) -> Design:
    """Return a design as a sized plan has it."""
    return laid_out(document, sized.lines, sized.valves, sized.rises_m, sized.filters, sized.added)


def _with_reducers(
    document: Design, most_tries: int | None, share: float, check_cancelled: CancelCheck, watch: Watch | None
) -> Sized:
    """Return the cheapest plan without more reducers, or with one of those that may save more than they cost.

    What is proven is proven of plans with the same reducers.

    Raises:
        NothingFits: neither gives what is required; of the plan without.
    """
    best: Sized | None = None
    trouble: NothingFits | None = None
    try:
        best = _sized_plan(document, most_tries, share, check_cancelled, watch)
    except NothingFits as nothing:
        trouble = nothing
    for reducer in reducers_for(document, best is None, check_cancelled):
        try:
            plan = _sized_plan(with_added(document, [reducer]), most_tries, share, check_cancelled, None)
        except NothingFits:
            continue
        cost = plan.cost + reducer.price
        if best is None or cost < best.cost:
            best = replace(plan, cost=cost, added=(reducer,))
    if best is None:
        raise trouble or NothingFits("no plan has an answer")
    return best


def _sized_plan(
    document: Design, most_tries: int | None, share: float, check_cancelled: CancelCheck, watch: Watch | None
) -> Sized:
    """Return the cheapest plan of pipes, valves, filters and stands; see `size`."""
    analysis = Analysis(document, check_cancelled=check_cancelled)
    times: dict[tuple[str, str], float] = {}
    for _ in range(MOST_ROUNDS):
        problem = asking_for(problem_of(analysis, times), share)
        try:
            sized = _once(problem, most_tries, check_cancelled, watch)
        except NothingFits as nothing:
            raise NothingFits(f"{nothing}{_what_is_kept(document, check_cancelled)}") from None
        checked = [must for must in sized.musts if must.surely or must.fills_s is not None]
        if not checked or share != 1.0:
            return sized
        short = short_of(checked, laid_in(document, sized), check_cancelled)
        if not short:
            return sized
        for key, more in short.items():
            times[key] = times.get(key, 1.0) * more
    raise NothingFits("nothing that may be chosen holds surely or fills in time: measure better, or require less")


def asking_for(problem: Problem, share: float) -> Problem:
    """Return a problem in which a share of every flow is required."""
    if share == 1.0:
        return problem
    musts = (must if must.flow_m3s is None else replace(must, flow_m3s=must.flow_m3s * share) for must in problem.musts)
    return replace(problem, musts=tuple(musts))


def _what_is_kept(document: Design, check_cancelled: CancelCheck) -> str:
    """Return which of the parts that are kept as they are stand in the way; nothing where none is, or none does."""
    sizing, names = document.sizing, labels(document)
    kept = sizing.keep if sizing is not None else []
    for freed in [*([name] for name in kept[:MOST_FREED]), *([kept] if len(kept) > 1 else [])]:
        update = {"keep": [name for name in kept if name not in freed]}
        assert sizing is not None
        free = document.model_copy(update={"sizing": sizing.model_copy(update=update)})
        try:
            analysis = Analysis(free, check_cancelled=check_cancelled)
            _once(problem_of(analysis, {}), 1, check_cancelled, None)
        except NothingFits:
            continue
        told = f"{names[freed[0]]} is" if len(freed) == 1 else f"{len(freed)} parts are"
        return f"; {told} kept as {'it is' if len(freed) == 1 else 'they are'}: freed, something would fit"
    return ""


def _once(problem: Problem, most_tries: int | None, check_cancelled: CancelCheck, watch: Watch | None) -> "Sized":
    """Return the cheapest plan of a problem, part by part."""
    parts, found, trouble = parts_of(problem), list[_Found](), list[str]()
    for number, part in enumerate(parts):

        def tell(share: float, so_far: _Found, number: int = number) -> None:
            if watch is not None:
                watch((number + share) / len(parts), _told([*found, so_far], problem, whole=False))

        try:
            found.append(_sized(part, most_tries or TRIES_EACH * len(part.slots), check_cancelled, tell))
        except NothingFits as nothing:
            trouble.append(str(nothing))
    if trouble:
        raise NothingFits("; ".join(trouble))
    return _told(found, problem, whole=True)


def _told(found: list[_Found], problem: Problem, *, whole: bool) -> Sized:
    """Return the parts of a plan as one; with `whole` why it is not cheaper."""
    lines: dict[str, list[Piece]] = {}
    valves: dict[str, str] = {}
    rises: dict[str, float] = {}
    filters: dict[str, str] = {}
    why: list[Why] = []
    has: dict[Must, float] = {}
    for one in found:
        rows = iter(one.row.tolist())
        of_lines = {
            line.line.id: [Piece(product_id=line.choices[next(rows)].product_id, length_m=line.line.pipe_length_m)]
            for line in one.problem.lines
        }
        lines |= one.pieces or of_lines
        valves |= {valve.outlet.id: valve.choices[next(rows)].product_id for valve in one.problem.valves}
        filters |= {sieve.line.id: sieve.choices[next(rows)].product_id for sieve in one.problem.filters}
        rises |= {stand.vessel.id: stand.choices[next(rows)].rise_m for stand in one.problem.stands}
        if whole:
            solved, row, within = _solved_again(one)
            why += whys(solved.problem, solved, row, within)
            spare = solved.tried(row[None]).spare[0].tolist()
            has |= {must: figures_of(must, left)[0] for must, left in zip(solved.problem.musts, spare, strict=True)}
    cost, bound = sum(one.cost for one in found), sum(one.bound for one in found)
    gap = max(0.0, 1.0 - bound / cost) if cost > 0.0 else 0.0
    return Sized(
        cost=cost, lines=lines, valves=valves, rises_m=rises, filters=filters,
        proven_gap=0.0 if gap < PROVEN_WITHIN else gap, why=why,
        tries=sum(one.trials.count for one in found), musts=tuple(has) or problem.musts, has=tuple(has.values()),
    )  # fmt: skip


def _solved_again(found: _Found) -> tuple[Trials, Ints, float]:
    """Return the network of a plan with its choices, and what a requirement may lack; of a split one piece by piece."""
    if found.pieces is None:
        return found.trials, found.row, MET_WITHIN
    laid = Trials(_laid(found.problem, found.pieces), found.trials.check_cancelled)
    row = laid.most.copy()
    row[len(laid.problem.lines) :] = found.row[len(found.problem.lines) :]
    return laid, row, SPLIT_WITHIN


def _sized(
    problem: Problem, most_tries: int, check_cancelled: CancelCheck, tell: Callable[[float, _Found], None]
) -> _Found:
    """Return the cheapest plan of a part of a problem."""
    trials = Trials(problem, check_cancelled)
    if not problem.slots:
        nothing = np.zeros(0, dtype=np.intp)
        if float(trials.tried(nothing[None]).lacks[0]) > 0.0:
            raise NothingFits(what_would(problem, trials))
        return _Found(problem=problem, trials=trials, row=nothing, bound=0.0)
    skeleton = skeleton_of(problem)
    plan = None if skeleton is None else proven(problem, skeleton, check_cancelled=check_cancelled)
    if skeleton is not None and plan is None:
        raise NothingFits(what_would(problem, trials))
    if problem.split and skeleton is not None and not skeleton.core:
        split = proven(problem, skeleton, split=True, check_cancelled=check_cancelled)
        if split is not None:
            return _split(problem, trials, split)
    bound = plan.cost if plan is not None else sum(map(problem.least_price, problem.slots))

    def found(row: Ints, bound: float) -> _Found:
        return _Found(problem=problem, trials=trials, row=row, bound=bound)

    if plan is not None and float(trials.tried(plan.row[None]).lacks[0]) == 0.0:
        at_once = found(plan.row, bound)
        if at_once.cost <= bound * (1.0 + PROVEN_WITHIN) + PROVEN_WITHIN:
            return at_once
    if prod((trials.most + 1).tolist()) <= MOST_ENUMERATED:
        least = cheapest_of_all(trials, bound)
        if least is None:
            raise NothingFits(what_would(problem, trials))
        return found(least, trials.cost(least))
    best = _as_low(problem, trials, bound, most_tries, check_cancelled)
    for stage in (_first_starts, _loop_starts, _searched):
        row = stage(trials, plan, best, most_tries, lambda share, row: tell(share, found(row, bound)))
        if row is None:
            continue
        best = found(row, bound) if best is None or found(row, bound).cost < best.cost else best
        least = None if skeleton is None else _least_below(best, skeleton, check_cancelled)
        if least is not None:
            return found(least, trials.cost(least))
    if best is None:
        raise NothingFits(what_would(problem, trials))
    return best


def _as_low(
    problem: Problem,
    trials: Trials,
    bound: float,
    most_tries: int,
    check_cancelled: CancelCheck,
) -> _Found | None:
    """Return the cheapest plan with every tank as low as it stands: what may be higher never makes a plan dearer."""
    if not problem.stands:
        return None
    try:
        low = _sized(replace(problem, stands=(), split=False), most_tries, check_cancelled, _untold)
    except NothingFits:
        return None
    row = np.concatenate([low.row, np.zeros(len(problem.stands), dtype=np.intp)])
    return _Found(problem=problem, trials=trials, row=row, bound=bound)


def _untold(_share: float, _so_far: _Found) -> None:
    """Tell nobody of a plan on the way."""


Tell = Callable[[float, Ints], None]


def _first_starts(trials: Trials, plan: Proven | None, _best: _Found | None, _most: int, _tell: Tell) -> Ints | None:
    """Return a plan from the widest of all and from the one at the required flows."""
    return stepped_down(trials, feasible_from(trials, [trials.most, *([] if plan is None else [plan.row])]))


def _loop_starts(trials: Trials, _plan: Proven | None, _best: _Found | None, _most: int, _tell: Tell) -> Ints | None:
    """Return a plan from those of trees and of given flows, where something loops or joins tanks."""
    starts = [*of_all_trees(trials), *respread(trials, trials.most, FIRST_ROUNDS)[-2:]]
    return stepped_down(trials, feasible_from(trials, starts))


def _searched(trials: Trials, _plan: Proven | None, best: _Found | None, most_tries: int, tell: Tell) -> Ints | None:
    """Return the cheapest plan that fresh starts lead to."""
    return None if best is None else improved(trials, best.row, most_tries, best.bound, tell)


def _least_below(found: _Found, skeleton: Skeleton, check_cancelled: CancelCheck) -> Ints | None:
    """Return the cheapest plan, by trying all that could be cheaper than one that was found; None for too many."""
    trials = found.trials
    rows = cheaper_than(found.problem, skeleton, found.cost, MOST_BELOW, check_cancelled)
    if rows is None:
        return None
    works = first_that_works(trials, rows)
    return found.row if works is None else works


def _split(problem: Problem, trials: Trials, plan: Proven) -> _Found:
    """Return a plan of lines that may be of two pipes, the wider first."""
    lines: dict[str, list[Piece]] = {}
    for one, shares in zip(problem.lines, plan.shares[: len(problem.lines)], strict=True):
        used = [number for number, share in enumerate(shares) if share > SHARE_WITHIN]
        lines[one.line.id] = [
            Piece(product_id=one.choices[number].product_id, length_m=shares[number] * one.line.pipe_length_m)
            for number in reversed(used)
        ]
    laid = Trials(_laid(problem, lines), trials.check_cancelled)
    row = laid.most.copy()
    row[len(laid.problem.lines) :] = plan.row[len(problem.lines) :]
    if float(np.maximum(-laid.tried(row[None]).spare - SPLIT_WITHIN, 0.0).sum()) > 0.0:
        raise NothingFits("the split plan does not hold when its floats run freely: size it unsplit")
    return _Found(problem=problem, trials=trials, row=plan.row, split_cost=plan.cost, bound=plan.cost, pieces=lines)


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
    kept = tuple(must for must in problem.musts if must.given != "limit")
    return replace(
        problem, musts=kept, lines=tuple(sized), design=design.model_copy(update={"places": places, "lines": laid})
    )
