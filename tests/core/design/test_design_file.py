"""The design file: what is refused, with every fault's path, and what comes back unchanged."""

import json
from typing import Any

import jsonschema
import pytest

from examples import Document, one_line, worked_example
from leadsman.core.base.fault import DesignFaults
from leadsman.core.design.file import LARGEST_BYTES, read_design, read_design_text, schema_text, write_design
from leadsman.demo import tamsel_ridge

BOX = {"kind": "box", "length_m": 1.0, "width_m": 1.0, "height_m": 1.0}
AT_TOP: Document = {"id": "well", "place": "top"}
PAIL = [{"volume_l": 20.0, "time_s": 60.0}]
BAD_SOURCES: list[tuple[Document, str, str]] = [
    ({**AT_TOP, "kind": "well", "static_kpa": 250.0, "timings": []}, "/timings", "too_short"),
    ({**AT_TOP, "kind": "well", "static_kpa": 0.0, "timings": PAIL}, "/static_kpa", "greater_than"),
    ({**AT_TOP, "kind": "mains", "static_kpa": 250.0, "timings": PAIL, "timed_kpa": 250.0}, "", "not_allowed"),
    ({**AT_TOP, "kind": "well", "static_kpa": 250.0, "timings": PAIL, "cut_in_kpa": 200.0}, "", "not_allowed"),
    ({**AT_TOP, "kind": "well", "static_kpa": 350.0, "timings": PAIL, "cut_in_kpa": 200.0, "cut_out_kpa": 300.0}, "",
     "not_allowed"),
    ({**AT_TOP, "kind": "ram", "fall_m": 2.0}, "", "not_allowed"),
    ({**AT_TOP, "kind": "ram", "fall_m": -2.0, "drive_lpm": 40.0}, "/fall_m", "greater_than"),
    ({**AT_TOP, "kind": "geyser"}, "", "union_tag_invalid"),
    ({**AT_TOP, "kind": "ram", "fall_m": 2.0, "drive_lpm": 40.0, "place": "nowhere"}, "/place", "unknown_id"),
]  # fmt: skip
BAD: list[tuple[dict[str, Any], str, str]] = [
    ({"vessels.0.place": "nowhere"}, "/vessels/0/place", "unknown_id"),
    ({"lines.0.to": "nowhere"}, "/lines/0/to", "unknown_id"),
    ({"lines.0.to": "tank"}, "/lines/0/to", "same_ends"),
    ({"outlets.0.fills": "valve"}, "/outlets/0/fills", "unknown_id"),
    ({"herds.0.outlet": "trough"}, "/herds/0/outlet", "unknown_id"),
    ({"shown_for": "winter"}, "/shown_for", "unknown_id"),
    ({"vessels.1.id": "top"}, "/vessels/1/id", "duplicate_id"),
    ({"lines.0.bore_mm": -27.2}, "/lines/0/bore_mm", "greater_than_equal"),
    ({"lines.0.product": "no-such-pipe"}, "/lines/0/product", "unknown_name"),
    ({"lines.0.fittings": [{"product": "pe100-sdr11-25"}]}, "/lines/0/fittings/0/product", "unknown_name"),
    ({"lines.0.fittings": [{"count": 2}]}, "/lines/0/fittings/0", "not_allowed"),
    ({"herds.0.class": "unicorn"}, "/herds/0/class", "unknown_name"),
    ({"herds.0.head": 2.5}, "/herds/0/head", "int_type"),
    ({"places.0.ground_m": float("nan")}, "/places/0/ground_m", "finite_number"),
    ({"places.0.ground_m": float("inf")}, "/places/0/ground_m", "finite_number"),
    ({"places.0.ground_m": "120"}, "/places/0/ground_m", "float_type"),
    ({"places.0.ground_m": True}, "/places/0/ground_m", "float_type"),
    ({"places": {}}, "/places", "list_type"),
    ({"places.0.id": "no spaces"}, "/places/0/id", "string_pattern_mismatch"),
    ({"lines.0.points": [[0, 120], [207.0, 101]]}, "/lines/0/points", "not_allowed"),
    ({"lines.0.points": [[0, 120], [150, 90], [100, 95], [210, 101]]}, "/lines/0/points", "not_allowed"),
    ({"lines.0.inline": [{"kind": "drain", "at_m": 211}]}, "/lines/0", "not_allowed"),
    ({"lines.0.product": None}, "/lines/0", "not_allowed"),
    ({"vessels.0.level_m": 2.1}, "/vessels/0/level_m", "not_allowed"),
    ({"vessels.0.overflow_m": 0.9}, "/vessels/0/level_m", "not_allowed"),
    ({"vessels.0.shape.kind": "sphere"}, "/vessels/0/shape", "union_tag_invalid"),
    ({"vessels.0.shape": {**BOX, "length_m": 0}}, "/vessels/0/shape/length_m", "greater_than_equal"),
    ({"vessels.0.shape": {**BOX, "width_m": 0.0008}}, "/vessels/0/shape/width_m", "greater_than_equal"),
    ({"lines.0.length_m": 0}, "/lines/0/length_m", "greater_than"),
    ({"scenarios.0.date": "2026-02-30"}, "/scenarios/0/date", "not_allowed"),
    ({"scenarios.0.date": "9999-12-31"}, "/scenarios/0/date", "not_allowed"),
    ({"scenarios.0.date": "10000-01-01"}, "/scenarios/0/date", "string_pattern_mismatch"),
    ({"vessels.0.shape": {"kind": "stage_volume", "stages": [[0, 0], [2, 50], [1, 90]]}}, "/vessels/0/shape/stages",
     "not_allowed"),
    ({"outlets.0.valve": None}, "/outlets/0/valve", "missing"),
    ({"outlets.0.colour": "red"}, "/outlets/0/colour", "extra_forbidden"),
    ({"requirements.0.vessel": "tank"}, "/requirements/0", "not_allowed"),
    ({"site.water_c": 99}, "/site/water_c", "less_than_equal"),
    ({"version": 2}, "/version", "newer_version"),
]  # fmt: skip


