"""The grazing calendar: where each herd drinks on a day, and what that asks of each outlet over the season."""

from dataclasses import dataclass
from datetime import date, timedelta
from itertools import pairwise
from math import dist, floor

from leadsman.core.catalogue.livestock import WalkingLimit, animals, walking_limits
from leadsman.core.design import Design, FloatValveOutlet, Herd, Paddock, Rotation

MOST_DAYS = 400
WHOLE_DAY = 1.0 - 1e-9
SIX_MONTHS = 6
GROWING_MONTHS = range(4, 11)  # April to October, north of the equator; ours, no source
GENERAL_KIND = "cattle"  # of whose class nothing is known


def walking_limit(animal: str) -> WalkingLimit:
    """Return how far a class of animal is to walk to water: its own row, else that of its species, else of cattle.

    Source: as each row names.
    >>> walking_limit("growing cattle").growing_m, walking_limit("ewe dry").growing_m
    (244.0, 400.0)
    """
    limits, known = walking_limits(), animals().get(animal)
    return limits.get(animal) or limits.get(known.species if known else "") or limits[GENERAL_KIND]


def grass_grows(day: str, *, southern: bool = False) -> bool:
    """Return whether grass grows on a day, as 2031-06-01: in the other half of the year south of the equator.

    Source: April to October in the north; ours, no source.
    >>> grass_grows("2031-06-01"), grass_grows("2031-06-01", southern=True)
    (True, False)
    """
    month = (int(day[5:7]) + (SIX_MONTHS if southern else 0) - 1) % 12 + 1
    return month in GROWING_MONTHS


def walking_limit_m(animal: str, day: str, *, southern: bool = False) -> float:
    """Return how far from water a class of animal is kept at most [m] on a day: less while the grass grows.

    Args:
        day: as 2031-06-01.
        southern: the farm lies south of the equator.
    Source: as each row of the table names.

    >>> walking_limit_m("bull", "2031-06-01"), walking_limit_m("bull", "2031-06-01", southern=True)
    (244.0, 1609.0)
    """
    limit = walking_limit(animal)
    return limit.growing_m if grass_grows(day, southern=southern) else limit.dormant_m


@dataclass(frozen=True, kw_only=True)
class Stop:
    """Where a herd is: the outlet at which it drinks, the paddock's id, and its longest walk to water [m].

    The last two are None where they are unknown.
    """

    outlet: str
    paddock: str | None = None
    farthest_m: float | None = None


def stops_on(design: Design, herd: Herd, day: str | None) -> list[Stop]:
    """Return where a herd is on a day, in the order it comes there.

    The rotation that began last counts; without a day or a rotation on it, the herd's own outlet.
    """
    rotation = rotation_on(design, herd, day)
    if rotation is None or day is None:
        return [Stop(outlet=herd.outlet)]
    stops = stops_of(design, rotation)
    first, last = _numbers(rotation, day)
    return list(dict.fromkeys(stops[number % len(stops)] for number in range(first, last + 1)))


def outlets_on(design: Design, herd: Herd, day: str | None) -> list[str]:
    """Return the outlets at which a herd drinks on a day, in the order it comes to them."""
    return outlets_of(stops_on(design, herd, day))


def outlets_of(stops: list[Stop]) -> list[str]:
    """Return the outlets of stops, each once, in their order."""
    return list(dict.fromkeys(stop.outlet for stop in stops))


def moves_on(design: Design, herd: Herd, day: str | None) -> list[tuple[Stop, Stop]]:
    """Return the moves that a herd makes on a day, from where to where; that of the morning counts to the day."""
    rotation = rotation_on(design, herd, day)
    if rotation is None or day is None:
        return []
    stops = stops_of(design, rotation)
    first, last = _numbers(rotation, day)
    if day > rotation.from_:
        first = _numbers(rotation, (date.fromisoformat(day) - timedelta(days=1)).isoformat())[1]
    walked = [stops[number % len(stops)] for number in range(first, last + 1)]
    return [(before, after) for before, after in pairwise(walked) if before != after]


def rotation_on(design: Design, herd: Herd, day: str | None) -> Rotation | None:
    """Return the rotation that a herd is on: of those that cover the day, the one that began last."""
    on = date.fromisoformat(day) if day is not None else None
    current = [
        rotation
        for rotation in design.calendar
        if rotation.herd == herd.id and on is not None and _covers(rotation, on)
    ]
    return max(current, key=lambda rotation: rotation.from_) if current else None


def resting_outlets(design: Design, day: str | None) -> set[str]:
    """Return the outlets that the calendar names and at which no herd drinks on a day: they do not draw then."""
    if day is None or not design.calendar:
        return set()
    named = {stop.outlet for rotation in design.calendar for stop in stops_of(design, rotation)}
    named |= {herd.outlet for herd in design.herds if any(moves.herd == herd.id for moves in design.calendar)}
    used = {outlet for herd in design.herds if herd.head_on(day) > 0 for outlet in outlets_on(design, herd, day)}
    return named - used


