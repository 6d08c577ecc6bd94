"""The workbench in a real browser: its numbers are the solver's, and nothing that is typed is lost."""

import copy
import csv
import json
import re
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from bench_page import Bench
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from leadsman.core.analysis import Analysis
from leadsman.core.design_file import read_design, write_design
from leadsman.core.findings.registry import judge
from leadsman.core.schools import schools
from leadsman.core.verdict import verdict
from leadsman.core.wording import plain
from leadsman.demo import tamsel_ridge

US_GALLON_L = 3.785411784


def expected(change: Callable[[Any], object]) -> Analysis:
    """The core's own analysis of the demonstration design with a change."""
    document = copy.deepcopy(write_design(tamsel_ridge()))
    change(document)
    return Analysis(read_design(document))


def number(analysis: Analysis, key: str) -> str:
    """One of the four numbers as the strip shows it."""
    value = next(one for one in verdict(analysis, judge(analysis)).numbers if one.key == key).value
    assert value is not None
    digits = {"L/min": 1, "min": 0, "d": 1, "L/d": 0}[value.unit]
    text = f"{value.value:,.{digits}f}".replace(",", " ").replace("-", "−")
    return text.removesuffix(".0") if value.unit == "d" else text


def gallons(analysis: Analysis) -> str:
    """The flow of the strip in US gallons a minute."""
    value = next(one for one in verdict(analysis, judge(analysis)).numbers if one.key == "flow").value
    assert value is not None
    return f"{value.value / US_GALLON_L:.2f} gal/min"


def one(document: Any, kind: str, part_id: str) -> Any:
    """A part of the document by its id."""
    return next(part for part in document[kind] if part["id"] == part_id)


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


@pytest.mark.parametrize(("view", "tab", "label", "typed", "change", "key"), EDITS, ids=[edit[2] for edit in EDITS])
def test_every_figure_that_is_typed_changes_the_numbers_to_the_cores(
    bench: Bench, view: str, tab: str | None, label: str, typed: str, change: Callable[[Any], object], key: str
) -> None:
    shown = number(expected(change), key)
    bench.open(view)
    before = bench.number(key)
    if tab:
        bench.part(tab)
    bench.fill(label, typed)
    bench.until(lambda: shown in bench.number(key) and bench.number(key) != before)


def test_a_larger_pipe_and_a_remedy_that_is_taken_can_be_undone(bench: Bench) -> None:
    larger = expected(lambda d: one(d, "lines", "fold-leg").update(product="pe100-sdr17-40"))
    before = bench.number("flow")
    bench.part("Fold leg")
    bench.choose("Pipe", "pe100-sdr17-40")
    bench.until(lambda: number(larger, "flow") + " L/min" in bench.number("flow"))
    bench.button("Undo").click()
    bench.until(lambda: bench.number("flow") == before)

    promised = bench.button("Fold leg in 40 mm").text.rpartition("gives ")[2]
    bench.button("Fold leg in 40 mm").click()
    bench.until(lambda: promised in bench.number("flow"))
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


@pytest.mark.parametrize(
    ("typed", "said"), [("abc", "is not a number"), ("-4", "allowed: more than 0"), ("0.58", "allowed: at most 0.54 m")]
)
def test_nonsense_is_said_where_it_stands_and_is_not_saved(bench: Bench, typed: str, said: str) -> None:
    bench.part("Low trough")
    label = {"-4": "Inside length"}.get(typed, "Water level now")
    bench.fill(label, typed)
    bench.until(lambda: said in bench.text("[aria-label=Figures]"))
    if typed != "abc":
        bench.until(lambda: "a figure is not allowed" in bench.saving())
        assert "last figures that hold" in bench.text("[role=alert]")
    assert bench.head().number == 1
    bench.fill(label, "0.2")
    bench.until(bench.saved)


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


def test_the_case_shown_changes_the_need_and_is_named(bench: Bench) -> None:
    bench.open("need")
    hot = bench.number("spare")
    bench.choose_named("Shown for", "ordinary-day")
    ordinary = expected(lambda d: d.update(shown_for="ordinary-day"))
    bench.until(lambda: bench.number("spare") != hot)
    assert f"{ordinary.herds[0].daily_l:.0f}" in bench.text("[data-testid=need-heifers]").replace(" ", "")
    assert "Ordinary day" in bench.text("main")


