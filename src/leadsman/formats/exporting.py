"""A design handed out in an open format."""

import json
from dataclasses import dataclass
from typing import Literal

from leadsman.core.design import Design
from leadsman.core.design.file import write_design
from leadsman.formats.geojson import write_geojson
from leadsman.formats.gpx import write_gpx
from leadsman.formats.kml import write_kml
from leadsman.formats.placed import placed
from leadsman.formats.points_csv import write_points_csv

Export = Literal["design", "gpx", "geojson", "kml", "csv"]


@dataclass(frozen=True)
class Kind:
    """Suffix and media type of a format."""

    suffix: str
    mime: str


KINDS: dict[Export, Kind] = {
    "design": Kind("leadsman.json", "application/json"),
    "gpx": Kind("gpx", "application/gpx+xml"),
    "geojson": Kind("geojson", "application/geo+json"),
    "kml": Kind("kml", "application/xml"),
    "csv": Kind("csv", "text/csv"),
}


def exported(design: Design, kind: Export) -> bytes:
    """Return a design in a format.

    Raises:
        DesignFaults: the format lies on the globe and the plan does not.
    """
    match kind:
        case "design":
            return (json.dumps(write_design(design), ensure_ascii=False, indent=1) + "\n").encode()
        case "csv":
            return write_points_csv(design)
        case "gpx":
            return write_gpx(placed(design))
        case "kml":
            return write_kml(placed(design))
    return write_geojson(placed(design))
