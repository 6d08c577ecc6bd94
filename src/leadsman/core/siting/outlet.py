"""Where a trough could stand: along a line, or in a paddock with a new pipe from the nearest line."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from itertools import pairwise
from math import ceil, dist, hypot, inf, sqrt

import numpy as np

from leadsman.core.base.cached import cached_property
from leadsman.core.base.cancel import CancelCheck, never_cancelled
from leadsman.core.base.fault import DesignFaults, Fault
from leadsman.core.design import Design, Paddock, label
from leadsman.core.design.edit.deleting import delete_parts
from leadsman.core.design.edit.geometry import AT_AN_END, OnLine, nearest_on, way_of
from leadsman.core.design.edit.model import DeleteParts
from leadsman.core.design.edit.parts import Document, Part, add, cm, free_id, parts, stands_at
from leadsman.core.design.edit.splitting import split_line
from leadsman.core.design.file import read_design, write_design
from leadsman.core.design.layout import Layout, along_way
from leadsman.core.siting.known_ground import BETWEEN, KnownGround
from leadsman.core.siting.net import joined_with
from leadsman.core.siting.position import Position, Spot, Watch, analysed, best_first, lacking, laid_m, more_cost
from leadsman.core.siting.walk import corners_of, farthest_m, inside, limit_m, stands_in, watered

MOST_POSITIONS = 48
SHORTEST_M = 1.0  # of a new pipe
BESIDE_AN_END = 2.0 * AT_AN_END
OF_PIPE = ("product", "bore_mm", "roughness_mm", "hazen_williams_c", "cover_m")


def along_line(
    design: Design,
    outlet_id: str,
    line_id: str,
    *,
    check_cancelled: CancelCheck = never_cancelled,
    watch: Watch | None = None,
) -> list[Position]:
    """Return positions of a trough along a line, best first: it stands at the pipe, and its own pipe is not laid.

    Raises:
        DesignFaults: there is no such outlet or line, or the line brings no water that could reach it.
    """
    _require(design, outlet_id)
    layout = Layout(design)
    if line_id not in layout.lines:
        raise _fault("/along", line_id, "the id of a line")
    if line_id not in _net(design, outlet_id):
        allowed = "a line that hangs together with the one that feeds it now, no tank between"
        raise _fault("/along", line_id, allowed)
    shares = np.linspace(0.0, 1.0, MOST_POSITIONS + 2)[1:-1].tolist()
    spots = along_way(layout.way_of(layout.lines[line_id]), shares)

    def put(document: Document, number: int) -> float:
        on = OnLine(line=_line(document, line_id), share=shares[number], spot=spots[number], off_m=0.0)
        return _at_the_pipe(document, outlet_id, on)

    return _judge(design, outlet_id, check_cancelled).positions(spots, put, watch)


def in_paddock(
    design: Design,
    outlet_id: str,
    paddock_id: str,
    *,
    check_cancelled: CancelCheck = never_cancelled,
    watch: Watch | None = None,
) -> list[Position]:
    """Return positions of a trough in a paddock and at its fence, best first, with a pipe from the nearest line.

    The pipe runs straight, and is of the kind that leads to the trough now, else of the line that it begins at.

    Raises:
        DesignFaults: there is no such outlet or paddock, or the paddock's fence is not known, or no ground in it.
    """
    _require(design, outlet_id)
    paddock = next((one for one in design.paddocks if one.id == paddock_id), None)
    if paddock is None:
        raise _fault("/paddock", paddock_id, "the id of a paddock")
    if len(paddock.corners) < 3:
        raise _fault("/paddock", f"no fence of {label(paddock)}", "a paddock whose corners are on the plan")
    net, ground = _net(design, outlet_id), KnownGround(design)
    spots = ground.known(_spots(paddock))
    if not spots:
        raise _fault("/paddock", f"no known ground in {label(paddock)}", "a paddock between heights that are known")
    heights, off = (each(np.array(spots)).tolist() for each in (ground.at, ground.off_m))

    def put(document: Document, number: int) -> float:
        lines = [line for line in parts(document, "lines") if line["id"] in net]
        on = min((nearest_on(document, line, spots[number]) for line in lines), key=lambda one: one.off_m)
        _with_a_pipe(document, outlet_id, _beside_an_end(document, outlet_id, on), spots[number], heights[number])
        return float(off[number])

    return _judge(design, outlet_id, check_cancelled, paddock).positions(spots, put, watch)


@dataclass(frozen=True, kw_only=True)
class _Judge:
    """What positions of an outlet are held against: the plan as it is, and the paddocks that drink at it."""

    design: Design
    outlet_id: str
    paddocks: list[Paddock]
    check_cancelled: CancelCheck
    meant_for: str | None = None

    @cached_property
    def _before(self) -> set[str]:
        return lacking(analysed(self.design, self.check_cancelled))

    @cached_property
    def _spot(self) -> Spot:
        """Where the outlet stands now."""
        return spot_of(self.design, self.outlet_id)

    @cached_property
    def _most_m(self) -> float:
        """How long the walk may be [m]: as the animals' table says; no longer than now where it is longer already."""
        limit = walk_limit_m(self.design, self.outlet_id)
        now = max((farthest_m(one, self._spot) for one in self.paddocks), default=0.0)
        return inf if limit is None else max(limit, now)

    def position(self, spot: Spot, changed: Design, off_m: float) -> Position:
        """Return what a design gives in which the outlet stands at a spot."""
        after = analysed(changed, self.check_cancelled)
        outlet = next(one for one in changed.outlets if one.id == self.outlet_id)
        lacks = lacking(after)
        short = tuple(sorted(lacks - self._before - {self.outlet_id}))
        walk = max((farthest_m(one, spot) for one in self.paddocks), default=None)
        outside = tuple(
            one.id for one in self.paddocks if not stands_in(one, spot) and self._is_in(one)
        )  # fmt: skip
        fed = any(one.id == self.outlet_id for one in after.fed_outlets)
        near = walk is None or walk <= self._most_m + 1e-9
        return Position(
            spot=spot, ground_m=Layout(changed).places[outlet.place].ground_m, off_m=off_m,
            more_m=laid_m(changed) - laid_m(self.design), cost=more_cost(self.design, changed), design=changed,
            flow_m3s=after.answer(outlet).judged_flow_m3s if fed else 0.0, short=short, walk_m=walk, outside=outside,
            works=fed and near and self.outlet_id not in lacks and not short and not outside,
        )  # fmt: skip

    def _is_in(self, paddock: Paddock) -> bool:
        """Return whether it is to stand in a paddock: it does now, or that is the one it is meant for."""
        return paddock.id == self.meant_for or stands_in(paddock, self._spot)

    def positions(
        self, spots: list[Spot], put: Callable[[Document, int], float], watch: Watch | None
    ) -> list[Position]:
        """Return positions, best first.

        Args:
            put: puts the outlet at a spot, given by its number, of a document; returns how far off the nearest known
                height is [m].
        """
        found: list[Position] = []
        for number, spot in enumerate(spots):
            self.check_cancelled()
            document = write_design(self.design)
            off_m = put(document, number)
            for each in document.get("paddocks", []):
                mine = next((one for one in self.paddocks if one.id == each["id"]), None)
                if mine is not None and stands_in(mine, spot):
                    each |= {"outlet": self.outlet_id, "farthest_m": round(farthest_m(mine, spot), 1)}
            found.append(self.position(spot, read_design(document), off_m))
            if watch is not None:
                watch((number + 1) / len(spots), best_first(found))
        return best_first(found)


