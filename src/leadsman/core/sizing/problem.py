"""What is sized: lines, valves and stands with what may be chosen for them, and what must hold."""

from collections import defaultdict
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.feeds import feeds_of
from leadsman.core.base.errors import CoreError
from leadsman.core.base.fault import DesignFaults, Fault
from leadsman.core.base.units import m_from_mm
from leadsman.core.catalogue import pipes
from leadsman.core.design import Design, Line, labels
from leadsman.core.design.layout import line_profile
from leadsman.core.design.price_book import PRICED_IN
from leadsman.core.design.sizing import Sizing
from leadsman.core.physics.clearing import FASTEST_MS
from leadsman.core.physics.water import Water
from leadsman.core.sizing.choices import filters_of, pipes_of_family, rise_price_per_m, rises_of, valves_of
from leadsman.core.sizing.slots import (
    PipeChoice,
    SizedFilter,
    SizedLine,
    SizedStand,
    SizedValve,
    Slot,
    rising_pipes,
)
from leadsman.core.sizing.wanted import Must, Times, musts_of

NO_TIMES: Times = {}


@dataclass(frozen=True, kw_only=True)
class Problem:
    """A plan to be sized. `friction` is the school of its products, `coefficient` Hazen's and Williams' where it is.

    `every` tells that lines of which nothing is required are sized too; `shed` is how many metres or pieces there are
    of a product that has not to be bought.
    """

    design: Design
    water: Water
    lines: tuple[SizedLine, ...]
    valves: tuple[SizedValve, ...]
    stands: tuple[SizedStand, ...]
    filters: tuple[SizedFilter, ...] = ()
    musts: tuple[Must, ...]
    friction: str
    coefficient: float | None
    split: bool
    every: bool
    shed: dict[str, float]

    @property
    def slots(self) -> tuple[Slot, ...]:
        """All that is chosen: lines, then valves, then filters, then stands."""
        return (*self.lines, *self.valves, *self.filters, *self.stands)

    @property
    def first_filter(self) -> int:
        """The number of the first filter among all that is chosen."""
        return len(self.lines) + len(self.valves)

    @property
    def first_stand(self) -> int:
        """The number of the first stand among all that is chosen."""
        return self.first_filter + len(self.filters)

    def taken_of_shed(self) -> list[tuple[float, float, dict[tuple[int, int], float]]]:
        """Return of each product in the shed how much of it there is, its price, and what each choice takes of it.

        Choices are given by the number of their slot and their own; products without a price, or that nothing may be
        of, are left out.
        """
        found = []
        for product, stock in self.shed.items():
            amounts, price = dict[tuple[int, int], float](), 0.0
            for at, slot in enumerate(self.slots):
                for index in range(len(slot.choices)):
                    name, amount = slot.takes(index)
                    if name == product:
                        amounts[at, index], price = amount, slot.price(index) / amount
            if price > 0.0:
                found.append((stock, price, amounts))
        return found

    def least_price(self, slot: Slot) -> float:
        """Return what something that is chosen costs at least: nothing where a choice of it is in the shed."""
        every = range(len(slot.choices))
        return 0.0 if any(slot.takes(index)[0] in self.shed for index in every) else slot.price(0)


class NothingFits(CoreError):
    """Nothing among what may be chosen gives what is required; says what would."""


