"""What of the page is not to be had: parts while the connection is gone, and a view that meets a fault of its own."""

from bench_page import Bench
from farm import one
from selenium.webdriver.common.by import By

OPENS_ITSELF = True
LOST = "could not be fetched"


def test_what_cannot_be_fetched_says_so_and_comes_when_the_server_is_back(bench: Bench) -> None:
    bench.blocked("*/assets/tables-*", "*/assets/drawing-*")
    try:
        bench.load("lines")
        bench.part("Low trough")
        bench.fill("Water level now", "0.25")
        bench.button("Tables").click()
        bench.until(lambda: LOST in bench.text("main [role=alert]"))
        bench.until(bench.saved)  # the page goes on
        bench.keys("l")
        bench.until(lambda: LOST in bench.text("[aria-label=Plan] [role=alert]"))
    finally:
        bench.blocked()
    bench.press("Try again", "Plan")
    bench.until(lambda: not bench.browser.find_elements(By.CSS_SELECTOR, "[aria-label=Plan] [role=alert]"))
    bench.button("Try again").click()
    bench.until(lambda: "Valve passes" in bench.text("main"))
    assert one(bench.head().document, "vessels", "low-trough")["level_m"] == 0.25


def test_what_has_not_been_opened_yet_opens_without_a_connection(bench: Bench) -> None:
    bench.load("lines")
    fetched = (
        "return performance.getEntriesByType('resource').filter(one => /assets\\/(need|tables)-/.test(one.name)).length"
    )
    bench.until(lambda: bench.browser.execute_script(fetched) == 2)
    bench.offline(True)
    try:
        bench.button("Tables").click()
        bench.until(lambda: "Valve passes" in bench.text("main"))
        bench.find("nav a[href$='/need']").click()
        bench.until(lambda: "L/day on the day shown" in bench.text("main h1, main h2"))
    finally:
        bench.offline(False)


def test_a_view_that_breaks_leaves_the_rest_of_the_page_and_is_drawn_again(bench: Bench) -> None:
    bench.load("lines")
    bench.part("Low trough")
    bench.fill("Water level now", "0.25")
    bench.until(bench.saved)
    broken = "class { constructor() { throw Error('on purpose') } }"
    bench.browser.execute_script(f"window.kept = window.ResizeObserver; window.ResizeObserver = {broken}")
    bench.find("nav a[href$='/need']").click()
    bench.until(lambda: "cannot draw this" in bench.text("main [role=alert]"))
    bench.browser.execute_script("window.ResizeObserver = window.kept")
    bench.button("Undo").click()
    bench.until(lambda: "on the day shown" in bench.text("main"))
    assert not bench.browser.find_elements(By.CSS_SELECTOR, "main [role=alert]")
    bench.until(lambda: bench.saving().startswith("saved"))
    assert any("on purpose" in entry["message"] for entry in bench.logged())
