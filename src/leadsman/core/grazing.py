"""The grazing calendar: where each herd drinks on a day, and what that asks of each outlet over the season."""

from dataclasses import dataclass
from datetime import date, timedelta
from math import floor

from leadsman.core.design import Design, Herd, Rotation

MOST_DAYS = 400
WHOLE_DAY = 1.0 - 1e-9


def outlets_on(design: Design, herd: Herd, day: str | None) -> list[str]:
    """Return the outlets at which a herd drinks on a day, in the order it comes to them.

    The rotation that began last counts; without a day or a rotation on it, the herd's own outlet.
    """
    rotation = rotation_on(design, herd, day)
    if rotation is None or day is None:
        return [herd.outlet]
    on = date.fromisoformat(day)
    begun = (on - date.fromisoformat(rotation.from_)).days
    first, last = (floor((begun + share) / rotation.days_each) for share in (0.0, WHOLE_DAY))
    stops = [rotation.outlets[number % len(rotation.outlets)] for number in range(first, last + 1)]
    return list(dict.fromkeys(stops))


def rotation_on(design: Design, herd: Herd, day: str | None) -> Rotation | None:
    """Return the rotation that a herd is on: of those that cover the day, the one that began last."""
    on = date.fromisoformat(day) if day is not None else None
    current = [one for one in design.calendar if one.herd == herd.id and on is not None and _covers(one, on)]
    return max(current, key=lambda one: one.from_) if current else None


def resting_outlets(design: Design, day: str | None) -> set[str]:
    """Return the outlets that the calendar names and at which no herd drinks on a day: they do not draw then."""
    if day is None or not design.calendar:
        return set()
    named = {outlet for rotation in design.calendar for outlet in rotation.outlets}
    named |= {herd.outlet for herd in design.herds if any(one.herd == herd.id for one in design.calendar)}
    used = {outlet for herd in design.herds if herd.head_on(day) > 0 for outlet in outlets_on(design, herd, day)}
    return named - used


@dataclass(frozen=True)
class Season:
    """The calendar day by day: for each herd where it drinks, and for each outlet what is asked of it [L/d]."""

    days: list[str]
    stops: dict[str, list[list[str]]]
    asked_lpd: dict[str, list[float]]


def season(design: Design, per_head_lpd: dict[str, float]) -> Season:
    """Return the season that the calendar covers, at most 400 days.

    Args:
        per_head_lpd: what one animal of each herd drinks [L/d], by the herd's id.
    """
    if not design.calendar:
        return Season([], {}, {})
    first = min(date.fromisoformat(one.from_) for one in design.calendar)
    last = max(_last(one) for one in design.calendar)
    count = min((last - first).days + 1, MOST_DAYS)
    days = [(first + timedelta(days=number)).isoformat() for number in range(count)]
    stops = {herd.id: [outlets_on(design, herd, day) for day in days] for herd in design.herds}
    asked = {outlet.id: [0.0] * count for outlet in design.outlets}
    for herd in design.herds:
        for number, day in enumerate(days):
            here = stops[herd.id][number]
            for outlet in here:
                asked[outlet][number] += herd.head_on(day) * per_head_lpd[herd.id] / len(here)
    return Season(days, stops, {outlet: litres for outlet, litres in asked.items() if any(litres)})


def _covers(rotation: Rotation, on: date) -> bool:
    return date.fromisoformat(rotation.from_) <= on <= _last(rotation)


def _last(rotation: Rotation) -> date:
    if rotation.to is not None:
        return date.fromisoformat(rotation.to)
    return date(date.fromisoformat(rotation.from_).year, 12, 31)