def test_a_mob_that_finds_no_room_is_seen_and_helped_by_more_rim(bench: Bench) -> None:
    crowded = expected(lambda _: None)
    visit = next(one for one in crowded.waterings if one.outlet.id == "ewe-valve").visits[0]
    assert visit.run.served_s is not None
    crowded_min = f"{visit.run.served_s / 60:.0f} min"
    bench.open("need")
    bench.until(lambda: f"drunk after {crowded_min}" in bench.text("[data-testid=trough-ewes]"))
    assert bench.find("[data-testid=trough-ewes] [data-testid=mob-waiting]").get_attribute("d")
    assert "wait too long" in bench.text("[data-testid=finding-rim-too-short]")
    bench.find("[data-testid=trough-ewes] button[aria-expanded]").click()
    lost = schools(crowded, "ewe-valve")
    bench.until(lambda: f"{lost[0].lost_m3 * 1000:,.0f} L".replace(",", " ") in bench.text("[data-testid=schools]"))
    bench.open("lines")
    bench.part("Ewe trough")
    bench.fill("Rim they can stand at", "6.9")
    bench.until(lambda: not bench.browser.find_elements("css selector", "[data-testid=finding-rim-too-short]"))
    bench.until(bench.saved)
    bench.open("need")
    wider = expected(lambda d: one(d, "vessels", "ewe-trough").update(rim_m=6.9))
    served = next(one for one in wider.waterings if one.outlet.id == "ewe-valve").visits[0].run.served_s
    assert served is not None
    bench.until(lambda: f"drunk after {served / 60:.0f} min" in bench.text("[data-testid=trough-ewes]"))


def test_a_rotation_and_a_hot_spell_show_the_trough_that_fails(bench: Bench) -> None:
    bench.open("need")
    card = "section[aria-label='Dairy heifers']"
    bench.find(f"{card} button[data-testid=add-moves]").click()
    moves = f"{card} [role=group]:nth-of-type(2)"
    bench.until(lambda: bench.find(moves))
    for trough in ("Ewe trough", "Low trough"):
        bench.browser.find_element(
            "xpath", f"(//section[@aria-label='Dairy heifers']//label[.='{trough}'])[last()]"
        ).click()
    bench.choose_named("Shown for", "ordinary-day")
    bench.until(lambda: bench.field("Day shown").get_attribute("value") == "")
    bench.until(lambda: "Ordinary day" in bench.text("main"))

    def moved(document: Any) -> None:
        document["shown_for"] = "ordinary-day"
        one(document, "scenarios", "ordinary-day").update(date="2026-07-24", air_c=36)
        rotation = {"herd": "heifers", "from": "2026-05-01", "to": "2026-09-30", "outlets": ["ewe-valve"]}
        document["calendar"].append({"id": "moves-4", **rotation})

    bench.browser.execute_script(
        "const f = arguments[0]; Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set"
        ".call(f, '2026-07-24'); f.dispatchEvent(new Event('input', {bubbles: true}))",
        bench.field("Day shown"),
    )
    bench.until(lambda: "on this day at Ewe trough" in bench.text(card))
    bench.fill("Air, ordinary day", "36")
    case = expected(moved)
    found = [finding for finding in judge(case) if finding.code in ("rim-too-short", "trough-runs-empty")]
    assert any(finding.where == "ewe-valve" for finding in found)
    bench.until(lambda: plain(found[0].headline) in bench.text("[aria-label=Findings]"))
    visits = next(one.visits for one in case.waterings if one.outlet.id == "ewe-valve")
    heifers = next(visit for visit in visits if visit.need.herd.id == "heifers")
    share = f"{100 * heifers.run.left_waiting_share:.0f} %"
    bench.until(lambda: f"Left waiting ■ {share}" in bench.text("[data-testid=trough-heifers]"))


def test_a_herd_is_added_said_to_come_at_once_and_taken_away(bench: Bench) -> None:
    bench.open("need")
    before = bench.number("spare")
    bench.button("Add a herd").click()
    herd = "section[aria-label='Herd 4']"
    bench.until(lambda: bench.number("spare") != before)
    assert "not judged" in bench.text(herd)
    bench.find(f"{herd} select option[value=mob]").click()
    bench.until(lambda: "The last has drunk after" in bench.text(herd))
    assert "our default" in bench.text(herd)
    bench.browser.find_element("xpath", "//section[@aria-label='Herd 4']//button[.='Take away']").click()
    bench.until(lambda: bench.number("spare") == before)


