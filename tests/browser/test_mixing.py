"""Mixing: a recipe is added on the phone, scaled to the water that is there, and kept with the plan."""

from bench_page import Bench

from leadsman.core.design.file import read_design


def test_a_recipe_is_added_scaled_to_the_water_and_kept(bench: Bench) -> None:
    bench.size(390, 844)
    bench.load("log?page=mixing")
    bench.await_text("main", "No recipe yet")
    bench.button("Add a recipe").click()
    bench.await_text("[data-testid^=dose-]", "for the")
    assert bench.axe() == []
    bench.until(bench.saved)
    (dosing,) = read_design(bench.head().document).dosings
    assert (dosing.amount, dosing.measure, dosing.per_l) == (1.0, "tsp", 10.0)
    assert bench.logged() == []
