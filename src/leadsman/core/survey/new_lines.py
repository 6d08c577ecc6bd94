"""Tracks that become new lines of a plan: where they begin and end, the corners on the plan, how long the pipe is."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import partial
from typing import Any

import numpy as np

from leadsman.core.base.array import Floats
from leadsman.core.base.wording import Wording, say
from leadsman.core.design.edit.laying import lay_line
from leadsman.core.design.edit.model import LayLine
from leadsman.core.design.edit.parts import Document, Part, cm, free_id, part, parts
from leadsman.core.survey.line_profile import SURVEYED_APART_M, with_heights
from leadsman.core.survey.survey_file import Walk
from leadsman.core.survey.track import distances_along_m, simplified, slope_length_m, track_profile

NEW_LINE, NEW_LINE_TO_TROUGH = "new", "new trough"
SAME_END_M = 10.0  # nearer than this to a place a track is taken to end there; our own
OFF_M = 2.0  # so far a corner of a walked way may be off the walk [m]; our own
CORNERS = 500


@dataclass(frozen=True, kw_only=True)
class NewLine:
    """A track that became a line: the number of the walk, the line's id, and whether neither end has a known height."""

    number: int
    line_id: str
    is_loose: bool
    told: Wording


def lay_new_lines(
    document: Document, walks: Sequence[Walk], chosen: Mapping[int, str], error_m: float, *, heights_stand: bool
) -> list[NewLine]:
    """Lay a line for each walk that is chosen to be a new one, in place.

    Its ends stand at places within 10 m, else at new ones, whose ground is what the track says: as it is where
    `heights_stand`, else so much higher or lower as the known end asks for.

    Raises:
        DesignFaults: a track begins where it ends.
        OutOfRange: fewer than two of its points are apart.
    """
    made = []
    for number, walk in enumerate(walks):
        points = with_heights(walk.points)
        if chosen.get(number) not in (NEW_LINE, NEW_LINE_TO_TROUGH) or not points:
            continue
        known = [_place_near(document, spot) for spot in (points[0], points[-1])]
        first, last = points[0][2], points[-1][2]
        raised = 0.0 if heights_stand else _raised(known, (first, last))
        start = known[0] or _new_place(document, f"{walk.name} start", points[0], first + raised)
        ends = [_spot(start), _spot(known[1]) if known[1] else (cm(points[-1][0]), cm(points[-1][1]))]
        spots = np.array([(x, y) for x, y, _ in points])
        way = [ends[0], *_corners(spots), ends[1]]
        lower_m = start["ground_m"] - (last + raised)
        end = "trough" if chosen[number] == NEW_LINE_TO_TROUGH else "junction"
        name = f"{walk.name} end" if end == "junction" else f"{walk.name} trough"
        laid = lay_line(document, LayLine(kind="lay_line", way=way, end=end, name=name[:120], lower_m=cm(lower_m)))  # type: ignore[arg-type]
        line = part(document, "lines", laid.made[0], "line")
        line["name"], line["length_m"] = walk.name[:120], round(_slope_m(points, error_m), 1)
        loose = known == [None, None] and not heights_stand
        told = say("new pipe {}", walk.name)
        made.append(NewLine(number=number, line_id=line["id"], is_loose=loose, told=told))
    return made


def _place_near(document: Document, spot: tuple[float, float, float]) -> Part | None:
    near = min(parts(document, "places"), key=lambda place: math.dist(_spot(place), spot[:2]), default=None)
    return near if near is not None and math.dist(_spot(near), spot[:2]) <= SAME_END_M else None


def _raised(known: list[Part | None], heights_m: tuple[float, float]) -> float:
    """Return by how much heights are to be raised [m] so that they meet the first known end; 0 where none is."""
    found = [place["ground_m"] - height for place, height in zip(known, heights_m, strict=True) if place]
    return found[0] if found else 0.0


def _new_place(document: Document, name: str, at: tuple[float, float, float], ground_m: float) -> Part:
    place: dict[str, Any] = {"id": free_id(document, "places", "place"), "name": name[:120]}
    place |= {"east_m": cm(at[0]), "north_m": cm(at[1]), "ground_m": cm(ground_m)}
    document["places"] = [*parts(document, "places"), place]
    return place


def _spot(place: Part) -> tuple[float, float]:
    return place["east_m"], place["north_m"]


def _slope_m(points: Sequence[tuple[float, float, float]], error_m: float) -> float:
    """Return the length of a walk along the ground [m]: as it is where its points stand far apart, else smoothed."""
    given = np.array(points)
    plan = distances_along_m(given[:, :2])
    if plan[-1] > 0.0 and plan[-1] / (len(points) - 1) >= SURVEYED_APART_M:
        return slope_length_m(plan, given[:, 2])
    return track_profile(points, error_m).slope_m


def _corners(spots: Floats) -> list[tuple[float, float]]:
    """Return the corners of a walk between its ends, such that no point of it is more than 2 m off.

    Where that takes more than 500, a larger distance.
    """
    tolerance_m = OFF_M
    while len(kept := simplified([0, len(spots) - 1], partial(_off_m, spots), tolerance_m)) > CORNERS:
        tolerance_m *= 2.0
    return [(cm(spots[n, 0]), cm(spots[n, 1])) for n in kept[1:-1]]


def _off_m(spots: Floats, first: int, last: int) -> Floats:
    """Return how far the points between two of a walk are from the straight between these two [m]."""
    along = spots[last] - spots[first]
    long = float(np.hypot(*along))
    offset = spots[first + 1 : last] - spots[first]
    if long > 0.0:
        share = np.clip(offset @ along / long**2, 0.0, 1.0)[:, None]
        offset = offset - share * along
    off: Floats = np.hypot(*offset.T)
    return off