def problem_of(analysis: Analysis, times: Times = NO_TIMES, any_class: bool = False) -> Problem:
    """Return what there is to size in a design.

    Args:
        times: as for `musts_of`.
        any_class: pipes and valves too that do not hold what stands on them, as if a reducer kept it off.
    Raises:
        DesignFaults: nothing that is priced to choose from, or nothing required of any outlet or place.
    """
    design, sizing = analysis.design, analysis.document.sizing or Sizing()
    musts = musts_of(analysis, times)
    if not musts:
        raise _fault("/requirements", "nothing", "a flow or a pressure required of an outlet or a place")
    kept = set(sizing.keep)
    rises = {stand.vessel: stand.most_m for stand in sizing.stands}
    coefficient = sizing.products[0].hazen_williams_c if sizing.products else None
    open_lines = [line for line in design.lines if not line.shut and line.id not in kept]
    if sizing.products:
        listed = rising_pipes(
            PipeChoice(
                product_id=product.id, bore_m=m_from_mm(product.bore_mm),
                roughness_m=m_from_mm(product.roughness_mm or 0.0), price_per_m=product.price_per_m,
            )
            for product in sizing.products
        )  # fmt: skip
        lines = [SizedLine(line=line, choices=listed) for line in open_lines]
    else:
        rise_m = max(rises.values(), default=0.0)
        sized = ((line, pipes_of_family(analysis, line, rise_m, any_class)) for line in open_lines)
        lines = [SizedLine(line=line, choices=choices) for line, choices in sized if choices]
    valves = list(valves_of(analysis, kept, max(rises.values(), default=0.0), any_class)) if sizing.valves else []
    filters = list(filters_of(design, [one.line for one in lines], sizing.laid))
    if not sizing.parts or sizing.split:
        filters = []
    bare = {one.line.id: one.without for one in filters}
    design = design.model_copy(update={"lines": [bare.get(line.id, line) for line in design.lines]})
    lines = [replace(one, line=bare.get(one.line.id, one.line)) for one in lines]
    stands = [
        SizedStand(vessel=vessel, choices=rises_of(rises[vessel.id], price))
        for vessel in design.vessels
        for price in [rise_price_per_m(design, stand) for stand in sizing.stands if stand.vessel == vessel.id]
    ]
    if not lines and not valves and not filters and not stands:
        where, money = "/sizing/keep" if kept else "/sizing/products", design.site.currency
        allowed = "priced pipes, or lines of a product that has a price"
        if money != PRICED_IN:
            allowed = f"pipes with a price in {money}: those of the catalogue are in {PRICED_IN}"
        raise _fault(where, "no pipe with a price", allowed)
    most_ms = sizing.most_ms or (None if sizing.products else FASTEST_MS)
    feeds = [Must(where=line, feeds_m3s=least, given="limit") for line, least in feeds_of(analysis, set(rises))]
    limits = [*feeds, *_limits(analysis, [one.line for one in lines], most_ms)]
    return Problem(
        design=design, water=analysis.model.water, lines=tuple(lines), valves=tuple(valves), stands=tuple(stands),
        filters=tuple(filters),
        musts=(*musts, *limits), coefficient=coefficient,
        friction="darcy" if coefficient is None else "hazen-williams",
        split=sizing.split, every=bool(sizing.products), shed=_in_shed(design),
    )  # fmt: skip


def _fault(path: str, found: str, allowed: str) -> DesignFaults:
    return DesignFaults([Fault(path=path, code="not_allowed", found=found, allowed=allowed)])


def _in_shed(design: Design) -> dict[str, float]:
    """Return how many metres of each pipe, or pieces of each valve, there are; a roll counts with its length."""
    found: dict[str, float] = defaultdict(float)
    known = {**pipes(), **{pipe.product_id: pipe for pipe in design.own_pipes}}
    for item in design.shed:
        pipe = known.get(item.product)
        found[item.product] += item.count * (pipe.coil_m or 1.0 if pipe else 1.0)
    return dict(found)


def _limits(analysis: Analysis, lines: list[Line], most_ms: float | None) -> Iterator[Must]:
    """Yield that water runs no faster than a limit in lines that are sized, and that no high point is in suction."""
    for line in lines:
        if most_ms is not None:
            yield Must(where=line.id, most_ms=most_ms, given="limit")
        if line.siphon:
            continue
        profile = line_profile(analysis.model.layout, line)
        stations = [(at_m, pipe_m) for at_m, _, pipe_m in profile]
        for (a_m, a), (b_m, b), (c_m, c) in zip(stations, stations[1:], stations[2:], strict=False):
            if b_m > a_m and c_m > b_m and (b - a) / (b_m - a_m) > (c - b) / (c_m - b_m) + 1e-9:
                yield Must(where=line.id, over_at_m=b_m, given="limit")


