"""Why a sized plan is not cheaper, and what would do where nothing fits."""

from dataclasses import dataclass, replace

import numpy as np

from leadsman.core.base.array import Ints
from leadsman.core.base.bisection import reached_at
from leadsman.core.base.units import LITRE_M3, MINUTE_S, kpa_from_pa, pa_from_head_m
from leadsman.core.base.wording import Quantity, Wording, plain, say
from leadsman.core.catalogue import float_valves, parts, pipes
from leadsman.core.design import labels
from leadsman.core.sizing.problem import Problem
from leadsman.core.sizing.slots import AS_IT_IS, SizedFilter, SizedLine, SizedStand
from leadsman.core.sizing.trials import MET_WITHIN, Trials
from leadsman.core.sizing.wanted import ALONE, TOGETHER, Must

MOST_RISE_M, RISE_WITHIN_M = 100.0, 0.01
SPLIT_WITHIN, NEAR = 1e-4, 0.02


@dataclass(frozen=True, kw_only=True)
class Why:
    """Why a part is not of its next cheaper choice: the requirement that fails then, what it has, and what it needs.

    Flows in m3/s, pressures in m of water, velocities in m/s. `part` is a line, an outlet or a vessel, `choice` the id
    of that cheaper product; "" for a lower stand.
    """

    part: str
    choice: str
    where: str
    has: float
    needs: float
    told: Wording


def whys(problem: Problem, trials: Trials, row: Ints, within: float = MET_WITHIN) -> list[Why]:
    """Return for each part that could be cheaper which requirement fails with its next cheaper choice."""
    at = [slot for slot in range(len(row)) if row[slot] > 0]
    if not at:
        return []
    tried = np.array([row - (np.arange(len(row)) == slot) for slot in at], dtype=np.intp)
    spare = trials.tried(tried).spare
    names = labels(problem.design)
    found = []
    for slot, spares in zip(at, spare, strict=True):
        worst = int(np.argmin(spares))
        if spares[worst] >= -within:
            continue  # it would do: what was found is not the cheapest, and the gap says so
        one, must = problem.slots[slot], problem.musts[worst]
        cheaper = one.named(int(row[slot]) - 1)
        has, needs = figures_of(must, float(spares[worst]))
        name = names.get(one.part_id, one.part_id)
        if isinstance(one, SizedFilter):
            name = f"The filter of {names[one.line.id]}"
        joined = "in" if isinstance(one, SizedLine) else "with"
        less: Wording = say("{} {} {}", name, joined, spoken(problem, cheaper))
        if isinstance(one, SizedStand):
            less = say("{} lower", name)
        told = (*less, ": ", *_falls_short(problem, must, has, needs))
        found.append(Why(part=one.part_id, choice=cheaper, where=must.where, has=has, needs=needs, told=told))
    return found


def spoken(problem: Problem, product_id: str) -> str:
    """Return what a product is called within a sentence."""
    if product_id == AS_IT_IS:
        return "the one that is there"
    own = {pipe.product_id: pipe for pipe in problem.design.own_pipes}
    sold = own.get(product_id) or pipes().get(product_id) or float_valves().get(product_id) or parts().get(product_id)
    return sold.spoken if sold else product_id


def _falls_short(problem: Problem, must: Must, has: float, needs: float) -> Wording:
    """Return what a requirement has of what it needs, and in which case where that is not with all open."""
    names, density = labels(problem.design), problem.water.density_kgm3
    when = {TOGETHER: "", ALONE: " alone"}.get(must.when, f" in {_case_name(problem, must.when)}")
    name = names.get(must.where, must.where)
    if must.fills_s is None:
        has, needs = has / must.times, needs / must.times
    if must.over_at_m is not None:
        return say(
            "the pipe of {} is {} above its pressure line {} along it", name, Quantity(value=-has, unit="m"),
            Quantity(value=must.over_at_m, unit="m", digits=0),
        )  # fmt: skip
    if must.feeds_m3s is not None:
        return say(
            "{} brings {} into its tank, and {} comes from its source", name,
            Quantity(value=max(has, 0.0) / LITRE_M3 * MINUTE_S, unit="L/min"),
            Quantity(value=needs / LITRE_M3 * MINUTE_S, unit="L/min"),
        )  # fmt: skip
    if must.opens:
        return say(
            "{}{} has {} less than its valve opens at", name, when,
            quantity(replace(must, pressure_m=0.0), -has, density),
        )  # fmt: skip
    if must.most_ms is not None:
        return say("water runs at {} in {}, faster than {}", Quantity(value=has, unit="m/s"), name,
                   Quantity(value=needs, unit="m/s"))  # fmt: skip
    digits = _digits(has, needs)
    fills = Quantity(value=(must.fills_s or 0.0) / MINUTE_S, unit="min")
    if must.fills_s is not None:
        return say("{} alone has {}, and {} fills it in {}", name, quantity(must, has, density, digits),
                   quantity(must, needs, density, digits), fills)  # fmt: skip
    needed = {"stated": "is required", "demand": "its herds and plants take at the peak", "limit": "is needed"}
    return say(
        "{}{} has {}, and {} {}", name, when, quantity(must, has, density, digits),
        quantity(must, needs, density, digits), needed[must.given],
    )  # fmt: skip


