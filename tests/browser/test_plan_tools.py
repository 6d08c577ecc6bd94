"""The plan's tools with real mouse and keys: a site by keyboard alone, twenty edits undone, what lies under it."""

import json
import re
import subprocess
import sys
from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Any
from xml.etree import ElementTree

import pytest
from bench_page import Bench
from farm import one
from hand import Hand
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from leadsman.core.base.units import lpm_from_m3s, m3s_from_lpm
from leadsman.core.catalogue import pipe_product
from leadsman.core.design.file import read_design, write_design
from leadsman.core.report.background import relief_of, relief_report
from leadsman.core.steady.solve import solve
from leadsman.core.survey.reach import reach
from leadsman.demo import tamsel_relief, tamsel_ridge
from leadsman.formats.height_grid import read_height_grid

ROOT = Path(__file__).parents[2]
MOST_ACTIONS = 25


def document(bench: Bench) -> Any:
    return bench.head().document


def told_by_the_command(kept: Any, folder: Path) -> Any:
    """What `./leadsman solve` says of a file, all floats open."""
    path = folder / "plan.json"
    path.write_text(json.dumps(kept))
    command = [sys.executable, "-m", "leadsman", "solve", str(path), "--all-open", "--json"]
    done = subprocess.run(command, cwd=ROOT, capture_output=True, check=True, env={"PYTHONPATH": str(ROOT / "src")})
    return json.loads(done.stdout)


def test_a_site_from_nothing_by_keyboard_alone_comes_to_the_command_s_numbers(bench: Bench, tmp_path: Path) -> None:
    bench.browser.get(bench.address)
    bench.find("[aria-label='A new site']")
    hand = Hand(bench)
    hand.tab_to("Name of the site")
    hand.keys("Tamsel Ridge, north side")
    hand.tab_to("What you call it")
    hand.keys("Upper tank", Keys.ENTER)
    bench.until(lambda: "no outlet is open" in bench.verdict())
    bench.until(lambda: "Press L" in bench.text("main"))
    bench.design_id = bench.browser.current_url.split("/designs/")[1].split("/")[0]
    hand.actions = 0  # the ways of Tab are not what is counted
    hand.keys("l")
    hand.keys(Keys.ENTER)  # the crosshair begins at the tank
    hand.with_shift(Keys.ARROW_RIGHT, 9)
    hand.keys(Keys.ENTER)
    hand.with_shift(Keys.ARROW_DOWN, 4)
    hand.keys(Keys.ARROW_LEFT)
    hand.keys(Keys.ENTER)
    hand.keys(Keys.ENTER)  # there it ends
    bench.find("[role=dialog]")
    hand.keys("Calf trough")
    hand.tab_to("How much lower than Upper tank")
    hand.keys("9.5", Keys.ENTER)
    bench.until(lambda: bench.verdict().startswith("Yes."))
    assert hand.actions < MOST_ACTIONS
    bench.until(bench.saved)
    kept = document(bench)
    (line,) = kept["lines"]
    assert line["way"] == [[90, 0]]
    assert (kept["places"][1]["east_m"], kept["places"][1]["north_m"]) == (89, -40)
    flow = told_by_the_command(kept, tmp_path)["outlets"]["outlet-1"]["flow_lpm"]
    assert f"{flow:.1f} L/min" in bench.verdict()
    assert f"{flow:.1f} L/min" in bench.number("flow")


def test_twenty_mixed_edits_are_undone_to_the_identical_document_and_redone(bench: Bench) -> None:
    hand = Hand(bench)
    bench.settled()

    def drop_a_trough() -> None:
        hand.free()
        bench.keys("p")
        hand.click_at(*hand.between("gate", "low-trough", 0.6))
        bench.fill("Its name", "Halfway trough")
        bench.button("Set it down").click()

    def fence() -> None:
        hand.free()
        bench.keys("f")
        x, y = hand.mark("hop-drip")
        hand.click_at(x + 20, y - 20)
        hand.click_at(x + 60, y - 25)
        hand.click_at(x + 50, y - 60, times=2)
        bench.button("Fence it in").click()

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
        bench.button("Section").click()

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
        lambda: bench.button("Take the line away").click(),
        delete,
        in_table,
        raise_the_ground,
        lambda: change(bench, "West chamber", "Water level now", "1.1"),
        lambda: change(bench, "Low leg", "Cover over it", "0.45"),
        lambda: change(bench, "Ewe trough valve", "Flow wanted", "11"),
        lambda: change(bench, "West chamber", "East on the plan", "-25"),
        lambda: hand.drag(hand.mark("goose-pan"), (-6, 10)),
        lambda: change(bench, "Low leg", "Length of pipe", "100"),
        lambda: hand.drag(hand.mark("gate"), (6, 3)),
        lambda: change(bench, "Beech bank", "Farthest grass", "300"),
        lambda: change(bench, "Ewe trough valve", "Refill within", "55"),
    ]
    for number, step in enumerate(steps, 1):
        step()
        steps_back = f"Ctrl+Z: {number} steps back"
        bench.until(partial(told_by_title, bench, steps_back))
    assert len(steps) == 20
    bench.until(bench.saved)
    changed = document(bench)
    for number in range(20):
        assert bench.button("Undo").is_enabled(), f"only {number} steps were kept"
        bench.button("Undo").click()
    assert not bench.button("Undo").is_enabled()
    bench.until(lambda: document(bench) == write_design(tamsel_ridge()))
    for _ in range(20):
        bench.button("Redo").click()
    bench.until(lambda: document(bench) == changed)


