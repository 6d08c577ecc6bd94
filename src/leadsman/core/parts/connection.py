"""Every connection of a plan: what meets what, on which line or at which place, and the chain that joins them."""

import itertools
import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from typing import NamedTuple

from leadsman.core.catalogue import FloatValveProduct, PartProduct, fittings, float_valves, parts, vessels
from leadsman.core.catalogue.product import Ended
from leadsman.core.catalogue.thread import End
from leadsman.core.design import Design, FloatValveOutlet, InlinePart, Line, OutletBase, Vessel, label
from leadsman.core.design.layout import Layout
from leadsman.core.parts.chain import WALL_PIECE, Chain, chain_between
from leadsman.core.parts.laid_pipe import pipe_at, pipes_of
from leadsman.core.parts.mate import THROUGH_WALL, PipeEnd, pipe_end, told
from leadsman.core.parts.roll import Rolls, rolls_of
from leadsman.core.parts.taps import taps_of

AT_VESSEL_M = 1.0  # a part no farther from a vessel sits right at it; ours, no source
NARROW = 0.75  # a chain under so much of the lesser bore is told, with a wider one where there is; ours, no source
ELBOW_FROM_DEG = 60.0  # a route that turns by less is bent in the pipe; ours, no source


@dataclass(frozen=True, kw_only=True)
class Connection:
    """Two things that meet: in words, where, their ends, the chain between them, and what of it is our assumption.

    `line` and `at_m` are where along a line it is, `place` the place of a junction. `extra` are products that the joint
    itself needs, as a tee. `chain` is None where an end is not known, or no chain leads from one to the other.
    `wider` is a chain that is not so narrow, where the chain is. `no_pipe` is whether it leads to a pipe that is given
    by its bore alone. `through` is the line whose water runs through the joint; None on the side of a saddle, and from
    a tee straight into an outlet.
    """

    connection_id: str
    first: str
    second: str
    line: str | None
    at_m: float | None
    place: str | None
    start: End | None
    goal: End | None
    chain: Chain | None
    wider: Chain | None
    extra: tuple[Ended, ...] = ()
    assumed: tuple[str, ...] = ()
    no_pipe: bool = False
    through: str | None = None

    @property
    def lacks_chain(self) -> bool:
        """Whether both ends are known, and nothing joins them."""
        return self.start is not None and self.goal is not None and self.chain is None


class Station(NamedTuple):
    """Something on a line with an end that looks back and one that looks on; None where that is not known."""

    name: str
    at_m: float
    back: End | None
    on: End | None
    product: Ended | None
    assumed: str


@dataclass
class Plan:
    """What the connections are found from."""

    design: Design
    layout: Layout = field(init=False)
    cut: list[Rolls] = field(init=False)
    ends_at: dict[str, list[tuple[Line, float]]] = field(init=False)  # by node: lines, and how far along it lies [m]
    outlets_at: dict[str, list[OutletBase]] = field(init=False)  # by the node that they draw from

    def __post_init__(self) -> None:
        self.layout = Layout(self.design)
        self.cut = rolls_of(self.design)
        self.ends_at, self.outlets_at = {}, {}
        for line in self.design.lines:
            for node, at_m in ((line.from_, 0.0), (line.to, line.pipe_length_m)):
                self.ends_at.setdefault(node, []).append((line, at_m))
        for outlet in self.design.outlets:
            self.outlets_at.setdefault(self.layout.node_of_outlet[outlet.id], []).append(outlet)


def connections(design: Design) -> list[Connection]:
    """Return every connection of a design, line by line, then junction by junction."""
    plan = Plan(design)
    found = [one for line in design.lines for one in _on_line(plan, line)]
    return found + [one for place in design.places for one in _at_place(plan, place.id)]


