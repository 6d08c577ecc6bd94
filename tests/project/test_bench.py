"""The benchmarks run: what they measure is the solver's own answer, and what they print says how it stands."""

import math
from pathlib import Path

import psycopg
import pytest
from bench import drinking, editors, season
from bench.designs import grid, tree
from bench.measure import at_least, at_most
from bench.solver import against_a_root_finder, against_one_factoring

from leadsman.launch.cluster import free_port
from leadsman.launch.server import web_server


@pytest.mark.parametrize("design", [tree(150, 15), grid(11, tank_every=5)], ids=["tree", "grid"])
def test_a_solve_is_held_against_one_factoring(design) -> None:  # type: ignore[no-untyped-def]
    result = against_one_factoring(design, 1)
    assert math.isfinite(result.value)
    assert result.value > 0.0  # how long one factoring took on a busy machine is no matter of a test
    steps = int(result.note.split(";")[1].split()[0])
    assert steps > 1  # each with a factoring
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


def test_editors_work_on_plans_of_their_own_and_are_told_apart_when_one_fails(url: str, tmp_path: Path) -> None:
    server = web_server("127.0.0.1", free_port(0), url, tmp_path / "pid")
    try:
        server.await_answer()
        seen = editors.worked_on(server.address, 3, 2.5)
        assert len(seen.saves_s) == len(seen.analyses_s) >= 6
        assert seen.errors == 0
        with psycopg.connect(url) as connection:
            told = connection.execute("SELECT count(*), sum(head_number - 1) FROM design").fetchone()
            assert told == (3, len(seen.saves_s))
            connection.execute("ALTER TABLE revision ADD CONSTRAINT full_for_now CHECK (number < 2) NOT VALID")
        try:
            assert editors.worked_on(server.address, 1, 0.0).errors > 0
        finally:
            with psycopg.connect(url) as connection:
                connection.execute("ALTER TABLE revision DROP CONSTRAINT full_for_now")
    finally:
        server.stop()
