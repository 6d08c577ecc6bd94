"""Drawing on the plan with a real mouse: a site from nothing, lines laid, parts dragged, joined and measured."""

import re
from typing import Any

import pytest
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

MOST_ACTIONS = 15


def document(bench: Bench) -> Any:
    return bench.head().document


def test_a_site_from_nothing_comes_to_a_true_verdict_in_a_few_actions(bench: Bench) -> None:
    bench.without_rest()
    bench.browser.get(bench.address)
    hand = Hand(bench)
    hand.press("Draw it")
    hand.type("Site", "Tamsel Ridge, west side")
    hand.type("Name of the source", "Upper tank")
    hand.press("Create")
    bench.until(lambda: "no outlet is open" in bench.verdict())
    bench.until(lambda: "Press L" in bench.text("main"))
    bench.design_id = bench.browser.current_url.split("/designs/")[1].split("/")[0]
    x, y = hand.mark("source")
    bench.keys("l")
    hand.actions += 1
    hand.click_at(x + 4, y - 3)  # near enough: it snaps
    hand.click_at(x + 90, y + 40)
    hand.click_at(x + 170, y + 60, times=2)
    hand.type("Name", "Calf trough")
    hand.type("How much lower than Upper tank", "9.5")
    hand.press("Add pipe")
    bench.until(lambda: bench.verdict().startswith("Yes."))
    assert hand.actions <= MOST_ACTIONS, hand.actions
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
    bench.without_rest()
    bench.open("lines")
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
    bench.without_rest()
    bench.open("lines")
    hand = Hand(bench)
    bench.settled()
    hand.press("Pipe")
    hand.click_at(*hand.mark("gate"))
    bench.keys(Keys.ESCAPE)  # thought better of it
    bench.until(lambda: bench.button("Pipe").get_attribute("aria-pressed") == "false")
    assert bench.browser.find_elements(By.CSS_SELECTOR, "[role=dialog]") == []
    hand.press("Pipe")
    hand.click_at(*hand.mark("pit"))
    hand.click_at(*hand.mark("gate"), times=2)
    bench.until(lambda: len(document(bench)["lines"]) == 13)
    new = document(bench)["lines"][-1]
    assert (new["from"], new["to"]) == ("pit", "gate")
    bench.until(lambda: "line-" in bench.text("[aria-label=Details]") or bench.field("Length of pipe"))
    hand.press("Delete pipe")
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


def test_a_pipe_that_starts_nowhere_asks_what_is_there_and_the_map_is_zoomed_and_shown_whole(bench: Bench) -> None:
    bench.without_rest()
    bench.open("lines")
    hand = Hand(bench)
    bench.settled()
    x, y = hand.mark("gate")
    hand.press("Pipe")
    hand.click_at(x + 20, y + 75)
    hand.click_at(x + 50, y + 82, times=2)
    bench.until(lambda: "your drawing is kept" in bench.text("[role=dialog]"))
    assert bench.head().number == 1
    bench.within_dialog("Cancel").click()
    bench.until(lambda: not bench.browser.find_elements(By.CSS_SELECTOR, "[role=dialog]"))
    bench.find("[aria-label='Zoom in']").click()
    bench.until(lambda: abs(hand.mark("gate")[1] - y) > 10 or abs(hand.mark("gate")[0] - x) > 10)
    bench.find("[aria-label=Fit]").click()
    bench.until(lambda: abs(hand.mark("gate")[0] - x) < 2)


def test_a_line_gets_a_corner_is_nudged_by_keys_and_deleted(bench: Bench) -> None:
    bench.without_rest()
    bench.open("lines")
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


def test_an_outlet_dropped_on_a_line_joins_it_by_a_tee_with_the_solvers_flow(bench: Bench) -> None:
    bench.without_rest()
    bench.open("lines")
    hand = Hand(bench)
    bench.settled()
    hand.press("Add")
    hand.click_at(*hand.between("gate", "low-trough"))
    assert "is cut here and joined by a tee" in bench.text("[role=dialog]")
    bench.fill("Name", "Halfway trough")
    hand.press("Add trough")
    bench.until(bench.saved)
    kept = document(bench)
    tee = kept["places"][-1]
    first, second = one(kept, "lines", "low-leg"), kept["lines"][-1]
    assert (first["to"], second["from"], second["to"]) == (tee["id"], tee["id"], "low-valve")
    assert first["length_m"] + second["length_m"] == pytest.approx(182.0)
    made = kept["outlets"][-1]
    assert (made["place"], made["name"]) == (tee["id"], "Halfway trough valve")
    flow = lpm_from_m3s(solve(read_design(kept), all_open=True).outlets[made["id"]].flow_m3s)
    assert flow > 1.0
    mark = f"[data-testid=plan-{made['fills']}]"
    bench.until(lambda: "L/min" in bench.text(mark))
    hand.free()
    bench.keys(Keys.DELETE)  # it is chosen still
    bench.until(lambda: len(document(bench)["outlets"]) == len(tamsel_ridge().outlets))