def _on_line(plan: Plan, line: Line) -> Iterator[Connection]:
    """Yield a line's connections: its ends at vessels and outlets, the parts in it, and where its pipe changes."""
    design, length_m = plan.design, line.pipe_length_m
    taps = [InlinePart(kind="tap_point", at_m=at_m) for at_m in taps_of(design, plan.layout, line, plan.cut)]
    inside = [_station(plan, line, part) for part in sorted([*line.inline, *taps], key=lambda part: part.at_m)]
    through = [one for one in inside if one.on is not None or one.back is None]
    start, end = _end(plan, line, line.from_, 0.0), _end(plan, line, line.to, length_m)
    stations = [*([start] if start else []), *through, *([end] if end else [])]
    for number, station in enumerate(stations):
        before = stations[number - 1] if number else None
        beyond = stations[number + 1] if number + 1 < len(stations) else None
        product = station.product
        if before and _is_beside(before, station, start, end):
            yield _joined(line, f"{number}", before, station, product)
            product = None
        elif station is not start:
            yield from _to_pipe(plan, line, f"{number}-to", station, product, onward=False)
            product = None
        if station is not end and not (beyond and _is_beside(station, beyond, start, end)):
            yield from _to_pipe(plan, line, f"{number}-on", station, product, onward=True)
        elif station is start and product and beyond:
            yield _counted(line, product, station)
    for station in inside:
        if station not in through:
            yield from _on_saddle(plan, line, station)
    at_m, pipes = 0.0, pipes_of(design, line)
    for (own, long_m), (other, _) in itertools.pairwise(pipes):
        at_m += long_m
        yield _between(line, f"run-{at_m:g}", own.name, other.name, at_m, pipe_end(own), pipe_end(other))


def _is_beside(station: Station, beyond: Station, start: Station | None, end: Station | None) -> bool:
    """Whether a part sits right at what the line begins or ends with, without pipe between."""
    return beyond.at_m - station.at_m <= AT_VESSEL_M and (station is start or beyond is end)


def _counted(line: Line, product: Ended, station: Station) -> Connection:
    """Return that a part is needed at the beginning of a line, which joins what comes next by itself."""
    end = product.end_list[0]
    return Connection(
        connection_id=f"{line.id}:at", first=station.name, second=product.name, line=line.id, at_m=station.at_m,
        place=None, start=end, goal=end, chain=Chain(start=end, goal=end, links=(), last=THROUGH_WALL), wider=None,
        extra=(product,), assumed=(station.assumed,) if station.assumed else (), through=line.id,
    )  # fmt: skip


def _to_pipe(
    plan: Plan, line: Line, suffix: str, station: Station, product: Ended | None, onward: bool
) -> Iterator[Connection]:
    """Yield the joint of a station with the pipe after it, or before it."""
    pipe = pipe_at(plan.design, line, station.at_m if onward else max(station.at_m - 1e-6, 0.0))
    end = station.on if onward else station.back
    if end is None and station.product is None and not station.assumed:
        return  # nothing is joined there: an open end
    name = label(line) if pipe is None else f"{pipe.name} of {label(line)}"
    yield _made(
        connection_id=f"{line.id}:{suffix}", first=station.name, second=name, line=line.id, at_m=station.at_m,
        start=end, goal=None if pipe is None else pipe_end(pipe), assumed=(station.assumed,) if station.assumed else (),
        extra=(product,) if product else (), no_pipe=pipe is None, through=line.id,
    )  # fmt: skip


def _joined(line: Line, suffix: str, station: Station, beyond: Station, product: Ended | None) -> Connection:
    return _made(
        connection_id=f"{line.id}:{suffix}", first=station.name, second=beyond.name, line=line.id, at_m=beyond.at_m,
        start=station.on, goal=beyond.back, assumed=(beyond.assumed,) if beyond.assumed else (),
        extra=(product,) if product else (), through=line.id,
    )  # fmt: skip


def _between(line: Line, suffix: str, first: str, second: str, at_m: float, start: End, goal: End) -> Connection:
    return _made(connection_id=f"{line.id}:{suffix}", first=first, second=second, line=line.id, at_m=at_m,
                 start=start, goal=goal, through=line.id)  # fmt: skip


