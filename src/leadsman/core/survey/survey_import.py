"""What a file of surveyed things makes of a design: which spot is which place, which walk which line; a preview.

Nothing is changed but a copy of the document; what is not certain is asked, and nothing is mixed in silently.
"""

import math
import statistics
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Any, Literal

from leadsman.core.base.errors import OutOfRange
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import Design, Line, Place, label
from leadsman.core.design.file import read_design, write_design
from leadsman.core.design.layout import Layout
from leadsman.core.survey.height_network import PlaceHeight, heights
from leadsman.core.survey.line_profile import LineProfile, profile_from_walk, put_profile, with_heights
from leadsman.core.survey.new_lines import NEW_LINE_TO_TROUGH, NewLine, lay_new_lines
from leadsman.core.survey.survey_file import Area, FilePoint, SurveyFile, Walk

Document = dict[str, Any]
Datum = Literal["site", "differences"]
Question = Literal["datum", "system", "position", "turned", "common place"]

SAME_PLACE_M = 10.0  # nearer than this a spot without a known name is taken for the place; our own
NEAR_LINE_M = 40.0  # how near a walk has to come to both ends of a line to be taken for it; our own
SAME_CORNER_M, SAME_HEIGHT_M = 0.02, 5e-4
NEW, SKIP = "new", "skip"
PHONE_M = 5.0  # half-width of a phone's or hand-held receiver's height, open sky; typical, from memory


@dataclass(frozen=True, kw_only=True)
class Choices:
    """What the user said of the file: what its heights are above, how good they are, and what becomes of what.

    `spots`, `walks` and `areas` are keyed by number; a value is the id of a place, line or paddock, "new" or "skip";
    of a walk also "new trough", a new line with a trough at its end.
    """

    source: str
    datum: Datum | None = None
    error_m: float = PHONE_M
    kind: Literal["satellite", "grid"] = "satellite"
    spots: Mapping[int, str] = field(default_factory=dict)
    walks: Mapping[int, str] = field(default_factory=dict)
    areas: Mapping[int, str] = field(default_factory=dict)


@dataclass(frozen=True, kw_only=True)
class Becomes:
    """What becomes of one thing of the file: the id of the part it is taken for, "new" or "skip", and why."""

    number: int
    name: str
    of: str
    why: str
    away_m: float | None = None
    height_m: float | None = None


@dataclass(frozen=True, kw_only=True)
class ImportPlan:
    """A preview: what becomes of everything, the profiles it gives, and the document as it would be.

    `document` is None while `questions` remain.
    """

    spots: list[Becomes]
    walks: list[Becomes]
    areas: list[Becomes]
    profiles: list[LineProfile]
    questions: list[Question]
    changes: list[Wording]
    document: Design | None


