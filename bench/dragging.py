"""What the hand feels: a tank dragged over a plan of two hundred outlets in a real browser."""

import sys
import time
from collections.abc import Iterator
from pathlib import Path
from statistics import median
from typing import Any

from selenium import webdriver
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.support.ui import WebDriverWait

from bench.designs import comb
from bench.measure import Result, at_least, at_most, million_steps_s
from bench.served import served

sys.path.insert(0, str(Path(__file__).parents[1] / "tests" / "browser"))  # the tests' own browser
from chrome import chrome

DRAGS, STEPS = 7, 24
# pixels of each step: a few metres of plan, and so far that there is suction, which is solved open to air
NEAR_PX, FAR_PX = 1, 4
LEAST_FRAMES_PER_S, MOST_MS, MOST_SUCTION_MS = 30.0, 60.0, 120.0
# the aim is for a laptop: one on which a million steps of a plain loop take so long (our own estimate, no source)
LAPTOP_MS = 20.0
LONGEST_WAIT_S = 120

# from the first movement of the hand to the last, every frame; after it, when a flow on the plan is next another one
WATCH = """
const seen = { frames: [], moved: 0, told: [] };
window.__seen = seen;
const frame = (now) => { seen.frames.push(now); if (window.__seen === seen) requestAnimationFrame(frame); };
requestAnimationFrame(frame);
addEventListener("pointermove", () => { seen.moved = performance.now(); }, true);
new MutationObserver(() => seen.told.push(performance.now())).observe(
  document.querySelector("[data-testid=number-flow]"), { subtree: true, characterData: true, childList: true });
"""
MIDDLE = """
const box = document.querySelector("[data-testid=plan-tank] rect").getBoundingClientRect();
return [box.x + box.width / 2, box.y + box.height / 2];
"""
READ = """
const seen = window.__seen;
const answers = performance.getEntriesByName("preview");
return { frames: seen.frames, moved: seen.moved, told: seen.told, answers: answers.map((one) => one.startTime) };
"""


def results() -> Iterator[Result]:
    """Yield frames a second while a tank is dragged, and how long its flows take to follow the hand."""
    with served(comb(20, 10)) as address, chrome() as browser:
        yield from _dragged(browser, address)


def _dragged(browser: webdriver.Chrome, address: str) -> Iterator[Result]:
    metrics = {"width": 1280, "height": 800, "deviceScaleFactor": 1, "mobile": False}
    browser.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", metrics)
    browser.get(address)
    wait = WebDriverWait(browser, LONGEST_WAIT_S, 0.2)
    wait.until(lambda _: browser.find_element(By.CSS_SELECTOR, "[data-testid=plan-tank]"))
    told = '[aria-label=Verdict][aria-busy="false"]'
    wait.until(lambda _: browser.find_element(By.CSS_SELECTOR, told))
    browser.execute_script(WATCH)
    yield from _measured(browser, NEAR_PX, "a tank is dragged", MOST_MS)
    yield from _measured(browser, FAR_PX, "it is dragged so far that lines draw in air", MOST_SUCTION_MS)


def _measured(browser: webdriver.Chrome, step_px: int, what: str, most_ms: float) -> Iterator[Result]:
    rates, delays, paces = [], [], []
    for number in range(DRAGS):
        x, y = browser.execute_script(MIDDLE)
        chain = ActionChains(browser, duration=25)
        chain.w3c_actions.pointer_action.move_to_location(int(x), int(y))  # type: ignore[no-untyped-call]
        chain = chain.click_and_hold()
        side = step_px if number % 2 else -step_px
        for _ in range(STEPS):
            chain = chain.move_by_offset(side, 0)
        started = browser.execute_script("return performance.now()")
        chain.perform()
        ended = browser.execute_script("return window.__seen.moved")
        time.sleep(0.6)
        seen = browser.execute_script(READ)
        rates.append(_frames_per_s(seen, started, ended))
        delays.append(_delay_ms(seen))
        paces.append(
            million_steps_s() * 1e3
        )  # beside each drag: where others share the processor it changes all the time
        ActionChains(browser).release().perform()
        time.sleep(0.3)
    steps_ms, delay_ms = median(paces), median(delays)
    yield at_least(f"200 outlets, {what}: frames a second", median(rates), LEAST_FRAMES_PER_S)
    yield Result("  the flow follows the last movement in [ms]", delay_ms, note=f"aim {most_ms:g} ms")
    ratio, pace = delay_ms / steps_ms, f"{steps_ms:.0f} ms here, {LAPTOP_MS:g} ms on a laptop"
    yield at_most("  that over a million steps of a plain loop", ratio, most_ms / LAPTOP_MS, note=pace)


def _frames_per_s(seen: dict[str, Any], started: float, ended: float) -> float:
    frames = [frame for frame in seen["frames"] if started <= frame <= ended]
    return float(1000.0 * (len(frames) - 1) / (frames[-1] - frames[0]))


def _delay_ms(seen: dict[str, Any]) -> float:
    """How long after the last movement the number told is that of the last question."""
    answered = seen["answers"][-1]
    told = [one for one in seen["told"] if one >= answered]
    return float((told[0] if told else answered) - seen["moved"])