def _made(
    *,
    connection_id: str,
    first: str,
    second: str,
    start: End | None,
    goal: End | None,
    line: str | None = None,
    at_m: float | None = None,
    place: str | None = None,
    extra: tuple[Ended, ...] = (),
    assumed: tuple[str, ...] = (),
    no_pipe: bool = False,
    through: str | None = None,
) -> Connection:
    chain = chain_between(start, goal) if start and goal else None
    wider = None
    if chain and start and goal and chain.narrowest_m < NARROW * min(start.bore_m, goal.bore_m):
        other = chain_between(start, goal, NARROW * min(start.bore_m, goal.bore_m))
        wider = other if other and other.narrowest_m > chain.narrowest_m else None
    return Connection(
        connection_id=connection_id, first=first, second=second, line=line, at_m=at_m, place=place, start=start,
        goal=goal, chain=chain, wider=wider, extra=extra, assumed=assumed, no_pipe=no_pipe,
        through=through,
    )  # fmt: skip


def _end(plan: Plan, line: Line, node: str, at_m: float) -> Station | None:
    """Return what a line ends on: a vessel's wall, an outlet; None at a junction, of which its place tells."""
    if node in plan.layout.vessels:
        return _wall(plan, line, plan.layout.vessels[node], at_m)
    if node in plan.layout.outlets:
        return _outlet(plan.layout.outlets[node], at_m)
    if node in plan.layout.sources:
        return Station(label(plan.layout.sources[node]), at_m, None, None, None, "the thread of its outlet: measure it")
    return None


def _wall(plan: Plan, line: Line, vessel: Vessel, at_m: float) -> Station:
    """Return a vessel's outlet: of what it was bought as, else a bulkhead of the pipe's size through its wall."""
    product = vessels().get(vessel.product or "")
    own = product.end_list[0] if product and product.end_list else None
    if own is not None:
        return Station(label(vessel), at_m, own, own, None, "")
    pipe = pipe_at(plan.design, line, at_m)
    bore_m = pipe.bore_m if pipe else (line.bore_mm or 20.0) / 1e3
    bulkheads = {one.product_id: one for one in fittings().values() if one.product_id.startswith(WALL_PIECE)}
    sized = min(bulkheads.values(), key=lambda one: (abs(one.end_list[0].bore_m - bore_m), one.product_id))
    end = sized.end_list[0]
    return Station(
        label(vessel), at_m, end, end, sized, f"a bulkhead of {end.size} in through the wall of {label(vessel)}"
    )


def _outlet(outlet: OutletBase, at_m: float) -> Station:
    """Return the inlet of an outlet: of its valve, else of the valve of the catalogue that passes about as much."""
    if not isinstance(outlet, FloatValveOutlet):
        return Station(label(outlet), at_m, None, None, None, "")
    like = inlet_of(outlet)
    assumed = "" if like.product_id == outlet.valve.product else f"{label(outlet)} as {like.name}"
    return Station(
        label(outlet), at_m, like.end_list[0], None, like, f"{assumed}, which passes about as much" if assumed else ""
    )


def inlet_of(outlet: FloatValveOutlet) -> FloatValveProduct:
    """Return the valve that an outlet is bought as, else the one of the catalogue that passes about as much."""
    product = float_valves().get(outlet.valve.product or "")
    if product is not None and product.end_list:
        return product
    near = [one for one in float_valves().values() if one.end_list]
    return min(near, key=lambda one: abs(math.log(one.kv_m3h / outlet.valve.kv_m3h)))


def _station(plan: Plan, line: Line, part: InlinePart) -> Station:
    """Return a part in a line: what it was bought as, else the cheapest of its kind that is about as wide."""
    product = parts().get(part.product or "")
    assumed = ""
    if product is None or not product.end_list:
        product = _like(plan, line, part)
        assumed = f"{KINDS[part.kind]} as {product.name}" if product else ""
    name = KINDS[part.kind] if product is None else product.name
    ends: Sequence[End] = product.end_list if product else ()
    if len(ends) >= 2 and part.kind != "tap_point":
        return Station(name, part.at_m, ends[0], ends[1], product, assumed)
    return Station(name, part.at_m, ends[0] if ends else None, None, product, assumed or f"the ends of {name}")


