"""A plan of many outlets while a hand is on it."""

from typing import Any
from uuid import UUID

import pytest
from bench.designs import comb
from bench_page import Bench
from hand import Hand

from leadsman.core.base.units import lpm_from_m3s
from leadsman.core.design.file import read_design, write_design
from leadsman.core.steady.solve import solve
from leadsman.db.design import insert_design

TAIL, BRANCHES, TROUGHS = "v-n5x7", 6, 8


@pytest.fixture
def large(bench: Bench) -> Bench:
    """48 troughs, the one at the end of the last branch judged by what it wants."""
    document: Any = comb(BRANCHES, TROUGHS)
    document["requirements"] = [{"outlet": TAIL, "flow_lpm": 30.0}]
    with bench.database.transaction() as connection:
        made = insert_design(connection, write_design(read_design(document)))
    assert isinstance(made, UUID)
    bench.design_id = str(made)
    bench.without_rest()
    bench.open("lines")
    bench.settled()
    return bench


def flow_of_tail(bench: Bench) -> float:
    state = solve(read_design(bench.head().document), all_open=True)
    return lpm_from_m3s(state.outlets[TAIL].flow_m3s)


def test_a_tank_is_dragged_and_what_is_seen_in_passing_is_what_is_found_at_rest(large: Bench) -> None:
    before = large.number("flow")
    asked = "return performance.getEntriesByName('preview').length"
    hand = Hand(large)
    hand.drag(hand.mark("tank"), (0, -90))
    large.until(lambda: large.browser.execute_script(asked) > 0)
    large.until(lambda: large.number("flow") != before)
    large.until(lambda: large.saving().startswith("saved") and large.head().number > 1)
    large.settled()
    assert f"{flow_of_tail(large):.1f} L/min" in large.number("flow")
