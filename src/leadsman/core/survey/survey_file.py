"""What a file of surveyed things holds, whatever its format: spots, walks and areas, in one system of coordinates."""

from dataclasses import dataclass, field, replace

from leadsman.core.base.fault import DesignFaults, Fault

WGS84, LOCAL = "wgs84", "local"
LEAST_HEIGHT_M, MOST_HEIGHT_M = -500.0, 9_000.0


@dataclass(frozen=True, kw_only=True)
class FilePoint:
    """A point with a name: x east or longitude, y north or latitude, its height [m] where it has one.

    `part_id` is the id of the part of a design that it was written from, where the file says so.
    """

    name: str
    x: float
    y: float
    height_m: float | None = None
    part_id: str | None = None


@dataclass(frozen=True, kw_only=True)
class Walk:
    """A line that was walked or drawn: x, y and height [m] or None of each point.

    `is_series` where it is the points of the file one after the other, which may or may not be a way.
    """

    name: str
    points: list[tuple[float, float, float | None]]
    part_id: str | None = None
    is_series: bool = False


@dataclass(frozen=True, kw_only=True)
class Area:
    """A piece of ground by its corners, x and y, not closed."""

    name: str
    corners: list[tuple[float, float]]
    part_id: str | None = None

    @property
    def ring(self) -> list[tuple[float, float]]:
        """Its corners and the first again, as most formats want them."""
        return [*self.corners, self.corners[0]]


@dataclass(frozen=True, kw_only=True)
class SurveyFile:
    """What was read, in the coordinates of `system`: "wgs84" (degrees), "local" (m), an EPSG code, None unknown.

    `notes` say what the reader did that its user should know.
    """

    format: str
    system: str | None
    spots: list[FilePoint] = field(default_factory=list)
    walks: list[Walk] = field(default_factory=list)
    areas: list[Area] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)

    @property
    def coordinates(self) -> list[tuple[float, float]]:
        """Every x and y."""
        pairs = [(spot.x, spot.y) for spot in self.spots]
        pairs += [(x, y) for walk in self.walks for x, y, _ in walk.points]
        return pairs + [corner for area in self.areas for corner in area.corners]

    def turned(self) -> "SurveyFile":
        """Return it with x and y swapped."""
        return replace(
            self,
            spots=[replace(spot, x=spot.y, y=spot.x) for spot in self.spots],
            walks=[replace(walk, points=[(y, x, height) for x, y, height in walk.points]) for walk in self.walks],
            areas=[replace(area, corners=[(y, x) for x, y in area.corners]) for area in self.areas],
        )


def opened(ring: list[tuple[float, float]]) -> list[tuple[float, float]]:
    """Return the corners of a ring, without the first again at its end."""
    return ring[:-1] if ring[0] == ring[-1] else ring


def refuse(where: str, code: str, found: str, allowed: str) -> DesignFaults:
    """Return the error that a reader raises on a file it does not take."""
    return DesignFaults([Fault(path=where, code=code, found=found, allowed=allowed)])


def checked(survey: SurveyFile) -> SurveyFile:
    """Return the file where its numbers can be what they say they are.

    Raises:
        DesignFaults: nothing in it, coordinates outside the globe, or heights that are none.
    """
    if not survey.coordinates:
        raise refuse("", "empty", "no point, line or area", "at least one")
    heights = [spot.height_m for spot in survey.spots] + [height for walk in survey.walks for *_, height in walk.points]
    for height in heights:
        if height is not None and not LEAST_HEIGHT_M <= height <= MOST_HEIGHT_M:
            hint = " (it looks like a time)" if height > 1e6 else ""
            raise refuse("heights", "no_height", f"{height:g} m{hint}", f"{LEAST_HEIGHT_M:g} to {MOST_HEIGHT_M:g} m")
    if survey.system == WGS84:
        for x, y in survey.coordinates:
            if not (-180.0 <= x <= 180.0 and -90.0 <= y <= 90.0):
                hint = "; are latitude and longitude swapped?" if abs(x) <= 90.0 and abs(y) <= 180.0 else ""
                raise refuse("coordinates", "off_the_globe", f"latitude {y:g}, longitude {x:g}{hint}",
                             "latitude -90 to 90, longitude -180 to 180")  # fmt: skip
    elif not all(abs(x) <= 1e8 and abs(y) <= 1e8 for x, y in survey.coordinates):
        raise refuse("coordinates", "too_far", "coordinates of more than 100,000 km", "metres")
    return survey