def _judge(design: Design, outlet_id: str, check_cancelled: CancelCheck, meant_for: Paddock | None = None) -> _Judge:
    """Return what positions of an outlet are held against, in a paddock that it is meant for, where there is one."""
    paddocks = watered(design, outlet_id)
    if meant_for is not None:
        paddocks = [*(one for one in paddocks if one.id != meant_for.id), meant_for]
    return _Judge(
        design=design, outlet_id=outlet_id, paddocks=paddocks, check_cancelled=check_cancelled,
        meant_for=meant_for.id if meant_for else None,
    )  # fmt: skip


def as_it_is(design: Design, outlet_id: str, *, check_cancelled: CancelCheck = never_cancelled) -> Position:
    """Return where an outlet stands now, with what it gives there.

    Raises:
        DesignFaults: there is no such outlet.
    """
    _require(design, outlet_id)
    return _judge(design, outlet_id, check_cancelled).position(spot_of(design, outlet_id), design, 0.0)


def without_ground(design: Design, paddock_id: str) -> int:
    """Return how many spots of a paddock are left out, since no heights are known around them."""
    spots = _spots(next(one for one in design.paddocks if one.id == paddock_id))
    return len(spots) - len(KnownGround(design).known(spots))


def spot_of(design: Design, outlet_id: str) -> Spot:
    """Return where an outlet stands on the plan."""
    outlet = next(one for one in design.outlets if one.id == outlet_id)
    place = next(one for one in design.places if one.id == outlet.place)
    return place.east_m, place.north_m


