"""JSON of where a trough or a tank could stand: positions best first, each with a patch that puts it there."""

from collections.abc import Sequence
from typing import Any, Literal

from jsonpatch import make_patch

from leadsman.core.base.units import lpm_from_m3s
from leadsman.core.design import Design, label, labels
from leadsman.core.design.file import write_design
from leadsman.core.report.base import Report
from leadsman.core.siting.outlet import as_it_is, spot_of, walk_limit_m
from leadsman.core.siting.position import Position
from leadsman.core.siting.tank import StandNeeded


class PositionReport(Report):
    """A position [m on the plan]; costs are more than now, null where a price is not known.

    `short` are outlets that get too little there and do not now; `outside` paddocks at which it stands now and would
    not there. `patch` turns the report's document into the plan with the part there.
    """

    east_m: float
    north_m: float
    ground_m: float
    off_m: float
    more_m: float
    cost: float | None
    flow_lpm: float | None
    short: list[str]
    walk_m: float | None
    outside: list[str]
    stand_m: float | None
    works: bool
    patch: list[dict[str, Any]]


class StandNeededReport(Report):
    """The least stand [m] for a share of what is wanted of all outlets; null where more than the highest tried."""

    share: float
    stand_m: float | None


class SitingReport(Report):
    """Where a part could stand, best first; `now` is where it does, null for a tank.

    `walk_limit_m` is how far its animals are to walk at most; `left_out` how many spots have no known ground.
    `stands` is for a tank where it stands.
    """

    part: str
    name: str
    kind: Literal["outlet", "vessel"]
    currency: str
    wanted_lpm: float | None
    walk_limit_m: float | None
    at: list[float]
    now: PositionReport | None
    positions: list[PositionReport]
    left_out: int
    stands: list[StandNeededReport]
    document: dict[str, Any]


def outlet_siting_report(
    design: Design, outlet_id: str, positions: Sequence[Position], left_out: int = 0
) -> SitingReport:
    """Return where a trough could stand."""
    names, document = _names(design), write_design(design)
    limit = walk_limit_m(design, outlet_id)
    east_m, north_m = spot_of(design, outlet_id)
    return SitingReport(
        part=outlet_id, name=names[outlet_id], kind="outlet", currency=design.site.currency,
        wanted_lpm=_wanted_lpm(design, outlet_id), walk_limit_m=limit, at=[east_m, north_m],
        now=_position(as_it_is(design, outlet_id), names, document),
        positions=[_position(one, names, document) for one in positions], left_out=left_out, stands=[],
        document=document,
    )  # fmt: skip


def tank_siting_report(
    design: Design,
    vessel_id: str,
    positions: Sequence[Position],
    stands: Sequence[StandNeeded],
    left_out: int = 0,
) -> SitingReport:
    """Return where a tank could stand."""
    names, document = _names(design), write_design(design)
    vessel = next(vessel for vessel in design.vessels if vessel.id == vessel_id)
    place = next(place for place in design.places if place.id == vessel.place)
    return SitingReport(
        part=vessel_id, name=label(vessel), kind="vessel", currency=design.site.currency, wanted_lpm=None,
        walk_limit_m=None, at=[place.east_m, place.north_m], now=None,
        positions=[_position(one, names, document) for one in positions], left_out=left_out,
        stands=[StandNeededReport(share=one.share, stand_m=_rounded(one.stand_m)) for one in stands],
        document=document,
    )  # fmt: skip


def _names(design: Design) -> dict[str, str]:
    return labels(design) | {paddock.id: label(paddock) for paddock in design.paddocks}


def _wanted_lpm(design: Design, outlet_id: str) -> float | None:
    return max((one.flow_lpm for one in design.requirements if one.outlet == outlet_id and one.flow_lpm), default=None)


def _position(one: Position, names: dict[str, str], document: dict[str, Any]) -> PositionReport:
    return PositionReport(
        east_m=round(one.spot[0], 2), north_m=round(one.spot[1], 2), ground_m=round(one.ground_m, 2),
        off_m=round(one.off_m, 1), more_m=round(one.more_m, 2), cost=_rounded(one.cost),
        flow_lpm=None if one.flow_m3s is None else round(lpm_from_m3s(one.flow_m3s), 3),
        short=[names[outlet] for outlet in one.short], walk_m=_rounded(one.walk_m),
        outside=[names[paddock] for paddock in one.outside], stand_m=_rounded(one.stand_m), works=one.works,
        patch=make_patch(document, write_design(one.design)).patch,
    )  # fmt: skip


def _rounded(value: float | None) -> float | None:
    return None if value is None else round(value, 2)
