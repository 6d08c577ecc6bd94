"""A file of surveyed things put on the site's plane, and what it makes of a design: the preview that the page shows."""

from dataclasses import replace
from typing import Annotated

import numpy as np
from pydantic import BaseModel, ConfigDict, Field

from leadsman.core.base.fault import DesignFaults
from leadsman.core.design import Anchor, Design, label
from leadsman.core.design.file import read_design, write_design
from leadsman.core.design.layout import Layout
from leadsman.core.report.base import words
from leadsman.core.report.survey_import import GridReport, ImportReport, becomes_report, profile_report
from leadsman.core.survey.line_profile import profile_from_heights, stations, with_profiles
from leadsman.core.survey.new_lines import NEW_LINE_TO_TROUGH
from leadsman.core.survey.survey_file import LOCAL, WGS84, FilePoint, SurveyFile, Walk, checked, refuse
from leadsman.core.survey.survey_import import NEW, PHONE_M, SKIP, Choices, Datum, ImportPlan, Question, import_plan
from leadsman.formats.height_grid import HeightGrid
from leadsman.formats.projection import Plane, to_degrees
from leadsman.formats.survey_reader import read_survey

FINE_M, MIDDLING_M = 2.5, 15.0  # cells of laser scans, and of the better satellite models
GRID_ERRORS_M = (0.3, 1.5, 5.0)  # half-widths of fine, middling and coarse grids; typical, from memory
DEGREE_M = 111_000.0
MOST_SPOTS = 500
SERIES = "All points, in order"
TRACK_POINTS = 300  # of a track that is drawn in the preview


class ImportAsked(BaseModel):
    """A design, and what its user says of the file that goes with it; `position` ties a spot to a place."""

    model_config = ConfigDict(extra="forbid")

    document: Design
    name: Annotated[str, Field(min_length=1, max_length=120)]
    system: Annotated[str, Field(max_length=60)] | None = None
    turned: bool = False
    datum: Datum | None = None
    error_m: Annotated[float, Field(gt=0, le=500)] | None = None
    position: tuple[int, str] | None = None
    spots: dict[int, str] = {}
    walks: dict[int, str] = {}
    areas: dict[int, str] = {}
    lines: dict[str, bool] = {}


def import_survey(data: bytes, asked: ImportAsked) -> ImportReport:
    """Return what a file would make of a design, with the questions that have to be answered first.

    Raises:
        DesignFaults: the file is refused, with the reason; or an answer names nothing.
    """
    _require_known(asked)
    read = read_survey(data, asked.name)
    return _import_grid(read, asked) if isinstance(read, HeightGrid) else _import_things(read, asked)


def _require_known(asked: ImportAsked) -> None:
    """Raise DesignFaults where a choice names a part that the design does not have."""
    design = asked.document
    known = {
        "spots": {place.id for place in design.places},
        "walks": {line.id for line in design.lines},
        "areas": {paddock.id for paddock in design.paddocks},
    }
    for key, ids in known.items():
        for number, chosen in getattr(asked, key).items():
            if chosen not in ids | {NEW, SKIP} | ({NEW_LINE_TO_TROUGH} if key == "walks" else set()):
                raise refuse(f"/{key}/{number}", "unknown_id", repr(chosen)[:60], "the id of a part, new or skip")
    if asked.position is not None and asked.position[1] not in known["spots"]:
        raise refuse("/position/1", "unknown_id", repr(asked.position[1])[:60], "the id of a place")


def _import_things(read: SurveyFile, asked: ImportAsked) -> ImportReport:
    survey = checked(replace(read.turned() if asked.turned else read, system=asked.system or read.system))
    survey = _with_series(survey)
    if len(survey.spots) > MOST_SPOTS:
        raise refuse("", "too_many", f"{len(survey.spots):,} points with names", f"at most {MOST_SPOTS:,}")
    source = asked.name
    choices = Choices(
        source=source,
        datum=asked.datum,
        error_m=asked.error_m or PHONE_M,
        kind="satellite",
        spots=asked.spots,
        walks=asked.walks,
        areas=asked.areas,
    )
    if survey.system is None:
        return _asking(survey, choices, "system")
    anchor, fit = asked.document.site.anchor, None
    if survey.system != LOCAL:
        survey = _in_degrees(survey)
        if anchor is None:
            anchor, fit = _anchor(asked, survey)
        if anchor is None:
            return _asking(survey, choices, "position")
        try:
            survey = _in_metres(survey, Plane(anchor))
        except DesignFaults as far:
            if asked.turned or not _fits(survey.turned(), Plane(anchor)):
                raise far from None
            return _asking(survey, choices, "turned")
    design = _anchored(asked.document, anchor)
    plan = import_plan(design, survey, choices)
    return _report(survey, choices, plan, anchor if asked.document.site.anchor is None else None, fit)


