"""Files out of the page and in again."""

import csv
import json
from functools import partial
from pathlib import Path
from typing import Any
from xml.etree import ElementTree

import pytest
from bench_page import Bench
from farm import expected
from pypdf import PdfReader

from leadsman.core.design.file import read_design
from leadsman.demo import tamsel_ridge
from leadsman.formats.exporting import exported


def is_whole(path: Path) -> bool:
    return path.stat().st_size > 1_000


def holds_something(path: Path) -> bool:
    return path.stat().st_size > 0


def test_the_plan_is_handed_out(bench: Bench, tmp_path: Path) -> None:
    command: dict[str, Any] = {"behavior": "allow", "downloadPath": str(tmp_path)}
    bench.browser.execute_cdp_cmd("Browser.setDownloadBehavior", command)
    bench.open("ground")
    bench.tab("Import and export")
    for name, suffix in (("KML", "kml"), ("Design file", "leadsman.json")):
        bench.press(name, "Export as")
        path = tmp_path / f"tamsel-ridge-plan-a-three-branches.{suffix}"
        bench.until(partial(is_whole, path))
    assert json.loads(path.read_bytes()) == json.loads(exported(tamsel_ridge(), "design"))


def test_weather_is_taken_from_the_service_and_the_season_saved_as_a_table(bench: Bench, tmp_path: Path) -> None:
    bench.open("supply")
    bench.row("season")
    bench.choose("Made-up weather", "dry plains")
    bench.fill("Years", "2")
    bench.button("Use this weather").click()
    bench.until(lambda: "dry plains, 2 years, seed 1" in bench.text("[aria-label=Weather]"))
    bench.until(bench.saved)
    weather = bench.head().document["season"]["weather"]
    assert len(weather["rain_mm"]) == 730
    bench.until(lambda: "730 days" in bench.text("[data-testid=season-told]"))
    download = {"behavior": "allow", "downloadPath": str(tmp_path)}
    bench.browser.execute_cdp_cmd("Browser.setDownloadBehavior", download)
    bench.button("Download CSV").click()
    file = bench.until(lambda: next(iter(tmp_path.glob("*.csv"))))
    bench.until(lambda: "days_in_hand" in file.read_text())
    with file.open(encoding="utf-8", newline="") as table:
        rows = list(csv.DictReader(table))
    season = expected(lambda d: d.update(season={"weather": weather})).store_season
    assert season is not None
    assert [float(row["store_l"]) for row in rows] == pytest.approx(season.cautious.volumes_m3[:, 0] * 1000, abs=0.01)
    names = {inflow.id: inflow.name for inflow in tamsel_ridge().inflows}
    assert season.inflows_m3
    for source, daily_m3 in season.inflows_m3.items():
        assert [float(row[f"{names[source]} l"]) for row in rows] == pytest.approx(daily_m3 * 1000, abs=0.01)


def test_the_demand_is_saved_as_a_table(bench: Bench, tmp_path: Path) -> None:
    bench.open("demand")
    told = expected()
    download = {"behavior": "allow", "downloadPath": str(tmp_path)}
    bench.browser.execute_cdp_cmd("Browser.setDownloadBehavior", download)
    bench.button("Download CSV").click()
    file = bench.until(lambda: next(iter(tmp_path.glob("*.csv"))))
    bench.until(lambda: "l_per_day" in file.read_text())
    with file.open(encoding="utf-8", newline="") as table:
        rows = list(csv.reader(table))
    assert rows[0] == ["who", "head", "one_l_per_day", "all_l_per_day", "at", "source"]
    who = {row[0]: row for row in rows[1:7]}
    for demand in told.herds:
        assert float(who[demand.herd.name or ""][3]) == pytest.approx(demand.daily_l, abs=1e-3)
    season = rows.index(next(row for row in rows if row[:1] == ["day"]))
    assert [row[0] for row in rows[season + 1 :]] == told.season.days


def test_pictures_are_files_that_stand_by_themselves(bench: Bench, tmp_path: Path) -> None:
    bench.open("lines")
    bench.settled()
    bench.browser.execute_cdp_cmd("Page.setDownloadBehavior", {"behavior": "allow", "downloadPath": str(tmp_path)})
    for what, kind in (("Plan", "SVG"), ("Profile", "PNG")):
        bench.menu("File", f"{what} as {kind}")
        name = f"tamsel-ridge-plan-a-three-branches-{what.lower()}.{kind.lower()}"
        saved = tmp_path / name
        bench.until(partial(holds_something, saved))
        if kind == "SVG":
            text = saved.read_text()
            assert ElementTree.fromstring(text).tag.endswith("svg")
            assert "Low trough" in text
            assert "var(--" not in text
            assert "http://127" not in text
        else:
            assert saved.read_bytes().startswith(b"\x89PNG")


