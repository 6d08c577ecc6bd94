"""What was done is undone and redone, a figure or twenty edits of every kind."""

from collections.abc import Callable
from functools import partial
from typing import Any

from bench_page import Bench
from farm import expected, gallons, number, one
from hand import Hand
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys

from leadsman.core.base.wording import plain
from leadsman.core.design.file import write_design
from leadsman.core.findings.registry import judge
from leadsman.core.findings.verdict import verdict
from leadsman.demo import tamsel_ridge


def lower_by_a_metre(document: Any) -> None:
    one(document, "places", "knoll")["ground_m"] -= 1.0
    one(document, "lines", "weir-feed")["points"][-1][1] -= 1.0


def document(bench: Bench) -> Any:
    return bench.head().document


def told_by_title(bench: Bench, told: str) -> bool:
    return bench.button("Undo").get_attribute("title") == told


def change(bench: Bench, part: str, label: str, text: str) -> None:
    bench.part(part)
    bench.fill(label, text)
    bench.field(label).send_keys(Keys.TAB)


def test_lowering_the_tank_changes_flow_and_verdict_to_the_solvers_numbers_and_is_kept(bench: Bench) -> None:
    bench.open("lines")
    before, after = expected(lambda _: None), expected(lower_by_a_metre)
    assert number(before, "flow") + " L/min" in bench.number("flow")
    first_verdict = bench.verdict()

    bench.part("West chamber")
    bench.fill("Ground height", "265.4")
    bench.until(lambda: number(after, "flow") + " L/min" in bench.number("flow"))
    wording = plain(verdict(after, judge(after)).sentence)
    assert bench.verdict() == wording
    assert wording != first_verdict

    bench.field("Ground height").send_keys(Keys.ENTER)
    bench.keys(Keys.CONTROL, "z")
    bench.until(lambda: number(before, "flow") + " L/min" in bench.number("flow"))
    assert bench.verdict() == first_verdict
    bench.button("Redo").click()
    bench.until(lambda: number(after, "flow") + " L/min" in bench.number("flow"))

    bench.until(bench.saved)
    head = bench.head()
    assert one(head.document, "places", "knoll")["ground_m"] == 265.4
    bench.open("lines")
    assert number(after, "flow") + " L/min" in bench.number("flow")
    assert bench.saving() == f"saved · revision {head.number}"

    bench.menu("L · m", "US gal")
    bench.until(lambda: gallons(after) in bench.number("flow"))
    bench.part("West chamber")
    assert bench.field("Ground height").get_attribute("value") == f"{265.4 / 0.3048:.2f}"
    bench.part("all outlets")
    assert "gal/min" in bench.text("[aria-label=Details]")
    bench.menu("US gal", "L · m")


def test_twenty_mixed_edits_are_undone_to_the_identical_document_and_redone(bench: Bench) -> None:
    bench.without_rest()
    bench.open("lines")
    hand = Hand(bench)
    bench.settled()

    def drop_a_trough() -> None:
        hand.free()
        bench.keys("p")
        hand.click_at(*hand.between("gate", "low-trough", 0.6))
        bench.fill("Name", "Halfway trough")
        bench.button("Add trough").click()

    def fence() -> None:
        hand.free()
        bench.keys("f")
        x, y = hand.mark("hop-drip")
        hand.click_at(x + 20, y - 20)
        hand.click_at(x + 60, y - 25)
        hand.click_at(x + 50, y - 60, times=2)
        bench.button("Add paddock").click()

    def lay() -> None:
        hand.free()
        bench.keys("l")
        hand.click_at(*hand.mark("pit"))
        hand.click_at(*hand.mark("gate"), times=2)

    def nudge() -> None:
        bench.part("Hop drip")
        hand.free()
        bench.keys(Keys.ARROW_UP)

    def copy() -> None:
        hand.free()
        ActionChains(bench.browser).key_down(Keys.CONTROL).send_keys("d").key_up(Keys.CONTROL).perform()

    def delete() -> None:
        bench.part("Pond leg")
        hand.free()
        bench.keys(Keys.DELETE)

    def in_table() -> None:
        bench.button("Tables").click()
        cell = bench.find("input[aria-label='Name of Goose pan valve']")
        cell.send_keys(" two", Keys.TAB)
        bench.button("Profile").click()

    def raise_the_ground() -> None:
        bench.settled()
        handle = bench.find("[data-testid=ground-3]")
        ActionChains(bench.browser, duration=80).drag_and_drop_by_offset(handle, 0, -14).perform()

    steps: list[Callable[[], object]] = [
        lambda: hand.drag(hand.mark("low-trough"), (25, 12)),
        drop_a_trough,
        lambda: hand.drag(hand.mark("pit"), (-8, 9)),
        nudge,
        copy,
        fence,
        lay,
        lambda: bench.button("Delete pipe").click(),
        delete,
        in_table,
        raise_the_ground,
        lambda: change(bench, "West chamber", "Water level now", "1.1"),
        lambda: change(bench, "Low leg", "Burial depth", "0.45"),
        lambda: change(bench, "Ewe trough valve", "Flow wanted", "11"),
        lambda: change(bench, "West chamber", "East on the plan", "-25"),
        lambda: hand.drag(hand.mark("goose-pan"), (-6, 10)),
        lambda: change(bench, "Low leg", "Length of pipe", "100"),
        lambda: hand.drag(hand.mark("gate"), (6, 3)),
        lambda: change(bench, "Beech bank", "Longest walk to water", "300"),
        lambda: change(bench, "Ewe trough valve", "Refill within", "55"),
    ]
    for done, step in enumerate(steps, 1):
        step()
        steps_back = f"Ctrl+Z: {done} steps back"
        bench.until(partial(told_by_title, bench, steps_back))
    assert len(steps) == 20
    bench.until(bench.saved)
    changed = document(bench)
    for back in range(20):
        assert bench.button("Undo").is_enabled(), f"only {back} steps were kept"
        bench.button("Undo").click()
    assert not bench.button("Undo").is_enabled()
    bench.until(lambda: document(bench) == write_design(tamsel_ridge()))
    for _ in range(20):
        bench.button("Redo").click()
    bench.until(lambda: document(bench) == changed)