def import_plan(design: Design, survey: SurveyFile, choices: Choices) -> ImportPlan:
    """Return what a file, its coordinates in metres on the site's plane, makes of a design.

    Raises:
        DesignFaults: what it would make is no design.
    """
    asked_of = design
    document = write_design(design)
    new_lines = lay_new_lines(
        document, survey.walks, choices.walks, choices.error_m, heights_stand=choices.datum == "site"
    )
    if new_lines:
        design = read_design(document)
    layout = Layout(design)
    spots = _spots(asked_of, survey.spots, choices)
    walks = _walks(layout, survey.walks, _with_lines(choices, new_lines))
    areas = _areas(design, survey.areas, choices)
    profiles: list[LineProfile] = []
    changes: list[Wording] = [new.told for new in new_lines]
    document = write_design(design)
    for choice in walks:
        if choice.of != SKIP:
            line = layout.lines[choice.of]
            walk = survey.walks[choice.number]
            own = walk.part_id == line.id
            try:
                profiles.append(profile_from_walk(layout, line, walk.points, choices.error_m, surveyed=own))
            except OutOfRange as error:
                raise OutOfRange(f"{choice.name}: {error.name}", error.value, error.low, error.high) from None
    passed = _passed(asked_of, survey.walks, {becomes.of for becomes in spots})
    spots += [_passing(len(survey.spots) + number, *pair, choices) for number, pair in enumerate(passed)]
    with_height = any(becomes.of != SKIP and becomes.height_m is not None for becomes in spots) or bool(new_lines)
    questions: list[Question] = ["datum"] if with_height and choices.datum is None else []
    if questions:
        return ImportPlan(
            spots=spots,
            walks=_as_new(walks, choices),
            areas=areas,
            profiles=profiles,
            questions=questions,
            changes=changes,
            document=None,
        )
    for spot, choice in zip([*survey.spots, *(spot for spot, _ in passed)], spots, strict=True):
        changes += _put_spot(document, spot, choice, choices)
    for profile in profiles:
        if profile.is_as_before:
            continue
        put_profile(document, profile, choices.source)
        document.setdefault("distances", []).append({
            "id": free_id(_ids(document), f"{choices.source}-{profile.line.id}"), "line": profile.line.id,
            "kind": "track", "over_m": round(profile.slope_m, 1),
        })  # fmt: skip
        changes.append(say("{}: {} points from {}", label(profile.line), str(len(profile.points)), choices.source))
    for choice in areas:
        changes += _put_area(document, design, survey.areas[choice.number], choice)
    made = read_design(document)
    measured, known = heights(made), {place.id for place in design.places}
    loose = any(new.is_loose for new in new_lines)
    if choices.datum == "differences" and (loose or set(measured.unjoined) - known):  # what hangs on nothing else
        return ImportPlan(
            spots=spots,
            walks=_as_new(walks, choices),
            areas=areas,
            profiles=profiles,
            questions=["common place"],
            changes=changes,
            document=None,
        )
    new = [measured_place for measured_place in measured.places if measured_place.place_id not in known]
    return ImportPlan(
        spots=spots,
        walks=_as_new(walks, choices),
        areas=areas,
        profiles=profiles,
        questions=[],
        changes=changes,
        document=_with_grounds(made, new),
    )


def _with_lines(choices: Choices, new_lines: Sequence[NewLine]) -> Choices:
    """Return the choices with new lines named by their ids, as if they had been there."""
    return replace(choices, walks={**choices.walks, **{new.number: new.line_id for new in new_lines}})


def _as_new(walks: list[Becomes], choices: Choices) -> list[Becomes]:
    """Return what becomes of walks, those that are laid as new lines as they were chosen."""
    chosen = choices.walks
    return [
        replace(walk, of=chosen[walk.number]) if chosen.get(walk.number) in (NEW, NEW_LINE_TO_TROUGH) else walk
        for walk in walks
    ]


def _spots(design: Design, spots: Sequence[FilePoint], choices: Choices) -> list[Becomes]:
    """Return what each spot is taken for: as chosen, by its id, its name, or where it lies; each place once."""
    by_name = {label(place).casefold(): place for place in design.places}
    by_id = {place.id: place for place in design.places}
    taken: set[str] = set()
    found = []
    for number, spot in enumerate(spots):
        chosen = choices.spots.get(number)
        place = by_id.get(chosen or "") or by_id.get(spot.part_id or "") or by_name.get(spot.name.casefold())
        why = "as chosen" if chosen in by_id else "of the same name"
        if place is None or place.id in taken:
            near = min(design.places, key=lambda known: _away(known, spot))
            place = near if _away(near, spot) <= SAME_PLACE_M and near.id not in taken else None
            why = "at the same spot"
        if chosen in (NEW, SKIP) or place is None:
            of = chosen or (NEW if spot.height_m is not None else SKIP)
            why = "as chosen" if chosen else "no place there" if of == NEW else "it has no height"
            found.append(Becomes(number=number, name=spot.name, of=of, why=why, away_m=None, height_m=spot.height_m))
        else:
            taken.add(place.id)
            found.append(
                Becomes(
                    number=number,
                    name=spot.name,
                    of=place.id,
                    why=why,
                    away_m=_away(place, spot),
                    height_m=spot.height_m,
                )
            )
    return found