def parts_of(problem: Problem) -> list[Problem]:
    """Return a problem as those that have nothing to do with each other: tanks keep the water of both sides apart.

    Lines stay together that meet where no tank stands, that end at a tank whose stand is chosen, or that may be of
    the same pipe from the shed.

    Raises:
        NothingFits: something is required where no line leads.
    """
    design = problem.design
    raised = {stand.vessel.id for stand in problem.stands}
    apart = {vessel.id for vessel in design.vessels} - raised
    open_lines = [line for line in design.lines if not line.shut]
    top = _joined(problem, apart)
    wanted = _lines_wanted(problem)
    groups: dict[str, list[Line]] = defaultdict(list)
    for line in open_lines:
        groups[top(f"line {line.id}")].append(line)
    astray = next((one for one in problem.musts if one.given != "limit" and top(one.where) not in groups), None)
    if astray is not None:
        raise NothingFits(f"no line leads to {labels(design)[astray.where]}, of which something is required")
    found = []
    for group, lines in groups.items():
        names = {line.id for line in lines} & wanted
        stays = {line.id for line in lines} - names  # what limits a line that is not sized is not asked
        musts = tuple(
            one
            for one in problem.musts
            if top(_name_of(one)) == group and not (one.where in stays and one.of_line and one.feeds_m3s is None)
        )
        if not problem.every and all(must.given == "limit" for must in musts):
            continue  # nothing is required of it: it stays as it is
        filters = tuple(one for one in problem.filters if one.line.id in names)
        stay = {one.line.id: one.line for one in problem.filters if one.line.id not in names}
        found.append(
            replace(
                problem,
                filters=filters,
                design=_only(design, [stay.get(line.id, line) for line in lines]),
                musts=musts,
                lines=tuple(one for one in problem.lines if one.line.id in names),
                valves=tuple(one for one in problem.valves if top(one.outlet.id) == group),
                stands=tuple(one for one in problem.stands if top(one.vessel.id) == group),
            )
        )
    return found


def _lines_wanted(problem: Problem) -> set[str]:
    """Return the lines that are sized: those from which water comes to where something is required, tanks left aside.

    A line that feeds a tank stays as it is, though the tank may be raised.
    """
    top = _joined(replace(problem, shed={}), {vessel.id for vessel in problem.design.vessels})
    wanted = {top(must.where) for must in problem.musts if not must.of_line and must.given != "limit"}
    return {one.line.id for one in problem.lines if problem.every or top(f"line {one.line.id}") in wanted}


def _joined(problem: Problem, apart: set[str]) -> Callable[[str], str]:
    """Return what tells of a node, an outlet or "line id" the name of all that hangs together with it.

    Args:
        apart: tanks that keep what lies on their sides apart.
    """
    root: dict[str, str] = {}

    def top(name: str) -> str:
        while root.setdefault(name, name) != name:
            name = root[name]
        return name

    for line in problem.design.lines:
        for end in () if line.shut else (line.from_, line.to):
            if end not in apart:
                root[top(f"line {line.id}")] = top(end)
    for outlet in problem.design.outlets:
        root[top(outlet.id)] = top(outlet.place)
    slots: tuple[Slot, ...] = (*problem.lines, *problem.valves, *problem.filters)
    for one in slots:
        name = one.part_id
        if isinstance(one, SizedLine | SizedFilter):
            name = f"line {one.line.id}"
        for index in range(len(one.choices)):
            if one.takes(index)[0] in problem.shed:
                root[top(name)] = top(f"shed {one.takes(index)[0]}")
    return top


def _name_of(must: Must) -> str:
    return f"line {must.where}" if must.of_line else must.where


def _only(design: Design, lines: list[Line]) -> Design:
    """Return a design of some of its lines, and what stands at their ends."""
    ends = {end for line in lines for end in (line.from_, line.to)}
    outlets = [outlet for outlet in design.outlets if outlet.place in ends or outlet.id in ends]
    filled = {outlet.fills for outlet in outlets}
    vessels = [vessel for vessel in design.vessels if vessel.id in ends or vessel.id in filled]
    at = ends | {outlet.place for outlet in outlets} | {vessel.place for vessel in vessels}
    at |= {source.place for source in design.pressure_sources}
    places = [place for place in design.places if place.id in at]
    return design.model_copy(update={"lines": lines, "outlets": outlets, "vessels": vessels, "places": places})
