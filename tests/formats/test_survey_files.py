"""Files of surveyed things: odd but legal forms are read, hostile and broken ones refused with their reason."""

import io
import zipfile
from pathlib import Path

import numpy as np
import pytest
import rasterio
from affine import Affine

from leadsman.core.base.fault import DesignFaults
from leadsman.core.survey.survey_file import SurveyFile, checked
from leadsman.formats.height_grid import HeightGrid
from leadsman.formats.survey_reader import read_survey

HAND = Path(__file__).parent / "hand"


def survey(data: bytes, name: str = "") -> SurveyFile:
    read = read_survey(data, name)
    assert isinstance(read, SurveyFile)
    return checked(read)


# file by hand, what is odd in it, spots (name, longitude, latitude, height), points of each walk, corners of each area
ODD: list[tuple[str, list[tuple[str, float, float, float | None]], list[int], list[int]]] = [
    ("prefixed.gpx", [("Knoll", -31.2, 46.5, 266.5), ("Waypoint 2", -31.19, 46.51, None)], [], []),
    ("version-1-0.gpx", [("Gate", -31.201, 46.499, 257.0)], [2, 3], []),
    ("two-segments.gpx", [], [2, 2], [4]),
    ("folders.kml", [("Weir", -31.202, 46.5003, 271.5), ("Gate", -31.2, 46.5, None)], [3], [4]),
    ("track.kml", [], [3], []),
    ("no-namespace.kml", [("Yard", -31.25, 46.5, None)], [2], []),
]


@pytest.mark.parametrize(("file", "spots", "walks", "areas"), ODD, ids=[one[0] for one in ODD])
def test_odd_but_legal_files_are_read(
    file: str, spots: list[tuple[str, float, float, float | None]], walks: list[int], areas: list[int]
) -> None:
    data = (HAND / file).read_bytes()
    for encoded in (data, b"\xef\xbb\xbf" + data):
        read = survey(encoded, file)
        assert [(spot.name, spot.x, spot.y, spot.height_m) for spot in read.spots] == spots
        assert [len(walk.points) for walk in read.walks] == walks
        assert [len(area.corners) for area in read.areas] == areas
        assert read.system == "wgs84"
    if file == "folders.kml":
        assert any("above the ground" in note for note in read.notes)
        archive = io.BytesIO()
        with zipfile.ZipFile(archive, "w", zipfile.ZIP_DEFLATED) as packed:
            packed.writestr("doc.kml", data)
        assert survey(archive.getvalue()).spots == read.spots


GEOJSON: list[tuple[str, int, int, int]] = [
    ('{"type": "Point", "coordinates": [-31.2, 46.5, 250]}', 1, 0, 0),
    ('{"type": "Feature", "geometry": {"type": "MultiPoint", "coordinates": [[1, 2], [3, 4]]}, "properties": null}',
     2, 0, 0),
    ('{"type": "FeatureCollection", "features": [{"type": "Feature", "geometry": null, "properties": {}}, '
     '{"type": "Feature", "id": 7, "properties": {"name": 3, "ele": 12}, "geometry": {"type": "GeometryCollection", '
     '"geometries": [{"type": "Point", "coordinates": [0, 0]}, {"type": "MultiPolygon", "coordinates": '
     '[[[[0, 0], [1, 0], [1, 1], [0, 0]]]]}, {"type": "MultiLineString", "coordinates": [[[0, 0], [1, 1]], []]}]}}]}',
     1, 1, 1),
]  # fmt: skip


@pytest.mark.parametrize(("text", "spots", "walks", "areas"), GEOJSON)
def test_every_geometry_of_geojson_is_read(text: str, spots: int, walks: int, areas: int) -> None:
    read = survey(text.encode())
    assert (len(read.spots), len(read.walks), len(read.areas)) == (spots, walks, areas)


