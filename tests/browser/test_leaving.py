"""No way out of a page loses an edit: what was typed a moment before is there again, and undo outlives a reload."""

from collections.abc import Callable

import pytest
from bench_page import Bench
from farm import one
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

LEVEL = 0.23


def type_level(bench: Bench, level: float = LEVEL) -> None:
    """Give a figure and leave it no time to be saved."""
    bench.open("lines")
    bench.settled()
    bench.part("Low trough")
    bench.until(lambda: bench.saving().startswith("saved") or "not saved" in bench.saving())
    bench.paste("Water level now", str(level))


def by_the_list(bench: Bench) -> None:
    bench.find("a[aria-label='Leadsman, all plans']").click()
    bench.until(lambda: bench.browser.current_url == bench.address)


def by_going_back(bench: Bench) -> None:
    bench.browser.back()


def by_another_address(bench: Bench) -> None:
    bench.browser.get("about:blank")


def by_loading_again(bench: Bench) -> None:
    bench.browser.refresh()


def by_closing_the_tab(bench: Bench) -> None:
    kept = next(handle for handle in bench.browser.window_handles if handle != bench.browser.current_window_handle)
    bench.browser.close()
    bench.browser.switch_to.window(kept)


def by_a_view_and_the_list(bench: Bench) -> None:
    bench.find("nav a[href$='/supply']").click()
    bench.find("a[aria-label='Leadsman, all plans']").click()


WAYS = [by_the_list, by_going_back, by_another_address, by_loading_again, by_closing_the_tab, by_a_view_and_the_list]


@pytest.mark.parametrize("leave", WAYS)
def test_what_was_typed_just_before_leaving_is_saved(bench: Bench, leave: Callable[[Bench], None]) -> None:
    bench.browser.get(bench.address)  # so that there is a page to go back to
    if leave is by_closing_the_tab:
        bench.browser.switch_to.new_window("tab")
        bench.size(1280, 800)
    bench.load("lines")
    type_level(bench)
    leave(bench)
    bench.until(lambda: one(bench.head().document, "vessels", "low-trough")["level_m"] == LEVEL)
    bench.load("lines")
    bench.until(lambda: bench.saving().startswith("saved"))
    bench.part("Low trough")
    assert bench.field("Water level now").get_attribute("value") == str(LEVEL)
    alerts = [alert.text for alert in bench.browser.find_elements(By.CSS_SELECTOR, "[role=alert]")]
    assert not [text for text in alerts if "nothing is lost" in text], alerts  # nor is it a conflict with itself


def test_what_could_not_be_saved_is_back_after_a_reload_and_then_saved(bench: Bench) -> None:
    bench.load("lines")
    bench.settled()
    bench.blocked("*/api/designs/*")
    try:
        type_level(bench, 0.27)
        bench.until(lambda: "not saved" in bench.saving())
        bench.browser.execute_script("addEventListener('beforeunload', e => e.stopImmediatePropagation(), true)")
    finally:
        bench.blocked()
    bench.browser.refresh()
    bench.until(lambda: one(bench.head().document, "vessels", "low-trough")["level_m"] == 0.27)
    bench.until(lambda: bench.saving().startswith("saved"))


def test_what_a_closed_tab_could_not_save_is_back_in_the_next_and_what_an_open_one_has_is_not(bench: Bench) -> None:
    kept = bench.browser.current_window_handle
    bench.browser.get(bench.address)
    bench.browser.switch_to.new_window("tab")
    bench.size(1280, 800)
    bench.load("lines")
    bench.settled()
    bench.blocked("*/api/designs/*")
    type_level(bench, 0.31)
    bench.until(lambda: "not saved" in bench.saving())
    writing = bench.browser.current_window_handle
    bench.browser.switch_to.window(kept)
    bench.load("lines")  # beside the one that is still open
    bench.until(lambda: bench.saving().startswith("saved"))
    bench.part("Low trough")
    assert bench.field("Water level now").get_attribute("value") != "0.31"
    bench.browser.switch_to.window(writing)
    bench.browser.execute_script("addEventListener('beforeunload', e => e.stopImmediatePropagation(), true)")
    bench.browser.close()
    bench.browser.switch_to.window(kept)
    bench.load("lines")
    bench.until(lambda: one(bench.head().document, "vessels", "low-trough")["level_m"] == 0.31)
    bench.until(lambda: bench.saving().startswith("saved"))
    assert "left is back" in bench.browser.page_source


def test_undo_outlives_a_reload(bench: Bench) -> None:
    bench.load("lines")
    before = one(bench.head().document, "vessels", "low-trough")["level_m"]
    type_level(bench)
    bench.until(bench.saved)
    bench.browser.refresh()
    bench.until(lambda: bench.saving().startswith("saved"))
    bench.button("Undo").click()
    bench.part("Low trough")
    bench.until(lambda: float(bench.field("Water level now").get_attribute("value") or 0) == pytest.approx(before))
    bench.browser.find_element(By.TAG_NAME, "body").send_keys(Keys.CONTROL, "y")
    bench.until(lambda: float(bench.field("Water level now").get_attribute("value") or 0) == LEVEL)
