"""Documents read again while something on them changes: the same designs and the same faults as read afresh."""

import copy
import json
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from examples import one_line
from leadsman.core.base.fault import faults_from
from leadsman.core.design import Design
from leadsman.core.design.file import read_design, write_design
from leadsman.core.design.held import MOST_HELD, Change, Holder
from leadsman.core.design.reread import MOST_KEPT, Rereader
from leadsman.demo import tamsel_ridge

RIDGE: dict[str, Any] = json.loads(json.dumps(write_design(tamsel_ridge())))
LISTS = ["places", "vessels", "lines", "outlets", "requirements", "herds", "inflows"]
ODD: list[Any] = [None, True, 1, 1.0, -1, 0, "knoll", [], {}, float("nan")]

CHANGES = st.lists(
    st.tuples(st.sampled_from(LISTS), st.integers(0, 9), st.integers(0, 9), st.sampled_from(ODD)),
    min_size=1,
    max_size=8,
)


def outcome(read: Any, document: Any) -> Any:
    """The design, or every fault, of a document."""
    try:
        return read(document)
    except ValidationError as error:
        return faults_from(error)


@settings(max_examples=60)
@given(CHANGES)
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


def first_change(document: Any, kind: str, number: int, key: int, value: Any) -> Change:
    """One key of one part given a value."""
    number %= len(document[kind])
    part = copy.deepcopy(document[kind][number])
    part[sorted(part)[key % len(part)]] = value
    return Change({}, [], {kind: [(number, part)]})


@settings(max_examples=60)
@given(CHANGES)
def test_a_document_that_is_held_and_told_its_changes_is_as_if_it_were_sent_whole(
    changes: list[tuple[str, int, int, Any]],
) -> None:
    holder, document, step = Holder(), copy.deepcopy(RIDGE), 0
    holder.hold("a", document)
    for change in [first_change(document, *one) for one in changes]:
        ((kind, ((number, part),)),) = change.parts.items()
        after = {**document, kind: [part if index == number else one for index, one in enumerate(document[kind])]}
        expected = outcome(Design.model_validate, after)
        assert outcome(lambda _, change=change, step=step: holder.change("a", step + 1, change), after) == expected
        if isinstance(expected, Design):
            document, step = after, step + 1


def test_values_and_whole_lists_change_too_and_go() -> None:
    holder = Holder()
    holder.hold("a", RIDGE)
    fewer = [one for one in RIDGE["requirements"] if one is not RIDGE["requirements"][0]]
    named = holder.change("a", 1, Change({"name": "Other", "requirements": fewer}, ["shown_for"], {}))
    without = {key: value for key, value in RIDGE.items() if key != "shown_for"}
    assert named == read_design({**without, "name": "Other", "requirements": fewer})


@pytest.mark.parametrize(
    ("name", "step", "change"),
    [
        ("nobody", 1, Change({}, [], {})),
        ("a", 2, Change({}, [], {})),
        ("a", 1, Change({}, [], {"places": [(999, {})]})),
        ("a", 1, Change({}, [], {"places": [(-1, {})]})),
        ("a", 1, Change({}, [], {"nonsense": [(0, {})]})),
        ("a", 1, Change({}, ["places"], {"places": [(0, {})]})),
    ],
)
def test_a_change_to_what_is_not_held_is_not_guessed_at(name: str, step: int, change: Change) -> None:
    holder = Holder()
    holder.hold("a", RIDGE)
    assert holder.change(name, step, change) is None
    assert holder.change("a", 1, Change({}, [], {})) == read_design(RIDGE)


def test_only_the_last_few_are_held() -> None:
    holder = Holder()
    for number in range(MOST_HELD + 1):
        holder.hold(str(number), one_line(name=f"Plan {number}"))
    assert holder.change("0", 1, Change({}, [], {})) is None
    assert holder.change("1", 1, Change({}, [], {})) is not None


def test_only_the_last_few_documents_are_kept() -> None:
    reader = Rereader()
    firsts = [reader.read(one_line(name=f"Plan {number}")).lines[0] for number in range(MOST_KEPT + 1)]
    assert reader.read(one_line(name="Plan 1")).lines[0] is firsts[1]
    assert reader.read(one_line(name="Plan 0")).lines[0] is not firsts[0]
    assert outcome(reader.read, "no object") == outcome(Design.model_validate, "no object")
