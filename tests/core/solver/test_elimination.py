"""Elimination of many cases together, held against dense solutions on trees, chains, loops and meshes."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from leadsman.core.base.array import Floats, Ints
from leadsman.core.solver.elimination import MOST_FILL, Elimination, elimination_of

Pairs = list[tuple[int, int]]


def chain(size: int) -> Pairs:
    return [(i, i + 1) for i in range(size - 1)]


def mesh(side: int) -> Pairs:
    across = [(row * side + i, row * side + i + 1) for row in range(side) for i in range(side - 1)]
    return across + [(i, i + side) for i in range(side * (side - 1))]


def random_tree(size: int, loops: int, seed: int) -> Pairs:
    rng = np.random.default_rng(seed)
    pairs = [(int(rng.integers(0, i)), i) for i in range(1, size)]
    return pairs + [(int(a), int(b)) for a, b in rng.integers(0, size, (loops, 2)) if a != b]


def columns(pairs: Pairs) -> tuple[Ints, Ints]:
    return np.array([a for a, _ in pairs], dtype=np.intp), np.array([b for _, b in pairs], dtype=np.intp)


def entries_and_squares(one: Elimination, pairs: Pairs, weights: Floats, holds: Floats) -> tuple[Floats, Floats]:
    """The same matrices as numbered entries, (entries, cases), and in full, (cases, size, size)."""
    cases = len(weights)
    entries, full = np.zeros((one.entries, cases)), np.zeros((cases, one.size, one.size))
    for i in range(one.size):
        entries[i] += holds[:, i]
        full[:, i, i] += holds[:, i]
    for (a, b), weight in zip(pairs, weights.T, strict=True):
        entries[a] += weight
        entries[b] += weight
        entries[one.number(a, b)] -= weight
        for i, j, sign in ((a, a, 1.0), (b, b, 1.0), (a, b, -1.0), (b, a, -1.0)):
            full[:, i, j] += sign * weight
    return entries, full


def check(size: int, pairs: Pairs, cases: int = 5, seed: int = 0) -> Elimination:
    one = Elimination(size, *columns(pairs))
    assert one.complete
    rng = np.random.default_rng(seed)
    weights, holds = 10.0 ** rng.uniform(-5, -1, (cases, len(pairs))), 10.0 ** rng.uniform(-6, -3, (cases, size))
    right = rng.normal(size=(size, cases))
    entries, full = entries_and_squares(one, pairs, weights, holds)
    expected = np.linalg.solve(full, right.T[..., None])[..., 0].T
    assert one.solve(entries, right.copy()) == pytest.approx(expected, rel=1e-7)
    return one


@pytest.mark.parametrize("size", [1, 2, 3, 64, 257])
def test_a_chain_halves_from_round_to_round(size: int) -> None:
    one = check(size, chain(size))
    assert len(one.rounds) <= 2 * np.log2(size) + 2
    assert sum(len(each.unknowns) for each in one.rounds) == size


@given(st.integers(2, 60), st.integers(0, 6), st.integers(0, 2**16))
def test_trees_with_some_loops_have_the_solution_of_the_full_matrix(size: int, loops: int, seed: int) -> None:
    check(size, random_tree(size, loops, seed), seed=seed)


def test_parts_that_nothing_joins_and_pipes_side_by_side_are_solved_too() -> None:
    check(7, [(0, 1), (1, 0), (1, 2), (4, 5), (4, 5), (5, 4)])


def test_a_mesh_that_would_fill_up_is_left_to_others() -> None:
    one = Elimination(30 * 30, *columns(mesh(30)))
    assert not one.complete
    assert one.fill > MOST_FILL
    check(9, mesh(3))


def test_a_case_without_solution_is_still_and_the_others_have_theirs() -> None:
    pairs = chain(4)
    one = Elimination(4, *columns(pairs))
    weights, holds = np.ones((2, 3)), np.array([[1.0, 0.0, 0.0, 0.0], [0.0, 0.0, 0.0, 0.0]])
    entries, full = entries_and_squares(one, pairs, weights, holds)
    right = np.ones((4, 2))
    answer = one.solve(entries, right.copy())
    assert answer[:, 0] == pytest.approx(np.linalg.solve(full[0], right[:, 0]))
    assert (answer[:, 1] == 0.0).all()


def test_a_pattern_met_before_is_not_worked_out_again() -> None:
    start, end = columns(chain(12))
    assert elimination_of(12, start, end) is elimination_of(12, start.copy(), end.copy())
    assert elimination_of(13, start, end) is not elimination_of(12, start, end)
