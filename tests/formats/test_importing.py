"""What a file makes of a design: tied to the plan, asked about where it is not sure, never mixed in silently."""

import json
from contextlib import suppress
from typing import Any

import numpy as np
import pytest
import rasterio
from affine import Affine
from hypothesis import given
from hypothesis import strategies as st

from examples import Document, one_line
from leadsman.core.base.errors import CoreError
from leadsman.core.base.fault import DesignFaults
from leadsman.core.design import Design
from leadsman.core.design.file import read_design, write_design
from leadsman.core.report.survey_import import ImportReport
from leadsman.core.survey.height_network import heights
from leadsman.demo import tamsel_ridge
from leadsman.formats.exporting import exported
from leadsman.formats.guarded import import_guarded
from leadsman.formats.importing import ImportAsked, import_survey
from leadsman.formats.projection import Plane
from properties import examples

RIDGE = tamsel_ridge()
assert RIDGE.site.anchor is not None
PLANE = Plane(RIDGE.site.anchor)


def ask(data: bytes | str, design: Design = RIDGE, **more: Any) -> ImportReport:
    asked = ImportAsked.model_validate({"document": write_design(design), "name": "walk", **more})
    return import_survey(data.encode() if isinstance(data, str) else data, asked)


def table(*rows: tuple[str, float, float, float | str]) -> str:
    """A table of points given in the plan's metres, in degrees."""
    lines = ["name,latitude,longitude,height"]
    for name, east, north, height in rows:
        ((x, y),) = PLANE.degrees([(east, north)])
        lines.append(f"{name},{y!r},{x!r},{height}")
    return "\n".join(lines) + "\n"


def place_of(design: Design | None, place_id: str) -> Document:
    assert design is not None
    return next(place for place in write_design(design)["places"] if place["id"] == place_id)


def test_spots_are_taken_for_places_by_name_then_by_where_they_lie_each_once() -> None:
    near = ("W1", -175, 33, 311.0), ("W2", 113, 74, 309.0)
    rows = table(("weir", 900, 900, 310.0), *near, ("Spring box", 0, 300, 320.0), ("Stake", 20, 20, ""))
    report = ask(rows)
    assert [(spot.of, spot.why) for spot in report.spots] == [
        ("weir", "of the same name"), ("new", "no place there"), ("glasshouse", "at the same spot"),
        ("new", "no place there"), ("skip", "it has no height")]  # fmt: skip
    assert (report.questions, report.document) == (["datum"], None)  # heights, and nobody said above what
    chosen = ask(rows, datum="site", spots={1: "skip", 3: "pit"})
    assert [spot.of for spot in chosen.spots] == ["weir", "skip", "glasshouse", "pit", "skip"]
    with pytest.raises(DesignFaults):
        ask(rows, spots={1: "nowhere"})


def test_heights_of_another_datum_are_lifted_by_the_places_in_common() -> None:
    """A phone that stands 48 m too high, as ellipsoidal heights do, puts a new place where it belongs."""
    off = 48.0
    rows = table(("Weir", -176, 34, 271.6 + off), ("Knoll", -22, 0, 266.4 + off), ("Spring box", 0, 300, 280.0 + off))
    report = ask(rows, datum="differences")
    new = place_of(report.document, "spring-box")
    assert new["ground_m"] == pytest.approx(280.0, abs=0.05)
    assert new["height_from"] == "walk"
    assert place_of(report.document, "weir")["ground_m"] == 271.6  # what was there stays; the new way stands beside it
    assert report.document is not None
    source = next(one for one in heights(report.document).sources if one.source == "walk")
    assert source.raised_m == pytest.approx(-off, abs=0.05)
    mixed = ask(rows, datum="site")
    assert place_of(mixed.document, "spring-box")["ground_m"] == pytest.approx(280.0 + off, abs=0.05)
    alone = ask(table(("Spring box", 0, 300, 328.0)), datum="differences")
    assert (alone.questions, alone.document) == (["common place"], None)


