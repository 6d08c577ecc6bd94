"""Every export is opened by a reader that shares no code with the writer, and holds what the plan says."""

import json
import struct
from pathlib import Path
from typing import Any

import pyogrio
import pytest

from leadsman.core.base.fault import DesignFaults
from leadsman.core.design import label
from leadsman.core.design.file import read_design, read_design_text, write_design
from leadsman.demo import tamsel_ridge
from leadsman.formats.exporting import KINDS, Export, exported

RIDGE = write_design(tamsel_ridge())
RIDGE["paddocks"][0]["corners"] = [[0, -200], [50, -200], [50, -260], [0, -260]]
RIDGE["places"][0]["name"] = "=Weir & <box>, „Mühle“"
DESIGN = read_design(RIDGE)
FENCED = [paddock for paddock in DESIGN.paddocks if len(paddock.corners) > 2]


def opened(folder: Path, kind: Export, layer: str | None = None) -> tuple[list[str], dict[str, list[Any]], list[bytes]]:
    """Return names of fields, columns and geometries (WKB) as GDAL's vector readers see them."""
    path = folder / f"plan.{KINDS[kind].suffix}"
    path.write_bytes(exported(DESIGN, kind))
    meta, _, geometry, columns = pyogrio.raw.read(path, layer=layer)
    fields = meta["fields"].tolist()
    return (
        fields,
        dict(zip(fields, [column.tolist() for column in columns], strict=True)),
        list(geometry if geometry is not None else []),
    )


def height_of(point: bytes) -> float:
    """Return z of a little-endian WKB point."""
    *_, z = struct.unpack("<BIddd", point)
    return float(z)


def test_gpx_is_opened_with_names_heights_and_tracks(tmp_path: Path) -> None:
    _, columns, _ = opened(tmp_path, "gpx", "waypoints")
    assert columns["name"] == [label(place) for place in DESIGN.places]
    assert columns["ele"] == pytest.approx([place.ground_m for place in DESIGN.places])
    assert "height from staff" in columns["desc"][1]
    _, columns, _ = opened(tmp_path, "gpx", "tracks")
    assert columns["name"] == [label(line) for line in DESIGN.lines] + [label(one) for one in FENCED]
    _, columns, _ = opened(tmp_path, "gpx", "track_points")
    assert columns["ele"][:4] == [271.6, 269.2, 267.3, 266.4]


def test_kml_and_geojson_are_opened_with_every_point_line_and_area(tmp_path: Path) -> None:
    counts = len(DESIGN.places) + len(DESIGN.lines) + len(FENCED)
    for kind, name in (("kml", "Name"), ("geojson", "name")):
        _, columns, geometry = opened(tmp_path, kind)  # type: ignore[arg-type]
        assert len(geometry) == counts
        assert columns[name][0] == RIDGE["places"][0]["name"]
        points = geometry[: len(DESIGN.places)]
        assert [height_of(point) for point in points] == pytest.approx([place.ground_m for place in DESIGN.places])
    assert json.loads(exported(DESIGN, "geojson"))["features"][0]["properties"]["height_error_m"] == 0.3


def test_the_table_is_opened_and_is_no_formula_for_a_spreadsheet(tmp_path: Path) -> None:
    _, columns, _ = opened(tmp_path, "csv")
    assert columns["id"] == [place.id for place in DESIGN.places]
    assert [float(one) for one in columns["ground_m"]] == [place.ground_m for place in DESIGN.places]
    assert columns["name"][0].startswith("'=")


def test_the_design_file_comes_back_the_same() -> None:
    assert write_design(read_design_text(exported(DESIGN, "design"))) == RIDGE


def test_a_plan_that_lies_nowhere_has_a_table_and_nothing_on_the_globe() -> None:
    document = json.loads(json.dumps(RIDGE))
    del document["site"]["anchor"]
    lost = read_design(document)
    assert b"latitude" not in exported(lost, "csv")
    with pytest.raises(DesignFaults) as refused:
        exported(lost, "kml")
    assert refused.value.faults[0].path == "/site/anchor"
