"""The view Water in in a real browser: sources, weather, the gap and what closes it; its numbers are the core's."""

import csv
import xml.etree.ElementTree as ElementTree
from datetime import date, timedelta
from pathlib import Path
from typing import Any

import pytest
from bench_page import Bench
from farm import expected, one
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.findings.registry import judge
from leadsman.formats.weather_csv import read_weather_csv

OPENS_ITSELF = True


def dry_table() -> str:
    """Three months almost without rain, hot; made up."""

    days = [(date(2026, 5, 1) + timedelta(days=number)).isoformat() for number in range(90)]
    return "date;rain_mm;max_c;min_c\n" + "".join(
        f"{day};{'2,5' if day.endswith('5') else '0'};29;14\n" for day in days
    )


def dried(document: Any) -> None:
    for timing in document["inflows"][0]["timings"]:
        timing["time_s"] = 400
    weather = read_weather_csv(dry_table(), "dry.csv")
    document["season"] = {"weather": weather.model_dump(mode="json", by_alias=True)}


def gap(analysis: Analysis) -> Any:
    return next(finding for finding in judge(analysis) if finding.code == "season-gap")


def test_a_dry_season_is_loaded_its_gap_read_and_closed_by_the_suggested_tank(bench: Bench, tmp_path: Path) -> None:
    table = tmp_path / "dry.csv"
    table.write_text(dry_table(), encoding="utf-8")
    bench.open("water")
    bench.until(lambda: "All 365 days have enough" in bench.text("[data-testid=season-told]"))
    for field in bench.browser.find_elements("xpath", "//label[.='Filled in']/..//input"):
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys("400")
    bench.find("input[aria-label='Weather table']").send_keys(str(table))
    case = expected(dried)
    season = case.store_season
    assert season is not None
    short = season.weather.days - int(season.cautious.met[:, 0].sum())
    assert short > 0
    bench.until(lambda: f"On {short} of 90 days there is not enough" in bench.text("[data-testid=season-told]"))
    assert len(bench.browser.find_elements("css selector", "[data-testid=bad-day]")) == short
    assert f"longest gap lasts {season.cautious.longest_gap_d()} days" in bench.text("[data-testid=season-told]")
    size = season.size_for(0.99)
    assert size is not None
    assert f"{size * 1000:,.0f} L".replace(",", " ") in bench.text("[data-testid=season-sizes]")

    remedy = next(one for one in gap(case).remedies if "linked tanks" in one.text)
    finding = "[data-testid=finding-season-gap]"
    bench.until(lambda: remedy.text in bench.text(finding))
    bench.browser.find_element(
        "xpath", f"//*[@data-testid='finding-season-gap']//button[contains(., '{remedy.text}')]"
    ).click()
    bench.until(lambda: not bench.browser.find_elements("css selector", finding))
    bench.until(lambda: "90 days" in bench.text("[data-testid=season-told]"))
    bench.until(lambda: f"On {short} of" not in bench.text("[data-testid=season-told]"))


def test_a_table_with_a_fault_is_refused_and_nothing_changes(bench: Bench, tmp_path: Path) -> None:
    table = tmp_path / "holes.csv"
    table.write_text("date,rain_mm\n2026-05-01,1\n2026-05-03,0\n", encoding="utf-8")
    bench.open("water")
    bench.until(lambda: "All 365 days" in bench.text("[data-testid=season-told]"))
    bench.find("input[aria-label='Weather table']").send_keys(str(table))
    bench.until(lambda: "line 3" in bench.text("[aria-label=Weather] [role=status]"))
    assert "All 365 days" in bench.text("[data-testid=season-told]")
    assert bench.head().number == 1


def test_weather_is_taken_from_the_service_and_the_season_saved_as_a_table(bench: Bench, tmp_path: Path) -> None:
    bench.open("water")
    bench.choose("Made-up climate", "dry plains")
    bench.fill("Years", "2")
    bench.button("Take this weather").click()
    bench.until(lambda: "dry plains, 2 years, seed 1" in bench.text("[aria-label=Weather]"))
    bench.until(bench.saved)
    weather = bench.head().document["season"]["weather"]
    assert len(weather["rain_mm"]) == 730
    bench.until(lambda: "730 days" in bench.text("[data-testid=season-told]"))
    download = {"behavior": "allow", "downloadPath": str(tmp_path)}
    bench.browser.execute_cdp_cmd("Browser.setDownloadBehavior", download)
    bench.button("Save as table").click()
    file = bench.until(lambda: next(iter(tmp_path.glob("*.csv"))))
    bench.until(lambda: "days_in_hand" in file.read_text())
    with file.open(encoding="utf-8", newline="") as table:
        rows = list(csv.DictReader(table))
    season = expected(lambda d: d.update(season={"weather": weather})).store_season
    assert season is not None
    assert [float(row["store_l"]) for row in rows] == pytest.approx(season.cautious.volumes_m3[:, 0] * 1000, abs=0.01)
    assert [float(row["Glasshouse roof l"]) for row in rows] == pytest.approx(
        season.inflows_m3["glasshouse-roof"] * 1000, abs=0.01
    )