def _with_series(survey: SurveyFile) -> SurveyFile:
    """Return a file of nothing but points with these as a walk too: in their order they may be a way."""
    if survey.walks or len(survey.spots) < 2:
        return survey
    points = [(spot.x, spot.y, spot.height_m) for spot in survey.spots]
    return replace(survey, walks=[Walk(name=SERIES, points=points, is_series=True)])


def _anchored(design: Design, anchor: Anchor | None) -> Design:
    if anchor is None or design.site.anchor is not None:
        return design
    document = write_design(design)
    document["site"]["anchor"] = {
        "latitude_deg": round(anchor.latitude_deg, 8), "longitude_deg": round(anchor.longitude_deg, 8),
    }  # fmt: skip
    return read_design(document)


def _in_degrees(survey: SurveyFile) -> SurveyFile:
    assert survey.system is not None
    return checked(replace(_moved(survey, to_degrees(survey.coordinates, survey.system)), system=WGS84))


def _in_metres(survey: SurveyFile, plane: Plane) -> SurveyFile:
    return _moved(survey, plane.metres(survey.coordinates))


def _moved(survey: SurveyFile, pairs: list[tuple[float, float]]) -> SurveyFile:
    """Return the file with other coordinates, in the order of `coordinates`."""
    ahead = iter(pairs)
    spots = [replace(spot, x=x, y=y) for spot, (x, y) in zip(survey.spots, ahead, strict=False)]
    walks = [replace(walk, points=[(*next(ahead), height) for *_, height in walk.points]) for walk in survey.walks]
    areas = [replace(area, corners=[next(ahead) for _ in area.corners]) for area in survey.areas]
    return replace(survey, spots=spots, walks=walks, areas=areas)


def _fits(survey: SurveyFile, plane: Plane) -> bool:
    try:
        _in_metres(checked(survey), plane)
    except DesignFaults:
        return False
    return True


def _anchor(asked: ImportAsked, survey: SurveyFile) -> tuple[Anchor | None, float | None]:
    """Return where the plan's zero lies so that common places fall together, and how far they are off then [m]."""
    places = {place.id: place for place in asked.document.places}
    names = {label(place).casefold(): place.id for place in asked.document.places}
    common = [
        (spot, places[place_id])
        for spot in survey.spots
        if (place_id := spot.part_id if spot.part_id in places else names.get(spot.name.casefold()))
    ]
    tied = tie_points(survey)
    if asked.position is not None and 0 <= asked.position[0] < len(tied):
        common = [(tied[asked.position[0]], places[asked.position[1]])]
    if not common:
        return None, None
    anchor = Anchor(latitude_deg=common[0][0].y, longitude_deg=common[0][0].x)
    for _ in range(3):  # the plane about the new zero is turned a little against the one before
        plane = Plane(anchor)
        metres = np.array(plane.metres([(spot.x, spot.y) for spot, _ in common]))
        offset = metres - np.array([(place.east_m, place.north_m) for _, place in common])
        ((x, y),) = plane.degrees([(float(offset[:, 0].mean()), float(offset[:, 1].mean()))])
        anchor = Anchor(latitude_deg=y, longitude_deg=x)
    return anchor, float(np.hypot(*(offset - offset.mean(axis=0)).T).max())


