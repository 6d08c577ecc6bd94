"""A design on the globe: its places, lines and paddocks as spots, walks and areas that are exported."""

from dataclasses import dataclass, field

import numpy as np

from leadsman.core.design import Anchor, Design, Line, label
from leadsman.core.design.layout import Layout, along_way, line_profile, way_distances_m
from leadsman.core.survey.survey_file import Area, FilePoint, Walk, refuse
from leadsman.formats.projection import Plane


@dataclass(frozen=True, kw_only=True)
class PlacedDesign:
    """A design with its things in longitude and latitude."""

    design: Design
    spots: list[FilePoint]
    walks: list[Walk]
    areas: list[Area]
    told: dict[str, str] = field(default_factory=dict)

    def told_of(self, spot: FilePoint) -> str:
        """Return what a place's height comes from and how good it is, in words."""
        return self.told.get(spot.part_id or "", "")


def anchor_of(design: Design) -> Anchor:
    """Return where the plan lies on the globe.

    Raises:
        DesignFaults: nobody has said so.
    """
    if design.site.anchor is None:
        raise refuse("/site/anchor", "no_anchor", "a plan without a position on the globe",
                     "latitude and longitude of its east 0, north 0; or the CSV of local metres")  # fmt: skip
    return design.site.anchor


def placed(design: Design) -> PlacedDesign:
    """Return the design on the globe.

    Raises:
        DesignFaults: it has no anchor.
    """
    plane, layout = Plane(anchor_of(design)), Layout(design)
    degrees = plane.degrees([(place.east_m, place.north_m) for place in design.places])
    spots = [
        FilePoint(name=label(place), x=x, y=y, height_m=place.ground_m, part_id=place.id)
        for place, (x, y) in zip(design.places, degrees, strict=True)
    ]
    walks = [_walk(plane, layout, line) for line in design.lines]
    areas = [
        Area(name=label(paddock), corners=plane.degrees([(e, n) for e, n in paddock.corners]), part_id=paddock.id)
        for paddock in design.paddocks
        if len(paddock.corners) > 2
    ]
    told = {
        place.id: "; ".join(
            ([f"height from {place.height_from}"] if place.height_from else [])
            + ([f"good to {place.height_error_m:g} m"] if place.height_error_m is not None else [])
        )
        for place in design.places
    }
    return PlacedDesign(design=design, spots=spots, walks=walks, areas=areas, told=told)


def _walk(plane: Plane, layout: Layout, line: Line) -> Walk:
    """Return a line by its surveyed points and its corners on the plan, each with the ground there."""
    way = layout.way_of(line)
    lengths = way_distances_m(way)
    profile = line_profile(layout, line)
    whole, on_plan = profile[-1][0], lengths[-1] or 1.0
    shares = sorted({at / whole for at, *_ in profile} | {length / on_plan for length in lengths[1:-1]})
    ats, grounds = [at for at, *_ in profile], [ground for _, ground, _ in profile]
    degrees = plane.degrees(along_way(way, shares))
    heights = np.interp([share * whole for share in shares], ats, grounds).tolist()
    points: list[tuple[float, float, float | None]] = [(x, y, h) for (x, y), h in zip(degrees, heights, strict=True)]
    return Walk(name=label(line), points=points, part_id=line.id)
