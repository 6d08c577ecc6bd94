"""What lies under the plan: a height model, the ground a source reaches, a pinned picture."""

from pathlib import Path

import pytest
from bench_page import Bench
from hand import Hand
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from leadsman.core.base.units import m3s_from_lpm
from leadsman.core.catalogue import pipe_product
from leadsman.core.report.background import relief_of, relief_report
from leadsman.core.survey.reach import reach
from leadsman.demo import tamsel_relief, tamsel_ridge
from leadsman.formats.height_grid import read_height_grid


def test_what_lies_under_the_plan_is_shown_asked_and_forgotten(bench: Bench, tmp_path: Path) -> None:
    bench.open("lines")
    bench.settled()
    bench.button("Background").click()
    assert "made up" in bench.text("[aria-label='Background']")
    assert bench.find("[data-testid=hills]").is_displayed()
    bench.find("[aria-label='Background'] input[type=checkbox]").click()
    bench.until(lambda: not bench.browser.find_elements(By.CSS_SELECTOR, "[data-testid=contours]"))
    bench.find("[aria-label='Background'] input[type=checkbox]").click()  # the next one looks at them too
    bench.find("[data-testid=contours]")
    walk = "//label[contains(., 'Too far from water: over 244 m')]/input"
    bench.browser.find_element(By.XPATH, walk).click()
    bench.find("[data-testid=far-fold-field]")
    bench.fill("Hose length", "25")
    assert bench.browser.find_elements(By.CSS_SELECTOR, "[data-testid=hose-circle]") == []  # no tap
    bench.button("Show").click()
    bench.find("[data-testid=served]")
    design = tamsel_ridge()
    relief = relief_of(relief_report(tamsel_relief(design)))
    source = next(vessel for vessel in design.vessels if vessel.role != "trough")
    product = pipe_product("pe100-sdr17-32")
    spare = reach(design, relief, source, product, m3s_from_lpm(15.0), 1.5).spare_m
    known = spare[spare == spare]  # without those that are not known
    bench.until(lambda: f"{100 * float((known >= 0).mean()):.0f} % of the ground" in bench.text("aside"))
    bench.button("Delete height model").click()
    bench.until(lambda: not bench.browser.find_elements(By.CSS_SELECTOR, "[data-testid=served]"))
    bench.button("Ask the height service").click()
    bench.until(lambda: "a point every 7 m" in bench.text("[aria-label='Background']"))
    bench.button("Delete height model").click()
    grid = tmp_path / "farm.asc"
    grid.write_text("ncols 3\nnrows 3\nxllcorner -600\nyllcorner -600\ncellsize 600\n" + "260 260 260\n" * 3)
    assert read_height_grid(grid.read_bytes(), "asc").heights_m.shape == (3, 3)
    bench.find("input[aria-label='Grid of heights']").send_keys(str(grid))
    bench.until(lambda: "does not say its coordinates" in bench.text("[aria-label='Background']"))
    bench.choose("The file's coordinates", "local")
    bench.find("input[aria-label='Grid of heights']").send_keys(str(grid))
    bench.until(lambda: "farm.asc" in bench.text("[aria-label='Background']"))
    assert bench.axe() == []


def test_a_picture_is_pinned_by_two_places_and_lies_under_them(bench: Bench, tmp_path: Path) -> None:
    bench.open("lines")
    bench.settled()
    hand = Hand(bench)
    picture = tmp_path / "air.png"
    bench.browser.save_screenshot(str(picture))
    bench.button("Background").click()
    bench.find("input[aria-label='Picture from the air']").send_keys(str(picture))
    image = bench.find("[data-testid=picture-to-pin]")
    bench.until(lambda: image.size["width"] > 300)
    width, height = image.size["width"], image.size["height"]
    places = [("pit", 0.25, 0.3), ("gate", 0.5, 0.6)]
    for number, (place, x, y) in enumerate(places, 1):
        off = int((x - 0.5) * width), int((y - 0.5) * height)
        ActionChains(bench.browser).move_to_element_with_offset(image, *off).click().perform()
        bench.choose_named(f"Pin {number} is at", place)
    bench.button("Use as background").click()
    laid = bench.until(lambda: bench.browser.find_element(By.CSS_SELECTOR, "[data-testid=pinned-picture]"))
    assert "two points fit always" in bench.text("[aria-label='Background']")
    script = (
        "const m = arguments[0].getScreenCTM(); const p = new DOMPoint(arguments[1], arguments[2]).matrixTransform(m);"
        "return [p.x, p.y]"
    )
    for place, x, y in places:
        seen = bench.browser.execute_script(script, laid, x * 1280, y * 800)
        assert seen == pytest.approx(hand.mark(place), abs=3.0)
    bench.button("Edit pins").click()
    bench.until(lambda: bench.find("[data-testid=picture-to-pin]").size["width"] == width)
    assert bench.find("select[aria-label='Pin 2 is at']").get_attribute("value") == "gate"
    ActionChains(bench.browser).click_and_hold(bench.find("[aria-label='Pin 2']")).move_by_offset(
        40, 20
    ).release().perform()
    bench.find("[aria-label='Pin 2']").send_keys(Keys.ARROW_RIGHT)
    bench.button("Use as background").click()
    moved = (0.5 * 1280 + 40 * 1280 / width + 5, 0.6 * 800 + 20 * 1280 / width)

    def pinned() -> list[float]:
        laid = bench.browser.find_element(By.CSS_SELECTOR, "[data-testid=pinned-picture]")
        return list(bench.browser.execute_script(script, laid, *moved))

    bench.until(lambda: pinned() == pytest.approx(hand.mark("gate"), abs=3.0))
    bench.button("Delete picture").click()
    bench.until(lambda: not bench.browser.find_elements(By.CSS_SELECTOR, "[data-testid=pinned-picture]"))