def walk_limit_m(design: Design, outlet_id: str) -> float | None:
    """Return how far animals are to walk to an outlet at most [m], in the case that is shown; None where none do."""
    shown = next((case for case in design.scenarios if case.id == design.shown_for), None)
    return limit_m(design, outlet_id, shown.date if shown else None)


def _at_the_pipe(document: Document, outlet_id: str, on: OnLine) -> float:
    """Put an outlet at a point of a line, from which it draws; return how far off the nearest known height is: none."""
    place = split_line(document, on, "")
    _drop_own(document, outlet_id)
    _stand(document, outlet_id, place)
    return 0.0


def _with_a_pipe(document: Document, outlet_id: str, on: OnLine, spot: Spot, ground_m: float) -> None:
    """Put an outlet at a spot, with a straight pipe from a point of a line or its end."""
    pattern = next(iter(_own(document, outlet_id)), on.line)
    like: Part = {key: pattern[key] for key in OF_PIPE if key in pattern}
    if "product" not in like and "bore_mm" not in like:
        like["product"] = pattern["runs"][-1]["product"]
    if AT_AN_END < on.share < 1.0 - AT_AN_END:
        start = split_line(document, on, "")
        _drop_own(document, outlet_id)
    else:
        start = on.line["from" if on.share <= AT_AN_END else "to"]
        if start == outlet_id:  # its own pipe is made longer, from where it ends now
            start = on.line["to" if on.line["to"] == outlet_id else "from"] = _place_of(document, outlet_id)
        elif start != _place_of(document, outlet_id):
            _drop_own(document, outlet_id)
    begins = next(place for place in document["places"] if place["id"] == _place_of(document, start))
    long_m = hypot(dist((begins["east_m"], begins["north_m"]), spot), begins["ground_m"] - ground_m)
    place = free_id(document, "places", "place")
    add(document, "places", {
        "id": place, "east_m": cm(spot[0]), "north_m": cm(spot[1]), "ground_m": cm(ground_m),
        "height_from": BETWEEN,
    })  # fmt: skip
    _stand(document, outlet_id, place)
    line = {**like, "id": free_id(document, "lines", "line"), "from": start, "to": outlet_id}
    add(document, "lines", {**line, "length_m": max(cm(long_m), SHORTEST_M)})


def _beside_an_end(document: Document, outlet_id: str, on: OnLine) -> OnLine:
    """Return a point of a line, moved a little from an end at which no other line may begin.

    That is a source under pressure, or another outlet.
    """
    ends = {one["id"] for one in parts(document, "pressure_sources")}
    ends |= {one["id"] for one in parts(document, "outlets") if one["id"] != outlet_id}
    low, high = (on.line[key] in ends for key in ("from", "to"))
    share = min(max(on.share, BESIDE_AN_END if low else 0.0), 1.0 - (BESIDE_AN_END if high else 0.0))
    return on if share == on.share else replace(on, share=share, spot=along_way(way_of(document, on.line), [share])[0])