def test_a_source_is_added_judged_and_taken_away(bench: Bench) -> None:
    bench.open("water")
    before = bench.number("spare")
    bench.choose("Add a source", "mains")
    card = "section[aria-label='Source 3']"
    bench.until(lambda: bench.number("spare") != before)
    assert "600 L/day" in bench.text(card)
    bench.label("Air gap").click()
    bench.until(lambda: bench.find("[data-testid=finding-no-air-gap]"))
    bench.browser.find_element("xpath", "//section[@aria-label='Source 3']//button[.='Take away']").click()
    bench.until(lambda: bench.number("spare") == before)
    bench.until(lambda: not bench.browser.find_elements("css selector", "[data-testid=finding-no-air-gap]"))
    assert one(bench.head().document, "inflows", "weir-intake")


def test_a_day_of_the_season_is_told_where_it_is_pointed_at(bench: Bench) -> None:

    bench.open("water")
    picture = bench.until(lambda: bench.find("[data-testid=season-store]").find_element("xpath", "./.."))
    before = bench.text("[data-testid=day-told]")
    ActionChains(bench.browser).move_to_element_with_offset(picture, 40, 0).perform()
    bench.until(lambda: bench.text("[data-testid=day-told]") != before)
    day = bench.text("[data-testid=day-told]")[:10]
    season = expected(lambda _: None).store_season
    assert season is not None
    index = [season.weather.day(number).isoformat() for number in range(season.weather.days)].index(day)
    stored = season.cautious.volumes_m3[index, 0] * 1000
    assert f"{stored:,.0f} L in store".replace(",", " ") in bench.text("[data-testid=day-told]")


def test_a_lost_source_shows_how_long_the_store_carries_whom(bench: Bench, tmp_path: Path) -> None:
    bench.open("water")
    lost = expected(lambda d: one(d, "scenarios", "hot-spell").update(lost=["weir-intake"])).balance
    bench.label("Lost in the case shown", "section[@aria-label='Weir intake']").click()
    hours = 24 * (lost.days_in_hand or 0)
    told = "[data-testid=carries]"
    bench.until(lambda: f"for {hours:.0f} hours; as it is" in bench.text(told))
    assert "34 dairy heifers" in bench.text(told)
    assert "■" in bench.text("[data-testid=bars]")
    download = {"behavior": "allow", "downloadPath": str(tmp_path)}
    bench.browser.execute_cdp_cmd("Browser.setDownloadBehavior", download)
    bench.find("[data-testid=stores] button").click()
    strip = bench.until(lambda: next(iter(tmp_path.glob("*.svg"))))
    bench.until(lambda: "</svg>" in strip.read_text(encoding="utf-8"))
    tags = [element.tag for element in ElementTree.parse(strip).iter()]
    assert tags.count("{http://www.w3.org/2000/svg}path") > 10


def test_a_year_is_held_against_another_plan_and_a_case_opens_and_shuts(bench: Bench) -> None:
    bench.open("water")
    bench.choose("Add a source", "haul")
    bench.until(bench.saved)
    bench.choose("Compare a year with", bench.design_id)
    told = "[data-testid=years-told]"
    bench.until(lambda: "117 hours of hauling, 0 hours less" in bench.text(told))  # 3 trips of 45 minutes a week

    bench.open("lines")
    bench.part("Fold leg")
    bench.choose("In the case hot spell", "shut")
    shut = expected(lambda d: one(d, "scenarios", "hot-spell").update(shut=["fold-leg"]))
    assert shut.state.outlets["ewe-valve"].flow_m3s == 0.0
    bench.until(lambda: "no water" in bench.verdict() or "Ewe" in bench.verdict())
    bench.choose("In the case hot spell", "")
    bench.until(lambda: "Goose pan valve gets" in bench.verdict())