def tie_points(survey: SurveyFile) -> list[FilePoint]:
    """Return the points of a file that can be said to be a place of the plan: its spots, and the ends of its walks."""
    ends = [
        FilePoint(name=f"{walk.name}: {name}", x=walk.points[at][0], y=walk.points[at][1], height_m=walk.points[at][2])
        for walk in survey.walks
        if walk.points and not walk.is_series
        for name, at in (("start", 0), ("end", -1))
    ]
    return [*survey.spots, *ends]


def _asking(survey: SurveyFile, choices: Choices, question: Question) -> ImportReport:
    empty = ImportPlan(spots=[], walks=[], areas=[], profiles=[], questions=[question], changes=[], document=None)
    return _report(survey, choices, empty, None, None)


def _report(
    survey: SurveyFile, choices: Choices, plan: ImportPlan, anchor: Anchor | None, fit: float | None
) -> ImportReport:
    return ImportReport(
        format=survey.format,
        system=survey.system,
        source=choices.source,
        error_m=choices.error_m,
        notes=survey.notes,
        questions=plan.questions,
        spots=[becomes_report(spot) for spot in plan.spots],
        walks=[becomes_report(walk, len(survey.walks[walk.number].points)) for walk in plan.walks],
        areas=[becomes_report(area) for area in plan.areas],
        profiles=[profile_report(profile) for profile in plan.profiles],
        grid=None,
        changes=[words(change) for change in plan.changes],
        anchor=anchor,
        fit_m=fit,
        document=plan.document,
        tie_points=[spot.name for spot in tie_points(survey)]
        if anchor is not None or "position" in plan.questions
        else [],
        tracks=[]
        if {"position", "system", "turned"} & set(plan.questions)
        else [_drawn(walk) for walk in survey.walks],
    )


def _drawn(walk: Walk) -> list[tuple[float, float]]:
    step = max(1, len(walk.points) // TRACK_POINTS)
    return [(x, y) for x, y, _ in [*walk.points[:-1:step], *walk.points[-1:]]]


def _import_grid(grid: HeightGrid, asked: ImportAsked) -> ImportReport:
    system, design = asked.system or grid.system, asked.document
    step_m = grid.step * (DEGREE_M if system == WGS84 else 1.0)
    usual = GRID_ERRORS_M[(step_m > FINE_M) + (step_m > MIDDLING_M)]
    choices = Choices(source=asked.name, datum=asked.datum, error_m=asked.error_m or usual, kind="grid")
    survey = SurveyFile(format=grid.format, system=system)
    rows, columns = grid.heights_m.shape
    told = GridReport(columns=columns, rows=rows, step=grid.step, covers=0, places=len(design.places))
    if system is None or (system != LOCAL and design.site.anchor is None):
        question: Question = "system" if system is None else "position"
        return _asking(survey, choices, question).model_copy(update={"grid": told})
    layout = Layout(design)
    heights = _heights(grid, design, system, [(place.east_m, place.north_m) for place in design.places])
    told = told.model_copy(update={"covers": sum(height is not None for height in heights)})
    if not told.covers:
        raise refuse("coordinates", "too_far", "a grid beside the plan", "a grid of the ground that the plan lies on")
    profiles = []
    for line in design.lines:
        if asked.lines.get(line.id, not line.points):
            along = _heights(grid, design, system, stations(layout, line))
            known = [height for height in along if height is not None]
            if len(known) == len(along):
                profiles.append(profile_from_heights(layout, line, known, choices.error_m))
    spots = [
        FilePoint(name=label(place), x=place.east_m, y=place.north_m, height_m=height, part_id=place.id)
        for place, height in zip(design.places, heights, strict=True)
        if height is not None
    ]
    plan = import_plan(design, replace(survey, spots=spots), choices)
    if plan.document is not None:
        plan = replace(plan, document=with_profiles(plan.document, profiles, asked.name))
    report = _report(replace(survey, spots=spots), choices, replace(plan, profiles=profiles), None, None)
    return report.model_copy(update={"grid": told})


def _heights(grid: HeightGrid, design: Design, system: str, metres: list[tuple[float, float]]) -> list[float | None]:
    degrees = Plane(design.site.anchor).degrees(metres) if design.site.anchor is not None else metres
    found = grid.at(degrees, metres, system)
    return [None if np.isnan(height) else round(float(height), 3) for height in found]