def test_a_plan_is_saved_as_a_file_and_opened_again_as_another(bench: Bench, tmp_path: Path) -> None:
    bench.open("lines")
    download = {"behavior": "allow", "downloadPath": str(tmp_path)}
    bench.browser.execute_cdp_cmd("Browser.setDownloadBehavior", download)
    bench.menu("File", "Export design file")
    file = bench.until(lambda: next(iter(tmp_path.glob("*.json"))))
    bench.until(lambda: json.loads(file.read_text()))
    assert read_design(json.loads(file.read_text())) == tamsel_ridge()
    bench.browser.get(bench.address)
    bench.find("[aria-label='Design file']").send_keys(str(file))
    bench.until(lambda: "/designs/" in bench.browser.current_url and bench.design_id not in bench.browser.current_url)
    bench.until(lambda: "saved · revision 1" in bench.saving())
    assert "Goose pan" in bench.verdict()


def test_the_first_page_lists_plans_and_refuses_a_bad_file_with_its_faults(bench: Bench, tmp_path: Path) -> None:
    bench.browser.get(bench.address)
    bench.until(lambda: "made-up data" in bench.text("main"))
    bad = tmp_path / "bad.json"
    bad.write_text('{"format": "leadsman-design", "places": [{"id": "a", "ground_m": "high"}]}')
    bench.find("[aria-label='Design file']").send_keys(str(bad))
    bench.until(lambda: "/places/0/ground_m" in bench.text("[role=alert]"))
    assert "Nothing was saved" in bench.text("[role=alert]")
    assert bench.axe() == []


def test_everything_is_exported_as_one_file_and_read_back(bench: Bench, tmp_path: Path) -> None:
    before = bench.head()
    bench.browser.get(bench.address)
    download = {"behavior": "allow", "downloadPath": str(tmp_path)}
    bench.browser.execute_cdp_cmd("Browser.setDownloadBehavior", download)
    bench.find("a[href='/api/archive']").click()
    file = bench.until(lambda: next(iter(tmp_path.glob("leadsman-*.zip"))))
    bench.until(partial(is_whole, file))
    with bench.database.transaction() as connection:
        connection.execute("DELETE FROM design")
    bench.find("[aria-label='Archive file']").send_keys(str(file))
    bench.until(lambda: "2 plans added." in bench.text("[aria-label='A copy of everything']"))
    bench.until(lambda: "Plan A" in bench.text("main section li"))
    assert bench.head() == before
    (tmp_path / "letters.zip").write_bytes(b"no archive")
    bench.find("[aria-label='Archive file']").send_keys(str(tmp_path / "letters.zip"))
    bench.until(lambda: "Not imported: 1 fault. Nothing was saved." in bench.text("[role=alert]"))
    assert bench.axe() == []


def test_from_the_plan_to_the_shop_and_the_job_sheet(bench: Bench, tmp_path: Path) -> None:
    """What is in the shed leaves the shopping list, and the sheet that is printed is of the plan as it stands."""
    command: dict[str, Any] = {"behavior": "allow", "downloadPath": str(tmp_path)}
    bench.browser.execute_cdp_cmd("Browser.setDownloadBehavior", command)
    bench.open("parts")
    needed = "[data-testid=needed-ball-tap-2]"
    bench.until(lambda: bench.text(needed))
    bench.find("[aria-label='2 in full-bore ball tap in the shed']").send_keys("1")
    bench.until(lambda: "nothing" in bench.text(needed))
    bench.until(bench.saved)
    bench.browser.find_element("css selector", "nav a[href$='/build']").click()
    bench.choose("Paper", "us-letter")
    bench.button("Job sheet as PDF").click()
    path = tmp_path / "tamsel-ridge-plan-a-three-branches.job-sheet.pdf"
    bench.until(lambda: path.exists() and is_whole(path))
    reader = PdfReader(path)
    assert float(reader.pages[0].mediabox.height) == pytest.approx(792.0, abs=0.5)
    told = " ".join(" ".join(page.extract_text() for page in reader.pages).split())
    row = told[told.index("2 in full-bore ball tap") :][:120]
    assert "1 –" in row  # one is needed, none to buy
    assert f"revision {bench.head().number}" in told
