"""Packaged tables: sourced, unique, and true to the published dimensions."""

import re

import pytest

from leadsman.core.catalogue import fitting_product, pipe_product, pipes, rows, sources
from leadsman.core.errors import UnknownName

TABLES = {
    "pipe": ("product_id",), "fitting": ("product_id",), "livestock_intake": ("animal", "weight_kg", "air_c"),
    "animal": ("animal",), "practice": ("animal", "from_c"), "intake_equation": ("equation",),
    "drinking_room": ("animal",),
}  # fmt: skip


@pytest.mark.parametrize("name", TABLES)
def test_every_row_has_a_source_and_a_key_of_its_own(name: str) -> None:
    keys = [tuple(row[column] for column in TABLES[name]) for row in rows(name)]
    assert len(set(keys)) == len(keys)
    for row in rows(name):
        assert row["source_id"] in sources()
        assert row["locator"]
        assert re.search("from memory|common practice, no source", row["note"])


def test_every_source_is_used() -> None:
    assert {row["source_id"] for name in TABLES for row in rows(name)} == set(sources())


@pytest.mark.parametrize(
    ("product", "bore_mm", "class_kpa"),
    [  # EN 12201-2 / ISO 4427-2 and ASTM D2239, from memory; class 20·MRS/(1.25 (SDR − 1))
        ("pe100-sdr11-20", 16.0, 1600),
        ("pe100-sdr11-63", 51.4, 1600),
        ("pe100-sdr13.6-40", 34.0, 1250),
        ("pe100-sdr17-110", 96.8, 1000),
        ("pe80-sdr13.6-32", 27.2, 1000),
        ("pe-cid-1", 26.64, 689),
        ("hose-0.625", 15.9, 600),
    ],
)
def test_pipes_have_their_published_bore_and_class(product: str, bore_mm: float, class_kpa: float) -> None:
    pipe = pipes()[product]
    assert pipe.bore_m * 1000 == pytest.approx(bore_mm, abs=0.011)
    assert pipe.class_kpa == pytest.approx(class_kpa)


def test_an_unknown_name_is_never_replaced() -> None:
    for find in (pipe_product, fitting_product):
        with pytest.raises(UnknownName) as unknown:
            find("no-such-thing", "/lines/0/product")
        assert unknown.value.path == "/lines/0/product"
