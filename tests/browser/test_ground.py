"""Ground in the field: big keys for one person, and a profile from the height service."""

import json
import urllib.request

from bench_page import Bench
from farm import one
from selenium.webdriver.common.keys import Keys

from leadsman.launch.server import Server

BOOK = "Level book 2"


def test_one_person_in_a_field_enters_a_book_by_big_keys(bench: Bench) -> None:
    bench.size(390, 844)
    bench.open("ground")
    bench.tab("Readings")
    bench.button("Add level book").click()
    bench.press("Big keys for the field", BOOK)

    def key_in(number: str, then: str) -> None:
        for key in number:
            bench.within_dialog(key).click()
        assert bench.text("[data-testid=field-number]").startswith(number)
        bench.within_dialog(then).click()

    assert bench.axe() == []
    wide = bench.browser.execute_script("return Math.min(...[...document.querySelectorAll('[role=dialog] button')]"
                                        ".map(b => b.getBoundingClientRect().height))")  # fmt: skip
    assert wide >= 44
    with bench.within("x"):
        bench.scope = "[role=dialog]"
        bench.choose("Staff at", "pit")
    key_in("1.5", "Backsight")
    key_in("2.31", "Intermediate sight")
    with bench.within("x"):
        bench.scope = "[role=dialog]"
        bench.choose("Staff at", "gate")
    key_in("3.905", "Turning point")
    key_in("1.2", "Backsight")
    with bench.within("x"):
        bench.scope = "[role=dialog]"
        bench.choose("Staff at", "pit")
    bench.find("[role=dialog]").send_keys("0.4", Keys.BACKSPACE, "5")  # a keyboard does as well
    key_in("", "Close the book")
    bench.until(bench.saved)
    wanted = [{"place": "pit", "back_m": 1.5}, {"mid_m": 2.31}, {"place": "gate", "fore_m": 3.905, "back_m": 1.2},
              {"place": "pit", "fore_m": 0.5}]  # fmt: skip
    bench.until(lambda: bench.head().document["books"][1]["readings"] == wanted)
    bench.size(1280, 800)


def test_a_profile_is_filled_from_the_service_and_its_trouble_is_told(bench: Bench, heights: Server) -> None:
    def mode(name: str) -> None:
        request = urllib.request.Request(heights.address + "mode", json.dumps({"mode": name}).encode(), method="PUT")
        urllib.request.urlopen(request, timeout=10).close()

    bench.open("ground")
    bench.tab("Lengths and profiles")
    mode("down")
    try:
        bench.press("Fill profile of Goose hose", "Goose hose")
        bench.until(lambda: "The line keeps its points" in bench.text("[data-testid=profile-filled]"))
    finally:
        mode("fine")
    bench.press("Fill profile of Goose hose", "Goose hose")
    bench.until(lambda: "known to ± 0.6 m" in bench.text("[data-testid=profile-filled]"))
    assert "points" not in one(bench.head().document, "lines", "goose-hose")
    bench.press("Use this profile", "Goose hose")
    bench.until(lambda: one(bench.head().document, "lines", "goose-hose").get("points_error_m") == 0.6)
    assert "Stand-in height service" in bench.text("[role=group][aria-label='Goose hose']")
