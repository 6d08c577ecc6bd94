"""The focus is never lost, letters open views, and what is pressed is large enough for a finger."""

from functools import partial

import pytest
from bench_page import Bench
from hand import Hand
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

SMALL = """
const least = arguments[0];
const all = document.querySelectorAll('button, a[href], input, select, textarea, summary');
return [...all].filter(e => !e.closest('svg')).flatMap(e => {
  const field = e.matches('input, select, textarea') && e.closest('.MuiFormControl-root, label');
  const [own, box] = [e.getBoundingClientRect(), (field || e).getBoundingClientRect()];
  if (!own.width || !own.height) return [];
  const [wide, high] = [Math.max(own.width, box.width), Math.max(own.height, box.height)];
  const small = wide < least - 0.5 || high < least - 0.5;
  return small ? [`${Math.round(wide)} x ${Math.round(high)} ${e.outerHTML.slice(0, 120)}`] : [];
});
"""


def focused(bench: Bench) -> str:
    script = (
        "const e = document.activeElement;"
        "return e === document.body ? 'body' : e.getAttribute('aria-label') ?? e.textContent"
    )
    return str(bench.browser.execute_script(script))


def is_at(bench: Bench, view: str) -> bool:
    return bench.browser.current_url.endswith(f"/{view}")


def has_none_smaller(bench: Bench, least_px: int) -> bool:
    return bool(bench.browser.execute_script(SMALL, least_px) == [])


def test_the_focus_moves_to_what_was_added_and_beside_what_was_deleted(bench: Bench) -> None:
    bench.without_rest()
    bench.open("demand")
    hand = Hand(bench)
    hand.tab_to("Add herd")
    hand.keys(Keys.ENTER)
    bench.until(lambda: "Herd 4" in focused(bench))
    bench.press("Delete", "Herd 4")
    bench.until(lambda: not bench.browser.find_elements(By.CSS_SELECTOR, "[data-testid=row-herd-4]"))
    bench.until(lambda: focused(bench) != "body")
    bench.open("lines")
    bench.settled()
    hand.free()
    bench.keys("l")
    hand.click_at(*hand.mark("pit"))
    hand.click_at(*hand.mark("gate"), times=2)
    bench.until(lambda: bench.browser.execute_script("return !!document.activeElement.closest('aside')"))
    bench.press("Delete pipe", "Details")
    bench.until(lambda: len(bench.head().document["lines"]) == 12)
    bench.until(lambda: focused(bench) != "body")


def test_letters_open_views(bench: Bench) -> None:
    bench.open("lines")
    hand = Hand(bench)
    for letter, view in (("d", "demand"), ("s", "supply"), ("g", "ground"), ("p", "parts"), ("l", "lines")):
        hand.free()
        hand.with_shift(letter, 1)
        bench.until(partial(is_at, bench, view))


@pytest.mark.parametrize("view", ["", "demand", "supply", "ground", "lines", "parts"])
def test_what_is_pressed_is_large_enough_for_a_finger_and_for_a_mouse(bench: Bench, view: str) -> None:
    if view:
        bench.open(view)
    else:
        bench.browser.get(bench.address)
        bench.find("main section li a")
    for width, height, least in ((390, 844, 44), (1280, 800, 24)):
        bench.size(width, height)
        bench.until(partial(has_none_smaller, bench, least))