def _away(place: Place, spot: FilePoint) -> float:
    return math.hypot(place.east_m - spot.x, place.north_m - spot.y)


def _walks(layout: Layout, walks: Sequence[Walk], choices: Choices) -> list[Becomes]:
    found: list[Becomes] = []
    taken: set[str] = set()
    for number, walk in enumerate(walks):
        chosen = choices.walks.get(number)
        points = with_heights(walk.points)
        if not points:
            found.append(Becomes(number=number, name=walk.name, of=SKIP, why="it has no heights"))
            continue
        line = layout.lines.get(chosen or "")
        why = "as chosen"
        if chosen is None and walk.is_series:
            found.append(Becomes(number=number, name=walk.name, of=SKIP, why="a pipe only if you say so"))
            continue
        if chosen is None:
            named = [laid for laid in layout.design.lines if walk.part_id == laid.id or walk.name == label(laid)]
            line, why = (named[0], "of the same name") if named else (_line_along(layout, points), "along the same way")
        if line is None or line.id in taken:
            found.append(
                Becomes(
                    number=number, name=walk.name, of=SKIP, why="as chosen" if chosen == SKIP else "no line along it"
                )
            )
        else:
            taken.add(line.id)
            found.append(Becomes(number=number, name=walk.name, of=line.id, why=why))
    return found


def _passed(design: Design, walks: Sequence[Walk], taken: set[str]) -> list[tuple[FilePoint, str]]:
    """Return a spot, with the place's id, for each place that a track passes and that no spot is taken for.

    Its height is the middle one of the track's points there.
    """
    found: dict[str, tuple[FilePoint, str]] = {}
    for walk in walks:
        points = [] if walk.is_series else with_heights(walk.points)
        for place in design.places:
            near = [h for x, y, h in points if math.hypot(place.east_m - x, place.north_m - y) <= SAME_PLACE_M]
            height = statistics.median(near) if near else None
            if place.id in taken | set(found) or height is None:
                continue
            if walk.part_id and abs(height - place.ground_m) < SAME_HEIGHT_M:
                continue
            spot = FilePoint(
                name=f"{walk.name} at {label(place)}", x=place.east_m, y=place.north_m, height_m=round(height, 2)
            )
            found[place.id] = spot, place.id
    return list(found.values())


def _passing(number: int, spot: FilePoint, place_id: str, choices: Choices) -> Becomes:
    """Return what becomes of a spot that a track passes: it counts once its user says what the heights are above."""
    of = choices.spots.get(number, place_id if choices.datum else SKIP)
    why = "the track passes it" if choices.datum else "say first what its heights are"
    return Becomes(number=number, name=spot.name, of=of, why=why, away_m=None, height_m=spot.height_m)


def _line_along(layout: Layout, points: Sequence[tuple[float, float, float]]) -> Line | None:
    """Return the line to both of whose ends a walk comes nearest, None where it comes near to none."""

    def off(line: Line) -> float:
        ends = [layout.place_of_end(end_id) for end_id in (line.from_, line.to)]
        return max(min(math.hypot(p.east_m - x, p.north_m - y) for x, y, _ in points) for p in ends)

    nearest = min(layout.design.lines, key=off, default=None)
    return nearest if nearest is not None and off(nearest) <= NEAR_LINE_M else None


def _areas(design: Design, areas: Sequence[Area], choices: Choices) -> list[Becomes]:
    found = []
    for number, area in enumerate(areas):
        chosen = choices.areas.get(number)
        name = area.name.casefold()
        same = [
            paddock for paddock in design.paddocks if area.part_id == paddock.id or name == label(paddock).casefold()
        ]
        if chosen is not None:
            found.append(Becomes(number=number, name=area.name, of=chosen, why="as chosen"))
        elif same:
            found.append(Becomes(number=number, name=area.name, of=same[0].id, why="of the same name"))
        elif design.outlets and len(area.corners) > 2:
            found.append(Becomes(number=number, name=area.name, of=NEW, why="watered by the nearest outlet"))
        else:
            found.append(Becomes(number=number, name=area.name, of=SKIP, why="no outlet that could water it"))
    return found


