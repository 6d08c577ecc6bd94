"""By keyboard alone: a site, a figure, a herd, a valve."""

import json
import subprocess
import sys
from pathlib import Path
from typing import Any

from bench_page import Bench
from farm import expected, number, one
from hand import Hand
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

MOST_ACTIONS = 25


ROOT = Path(__file__).parents[2]


LABEL_OF_FOCUS = (
    "const e = document.activeElement; const l = document.querySelector(`label[for='${e.id}']`);"
    "return l ? l.textContent : e.textContent"
)


def document(bench: Bench) -> Any:
    return bench.head().document


def told_by_the_command(kept: Any, folder: Path) -> Any:
    """What `./leadsman solve` says of a file, all floats open."""
    path = folder / "plan.json"
    path.write_text(json.dumps(kept))
    command = [sys.executable, "-m", "leadsman", "solve", str(path), "--all-open", "--json"]
    done = subprocess.run(command, cwd=ROOT, capture_output=True, check=True, env={"PYTHONPATH": str(ROOT / "src")})
    return json.loads(done.stdout)


def tab_to(bench: Bench, label: str, most: int = 80) -> None:
    """Press Tab until a field of that label has the focus."""
    for _ in range(most):
        bench.browser.switch_to.active_element.send_keys(Keys.TAB)
        if bench.browser.execute_script(LABEL_OF_FOCUS) == label:
            return
    raise AssertionError(f"{label} is not reached in {most} steps")


def type_here(bench: Bench, *keys: str) -> None:
    bench.browser.switch_to.active_element.send_keys(*keys)


def test_a_site_from_nothing_by_keyboard_alone_comes_to_the_command_s_numbers(bench: Bench, tmp_path: Path) -> None:
    bench.browser.get(bench.address)
    bench.find("[aria-label='New plan']")
    hand = Hand(bench)
    hand.tab_to("From a few numbers")
    hand.keys(Keys.ARROW_RIGHT)
    hand.keys(Keys.ENTER)
    hand.tab_to("Site")
    hand.keys("Tamsel Ridge, north side")
    hand.tab_to("Name of the source")
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


def test_the_keyboard_alone_reaches_a_figure_changes_it_and_takes_it_back(bench: Bench) -> None:
    bench.open("lines")
    before = bench.number("flow")
    focused = "return document.querySelector(`label[for='${document.activeElement.id}']`)?.textContent ?? ''"

    def tab_to(label: str) -> WebElement:
        for _ in range(60):
            bench.browser.switch_to.active_element.send_keys(Keys.TAB)
            if bench.browser.execute_script(focused) == label:
                break
        return bench.browser.switch_to.active_element

    bench.find("aside [role=tab]").send_keys(Keys.ENTER)
    tab_to("Details of").send_keys("West ch")
    field = tab_to("Water level now")
    outline = bench.browser.execute_script(
        "return getComputedStyle(arguments[0].parentElement, '::after').borderBottomWidth", field
    )
    assert outline != "0px"
    field.send_keys(*[Keys.SHIFT + Keys.ARROW_DOWN + Keys.NULL])
    bench.until(lambda: bench.number("flow") != before)
    assert field.get_attribute("value") == "0.6"
    field.send_keys(Keys.ENTER)
    bench.keys(Keys.CONTROL, "z")
    bench.until(lambda: bench.number("flow") == before)


def test_a_herd_is_counted_by_keyboard_alone_and_undone(bench: Bench) -> None:
    bench.open("demand")
    tab_to(bench, "▸ Dairy heifers")
    type_here(bench, Keys.ENTER)
    before = bench.text("[data-testid=demand-heifers]")
    tab_to(bench, "Number of animals")
    type_here(bench, Keys.CONTROL, "a")
    type_here(bench, "50")
    fifty = expected(lambda d: one(d, "herds", "heifers").update(head=50))
    bench.until(lambda: f"{fifty.herds[0].daily_l:.0f}" in bench.text("[data-testid=demand-heifers]").replace(" ", ""))
    bench.until(lambda: number(fifty, "spare") in bench.number("spare"))
    type_here(bench, Keys.ENTER)
    type_here(bench, Keys.ARROW_UP)
    more = expected(lambda d: one(d, "herds", "heifers").update(head=51))
    bench.until(lambda: f"{more.herds[0].daily_l:.0f}" in bench.text("[data-testid=demand-heifers]").replace(" ", ""))
    tab_to(bench, "Weight each", 4)
    bench.keys(Keys.CONTROL, "z")
    bench.keys(Keys.CONTROL, "z")
    bench.until(lambda: bench.text("[data-testid=demand-heifers]") == before)


def test_a_table_folded_under_a_picture_opens_by_keyboard(bench: Bench) -> None:
    bench.open("demand")
    bench.until(lambda: bench.find("main details"))
    tab_to(bench, "The day as a table")
    type_here(bench, Keys.ENTER)
    bench.until(lambda: "Hour" in bench.text("main details[open]"))


TRIAL = "[data-testid=trial]"


def test_a_valve_is_chosen_by_keys_alone(bench: Bench) -> None:
    bench.open("lines")
    bench.part("Ewe trough valve")
    hand = Hand(bench)
    bench.button("Compare valves …").click()
    bench.find("[role=dialog] tbody tr")
    assert bench.axe() == []
    hand.keys(Keys.ESCAPE)
    bench.until(lambda: not bench.browser.find_elements(By.CSS_SELECTOR, "[role=dialog]"))
    bench.part("Ewe trough valve")
    hand.tab_to("Compare valves …")
    hand.keys(Keys.ENTER)
    bench.until(lambda: bench.browser.find_elements(By.CSS_SELECTOR, "[role=dialog] tbody tr"))
    hand.keys(Keys.ESCAPE)
    bench.until(lambda: not bench.browser.find_elements(By.CSS_SELECTOR, "[role=dialog]"))
    hand.keys(Keys.ENTER)  # the keys are back on the button
    bench.until(lambda: bench.browser.find_elements(By.CSS_SELECTOR, "[role=dialog] tbody tr"))
    hand.tab_to("Try")
    hand.keys(Keys.ENTER)
    bench.until(lambda: "at Ewe trough valve" in bench.text(TRIAL))
    hand.tab_to("Revert")
    hand.keys(Keys.ENTER)
    bench.until(lambda: not bench.browser.find_elements(By.CSS_SELECTOR, TRIAL))
    assert bench.head().number == 1
