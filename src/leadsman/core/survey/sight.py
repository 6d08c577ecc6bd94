"""What every way of measuring says of heights: rises with an honest error, and what they are counted from."""

import math
from dataclasses import dataclass

from leadsman.core.design import (
    BarometerSight,
    ClinometerSight,
    Design,
    HeightSight,
    HoseLevelSight,
    PaceCount,
    SightBase,
)
from leadsman.core.survey.field_height import MeasuredSlope, barometric_rise_m, clinometer_sight, without_drift_m
from leadsman.core.survey.level_book import reduced_books
from leadsman.core.survey.paces import pace_of

HOSE_EACH_M = 0.01  # the two menisci of one set-up; typical, our own
ANGLE_DEG = 1.0  # a hand-held clinometer; typical, from memory
BAROMETER_M = 1.0  # what is left with the drift out; typical, from memory
BOOK_LEAST_M = 0.01  # a closed book at best; our own
BOOK_OPEN_M = 0.05  # a book that does not come back, where nothing tells; our own

PLAN_M = 1.0  # a height of the plan of which nobody said how good it is; our own

WAYS = {
    "book": "level and staff", "hose_level": "hose level", "clinometer": "clinometer", "barometer": "barometer",
    "satellite": "satellite", "contour": "contour map", "grid": "height grid",
    "plan": "as in the plan",
}  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class Observed:
    """A place measured over another, or over a datum where `from_id` is None.

    That datum is the site's own where `source` is None, else the one that all heights of a source share.
    `error_m` is the half-width of the rise's error [m].
    """

    part_id: str
    way: str
    from_id: str | None
    to_id: str
    rise_m: float
    error_m: float
    source: str | None = None


def observed(design: Design) -> list[Observed]:
    """Return all that the books and sights of a design say of heights, in their order."""
    found = _of_books(design) + [observed for sight in design.sights for observed in observed_by(sight, design.pace)]
    return found + _of_plan(design, found)


def observed_by(sight: SightBase, pace: PaceCount | None) -> list[Observed]:
    """Return what one sight says of heights: nothing where it is a check only, or not all of it is read yet."""
    if not sight.is_read:
        return []
    match sight:
        case HoseLevelSight():
            rise = sum((setup.from_m or 0.0) - (setup.to_m or 0.0) for setup in sight.setups)
            error = (sight.error_each_m or HOSE_EACH_M) * math.sqrt(len(sight.setups))
            return [
                Observed(
                    part_id=sight.id, way="hose_level", from_id=sight.from_, to_id=sight.to, rise_m=rise, error_m=error
                )
            ]
        case ClinometerSight():
            along = clinometer_rise(sight, pace)
            error = max(along.rise_error_m, 1e-3)
            return [
                Observed(
                    part_id=sight.id,
                    way="clinometer",
                    from_id=sight.from_,
                    to_id=sight.to,
                    rise_m=along.rise_m,
                    error_m=error,
                )
            ]
        case BarometerSight():
            heights = barometer_heights_m(sight)
            first = sight.readings[0].place
            error = (sight.error_m or BAROMETER_M) * math.sqrt(2.0)
            return [
                Observed(
                    part_id=sight.id,
                    way="barometer",
                    from_id=first,
                    to_id=reading.place,
                    rise_m=height - heights[0],
                    error_m=error,
                )
                for reading, height in zip(sight.readings, heights, strict=True)
                if reading.place != first
            ]
        case HeightSight():
            source = None if sight.datum == "site" else sight.source
            return [
                Observed(
                    part_id=sight.id,
                    way=sight.kind,
                    from_id=None,
                    to_id=sight.place,
                    rise_m=sight.height_m or 0.0,
                    error_m=sight.error_m,
                    source=source,
                )
            ]
    return []


def clinometer_rise(sight: ClinometerSight, pace: PaceCount | None) -> MeasuredSlope:
    """Return plan length and rise over all legs; errors of the angle and of the pace are the same in each leg."""
    own = pace_of(pace)
    plan = rise = by_angle = by_length = 0.0
    for leg in sight.legs:
        along = leg.slope_m if leg.slope_m is not None else (leg.paces or 0.0) * own.length_m
        share = own.error_share if leg.slope_m is None else 0.0
        told = clinometer_sight(along, leg.angle_deg or 0.0, sight.angle_error_deg or ANGLE_DEG)
        plan, rise = plan + told.plan_m, rise + told.rise_m
        by_angle, by_length = by_angle + told.rise_error_m, by_length + abs(told.rise_m) * share
    return MeasuredSlope(plan_m=plan, rise_m=rise, rise_error_m=math.hypot(by_angle, by_length))


def barometer_heights_m(sight: BarometerSight) -> list[float]:
    """Return the heights of a barometer's walk over its start [m], the drift taken out by coming back."""
    first = sight.readings[0]
    heights = [
        barometric_rise_m(first.pressure_hpa, reading.pressure_hpa, sight.air_c)
        if first.pressure_hpa is not None and reading.pressure_hpa is not None
        else (reading.height_m or 0.0) - (first.height_m or 0.0)
        for reading in sight.readings
    ]
    return without_drift_m([reading.minute for reading in sight.readings], heights)


def _of_plan(design: Design, found: list[Observed]) -> list[Observed]:
    """Return the plan's own heights of places that sources of heights tell of and nothing else measures.

    A height that was itself taken from such a source does not count again.
    """
    by_source = {observed.to_id for observed in found if observed.from_id is None}
    by_sight = {
        place for observed in found if observed.from_id is not None for place in (observed.from_id, observed.to_id)
    }
    sources = {sight.source for sight in design.sights if isinstance(sight, HeightSight)}
    told = sources | {WAYS[way] for way in ("satellite", "contour", "grid")}
    return [
        Observed(
            part_id=place.id,
            way="plan",
            from_id=None,
            to_id=place.id,
            rise_m=place.ground_m,
            error_m=place.height_error_m or PLAN_M,
        )
        for place in design.places
        if place.id in by_source - by_sight and not set((place.height_from or "").split(", ")) & told
    ]


def _of_books(design: Design) -> list[Observed]:
    found = []
    for book, reduced in reduced_books(design):
        first = book.readings[0].place if book.readings else None
        missed = reduced.misclosure_m
        error = BOOK_OPEN_M if missed is None else max(BOOK_LEAST_M, abs(missed))
        for point in reduced.points[1:]:
            place = point.reading.place
            if first is not None and place is not None and place != first:
                rise = point.adjusted_m - reduced.points[0].adjusted_m
                found.append(
                    Observed(part_id=book.id, way="book", from_id=first, to_id=place, rise_m=rise, error_m=error)
                )
    return found