def free_id(taken: set[str], name: str) -> str:
    """Return an id made of a name that no part has yet."""
    letters = "".join(c if c.isascii() and (c.isalnum() or c in "._-") else "-" for c in name.casefold()).strip("-._")
    stem = letters[:50] or "point"
    if stem not in taken:
        return stem
    return next(f"{stem}-{number}" for number in range(2, len(taken) + 3) if f"{stem}-{number}" not in taken)


def _ids(document: Document) -> set[str]:
    return {
        part["id"]
        for listed in document.values()
        if isinstance(listed, list)
        for part in listed
        if isinstance(part, dict) and "id" in part
    }


def _put_spot(document: Document, spot: FilePoint, becomes: Becomes, choices: Choices) -> list[Wording]:
    """Put a spot into the document: its height as a sight of the source, and its place where it is new."""
    if becomes.of == SKIP:
        return []
    changes, place_id = [], becomes.of
    if becomes.of == NEW:
        place_id = free_id(_ids(document), spot.name)
        document["places"].append({
            "id": place_id, "name": spot.name, "east_m": round(spot.x, 3), "north_m": round(spot.y, 3),
            "ground_m": spot.height_m or 0.0, "height_error_m": choices.error_m, "height_from": choices.source[:60],
        })  # fmt: skip
        changes.append(say("new place {}", spot.name))
    known = next(place for place in document["places"] if place["id"] == place_id)
    if spot.height_m is not None and not (becomes.of != NEW and _is_own_height(known, spot)):
        document.setdefault("sights", []).append({
            "id": free_id(_ids(document), f"{choices.source}-{place_id}"), "kind": choices.kind, "place": place_id,
            "height_m": spot.height_m, "error_m": choices.error_m, "source": choices.source, "datum": choices.datum,
        })  # fmt: skip
        height = Quantity(value=spot.height_m, unit="m")
        changes.append(say("height of {}: {} by {}", spot.name, height, choices.source))
    return changes


def _is_own_height(place: Document, spot: FilePoint) -> bool:
    """Whether a spot was written from this very place, and says nothing new of its height."""
    return spot.part_id == place["id"] and bool(abs(place["ground_m"] - (spot.height_m or 0.0)) < SAME_HEIGHT_M)


def _put_area(document: Document, design: Design, area: Area, becomes: Becomes) -> list[Wording]:
    if becomes.of == SKIP:
        return []
    corners = [[round(x, 2), round(y, 2)] for x, y in area.corners]
    if becomes.of != NEW:
        paddock = next(part for part in document["paddocks"] if part["id"] == becomes.of)
        before = paddock.get("corners", [])
        same = len(before) == len(corners)
        if same and all(math.dist(*pair) < SAME_CORNER_M for pair in zip(before, corners, strict=True)):
            return []
        paddock["corners"] = corners
        return [say("corners of {}", area.name)]
    middle = tuple(sum(values) / len(corners) for values in zip(*corners, strict=True))
    layout = Layout(design)
    places = {outlet.id: layout.places[outlet.place] for outlet in design.outlets}
    nearest = min(places, key=lambda o: math.hypot(places[o].east_m - middle[0], places[o].north_m - middle[1]))
    document.setdefault("paddocks", []).append(
        {"id": free_id(_ids(document), area.name), "name": area.name, "outlet": nearest, "corners": corners}
    )
    return [say("new paddock {}", area.name)]


def _with_grounds(made: Design, measured: Sequence[PlaceHeight]) -> Design:
    """Return the design with the ground of these places by all that was measured; the others keep theirs."""
    found = {measured_place.place_id: measured_place for measured_place in measured}
    document = write_design(made)
    for place in document["places"]:
        if measured_place := found.get(place["id"]):
            place["ground_m"] = round(measured_place.height_m, 3)
            place["height_error_m"] = round(max(measured_place.error_m, 0.001), 3)
    return read_design(document)
