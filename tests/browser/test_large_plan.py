"""A plan of many outlets: seen in passing while a hand is on it, and remedies tried when they are asked for."""

from typing import Any
from uuid import UUID

import pytest
from bench.designs import comb
from bench_page import Bench
from farm import one
from hand import Hand
from selenium.webdriver.common.by import By

from leadsman.core.base.units import lpm_from_m3s
from leadsman.core.design.file import read_design, write_design
from leadsman.core.steady.solve import solve
from leadsman.db.design import insert_design

OPENS_ITSELF = True
TAIL, BRANCHES, TROUGHS = "v-n5x7", 6, 8
WANTED_LPM = 30.0


@pytest.fixture
def large(bench: Bench) -> Bench:
    """48 troughs, the one at the end of the last branch wanting more than it gets."""
    document: Any = comb(BRANCHES, TROUGHS)
    document["requirements"] = [{"outlet": TAIL, "flow_lpm": WANTED_LPM}]
    with bench.database.transaction() as connection:
        made = insert_design(connection, write_design(read_design(document)))
    assert isinstance(made, UUID)
    bench.design_id = str(made)
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


def test_what_would_help_is_tried_when_it_is_asked_for_and_can_be_taken(large: Bench) -> None:
    card = "[data-testid=finding-flow-below-wanted]"
    assert "Trying" not in large.text(card)
    before = flow_of_tail(large)
    large.press("Try what would help", "Findings")
    large.until(lambda: "Tried, and it helps" in large.text(card))
    remedy = large.find(f"{card} button")
    promised = remedy.text.rpartition("gives ")[2].partition("·")[0].strip()
    remedy.click()
    large.until(lambda: promised and promised in large.number("flow").replace("\u202f", " "))
    large.button("Keep it").click()
    large.until(lambda: large.head().number > 1)
    assert flow_of_tail(large) > before
    large.settled()
    assert large.browser.find_elements(By.CSS_SELECTOR, f"{card} button") or flow_of_tail(large) >= WANTED_LPM


def test_of_many_findings_the_worst_are_shown_and_the_others_when_they_are_asked_for(bench: Bench) -> None:
    document: Any = comb(5, 8)
    document["requirements"] = [{"outlet": outlet["id"], "flow_lpm": 200.0} for outlet in document["outlets"]]
    with bench.database.transaction() as connection:
        bench.design_id = str(insert_design(connection, write_design(read_design(document))))
    bench.open("lines")
    bench.settled()

    def cards() -> int:
        return len(bench.browser.find_elements(By.CSS_SELECTOR, "[aria-label=Findings] article"))

    found = int(bench.text("[aria-label=Findings] h2").split()[0])
    assert found >= 40
    bench.until(lambda: cards() == 20)
    bench.button(f"These are the 20 worst: show all {found}").click()
    bench.until(lambda: cards() == found)
    bench.button("Only the 20 worst").click()
    bench.until(lambda: cards() == 20)


def test_a_line_deep_down_holds_more_than_its_pipe_is_good_for_until_it_is_stronger(bench: Bench) -> None:
    bench.open("lines")
    bench.part("Low leg")
    bench.fill("Ground at 110 m", "165")
    card = "[data-testid=finding-class-exceeded]"
    bench.await_text(card, "on pipe that is good for 1 000")
    bench.fill("The pipe itself is at", "30")
    bench.await_text(card, "while it is so warm")
    bench.await_text(card, "Tried, and it helps")
    remedy = next(
        element
        for element in bench.browser.find_elements(By.CSS_SELECTOR, f"{card} button")
        if "PE100 SDR 11" in element.text
    )
    remedy.click()
    bench.until(lambda: not bench.browser.find_elements(By.CSS_SELECTOR, card))
    bench.button("Keep it").click()
    bench.until(bench.saved)
    assert one(bench.head().document, "lines", "low-leg")["product"] == "pe100-sdr11-32"


def test_a_fence_is_drawn_anew_by_its_corners_and_by_figures(bench: Bench) -> None:
    bench.open("lines")
    bench.settled()
    hand = Hand(bench)
    bench.choose("Figures of", "fold-field")

    def corners() -> Any:
        return next(paddock for paddock in bench.head().document["paddocks"] if paddock["id"] == "fold-field")[
            "corners"
        ]

    first = corners()
    hand.drag(hand.middle("corner-1"), (25, 15))
    bench.until(lambda: corners()[1] != first[1])
    assert [corner for index, corner in enumerate(corners()) if index != 1] == first[:1] + first[2:]
    assert corners()[1][0] > first[1][0]
    assert corners()[1][1] < first[1][1]  # south of where it was
    hand.drag(hand.middle("middle-2"), (10, 10))
    bench.until(lambda: len(corners()) == len(first) + 1)
    bench.fill("1: east", "-12.5")
    bench.until(lambda: corners()[0][0] == -12.5)
    assert corners()[0][1] == first[0][1]
    for _ in range(3):
        bench.button("Undo").click()
    bench.until(lambda: corners() == first)
