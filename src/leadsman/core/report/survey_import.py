"""The preview of an import, as JSON."""

from leadsman.core.design import Anchor, Design
from leadsman.core.report.base import Report, Words
from leadsman.core.survey.line_profile import LineProfile
from leadsman.core.survey.survey_import import Becomes, Question


class BecomesReport(Report):
    """What becomes of one thing of the file: a part's id, "new" or "skip"; `points` of a walk as it was read."""

    number: int
    name: str
    of: str
    why: str
    away_m: float | None
    height_m: float | None
    points: int | None


class ProfileReport(Report):
    """A line's new points; `before` those it had, `shown` the heights before thinning, all [along the pipe, ground]."""

    line: str
    before: list[tuple[float, float]]
    shown: list[tuple[float, float]]
    points: list[tuple[float, float]]
    raised_m: tuple[float, float]
    tilt_m: float
    error_m: float
    noise_m: float
    slope_m: float
    pipe_m: float
    extremes: int


class GridReport(Report):
    """A height grid: its cells, their width in its own units, and how many of the plan's places it covers."""

    columns: int
    rows: int
    step: float
    covers: int
    places: int


class ImportReport(Report):
    """What a file would make of a design. `document` is null while there are questions.

    `anchor` is where the plan comes to lie on the globe, where the file decides it; `fit_m` how far common places
    are off then. `tie_points` name the points of the file of which one can be said to be a place of the plan, where
    that decides where the plan lies; `tracks` are the walks on the plan, east and north [m], once that is known.
    """

    format: str
    system: str | None
    source: str
    error_m: float
    notes: list[str]
    questions: list[Question]
    spots: list[BecomesReport]
    walks: list[BecomesReport]
    areas: list[BecomesReport]
    profiles: list[ProfileReport]
    grid: GridReport | None
    changes: list[Words]
    anchor: Anchor | None
    fit_m: float | None
    document: Design | None
    tie_points: list[str]
    tracks: list[list[tuple[float, float]]]


class ProfileAnswer(Report):
    """A line's profile filled from outside, its source, and the document as it would be."""

    profile: ProfileReport
    source: str
    document: Design


def becomes_report(becomes: Becomes, points: int | None = None) -> BecomesReport:
    """Return what becomes of one thing of a file."""
    return BecomesReport(
        number=becomes.number,
        name=becomes.name,
        of=becomes.of,
        why=becomes.why,
        away_m=becomes.away_m,
        height_m=becomes.height_m,
        points=points,
    )


def profile_report(profile: LineProfile) -> ProfileReport:
    """Return a line's new profile."""
    return ProfileReport(
        line=profile.line.id,
        before=[(at, ground) for at, ground in profile.line.points],
        shown=profile.shown,
        points=profile.points,
        raised_m=profile.raised_m,
        tilt_m=profile.tilt_m,
        error_m=profile.error_m,
        noise_m=profile.noise_m,
        slope_m=profile.slope_m,
        pipe_m=profile.line.pipe_length_m,
        extremes=profile.extremes,
    )
