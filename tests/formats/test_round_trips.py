"""Any plan handed out and taken in again is the plan it was: places, heights, lines and paddocks of made-up farms."""

from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from examples import Document
from leadsman.core.design import Design
from leadsman.core.design.file import read_design, write_design
from leadsman.formats.exporting import Export, exported
from leadsman.formats.importing import ImportAsked, import_survey
from properties import examples

NAMES = st.text(
    st.characters(codec="utf-8", exclude_categories=["Cs", "Cc", "Zl", "Zp"]), min_size=1, max_size=20
).filter(lambda text: text == text.strip() and text[:1] not in "=+-@'\t#")
METRES = st.floats(-3_000, 3_000).map(lambda value: round(value, 2))
GROUND = st.floats(-50, 2_500).map(lambda value: round(value, 2))


@st.composite
def farms(draw: st.DrawFn) -> Design:
    """A made-up farm of places apart from one another, lines between them with points, and a paddock."""
    count = draw(st.integers(2, 6))
    spots = draw(st.lists(st.tuples(METRES, METRES), min_size=count, max_size=count,
                          unique_by=lambda pair: (round(pair[0] / 25), round(pair[1] / 25))))  # fmt: skip
    names = draw(st.lists(NAMES, min_size=count, max_size=count, unique_by=str.casefold))
    places: list[Document] = [
        {"id": f"p{n}", "name": name, "east_m": east, "north_m": north, "ground_m": draw(GROUND)}
        for n, (name, (east, north)) in enumerate(zip(names, spots, strict=True))
    ]
    lines: list[Document] = []
    for number in range(draw(st.integers(0, 2))):
        start, end = places[number], places[number + 1] if number + 1 < count else places[0]
        if start is end:
            continue
        length = round(
            ((start["east_m"] - end["east_m"]) ** 2 + (start["north_m"] - end["north_m"]) ** 2) ** 0.5 + 30, 1
        )
        middle = [[round(length * share, 2), draw(GROUND)] for share in (0.3, 0.55, 0.8)][: draw(st.integers(0, 3))]
        points = [[0.0, start["ground_m"]], *middle, [length, end["ground_m"]]]
        ends = {"from": start["id"], "to": end["id"]}
        lines.append({"id": f"l{number}", "name": f"Line {number}", **ends, "bore_mm": 26.0, "roughness_mm": 0.007,
                      "length_m": length, "points": points})  # fmt: skip
    east, north = places[0]["east_m"], places[0]["north_m"]
    paddock = {"id": "field", "name": "Field", "outlet": "tap",
               "corners": [[east, north], [east + 40, north], [east + 40, north + 60]]}  # fmt: skip
    return read_design({
        "format": "leadsman-design", "version": 1, "name": "Any", "places": places, "lines": lines,
        "site": {"name": "Tamsel Ridge", "anchor": {"latitude_deg": draw(st.floats(-60, 70)),
                                                    "longitude_deg": draw(st.floats(-179, 179))}},
        "outlets": [{"id": "tap", "place": "p0", "kind": "open_end", "height_m": 0.5, "bore_mm": 20}],
        "paddocks": [paddock],
    })  # fmt: skip


def back(design: Design, kind: Export) -> Any:
    asked = ImportAsked.model_validate({"document": write_design(design), "name": "own", "datum": "site"})
    return import_survey(exported(design, kind), asked)


@examples(150)
@given(farms(), st.sampled_from(["gpx", "kml", "geojson", "csv"]))
def test_a_plan_comes_back_as_it_went(design: Design, kind: Export) -> None:
    report = back(design, kind)
    assert report.questions == []
    assert report.document is not None
    assert write_design(report.document) == write_design(design)


@examples(60)
@given(farms(), st.sampled_from(["gpx", "kml", "geojson", "csv"]))
def test_an_empty_plan_takes_over_every_place_where_it_lies(design: Design, kind: Export) -> None:
    document = write_design(design)
    empty = {**document, "places": [{"id": "far-off", "east_m": 9_000, "north_m": 9_000, "ground_m": 0.0}], "lines": [],
             "paddocks": [], "outlets": []}  # fmt: skip
    asked = ImportAsked.model_validate({"document": empty, "name": "own", "datum": "site"})
    report = import_survey(exported(design, kind), asked)
    assert report.document is not None
    taken = {place.name: place for place in report.document.places if place.id != "far-off"}
    assert len(taken) == len(design.places)
    for place in design.places:
        found = taken[place.name]
        assert abs(found.east_m - place.east_m) <= 2e-3
        assert abs(found.north_m - place.north_m) <= 2e-3
        assert found.ground_m == place.ground_m