def _like(plan: Plan, line: Line, part: InlinePart) -> PartProduct | None:
    pipe = pipe_at(plan.design, line, part.at_m)
    bore_m = pipe.bore_m if pipe else (line.bore_mm or 20.0) / 1e3
    sold = [
        one for one in parts().values() if one.inline_kind == part.kind and one.kind != "foot_valve" and one.end_list
    ]
    wide = [one for one in sold if one.end_list[0].bore_m >= NARROW * bore_m] or sold
    return min(wide, key=lambda one: (abs(one.end_list[0].bore_m - bore_m), one.price or 1e9), default=None)


KINDS = {
    "check_valve": "check valve", "isolating_valve": "stopcock", "filter": "filter", "reducer": "pressure reducer",
    "vent": "air vent", "drain": "drain", "tap_point": "tap point",
}  # fmt: skip


def _on_saddle(plan: Plan, line: Line, station: Station) -> Iterator[Connection]:
    """Yield how a part with one end sits on the pipe: on a saddle of the pipe's size, where there is one."""
    pipe = pipe_at(plan.design, line, station.at_m)
    saddle = next((one for one in fittings().values() if pipe and _is_saddle_for(one, pipe_end(pipe))), None)
    end = saddle.end_list[1] if saddle else None
    products = tuple(one for one in (saddle, station.product) if one)
    yield _made(
        connection_id=f"{line.id}:on-{station.at_m:g}", first=saddle.name if saddle else label(line),
        second=station.name, line=line.id, at_m=station.at_m, start=end, goal=station.back, extra=products,
        assumed=(station.assumed,) if station.assumed else (),
    )  # fmt: skip


def _is_saddle_for(product: Ended, end: PipeEnd) -> bool:
    return product.product_id.startswith("saddle") and (product.end_list[0].family, product.end_list[0].size) == (
        end.family,
        end.size,
    )


class Branch(NamedTuple):
    """A pipe, or an outlet, at a junction: its end, and the way its pipe runs from there [east, north in m]."""

    name: str
    line: str | None
    end: End | None
    way: tuple[float, float] | None
    product: Ended | None
    assumed: str


def _at_place(plan: Plan, place: str) -> Iterator[Connection]:
    """Yield how what meets at a place is joined: a cap, a coupling or elbow, or tees with what each branch needs."""
    branches = list(_branches(plan, place))
    pipes = [one for one in branches if isinstance(one.end, PipeEnd)]
    name = label(plan.layout.places[place])
    if not pipes:
        for number, branch in enumerate(one for one in branches if one.product):
            yield _made(
                connection_id=f"{place}:valve-{number + 1}", first=name, second=branch.name, place=place, start=None,
                goal=branch.end, extra=(branch.product,) if branch.product else (),
                assumed=(branch.assumed,) if branch.assumed else (),
            )  # fmt: skip
        return
    if len(branches) == 1:
        cap = next((one for one in fittings().values() if _is_cap_for(one, pipes[0].end)), None)
        if not _leads_on(plan, place):
            yield _made(
                connection_id=f"{place}:end", first=name, second=pipes[0].name, place=place,
                start=cap.end_list[0] if cap else None, goal=pipes[0].end, extra=(cap,) if cap else (),
            )  # fmt: skip
        return
    if len(branches) == 2:
        first, second = sorted(branches, key=lambda one: not isinstance(one.end, PipeEnd))
        bent = _elbow_for(first, second)
        ends = (bent.end_list[0] if bent else first.end, second.end)
        yield _made(
            connection_id=f"{place}:joint", first=first.name, second=second.name, place=place, start=ends[0],
            goal=ends[1], extra=tuple(one for one in (bent, first.product, second.product) if one),
            assumed=tuple(one.assumed for one in branches if one.assumed), through=first.line,
        )  # fmt: skip
        return
    widest = max(pipes, key=lambda one: one.end.bore_m if one.end else 0.0)
    tee = next((one for one in fittings().values() if _is_tee_for(one, widest.end)), None)
    for number, branch in enumerate(branches):
        extra = (tee,) * (len(branches) - 2) if tee and number == 0 else ()
        same = tee is not None and isinstance(branch.end, PipeEnd) and _all_take(tee, branch.end, 3)
        start = (tee.end_list[0] if same else widest.end) if tee else None
        stub = () if same or not tee else (f"a short piece of {widest.name}'s pipe out of the tee",)
        yield _made(
            connection_id=f"{place}:branch-{number + 1}", first=f"{tee.name} at {name}" if tee else name,
            second=branch.name, place=place, start=start, goal=branch.end,
            extra=(*extra, *((branch.product,) if branch.product else ())),
            assumed=(*stub, *((branch.assumed,) if branch.assumed else ())), through=branch.line,
        )  # fmt: skip


