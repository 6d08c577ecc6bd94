"""Need and Water in as people type into them: by keyboard alone, nonsense, other units, and with the line cut."""

import pytest
from bench_page import Bench
from farm import expected, number, one
from selenium.webdriver.common.keys import Keys

OPENS_ITSELF = True

US_GALLON_L = 3.785411784
LABEL_OF_FOCUS = (
    "const e = document.activeElement; const l = document.querySelector(`label[for='${e.id}']`);"
    "return l ? l.textContent : e.textContent"
)


def tab_to(bench: Bench, label: str, most: int = 80) -> None:
    """Press Tab until a field of that label has the focus."""
    for _ in range(most):
        bench.browser.switch_to.active_element.send_keys(Keys.TAB)
        if bench.browser.execute_script(LABEL_OF_FOCUS) == label:
            return
    raise AssertionError(f"{label} is not reached in {most} steps")


def type_here(bench: Bench, *keys: str) -> None:
    bench.browser.switch_to.active_element.send_keys(*keys)


def test_a_herd_is_counted_by_keyboard_alone_and_undone(bench: Bench) -> None:
    bench.open("need")
    before = bench.text("[data-testid=need-heifers]")
    tab_to(bench, "Heads")
    type_here(bench, Keys.CONTROL, "a")
    type_here(bench, "50")
    fifty = expected(lambda d: one(d, "herds", "heifers").update(head=50))
    bench.until(lambda: f"{fifty.herds[0].daily_l:.0f}" in bench.text("[data-testid=need-heifers]").replace(" ", ""))
    bench.until(lambda: number(fifty, "spare") in bench.number("spare"))
    type_here(bench, Keys.ENTER)
    type_here(bench, Keys.ARROW_UP)
    more = expected(lambda d: one(d, "herds", "heifers").update(head=51))
    bench.until(lambda: f"{more.herds[0].daily_l:.0f}" in bench.text("[data-testid=need-heifers]").replace(" ", ""))
    tab_to(bench, "Weight of one", 4)
    bench.keys(Keys.CONTROL, "z")
    bench.keys(Keys.CONTROL, "z")
    bench.until(lambda: bench.text("[data-testid=need-heifers]") == before)


def test_a_table_folded_under_a_picture_opens_by_keyboard(bench: Bench) -> None:
    bench.open("need")
    bench.until(lambda: bench.find("main details"))
    tab_to(bench, "The day as a table")
    type_here(bench, Keys.ENTER)
    bench.until(lambda: "Hour" in bench.text("main details[open]"))


NONSENSE = {
    "need": [
        ("Heads", "many", "“many” is not a number"),
        ("Heads", "-4", "allowed"),
        ("Weight of one", "9000", "allowed"),
        ("Air, hot spell", "71", "allowed"),
    ],
    "water": [
        ("Pail", "1e", "“1e” is not a number"),
        ("Filled in", "0", "allowed"),
        ("Runs off, %", "140", "allowed"),
    ],
}


@pytest.mark.parametrize("view", NONSENSE)
def test_nonsense_is_told_where_it_stands_and_nothing_is_lost(bench: Bench, view: str) -> None:
    bench.open(view)
    verdict = bench.verdict()
    for label, typed, said in NONSENSE[view]:
        good = bench.field(label).get_attribute("value") or ""
        bench.fill(label, typed)
        bench.await_refusal(label, said)
        assert bench.verdict() == verdict
        bench.fill(label, good)
        bench.await_refusal(label, None)
        bench.until(lambda: bench.verdict() == verdict)


def test_what_is_typed_in_gallons_is_kept_in_litres(bench: Bench) -> None:
    bench.open("water")
    bench.choose_named("Units", "us")
    bench.until(lambda: "gal/day" in bench.number("spare"))
    bench.fill("First-flush leg", "20")
    bench.until(bench.saved)
    bench.until(lambda: one(bench.head().document, "inflows", "glasshouse-roof")["first_flush_l"] != 45)
    kept = one(bench.head().document, "inflows", "glasshouse-roof")["first_flush_l"]
    assert kept == pytest.approx(20 * US_GALLON_L)
    told = expected(lambda _: None).store_season
    assert told is not None
    gallons = f"{told.capacity_m3 * 1000 / US_GALLON_L:,.0f} gal".replace(",", " ")
    bench.until(lambda: gallons in bench.text("[aria-label=Season] svg:has([data-testid=season-store])"))
    bench.choose_named("Units", "metric")


def test_with_the_line_cut_an_edit_of_the_season_is_kept_and_sent_when_it_is_back(bench: Bench) -> None:
    bench.open("water")
    bench.until(lambda: bench.text("[data-testid=season-told]"))
    bench.offline(True)
    bench.button("Add a timing").click()
    bench.until(lambda: bench.field("Timed on, 4"))
    bench.until(lambda: "not saved" in bench.saving())
    bench.offline(False)
    bench.until(bench.saved)
    assert len(one(bench.head().document, "inflows", "weir-intake")["timings"]) == 4
