"""Plans and their cases: started from a few numbers, copied, renamed, deleted, restored, judged for what is assumed."""

from typing import Any

from bench_page import Bench
from farm import expected, number, one
from hand import Hand
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.design.file import read_design

MOST_ACTIONS = 8


def test_a_first_verdict_comes_of_a_few_numbers_in_eight_actions(bench: Bench) -> None:
    bench.browser.get(bench.address)
    hand = Hand(bench)
    for label, text in (
        ("Fall, source to trough", "2"),
        ("Distance along the pipe", "350"),
        ("Number of animals", "30"),
    ):
        hand.type(label, text)
    assert bench.axe() == []
    hand.press("Create")
    bench.until(lambda: "Trough runs empty when 30 come" in bench.verdict())
    assert hand.actions <= MOST_ACTIONS, hand.actions
    bench.design_id = bench.browser.current_url.split("/designs/")[1].split("/")[0]
    kept = bench.head().document
    (line,), (herd,) = kept["lines"], kept["herds"]
    assert (line["length_m"], herd["head"]) == (350, 30)
    assert [case["name"] for case in kept["scenarios"]] == ["Ordinary day", "Hot spell"]
    flow = Analysis(read_design(kept)).state.outlets[line["to"]].judged_flow_m3s * 60_000
    assert f"{flow:.1f} L/min" in bench.number("flow")
    hand.mark("source")  # it is drawn, to go on from


def test_an_empty_plan_shows_ground_enough_and_calls_nothing_good(bench: Bench) -> None:
    bench.browser.get(bench.address)
    bench.button("Draw it").click()
    bench.button("Create").click()
    bench.until(lambda: "no outlet is open" in bench.verdict())
    assert bench.browser.find_elements(By.CSS_SELECTOR, "[aria-label=Verdict] svg[aria-label=enough]") == []
    scale, plan = bench.find("[data-testid=scale-line]").rect, bench.find("[data-testid=plan-map]").rect
    bar_m = float(bench.text("[data-testid=scale-text]").split()[0])
    assert bar_m * min(plan["width"], plan["height"]) / scale["width"] >= 500


def plans(bench: Bench) -> list[str]:
    return [link.text for link in bench.browser.find_elements(By.CSS_SELECTOR, "main section li a")]


def test_a_plan_is_copied_renamed_deleted_and_restored_from_the_list(bench: Bench) -> None:
    bench.browser.get(bench.address)
    bench.until(lambda: plans(bench))
    before = plans(bench)
    bench.press("Rename", "Tamsel Ridge")
    bench.fill("Name of the plan", "Plan A, renamed")
    bench.within_dialog("Rename").click()
    bench.until(lambda: "Plan A, renamed" in plans(bench))
    bench.press("Copy", "Tamsel Ridge")
    bench.until(lambda: "/designs/" in bench.browser.current_url)
    bench.find("a[aria-label='Leadsman, all plans']").click()
    bench.until(lambda: "Plan A, renamed (copy)" in plans(bench))
    assert len(plans(bench)) == len(before) + 1
    bench.press("Delete Tamsel Ridge · Plan A, renamed (copy)", "Tamsel Ridge")
    bench.until(lambda: "Plan A, renamed (copy)" not in plans(bench))
    bench.button("Undo").click()
    bench.until(lambda: "Plan A, renamed (copy)" in plans(bench))
    bench.press("Delete Tamsel Ridge · Plan A, renamed (copy)", "Tamsel Ridge")
    bench.until(lambda: "Plan A, renamed (copy)" not in plans(bench))
    bench.browser.refresh()
    bench.button("Show deleted plans").click()
    bench.press("Restore Tamsel Ridge · Plan A, renamed (copy)", "Deleted plans")
    bench.until(lambda: "Plan A, renamed (copy)" in plans(bench))


def test_a_plan_is_renamed_copied_and_deleted_from_inside_with_its_last_edit(bench: Bench) -> None:
    bench.open("lines")
    bench.menu("Tamsel Ridge", "Rename plan")
    bench.fill("Name of the plan", "West side")
    bench.within_dialog("Rename").click()
    bench.until(lambda: "West side" in bench.text("header"))
    bench.part("Low trough")
    bench.fill("Water level now", "0.25")
    bench.menu("Tamsel Ridge", "Delete plan")
    bench.until(lambda: "Deleted: Tamsel Ridge · West side" in bench.text("main [role=status]"))
    bench.browser.switch_to.active_element.send_keys(Keys.ENTER)  # the focus is on Undo
    bench.until(lambda: "West side" in plans(bench))
    assert one(bench.head().document, "vessels", "low-trough")["level_m"] == 0.25


def test_cases_are_added_copied_renamed_and_deleted_and_each_changes_the_numbers(bench: Bench) -> None:
    bench.open("lines")
    bench.menu("Case:", "Add or edit cases")
    bench.choose("Add a case", "source lost")
    lost = expected(lambda d: one(d, "scenarios", "hot-spell").update(lost=["weir-intake"]))
    bench.until(lambda: number(lost, "spare") in bench.number("spare"))
    assert bench.field("Name of the case").get_attribute("value") == "Weir intake lost"
    assert bench.axe() == []
    bench.button("Copy case").click()
    bench.until(lambda: bench.field("Name of the case").get_attribute("value") == "Weir intake lost (copy)")
    bench.fill("Name of the case", "Dry week")
    bench.fill("Air, highest of the day", "36")

    def dry(design: dict[str, Any]) -> None:
        one(design, "scenarios", "hot-spell").update(lost=["weir-intake"], air_c=36)

    hotter = expected(dry)
    bench.until(lambda: number(hotter, "spare") in bench.number("spare"))
    bench.field("Name of the case").send_keys(Keys.CONTROL, "a")
    bench.field("Name of the case").send_keys(Keys.BACKSPACE)
    assert "A name is needed; Dry week stays" in bench.text("[role=dialog]")
    bench.button("Delete case").click()
    bench.until(lambda: len(bench.browser.find_elements(By.CSS_SELECTOR, "[role=radiogroup] input")) == 5)
    bench.within_dialog("Close").click()
    bench.until(bench.saved)
    names = [case["name"] for case in bench.head().document["scenarios"]]
    assert names == ["Hot spell", "Ordinary day", "Pond shut off", "Weir intake lost", "Weir intake lost"]
