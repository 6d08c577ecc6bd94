"""A person's mouse and keys on the plan."""

from bench_page import Bench
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys


class Hand:
    """A person's mouse and keys on the plan, counting what they do."""

    def __init__(self, bench: Bench) -> None:
        self.bench, self.actions = bench, 0

    def mark(self, part_id: str) -> tuple[float, float]:
        """The middle of the mark of a part on the plan, in pixels of the page."""
        return self._middle_of(f"[data-testid='plan-{part_id}'] :is(rect, circle)")

    def mouse(self) -> ActionChains:
        return ActionChains(self.bench.browser, duration=80)

    def _mouse_at(self, x: float, y: float) -> ActionChains:
        """The mouse over the plan at pixels of the page."""
        plan = self.bench.find("[data-testid=plan-map]")
        box = plan.rect
        right, down = int(x - box["x"] - box["width"] / 2), int(y - box["y"] - box["height"] / 2)
        return self.mouse().move_to_element_with_offset(plan, right, down)

    def click_at(self, x: float, y: float, times: int = 1) -> None:
        """Click on the plan at pixels of the page."""
        chain = self._mouse_at(x, y)
        for _ in range(times):
            chain = chain.click().pause(0.1)
        chain.pause(0.3).perform()
        self.actions += 1

    def drag(self, since: tuple[float, float], by: tuple[float, float]) -> None:
        chain = self._mouse_at(*since).click_and_hold()
        for _ in range(5):
            chain = chain.move_by_offset(int(by[0] / 5), int(by[1] / 5))
        chain.release().perform()
        self.actions += 1

    def type(self, label: str, text: str) -> None:
        self.bench.fill(label, text)
        self.actions += 2

    def press(self, name: str) -> None:
        self.bench.button(name).click()
        self.actions += 1

    def middle(self, test_id: str) -> tuple[float, float]:
        """The middle of a handle on the plan, in pixels of the page."""
        return self._middle_of(f"[data-testid='{test_id}']")

    def _middle_of(self, css: str) -> tuple[float, float]:
        script = (
            "const r = document.querySelector(arguments[0])?.getBoundingClientRect();"
            "return r ? [r.x + r.width / 2, r.y + r.height / 2] : null"
        )
        x, y = self.bench.until(lambda: self.bench.browser.execute_script(script, css))
        return float(x), float(y)

    def between(self, one: str, other: str, share: float = 0.5) -> tuple[float, float]:
        """A point on the straight way between two marks."""
        (x1, y1), (x2, y2) = self.mark(one), self.mark(other)
        return x1 + (x2 - x1) * share, y1 + (y2 - y1) * share

    def free(self) -> None:
        """Let no field have the keys."""
        self.bench.browser.execute_script("document.activeElement.blur()")

    def tab_to(self, name: str) -> None:
        """Press Tab until what has the keys is called so."""
        script = (
            "const e = document.activeElement;"
            "const l = e.id && document.querySelector(`label[for='${CSS.escape(e.id)}']`);"
            "return (e.getAttribute('aria-label') || l?.textContent || e.textContent || '').trim()"
        )
        for _ in range(60):
            self.keys(Keys.TAB)
            if self.bench.browser.execute_script(script).startswith(name):
                return
        raise AssertionError(f"Tab does not get to {name!r}")

    def keys(self, *keys: str) -> None:
        """Press keys, wherever they go."""
        ActionChains(self.bench.browser, duration=20).send_keys(*keys).perform()
        self.actions += 1

    def with_shift(self, key: str, times: int) -> None:
        chain = ActionChains(self.bench.browser, duration=20).key_down(Keys.SHIFT)
        for _ in range(times):
            chain = chain.send_keys(key)
        chain.key_up(Keys.SHIFT).perform()
        self.actions += 1
