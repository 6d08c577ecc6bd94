"""The view Need in a real browser: herds, moves, mobs, plants; its numbers are the core's."""

import csv
from pathlib import Path
from typing import Any

import pytest
from bench_page import Bench
from farm import expected, number, one
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys

from leadsman.core.analysis.schools import schools
from leadsman.core.base.wording import plain
from leadsman.core.findings.registry import judge

OPENS_ITSELF = True


def test_a_mob_that_finds_no_room_is_seen_and_helped_by_more_rim(bench: Bench) -> None:
    crowded = expected(lambda _: None)
    visit = next(watering for watering in crowded.waterings if watering.outlet.id == "ewe-valve").visits[0]
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
    served = next(watering for watering in wider.waterings if watering.outlet.id == "ewe-valve").visits[0].run.served_s
    assert served is not None
    bench.until(lambda: f"drunk after {served / 60:.0f} min" in bench.text("[data-testid=trough-ewes]"))


def test_a_rotation_and_a_hot_spell_show_the_trough_that_fails(bench: Bench) -> None:
    bench.open("need")
    card = "section[aria-label='Dairy heifers']"
    bench.find(f"{card} button[data-testid=add-moves]").click()
    moves = f"{card} [role=group]:nth-of-type(2)"
    bench.until(lambda: bench.find(moves))
    for paddock in ("Fold field", "1. Low field"):
        bench.label(paddock, "section[@aria-label='Dairy heifers']").click()
    bench.choose_named("Shown for", "ordinary-day")
    bench.until(lambda: bench.field("Day shown").get_attribute("value") == "")
    bench.until(lambda: "Ordinary day" in bench.text("main"))

    def moved(document: Any) -> None:
        document["shown_for"] = "ordinary-day"
        one(document, "scenarios", "ordinary-day").update(date="2026-07-24", air_c=36)
        rotation = {"herd": "heifers", "from": "2026-05-01", "to": "2026-09-30", "paddocks": ["fold-field"]}
        document["calendar"].append({"id": "moves-4", **rotation})

    bench.pick("Day shown", "2026-07-24")
    bench.until(lambda: "on this day at Ewe trough" in bench.text(card))
    bench.fill("Air, ordinary day", "36")
    case = expected(moved)
    found = [finding for finding in judge(case) if finding.code in ("rim-too-short", "trough-runs-empty")]
    assert any(finding.where == "ewe-valve" for finding in found)
    bench.until(lambda: plain(found[0].headline) in bench.text("[aria-label=Findings]"))
    visits = next(watering.visits for watering in case.waterings if watering.outlet.id == "ewe-valve")
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
    by_area = expected(lambda d: d.update(crops=[hops, *d["crops"][1:]]))
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
    who = {row[0]: row for row in rows[1:7]}
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


def test_the_case_shown_changes_the_need_and_is_named(bench: Bench) -> None:
    bench.open("need")
    hot = bench.number("spare")
    bench.choose_named("Shown for", "ordinary-day")
    ordinary = expected(lambda d: d.update(shown_for="ordinary-day"))
    bench.until(lambda: bench.number("spare") != hot)
    assert f"{ordinary.herds[0].daily_l:.0f}" in bench.text("[data-testid=need-heifers]").replace(" ", "")
    assert "Ordinary day" in bench.text("main")


