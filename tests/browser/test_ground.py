"""The view Ground in a real browser: readings by every way, what they make of heights, files in and out."""

import json
import urllib.request
from functools import partial
from pathlib import Path
from typing import Any

import pytest
from bench_page import Bench
from farm import expected, one
from selenium.webdriver.common.keys import Keys

from leadsman.core.design import Design
from leadsman.core.design.file import read_design_text
from leadsman.core.report.ground import book_reports
from leadsman.core.report.measuring import measuring_report
from leadsman.core.survey.height_network import heights
from leadsman.demo import tamsel_ridge
from leadsman.formats.exporting import exported
from leadsman.formats.projection import Plane
from leadsman.launch.server import Server

OPENS_ITSELF = True

BOOK = "Level book 2"


def kept(bench: Bench) -> Design:
    """The design as it was saved last."""
    return read_design_text(json.dumps(bench.head().document))


def test_a_level_book_reduces_itself_closes_and_gives_its_heights(bench: Bench) -> None:
    bench.open("ground")
    bench.tab("Readings")
    bench.button("Start a level book").click()
    with bench.within(BOOK):
        bench.choose("Point 1", "gate")
        bench.fill("Back 1", "0.62")
        bench.press("Next point", BOOK)
        bench.choose("Point 2", "low")
        bench.choose("Sight 2", "moves")
        bench.fill("Fore 2", "3.84")
        bench.fill("Back 2", "3.71")
        bench.press("Next point", BOOK)
        bench.choose("Point 3", "gate")
        bench.choose("Sight 3", "last")
        bench.fill("Fore 3", "0.496")
        bench.fill("Way walked, km", "0.4")
        readings = [{"place": "gate", "back_m": 0.62}, {"place": "low", "fore_m": 3.84, "back_m": 3.71},
                    {"place": "gate", "fore_m": 0.496}]  # fmt: skip
        book = {"id": "book-2", "readings": readings, "length_km": 0.4}
        told = book_reports(expected(lambda d: d.update(books=[*d["books"], book])).design)[1]
        assert told.misclosure_m is not None
        missed = f"misses by {told.misclosure_m:.3f}".replace("-", "−")
        bench.until(lambda: missed in bench.text("[data-testid=book-told-1]"))
        assert bench.text("[data-testid=level-1-1]") == f"{told.points[1].adjusted_m:.3f}"
        assert told.allowed_m is not None
        assert abs(told.misclosure_m) <= told.allowed_m
        assert f"{abs(told.misclosure_m):.3f}" in bench.text(f"[aria-label='{BOOK}'] [data-testid=book-misclosure]")
        assert not bench.browser.find_elements("css selector", "[data-testid=finding-misclosure]")
        bench.fill("Fore 3", "0.596")
        bench.until(lambda: bench.find("[data-testid=finding-misclosure]"))
        assert "graduation misread" in bench.text("[data-testid=book-told-1]")
        bench.fill("Fore 3", "0.496")
        bench.until(lambda: missed in bench.text("[data-testid=book-told-1]"))
        bench.press("Take these heights", BOOK)
    bench.until(lambda: one(bench.head().document, "places", "low").get("height_from") == "level and staff")
    low = one(bench.head().document, "places", "low")
    assert low["ground_m"] == round(told.points[1].adjusted_m, 3)


def test_one_person_in_a_field_enters_a_book_by_big_keys(bench: Bench) -> None:
    bench.size(390, 844)
    bench.open("ground")
    bench.tab("Readings")
    bench.button("Start a level book").click()
    with bench.within(BOOK):
        bench.choose("Point 1", "pit")
    bench.press("Big keys for the field", BOOK)

    def key_in(number: str, then: str) -> None:
        for key in number:
            bench.within_dialog(key).click()
        assert bench.text("[data-testid=field-number]").startswith(number)
        bench.within_dialog(then).click()

    assert bench.axe() == []
    wide = bench.browser.execute_script("return Math.min(...[...document.querySelectorAll('[role=dialog] button')]"
                                        ".map(b => b.getBoundingClientRect().height))")  # fmt: skip
    assert wide >= 44
    key_in("2.31", "In between")
    with bench.within("x"):
        bench.scope = "[role=dialog]"
        bench.choose("Staff stands at", "gate")
    key_in("3.905", "The level moves now")
    key_in("1.2", "Back sight")
    with bench.within("x"):
        bench.scope = "[role=dialog]"
        bench.choose("Staff stands at", "pit")
    bench.find("[role=dialog]").send_keys("0.4", Keys.BACKSPACE, "5")  # a keyboard does as well
    key_in("", "Last of all")
    bench.until(bench.saved)
    wanted = [{"place": "pit", "back_m": 1.5}, {"mid_m": 2.31}, {"place": "gate", "fore_m": 3.905, "back_m": 1.2},
              {"place": "pit", "fore_m": 0.5}]  # fmt: skip
    bench.until(lambda: bench.head().document["books"][1]["readings"] == wanted)
    bench.size(1280, 800)