def _own(document: Document, outlet_id: str) -> list[Part]:
    """Return the line that leads to an outlet and nowhere else: to itself, or to its place with nothing else there."""
    lines = parts(document, "lines")
    own = [line for line in lines if outlet_id in (line["from"], line["to"])]
    if own:
        return own
    outlet = next(one for one in document["outlets"] if one["id"] == outlet_id)
    place = outlet["place"]
    others = [
        one["id"] for kind in ("outlets", "vessels") for one in parts(document, kind)
        if one["place"] == place and one["id"] not in (outlet_id, outlet.get("fills"))
    ]  # fmt: skip
    there = [line for line in lines if place in (line["from"], line["to"])]
    return there if len(there) == 1 and not others else []


def _drop_own(document: Document, outlet_id: str) -> None:
    """Leave out the line that leads to an outlet and nowhere else."""
    own = [line["id"] for line in _own(document, outlet_id)]
    if own:
        delete_parts(document, DeleteParts(kind="delete_parts", parts=own))


def _stand(document: Document, outlet_id: str, place: str) -> None:
    """Let an outlet, and the vessel that it alone fills, stand at a place."""
    outlet = next(one for one in document["outlets"] if one["id"] == outlet_id)
    others = {one.get("fills") for one in document["outlets"] if one["id"] != outlet_id}
    for vessel in parts(document, "vessels"):
        if vessel["id"] == outlet.get("fills") and vessel["id"] not in others:
            vessel["place"] = place
    outlet["place"] = place


def _place_of(document: Document, node: str) -> str:
    return stands_at(document).get(node, node)


def _line(document: Document, line_id: str) -> Part:
    return next(line for line in parts(document, "lines") if line["id"] == line_id)


def _net(design: Design, outlet_id: str) -> set[str]:
    """Return the lines that hang together with what feeds an outlet, no tank between; those that lead into one not."""
    layout = Layout(design)
    apart = set(layout.vessels) | set(layout.sources)
    _, found = joined_with(design, layout, layout.node_of_outlet[outlet_id])
    return {
        one.id for one in design.lines
        if one.id in found and one.to not in apart and one.pump is None and not one.siphon
    }  # fmt: skip


def _spots(paddock: Paddock) -> list[Spot]:
    """Return spots of a paddock, a grid of them and some along its fence."""
    corners = corners_of(paddock)
    return [*_grid(corners), *_fence(corners)]


def _grid(corners: list[Spot]) -> list[Spot]:
    low, high = np.min(corners, axis=0), np.max(corners, axis=0)
    step = sqrt(max(float(np.prod(high - low)), 1.0) / MOST_POSITIONS)
    easts, norths = (np.arange(low[axis] + step / 2.0, high[axis], step) for axis in (0, 1))
    return [(float(x), float(y)) for y in norths for x in easts if inside(corners, (float(x), float(y)))]


def _fence(corners: list[Spot]) -> Iterator[Spot]:
    ring = [*corners, corners[0]]
    around_m = sum(dist(a, b) for a, b in pairwise(ring))
    for a, b in pairwise(ring):
        number = max(1, ceil(dist(a, b) / around_m * MOST_POSITIONS / 2.0))
        yield from ((a[0] + (b[0] - a[0]) * k / number, a[1] + (b[1] - a[1]) * k / number) for k in range(number))


def _require(design: Design, outlet_id: str) -> None:
    if all(outlet.id != outlet_id for outlet in design.outlets):
        raise _fault("/part", outlet_id, "the id of an outlet")
    if sum(outlet_id in (line.from_, line.to) for line in design.lines) > 1:
        raise _fault("/part", f"{outlet_id}, from which a line leads on", "an outlet at which one line ends")


def _fault(path: str, found: str, allowed: str) -> DesignFaults:
    return DesignFaults([Fault(path=path, code="not_allowed", found=found, allowed=allowed)])
