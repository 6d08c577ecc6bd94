"""The workbench in a real browser: its numbers are the solver's, and nothing that is typed is lost."""

import json
import re
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from bench_page import Bench
from farm import expected, flow_text, gallons, number, one
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from leadsman.core.base.wording import plain
from leadsman.core.design.file import read_design
from leadsman.core.findings.registry import judge
from leadsman.core.findings.verdict import verdict
from leadsman.demo import tamsel_ridge


def lower_by_a_metre(document: Any) -> None:
    one(document, "places", "knoll")["ground_m"] -= 1.0
    one(document, "lines", "weir-feed")["points"][-1][1] -= 1.0


def test_lowering_the_tank_changes_flow_and_verdict_to_the_solvers_numbers_and_is_kept(bench: Bench) -> None:
    before, after = expected(lambda _: None), expected(lower_by_a_metre)
    assert number(before, "flow") + " L/min" in bench.number("flow")
    first_verdict = bench.verdict()

    bench.part("West chamber")
    bench.fill("Ground height", "265.4")
    bench.until(lambda: number(after, "flow") + " L/min" in bench.number("flow"))
    wording = plain(verdict(after, judge(after)).sentence)
    assert bench.verdict() == wording
    assert wording != first_verdict

    bench.field("Ground height").send_keys(Keys.ENTER)
    bench.keys(Keys.CONTROL, "z")
    bench.until(lambda: number(before, "flow") + " L/min" in bench.number("flow"))
    assert bench.verdict() == first_verdict
    bench.button("Redo").click()
    bench.until(lambda: number(after, "flow") + " L/min" in bench.number("flow"))

    bench.until(bench.saved)
    head = bench.head()
    assert one(head.document, "places", "knoll")["ground_m"] == 265.4
    bench.open("lines")
    assert number(after, "flow") + " L/min" in bench.number("flow")
    assert bench.saving() == f"saved · revision {head.number}"

    bench.choose_named("Units", "us")
    bench.until(lambda: gallons(after) in bench.number("flow"))
    bench.part("West chamber")
    assert bench.field("Ground height").get_attribute("value") == f"{265.4 / 0.3048:.2f}"
    bench.part("all outlets: what each gets")
    assert "gal/min" in bench.text("[aria-label=Figures]")
    bench.choose_named("Units", "metric")


EDITS: list[tuple[str, str | None, str, str, Callable[[Any], object], str]] = [
    ("lines", "Fold leg", "Length of pipe", "220", lambda d: _longer(one(d, "lines", "fold-leg"), 220), "flow"),
    ("lines", "Low leg", "Ground at 110 m", "265", lambda d: _raised(one(d, "lines", "low-leg"), 265), "flow"),
    ("lines", "Goose pan valve", "Valve passes (Kv)", "0.4",
     lambda d: one(d, "outlets", "goose-valve")["valve"].update(kv_m3h=0.4), "refill"),
    ("lines", "Goose pan", "Water level now", "0.2",
     lambda d: one(d, "vessels", "goose-pan").update(level_m=0.2), "refill"),
    ("need", None, "Heads", "68", lambda d: d["herds"][0].update(head=68), "spare"),
    ("need", None, "Air, hot spell", "36", lambda d: d["scenarios"][0].update(air_c=36), "days"),
    ("water", None, "Days in hand wanted", "6", lambda d: d["requirements"][-1].update(days_in_hand=6), "days"),
]  # fmt: skip


def _raised(line: Any, ground: float) -> None:
    line["points"][2][1] = ground


def _longer(line: Any, length: float) -> None:
    share = length / line["length_m"]
    line["length_m"] = length
    line["points"] = [[round(at * share, 3), ground] for at, ground in line["points"]]


@pytest.mark.parametrize("view", ["lines", "need", "water"])
def test_every_figure_that_is_typed_changes_the_numbers_to_the_cores(bench: Bench, view: str) -> None:
    bench.settled()
    for _, part, label, typed, change, key in (edit for edit in EDITS if edit[0] == view):
        shown, before = number(expected(change), key), bench.number(key)
        if part:
            bench.part(part)
        bench.fill(label, typed)
        bench.await_number(key, shown, other_than=before)
        bench.button("Undo").click()
        bench.await_number(key, before)


def test_a_larger_pipe_and_a_remedy_that_is_taken_can_be_undone(bench: Bench) -> None:
    larger = expected(lambda d: one(d, "lines", "fold-leg").update(product="pe100-sdr17-40"))
    before = bench.number("flow")
    bench.part("Fold leg")
    bench.choose("Pipe", "pe100-sdr17-40")
    bench.until(lambda: number(larger, "flow") + " L/min" in bench.number("flow"))
    bench.button("Undo").click()
    bench.until(lambda: bench.number("flow") == before)

    promised = bench.button("Fold leg in 40 mm").text.rpartition("gives ")[2].partition("·")[0].strip()
    bench.button("Fold leg in 40 mm").click()
    bench.until(lambda: promised in bench.number("flow"))
    bench.button("Keep it").click()
    bench.keys(Keys.CONTROL, "z")
    bench.until(lambda: bench.number("flow") == before)


