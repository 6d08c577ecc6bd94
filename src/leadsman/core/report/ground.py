"""Heights and lengths by every way, as JSON: books reduced, sights, places by all ways together, lengths of lines."""

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.design import ClinometerSight, Design, LevelBook
from leadsman.core.report.base import Report
from leadsman.core.survey.height_network import Heights, PlaceHeight, Way
from leadsman.core.survey.level_book import ReducedBook, graduation_slip, jump_between, reduced_books, suspects
from leadsman.core.survey.line_length import LineLength
from leadsman.core.survey.paces import pace_of
from leadsman.core.survey.sight import WAYS, clinometer_rise, observed_by


class BookPointReport(Report):
    """A point of a book: rise over the one before, level, and the level with its share of the misclosure out [m]."""

    rise_m: float | None
    collimation_m: float
    level_m: float
    adjusted_m: float


class SuspectReport(Report):
    """A reading that two swapped digits would explain: its number from 0, which sight, and what may have been meant."""

    number: int
    sight: str
    meant_m: float


class BookReport(Report):
    """A book reduced; misclosure is null where it does not come back to where it began, allowed without a length.

    `jump` are the numbers of two readings between which the levels jump against heights known otherwise.
    """

    id: str
    points: list[BookPointReport]
    back_sum_m: float
    fore_sum_m: float
    sums_agree: bool
    misclosure_m: float | None
    allowed_m: float | None
    suspects: list[SuspectReport]
    slip_m: float | None
    jump: tuple[int, int] | None


class RiseReport(Report):
    """What a sight says: a place over another, over the site's datum, or over that of its source [m]."""

    from_place: str | None
    to_place: str
    rise_m: float
    error_m: float


class SightReport(Report):
    """A sight worked out: its rises, and the length on plan where the way gives one."""

    id: str
    way: str
    rises: list[RiseReport]
    plan_m: float | None


class WayReport(Report):
    """What one reading alone says of a place: height, half-width of its error, distance from all together [m]."""

    part: str
    way: str
    beside: str | None
    height_m: float
    error_m: float
    apart_m: float
    weight: float


class PlaceHeightReport(Report):
    """A place's height by all ways together, how far that is from the plan's [m], and each way by itself."""

    place: str
    height_m: float
    error_m: float
    over_plan_m: float
    disagree: bool
    way: str
    ways: list[WayReport]


class SourceReport(Report):
    """A source with a datum of its own: how much it was raised to the site's, by how many places, how good that is."""

    source: str
    raised_m: float
    error_m: float
    places: int


class CountedReport(Report):
    id: str
    kind: str
    slope_m: float
    error_m: float


class LineLengthReport(Report):
    """A line's pipe, the straight way between its ends, its length on plan, and what was counted along the ground."""

    line: str
    pipe_m: float
    straight_m: float
    plan_m: float
    too_short: bool
    counted: list[CountedReport]
    weighed_m: float | None
    error_m: float | None


class PaceReport(Report):
    length_m: float
    error_share: float
    is_counted: bool


class GroundReport(Report):
    """All that was measured of a site; `unjoined` are places that no reading joins to the bench."""

    bench: str | None
    books: list[BookReport]
    sights: list[SightReport]
    places: list[PlaceHeightReport]
    sources: list[SourceReport]
    unjoined: list[str]
    lengths: list[LineLengthReport]
    pace: PaceReport


def ground_report(analysis: Analysis) -> GroundReport:
    """Return heights and lengths of a design by all that was measured."""
    design, found = analysis.design, analysis.heights
    pace = pace_of(design.pace)
    return GroundReport(
        bench=found.bench,
        books=book_reports(design),
        sights=_sights(design),
        places=_places(design, found),
        sources=[
            SourceReport(source=source.source, raised_m=source.raised_m, error_m=source.error_m, places=source.places)
            for source in found.sources
        ],
        unjoined=found.unjoined,
        lengths=[_length(length) for length in analysis.line_lengths],
        pace=PaceReport(length_m=pace.length_m, error_share=pace.error_share, is_counted=pace.is_counted),
    )


def _sights(design: Design) -> list[SightReport]:
    listed = []
    for sight in design.sights:
        rises = [
            RiseReport(
                from_place=observed.from_id, to_place=observed.to_id, rise_m=observed.rise_m, error_m=observed.error_m
            )
            for observed in observed_by(sight, design.pace)
        ]
        plan = (
            clinometer_rise(sight, design.pace).plan_m if isinstance(sight, ClinometerSight) and sight.is_read else None
        )
        listed.append(SightReport(id=sight.id, way=sight.kind, rises=rises, plan_m=plan))
    return listed


def _places(design: Design, found: Heights) -> list[PlaceHeightReport]:
    ground = {place.id: place.ground_m for place in design.places}
    return [
        PlaceHeightReport(
            place=place.place_id,
            height_m=place.height_m,
            error_m=place.error_m,
            over_plan_m=place.height_m - ground[place.place_id],
            disagree=place.disagree,
            way=_ways_told(place),
            ways=[_way(place.place_id, way) for way in place.ways],
        )
        for place in found.places
    ]


def _way(place_id: str, way: Way) -> WayReport:
    seen = way.observed
    beside = seen.from_id if seen.to_id == place_id else seen.to_id
    return WayReport(
        part=seen.part_id, way=WAYS[seen.way], beside=beside, height_m=way.height_m, error_m=seen.error_m,
        apart_m=way.apart_m, weight=way.weight,
    )  # fmt: skip


def _ways_told(place: PlaceHeight) -> str:
    """Return the ways of a height in words, the weightiest first: "level and staff, clinometer"."""
    ranked = sorted(place.ways, key=lambda way: -way.weight)
    return ", ".join(dict.fromkeys(WAYS[way.observed.way] for way in ranked))[:60]


def _length(length: LineLength) -> LineLengthReport:
    return LineLengthReport(
        line=length.line.id,
        pipe_m=length.line.pipe_length_m,
        straight_m=length.straight_m,
        plan_m=length.plan_m,
        too_short=length.is_too_short,
        counted=[
            CountedReport(id=way.id, kind=way.kind, slope_m=told.slope_m, error_m=told.error_m)
            for way, told in length.ways
        ],
        weighed_m=length.weighed.slope_m if length.weighed else None,
        error_m=length.weighed.error_m if length.weighed else None,
    )


def book_reports(design: Design) -> list[BookReport]:
    """Return every level book of a design reduced, from the height of the place it begins at."""
    ground = {place.id: place.ground_m for place in design.places}
    return [_book(book, reduced, ground) for book, reduced in reduced_books(design)]


def _book(book: LevelBook, reduced: ReducedBook, ground_m: dict[str, float]) -> BookReport:
    missed = reduced.misclosure_m
    return BookReport(
        id=book.id,
        points=[
            BookPointReport(
                rise_m=point.rise_m,
                collimation_m=point.collimation_m,
                level_m=point.level_m,
                adjusted_m=point.adjusted_m,
            )
            for point in reduced.points
        ],
        back_sum_m=reduced.back_sum_m,
        fore_sum_m=reduced.fore_sum_m,
        sums_agree=reduced.sums_agree,
        misclosure_m=missed,
        allowed_m=reduced.allowed_m(book.length_km) if missed is not None and book.length_km else None,
        suspects=[
            SuspectReport(number=number, sight=sight, meant_m=meant)
            for number, sight, meant in (suspects(book.readings, missed) if missed else ())
        ],
        slip_m=graduation_slip(missed) if missed is not None else None,
        jump=jump_between(reduced, ground_m),
    )
