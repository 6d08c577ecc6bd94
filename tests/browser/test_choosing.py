"""Remedies, pipes and valves tried in a real browser before they are kept, and rows of one's own in the catalogue."""

import json
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from bench_page import Bench
from farm import one
from hand import Hand
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.siphon_line import siphon_lines
from leadsman.core.design.file import read_design
from leadsman.core.report.choices import valve_choices_report
from leadsman.demo import tamsel_ridge

TRIAL = "[data-testid=trial]"


@pytest.fixture(autouse=True)
def no_own_rows(bench: Bench) -> Iterator[None]:
    """Leave the catalogue as it ships."""
    yield
    with bench.database.transaction() as connection:
        connection.execute("DELETE FROM own_product")


def row(bench: Bench, name: str) -> WebElement:
    """The row of a table of choices."""
    return next(tr for tr in bench.browser.find_elements(By.CSS_SELECTOR, "[role=dialog] tbody tr") if name in tr.text)


def judged(document: Any) -> Analysis:
    return Analysis(read_design(json.loads(json.dumps(document))))


def bench_document(bench: Bench) -> Any:
    """The plan as it was last saved, once it was."""
    bench.until(bench.saved)
    return bench.head().document


def flow_text(analysis: Analysis, outlet: str) -> str:
    return f"{analysis.state.outlets[outlet].judged_flow_m3s * 60_000:.1f} L/min"


def test_a_remedy_is_tried_and_put_back_or_kept(bench: Bench) -> None:
    bench.until(lambda: bench.browser.find_elements(By.CSS_SELECTOR, "[data-testid=finding-flow-below-wanted] button"))
    before, first = bench.verdict(), bench.head().number
    remedy = bench.find("[data-testid=finding-flow-below-wanted] button")
    said = remedy.text
    assert "USD" in said
    remedy.click()
    bench.await_text(TRIAL, said.split(":")[0])
    bench.until(lambda: not bench.verdict().startswith("Yes, but: Goose pan valve"))
    bench.await_text("[aria-label=Figures]", said.split("gives ")[1].split(" ")[0])  # what was promised
    assert bench.saving().startswith("saved")
    bench.button("Put it back").click()
    bench.until(lambda: bench.verdict() == before)
    assert not bench.browser.find_elements(By.CSS_SELECTOR, TRIAL)
    assert bench.head().number == first
    bench.until(lambda: bench.browser.find_elements(By.CSS_SELECTOR, "[data-testid=finding-flow-below-wanted] button"))
    bench.find("[data-testid=finding-flow-below-wanted] button").click()
    bench.until(lambda: bench.browser.find_elements(By.CSS_SELECTOR, TRIAL))
    bench.button("Keep it").click()
    bench.await_saved_after(first)
    assert one(bench.head().document, "lines", "goose-hose")["product"] == "hose-0.625"
    bench.keys(Keys.CONTROL, "z")
    bench.until(lambda: bench.verdict() == before)


def test_pipes_are_compared_before_one_is_taken(bench: Bench) -> None:
    bench.part("Head main")
    bench.button("Compare pipes …").click()
    bench.until(lambda: bench.browser.find_elements(By.CSS_SELECTOR, "[role=dialog] tbody tr"))
    assert "as now" in row(bench, "50 mm PE100 SDR 13.6").text
    told = row(bench, "63 mm PE100 SDR 13.6").text
    assert all(part in told for part in ("622 USD", "250 kPa", "53.6 mm"))
    assert bench.axe() == []
    row(bench, "63 mm PE100 SDR 13.6").find_element(By.TAG_NAME, "button").click()
    bench.until(lambda: "Head main in 63 mm PE100 SDR 13.6" in bench.text(TRIAL))
    larger = json.loads(json.dumps(bench.head().document))
    one(larger, "lines", "head-main")["product"] = "pe100-sdr13.6-63"
    bench.await_number("flow", flow_text(judged(larger), "goose-valve"))
    bench.keys(Keys.CONTROL, "z")  # undo puts back what is tried
    bench.until(lambda: not bench.browser.find_elements(By.CSS_SELECTOR, TRIAL))
    assert bench.head().number == 1


def test_valves_are_laid_side_by_side_at_this_outlet(bench: Bench) -> None:
    bench.part("Low trough valve")
    bench.button("Compare valves …").click()
    bench.until(lambda: bench.browser.find_elements(By.CSS_SELECTOR, "[role=dialog] tbody tr"))
    told = {x.product.product_id: x for x in valve_choices_report(Analysis(tamsel_ridge()), "low-valve", []).choices}
    for product_id, name in (("full-flow-0.75", "3/4 in full-flow valve"), ("mini-0.375", "Mini valve, 3/8 in stem")):
        text, choice = row(bench, name).text, told[product_id]
        assert f"{choice.flow_lpm:.1f} L/min" in text
        assert f"{100 * (choice.share or 0):.0f} %" in text
        assert f"{choice.fills_min:.0f} min" in text
    assert "Animals die within days without water" in bench.text("[role=dialog]")
    assert bench.axe() == []
    row(bench, "3/4 in full-flow valve").find_element(By.TAG_NAME, "button").click()
    bench.until(lambda: "3/4 in full-flow valve at Low trough valve" in bench.text(TRIAL))
    bench.button("Keep it").click()
    bench.await_saved_after(1)
    valve = one(bench.head().document, "outlets", "low-valve")["valve"]
    assert (valve["product"], valve["kv_m3h"], valve["closes_at_m"]) == ("full-flow-0.75", 7.4, 0.48)


