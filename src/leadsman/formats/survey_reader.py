"""Which format a file is, by what stands in it and not by what it is called; and the reader for it."""

from leadsman.core.survey.survey_file import SurveyFile, refuse
from leadsman.formats.geojson import read_geojson
from leadsman.formats.gpx import read_gpx
from leadsman.formats.height_grid import HeightGrid, read_height_grid
from leadsman.formats.kml import read_kml, read_kmz
from leadsman.formats.limits import LARGEST_FILE_BYTES
from leadsman.formats.points_csv import read_points_csv

HEAD_BYTES = 4_096
TIFF = (b"II*\x00", b"MM\x00*", b"II+\x00", b"MM\x00+")
PACKED = {b"\x1f\x8b": "gzip", b"BZh": "bzip2", b"7z\xbc": "7z", b"Rar": "rar", b"\xfd7z": "xz"}


def read_survey(data: bytes, name: str = "") -> SurveyFile | HeightGrid:
    """Return what a file holds: GPX, KML, KMZ, GeoJSON, a table of points, an ESRI ASCII grid or a GeoTIFF.

    Raises:
        DesignFaults: it is too large, packed, or none of these; or its reader refuses it.
    """
    if len(data) > LARGEST_FILE_BYTES:
        raise refuse("", "too_large", f"{len(data):,} bytes", f"at most {LARGEST_FILE_BYTES:,} bytes")
    if not data.strip():
        raise refuse("", "empty", "an empty file", "a file with something in it")
    for magic, kind in PACKED.items():
        if data.startswith(magic):
            raise refuse("", "packed", f"a file packed by {kind}", "the file itself: unpack it first")
    if data.startswith(b"PK\x03\x04"):
        return read_kmz(data)
    if data.startswith(TIFF):
        return read_height_grid(data, "tif")
    head = _text_of(data[:HEAD_BYTES])
    if head.startswith("<"):
        return _read_xml(data, head, name)
    if head.startswith(("{", "[")):
        return read_geojson(data)
    if head.startswith("ncols"):
        return read_height_grid(data, "asc")
    return read_points_csv(data)


def _text_of(head: bytes) -> str:
    """Return the head's letters without byte-order mark, blanks and the zeros of two-byte text."""
    return head.decode("latin-1").replace("\x00", "").lstrip("\xef\xbb\xbf\xff\xfe \t\r\n").casefold()


def _read_xml(data: bytes, head: str, name: str) -> SurveyFile:
    gpx, kml = (head.find(word) for word in ("<gpx", "<kml"))
    if gpx < 0 and ":gpx" in head and "/gpx/" in head:
        gpx = head.index(":gpx")
    if gpx >= 0 and (kml < 0 or gpx < kml):
        return read_gpx(data)
    if kml >= 0 or "/kml/" in head or name.casefold().endswith(".kml"):
        return read_kml(data)
    if name.casefold().endswith(".gpx"):
        return read_gpx(data)
    raise refuse("", "unknown_format", f"XML that begins {head[:40]!r}", "GPX or KML")
