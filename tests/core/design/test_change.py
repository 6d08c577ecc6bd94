"""A design with a JSON Patch made: as the changed document read by itself, and the design as it was."""

import pytest

from examples import one_line
from leadsman.core.base.fault import DesignFaults
from leadsman.core.catalogue import pipes
from leadsman.core.design.change import patched
from leadsman.core.design.cost import price_of_change
from leadsman.core.design.file import read_design, write_design
from leadsman.demo import tamsel_ridge


def test_a_patch_changes_what_it_names_and_leaves_the_design_as_it_was() -> None:
    ridge = tamsel_ridge()
    before = write_design(ridge)
    length = 1.25 * (ridge.lines[0].length_m or 0.0)
    after = patched(
        ridge,
        [
            {"op": "replace", "path": "/lines/0/length_m", "value": length},
            {"op": "replace", "path": "/lines/0/points", "value": []},
            {"op": "remove", "path": "/requirements/0"},
        ],
    )
    assert after.lines[0].length_m == length
    assert after.lines[1:] == ridge.lines[1:]
    assert after.requirements == ridge.requirements[1:]
    assert write_design(ridge) == before


def test_a_change_costs_the_pipe_that_is_longer_or_other() -> None:
    ridge = tamsel_ridge()
    number, line = next((number, line) for number, line in enumerate(ridge.lines) if line.id == "roof-feed")
    longer = {"op": "replace", "path": f"/lines/{number}/length_m", "value": (line.length_m or 0.0) + 46.0}
    wider = {"op": "replace", "path": f"/lines/{number}/product", "value": "pe100-sdr13.6-63"}
    prices = [price_of_change(ridge, patched(ridge, patch)) for patch in ([], [longer], [wider])]
    before, after = (pipes()[product].price_per_m or 0.0 for product in ("pe100-sdr17-32", "pe100-sdr13.6-63"))
    assert prices == pytest.approx([0.0, 46.0 * before, 92.0 * after], abs=0.01)


@pytest.mark.parametrize(
    ("patch", "path"),
    [
        ([{"op": "replace", "path": "/lines/0/from", "value": "nowhere"}], "/lines/0/from"),
        ([{"op": "remove", "path": "/lines/7"}], ""),
    ],
)
def test_a_patch_that_does_not_fit_says_what_is_wrong(patch: list[dict[str, str]], path: str) -> None:
    with pytest.raises(DesignFaults) as refused:
        patched(read_design(one_line()), patch)
    assert [fault.path for fault in refused.value.faults] == [path]