def test_plants_by_the_weather_are_counted_and_the_need_is_saved_as_a_table(bench: Bench, tmp_path: Path) -> None:
    bench.open("need")
    group = "[role=group][aria-label='Hop rows']"
    bench.until(lambda: "630 L/day" in bench.text(f"{group} [data-testid=other-hop-rows]"))
    bench.find(f"{group} select option[value=area]").click()
    hops = {"id": "hop-rows", "name": "Hop rows", "outlet": "hop-drip", "area_m2": 120, "crop_factor": 1}
    by_area = expected(lambda d: d.update(crops=[hops]))
    bench.fill("Area, m²", "120")
    litres = f"{by_area.other_needs[0].daily_l:.0f} L/day"
    bench.until(lambda: litres in bench.text(f"{group} [data-testid=other-hop-rows]"))
    assert "reference evapotranspiration" in bench.text(group)
    bench.until(lambda: number(by_area, "spare") in bench.number("spare"))

    download = {"behavior": "allow", "downloadPath": str(tmp_path)}
    bench.browser.execute_cdp_cmd("Browser.setDownloadBehavior", download)
    bench.button("Save as table").click()
    file = bench.until(lambda: next(iter(tmp_path.glob("*.csv"))))
    bench.until(lambda: "l_per_day" in file.read_text())
    with file.open(encoding="utf-8", newline="") as table:
        rows = list(csv.reader(table))
    assert rows[0] == ["who", "head", "one_l_per_day", "all_l_per_day", "at", "source"]
    who = {row[0]: row for row in rows[1:6]}
    for need in by_area.herds:
        assert float(who[need.herd.name or ""][3]) == pytest.approx(need.daily_l, abs=1e-3)
    season = rows.index(next(row for row in rows if row[:1] == ["day"]))
    assert [row[0] for row in rows[season + 1 :]] == by_area.season.days


def test_a_day_picked_in_the_season_is_the_day_shown(bench: Bench) -> None:
    bench.open("need")
    strip = bench.find("[aria-label=Season] svg")
    before = bench.field("Day shown").get_attribute("value")
    ActionChains(bench.browser).move_to_element_with_offset(strip, 60, 10).click().perform()
    bench.until(lambda: bench.field("Day shown").get_attribute("value") != before)
    day = bench.field("Day shown").get_attribute("value")
    assert day in expected(lambda _: None).season.days
    bench.until(bench.saved)
    assert one(bench.head().document, "scenarios", "hot-spell")["date"] == day


def test_an_optional_figure_can_be_given_and_taken_back(bench: Bench) -> None:
    bench.open("need")
    table = bench.text("[data-testid=need-heifers]")
    bench.fill("Your own figure for one", "80")
    bench.until(lambda: "2 720 L/day" in bench.text("[data-testid=need-heifers]"))
    bench.fill("Your own figure for one", Keys.BACKSPACE)
    bench.until(lambda: bench.text("[data-testid=need-heifers]") == table)


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
            assert f"{flow * 60_000:.1f}" in row
            found = analysis.flow_range(outlet, together)
            if found is not None:
                assert f"{found.worst * 60_000:.1f}–{found.best * 60_000:.1f}" in row
    margins = "return [...document.querySelectorAll('[data-testid=margin]')].map(t => t.textContent)"

    def sounded(together: bool) -> list[str]:
        taken = [analysis.sounding(outlet, together) for outlet in analysis.fed_outlets]
        return [f"{one.margin_m:+.1f}".replace("-", "−") for one in taken if one]

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
def test_each_view_has_no_serious_fault_for_those_who_hear_or_type(bench: Bench, view: str) -> None:
    bench.open(view)
    assert bench.axe() == []
    bench.button("Dark").click()
    bench.until(lambda: bench.button("Light"))
    assert bench.axe() == []
    bench.button("Light").click()


@pytest.mark.parametrize("view", ["need", "water", "lines"])
def test_a_phone_shows_everything_without_sideways_scrolling(bench: Bench, view: str) -> None:
    bench.size(390, 844)
    bench.open(view)
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
