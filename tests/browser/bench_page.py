"""The workbench as the tests use it: by labels and marks that a person meets too."""

import re
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import TypeVar
from uuid import UUID

from selenium import webdriver
from selenium.common.exceptions import TimeoutException
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from leadsman.db.connection import Database
from leadsman.db.revision import RevisionHeading, RevisionRow, select_head, select_headings

# what a page keeps on the device for the field, so that each test begins as on a new one
FORGET = """const done = arguments[arguments.length - 1];
    const kept = navigator.serviceWorker ? navigator.serviceWorker.getRegistrations() : Promise.resolve([]);
    kept.then((found) => Promise.all(found.map((one) => one.unregister()))).then(() => done(true), () => done(false));
"""
NO_ANSWERS = """const done = arguments[arguments.length - 1];
    const opened = indexedDB.open("leadsman-kept");
    opened.onerror = () => done(false);
    opened.onsuccess = () => {
        if (!opened.result.objectStoreNames.contains("answers")) { opened.result.close(); return done(true); }
        const emptied = opened.result.transaction("answers", "readwrite");
        emptied.objectStore("answers").clear();
        emptied.oncomplete = () => { opened.result.close(); done(true); };
    };
"""
WAIT_S = 90
SHORTEST_PAUSE_S, LONGEST_PAUSE_S = 0.02, 0.25
T = TypeVar("T")
AXE = Path(__file__).parents[2] / "web" / "node_modules" / "axe-core" / "axe.min.js"

# what is seen of an element, by the browser itself: the driver's own way takes a hundred times as long
TEXT = """
const found = document.querySelector(arguments[0]);
const lettering = () => [...(found.matches("text") ? [found] : found.querySelectorAll("text"))];
return found && { told: found.innerText ?? lettering().map((one) => one.textContent).join(" ") };
"""


# the address changes without a load, as when a link of the page is followed
GO = "history.pushState({}, '', arguments[0]); dispatchEvent(new PopStateEvent('popstate'));"


