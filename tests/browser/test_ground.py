"""The view Ground in a real browser: a level book reduces itself while it is typed, and its heights are taken."""

from bench_page import Bench
from farm import expected, one

from leadsman.core.report.ground import book_reports


def test_a_level_book_reduces_itself_closes_and_gives_its_heights(bench: Bench) -> None:
    bench.open("ground")
    bench.button("Start a level book").click()
    bench.choose("Point 1", "gate")
    bench.fill("Back 1", "0.62")
    bench.button("Next point").click()
    bench.choose("Point 2", "low")
    bench.choose("Sight 2", "moves")
    bench.fill("Fore 2", "3.84")
    bench.fill("Back 2", "3.71")
    bench.button("Next point").click()
    bench.choose("Point 3", "gate")
    bench.choose("Sight 3", "last")
    bench.fill("Fore 3", "0.496")
    bench.fill("Way walked, km", "0.4")
    readings = [{"place": "gate", "back_m": 0.62}, {"place": "low", "fore_m": 3.84, "back_m": 3.71},
                {"place": "gate", "fore_m": 0.496}]  # fmt: skip
    book = {"id": "book-1", "readings": readings, "length_km": 0.4}
    (told,) = book_reports(expected(lambda d: d.update(books=[book])).design)
    assert told.misclosure_m is not None
    missed = f"misses by {told.misclosure_m:.3f}".replace("-", "−")
    bench.until(lambda: missed in bench.text("[data-testid=book-told-0]"))
    assert bench.text("[data-testid=level-0-1]") == f"{told.points[1].adjusted_m:.3f}"
    assert told.allowed_m is not None
    assert abs(told.misclosure_m) <= told.allowed_m
    assert not bench.browser.find_elements("css selector", "[data-testid=finding-misclosure]")
    bench.fill("Fore 3", "0.596")
    bench.until(lambda: bench.find("[data-testid=finding-misclosure]"))
    assert "graduation misread" in bench.text("[data-testid=book-told-0]")
    bench.fill("Fore 3", "0.496")
    bench.until(lambda: missed in bench.text("[data-testid=book-told-0]"))
    bench.button("Take these heights").click()
    bench.until(bench.saved)
    bench.until(lambda: one(bench.head().document, "places", "low").get("height_from") == "level and staff")
    low = one(bench.head().document, "places", "low")
    assert low["ground_m"] == round(told.points[1].adjusted_m, 3)


def test_ground_has_no_serious_fault_for_those_who_hear_or_type_and_fits_a_phone(bench: Bench) -> None:
    bench.open("ground")
    bench.button("Start a level book").click()
    bench.until(lambda: bench.find("[data-testid=book-told-0]"))
    assert bench.axe() == []
    bench.size(390, 844)
    wide = bench.browser.execute_script("return document.documentElement.scrollWidth")
    assert wide <= 390
    bench.size(1280, 800)
