"""KML and KMZ: placemarks in; places, lines and paddocks out. ElementTree behind the guarded door of all XML."""

import io
import zipfile
from collections.abc import Iterator
from xml.etree.ElementTree import Element, SubElement, indent, tostring

from leadsman.core.survey.survey_file import WGS84, Area, FilePoint, SurveyFile, Walk, opened, refuse
from leadsman.formats.limits import LARGEST_FILE_BYTES, local_name, number, read_xml, with_few
from leadsman.formats.placed import PlacedDesign

NAMESPACE = "http://www.opengis.net/kml/2.2"
MOST_ENTRIES = 200
IGNORED = "Heights were left out where the file says that they are above the ground, not above a datum."
CLAMPED = "The file says that its heights are to be ignored (clamped to the ground); those that are not 0 were taken."
ID = "leadsman-id"

Triple = tuple[float, float, float | None]


def read_kmz(data: bytes) -> SurveyFile:
    """Return what the first KML file in a KMZ archive holds.

    Raises:
        DesignFaults: no archive, no KML in it, or more in it than it may unpack to.
    """
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            names = archive.namelist()
            if len(names) > MOST_ENTRIES:
                raise refuse("", "too_many", f"an archive of {len(names)} files", f"at most {MOST_ENTRIES}")
            name = next((candidate for candidate in names if candidate.lower().endswith(".kml")), None)
            if name is None:
                raise refuse("", "not_kmz", "an archive without a .kml file", "one .kml file")
            with archive.open(name) as entry:
                text = entry.read(LARGEST_FILE_BYTES + 1)  # what the archive says of its size is not to be trusted
    except (zipfile.BadZipFile, RuntimeError, NotImplementedError, OSError, EOFError, ValueError) as error:
        raise refuse("", "not_kmz", str(error)[:120], "a zip archive without a password") from None
    if len(text) > LARGEST_FILE_BYTES:
        raise refuse("", "too_large", "an archive that unpacks to more", f"at most {LARGEST_FILE_BYTES:,} bytes")
    return read_kml(text)


def read_kml(data: bytes) -> SurveyFile:
    """Return the points, lines, rings and tracks of a KML file's placemarks.

    Raises:
        DesignFaults: it is no KML, or hostile, or too large.
    """
    root = read_xml(data)
    if local_name(root) not in ("kml", "Document", "Folder", "Placemark"):
        raise refuse("", "not_kml", f"a root called {local_name(root)[:40]!r}", "kml")
    spots: list[FilePoint] = []
    walks: list[Walk] = []
    areas: list[Area] = []
    notes: dict[str, None] = {}
    for order, placemark in enumerate((child for child in root.iter() if local_name(child) == "Placemark"), start=1):
        name = (_text(placemark, "name") or f"Placemark {order}")[:120]
        part_id = _own_id(placemark)
        for kind, points in _geometries(placemark, notes):
            if kind == "Point":
                x, y, height = points[0]
                spots.append(FilePoint(name=name, x=x, y=y, height_m=height, part_id=part_id))
            elif kind == "Polygon":
                corners = [(x, y) for x, y, _ in points]
                areas.append(Area(name=name, corners=opened(corners), part_id=part_id))
            else:
                walks.append(Walk(name=name, points=points, part_id=part_id))
    return with_few(SurveyFile(format="KML", system=WGS84, spots=spots, walks=walks, areas=areas, notes=list(notes)))


def _geometries(placemark: Element, notes: dict[str, None]) -> Iterator[tuple[str, list[Triple]]]:
    for element in placemark.iter():
        kind = local_name(element)
        if kind in ("Point", "LineString", "LinearRing"):
            mode = _text(element, "altitudeMode") or "clampToGround"
            points = _coordinates(_text(element, "coordinates") or "", mode, notes)
            if points:
                yield ("Polygon" if kind == "LinearRing" else kind), points if kind != "Point" else points[:1]
        elif kind == "Track":
            mode = _text(element, "altitudeMode") or "clampToGround"
            stops = [child.text or "" for child in element if local_name(child) == "coord"]
            points = _coordinates(" ".join(",".join(stop.split()) for stop in stops), mode, notes)
            if points:
                yield kind, points


def _coordinates(text: str, mode: str, notes: dict[str, None]) -> list[Triple]:
    points: list[Triple] = []
    for triple in text.replace(", ", ",").replace(" ,", ",").split():
        parts = [figure for figure in triple.split(",") if figure]
        if len(parts) < 2:
            raise refuse("coordinates", "no_position", triple[:60], "longitude,latitude or longitude,latitude,altitude")
        x, y = number(parts[0], "coordinates"), number(parts[1], "coordinates")
        height = number(parts[2], "coordinates") if len(parts) > 2 else None
        if height is not None and mode not in ("absolute", "clampToGround"):
            notes[IGNORED] = None
            height = None
        if height is not None and mode == "clampToGround":
            height = height or None  # 0 is what programs write where they know none
            if height is not None:
                notes[CLAMPED] = None
        points.append((x, y, height))
    return points


def _text(element: Element, name: str) -> str | None:
    return next((child.text.strip() for child in element if local_name(child) == name and child.text), None)


def _own_id(placemark: Element) -> str | None:
    for data in placemark.iter():
        if local_name(data) == "Data" and data.get("name") == ID:
            return _text(data, "value")
    return None


def write_kml(placed: PlacedDesign) -> bytes:
    """Return places as points, lines as paths and paddocks as polygons, with heights above the plan's datum."""
    root = Element("kml", xmlns=NAMESPACE)
    document = SubElement(root, "Document")
    SubElement(document, "name").text = placed.design.name
    for spot in placed.spots:
        mark = _placemark(document, spot.name, spot.part_id, placed.told_of(spot))
        _geometry(mark, "Point", [(spot.x, spot.y, spot.height_m)])
    for walk in placed.walks:
        _geometry(_placemark(document, walk.name, walk.part_id), "LineString", walk.points)
    for area in placed.areas:
        polygon = SubElement(_placemark(document, area.name, area.part_id), "Polygon")
        ring: list[Triple] = [(x, y, None) for x, y in area.ring]
        _geometry(SubElement(polygon, "outerBoundaryIs"), "LinearRing", ring)
    indent(root)
    written: bytes = tostring(root, encoding="utf-8", xml_declaration=True)
    return written


def _placemark(document: Element, name: str, part_id: str | None, told: str = "") -> Element:
    mark = SubElement(document, "Placemark")
    SubElement(mark, "name").text = name
    if told:
        SubElement(mark, "description").text = told
    data = SubElement(SubElement(mark, "ExtendedData"), "Data", name=ID)
    SubElement(data, "value").text = part_id
    return mark


def _geometry(parent: Element, kind: str, points: list[Triple]) -> None:
    element = SubElement(parent, kind)
    if points[0][2] is not None:
        SubElement(element, "altitudeMode").text = "absolute"
    SubElement(element, "coordinates").text = " ".join(
        ",".join(f"{value!r}" for value in point if value is not None) for point in points
    )
