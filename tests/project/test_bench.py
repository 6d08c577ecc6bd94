"""The benchmarks run: what they measure is the solver's own answer, and what they print says how it stands."""

import math

import pytest
from bench import drinking, season
from bench.designs import grid, tree
from bench.measure import at_least, at_most
from bench.solver import against_a_root_finder, against_one_factoring


@pytest.mark.parametrize("design", [tree(150, 15), grid(11, tank_every=5)], ids=["tree", "grid"])
def test_a_solve_is_held_against_one_factoring(design) -> None:  # type: ignore[no-untyped-def]
    result = against_one_factoring(design, 1)
    assert math.isfinite(result.value)
    assert result.value > 1.0  # some steps, each with a factoring
    assert result.name.startswith(design.name)


def test_a_root_finder_comes_to_the_same_answer() -> None:
    slower, apart = against_a_root_finder(tree(30, 8, growth=0.55))
    assert slower.value > 1.0
    assert apart.kept


def test_a_season_is_held_against_a_plain_loop_that_agrees() -> None:
    slower, apart, curve = season.results(years=1)
    assert slower.value > 1.0
    assert apart.kept
    assert curve.value > 0.0


def test_mobs_are_held_against_a_root_finder_each_minute() -> None:
    (result,) = drinking.results(troughs=3)
    assert result.value > 0.0
    assert "3 mobs" in result.name


def test_a_bound_that_is_not_kept_is_said() -> None:
    assert str(at_most("a", 16.0, 15.0)).startswith("OVER")
    assert str(at_least("a", 120.0, 100.0)).startswith("ok")