def _branches(plan: Plan, place: str) -> Iterator[Branch]:
    for line, at_m in plan.ends_at.get(place, ()):
        pipe = pipe_at(plan.design, line, at_m)
        way = plan.layout.way_of(line)
        here, beyond = (way[0], way[1]) if at_m == 0.0 else (way[-1], way[-2])
        heading = (beyond[0] - here[0], beyond[1] - here[1])
        yield Branch(label(line), line.id, pipe_end(pipe) if pipe else None, heading, None, "")
    for outlet in plan.outlets_at.get(place, ()):
        if isinstance(outlet, FloatValveOutlet):
            station = _outlet(outlet, 0.0)
            yield Branch(station.name, None, station.back, None, station.product, station.assumed)


def _leads_on(plan: Plan, place: str) -> bool:
    """Whether water leaves at a place that one pipe leads to: by a tap or an emitter there, or a draw."""
    return place in plan.outlets_at or plan.layout.places[place].draw_lpm > 0.0


def _elbow_for(first: Branch, second: Branch) -> Ended | None:
    """Return a bend for two pipes of one size whose route turns there; None where it does not."""
    if first.way is None or second.way is None or not isinstance(second.end, PipeEnd) or first.end != second.end:
        return None
    long = math.hypot(*first.way) * math.hypot(*second.way)
    if long <= 0.0:
        return None
    straight = -(first.way[0] * second.way[0] + first.way[1] * second.way[1]) / long
    if math.degrees(math.acos(max(-1.0, min(1.0, straight)))) < ELBOW_FROM_DEG:
        return None
    return next(
        (one for one in fittings().values() if "elbow" in one.product_id and _all_take(one, second.end, 2)), None
    )


def _all_take(product: Ended, end: End | None, count: int) -> bool:
    ends = product.end_list
    return end is not None and len(ends) == count and all((o.family, o.size) == (end.family, end.size) for o in ends)


def _is_tee_for(product: Ended, end: End | None) -> bool:
    return "tee-run" in product.product_id and _all_take(product, end, 3)


def _is_cap_for(product: Ended, end: End | None) -> bool:
    return product.product_id.startswith("compression-end") and _all_take(product, end, 1)


def why_unknown(connection: Connection) -> str:
    """Return what is not known of a connection without a chain whose ends are not both known."""
    if connection.no_pipe:
        return f"no pipe is chosen for {connection.second}"
    if connection.goal is None and connection.start is not None:
        return f"the end of {connection.second} is not known"
    return f"the end of {connection.first} is not known"


def ends_told(connection: Connection) -> tuple[str, str]:
    """Return both ends in words; empty where one is not known."""
    start = told(connection.start) if connection.start else ""
    return start, told(connection.goal) if connection.goal else ""
