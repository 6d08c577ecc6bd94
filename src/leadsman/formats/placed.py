"""A design on the globe: its places, lines and paddocks as spots, walks and areas that the writers hand out."""

from dataclasses import dataclass, field

from leadsman.core.design import Anchor, Design, Line, label
from leadsman.core.layout import Layout
from leadsman.core.survey_file import Area, Spot, Walk, refuse
from leadsman.formats.projection import Plane


@dataclass(frozen=True)
class PlacedDesign:
    """A design with its things in longitude and latitude."""

    design: Design
    spots: list[Spot]
    walks: list[Walk]
    areas: list[Area]
    told: dict[str, str] = field(default_factory=dict)

    def told_of(self, spot: Spot) -> str:
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
        Spot(label(place), x, y, place.ground_m, place.id) for place, (x, y) in zip(design.places, degrees, strict=True)
    ]
    walks = [_walk(plane, layout, line) for line in design.lines]
    areas = [
        Area(label(one), plane.degrees([(e, n) for e, n in one.corners]), one.id)
        for one in design.paddocks
        if len(one.corners) > 2
    ]
    told = {
        place.id: "; ".join(
            ([f"height from {place.height_from}"] if place.height_from else [])
            + ([f"good to {place.height_error_m:g} m"] if place.height_error_m is not None else [])
        )
        for place in design.places
    }
    return PlacedDesign(design, spots, walks, areas, told)


def _walk(plane: Plane, layout: Layout, line: Line) -> Walk:
    """Return a line with its surveyed points, on plan straight between its ends."""
    start, end = (layout.place_of_end(one) for one in (line.from_, line.to))
    points = line.points or [[0.0, start.ground_m], [line.pipe_length_m, end.ground_m]]
    whole = points[-1][0]
    east, north = end.east_m - start.east_m, end.north_m - start.north_m
    metres = [(start.east_m + at / whole * east, start.north_m + at / whole * north) for at, _ in points]
    degrees = plane.degrees(metres)
    return Walk(label(line), [(x, y, ground) for (x, y), (_, ground) in zip(degrees, points, strict=True)], line.id)