def test_heights_stand_in_the_third_coordinate_or_among_the_properties() -> None:
    point = '{"type": "Point", "coordinates": [1, 2]}'
    text = f'{{"type": "Feature", "properties": {{"elevation": 12.5}}, "geometry": {point}}}'
    assert survey(text.encode()).spots[0].height_m == 12.5
    projected = '{"crs": {"type": "name", "properties": {"name": "urn:ogc:def:crs:EPSG::32625"}}, ' + text[1:]
    assert survey(projected.encode()).system == "EPSG:32625"


TABLES: list[tuple[str, str | None, list[tuple[str, float, float, float | None]]]] = [
    ("name,latitude,longitude,height\nKnoll,46.5,-31.2,266.4\n", "wgs84", [("Knoll", -31.2, 46.5, 266.4)]),
    ("Höhe;x\n", None, []),
    (
        "z;Nr;north;east\n[m];-;[m];[m]\n266,4;7;12,50;-3,25\n;8;1.200,5;4\n",
        None,
        [("7", -3.25, 12.5, 266.4), ("8", 4.0, 1200.5, None)],
    ),
    ("Easting (m)\tNorthing (m)\tElev_ft\tPoint\n10\t20\t100\tA\n", None, [("A", 10.0, 20.0, 30.48)]),
    ("Y,X,RL\nm,m,ft\n20,10,50\n", None, [("Point 1", 10.0, 20.0, 15.24)]),
    ('# made up\n\n"lon","lat"\n"-31,2","46,5"\n', "wgs84", [("Point 1", -31.2, 46.5, None)]),
]


@pytest.mark.parametrize(("text", "system", "spots"), TABLES)
def test_tables_are_read_in_any_order_of_columns(
    text: str, system: str | None, spots: list[tuple[str, float, float, float | None]]
) -> None:
    for data in (text.encode(), text.replace("\n", "\r\n").encode("utf-8-sig"), text.encode("utf-16")):
        if not spots:
            with pytest.raises(DesignFaults) as refused:
                survey(data)
            assert refused.value.faults[0].code == "missing_column"
            continue
        read = survey(data)
        assert read.system == system
        for spot, (name, x, y, height) in zip(read.spots, spots, strict=True):
            assert (spot.name, spot.x, spot.y) == (name, x, y)
            assert spot.height_m == (None if height is None else pytest.approx(height))


def tiff(heights: np.ndarray, crs: str | None = "EPSG:32625", bands: int = 1) -> bytes:
    with rasterio.MemoryFile() as memory:
        with memory.open(driver="GTiff", width=heights.shape[1], height=heights.shape[0], count=bands,
                         dtype=heights.dtype.name, crs=crs, transform=Affine(10, 0, 638_000, 0, -10, 5_151_000),
                         compress="deflate") as dataset:  # fmt: skip
            for band in range(1, bands + 1):
                dataset.write(heights, band)
        data: bytes = memory.read()
        return data


ASCII = b"ncols 3\nnrows 2\nxllcorner 0\nyllcorner 0\ncellsize 10\nNODATA_value -9999\n1 2 3\n4 5 -9999\n"


def test_grids_are_read_and_heights_taken_between_the_cells() -> None:
    grid = read_survey(ASCII)
    assert isinstance(grid, HeightGrid)
    assert (grid.format, grid.system, grid.step) == ("ESRI ASCII grid", None, 10.0)
    metres = [(5.0, 15.0), (15.0, 15.0), (10.0, 10.0), (25.0, 5.0), (-1.0, 5.0)]
    found = grid.at(metres, metres, "local")
    assert found[:3].tolist() == pytest.approx([1.0, 2.0, 3.0])  # a centre, a centre, the middle of four cells
    assert np.isnan(found[3:]).all()  # no height there; outside
    raster = read_survey(tiff(np.full((30, 40), 250.0, dtype=np.float32)))
    assert isinstance(raster, HeightGrid)
    assert (raster.format, raster.system, raster.heights_m.shape) == ("GeoTIFF", "EPSG:32625", (30, 40))


BOMB = b'<?xml version="1.0"?><!DOCTYPE gpx [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;">]><gpx>&b;</gpx>'
OUTSIDE = b'<?xml version="1.0"?><!DOCTYPE gpx SYSTEM "file:///etc/hostname"><gpx><wpt lat="1" lon="2"/></gpx>'


