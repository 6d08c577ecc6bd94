"""Drawing on the plan with a real mouse: a site from nothing, places dragged, lines laid and taken away, all undone."""

from typing import Any

from bench_page import Bench
from farm import one
from hand import Hand
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import lpm_from_m3s
from leadsman.core.design.file import read_design, write_design
from leadsman.core.steady.solve import solve
from leadsman.demo import tamsel_ridge

MOST_ACTIONS = 25


def document(bench: Bench) -> Any:
    return bench.head().document


def test_a_site_from_nothing_comes_to_a_true_verdict_in_a_few_actions(bench: Bench) -> None:
    bench.browser.get(bench.address)
    hand = Hand(bench)
    hand.type("Name of the site", "Tamsel Ridge, west side")
    hand.type("What you call it", "Upper tank")
    hand.press("Begin")
    bench.until(lambda: "no outlet is open" in bench.verdict())
    bench.until(lambda: "Press L" in bench.text("main"))
    bench.design_id = bench.browser.current_url.split("/designs/")[1].split("/")[0]
    x, y = hand.mark("source")
    bench.keys("l")
    hand.actions += 1
    hand.click_at(x + 4, y - 3)  # near enough: it snaps
    hand.click_at(x + 90, y + 40)
    hand.click_at(x + 170, y + 60, times=2)
    hand.type("Its name", "Calf trough")
    hand.type("How much lower than Upper tank", "9.5")
    hand.press("Lay it")
    bench.until(lambda: bench.verdict().startswith("Yes."))
    assert hand.actions < MOST_ACTIONS, hand.actions
    bench.until(bench.saved)
    kept = document(bench)
    (line,) = kept["lines"]
    assert (line["from"], line["to"], len(line["way"])) == ("source", "outlet-1", 1)
    assert kept["places"][1]["ground_m"] == 90.5
    state = solve(read_design(kept), all_open=True)  # what ./leadsman solve --all-open says of the file
    flow = lpm_from_m3s(state.outlets["outlet-1"].flow_m3s)
    assert f"{flow:.1f} L/min" in bench.number("flow")
    assert f"{flow:.1f} L/min" in bench.verdict()
    assert bench.axe() == []


def test_a_place_that_is_dragged_takes_its_pipe_along_and_the_numbers_follow(bench: Bench) -> None:
    hand = Hand(bench)
    bench.settled()
    before = bench.text("[data-testid=plan-low-trough]")
    hand.drag(hand.mark("low-trough"), (60, 20))
    bench.until(lambda: bench.text("[data-testid=plan-low-trough]") != before)
    bench.until(bench.saved)
    moved, was = one(document(bench), "places", "low"), one(write_design(tamsel_ridge()), "places", "low")
    assert moved["east_m"] > was["east_m"] + 20
    assert moved["north_m"] < was["north_m"] - 5
    line = one(document(bench), "lines", "low-leg")
    assert line["length_m"] > 200
    assert line["points"][-1][0] == line["length_m"]
    told = Analysis(read_design(document(bench)))
    flow = lpm_from_m3s(told.state.outlets["low-valve"].judged_flow_m3s)
    bench.until(lambda: f"{flow:.1f}" in bench.text("[data-testid=plan-low-trough]"))
    bench.keys(Keys.CONTROL, "z")
    bench.until(lambda: one(document(bench), "places", "low") == was)
    assert document(bench) == write_design(tamsel_ridge())


def test_lines_are_laid_between_places_and_taken_away_and_every_step_is_undone(bench: Bench) -> None:
    hand = Hand(bench)
    bench.settled()
    hand.press("Line")
    hand.click_at(*hand.mark("gate"))
    bench.keys(Keys.ESCAPE)  # thought better of it
    bench.until(lambda: bench.button("Line").get_attribute("aria-pressed") == "false")
    assert bench.browser.find_elements(By.CSS_SELECTOR, "[role=dialog]") == []
    hand.press("Line")
    hand.click_at(*hand.mark("pit"))
    hand.click_at(*hand.mark("gate"), times=2)
    bench.until(lambda: len(document(bench)["lines"]) == 13)
    new = document(bench)["lines"][-1]
    assert (new["from"], new["to"]) == ("pit", "gate")
    bench.until(lambda: "line-" in bench.text("[aria-label=Figures]") or bench.field("Length of pipe"))
    hand.press("Take the line away")
    bench.until(lambda: len(document(bench)["lines"]) == 12)
    hand.drag(hand.mark("gate"), (10, 10))
    bench.until(lambda: one(document(bench), "places", "gate")["east_m"] != 118)
    for _ in range(3):
        bench.button("Undo").click()
    bench.until(lambda: document(bench) == write_design(tamsel_ridge()))
    for _ in range(3):
        bench.button("Redo").click()
    bench.until(lambda: one(document(bench), "places", "gate")["east_m"] != 118)
    assert len(document(bench)["lines"]) == 12


def test_a_line_that_begins_nowhere_is_not_laid_and_the_map_is_zoomed_and_shown_whole(bench: Bench) -> None:
    hand = Hand(bench)
    bench.settled()
    x, y = hand.mark("gate")
    hand.press("Line")
    hand.click_at(x + 20, y + 75)
    hand.click_at(x + 50, y + 82, times=2)
    bench.until(lambda: "begins at a tank, a junction" in bench.text("main"))
    assert bench.head().number == 1
    bench.find("[aria-label=Nearer]").click()
    bench.until(lambda: abs(hand.mark("gate")[1] - y) > 10 or abs(hand.mark("gate")[0] - x) > 10)
    bench.find("[aria-label='Show all']").click()
    bench.until(lambda: abs(hand.mark("gate")[0] - x) < 2)


def test_a_line_gets_a_corner_is_nudged_by_keys_and_deleted(bench: Bench) -> None:
    hand = Hand(bench)
    bench.settled()
    bench.part("Low leg")
    bench.find("[data-testid=middle-0]")
    hand.drag(hand.middle("middle-0"), (10, -40))
    bench.until(lambda: len(one(document(bench), "lines", "low-leg").get("way", [])) == 1)
    longer = one(document(bench), "lines", "low-leg")["length_m"]
    assert longer > 190
    corner = bench.find("[data-testid=corner-0]")
    ActionChains(bench.browser).double_click(corner).perform()
    bench.until(lambda: "way" not in one(document(bench), "lines", "low-leg"))
    assert abs(one(document(bench), "lines", "low-leg")["length_m"] - 182) < 0.1
    bench.part("Hop drip")
    before = one(document(bench), "places", "hops")
    bench.browser.execute_script("document.activeElement.blur()")
    bench.keys(Keys.ARROW_RIGHT)
    bench.keys(Keys.SHIFT + Keys.ARROW_DOWN + Keys.NULL)
    bench.until(lambda: one(document(bench), "places", "hops")["north_m"] == before["north_m"] - 10)  # the later of two
    assert one(document(bench), "places", "hops")["east_m"] == before["east_m"] + 1
    bench.part("Pond leg")
    bench.browser.execute_script("document.activeElement.blur()")
    bench.keys(Keys.DELETE)
    bench.until(lambda: all(line["id"] != "pond-leg" for line in document(bench)["lines"]))