def told_by_title(bench: Bench, told: str) -> bool:
    return bench.button("Undo").get_attribute("title") == told


def holds_something(path: Path) -> bool:
    return path.stat().st_size > 0


def change(bench: Bench, part: str, label: str, text: str) -> None:
    bench.part(part)
    bench.fill(label, text)
    bench.field(label).send_keys(Keys.TAB)


def test_an_outlet_dropped_on_a_line_joins_it_by_a_tee_with_the_solvers_flow(bench: Bench) -> None:
    hand = Hand(bench)
    bench.settled()
    hand.press("Set down")
    hand.click_at(*hand.between("gate", "low-trough"))
    assert "is cut here and joined by a tee" in bench.text("[role=dialog]")
    bench.fill("Its name", "Halfway trough")
    hand.press("Set it down")
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
    bench.until(lambda: "2 parts are chosen" in bench.text("[aria-label=Figures]"))
    hand.drag(hand.mark("gate"), (20, -10))
    bench.until(bench.saved)
    kept, was = document(bench), write_design(tamsel_ridge())
    moves = [(one(kept, "places", name)["east_m"] - one(was, "places", name)["east_m"]) for name in ("gate", "low")]
    assert moves[0] == pytest.approx(moves[1], abs=0.02)
    assert moves[0] > 5
    assert one(kept, "lines", "low-leg")["length_m"] == pytest.approx(182, abs=0.1)
    hand.free()
    bench.keys(Keys.DELETE)
    bench.until(lambda: "would have no water" in bench.text("[data-testid=notes]"))
    assert len(document(bench)["vessels"]) == len(was["vessels"])


def test_measuring_tells_length_and_fall_and_changes_nothing(bench: Bench) -> None:
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


def test_what_lies_under_the_plan_is_shown_asked_and_forgotten(bench: Bench, tmp_path: Path) -> None:
    bench.settled()
    bench.button("Under it").click()
    assert "made up" in bench.text("[aria-label='Under the plan']")
    assert bench.find("[data-testid=hills]").is_displayed()
    bench.find("[aria-label='Under the plan'] input[type=checkbox]").click()
    bench.until(lambda: not bench.browser.find_elements(By.CSS_SELECTOR, "[data-testid=contours]"))
    walk = "//label[contains(., 'Too far to water: over 300 m')]/input"
    bench.browser.find_element(By.XPATH, walk).click()
    bench.find("[data-testid=far-fold-field]")
    bench.fill("The hose reaches", "25")
    assert bench.browser.find_elements(By.CSS_SELECTOR, "[data-testid=hose-circle]") == []  # no tap
    bench.button("Show it").click()
    bench.find("[data-testid=served]")
    design = tamsel_ridge()
    relief = relief_of(relief_report(tamsel_relief(design)))
    source = next(vessel for vessel in design.vessels if vessel.role != "trough")
    product = pipe_product("pe100-sdr17-32")
    spare = reach(design, relief, source, product, m3s_from_lpm(15.0), 1.5).spare_m
    known = spare[spare == spare]  # without those that are not known
    bench.until(lambda: f"{100 * float((known >= 0).mean()):.0f} % of the ground" in bench.text("main"))
    bench.button("Take the height model away").click()
    bench.until(lambda: not bench.browser.find_elements(By.CSS_SELECTOR, "[data-testid=served]"))
    bench.button("Ask the height service").click()
    bench.until(lambda: "a point every 7 m" in bench.text("[aria-label='Under the plan']"))
    bench.button("Take the height model away").click()
    grid = tmp_path / "farm.asc"
    grid.write_text("ncols 3\nnrows 3\nxllcorner -600\nyllcorner -600\ncellsize 600\n" + "260 260 260\n" * 3)
    assert read_height_grid(grid.read_bytes(), "asc").heights_m.shape == (3, 3)
    bench.find("input[aria-label='Grid of heights']").send_keys(str(grid))
    bench.until(lambda: "does not say its coordinates" in bench.text("[aria-label='Under the plan']"))
    bench.choose("The file's coordinates", "local")
    bench.find("input[aria-label='Grid of heights']").send_keys(str(grid))
    bench.until(lambda: "farm.asc" in bench.text("[aria-label='Under the plan']"))
    assert bench.axe() == []


