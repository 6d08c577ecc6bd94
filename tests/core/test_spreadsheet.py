"""No text of a user's becomes a formula in a spreadsheet, and what was written is read again as it was."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from leadsman.core.base.fault import DesignFaults
from leadsman.core.base.spreadsheet import text_cell, text_of_cell
from leadsman.core.catalogue.own import own_products
from leadsman.formats.weather_csv import read_weather_csv

LONG = "x" * 200_000


@pytest.mark.parametrize(
    ("text", "cell"),
    [("=1+1", "'=1+1"), ("-2", "-2"), ("+3e4", "+3e4"), ("-two", "'-two"), ("@x", "'@x"), ("\t=1", "'\t=1"),
     ("Low trough", "Low trough"), ("", ""), ("'quoted'", "'quoted'")],
)  # fmt: skip
def test_what_begins_a_formula_is_told_as_text(text: str, cell: str) -> None:
    assert text_cell(text) == cell


@given(st.text(alphabet="=+-@\t' 1e.x", max_size=8))
def test_a_cell_is_read_as_it_was_written(text: str) -> None:
    if not text.startswith("'"):
        assert text_of_cell(text_cell(text)) == text


@pytest.mark.parametrize("text", [f"product_id,name\n{LONG},x\n", f"{LONG},name\n", "product_id,name\na\rb,c\n"])
def test_a_table_that_is_none_is_refused(text: str) -> None:
    with pytest.raises(DesignFaults):
        own_products("pipe", text)


def test_weather_with_an_endless_cell_is_refused() -> None:
    with pytest.raises(DesignFaults, match="field larger"):
        read_weather_csv(f"date,rain_mm\n2026-01-01,{LONG}\n", "x.csv")