class Bench:
    """One tab on one design."""

    def __init__(self, browser: webdriver.Chrome, address: str, design_id: str, database: Database) -> None:
        self.browser, self.address, self.design_id, self.database = browser, address, design_id, database
        self.scope = "body"

    def size(self, width: int, height: int) -> None:
        metrics = {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": False}
        self.browser.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", metrics)

    def open(self, view: str) -> None:
        """Go to a view: within the page that stands already, else by loading it."""
        if self.browser.current_url.startswith(f"{self.address}designs/"):
            self.browser.execute_script(GO, f"/designs/{self.design_id}/{view}")
            self._await_view()
        else:
            self.load(view)

    def load(self, view: str) -> None:
        """Load the page afresh at a view."""
        self.browser.get(f"{self.address}designs/{self.design_id}/{view}")
        self._await_view()

    def _await_view(self) -> None:
        here = "return document.querySelector('[data-design]')?.dataset.design"
        self.until(lambda: self.browser.execute_script(here) == self.design_id)
        self.until(lambda: self.verdict() != "" and "Opening the view" not in self.text("main"))

    def logged(self) -> list[dict[str, str]]:
        """Return what the page wrote to the console since last asked."""
        entries: list[dict[str, str]] = self.browser.get_log("browser")  # type: ignore[no-untyped-call]
        return entries

    def forget_answers(self) -> None:
        """Empty what the page keeps of answers on the device."""
        self.browser.execute_async_script(NO_ANSWERS)

    def leave(self) -> None:
        """Let the next test begin; a page with changes that are not saved is emptied without asking."""
        self.browser.execute_async_script(FORGET)
        saved = self.browser.execute_script(TEXT, "[data-testid=saving]")
        if not saved or not saved["told"].startswith("saved"):
            self.browser.execute_script(
                "window.addEventListener('beforeunload', e => e.stopImmediatePropagation(), true)"
            )
            self.browser.get("about:blank")
        self.blocked()
        self.database.close()

    def until(self, true: Callable[[], T]) -> T:
        """Wait until something is true, meanwhile looking away from what is not there yet; seldomer as it takes longer.

        Raises:
            TimeoutException: a minute and a half has passed; what was not there is its cause.
        """
        end, pause, missing = time.monotonic() + WAIT_S, SHORTEST_PAUSE_S, None
        while time.monotonic() < end:
            try:
                if answer := true():
                    return answer
            except Exception as error:
                missing = error
            time.sleep(pause)
            pause = min(pause * 1.4, LONGEST_PAUSE_S)
        raise TimeoutException(f"not true after {WAIT_S} s") from missing

    def find(self, css: str) -> WebElement:
        return self.until(lambda: self.browser.find_element(By.CSS_SELECTOR, css))

    def text(self, css: str) -> str:
        found = self.until(lambda: self.browser.execute_script(TEXT, css))
        return re.sub(r"\s+", " ", found["told"]).strip()

    def verdict(self) -> str:
        return self.text("[data-testid=verdict]")

    def number(self, key: str) -> str:
        return self.text(f"[data-testid=number-{key}]")

    def saving(self) -> str:
        return self.text("[data-testid=saving]")

    def saved(self) -> bool:
        """Whether an edit has been kept; a slow machine may make several saves of what is typed."""
        return self.saving().startswith("saved") and self.head().number > 1

    def await_text(self, css: str, text: str) -> None:
        self.until(lambda: text in self.text(css))

    def button(self, name: str) -> WebElement:
        return self.until(
            lambda: self.browser.find_element(By.XPATH, f"//button[contains(normalize-space(), '{name}')]")
        )

    def label(self, text: str, within: str = "body") -> WebElement:
        """The last label of that text within an element given by its XPath step."""
        return self.until(lambda: self.browser.find_element(By.XPATH, f"(//{within}//label[.='{text}'])[last()]"))

    def part(self, name: str) -> None:
        """Open the details of a part of the plan by its name."""
        if not self.browser.find_elements(By.CSS_SELECTOR, "[aria-label=Details]"):
            self.find("aside [role=tab]").click()
        option = "//label[.='Details of']/following::select[1]//option"
        self.until(lambda: self.browser.find_element(By.XPATH, f"{option}[.='{name}']")).click()

    def field(self, label: str) -> WebElement:
        script = (
            "return [...document.querySelectorAll(arguments[1] + ' label')].filter(l => l.textContent === arguments[0])"
            ".map(l => document.getElementById(l.htmlFor))"
            ".map(f => (f?.closest('details')?.setAttribute('open', ''), f))[0] ?? null"
        )
        found: WebElement = self.until(lambda: self.browser.execute_script(script, label, self.scope))
        return found

    def fill(self, label: str, text: str) -> None:
        field = self.field(label)
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys(text)

    def choose(self, label: str, value: str) -> None:
        self._put("HTMLSelectElement", "change", self.field(label), value)

    def paste(self, label: str, text: str) -> None:
        """Put a text into a field as one edit: typed key by key, the first may be saved before the last is there."""
        self._put("HTMLInputElement", "input", self.field(label), text)

    def _put(self, kind: str, event: str, field: WebElement, value: str) -> None:
        script = (
            f"const s = arguments[0]; Object.getOwnPropertyDescriptor({kind}.prototype, 'value').set"
            f".call(s, arguments[1]); s.dispatchEvent(new Event('{event}', {{bubbles: true}}))"
        )
        self.browser.execute_script(script, field, value)

    @contextmanager
    def within(self, section: str) -> Iterator[None]:
        """Look for fields only within the section or group of that name."""
        before, self.scope = self.scope, f"[aria-label='{section}']"
        try:
            yield
        finally:
            self.scope = before

    def tab(self, name: str) -> None:
        """Open a part of a view."""
        self.until(lambda: self.browser.find_element(By.XPATH, f"//*[@role='tab'][.='{name}']")).click()

    def press(self, name: str, section: str) -> None:
        """Press a button of a section by its words or its name."""
        script = (
            "return [...document.querySelectorAll(`[aria-label='${arguments[1]}'] button`)]"
            ".find(b => (b.ariaLabel ?? b.textContent).includes(arguments[0])) ?? null"
        )
        found: WebElement = self.until(lambda: self.browser.execute_script(script, name, section))
        self.browser.execute_script("arguments[0].scrollIntoView({block: 'center'})", found)
        found.click()

    def within_dialog(self, name: str) -> WebElement:
        """A button of the dialog that is open, by its words; the whole of them, or a part."""
        path = f"//*[@role='dialog']//button[.='{name}' or (string-length('{name}') > 1 and contains(., '{name}'))]"
        return self.until(lambda: self.browser.find_element(By.XPATH, path))

    def menu(self, name: str, entry: str) -> None:
        """Choose an entry of one of the bar's menus; it acts once the menu has gone."""
        self.until(
            lambda: self.browser.find_element(By.XPATH, f"//header//button[contains(normalize-space(), '{name}')]")
        ).click()
        self._at_rest()
        self.until(
            lambda: self.browser.find_element(
                By.XPATH, f"//*[starts-with(@role, 'menuitem')][contains(normalize-space(), '{entry}')]"
            )
        ).click()
        self.until(lambda: not self.browser.find_elements(By.CSS_SELECTOR, "[role=menu]"))
        self._at_rest()
        time.sleep(0.3)

    def _at_rest(self) -> None:
        """Wait until nothing on the page moves."""
        self.until(lambda: self.browser.execute_script("return document.getAnimations().length === 0"))

    def row(self, part: str) -> None:
        """Open a line of an overview, by the id of what it is about."""
        button = self.find(f"[data-testid=row-{part}] button")
        if button.get_attribute("aria-expanded") != "true":
            button.click()

    def finding(self, code: str) -> WebElement:
        """Open a finding, beside the plan or in another view."""
        for tab in self.browser.find_elements(By.CSS_SELECTOR, "aside [role=tab]")[-1:]:
            tab.click()
        line = self.find(f"[data-testid=finding-{code}] button[aria-expanded]")
        if line.get_attribute("aria-expanded") != "true":
            line.click()
        return self.find(f"[data-testid=finding-{code}]")

    def choose_named(self, name: str, value: str) -> None:
        self.find(f"select[aria-label='{name}'] option[value='{value}']").click()

    def keys(self, *keys: str) -> None:
        self.find("body").send_keys(*keys)

    def settled(self) -> None:
        """Wait until the numbers are of the newest figures."""
        self.until(lambda: self.find("[aria-label=Verdict]").get_attribute("aria-busy") == "false")
        time.sleep(0.1)
        self.until(lambda: self.find("[aria-label=Verdict]").get_attribute("aria-busy") == "false")

    def head(self) -> RevisionRow:
        with self.database.transaction() as connection:
            row = select_head(connection, UUID(self.design_id))
        assert row is not None
        return row

    def revisions(self) -> list[RevisionHeading]:
        with self.database.transaction() as connection:
            return select_headings(connection, UUID(self.design_id))

    def offline(self, off: bool) -> None:
        self._network(offline=off)

    def blocked(self, *addresses: str) -> None:
        """Let nothing through from addresses with * in them; none where none is given."""
        self.browser.execute_cdp_cmd("Network.enable", {})
        self.browser.execute_cdp_cmd("Network.setBlockedURLs", {"urls": list(addresses)})

    def latency(self, milliseconds: int) -> None:
        self._network(latency=milliseconds)

    def _network(self, offline: bool = False, latency: int = 0) -> None:
        self.browser.execute_cdp_cmd("Network.enable", {})
        conditions = {"offline": offline, "latency": latency, "downloadThroughput": -1, "uploadThroughput": -1}
        self.browser.execute_cdp_cmd("Network.emulateNetworkConditions", conditions)

    def without_rest(self) -> None:
        """Do without what takes longer than an edit may: remedies, and the herds at their troughs."""
        self.blocked("*/api/analyses/rest")

    def axe(self, rule: str | None = None) -> list[str]:
        """Return what axe-core finds, of any impact, by all of its rules or one."""
        self._at_rest()
        self.browser.execute_script(AXE.read_text(encoding="utf-8"))
        found = self.browser.execute_async_script(
            "const [rule, done] = arguments;"
            "axe.run(rule ? {runOnly: [rule]} : {}).then(r => done(r.violations"
            ".map(v => v.id + ': ' + v.nodes.map(n => n.html).join(' | '))))",
            rule,
        )
        return list(found)