def test_a_picture_is_pinned_by_two_places_and_lies_under_them(bench: Bench, tmp_path: Path) -> None:
    bench.settled()
    hand = Hand(bench)
    picture = tmp_path / "air.png"
    bench.browser.save_screenshot(str(picture))
    bench.button("Under it").click()
    bench.find("input[aria-label='Picture from the air']").send_keys(str(picture))
    image = bench.find("[data-testid=picture-to-pin]")
    bench.until(lambda: image.size["width"] > 300)
    width, height = image.size["width"], image.size["height"]
    places = [("pit", 0.25, 0.3), ("gate", 0.5, 0.6)]
    for number, (place, x, y) in enumerate(places, 1):
        off = int((x - 0.5) * width), int((y - 0.5) * height)
        ActionChains(bench.browser).move_to_element_with_offset(image, *off).click().perform()
        bench.choose_named(f"Pin {number} is at", place)
    bench.button("Lay it under the plan").click()
    laid = bench.until(lambda: bench.browser.find_element(By.CSS_SELECTOR, "[data-testid=pinned-picture]"))
    assert "two points fit always" in bench.text("[aria-label='Under the plan']")
    script = (
        "const m = arguments[0].getScreenCTM(); const p = new DOMPoint(arguments[1], arguments[2]).matrixTransform(m);"
        "return [p.x, p.y]"
    )
    for place, x, y in places:
        seen = bench.browser.execute_script(script, laid, x * 1280, y * 800)
        assert seen == pytest.approx(hand.mark(place), abs=3.0)
    bench.button("Move its pins").click()
    bench.until(lambda: bench.find("[data-testid=picture-to-pin]").size["width"] == width)
    assert bench.find("select[aria-label='Pin 2 is at']").get_attribute("value") == "gate"
    ActionChains(bench.browser).click_and_hold(bench.find("[aria-label='Pin 2']")).move_by_offset(
        40, 20
    ).release().perform()
    bench.find("[aria-label='Pin 2']").send_keys(Keys.ARROW_RIGHT)
    bench.button("Lay it under the plan").click()
    moved = (0.5 * 1280 + 40 * 1280 / width + 5, 0.6 * 800 + 20 * 1280 / width)

    def pinned() -> list[float]:
        laid = bench.browser.find_element(By.CSS_SELECTOR, "[data-testid=pinned-picture]")
        return list(bench.browser.execute_script(script, laid, *moved))

    bench.until(lambda: pinned() == pytest.approx(hand.mark("gate"), abs=3.0))
    bench.button("Take the picture away").click()
    bench.until(lambda: not bench.browser.find_elements(By.CSS_SELECTOR, "[data-testid=pinned-picture]"))


def test_tables_sort_are_typed_in_and_stand_the_tests_for_those_who_hear_the_page(bench: Bench) -> None:
    bench.settled()
    bench.button("Tables").click()
    bench.button("Lines (12)").click()
    bench.button("Length").click()
    rows = [
        row.get_attribute("data-testid")
        for row in bench.browser.find_elements(By.CSS_SELECTOR, "tbody tr[data-testid^=row-]")
    ]
    lengths = {f"row-{line['id']}": line["length_m"] for line in write_design(tamsel_ridge())["lines"]}
    assert rows == sorted(lengths, key=lambda row: lengths[row])
    bench.button("Length").click()
    assert bench.find("th[aria-sort=descending]").text.startswith("Length")
    cell = bench.find("input[aria-label='Length of Low leg']")
    cell.send_keys(Keys.CONTROL, "a")
    cell.send_keys("2e", Keys.TAB)
    assert document(bench)["lines"] == write_design(tamsel_ridge())["lines"]
    cell.send_keys(Keys.CONTROL, "a")
    cell.send_keys("150", Keys.ENTER)
    bench.until(lambda: one(document(bench), "lines", "low-leg")["length_m"] == 150)
    assert one(document(bench), "lines", "low-leg")["points"][-1][0] == 150
    assert bench.axe() == []
    for kind in ("Outlets", "Vessels", "Places", "Paddocks"):
        bench.button(f"{kind} (").click()
        bench.find("tbody tr[data-testid^=row-]")
    assert bench.axe() == []