def set_for(design: Design, day: str | None) -> Design:
    """Return the design with every float set to the level that it closes at on a day."""
    if not any(isinstance(outlet, FloatValveOutlet) and outlet.valve.steps for outlet in design.outlets):
        return design
    outlets = [
        outlet.model_copy(update={"valve": outlet.valve.on(day)}) if isinstance(outlet, FloatValveOutlet) else outlet
        for outlet in design.outlets
    ]
    return design.model_copy(update={"outlets": outlets})


@dataclass(frozen=True, kw_only=True)
class Season:
    """The calendar day by day: for each herd where it drinks and grazes, and for each outlet what is asked [L/d]."""

    days: list[str]
    stops: dict[str, list[list[str]]]
    paddocks: dict[str, list[list[str]]]
    asked_lpd: dict[str, list[float]]


def season(design: Design, per_head_lpd: dict[str, float]) -> Season:
    """Return the season that the calendar covers, at most 400 days.

    Args:
        per_head_lpd: what one animal of each herd drinks [L/d], by the herd's id.
    """
    if not design.calendar:
        return Season(days=[], stops={}, paddocks={}, asked_lpd={})
    first = min(date.fromisoformat(rotation.from_) for rotation in design.calendar)
    last = max(_last(rotation) for rotation in design.calendar)
    count = min((last - first).days + 1, MOST_DAYS)
    days = [(first + timedelta(days=number)).isoformat() for number in range(count)]
    places = {herd.id: [stops_on(design, herd, day) for day in days] for herd in design.herds}
    stops = {herd: [outlets_of(day) for day in of] for herd, of in places.items()}
    paddocks = {herd: [[stop.paddock for stop in day if stop.paddock] for day in of] for herd, of in places.items()}
    asked = {outlet.id: [0.0] * count for outlet in design.outlets}
    for herd in design.herds:
        for number, day in enumerate(days):
            here = stops[herd.id][number]
            for outlet in here:
                asked[outlet][number] += herd.head_on(day) * per_head_lpd[herd.id] / len(here)
    return Season(
        days=days,
        stops=stops,
        paddocks=paddocks,
        asked_lpd={outlet: litres for outlet, litres in asked.items() if any(litres)},
    )


def stops_of(design: Design, rotation: Rotation) -> list[Stop]:
    """Return where a rotation takes its herd, in its order."""
    if rotation.outlets:
        return [Stop(outlet=outlet, paddock=None, farthest_m=rotation.farthest_m) for outlet in rotation.outlets]
    paddocks = {paddock.id: paddock for paddock in design.paddocks}
    own = next(herd.outlet for herd in design.herds if herd.id == rotation.herd)
    return [_stop(design, paddocks[name], rotation, own) for name in rotation.paddocks]


def _stop(design: Design, paddock: Paddock, rotation: Rotation, own_outlet: str) -> Stop:
    known = [paddock.farthest_m, rotation.farthest_m, farthest_of_fence_m(design, paddock)]
    return Stop(
        outlet=paddock.outlet or own_outlet,
        paddock=paddock.id,
        farthest_m=next((metres for metres in known if metres is not None), None),
    )


def farthest_of_fence_m(design: Design, paddock: Paddock) -> float | None:
    """Return the straight way [m] from a paddock's water to the farthest corner of its fence; None where not drawn.

    Source: Pythagoras.
    >>> from leadsman.core.design import OpenEndOutlet, Place
    >>> tap = OpenEndOutlet.model_validate({"id": "o", "kind": "open_end", "place": "p", "bore_mm": 20.0})
    >>> place = Place(id="p", east_m=0.0, north_m=0.0, ground_m=100.0)
    >>> fenced = Paddock.model_validate({"id": "a", "outlet": "o", "corners": [[30.0, 40.0], [0.0, 10.0], [5.0, 0.0]]})
    >>> farthest_of_fence_m(Design.model_construct(outlets=[tap], places=[place]), fenced)
    50.0
    """
    outlet = next((candidate for candidate in design.outlets if candidate.id == paddock.outlet), None)
    place = next((candidate for candidate in design.places if outlet and candidate.id == outlet.place), None)
    if place is None or not paddock.corners:
        return None
    return max(dist((place.east_m, place.north_m), corner) for corner in paddock.corners)


def _numbers(rotation: Rotation, day: str) -> tuple[int, int]:
    """Return which stops of a rotation, counted from its first, begin and end a day."""
    begun = (date.fromisoformat(day) - date.fromisoformat(rotation.from_)).days
    first, last = (floor((begun + share) / rotation.days_each) for share in (0.0, WHOLE_DAY))
    return first, last


def _covers(rotation: Rotation, on: date) -> bool:
    return date.fromisoformat(rotation.from_) <= on <= _last(rotation)


def _last(rotation: Rotation) -> date:
    if rotation.to is not None:
        return date.fromisoformat(rotation.to)
    return date(date.fromisoformat(rotation.from_).year, 12, 31)
