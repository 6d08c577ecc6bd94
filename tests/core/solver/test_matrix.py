"""The solver's parts by themselves: sums, the matrix both ways, slopes against differences, joined parts."""

from typing import Any

import numpy as np
import pytest

from examples import changed, worked_example
from leadsman.core.design.file import read_design
from leadsman.core.solver.gradient import control_rows
from leadsman.core.solver.matrix import Matrix, SignedSums
from leadsman.core.solver.network import Network
from leadsman.core.solver.still_part import joined_parts
from leadsman.core.steady.case import case_of
from leadsman.core.steady.network_model import NetworkModel
from leadsman.core.steady.solve import model_of
from networks import random_network
from properties import seeds


def loaded(seed: int) -> tuple[NetworkModel, Any]:
    design = read_design(random_network(seed, most_places=14))
    model = model_of(design)
    return model, model.loader.cases([case_of(design, all_open=True)])


@pytest.fixture
def as_sparse(monkeypatch: pytest.MonkeyPatch) -> Any:
    """Make matrices as if every network were large."""

    def make(network: Network) -> Matrix:
        with monkeypatch.context() as patch:
            patch.setattr("leadsman.core.solver.matrix.DENSE_UP_TO", 0)
            return Matrix(network)

    return make


@pytest.mark.parametrize("sparse", [False, True])
def test_sums_take_each_value_with_its_sign(sparse: bool) -> None:
    sums = SignedSums(np.array([0, 2, 1, 2]), np.array([1.0, -1.0, 1.0, 1.0]), np.array([0, 2, 3]), 3, sparse=sparse)
    values = np.array([[5.0, 7.0, 11.0], [1.0, 2.0, 3.0]])
    answer = sums(values)
    assert answer == pytest.approx(np.array([[-6.0, 7.0, 11.0], [-2.0, 2.0, 3.0]]))
    assert answer.flags["C_CONTIGUOUS"]  # a row of a batch goes to the sparse factoring as it is


@pytest.mark.parametrize("seed", seeds(400, 12))
@pytest.mark.parametrize("transposed", [False, True])
def test_dense_sparse_and_eliminated_together_give_one_solution(
    seed: int, transposed: bool, as_sparse: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    model, cases = loaded(seed)
    net, rng = model.plumbing.network, np.random.default_rng(seed)
    matrices = [model.plumbing.solver.matrix, as_sparse(net)]
    assert [matrix.dense for matrix in matrices] == [True, False]
    solution = model.plumbing.solver.solve(cases)
    _, slopes = model.plumbing.solver.link_losses(cases, solution.flows_m3s)
    conductance = np.where(solution.shut | cases.closed, 0.0, 1.0 / slopes)
    conductance[:, net.controls] = 0.0
    rows = control_rows(net, solution.control_state, slopes)
    right = rng.normal(size=(1, matrices[0].size)) * 1e-4
    holds = np.where(cases.dead, 1.0, 1e-6)
    answers = [matrix.solve(conductance, holds, rows, right, transposed=transposed) for matrix in matrices]
    assert answers[0] == pytest.approx(answers[1], rel=1e-6, abs=1e-9 * float(np.abs(answers[0]).max()))
    monkeypatch.setattr("leadsman.core.solver.matrix.TOGETHER_FROM", 0)
    for matrix in matrices:
        together = matrix.solve(conductance, holds, rows, right, transposed=transposed)
        assert together == pytest.approx(answers[0], rel=1e-6, abs=1e-9 * float(np.abs(answers[0]).max()))
    inflows = [matrix.net_inflow(solution.flows_m3s) for matrix in matrices]
    assert inflows[0] == pytest.approx(inflows[1], abs=1e-15)
    nodes = np.arange(min(3, net.junctions))
    responses = [matrix.own_responses(conductance, holds, rows, nodes) for matrix in matrices]
    assert responses[0] == pytest.approx(responses[1], rel=1e-6)


@pytest.mark.parametrize("seed", seeds(420, 8))
def test_the_slope_of_every_links_loss_is_that_of_its_differences(seed: int) -> None:
    model, cases = loaded(seed)
    solver, net = model.plumbing.solver, model.plumbing.network
    flows = np.random.default_rng(seed).uniform(1e-5, 2e-3, (1, net.links))
    step = 1e-6 * flows
    (above, _), (below, _) = (solver.link_losses(cases, flows + sign * step) for sign in (1.0, -1.0))
    _, slopes = solver.link_losses(cases, flows)
    differences = (above - below) / (2.0 * step)
    real = differences > 1e-4  # under it a slope is kept from vanishing
    assert slopes[real] == pytest.approx(differences[real], rel=1e-4)
    assert (slopes > 0.0).all()
    (backwards, _), (forwards, _) = (solver.link_losses(cases, sign * flows) for sign in (-1.0, 1.0))
    passive = np.ones(net.links, dtype=bool)
    passive[[pump.link for pump in net.pumps]] = False
    assert backwards[0, passive] == pytest.approx(-forwards[0, passive])


def test_parts_are_what_open_links_join() -> None:
    model = model_of(read_design(changed(worked_example(), {"outlets.2.shut": False})))
    net = model.plumbing.network
    whole = joined_parts(net, np.zeros(net.links, dtype=bool))
    joined = [model.plumbing.junctions[node] for node in ("fork", "low-valve", "drip")]
    joined.append(model.plumbing.vessels["header"])
    assert len(set(whole[joined].tolist())) == 1
    assert whole[model.plumbing.vessels["low-trough"]] != whole[joined[0]]  # no line ends on it
    apart = joined_parts(net, np.ones(net.links, dtype=bool))
    assert len(set(apart.tolist())) == net.junctions + net.fixed
    spur = model.plumbing.of_line["spur"][0]
    closed = np.zeros(net.links, dtype=bool)
    closed[spur] = True
    part = joined_parts(net, closed)
    fork, valve = (model.plumbing.junctions[node] for node in ("fork", "low-valve"))
    assert part[fork] != part[valve]
    assert part[fork] == part[model.plumbing.vessels["header"]]