def test_a_plan_without_a_position_is_tied_by_common_names_or_by_what_the_user_says() -> None:
    document = write_design(RIDGE)
    del document["site"]["anchor"]
    free = read_design(document)
    rows = table(("Weir", -176, 34, 271.6), ("Knoll", -22, 2, 266.4), ("X", 5, 5, 266))
    tied = ask(rows, free, datum="site")
    assert tied.anchor is not None
    assert tied.anchor.latitude_deg == pytest.approx(46.5, abs=2e-5)
    assert tied.fit_m == pytest.approx(1.0, abs=0.01)  # one of them is two metres off: each is off by one
    assert tied.document is not None
    assert tied.document.site.anchor is not None
    nameless = table(("A", -176, 34, 271.6), ("B", 5, 5, 266))
    assert ask(nameless, free, datum="site").questions == ["position"]
    said = ask(nameless, free, datum="site", position=[0, "weir"])
    assert said.anchor is not None
    assert said.anchor.longitude_deg == pytest.approx(-31.2, abs=1e-6)


def test_swapped_and_foreign_coordinates_are_not_taken() -> None:
    ((x, y),) = PLANE.degrees([(5, 5)])
    swapped = f"lat,lon,h\n{x},{y},266\n"
    assert ask(swapped, datum="site").questions == ["turned"]
    assert ask(swapped, datum="site", turned=True).questions == []
    with pytest.raises(DesignFaults, match="km from the plan"):
        ask("lat,lon,h\n47.9,11.2,600\n", datum="site")
    assert ask("x,y,z\n1,2,266\n").questions == ["system"]
    local = ask("name,x,y,z\nPeg,1.5,300,266\n", system="local", datum="site")
    assert (place_of(local.document, "peg")["east_m"], local.system) == (1.5, "local")
    with pytest.raises(DesignFaults, match="km from the plan"):
        ask("x,y,z\n500000,5150000,266\n", system="EPSG:32633", datum="site")


def test_a_track_becomes_the_profile_of_the_line_it_runs_along_and_ends_on_its_places() -> None:
    rng = np.random.default_rng(5)
    share = np.linspace(-0.05, 1.05, 900)
    ground = np.interp(share, [0, 0.3, 0.6, 1], [257.8, 253.0, 259.5, 253.2]) + 30.0 + rng.normal(0, 0.3, 900)
    pairs = PLANE.degrees([(118 + s * 140, -172 + s * 54) for s in share])
    points = "".join(
        f'<trkpt lat="{y}" lon="{x}"><ele>{h}</ele></trkpt>' for (x, y), h in zip(pairs, ground, strict=True)
    )
    gpx = f'<gpx version="1.1" creator="x"><trk><name>Evening</name><trkseg>{points}</trkseg></trk></gpx>'
    report = ask(gpx)
    assert [(walk.of, walk.points) for walk in report.walks] == [("hop-leg", 900)]
    assert report.questions == []  # a profile is tied to its ends, whatever its datum
    (profile,) = report.profiles
    assert profile.raised_m == pytest.approx((-30.0, -30.0), abs=1.5)
    assert 4 <= len(profile.points) < 40
    assert report.document is not None
    line = next(one for one in report.document.lines if one.id == "hop-leg")
    assert (line.points[0], line.points[-1]) == ([0.0, 257.8], [152.0, 253.2])
    assert line.points_error_m == 5.0
    assert line.points_from == "walk"
    assert [spot.of for spot in report.spots] == ["skip", "skip"]  # of the places it passes, until the datum is said
    assert report.document.distances[-1].kind == "track"
    assert report.document.distances[-1].over_m == pytest.approx(150.6, abs=4)
    passed = ask(gpx, datum="differences")
    assert [(spot.of, spot.name) for spot in passed.spots] == [
        ("gate", "Evening at Beech gate"),
        ("hops", "Evening at Hop garden"),
    ]
    assert passed.document is not None
    source = next(one for one in heights(passed.document).sources if one.source == "walk")
    assert source.places == 2
    assert source.raised_m == pytest.approx(-30.0, abs=0.6)
    skipped = ask(gpx, walks={0: "skip"})
    assert (skipped.profiles, skipped.changes) == ([], [])


def grid(crs: str | None, transform: Affine, rows: int, columns: int, offset: float = 0.0) -> bytes:
    heights_m = (250.0 + offset + np.arange(columns)[None, :] * 0.1 - np.arange(rows)[:, None] * 0.05).astype(
        np.float32
    )
    with rasterio.MemoryFile() as memory:
        with memory.open(driver="GTiff", width=columns, height=rows, count=1, dtype="float32", crs=crs,
                         transform=transform) as dataset:  # fmt: skip
            dataset.write(heights_m, 1)
        data: bytes = memory.read()
        return data


