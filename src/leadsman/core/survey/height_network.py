"""Heights of places from all that was measured: weighted least squares, datums of sources fitted by common places.

Each rise counts by the inverse square of its error. Sources that are right among themselves only are lifted or
lowered as a whole. What no reading joins to the bench stays without a height. Source of the method: parametric
least squares; any text on the adjustment of observations.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from leadsman.core.design import Design
from leadsman.core.survey.sight import Observed, observed

SITE = ""  # the site's own datum, as a node beside the places
KNOWN = "known heights"  # all of them together, as one node
ALIKE = 0.98  # of the most: two readings that are as much out as each other; ours, no source
UNCHECKED = 1e-6  # of a reading's weight: what less than this of is checked by others hangs on it alone
OF_SOURCE = "datum of "  # tells nodes of datums from places: an id has no space


Check = tuple[float | None, float | None]
Checked = tuple[Observed, Check]


@dataclass(frozen=True, kw_only=True)
class Way:
    """What one reading alone says of a place [m], how far that is from the height by all together, its weight there.

    `weight` is its share among the readings of this place, 0 to 1. `off_m` is how far it is from what all other
    readings of the network say without it, and `out` that over the error of both together: the largest is most likely
    the one that is wrong, whatever is claimed of it. None where no other reading checks it.
    """

    observed: Observed
    height_m: float
    apart_m: float
    weight: float
    off_m: float | None
    out: float | None


@dataclass(frozen=True, kw_only=True)
class PlaceHeight:
    """A place's height by all ways together [m], the half-width of its error [m], and each way by itself.

    `alone_error_m` is that half-width as the errors of the ways alone would have it, were they right.
    """

    place_id: str
    height_m: float
    error_m: float
    alone_error_m: float
    ways: list[Way]

    @property
    def disagree(self) -> bool:
        """Whether some way is farther from all together than its error and theirs explain."""
        return any(abs(way.apart_m) > self.explained_m(way) for way in self.ways)

    @property
    def suspects(self) -> list[Way]:
        """The way that is most out against all the others, with those that are as much out: then none is told apart."""
        checked = [way for way in self.ways if way.out is not None]
        most = max((way.out or 0.0 for way in checked), default=0.0)
        return [way for way in checked if (way.out or 0.0) >= ALIKE * most]

    def explained_m(self, way: Way) -> float:
        """Return how far a way may be from all together by the errors that are said of them [m]."""
        return way.observed.error_m + self.alone_error_m


@dataclass(frozen=True, kw_only=True)
class SourceDatum:
    """How much a source's heights are raised to be on the site's datum [m], by how many places, its error [m]."""

    source: str
    raised_m: float
    error_m: float
    places: int


@dataclass(frozen=True, kw_only=True)
class Heights:
    """All heights that the readings give; `unjoined` are the places that they do not join to the bench."""

    bench: str | None
    places: list[PlaceHeight]
    sources: list[SourceDatum]
    unjoined: list[str]


def bench_of(design: Design, found: Sequence[Observed]) -> str | None:
    """Return the place whose height is taken as known: as stated, else where the first reading begins."""
    if design.bench is not None:
        return design.bench
    return next((rise.from_id for rise in found if rise.from_id is not None), None)


def heights(design: Design) -> Heights:
    """Return every place's height by all the readings of a design, above the bench's height as the design has it."""
    found = observed(design)
    bench = bench_of(design, found)
    ground = {place.id: place.ground_m for place in design.places}
    known = {SITE: 0.0} | ({bench: ground[bench]} if bench is not None else {})
    walk = _walk(found, known)
    used = [rise for rise in found if walk.reaches(rise.to_id) and walk.reaches(_base(rise))]
    unknown = sorted({node for rise in used for node in (_base(rise), rise.to_id)} - set(known))
    column = {node: number for number, node in enumerate(unknown)}
    level = known | dict(zip(unknown, [0.0] * len(unknown), strict=True))
    error, wider = dict.fromkeys(level, 0.0), 1.0
    checks: list[Check] = [(None, None)] * len(used)
    if unknown:
        solved, errors, wider, checks = _least_squares(used, known, column)
        level |= dict(zip(unknown, solved.tolist(), strict=True))
        error |= dict(zip(unknown, errors.tolist(), strict=True))
    own = _independent(list(zip(used, checks, strict=True)), walk)
    places = [_place(node, level, error[node], wider, own.get(node, [])) for node in ground if node in column]
    sources = [
        SourceDatum(
            source=node.removeprefix(OF_SOURCE),
            raised_m=level[node],
            error_m=error[node] * wider,
            places=len({s.to_id for s in used if _base(s) == node}),
        )
        for node in unknown
        if node.startswith(OF_SOURCE)
    ]
    touched = {node for rise in found for node in (rise.from_id, rise.to_id) if node is not None}
    return Heights(
        bench=bench, places=places, sources=sources, unjoined=sorted(node for node in touched if not walk.reaches(node))
    )


def _base(rise: Observed) -> str:
    """Return what a rise is counted from: a place, the site's datum, or the datum of a source."""
    if rise.from_id is not None:
        return rise.from_id
    return SITE if rise.source is None else OF_SOURCE + rise.source


