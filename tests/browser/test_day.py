"""The Day: events placed, dragged and typed, the play head, and the same answers as the command line's."""

import csv
import json
import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from bench_page import Bench
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from leadsman.cli import main
from leadsman.core.design import Design, Vessel
from leadsman.core.design.file import read_design, write_design
from leadsman.core.report.dayrun import asked_day
from leadsman.core.report.failure_survey import failure_survey_report
from leadsman.launch.cluster import Cluster
from leadsman.launch.server import Child, job_worker


def saved(bench: Bench) -> Design:
    """The plan as it is saved, once it is."""
    bench.until(bench.saved)
    return read_design(bench.head().document)


def story(bench: Bench) -> list[str]:
    """The lines of what happens, each with its time."""
    lines = bench.browser.find_elements("css selector", "[data-testid=day-story] li")
    return [" ".join(line.text.split()) for line in lines]


def told_by_command(document: Any, file: Path, capsys: pytest.CaptureFixture[str], *more: str) -> Any:
    """What `leadsman dayrun` tells of a plan, in the case that it shows."""
    file.write_text(json.dumps(document), encoding="utf-8")
    capsys.readouterr()
    assert main(["dayrun", str(file), "--hours", "24", "--json", "--scenario", document["shown_for"], *more]) == 0
    return json.loads(capsys.readouterr().out)


def attribute(element: WebElement, name: str) -> str:
    return element.get_attribute(name) or ""


def add(bench: Bench, kind: str) -> None:
    bench.button("+ Add event").click()
    bench.until(lambda: bench.browser.find_elements("xpath", f"//li[normalize-space()='{kind}']"))[0].click()
    bench.until(lambda: bench.text("[data-testid=event-dialog] h1") == kind)


def set_head(bench: Bench, hour: int) -> None:
    """Move the play head by keys to a whole hour."""
    strips = bench.find("[data-testid=day-strips]")
    strips.send_keys(Keys.HOME)
    for _ in range(hour):
        strips.send_keys(Keys.PAGE_UP)
    bench.until(lambda: attribute(strips, "aria-valuetext") == f"{hour:02d}:00")


def settled(bench: Bench) -> None:
    bench.until(lambda: not bench.browser.find_elements("xpath", "//*[text()='Calculating …']"))