def test_several_are_chosen_moved_together_and_what_is_needed_is_not_taken_away(bench: Bench) -> None:
    bench.without_rest()
    bench.open("lines")
    hand = Hand(bench)
    bench.settled()
    plan = bench.find("[data-testid=plan-map]")
    box = plan.rect
    x1, y1 = hand.mark("low-trough")
    x0, y0 = hand.mark("gate")

    def offset(x: float, y: float) -> tuple[int, int]:
        return int(x - box["x"] - box["width"] / 2), int(y - box["y"] - box["height"] / 2)

    chain = ActionChains(bench.browser, duration=100).key_down(Keys.SHIFT)
    chain = chain.move_to_element_with_offset(plan, *offset(x1 + 18, y1 + 56)).click_and_hold()
    chain = chain.move_by_offset(int(x0 - x1 - 10), int(y0 - y1 - 50)).move_by_offset(-22, -20).release()
    chain.key_up(Keys.SHIFT).perform()
    bench.until(lambda: "2 parts are chosen" in bench.text("[aria-label=Details]"))
    hand.drag(hand.mark("gate"), (20, -10))
    bench.until(bench.saved)
    kept, was = document(bench), write_design(tamsel_ridge())
    moves = [(one(kept, "places", name)["east_m"] - one(was, "places", name)["east_m"]) for name in ("gate", "low")]
    assert moves[0] == pytest.approx(moves[1], abs=0.02)
    assert moves[0] > 5
    assert one(kept, "lines", "low-leg")["length_m"] == pytest.approx(182, abs=0.1)
    hand.free()
    bench.keys(Keys.DELETE)
    bench.within_dialog("Delete").click()
    bench.until(lambda: "would have no water" in bench.text("[data-testid=notes]"))
    assert len(document(bench)["vessels"]) == len(was["vessels"])


def test_measuring_tells_length_and_fall_and_changes_nothing(bench: Bench) -> None:
    bench.without_rest()
    bench.open("lines")
    hand = Hand(bench)
    bench.settled()
    bench.find("[data-testid=contours]")
    hand.press("Measure")
    hand.click_at(*hand.mark("pit"))
    hand.click_at(*hand.mark("gate"), times=2)
    told = bench.until(lambda: re.search(r"([\d.]+) m on the plan, falling ([\d.]+) m", bench.text("main")))
    assert told
    assert float(told[1]) == pytest.approx(159.9, abs=0.2)  # by the places' own figures
    assert float(told[2]) == pytest.approx(266.1 - 257.8, abs=1.0)  # the hill ripples
    assert bench.head().number == 1


def test_a_fence_is_drawn_anew_by_its_corners_and_by_figures(bench: Bench) -> None:
    bench.open("lines")
    bench.settled()
    hand = Hand(bench)
    bench.part("Fold field")

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


def test_a_height_is_dragged_in_the_section_and_the_cursor_reads_it(bench: Bench) -> None:
    bench.open("lines")
    before = one(bench.head().document, "lines", "low-leg")["points"][1][1]
    handle = bench.find("[data-testid=ground-9]")  # the second point of the third line
    ActionChains(bench.browser).click_and_hold(handle).move_by_offset(0, -40).pause(0.2).release().perform()
    bench.until(bench.saved)
    points = one(bench.head().document, "lines", "low-leg")["points"]
    assert points[1][1] > before + 1.0
    assert "running" in bench.text("[data-testid=section-reading]")
    slider = bench.find("[aria-label=Profile] [role=slider]")
    slider.send_keys(Keys.ESCAPE)
    slider.send_keys(Keys.ARROW_RIGHT, Keys.ARROW_RIGHT)
    bench.until(lambda: bench.text("[data-testid=section-reading]").startswith("8 m along"))