def test_typing_a_number_is_one_step_of_undo(bench: Bench) -> None:
    bench.part("Low leg")
    before = bench.number("flow")
    bench.fill("Length of pipe", "253")  # passes over 2 and 25 on its way
    bench.settled()
    bench.button("Undo").click()
    bench.until(lambda: bench.number("flow") == before)
    assert bench.field("Length of pipe").get_attribute("value") == "182"
    assert not bench.button("Undo").is_enabled()


def test_nonsense_is_said_where_it_stands_and_is_not_saved(bench: Bench) -> None:
    bench.part("Low trough")
    for label, typed, said, kept in (
        ("Water level now", "abc", "is not a number", "0.2"),
        ("Inside length", "-4", "allowed: more than 0", "1.6"),
        ("Water level now", "0.58", "allowed: at most 0.54 m", "0.21"),
    ):
        revision = bench.head().number
        bench.fill(label, typed)
        bench.await_text("[aria-label=Figures]", said)
        if typed != "abc":
            bench.until(lambda: "a figure is not allowed" in bench.saving())
            assert "last figures that hold" in bench.text("[role=alert]")
        assert bench.head().number == revision
        bench.fill(label, kept)
        bench.await_saved_after(revision)


def test_a_height_is_dragged_in_the_section_and_the_cursor_reads_it(bench: Bench) -> None:
    before = one(bench.head().document, "lines", "low-leg")["points"][1][1]
    handle = bench.find("[data-testid=ground-9]")  # the second point of the third line
    ActionChains(bench.browser).click_and_hold(handle).move_by_offset(0, -40).pause(0.2).release().perform()
    bench.until(bench.saved)
    points = one(bench.head().document, "lines", "low-leg")["points"]
    assert points[1][1] > before + 1.0
    assert "running" in bench.text("[data-testid=section-reading]")
    slider = bench.find("[role=slider]")
    slider.send_keys(Keys.ESCAPE)
    slider.send_keys(Keys.ARROW_RIGHT, Keys.ARROW_RIGHT)
    bench.until(lambda: bench.text("[data-testid=section-reading]").startswith("8 m along"))


def test_of_two_tabs_the_second_sees_both_versions_and_chooses(bench: Bench) -> None:
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
    bench.button("Go on with mine").click()
    bench.until(bench.saved)
    assert one(bench.head().document, "vessels", "low-trough")["level_m"] == 0.3
    bench.browser.close()
    bench.browser.switch_to.window(first)


def test_an_edit_made_while_a_slow_save_is_on_its_way_is_saved_after_it(bench: Bench) -> None:
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
    bench.part("Low trough")
    bench.offline(True)
    try:
        bench.fill("Water level now", "0.25")
        bench.until(lambda: "kept here" in bench.saving())
        assert bench.field("Water level now").get_attribute("value") == "0.25"
        assert bench.head().number == 1
    finally:
        bench.offline(False)
    bench.until(bench.saved)
    assert one(bench.head().document, "vessels", "low-trough")["level_m"] == 0.25


def test_a_figure_typed_in_us_units_is_kept_in_the_documents(bench: Bench) -> None:
    bench.choose_named("Units", "us")
    bench.part("Fold leg")
    bench.fill("Length of pipe", "600")
    bench.until(bench.saved)
    assert one(bench.head().document, "lines", "fold-leg")["length_m"] == pytest.approx(600 * 0.3048, abs=1e-6)
    after = expected(lambda d: _longer(one(d, "lines", "fold-leg"), 600 * 0.3048))
    assert gallons(after) in bench.number("flow")
    bench.choose_named("Units", "metric")


def test_a_plan_is_saved_as_a_file_and_opened_again_as_another(bench: Bench, tmp_path: Path) -> None:
    download = {"behavior": "allow", "downloadPath": str(tmp_path)}
    bench.browser.execute_cdp_cmd("Browser.setDownloadBehavior", download)
    bench.button("Save as file").click()
    file = bench.until(lambda: next(iter(tmp_path.glob("*.json"))))
    bench.until(lambda: json.loads(file.read_text()))
    assert read_design(json.loads(file.read_text())) == tamsel_ridge()
    bench.browser.get(bench.address)
    bench.find("input[type=file]").send_keys(str(file))
    bench.until(lambda: "/designs/" in bench.browser.current_url and bench.design_id not in bench.browser.current_url)
    bench.until(lambda: "saved · revision 1" in bench.saving())
    assert "Goose pan" in bench.verdict()