def test_a_height_grid_gives_places_a_second_way_and_straight_lines_a_profile() -> None:
    ((x, y),) = PLANE.degrees([(-400.0, 300.0)])
    data = grid("EPSG:4326", Affine(0.0001, 0, x, 0, -0.0001, y), 80, 120)
    report = ask(data)
    assert report.grid is not None
    assert (report.grid.covers, report.grid.places) == (13, 13)
    assert report.questions == ["datum"]
    assert report.error_m == 1.5  # of cells of eleven metres
    told = ask(data, datum="differences")
    assert told.document is not None
    assert sum(sight.kind == "grid" for sight in told.document.sights) == 13
    assert [profile.line for profile in told.profiles] == [line.id for line in RIDGE.lines if not line.points]
    ((east, north),) = PLANE.metres([(x + 0.0001 * 40, y - 0.0001 * 30)])  # a corner of cells: half a cell on
    one = one_line()
    one["site"]["anchor"] = {"latitude_deg": 46.5, "longitude_deg": -31.2}
    one["places"][0] |= {"east_m": east, "north_m": north}
    found = ask(data, read_design(one), datum="differences").spots[0]
    assert found.height_m == pytest.approx(250.0 + 39.5 * 0.1 - 29.5 * 0.05, abs=2e-3)
    assert ask(grid(None, Affine(10, 0, -400, 0, -10, 300), 80, 120)).questions == ["system"]
    with pytest.raises(DesignFaults, match="beside the plan"):
        ask(grid("EPSG:4326", Affine(0.0001, 0, x + 3, 0, -0.0001, y), 8, 12))


def test_nothing_changes_when_the_plan_comes_back_from_any_format() -> None:
    document = write_design(RIDGE)
    document["paddocks"][0]["corners"] = [[0.0, -200.0], [50.0, -200.0], [50.0, -260.5], [0.0, -260.0]]
    design = read_design(document)
    for kind in ("gpx", "kml", "geojson", "csv"):
        report = ask(exported(design, kind), design, datum="site")
        assert report.document is not None
        assert write_design(report.document) == document, kind


def test_the_file_is_read_in_a_process_of_its_own_that_says_what_went_wrong() -> None:
    asked = ImportAsked.model_validate({"document": one_line(), "name": "x", "system": "local", "datum": "site"})
    report = import_guarded(b"name,x,y,z\nA,0,0,121\n", asked)
    assert [(spot.of, spot.why) for spot in report.spots] == [("top", "at the same spot")]
    with pytest.raises(DesignFaults) as refused:
        import_guarded(b"<gpx>", asked)
    assert refused.value.faults[0].code == "not_xml"


WHOLE = {kind: exported(RIDGE, kind) for kind in ("gpx", "kml", "geojson", "csv")}
WHOLE["tif"] = grid("EPSG:4326", Affine(0.0001, 0, -31.21, 0, -0.0001, 46.51), 60, 60)
BEFORE = json.dumps(write_design(RIDGE))


Cut = st.tuples(st.floats(0, 1), st.binary(max_size=12), st.integers(0, 40))


@examples(1_200)
@given(
    st.sampled_from(sorted(WHOLE)),
    st.lists(Cut, min_size=1, max_size=6),
    st.sampled_from([None, "site", "differences"]),
)
def test_a_file_broken_at_random_is_read_or_refused_and_never_half_taken(
    kind: str, cuts: list[tuple[float, bytes, int]], datum: str | None
) -> None:
    data = bytearray(WHOLE[kind])
    for share, put, gone in cuts:
        at = int(share * len(data))
        data[at : at + gone] = put
    report = None
    with suppress(CoreError):
        report = ask(bytes(data), datum=datum)
    if report is not None:
        assert (report.document is None) == bool(report.questions)
        assert report.document is None or read_design(write_design(report.document)) == report.document
    assert json.dumps(write_design(RIDGE)) == BEFORE


@examples(800)
@given(st.binary(max_size=300) | st.text(max_size=200).map(str.encode))
def test_bytes_of_any_kind_are_read_or_refused(data: bytes) -> None:
    with suppress(CoreError):  # anything else fails the test
        assert ask(data).changes is not None