@pytest.mark.parametrize(("changes", "path", "code"), BAD, ids=[f"{path} {code}" for _, path, code in BAD])
def test_a_bad_figure_is_refused_with_its_path(changes: Document, path: str, code: str) -> None:
    with pytest.raises(DesignFaults) as refused:
        read_design(one_line(**changes))
    fault = refused.value.faults[0]
    assert (fault.path, fault.code) == (path, code)
    assert fault.found
    assert fault.allowed
    assert "{" not in fault.allowed  # every limit is filled in


def test_every_fault_is_listed_at_once() -> None:
    changes = {"places.0.ground_m": "x", "lines.0.length_m": -1, "vessels.0.place": "gone", "vessels.1.id": "line"}
    with pytest.raises(DesignFaults) as refused:
        read_design(one_line(**changes))
    paths = {fault.path for fault in refused.value.faults}
    assert {"/places/0/ground_m", "/lines/0/length_m", "/vessels/0/place", "/lines/0/id"} <= paths


@pytest.mark.parametrize(
    ("text", "code"),
    [
        (b"", "not_json"),
        (b"{", "not_json"),
        (b"\xff\xfe\x00", "not_json"),
        (b"[" * 200_000, "not_json"),
        (b"[1, 2]", "wrong_type"),
        (b'"a design"', "wrong_type"),
        (b"x" * (LARGEST_BYTES + 1), "too_large"),
    ],
    ids=["nothing", "cut", "binary", "deep", "list", "string", "large"],
)
def test_text_that_is_no_design_is_refused(text: bytes, code: str) -> None:
    with pytest.raises(DesignFaults) as refused:
        read_design_text(text)
    assert refused.value.faults[0].code == code


@pytest.mark.parametrize(
    "document", [one_line(), worked_example(), write_design(tamsel_ridge())], ids=lambda d: d["name"]
)
def test_a_design_is_written_as_it_was_read(document: Document) -> None:
    assert write_design(read_design(document)) == document
    jsonschema.validate(document, json.loads(schema_text()))


def test_demo_is_marked_as_made_up() -> None:
    assert "made up" in tamsel_ridge().site.note.lower()


@pytest.mark.parametrize(("source", "path", "code"), BAD_SOURCES, ids=[f"{p} {c}" for _, p, c in BAD_SOURCES])
def test_a_source_under_pressure_that_cannot_be_is_refused_with_its_path(
    source: Document, path: str, code: str
) -> None:
    with pytest.raises(DesignFaults) as refused:
        read_design(one_line(pressure_sources=[source]))
    assert [(fault.path, fault.code) for fault in refused.value.faults] == [(f"/pressure_sources/0{path}", code)]


def test_one_line_begins_at_a_source_under_pressure_and_has_no_pump() -> None:
    source = {**AT_TOP, "kind": "well", "static_kpa": 250.0, "timings": PAIL}
    second = {"id": "b", "from": "well", "to": "end", "product": "pe100-sdr17-32", "length_m": 9.0}
    changes: Document = {"pressure_sources": [source], "lines.0.from": "well", "lines.1": second}
    changes["lines.0.pump"] = {"flow_lpm": 5.0}
    with pytest.raises(DesignFaults) as refused:
        read_design(one_line(**changes))
    assert {fault.path for fault in refused.value.faults} == {"/lines/0/pump", "/lines/1/from"}
    backwards = one_line(**{"pressure_sources": [source], "lines.0.to": "well"})
    with pytest.raises(DesignFaults) as refused:
        read_design(backwards)
    assert [fault.path for fault in refused.value.faults] == ["/lines/0/to"]
