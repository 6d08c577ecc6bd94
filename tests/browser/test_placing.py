"""What is drawn is kept until it is cancelled; parts of any kind are placed, named, shaped, moved and deleted."""

from typing import Any

from bench_page import Bench
from farm import one
from hand import Hand
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys


def document(bench: Bench) -> Any:
    return bench.head().document


def empty_plan(bench: Bench) -> Hand:
    bench.browser.get(bench.address)
    bench.button("Draw it").click()
    bench.button("Create").click()
    bench.until(lambda: "no outlet is open" in bench.verdict())
    bench.design_id = bench.browser.current_url.split("/designs/")[1].split("/")[0]
    return Hand(bench)


def test_a_paddock_is_drawn_before_there_is_any_trough(bench: Bench) -> None:
    hand = empty_plan(bench)
    x, y = hand.mark("source")
    bench.keys("f")
    for dx, dy in ((60, 30), (120, 30)):
        hand.click_at(x + dx, y + dy)
    hand.click_at(x + 120, y + 90, times=2)
    bench.fill("Name", "Top field")
    bench.button("Add paddock").click()
    bench.until(lambda: len(document(bench).get("paddocks", [])) == 1)
    assert "outlet" not in document(bench)["paddocks"][0]
    assert "ha" in bench.text("[data-testid=paddock-area]")


def test_a_pipe_from_nowhere_is_kept_and_a_click_beside_the_question_throws_nothing_away(bench: Bench) -> None:
    hand = empty_plan(bench)
    x, y = hand.mark("source")
    bench.keys("l")
    hand.click_at(x + 60, y + 40)
    plan = bench.find("[data-testid=plan-map]")
    ActionChains(bench.browser, duration=80).move_to_element(plan).move_by_offset(10, 10).pause(0.3).perform()
    bench.until(lambda: "so far" in bench.text("[data-testid=drawing-told]"))
    hand.click_at(x + 160, y + 80, times=2)
    bench.until(lambda: "What is at the start?" in bench.text("[role=dialog]"))
    ActionChains(bench.browser).move_by_offset(-60, 30).click().click().perform()  # beside the dialog
    bench.fill("Name", "Upper spring")
    bench.choose("At the start", "spring box")
    bench.fill("Ground height", "120")
    bench.within_dialog("Continue").click()
    bench.fill("Name", "Yard drinker")
    bench.choose("At the end", "drinker")
    bench.fill("How much lower than Upper spring", "9")
    bench.within_dialog("Add pipe").click()
    bench.until(lambda: len(document(bench).get("lines", [])) == 1)
    kept = document(bench)
    (line,) = kept["lines"]
    assert one(kept, "vessels", line["from"])["name"] == "Upper spring"
    assert one(kept, "outlets", line["to"])["name"] == "Yard drinker valve"
    assert [place["ground_m"] for place in kept["places"][1:]] == [120, 111]


def test_a_vessel_takes_a_shape_of_the_catalogue_and_a_number_and_a_name_that_is_never_empty(bench: Bench) -> None:
    bench.without_rest()
    bench.open("lines")
    bench.part("Low trough")
    bench.choose("From the catalogue", "trough-concrete-2")
    bench.until(lambda: one(document(bench), "vessels", "low-trough").get("product") == "trough-concrete-2")
    bench.choose("Shape", "frustum")
    bench.until(lambda: bench.field("Diameter at rim"))
    bench.fill("Number, linked", "2")
    bench.fill("Link pipe bore", "50")
    name = bench.field("Name")
    name.send_keys(Keys.CONTROL, "a")
    name.send_keys(Keys.BACKSPACE)
    assert "A name is needed; Low trough stays" in bench.text("[aria-label=Details]")
    name.send_keys("Bottom trough")
    bench.until(lambda: one(document(bench), "vessels", "low-trough")["name"] == "Bottom trough")
    trough = one(document(bench), "vessels", "low-trough")
    assert (trough["count"], trough["link_mm"], trough["shape"]["kind"]) == (2, 50, "frustum")
    assert trough.get("product") is None  # it is no longer that of the catalogue


def test_a_renamed_outlet_is_named_so_in_the_verdict(bench: Bench) -> None:
    bench.without_rest()
    bench.open("lines")
    bench.part("Goose pan valve")
    bench.fill("Name", "Goose float")
    bench.until(lambda: "Goose float gets 3.0 L/min" in bench.verdict())
    bench.until(lambda: "Flow at Goose float" in bench.number("flow"))


def test_a_vent_is_put_where_it_is_asked_for_drawn_and_moved_by_mouse_and_keys(bench: Bench) -> None:
    bench.without_rest()
    bench.open("lines")
    bench.part("Head main")
    bench.fill("Place the next part at", "100")
    bench.choose("Add a part", next(
        option.get_attribute("value") or "" for option in bench.field("Add a part").find_elements(By.TAG_NAME, "option")
        if "vent" in option.text.lower()
    ))  # fmt: skip

    def vents() -> list[float]:
        return [part["at_m"] for part in one(document(bench), "lines", "head-main")["inline"] if part["kind"] == "vent"]

    bench.until(lambda: 100 in vents())
    glyph = "[data-testid=section-drawing] [data-testid=inline-vent]"
    before = bench.find(glyph)
    ActionChains(bench.browser, duration=80).drag_and_drop_by_offset(before, 40, 0).perform()
    bench.until(lambda: any(at > 105 for at in vents()))
    moved = max(vents())
    on_plan = bench.find("[data-testid=plan-drawing] [data-testid=inline-vent]")
    on_plan.send_keys(Keys.ARROW_LEFT)
    bench.until(lambda: max(vents()) == round(moved - 1, 1))
    ActionChains(bench.browser, duration=80).drag_and_drop_by_offset(on_plan, -12, -12).perform()
    bench.until(lambda: max(vents()) < moved - 5)


def test_a_trough_is_deleted_with_its_pipe_or_without(bench: Bench) -> None:
    bench.without_rest()
    bench.open("lines")
    bench.part("Mat valve")
    hand = Hand(bench)
    hand.free()
    bench.keys(Keys.DELETE)
    bench.until(lambda: "Delete Mat valve" in bench.text("[role=dialog]"))
    bench.within_dialog("Cancel").click()
    bench.until(lambda: not bench.browser.find_elements(By.CSS_SELECTOR, "[role=dialog]"))
    assert bench.head().number == 1
