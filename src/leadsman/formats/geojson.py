"""GeoJSON (RFC 7946): features in; places, lines and paddocks out, each with all that the design says of it."""

import json
from collections.abc import Iterator
from typing import Any

from leadsman.core.design.file import write_design
from leadsman.core.survey.survey_file import WGS84, Area, FilePoint, SurveyFile, Walk, opened, refuse
from leadsman.formats.limits import with_few
from leadsman.formats.placed import PlacedDesign

Json = Any
HEIGHT_KEYS = ("ground_m", "height_m", "ele", "elevation", "altitude", "height", "z")
DEEPEST = 12


def read_geojson(data: bytes) -> SurveyFile:
    """Return the points, lines and polygons of a feature collection, a feature or a geometry.

    Raises:
        DesignFaults: it is no GeoJSON, or too deep or too large; says where.
    """
    try:
        document = json.loads(data.decode("utf-8-sig"), parse_constant=_no_constant)
    except (ValueError, RecursionError) as error:
        why = "nested too deep" if isinstance(error, RecursionError) else str(error)[:120]
        raise refuse("", "not_json", why, "one JSON object in UTF-8") from None
    if not isinstance(document, dict):
        raise refuse("", "not_geojson", type(document).__name__, "one JSON object with a type")
    spots: list[FilePoint] = []
    walks: list[Walk] = []
    areas: list[Area] = []
    for number, (where, feature) in enumerate(_features(document), start=1):
        properties = feature.get("properties")
        own = properties if isinstance(properties, dict) else {}
        name, part_id = _name(own, number), own.get("id", feature.get("id"))
        part_id = part_id if isinstance(part_id, str) else None
        height = next((own[key] for key in HEIGHT_KEYS if _is_number(own.get(key))), None)
        for kind, where_at, coordinates in _geometries(feature.get("geometry"), f"{where}/geometry", 0):
            match kind:
                case "Point":
                    x, y, z = _position(coordinates, where_at)
                    spots.append(
                        FilePoint(name=name, x=x, y=y, height_m=z if z is not None else height, part_id=part_id)
                    )
                case "LineString":
                    walks.append(Walk(name=name, points=_positions(coordinates, where_at), part_id=part_id))
                case "Polygon":
                    ring = _list(coordinates, where_at)
                    corners = [(x, y) for x, y, _ in _positions(ring[0] if ring else [], f"{where_at}/0")]
                    if corners:
                        areas.append(Area(name=name, corners=opened(corners), part_id=part_id))
    walks = [walk for walk in walks if walk.points]
    return with_few(SurveyFile(format="GeoJSON", system=_system(document), spots=spots, walks=walks, areas=areas))


def _no_constant(name: str) -> None:
    raise ValueError(f"{name} is not a number of JSON")


def _system(document: dict[str, Json]) -> str:
    """Return the system of coordinates: WGS 84, unless an older file's `crs` names another."""
    crs = document.get("crs")
    named = crs.get("properties") if isinstance(crs, dict) else None
    name = named.get("name") if isinstance(named, dict) else None
    if not isinstance(name, str) or name.upper().endswith(("CRS84", "4326")):
        return WGS84
    code = name.rpartition(":")[2]
    return f"EPSG:{code}" if code.isdigit() else name[:60]


def _features(document: dict[str, Json]) -> Iterator[tuple[str, dict[str, Json]]]:
    kind = document.get("type")
    if kind == "FeatureCollection":
        for index, feature in enumerate(_list(document.get("features"), "/features")):
            if not isinstance(feature, dict):
                raise refuse(f"/features/{index}", "not_geojson", type(feature).__name__, "a feature")
            yield f"/features/{index}", feature
    elif kind == "Feature":
        yield "", document
    elif isinstance(kind, str) and ("coordinates" in document or "geometries" in document):
        yield "", {"geometry": document}
    else:
        raise refuse("/type", "not_geojson", repr(kind)[:60], "FeatureCollection, Feature or a geometry")


def _geometries(geometry: Json, where: str, depth: int) -> Iterator[tuple[str, str, Json]]:
    """Yield each single geometry: kind, where it stands, its coordinates."""
    if geometry is None:
        return
    if not isinstance(geometry, dict) or depth > DEEPEST:
        raise refuse(where, "not_geojson", type(geometry).__name__, "a geometry, or null")
    kind = geometry.get("type")
    if kind == "GeometryCollection":
        for index, member in enumerate(_list(geometry.get("geometries"), f"{where}/geometries")):
            yield from _geometries(member, f"{where}/geometries/{index}", depth + 1)
    elif kind in ("Point", "LineString", "Polygon"):
        yield kind, f"{where}/coordinates", geometry.get("coordinates")
    elif kind in ("MultiPoint", "MultiLineString", "MultiPolygon"):
        for index, member in enumerate(_list(geometry.get("coordinates"), f"{where}/coordinates")):
            yield kind.removeprefix("Multi"), f"{where}/coordinates/{index}", member
    else:
        raise refuse(f"{where}/type", "not_geojson", repr(kind)[:60], "a type of geometry of RFC 7946")


def _positions(value: Json, where: str) -> list[tuple[float, float, float | None]]:
    return [_position(position, f"{where}/{index}") for index, position in enumerate(_list(value, where))]


def _position(value: Json, where: str) -> tuple[float, float, float | None]:
    if not isinstance(value, list) or len(value) < 2 or not all(_is_number(number) for number in value[:3]):
        raise refuse(where, "no_position", json.dumps(value)[:60], "[longitude, latitude] or with a height")
    return float(value[0]), float(value[1]), float(value[2]) if len(value) > 2 else None


def _is_number(value: Json) -> bool:
    return isinstance(value, int | float) and not isinstance(value, bool) and abs(value) < 1e12


def _list(value: Json, where: str) -> list[Json]:
    if not isinstance(value, list):
        raise refuse(where, "not_geojson", type(value).__name__, "a list")
    return value


def _name(properties: dict[str, Json], number: int) -> str:
    found = next((properties[key] for key in ("name", "title", "label") if properties.get(key)), None)
    return str(found)[:120] if isinstance(found, str | int | float) else f"Feature {number}"


def write_geojson(placed: PlacedDesign) -> bytes:
    """Return a feature collection; the properties of each feature are the part as the design file writes it."""
    document = write_design(placed.design)
    parts = {part["id"]: part for key in ("places", "lines", "paddocks") for part in document.get(key, [])}
    features = [
        _feature(spot.name, parts[spot.part_id or ""], "Point", [spot.x, spot.y, spot.height_m])
        for spot in placed.spots
    ]
    features += [
        _feature(walk.name, parts[walk.part_id or ""], "LineString", [list(point) for point in walk.points])
        for walk in placed.walks
    ]
    for area in placed.areas:
        ring = [[list(corner) for corner in area.ring]]
        features.append(_feature(area.name, parts[area.part_id or ""], "Polygon", ring))
    collection = {"type": "FeatureCollection", "name": placed.design.name, "features": features}
    return json.dumps(collection, ensure_ascii=False, indent=1).encode()


def _feature(name: str, part: dict[str, Json], kind: str, coordinates: Json) -> dict[str, Json]:
    properties = {"name": name, **{key: value for key, value in part.items() if key != "corners"}}
    return {"type": "Feature", "id": part["id"], "properties": properties,
            "geometry": {"type": kind, "coordinates": coordinates}}  # fmt: skip
