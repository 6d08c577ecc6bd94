"""No serious fault for those who hear or type the page, on a phone, with text of twice the size."""

import pytest
from bench_page import Bench
from selenium.webdriver.common.by import By


@pytest.mark.parametrize("view", ["demand", "supply", "lines", "parts"])
def test_each_view_has_no_serious_fault_for_those_who_hear_or_type_and_fits_a_phone(bench: Bench, view: str) -> None:
    bench.open(view)
    assert bench.axe() == []
    bench.menu("L · m", "Dark")
    assert bench.axe("color-contrast") == []
    bench.menu("L · m", "Light")
    bench.size(390, 844)
    assert view in bench.browser.current_url
    assert bench.browser.execute_script("return document.documentElement.scrollWidth") <= 390
    # the work begins in the upper third, once the page has taken up its new width
    bench.until(lambda: bench.find("main").rect["y"] < 844 / 3)
    bench.find("[aria-label=Verdict] button").click()
    bench.until(lambda: bench.number("days"))


def test_ground_has_no_serious_fault_for_those_who_hear_or_type_and_fits_a_phone(bench: Bench) -> None:
    bench.open("ground")
    bench.until(lambda: "Calculating" not in bench.text("[data-testid=next-reading]"))
    for part in ("Heights", "Readings", "Lengths and profiles", "Import and export"):
        bench.tab(part)
        assert bench.axe() == [], part
        bench.size(390, 844)
        assert bench.browser.execute_script("return document.documentElement.scrollWidth") <= 390, part
        bench.size(1280, 800)


def test_tables_revisions_and_the_sheet_of_keys_have_no_serious_fault(bench: Bench) -> None:
    bench.open("lines")
    bench.button("Tables").click()
    bench.button("Lines (12)").click()
    bench.find("tbody tr[data-testid^=row-]")
    assert bench.axe() == []
    bench.button("History").click()
    bench.until(lambda: "revision 1" in bench.text("[role=dialog]").lower())
    assert bench.axe() == []
    bench.button("Close").click()
    bench.until(lambda: not bench.browser.find_elements(By.CSS_SELECTOR, "[role=dialog]"))
    bench.keys("?")
    bench.await_text("[role=dialog]", "add a trough, tap, tank")
    assert bench.axe() == []


def test_text_of_twice_the_size_is_not_cut_off_and_wide_screens_are_used(bench: Bench) -> None:
    bench.open("lines")
    for width, height in ((1280, 800), (1920, 1080)):
        bench.size(width, height)
        bench.settled()
        assert bench.find("[aria-label=Plan]").size["width"] > width * 0.4
        bench.browser.execute_script("document.documentElement.style.fontSize = '200%'")
        assert bench.browser.execute_script("return document.documentElement.scrollWidth") <= width
        bench.browser.execute_script("document.documentElement.style.fontSize = ''")
    assert "Goose pan" in bench.verdict()


PAGES = {
    "parts": (("Joints", "Not solved"), ("Compare", "Fills the bucket in"), ("Catalogue", "Add own")),
    "build": (
        ("Work", "Two people"), ("Laying", "From its start"), ("Holes", "Stem across"), ("Floats", "wide open again"),
        ("First water", "Step 1 of"),
    ),
    "log": (("Daily look", "1 of"), ("Log", "Nothing is noted")),
}  # fmt: skip


@pytest.mark.parametrize("view", list(PAGES))
def test_every_page_of_parts_build_and_log_has_no_serious_fault(bench: Bench, view: str) -> None:
    bench.open(view)
    for page, says in PAGES[view]:
        bench.button(page).click()
        bench.await_text("main", says)
        assert bench.axe() == [], page
        bench.size(390, 844)
        assert bench.browser.execute_script("return document.documentElement.scrollWidth") <= 390, page
        bench.size(1280, 800)