def _case_name(problem: Problem, case_id: str) -> str:
    case = next((one for one in problem.design.scenarios if one.id == case_id), None)
    return (case.name if case else None) or case_id


def figures_of(must: Must, spare: float) -> tuple[float, float]:
    """Return what a requirement has and what it needs, by what it has to spare."""
    if must.flow_m3s is not None:
        return must.flow_m3s * (1.0 + spare), must.flow_m3s
    if must.most_ms is not None:
        return must.most_ms * (1.0 - spare), must.most_ms
    if must.feeds_m3s is not None:
        return abs(must.feeds_m3s) * (1.0 + spare), abs(must.feeds_m3s)
    needs = must.pressure_m or 0.0
    return needs + spare, needs


def _digits(has: float, needs: float) -> int | None:
    """Return how many digits tell two figures apart; None where the usual ones do."""
    return 3 if needs and abs(has / needs - 1.0) < NEAR else None


def quantity(must: Must, figure: float, density_kgm3: float, digits: int | None = None) -> Quantity:
    """Return a figure of a requirement in the units that it is told in."""
    if must.flow_m3s is not None:
        return Quantity(value=figure / LITRE_M3 * MINUTE_S, unit="L/min", digits=digits)
    if must.most_ms is not None:
        return Quantity(value=figure, unit="m/s")
    return Quantity(value=kpa_from_pa(pa_from_head_m(figure, density_kgm3)), unit="kPa", digits=digits)


def what_would(problem: Problem, trials: Trials) -> str:
    """Return the smallest changes with which the widest of all would do: a higher tank, or less required.

    Less is what the widest plan has of each requirement that it does not meet.
    """
    row = trials.most[None]
    spare = trials.tried(row).spare[0]
    names, density = labels(problem.design), problem.water.density_kgm3
    short = [(must, left) for must, left in zip(problem.musts, spare.tolist(), strict=True) if left < -MET_WITHIN]
    short.sort(key=lambda one: one[1])
    told, less = [], []
    dry = {must.where for must, left in short if must.flow_m3s is not None and figures_of(must, left)[0] <= 0.0}
    for must, left in short:
        has, needs = figures_of(must, left)
        if must.opens and must.where in dry:
            continue
        if must.given == "limit":
            told.append(plain(_falls_short(problem, must, has, needs)))
            continue
        have, want = quantity(must, has, density), quantity(must, needs, density)
        name, lacks = names.get(must.where, must.where), want.value - have.value
        if must.where in dry:
            told.append(f"no water gets to {name}")
            continue
        told.append(f"{name} has {have} of the {want} required")
        less.append(f"{lacks:.{1 if lacks >= 1.0 else 3}f} {want.unit} less at {name}")
    ways = [" and ".join(less)] if less and len(less) == len(short) else []

    def holds(rise_m: float) -> float:
        return 1.0 if float(trials.tried(row, rise_m).lacks[0]) == 0.0 else 0.0

    if holds(MOST_RISE_M):
        rise_m = reached_at(holds, 0.5, 0.0, MOST_RISE_M)
        ways = [f"{rise_m + RISE_WITHIN_M:.1f} m more of stand", *ways]
    would = f"; {', or '.join(ways)} would do" if ways else ""
    return f"with the widest that may be chosen {', '.join(told) or 'no plan has an answer'}{would}"
