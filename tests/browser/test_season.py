"""A season from its weather to the tank that closes its gap, a lost source, a day picked."""

import xml.etree.ElementTree as ElementTree
from datetime import date, timedelta
from pathlib import Path
from typing import Any

from bench_page import Bench
from farm import expected, one
from selenium.webdriver.common.action_chains import ActionChains

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.wording import plain
from leadsman.core.findings.registry import judge
from leadsman.formats.weather_csv import read_weather_csv


def dry_table() -> str:
    """A wet month, then two without any rain, hot; made up."""
    days = [date(2026, 5, 1) + timedelta(days=number) for number in range(90)]
    return "date;rain_mm;max_c;min_c\n" + "".join(
        f"{day.isoformat()};{'18,5' if number < 30 and number % 5 == 0 else '0'};29;14\n"
        for number, day in enumerate(days)
    )


def dried(document: Any) -> None:
    weather = read_weather_csv(dry_table(), "dry.csv")
    document["season"] = {"weather": weather.model_dump(mode="json", by_alias=True)}


def gap(analysis: Analysis) -> Any:
    return next(finding for finding in judge(analysis) if finding.code == "season-gap")


def test_a_dry_season_is_loaded_its_gap_read_and_closed_by_the_suggested_tank(bench: Bench, tmp_path: Path) -> None:
    table = tmp_path / "dry.csv"
    table.write_text(dry_table(), encoding="utf-8")
    bench.open("supply")
    bench.row("season")
    bench.until(lambda: "All 365 days have enough" in bench.text("[data-testid=season-told]"))
    bench.find("input[aria-label='Weather table']").send_keys(str(table))
    case = expected(dried)
    season = case.store_season
    assert season is not None
    short = season.weather.days - int(season.cautious.met[:, 0].sum())
    assert short > 0
    bench.until(
        lambda: f"Glasshouse butt. On {short} of 90 days there is not enough" in bench.text("[data-testid=season-told]")
    )
    bench.until(lambda: len(bench.browser.find_elements("css selector", "[data-testid=bad-day]")) == short)
    assert f"longest gap lasts {season.cautious.longest_gap_d()} days" in bench.text("[data-testid=season-told]")
    size = season.size_for(0.99)
    assert size is not None
    assert f"{size * 1000:,.0f} L".replace(",", " ") in bench.text("[data-testid=season-sizes]")

    remedy = next(one for one in gap(case).remedies if "linked tanks" in plain(one.text))
    finding = "[data-testid=finding-season-gap]"
    bench.finding("season-gap")
    bench.until(lambda: plain(remedy.text) in bench.text(finding))
    bench.browser.find_element(
        "xpath", f"//*[@data-testid='finding-season-gap']//button[contains(., '{plain(remedy.text)}')]"
    ).click()
    bench.until(lambda: not bench.browser.find_elements("css selector", finding))
    bench.until(lambda: "90 days" in bench.text("[data-testid=season-told]"))
    bench.until(lambda: f"On {short} of" not in bench.text("[data-testid=season-told]"))


def test_a_lost_source_changes_the_picture_of_the_stores_and_it_is_a_file(bench: Bench, tmp_path: Path) -> None:
    bench.open("supply")
    lost = expected(lambda d: one(d, "scenarios", "hot-spell").update(lost=["weir-intake"])).balance
    bench.row("weir-intake")
    bench.label("Lost in this case", "section[@aria-label='Weir intake']").click()
    hours = 24 * (lost.days_in_hand or 0)
    told = "[data-testid=carries]"
    bench.until(lambda: f"for {hours:.0f} hours; as it is" in bench.text(told))
    download = {"behavior": "allow", "downloadPath": str(tmp_path)}
    bench.browser.execute_cdp_cmd("Browser.setDownloadBehavior", download)
    bench.row("chambers")
    bench.button("Dipstick scale").click()
    strip = bench.until(lambda: next(iter(tmp_path.glob("*.svg"))))
    bench.until(lambda: "</svg>" in strip.read_text(encoding="utf-8"))
    tags = [element.tag for element in ElementTree.parse(strip).iter()]
    assert tags.count("{http://www.w3.org/2000/svg}path") > 10


def test_a_day_picked_in_the_season_is_the_day_shown(bench: Bench) -> None:
    bench.open("demand")
    strip = bench.find("[aria-label=Season] svg")
    before = bench.field("Day of the case").get_attribute("value")
    ActionChains(bench.browser).move_to_element_with_offset(strip, 120, 10).click().perform()
    bench.until(lambda: bench.field("Day of the case").get_attribute("value") != before)
    day = bench.field("Day of the case").get_attribute("value")
    assert day in expected(lambda _: None).season.days
    bench.until(bench.saved)
    assert one(bench.head().document, "scenarios", "hot-spell")["date"] == day