def zipped(name: str, size: int) -> bytes:
    archive = io.BytesIO()
    with zipfile.ZipFile(archive, "w", zipfile.ZIP_DEFLATED) as packed:
        packed.writestr(name, b" " * size)
    return archive.getvalue()


REFUSED: list[tuple[str, bytes, str]] = [
    ("nothing", b"  \n", "empty"),
    ("an entity bomb", BOMB, "hostile"),
    ("an external part", OUTSIDE, "hostile"),
    ("a zip bomb", zipped("doc.kml", 60_000_000), "too_large"),
    ("an archive without KML", zipped("a.txt", 10), "not_kmz"),
    ("a broken archive", b"PK\x03\x04 and then nothing", "not_kmz"),
    ("a packed file", b"\x1f\x8b\x08\x00", "packed"),
    ("too many bytes", b"x" * 24_000_001, "too_large"),
    ("XML that ends too soon", b"<gpx><wpt lat='1' lon='2'>", "not_xml"),
    ("XML of something else", b"<html><body/></html>", "unknown_format"),
    ("XML too deep", b"<kml>" + b"<a>" * 5_000 + b"</a>" * 5_000 + b"</kml>", "too_deep"),
    ("a waypoint without a position", b"<gpx><wpt lat='x' lon='2'/></gpx>", "no_number"),
    ("a latitude off the globe", b"<gpx><wpt lat='91.5' lon='12'/></gpx>", "off_the_globe"),
    ("a GPX without points", b"<gpx version='1.1'/>", "empty"),
    ("times as heights", b"<gpx><wpt lat='46' lon='2'><ele>1764105600</ele></wpt></gpx>", "no_height"),
    ("KML coordinates that are words", b"<kml><Placemark><Point><coordinates>here,there</coordinates></Point>"
     b"</Placemark></kml>", "no_number"),
    ("JSON too deep", b'{"type":' + b"[" * 100_000, "not_json"),
    ("JSON of something else", b'{"type": "Topology"}', "not_geojson"),
    ("a position that is none", b'{"type": "Point", "coordinates": [1]}', "no_position"),
    ("not a number", b'{"type": "Point", "coordinates": [NaN, 1]}', "not_json"),
    ("a table without a header", b"46.5,-31.2,266\n46.6,-31.3,267\n", "missing_column"),
    ("a table with words for numbers", b"lat,lon,h\n46.5,-31.2,high\n", "no_number"),
    ("a table of bytes", b"lat,lon\n\x00\x01", "not_text"),
    ("a grid without rows", b"ncols 10\nnrows 10\n", "not_a_grid"),
    ("a grid of nothing", ASCII.replace(b"1 2 3\n4 5 -9999", b"-9999 -9999 -9999\n-9999 -9999 -9999"), "no_heights"),
    ("a grid of times", ASCII.replace(b"5 -", b"1764105600 -"), "no_height"),
    ("a grid of gigabytes", ASCII.replace(b"ncols 3", b"ncols 90000").replace(b"nrows 2", b"nrows 90000"), "too_large"),
    ("a picture in three colours", tiff(np.zeros((4, 4), dtype=np.uint8), bands=3), "too_many_bands"),
    ("a raster that unpacks to gigabytes", tiff(np.zeros((7_000, 7_000), dtype=np.uint8)), "too_large"),
    ("half a raster", tiff(np.ones((50, 50), dtype=np.float32))[:-400], "not_a_grid"),
]  # fmt: skip


@pytest.mark.parametrize(("data", "code"), [one[1:] for one in REFUSED], ids=[one[0] for one in REFUSED])
def test_hostile_and_broken_files_are_refused_with_the_reason(data: bytes, code: str) -> None:
    def read() -> None:
        found = read_survey(data)
        checked(found) if isinstance(found, SurveyFile) else None

    with pytest.raises(DesignFaults) as refused:
        read()
    fault = refused.value.faults[0]
    assert fault.code == code, fault
    assert fault.found
    assert fault.allowed
