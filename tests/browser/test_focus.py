"""Who walks through a view with the Tab key sees at every stop where they are."""

from typing import Any

import pytest
from bench_page import Bench
from selenium.webdriver.common.keys import Keys

MOST_STOPS = 150
STILL = "const s = document.createElement('style'); s.textContent = '*,*::before,*::after{transition:none!important}';"

# the outline that nothing but the focus draws; else what is drawn at the focused element and the three around it,
# with the focus and without it
STOP = """
return (async () => {
const drawn = (stop) => {
  const all = [];
  for (let at = stop, up = 0; at instanceof Element && up < 4; at = at.parentElement, up += 1)
    for (const part of [null, "::before", "::after"]) {
      const s = getComputedStyle(at, part);
      const outline = s.outlineStyle === "none" ? "" : s.outlineStyle + s.outlineColor + s.outlineWidth;
      all.push(outline, s.boxShadow, s.backgroundColor, s.borderBottomColor, s.borderBottomWidth, s.transform);
    }
  return all.join();
};
const stop = document.activeElement;
if (stop === document.body) return null;
const first = stop.dataset.walked === undefined;
stop.dataset.walked = "";
const name = `${stop.tagName} ${stop.className?.baseVal ?? stop.className} ` +
  (stop.getAttribute("aria-label") ?? stop.textContent.slice(0, 40));
if (getComputedStyle(stop).outline.endsWith("solid 2px")) return { first, changed: true, name };
const focused = drawn(stop);
stop.blur();
await new Promise((drawnAgain) => setTimeout(drawnAgain));
const changed = drawn(stop) !== focused;
stop.focus({ preventScroll: true });
return { first, changed, name };
})();
"""


@pytest.mark.parametrize("view", ["demand", "supply", "ground", "lines", "parts", "build"])
def test_every_stop_of_the_tab_key_is_seen(bench: Bench, view: str) -> None:
    bench.open(view)
    bench.settled()
    bench.browser.execute_script(f"{STILL} document.head.append(s)")
    walked: list[dict[str, Any]] = []
    for _ in range(MOST_STOPS):
        bench.keys(Keys.TAB)
        stop = bench.browser.execute_script(STOP)
        if stop is None or not stop["first"]:
            break
        walked.append(stop)
    assert len(walked) > 20
    unseen = [stop["name"] for stop in walked if not stop["changed"]]
    assert unseen == [], "\n".join(unseen)