def test_other_ways_say_their_rise_and_two_ways_stand_side_by_side(bench: Bench) -> None:
    bench.open("ground")
    bench.tab("Readings")
    bench.button("Hose level").click()
    with bench.within("Hose level 9"):
        bench.choose("From", "gate")
        bench.choose("To", "low")
        bench.fill("Water over the ground, near end", "0.2")
        assert bench.text("[data-testid=sight-told-8]") == ""  # half a reading says nothing
        bench.fill("Far end", "4.1")
        bench.until(lambda: "3.90 m under Beech gate" in bench.text("[data-testid=sight-told-8]"))
    bench.until(lambda: bench.find("[data-testid=finding-heights-disagree]"))
    bench.button("Timed flow").click()
    with bench.within("Timed flow 10"):
        bench.choose("Outlet", "low-valve")
        bench.fill("Seconds", "90")
        bench.until(lambda: "L/min" in bench.text("[data-testid=sight-told-9]"))
    bench.until(bench.saved)
    (found,) = [place for place in heights(kept(bench)).places if place.place_id == "low"]
    bench.tab("Heights")
    row = bench.text("[role=group][aria-label='Low field']")
    assert f"{found.height_m:.2f} ± {found.error_m:.2f}" in row
    for way in found.ways:
        assert f"{way.height_m:.2f} ± {way.observed.error_m:.2f}" in row
    assert "the ways disagree" in row
    bench.press("Take the measured height of low", "Low field")
    bench.until(lambda: abs(one(bench.head().document, "places", "low")["ground_m"] - found.height_m) < 1e-3)


def test_what_to_measure_next_is_said_in_one_sentence(bench: Bench) -> None:
    bench.open("ground")
    first = measuring_report(expected()).next[0]
    assert (first.kind, first.outlet) == ("valve", "ewe-valve")
    bench.until(lambda: "Time a pail at Ewe trough valve" in bench.text("[data-testid=next-reading]"))
    with bench.within("Sheepfold"):
        bench.fill("Ground of Sheepfold", "254.4")  # low enough that nothing uncertain decides the ewes' flow
        bench.fill("Good to ±", "0.1")
    told = measuring_report(expected(lambda d: one(d, "places", "fold").update(ground_m=254.4, height_error_m=0.1)))
    assert all(not reading.turns for reading in told.next if reading.outlet == "ewe-valve")
    bench.until(lambda: "Low trough turns" in bench.text("[data-testid=next-reading]"))


def test_counted_posts_are_held_against_the_pipe_and_taken(bench: Bench) -> None:
    bench.open("ground")
    bench.tab("Lengths and profiles")
    bench.choose_named("Count Fold leg by", "posts")
    with bench.within("Fold leg"):
        bench.fill("Spaces between posts", "22")
        bench.fill("From post to post", "6.5")
        bench.until(lambda: "143.0 m ± 2.9 m" in bench.text("[role=group][aria-label='Fold leg']"))
    bench.press("Take it", "Fold leg")
    bench.until(lambda: one(bench.head().document, "lines", "fold-leg")["length_m"] == 143.0)


def test_a_profile_is_filled_from_the_service_and_its_trouble_is_told(bench: Bench, heights: Server) -> None:
    def mode(name: str) -> None:
        request = urllib.request.Request(heights.address + "mode", json.dumps({"mode": name}).encode(), method="PUT")
        urllib.request.urlopen(request, timeout=10).close()

    bench.open("ground")
    bench.tab("Lengths and profiles")
    mode("down")
    try:
        bench.press("Fill profile of Goose hose", "Goose hose")
        bench.until(lambda: "The line keeps its points" in bench.text("[data-testid=profile-filled]"))
    finally:
        mode("fine")
    bench.press("Fill profile of Goose hose", "Goose hose")
    bench.until(lambda: "good to ± 0.6 m" in bench.text("[data-testid=profile-filled]"))
    assert "points" not in one(bench.head().document, "lines", "goose-hose")
    bench.press("Take this profile", "Goose hose")
    bench.until(lambda: one(bench.head().document, "lines", "goose-hose").get("points_error_m") == 0.6)
    assert "Stand-in height service" in bench.text("[role=group][aria-label='Goose hose']")


