"""Winter: a frost is set, what freezes first is seen, the lines are drained by the walk, ticked off on the phone."""

from bench_page import Bench

from leadsman.core.design.file import read_design


def test_a_frost_is_set_what_freezes_first_is_seen_and_the_lines_are_drained_by_the_walk(bench: Bench) -> None:
    bench.size(390, 844)
    bench.load("build")
    bench.button("Winter").click()
    bench.await_text("main", "No frost is stated yet")
    bench.button("Add a frost").click()
    bench.await_text("[data-testid=frost-told]", "degree-days")
    bench.await_text("[aria-label='Lines in the frost'] tbody tr", "Mat tube")
    bench.await_text("[data-testid=way-drain]", "does not do yet")
    assert bench.axe() == []
    bench.find("main input[type=checkbox]").click()  # the lines are drained before it
    bench.until(bench.saved)
    frost = read_design(bench.head().document).frost
    assert frost is not None
    assert frost.drained
    bench.button("The walk").click()
    step = "[data-testid=walk-source-west-draw]"
    bench.await_text(step, "Shut the tap of West draw-off at West chamber")
    assert bench.axe() == []
    bench.find(f"{step} button").click()
    bench.await_text(step, "done")
    bench.until(lambda: "All entries are sent" in bench.text("[data-testid=queue]"))
    bench.load("build")  # on another day it is still ticked
    bench.button("Winter").click()
    bench.button("The walk").click()
    bench.await_text(step, "done")
    assert bench.logged() == []
    with bench.database.transaction() as connection:
        rows = connection.execute("SELECT kind, part, figures->>'step' FROM log_entry").fetchall()
    assert rows == [("step", "west-draw", "drain:source-west-draw")]


def test_foam_and_a_lid_are_set_in_the_frost_and_the_ice_gets_thinner(bench: Bench) -> None:
    bench.load("build")
    bench.button("Winter").click()
    bench.button("Add a frost").click()
    bench.await_text("[data-testid=frost-told]", "degree-days")
    for title in ("Ice at the end of the frost", "Animals in the frost", "Lids, foam and walls"):
        bench.browser.find_element("xpath", f"//summary[.='{title}']").click()
    bench.await_text("[data-testid=winter-heifers]", "34 animals")

    def thick_mm() -> float:
        return float(bench.text("[data-testid=ice-butt] td").split()[0])

    before_mm = thick_mm()
    bench.choose_named("Lid of Glasshouse butt", "lid")
    bench.choose_named("Walls of Glasshouse butt", "dark")
    bench.until(lambda: thick_mm() < before_mm)
    bench.until(bench.saved)
    butt = next(vessel for vessel in read_design(bench.head().document).vessels if vessel.id == "butt")
    assert (butt.lid, butt.dark) == (True, True)
    assert bench.axe() == []
    assert bench.logged() == []