def test_a_lost_source_and_a_stuck_valve_empty_the_tank_when_the_command_line_says_so(
    bench: Bench, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    bench.open("day")
    bench.until(lambda: story(bench))
    quiet = story(bench)
    set_head(bench, 1)
    add(bench, "Source lost")
    bench.choose("Lasts", "end")
    bench.button("Close").click()
    set_head(bench, 2)
    add(bench, "Valve stuck open")
    bench.choose("Where", "ewe-valve")
    bench.button("Close").click()
    bench.until(lambda: any("02:00 Ewe trough valve sticks open" in line for line in story(bench)))
    settled(bench)
    document = write_design(saved(bench))
    assert [event["kind"] for event in document["events"]] == ["source_lost", "stuck_open"]
    told = told_by_command(document, tmp_path / "plan.json", capsys)
    assert [event["text"] for event in told["events"]] == story(bench)
    dry = next(event for event in told["events"] if event["kind"] == "runs-dry" and event["where"] == "chambers")
    assert dry["text"] != next(line for line in quiet if "West chamber is down to its outlet" in line)
    assert dry["text"] in story(bench)

    # the play head stands where the line that is clicked says, and the plan and the strips follow it
    line = next(
        one
        for one in bench.browser.find_elements("css selector", "[data-testid=day-story] button")
        if "West chamber is down" in one.text
    )
    line.click()
    bench.until(lambda: attribute(bench.find("[data-testid=day-strips]"), "aria-valuetext") == dry["text"][:5])
    level = bench.text("[data-value=chambers]")
    then = told_by_command(document, tmp_path / "plan.json", capsys, "--at", str(dry["time_s"]))
    assert abs(float(level.split()[0]) - then["levels_m"]["chambers"][0]) < 0.02
    assert f"West chamber {level}" in attribute(bench.find("[data-testid=day-plan]"), "aria-label")

    # without its events the day is as it was, drawn dashed beside it
    bench.choose_named("Compare with", "without")
    bench.until(lambda: bench.browser.find_elements("css selector", "[data-other=chambers]"))

    # deleted and undone
    for event in document["events"]:
        bench.find(f"[data-event={event['id']}]").send_keys(Keys.ENTER)
        bench.button("Delete").click()
    bench.until(lambda: story(bench) == quiet)
    bench.button("Undo").click()
    bench.until(lambda: any("sticks open" in line for line in story(bench)))


def test_an_event_is_dragged_out_of_the_list_onto_its_time(bench: Bench) -> None:
    bench.open("day")
    bench.until(lambda: story(bench))
    bench.button("+ Add event").click()
    item = bench.until(lambda: bench.browser.find_elements("xpath", "//li[normalize-space()='Source lost']"))[0]
    axis = bench.find("[data-testid=event-axis]")
    hour = {  # where two hours stand on the axis
        text.text: text.rect["x"] + text.rect["width"] / 2 for text in axis.find_elements("css selector", "text")
    }
    at_x = (hour["06:00"] + hour["09:00"]) / 2
    ActionChains(bench.browser).click_and_hold(item).move_by_offset(6, 6).perform()
    bench.until(lambda: not item.is_displayed())  # the list is out of the way
    to = axis.rect
    along = ActionChains(bench.browser).move_to_element_with_offset(axis, round(at_x - to["x"] - to["width"] / 2), 0)
    along.pause(0.2).move_by_offset(-2, 2).pause(0.2).move_by_offset(2, 2).pause(0.2).release().perform()
    bench.until(lambda: bench.text("[data-testid=event-dialog] h1") == "Source lost")
    bench.button("Close").click()
    (event,) = saved(bench).events
    assert event.kind == "source_lost"
    assert event.at_s == pytest.approx(7.5 * 3_600.0, abs=300.0)


def test_an_event_is_dragged_along_the_axis_and_nudged_by_keys(bench: Bench) -> None:
    bench.open("day")
    bench.until(lambda: story(bench))
    set_head(bench, 3)
    add(bench, "Valve stuck open")
    bench.button("Close").click()
    (event,) = bench.until(lambda: bench.browser.find_elements("css selector", "[data-event]"))
    name = attribute(event, "data-event")

    def at_s() -> float:
        (own,) = saved(bench).events
        return own.at_s

    bench.until(lambda: at_s() == 3 * 3600.0)
    shape = bench.find(f"[data-event={name}] path")
    width = bench.find("[data-testid=day-strips]").rect["width"] - 160  # names to the left, an edge to the right
    ActionChains(bench.browser, duration=80).move_to_element(shape).click_and_hold().move_by_offset(
        int(width / 8), 0
    ).move_by_offset(int(width / 8), 0).release().perform()
    bench.until(lambda: abs(at_s() - 9 * 3600.0) < 600.0)
    dragged = at_s()
    bench.find(f"[data-event={name}]").send_keys(Keys.ARROW_LEFT)
    bench.until(lambda: at_s() == dragged - 600.0)
    assert not bench.browser.find_elements("css selector", "[data-testid=event-dialog]")
    # typed exactly
    bench.find(f"[data-event={name}]").send_keys(Keys.ENTER)
    bench.until(lambda: bench.text("[data-testid=event-dialog] h1"))
    bench.choose("Lasts", "until")
    bench.until(lambda: saved(bench).events[0].until_s is not None)
    bench.button("Close").click()
    bench.button("Play").click()
    head = bench.find("[data-testid=day-strips]")
    begun = float(attribute(head, "aria-valuenow"))
    bench.until(lambda: float(attribute(head, "aria-valuenow")) > begun + 1800.0)
    bench.button("Pause").click()
    assert re.fullmatch(r"\d\d:\d\d", attribute(head, "aria-valuetext"))


@pytest.fixture
def worker(cluster: Cluster) -> Iterator[Child]:
    """A worker that takes long runs from the queue."""
    running = job_worker(cluster.url)
    yield running
    running.stop()


def choose_length(bench: Bench, hours: int) -> None:
    bench.choose_named("Length of the run", str(hours))


@pytest.mark.usefixtures("worker")
def test_a_long_run_tells_how_far_it_is_and_is_cancelled_and_a_week_is_shown(bench: Bench) -> None:
    bench.open("day")
    bench.until(lambda: story(bench))
    choose_length(bench, 2160)
    bench.until(lambda: re.search(r"Calculating … [1-9]\d* %", bench.text("main")))
    bench.button("Cancel").click()
    bench.until(lambda: "%" not in bench.text("main [role=status]"))
    choose_length(bench, 168)
    bench.until(lambda: any("day 2, 16:46 West chamber" in line for line in story(bench)))
    strips = bench.find("[data-testid=day-strips]")
    strips.send_keys(Keys.END)
    bench.until(lambda: bench.text("main [role=status]") == "day 8, 00:00")


@pytest.mark.usefixtures("worker")
def test_the_failure_survey_names_the_worst_first_with_what_would_help(bench: Bench) -> None:
    bench.open("day")
    bench.until(lambda: story(bench))
    reserves = bench.text("[data-testid=day-failures]")
    assert reserves.index("Ewe trough") < reserves.index("Goose pan")  # the shortest reserve first
    bench.button("Run the survey").click()
    wanted = failure_survey_report(bench_design(bench)).failures
    first = "[data-testid=day-failures] tbody tr"
    bench.until(lambda: "Head main comes off" in bench.text(first))
    litres = f"{wanted[0].cost.lost_l:,.0f} L".replace(",", " ")
    assert litres in bench.text(first)
    assert "Half of West chamber kept behind a shut tap" in bench.text("[data-testid=day-failures]")
    bench.button("Show all").click()
    rows = bench.browser.find_elements(
        "css selector", "[data-testid=day-failures] table:first-of-type tbody tr:not(.more)"
    )
    assert len(rows) == len(wanted)


def bench_design(bench: Bench) -> Design:
    return read_design(bench.head().document)


def test_the_run_leaves_as_a_table_and_a_picture(bench: Bench, tmp_path: Path) -> None:
    bench.browser.execute_cdp_cmd("Browser.setDownloadBehavior", {"behavior": "allow", "downloadPath": str(tmp_path)})
    bench.open("day")
    bench.until(lambda: story(bench))
    for entry in ("Table (CSV)", "Picture (SVG)", "Picture (PNG)"):
        bench.button("Export").click()
        bench.until(lambda entry=entry: bench.browser.find_elements("xpath", f"//li[.='{entry}']"))[0].click()  # type: ignore[misc]
    bench.until(lambda: len(list(tmp_path.glob("*.[cps][snv][vg]"))) == 3)
    table, png, svg = sorted(tmp_path.iterdir())
    rows = list(csv.reader(table.read_text().splitlines()))
    assert rows[0][:2] == ["time", "Weir box [m]"]
    assert len(rows) == 290
    told = asked_day(bench_design(bench), 24.0)
    assert float(rows[1 + 72][1]) == pytest.approx(told.levels_m["weir-box"][72], abs=1e-3)
    assert png.read_bytes().startswith(b"\x89PNG")
    assert "West chamber" in svg.read_text()
    assert "24:00" in svg.read_text()


def test_where_an_overflow_runs_to_is_said_in_the_tank_s_details(bench: Bench) -> None:
    bench.open("lines")
    bench.part("West chamber")
    bench.choose("Overflow runs to", "butt")
    bench.until(lambda: one_vessel(bench, "chambers").overflow_into == "butt")
    bench.choose("Overflow runs to", "ground")
    bench.until(lambda: one_vessel(bench, "chambers").overflow_onto == "ground")
    assert one_vessel(bench, "chambers").overflow_into is None


def one_vessel(bench: Bench, vessel_id: str) -> Vessel:
    return next(vessel for vessel in saved(bench).vessels if vessel.id == vessel_id)
