"""Nothing is lost when the connection, the server, another tab or a view fails."""

import re

from bench_page import Bench
from farm import one
from selenium.webdriver.common.by import By

LOST = "could not be loaded"


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


def test_a_plan_is_judged_once_when_it_is_opened_and_again_when_its_first_answer_fails(bench: Bench) -> None:
    asked = """return performance.getEntriesByType('resource').map((one) => one.name)
        .filter((name) => /\\/analys(is|es)$/.test(name)).map((name) => name.split("/").at(-1))"""
    bench.load("lines")
    bench.settled()
    assert bench.browser.execute_script(asked) == ["analysis"]
    bench.forget_answers()
    bench.blocked("*/analysis")
    try:
        bench.load("lines")
        bench.settled()
        assert "analyses" in bench.browser.execute_script(asked)
    finally:
        bench.blocked()


def test_what_has_not_been_opened_yet_opens_without_a_connection(bench: Bench) -> None:
    bench.load("lines")
    named = "one => /assets\\/(demand|tables)-/.test(one.name)"
    fetched = f"return performance.getEntriesByType('resource').filter({named}).length"
    bench.until(lambda: bench.browser.execute_script(fetched) == 2)
    bench.offline(True)
    try:
        bench.button("Tables").click()
        bench.until(lambda: "Valve passes" in bench.text("main"))
        bench.find("nav a[href$='/demand']").click()
        bench.until(lambda: "Demand:" in bench.text("main h1"))
    finally:
        bench.offline(False)


def test_a_view_that_breaks_leaves_the_rest_of_the_page_and_is_drawn_again(bench: Bench) -> None:
    bench.load("lines")
    bench.part("Low trough")
    bench.fill("Water level now", "0.25")
    bench.until(bench.saved)
    broken = "class { constructor() { throw Error('on purpose') } }"
    bench.browser.execute_script(f"window.kept = window.ResizeObserver; window.ResizeObserver = {broken}")
    bench.find("nav a[href$='/demand']").click()
    bench.until(lambda: "cannot be shown" in bench.text("main [role=alert]"))
    bench.browser.execute_script("window.ResizeObserver = window.kept")
    bench.button("Undo").click()
    bench.until(lambda: "Demand:" in bench.text("main"))
    assert not bench.browser.find_elements(By.CSS_SELECTOR, "main [role=alert]")
    bench.until(lambda: bench.saving().startswith("saved"))
    assert any("on purpose" in entry["message"] for entry in bench.logged())


def test_of_two_tabs_the_second_sees_both_versions_and_chooses(bench: Bench) -> None:
    bench.open("lines")
    first = bench.browser.current_window_handle
    bench.browser.switch_to.new_window("tab")
    second = bench.browser.current_window_handle
    bench.size(1280, 800)
    bench.open("lines")
    for handle, level in ((first, "0.2"), (second, "0.3")):
        bench.browser.switch_to.window(handle)
        bench.part("Low trough")
        bench.fill("Water level now", level)
        bench.until(lambda: bench.head().number > 1 and re.match("saved|not saved: changed elsewhere", bench.saving()))
    assert "nothing is lost" in bench.text("[role=alert]")
    assert one(bench.head().document, "vessels", "low-trough")["level_m"] == 0.2
    bench.button("Keep mine").click()
    bench.until(bench.saved)
    assert one(bench.head().document, "vessels", "low-trough")["level_m"] == 0.3
    bench.browser.close()
    bench.browser.switch_to.window(first)


def test_an_edit_made_while_a_slow_save_is_on_its_way_is_saved_after_it(bench: Bench) -> None:
    bench.open("lines")
    bench.part("Low trough")
    bench.latency(4000)
    try:
        bench.fill("Water level now", "0.25")
        bench.until(lambda: bench.saving() == "saving …")
        bench.fill("Water level now", "0.35")
        bench.until(lambda: one(bench.head().document, "vessels", "low-trough")["level_m"] == 0.35)
        bench.until(bench.saved)
    finally:
        bench.latency(0)
    assert {revision.standing for revision in bench.revisions()} == {"kept"}  # never at odds with itself


def test_without_a_connection_edits_are_kept_and_sent_later(bench: Bench) -> None:
    bench.open("lines")
    bench.part("Low trough")
    bench.offline(True)
    try:
        bench.fill("Water level now", "0.25")
        bench.until(lambda: "kept here" in bench.saving())
        assert bench.field("Water level now").get_attribute("value") == "0.25"
        assert bench.head().number == 1
        bench.open("supply")
        bench.row("weir-intake")
        bench.button("Add a timing").click()
        bench.until(lambda: bench.field("Timed on, 4"))
    finally:
        bench.offline(False)
    bench.until(bench.saved)
    kept = bench.head().document
    assert one(kept, "vessels", "low-trough")["level_m"] == 0.25
    assert len(one(kept, "inflows", "weir-intake")["timings"]) == 4


def test_what_is_noted_without_a_connection_waits_on_the_phone_and_is_sent_once(bench: Bench) -> None:
    bench.open("log")
    bench.until(lambda: "Nothing is noted yet" in bench.text("main"))
    bench.offline(True)
    bench.find("textarea").send_keys("trough low, float stuck")
    bench.button("Note it").click()
    bench.until(lambda: "1 entry waits on this device" in bench.text("[data-testid=queue]"))
    bench.until(lambda: "waits on this device" in bench.text("[aria-label=Entries]"))
    bench.offline(False)
    bench.browser.refresh()  # the page is closed meanwhile: what waits is on the disk
    bench.until(lambda: "All entries are sent" in bench.text("[data-testid=queue]"))
    with bench.database.transaction() as connection:
        rows = connection.execute("SELECT said FROM log_entry").fetchall()
    assert rows == [("trough low, float stuck",)]