def gpx(folder: Path, off_m: float) -> Path:
    """A made-up walk past Beech gate to a new spring, its heights too high by so much."""
    design = tamsel_ridge()
    assert design.site.anchor is not None
    pairs = Plane(design.site.anchor).degrees([(118.0, -172.0), (60.0, 120.0)])
    names = (("Beech gate", 257.8), ("Old spring", 271.5))
    points = "".join(
        f'<wpt lat="{y}" lon="{x}"><ele>{height + off_m}</ele><name>{name}</name></wpt>'
        for (x, y), (name, height) in zip(pairs, names, strict=True)
    )
    path = folder / "walk.gpx"
    path.write_text(f'<gpx version="1.1" creator="made up">{points}</gpx>')
    return path


def give(bench: Bench, path: Path) -> None:
    bench.find("input[type=file]").send_keys(str(path))


def test_a_file_is_shown_taken_in_and_undone_in_one_step(bench: Bench, tmp_path: Path) -> None:
    bench.open("ground")
    bench.tab("Files in and out")
    give(bench, gpx(tmp_path, 48.0))
    bench.until(lambda: "What are these heights above?" in bench.text("[data-testid=import-question]"))
    assert not bench.button("Take it in").is_enabled()
    bench.choose("Heights are", "differences")
    bench.until(lambda: "new place Old spring" in bench.text("[data-testid=import-preview]"))
    assert [place["id"] for place in bench.head().document["places"]] == [place.id for place in tamsel_ridge().places]
    bench.button("Take it in").click()
    bench.until(lambda: len(bench.head().document["places"]) == 14)
    spring = one(bench.head().document, "places", "old-spring")
    assert spring["ground_m"] == pytest.approx(271.5, abs=0.1)  # the 48 m are taken out by the gate
    before = len(bench.head().document["sights"])
    bench.button("Undo").click()
    bench.until(lambda: len(bench.head().document["places"]) == 13)
    assert len(bench.head().document["sights"]) == before - 2
    bench.button("Redo").click()
    bench.until(lambda: len(bench.head().document["places"]) == 14)


def test_a_broken_file_is_refused_with_the_reason_and_changes_nothing(bench: Bench, tmp_path: Path) -> None:
    def troubled(why: str) -> bool:
        return why in bench.text("[data-testid=import-trouble]")

    bench.open("ground")
    bench.tab("Files in and out")
    bad: dict[str, tuple[bytes, str]] = {
        "bomb.kml": (b'<!DOCTYPE x [<!ENTITY a "b">]><kml>&a;</kml>', "without a DTD"),
        "times.csv": (b"lat,lon,height\n46.5,-31.2,1764105600\n", "looks like a time"),
        "far.csv": (b"lat,lon,height\n12.5,77.2,900\n", "from the plan"),
    }
    for name, (data, why) in bad.items():
        path = tmp_path / name
        path.write_bytes(data)
        give(bench, path)
        bench.until(partial(troubled, why))
    assert bench.head().number == 1


def is_whole(path: Path) -> bool:
    return path.stat().st_size > 1_000


def test_the_plan_is_handed_out(bench: Bench, tmp_path: Path) -> None:
    command: dict[str, Any] = {"behavior": "allow", "downloadPath": str(tmp_path)}
    bench.browser.execute_cdp_cmd("Browser.setDownloadBehavior", command)
    bench.open("ground")
    bench.tab("Files in and out")
    for name, suffix in (("KML", "kml"), ("Design file", "leadsman.json")):
        bench.press(name, "Hand out as")
        path = tmp_path / f"tamsel-ridge-plan-a-three-branches.{suffix}"
        bench.until(partial(is_whole, path))
    assert json.loads(path.read_bytes()) == json.loads(exported(tamsel_ridge(), "design"))


def test_ground_has_no_serious_fault_for_those_who_hear_or_type_and_fits_a_phone(bench: Bench) -> None:
    bench.open("ground")
    bench.until(lambda: "Working" not in bench.text("[data-testid=next-reading]"))
    for part in ("Heights", "Readings", "Lengths and profiles", "Files in and out"):
        bench.tab(part)
        assert bench.axe() == [], part
        bench.size(390, 844)
        assert bench.browser.execute_script("return document.documentElement.scrollWidth") <= 390, part
        bench.size(1280, 800)
