"""Documents read again while something on them changes: the same designs and the same faults as read afresh."""

import copy
import json
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from examples import one_line
from leadsman.core.design import Design
from leadsman.core.design_file import faults_from, read_design, write_design
from leadsman.core.reread import MOST_KEPT, Rereader
from leadsman.demo import tamsel_ridge

RIDGE: dict[str, Any] = json.loads(json.dumps(write_design(tamsel_ridge())))
LISTS = ["places", "vessels", "lines", "outlets", "requirements", "herds", "inflows"]
ODD: list[Any] = [None, True, 1, 1.0, -1, 0, "knoll", [], {}, float("nan")]


def outcome(read: Any, document: Any) -> Any:
    """The design, or every fault, of a document."""
    try:
        return read(document)
    except ValidationError as error:
        return faults_from(error)


@settings(max_examples=60)
@given(
    st.lists(
        st.tuples(st.sampled_from(LISTS), st.integers(0, 9), st.integers(0, 9), st.sampled_from(ODD)),
        min_size=1,
        max_size=8,
    )
)
def test_whatever_was_read_before_a_document_is_read_as_if_it_were_the_first(
    changes: list[tuple[str, int, int, Any]],
) -> None:
    reader, document = Rereader(), copy.deepcopy(RIDGE)
    reader.read(RIDGE)
    for kind, number, key, value in changes:
        part = document[kind][number % len(document[kind])]
        part[sorted(part)[key % len(part)]] = value
        assert outcome(reader.read, document) == outcome(Design.model_validate, document)
        assert outcome(reader.read, RIDGE) == read_design(RIDGE)


def test_what_is_written_alike_is_the_very_part_of_before_and_the_rest_is_new() -> None:
    reader, moved = Rereader(), copy.deepcopy(RIDGE)
    first = reader.read(RIDGE)
    moved["places"][1]["east_m"] += 1.0
    second = reader.read(moved)
    assert second.lines[0] is first.lines[0]
    assert second.places[0] is first.places[0]
    assert second.places[1].east_m == first.places[1].east_m + 1.0
    assert write_design(second) == moved  # with what was not given still absent


@pytest.mark.parametrize("value", [True, 1, "1"])
def test_a_figure_that_only_looks_the_same_is_checked_by_itself(value: Any) -> None:
    reader, document = Rereader(), one_line(**{"vessels.0.stand_m": 1.0})
    reader.read(document)
    document["vessels"][0]["stand_m"] = value
    assert outcome(reader.read, document) == outcome(Design.model_validate, document)


def test_only_the_last_few_documents_are_kept() -> None:
    reader = Rereader()
    firsts = [reader.read(one_line(name=f"Plan {number}")).lines[0] for number in range(MOST_KEPT + 1)]
    assert reader.read(one_line(name="Plan 1")).lines[0] is firsts[1]
    assert reader.read(one_line(name="Plan 0")).lines[0] is not firsts[0]
    assert outcome(reader.read, "no object") == outcome(Design.model_validate, "no object")