def test_a_timer_that_starves_a_trough_is_moved_to_where_nothing_goes_short(bench: Bench) -> None:
    bench.open("lines")
    bench.part("Low trough valve")
    bench.fill("Flow wanted", "28")
    bench.until(bench.saved)
    bench.open("need")
    clash = expected(lambda d: one(d, "requirements", "low-valve", "outlet").update(flow_lpm=28)).timer_clashes[0]
    gets = f"Low trough gets {clash.gets_m3s * 60_000:.1f} L/min of 28.0 L/min"
    bench.until(lambda: gets in bench.text("[data-testid=timers-told]"))
    assert bench.find("[data-testid=clash]")
    bench.until(lambda: "Hop timer at 17:00" in bench.text("[data-testid=finding-timers-clash]"))
    bench.browser.find_element("css selector", "[data-testid=finding-timers-clash] button").click()
    bench.until(lambda: "Nothing goes short" in bench.text("[data-testid=timers-told]"))
    assert bench.field("Starts").get_attribute("value") == "17:00"
    bench.pick("Starts", "16:30")
    bench.until(lambda: gets in bench.text("[data-testid=timers-told]"))
    bench.until(bench.saved)
    bench.until(lambda: one(bench.head().document, "timers", "hop-timer")["starts"] == "16:30")


def test_a_trough_that_goes_with_the_herd_throws_water_away(bench: Bench) -> None:
    """The ewes move from Fold field to Low field, both served by the one trough that is carried to the other valve."""
    bench.open("lines")
    bench.part("Ewe trough")
    bench.label("Goes with the herd").click()
    bench.fill("Thrown away a move", "75")
    bench.until(bench.saved)
    revision = bench.head().document
    assert one(revision, "vessels", "ewe-trough")["portable"] == {"thrown_l": 75}

    bench.open("need")
    bench.pick("Day shown", "2026-06-28")
    bench.until(lambda: "grazing Fold field" in bench.text("section[aria-label='Milking ewes']"))
    bench.pick("Day shown", "2026-06-29")
    bench.until(lambda: "grazing Low field" in bench.text("section[aria-label='Milking ewes']"))


def test_a_row_of_containers_is_lowered_in_a_step(bench: Bench) -> None:
    bench.open("need")
    row = "[data-testid=row-pot-valve]"
    now = expected(lambda _: None).container_rows[0]
    bench.until(lambda: f"hold {now.holds_m3 * 1000:.0f} L" in bench.text(row))
    bench.fill("Level, 2", "0.18")
    valve = {"steps": [{"from": "2026-06-08", "closes_at_m": 0.25}, {"from": "2026-07-13", "closes_at_m": 0.18}]}
    lower = expected(lambda d: one(d, "outlets", "pot-valve")["valve"].update(valve)).container_rows[0]
    assert lower.holds_m3 < now.holds_m3
    bench.until(lambda: f"hold {lower.holds_m3 * 1000:.0f} L" in bench.text(row))
    assert f"{-lower.levels[2].change_m3 * 1000:.0f} L" in bench.text(f"{row} tbody tr:last-child")
    over = bench.text("[data-testid=unattended-pond-valve]")
    assert "Pond valve stuck open" in over


def test_each_picture_can_be_read_as_a_table(bench: Bench) -> None:
    bench.open("need")
    day = expected(lambda _: None).hours_of_cases["hot-spell"]
    bench.until(lambda: bench.find("[data-testid=trough-ewes] details"))
    for summary in bench.browser.find_elements("css selector", "main summary"):
        summary.click()
    tables = {
        element.text.split("\n")[0]: element for element in bench.browser.find_elements("css selector", "main details")
    }
    assert {"The day as a table", "The season as a table", "The visit as a table", "Timers as a table"} <= set(tables)
    busiest = day.index(max(day))
    text = tables["The day as a table"].text.replace("\u202f", "")
    assert f"{busiest} to {busiest + 1} h {max(day):.0f} L" in text


def test_the_heads_of_a_herd_change_over_the_season(bench: Bench) -> None:
    bench.open("need")
    bench.button("Their number changes over the season").click()
    before = bench.text("[data-testid=need-heifers]")
    bench.fill("Heads, 1", "20")
    fewer = expected(lambda d: one(d, "herds", "heifers").update(counts=[{"from": "2026-06-01", "head": 20}]))
    litres = f"{fewer.herds[0].daily_l:.0f}"
    bench.until(lambda: litres in bench.text("[data-testid=need-heifers]").replace(" ", ""))
    assert bench.text("[data-testid=need-heifers]") != before