def test_the_section_is_zoomed_and_follows_any_two_places(bench: Bench) -> None:
    bench.settled()
    whole = bench.text("[aria-label='Long section']")
    assert "414 m" in whole
    bench.find("[aria-label='Section nearer']").click()
    bench.until(lambda: "414 m" not in bench.text("[aria-label='Long section']"))
    bench.find("[aria-label='Whole section']").click()
    bench.until(lambda: "414 m" in bench.text("[aria-label='Long section']"))
    bench.choose_named("Way that the section follows", "between")
    bench.choose_named("From", "pond-valve")
    bench.choose_named("To", "low-valve")
    lines = [
        one(write_design(tamsel_ridge()), "lines", name)["length_m"] for name in ("pond-leg", "hop-leg", "low-leg")
    ]
    bench.until(lambda: f"{sum(lines):.0f} m" in bench.text("[aria-label='Long section']"))


def test_pictures_are_files_that_stand_by_themselves_and_keys_have_a_sheet(bench: Bench, tmp_path: Path) -> None:
    bench.settled()
    bench.browser.execute_cdp_cmd("Page.setDownloadBehavior", {"behavior": "allow", "downloadPath": str(tmp_path)})
    for what, kind in (("Plan", "SVG"), ("Section", "PNG")):
        bench.button("Pictures").click()
        item = f"//li[.='{what} as {kind}']"
        bench.until(partial(bench.browser.find_element, By.XPATH, item)).click()
        name = f"tamsel-ridge-plan-a-three-branches-{what.lower()}.{kind.lower()}"
        saved = tmp_path / name
        bench.until(partial(holds_something, saved))
        if kind == "SVG":
            text = saved.read_text()
            assert ElementTree.fromstring(text).tag.endswith("svg")
            assert "Low trough" in text
            assert "var(--" not in text
            assert "http://127" not in text
        else:
            assert saved.read_bytes().startswith(b"\x89PNG")
    bench.keys("?")
    bench.await_text("[role=dialog]", "set a trough, tap, tank")
    assert bench.axe() == []
    bench.keys(Keys.ESCAPE)


def test_revisions_tell_who_and_what_and_come_back(bench: Bench) -> None:
    bench.button("Revisions").click()
    bench.fill("Your name, kept with what you save from here", "Ash of the ridge")
    bench.button("Close").click()
    change(bench, "West chamber", "Water level now", "0.9")
    bench.until(bench.saved)
    bench.until(lambda: bench.head().number == 2)
    change(bench, "Low leg", "Cover over it", "0.5")
    bench.until(lambda: bench.head().number == 3)
    bench.until(bench.saved)
    bench.button("Revisions").click()
    bench.until(lambda: "Ash of the ridge" in bench.text("[role=dialog]"))
    label = bench.find("input[aria-label='What revision 2 is called']")
    label.send_keys("before the cover", Keys.ENTER)
    bench.until(lambda: bench.revisions()[1].label == "before the cover")
    buttons = bench.browser.find_elements(By.XPATH, "//button[.='Look']")
    buttons[-1].click()
    bench.until(lambda: "West chamber, level" in bench.text("[role=dialog] table"))
    assert bench.axe() == []
    bench.button("Bring revision 1 back").click()
    bench.until(lambda: bench.head().number == 4)
    assert document(bench) == write_design(tamsel_ridge())
    bench.button("Undo").click()
    bench.until(lambda: one(document(bench), "vessels", "chambers")["level_m"] == 0.9)


@pytest.mark.parametrize("size", [(1280, 800), (1920, 1080)])
def test_text_of_twice_the_size_is_not_cut_off_and_wide_screens_are_used(bench: Bench, size: tuple[int, int]) -> None:
    bench.size(*size)
    bench.settled()
    plan = bench.find("[aria-label=Plan]").size["width"]
    assert plan > size[0] * 0.4
    bench.browser.execute_script("document.documentElement.style.fontSize = '200%'")
    wide = bench.browser.execute_script("return document.documentElement.scrollWidth")
    assert wide <= size[0]
    assert "Goose pan" in bench.verdict()