def test_the_keyboard_alone_reaches_a_figure_changes_it_and_takes_it_back(bench: Bench) -> None:
    before = bench.number("flow")
    focused = "return document.querySelector(`label[for='${document.activeElement.id}']`)?.textContent ?? ''"

    def tab_to(label: str) -> WebElement:
        for _ in range(60):
            bench.browser.switch_to.active_element.send_keys(Keys.TAB)
            if bench.browser.execute_script(focused) == label:
                break
        return bench.browser.switch_to.active_element

    tab_to("Figures of").send_keys("West ch")
    field = tab_to("Water level now")
    outline = bench.browser.execute_script(
        "return getComputedStyle(arguments[0].parentElement, '::after').borderBottomWidth", field
    )
    assert outline != "0px"
    field.send_keys(*[Keys.SHIFT + Keys.ARROW_DOWN + Keys.NULL])
    bench.until(lambda: bench.number("flow") != before)
    assert field.get_attribute("value") == "0.6"
    field.send_keys(Keys.ENTER)
    bench.keys(Keys.CONTROL, "z")
    bench.until(lambda: bench.number("flow") == before)


def test_a_shut_tap_is_no_fault_and_empty_tanks_are(bench: Bench) -> None:
    bench.part("Goose pan valve")
    bench.choose("Tap before it", "shut")
    bench.until(lambda: "Goose" not in bench.verdict())
    bench.until(lambda: "shut by hand" in bench.text("[data-testid=told]"))
    bench.choose("Tap before it", "open")
    bench.until(lambda: bench.verdict().startswith("Yes, but: Goose pan valve"))
    for chamber in ("West chamber", "East chamber"):
        bench.part(chamber)
        bench.fill("Water level now", "0.1")
    bench.until(lambda: bench.verdict().startswith("No: "))
    assert "down to its outlet" in bench.text("[data-testid=finding-dry-outlet]")


def test_every_outlet_has_its_flows_its_sounding_and_its_section(bench: Bench) -> None:
    analysis = expected(lambda _: None)
    for outlet in analysis.fed_outlets:
        row = bench.text(f"[data-testid=outlet-row-{outlet.id}]")
        for together in (True, False):
            flow = analysis.state_of(outlet, together).outlets[outlet.id].judged_flow_m3s
            assert flow_text(flow) in row
            found = analysis.flow_range(outlet, together)
            if found is not None:
                assert f"{flow_text(found.worst)}–{flow_text(found.best)}" in row
    margins = "return [...document.querySelectorAll('[data-testid=margin]')].map(t => t.textContent)"

    def sounded(together: bool) -> list[str]:
        taken = [analysis.sounding(outlet, together) for outlet in analysis.fed_outlets]
        margins = [one.margin_m for one in taken if one]
        return [f"{margin:+.{1 if abs(margin) < 9.95 else 0}f}".replace("-", "−") for margin in margins]

    def shown() -> list[str]:
        return [text.split()[-1] for text in bench.browser.execute_script(margins)]

    assert shown() == sounded(together=True)
    grade = bench.find("[data-testid=section-grade]").get_attribute("d")
    bench.button("Each alone").click()
    bench.until(lambda: shown() == sounded(together=False))
    assert bench.find("[data-testid=section-grade]").get_attribute("d") != grade
    bench.button("All drawing").click()
    ways = "Way that the section follows"
    for key, line in (("goose-valve", "Goose hose"), ("weir-feed", "Weir feed")):
        bench.choose_named(ways, key)
        bench.find(f"[aria-label='Long section'] [data-line='{line}']")
    assert bench.find("[data-testid=section-band]").get_attribute("d")


def test_a_named_case_shuts_what_it_names(bench: Bench) -> None:
    bench.choose_named("Shown for", "pond-shut")
    shut = expected(lambda d: d.update(shown_for="pond-shut"))
    bench.until(lambda: number(shut, "flow") + " L/min" in bench.number("flow"))
    assert "shut" in bench.text("[data-testid=outlet-row-pond-valve]")


@pytest.mark.parametrize("view", ["need", "water", "lines"])
def test_each_view_has_no_serious_fault_for_those_who_hear_or_type_and_fits_a_phone(bench: Bench, view: str) -> None:
    assert bench.axe() == []
    bench.button("Dark").click()
    bench.until(lambda: bench.button("Light"))
    assert bench.axe() == []
    bench.button("Light").click()
    bench.size(390, 844)
    assert view in bench.browser.current_url
    assert bench.browser.execute_script("return document.documentElement.scrollWidth") <= 390
    assert "Will it run?" in bench.text("[aria-label=Verdict]")


def test_the_first_page_lists_plans_and_refuses_a_bad_file_with_its_faults(bench: Bench, tmp_path: Path) -> None:
    bench.browser.get(bench.address)
    bench.until(lambda: "made-up data" in bench.text("main"))
    bad = tmp_path / "bad.json"
    bad.write_text('{"format": "leadsman-design", "places": [{"id": "a", "ground_m": "high"}]}')
    bench.find("input[type=file]").send_keys(str(bad))
    bench.until(lambda: "/places/0/ground_m" in bench.text("[role=alert]"))
    assert "Nothing was kept" in bench.text("[role=alert]")
    assert bench.axe() == []
