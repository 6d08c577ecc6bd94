"""GPX: waypoints, routes and tracks in; places and lines out. Through gpxpy, after the guarded door of all XML."""

from xml.etree.ElementTree import tostring

import gpxpy
import gpxpy.gpx
from gpxpy.gpx import GPXException, GPXRoutePoint, GPXTrackPoint, GPXWaypoint

from leadsman.core.survey.survey_file import WGS84, Area, FilePoint, SurveyFile, Walk, refuse
from leadsman.formats.limits import local_name, read_xml, require_few
from leadsman.formats.placed import PlacedDesign

ID_OF = "leadsman id: "


def read_gpx(data: bytes) -> SurveyFile:
    """Return the waypoints, routes and track segments of a GPX file, of version 1.0 or 1.1.

    A track without heights that comes back to its very start is an area.

    Raises:
        DesignFaults: it is no GPX, or hostile, or too large.
    """
    root = read_xml(data)
    if local_name(root) != "gpx":
        raise refuse("", "not_gpx", f"a root called {local_name(root)[:40]!r}", "gpx")
    for element in root.iter():  # gpxpy knows no prefixes before its own elements
        element.tag = local_name(element)
        if element.tag in ("wpt", "rtept", "trkpt"):
            _require_position(element.get("lat"), element.get("lon"))
    try:
        gpx = gpxpy.parse(tostring(root, encoding="unicode"))
    except (GPXException, ValueError, TypeError, AttributeError) as error:
        raise refuse("", "not_gpx", str(error)[:120], "GPX 1.0 or 1.1") from None
    spots = [
        FilePoint(
            name=point.name or f"Waypoint {number}",
            x=point.longitude,
            y=point.latitude,
            height_m=point.elevation,
            part_id=_id(point.comment),
        )
        for number, point in enumerate(gpx.waypoints, start=1)
    ]
    walks = [
        _walk(route.name or f"Route {number}", route.points, route.comment)
        for number, route in enumerate(gpx.routes, 1)
    ]
    for number, track in enumerate(gpx.tracks, start=1):
        for part, segment in enumerate(track.segments, start=1):
            name = track.name or f"Track {number}"
            walks.append(_walk(name if len(track.segments) == 1 else f"{name}, part {part}", segment.points,
                               track.comment))  # fmt: skip
    walks = [walk for walk in walks if walk.points]
    require_few(len(spots) + sum(len(walk.points) for walk in walks))
    areas = [
        Area(name=walk.name, corners=[(x, y) for x, y, _ in walk.points[:-1]], part_id=walk.part_id)
        for walk in walks
        if _is_ring(walk)
    ]
    return SurveyFile(
        format="GPX", system=WGS84, spots=spots, walks=[walk for walk in walks if not _is_ring(walk)], areas=areas
    )


def _is_ring(walk: Walk) -> bool:
    """Whether a walk is a piece of ground: it comes back to its very start, and has no heights."""
    return len(walk.points) > 3 and walk.points[0] == walk.points[-1] and all(point[2] is None for point in walk.points)


def _require_position(latitude: str | None, longitude: str | None) -> None:
    for text in (latitude, longitude):
        try:
            fits = text is not None and abs(float(text)) <= 360.0
        except ValueError:
            fits = False
        if not fits:
            raise refuse("coordinates", "no_number", f"lat {latitude!r}, lon {longitude!r}", "degrees")


def _walk(name: str, points: list[GPXTrackPoint] | list[GPXRoutePoint], comment: str | None) -> Walk:
    return Walk(
        name=name, points=[(point.longitude, point.latitude, point.elevation) for point in points], part_id=_id(comment)
    )


def _id(comment: str | None) -> str | None:
    return comment.removeprefix(ID_OF) if comment and comment.startswith(ID_OF) else None


def write_gpx(placed: PlacedDesign) -> bytes:
    """Return places as waypoints and lines as tracks; a paddock is a track that comes back to its start."""
    gpx = gpxpy.gpx.GPX()
    gpx.name, gpx.creator = placed.design.name, "Leadsman"
    for spot in placed.spots:
        point = GPXWaypoint(spot.y, spot.x, spot.height_m, name=spot.name, comment=ID_OF + (spot.part_id or ""))
        point.description = placed.told_of(spot) or None
        gpx.waypoints.append(point)
    rings = [Walk(name=area.name, points=[(x, y, None) for x, y in area.ring], part_id=area.part_id)
             for area in placed.areas]  # fmt: skip
    for walk in [*placed.walks, *rings]:
        track = gpxpy.gpx.GPXTrack(name=walk.name)
        track.comment = ID_OF + (walk.part_id or "")
        points = [GPXTrackPoint(y, x, height) for x, y, height in walk.points]
        track.segments.append(gpxpy.gpx.GPXTrackSegment(points))
        gpx.tracks.append(track)
    return gpx.to_xml("1.1", prettyprint=True).encode()