def test_findings_stand_on_plan_and_section(bench: Bench) -> None:
    bench.part("Low trough valve")
    name = "The dip 110 m along Low leg"
    for drawing in ("finding-marks", "section-findings"):
        bench.until(
            lambda where=drawing: bench.browser.find_elements(  # type: ignore[misc]
                By.CSS_SELECTOR, f"[data-testid={where}] [aria-label*='{name}']"
            )
        )


@pytest.mark.parametrize("view", ["parts"])
def test_a_row_of_ones_own_is_kept_and_goes_into_the_plan(bench: Bench, view: str, tmp_path: Path) -> None:
    bench.find("[aria-label=Catalogue] tbody tr")
    assert bench.axe() == [], view
    bench.button("Add a pipe of your own").click()
    assert "Still wanted: name, kind, outside, wall" in bench.text("form")
    for label, text in (("Name", "Shop pipe 50"), ("Kind", "PE100 by outside diameter"), ("Outside", "50"),
                        ("Wall", "30"), ("Roughness [mm]", "0.007"), ("Price a metre", "2.2")):  # fmt: skip
        bench.fill(label, text)
    bench.button("Keep this row").click()
    bench.until(lambda: "bore of 1 mm" in bench.text("form [role=alert]"))
    bench.fill("Wall", "3")
    bench.button("Keep this row").click()
    bench.until(lambda: "Shop pipe 50" in bench.text("[aria-label=Catalogue] tbody"))
    table = tmp_path / "more.csv"
    table.write_text("product_id,name,times_ft,k,bore_mm,ends,price\nt,Tight elbow,30,,18,barb 26.64 @18,2.5\n")
    bench.choose("Table", "fitting")
    bench.find("input[type=file]").send_keys(str(table))
    bench.until(lambda: "1 rows of your own were kept" in bench.text("[aria-label=Catalogue]"))
    bench.until(lambda: "Tight elbow" in bench.text("[aria-label=Catalogue] tbody"))
    bench.open("lines")
    bench.part("Head main")
    bench.button("Compare pipes …").click()
    bench.until(lambda: bench.browser.find_elements(By.CSS_SELECTOR, "[role=dialog] tbody tr"))
    assert "370 USD" in row(bench, "Shop pipe 50").text
    row(bench, "Shop pipe 50").find_element(By.TAG_NAME, "button").click()
    bench.button("Keep it").click()
    bench.await_saved_after(1)
    kept = bench.head().document
    assert one(kept, "lines", "head-main")["product"] == "own-shop-pipe-50"
    assert [own["product_id"] for own in kept["own_pipes"]] == ["own-shop-pipe-50"]
    assert judged(kept).state.converged


def test_fittings_and_parts_are_put_into_a_line_from_the_catalogue(bench: Bench) -> None:
    bench.part("Low leg")
    before = bench.text("[data-testid=told]")
    bench.choose("Add a part", "spigot-0.5")
    bench.until(lambda: "1/2 in common garden spigot" in bench.text("[aria-label=Figures] fieldset:last-of-type"))
    bench.until(lambda: bench.text("[data-testid=told]") != before)
    bench.choose("Add a fitting", "insert-elbow-1")
    bench.await_saved_after(1)
    bench.until(lambda: len(one(bench.head().document, "lines", "low-leg")["fittings"]) == 4)
    line = one(bench.head().document, "lines", "low-leg")
    assert line["inline"] == [{"kind": "tap_point", "at_m": 0.5, "product": "spigot-0.5", "kv_m3h": 1.5}]
    assert line["fittings"][-1] == {"product": "insert-elbow-1"}
    assert bench.axe() == []
    bench.find("[aria-label='Take away 1/2 in common garden spigot, hose thread']").click()
    bench.until(lambda: one(bench.head().document, "lines", "low-leg").get("inline") == [])


def test_a_line_declared_a_siphon_says_its_crest_and_what_primes_it(bench: Bench) -> None:
    bench.part("Head main")
    bench.fill("Ground at 109 m", "270")
    bench.await_text("[data-testid=finding-dry-outlet]", "only as a primed, airtight siphon")
    bench.choose("Airtight and primed", "siphon")
    bench.await_text("[data-testid=told]", "Its crest stands")
    told = bench.text("[data-testid=told]")
    analysis = judged(bench_document(bench))
    (siphon,) = siphon_lines(analysis)
    assert f"{siphon.lift_m:.2f} m over the water it draws" in told
    assert f"{siphon.limit_m:.2f} m is the most" in told
    assert f"takes {siphon.falling_m3 * 1000:.0f} L" in told
    assert "never by mouth" in told
    assert bench.axe() == []


def test_a_valve_is_chosen_by_keys_alone(bench: Bench) -> None:
    bench.part("Ewe trough valve")
    hand = Hand(bench)
    hand.tab_to("Compare valves …")
    hand.keys(Keys.ENTER)
    bench.until(lambda: bench.browser.find_elements(By.CSS_SELECTOR, "[role=dialog] tbody tr"))
    hand.keys(Keys.ESCAPE)
    bench.until(lambda: not bench.browser.find_elements(By.CSS_SELECTOR, "[role=dialog]"))
    hand.keys(Keys.ENTER)  # the keys are back on the button
    bench.until(lambda: bench.browser.find_elements(By.CSS_SELECTOR, "[role=dialog] tbody tr"))
    hand.tab_to("Try it")
    hand.keys(Keys.ENTER)
    bench.until(lambda: "at Ewe trough valve" in bench.text(TRIAL))
    hand.tab_to("Put it back")
    hand.keys(Keys.ENTER)
    bench.until(lambda: not bench.browser.find_elements(By.CSS_SELECTOR, TRIAL))
    assert bench.head().number == 1