@dataclass(frozen=True, kw_only=True)
class _Walk:
    """A walk over all readings from the known heights: the order in which nodes are reached, and from which.

    `low` is the earliest that the branch under a node leads back to.
    """

    known: dict[str, float]
    order: dict[str, int]
    low: dict[str, int]
    upper: dict[str, str]

    def reaches(self, node: str) -> bool:
        """Whether the readings join a place or datum to what is known."""
        return self.node(node) in self.order

    def node(self, node: str) -> str:
        """Return a place or datum as a node: all that is known is one."""
        return KNOWN if node in self.known else node

    def hangs(self, node: str, place: str) -> bool:
        """Whether a node is reached only through a place: it lies below it, on a branch that leads back no higher."""
        node = self.node(node)
        if place not in self.order or self.order[node] < self.order[place]:
            return False
        while self.upper[node] not in (place, KNOWN):
            node = self.upper[node]
        return self.upper[node] == place and self.low[node] >= self.order[place]


def _walk(found: Sequence[Observed], known: dict[str, float]) -> _Walk:
    """Return the walk, depth first. Source: articulation points by low links, Hopcroft and Tarjan 1973."""
    walk = _Walk(known=known, order={KNOWN: 0}, low={KNOWN: 0}, upper={KNOWN: KNOWN})
    beside: dict[str, list[str]] = {}
    for rise in found:
        ends = [walk.node(end) for end in (_base(rise), rise.to_id)]
        beside.setdefault(ends[0], []).append(ends[1])
        beside.setdefault(ends[1], []).append(ends[0])
    ahead = [(KNOWN, iter(beside.get(KNOWN, ())))]
    while ahead:
        node, rest = ahead[-1]
        following = next(rest, None)
        if following is None:
            ahead.pop()
            walk.low[walk.upper[node]] = min(walk.low[walk.upper[node]], walk.low[node])
        elif following not in walk.order:
            walk.order[following] = walk.low[following] = len(walk.order)
            walk.upper[following] = node
            ahead.append((following, iter(beside[following])))
        else:
            walk.low[node] = min(walk.low[node], walk.order[following])
    return walk


def _independent(used: Sequence[Checked], walk: _Walk) -> dict[str, list[Checked]]:
    """Return for each place its readings from what has a height without it: the others say nothing of it."""
    found: dict[str, list[Checked]] = {}
    for rise, check in used:
        for place, other in ((rise.to_id, _base(rise)), (rise.from_id, rise.to_id)):
            if place is not None and not walk.hangs(other, place):
                found.setdefault(place, []).append((rise, check))
    return found


def _least_squares(
    used: Sequence[Observed], known: dict[str, float], column: dict[str, int]
) -> tuple[np.ndarray, np.ndarray, float, list[Check]]:
    """Return heights, half-widths of their errors [m], how much wider disagreement makes these, and each one's check.

    A reading's check is how far it is from what the others say without it [m], and that over the error of both.
    Source: the residual over its own redundancy, Baarda 1968; any text on the adjustment of observations.
    """
    rows, right = np.zeros((len(used), len(column))), np.zeros(len(used))
    for number, rise in enumerate(used):
        right[number] = rise.rise_m
        for node, sign in ((rise.to_id, 1.0), (_base(rise), -1.0)):
            if node in column:
                rows[number, column[node]] += sign
            else:
                right[number] -= sign * known[node]
    weight = 1.0 / np.array([rise.error_m for rise in used])
    normal = (rows * weight[:, None]).T @ (rows * weight[:, None])
    solved = np.linalg.solve(normal, (rows * weight[:, None]).T @ (right * weight))
    apart = (rows @ solved - right) * weight
    spare = len(used) - len(column)
    wider = max(1.0, float(apart @ apart) / spare) ** 0.5 if spare > 0 else 1.0
    spread = np.linalg.inv(normal)
    own_share = np.einsum("ij,jk,ik->i", rows, spread, rows) * weight**2
    checks: list[Check] = []
    for residual, redundancy, rise in zip(apart.tolist(), (1.0 - own_share).tolist(), used, strict=True):
        if redundancy < UNCHECKED:
            checks.append((None, None))
        else:  # residuals count from the height to the reading
            checks.append((-residual * rise.error_m / redundancy, abs(residual) / redundancy**0.5))
    return solved, np.sqrt(np.diag(spread)), wider, checks


def _place(place_id: str, level: dict[str, float], error_m: float, wider: float, own: Sequence[Checked]) -> PlaceHeight:
    total = sum(rise.error_m**-2 for rise, _ in own)
    ways = []
    for rise, (off_m, out) in own:
        towards = rise.to_id == place_id
        alone = level[_base(rise)] + rise.rise_m if towards else level[rise.to_id] - rise.rise_m
        ways.append(
            Way(
                observed=rise,
                height_m=alone,
                apart_m=alone - level[place_id],
                weight=rise.error_m**-2 / total,
                off_m=off_m if towards or off_m is None else -off_m,
                out=out,
            )
        )
    return PlaceHeight(
        place_id=place_id, height_m=level[place_id], error_m=error_m * wider, alone_error_m=error_m, ways=ways
    )
