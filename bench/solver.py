"""The network solver against scipy: one sparse factor-and-solve, growth with size, and a general root finder."""

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from functools import partial
from typing import Any

import numpy as np
from scipy.optimize import root
from scipy.sparse import coo_array, csc_array
from scipy.sparse.linalg import splu

from bench.designs import grid, tree
from bench.measure import Result, at_least, at_most, median_s
from leadsman.core.base.array import Bools, Floats
from leadsman.core.design import Design
from leadsman.core.solver.gradient import Solution
from leadsman.core.solver.network import Cases
from leadsman.core.steady.case import case_of
from leadsman.core.steady.flow import SolvedNetwork
from leadsman.core.steady.solve import model_of

PERMUTATION = "MMD_AT_PLUS_A"  # of SuperLU's own the fastest on these symmetric matrices
LITRES_A_MINUTE = 60_000.0


@dataclass(frozen=True)
class Loaded:
    """A design as the solver gets it, every valve open."""

    model: SolvedNetwork
    cases: Cases

    def solve(self) -> Solution:
        return self.model.plumbing.solver.solve(self.cases)


def loaded(design: Design) -> Loaded:
    model = model_of(design)
    return Loaded(model, model.loader.cases([case_of(design, all_open=True)]))


def junction_matrix(network: Loaded, solution: Solution) -> Any:
    """Return the symmetric matrix of the last step: the Laplacian of the links' conductances on the junctions."""
    net, n = network.model.plumbing.network, network.model.plumbing.network.junctions
    _, slopes = network.model.plumbing.solver.link_losses(network.cases, solution.flows_m3s)
    conductance = np.where(solution.shut[0] | network.cases.closed[0], 0.0, 1.0 / slopes[0])
    start, end = net.start < n, net.end < n
    both = start & end
    rows = np.concatenate([net.start[start], net.end[end], net.start[both], net.end[both]])
    columns = np.concatenate([net.start[start], net.end[end], net.end[both], net.start[both]])
    values = np.concatenate([conductance[start], conductance[end], -conductance[both], -conductance[both]])
    matrix = coo_array((values, (rows, columns)), shape=(n, n)).tocsc()
    idle = np.where(matrix.diagonal() == 0.0, 1.0, 0.0)  # places without a line
    return csc_array(matrix + coo_array((idle, (np.arange(n), np.arange(n))), shape=(n, n)).tocsc())


def against_one_factoring(design: Design, times: int) -> Result:
    """Return the whole solve over one scipy sparse factor-and-solve of the same matrix."""
    network = loaded(design)
    solution = network.solve()
    assert solution.converged.all()
    matrix = junction_matrix(network, solution)
    right = np.ones(matrix.shape[0])

    factored: Any = partial(splu, permc_spec=PERMUTATION, diag_pivot_thresh=0.0, options={"SymmetricMode": True})

    def factor() -> None:
        factored(matrix).solve(right)

    whole, one = median_s(network.solve, times), median_s(factor, times)
    note = f"{PERMUTATION}; {int(solution.iterations[0])} steps, {whole * 1e3:.1f} ms"
    return at_most(f"{design.name}: solve over one factor-and-solve", whole / one, 15.0, note)


def growth(sizes: tuple[int, ...]) -> Result:
    """Return the exponent with which the time of a tree's solve grows, by least squares over all sizes."""
    times = []
    for size in sizes:
        network = loaded(tree(size, size // 10))
        assert network.solve().converged.all()
        times.append(median_s(network.solve, 7 if size > 5000 else 15))
    exponent = float(np.polyfit(np.log(sizes), np.log(times), 1)[0])
    last = math.log(times[-1] / times[-2]) / math.log(sizes[-1] / sizes[-2])
    return at_most(
        f"trees of {sizes[0]} to {sizes[-1]} nodes: exponent", exponent, 1.2, f"over the last two {last:.2f}"
    )


def root_finder(model: SolvedNetwork, cases: Cases) -> tuple[Callable[[], Any], Floats, Bools]:
    """Return a run of scipy.optimize.root (hybr) on all heads and flows from 1.01 times the answer, and the answer.

    Heads are over the lowest outlet [m], flows in L/min.
    """
    solver, net = model.plumbing.solver, model.plumbing.network
    answer = solver.solve(cases)
    assert answer.converged.all()
    n, datum_m = net.junctions, float(cases.fixed_m.min())
    given = cases.fixed_m[0] - datum_m

    def residual(unknown: Floats) -> Floats:
        heads, flows = unknown[:n], unknown[n:] / LITRES_A_MINUTE
        every = np.concatenate([heads, given])
        losses, _ = solver.link_losses(cases, flows[None])
        mass = solver.matrix.net_inflow(flows[None])[0] - cases.draw_m3s[0]
        mass = np.where(cases.dead[0], heads, mass * LITRES_A_MINUTE)
        energy = np.where(cases.closed[0], flows, every[net.start] - every[net.end] - losses[0])
        return np.concatenate([mass, energy])

    exact = np.concatenate([answer.heads_m[0, :n] - datum_m, answer.flows_m3s[0] * LITRES_A_MINUTE])
    exact[:n][cases.dead[0]] = 0.0
    return lambda: root(residual, 1.01 * exact, tol=1e-10), exact, answer.shut


def against_a_root_finder(design: Design) -> Iterator[Result]:
    """Yield how much longer scipy.optimize.root takes from 1.01 times the answer, and how far the two differ."""
    network = loaded(design)
    find, exact, shut = root_finder(network.model, network.cases)
    assert not shut.any()  # else the states would have to be found too
    found = find()
    finder = median_s(find, 1)
    times = finder / median_s(network.solve, 15)
    yield at_least(f"{design.name}: scipy.optimize.root over solve", times, 100.0, "hybr from 1.01 times the answer")
    heads = network.model.plumbing.network.junctions
    apart = float(np.abs(found.x[:heads] - exact[:heads]).max())
    yield at_most(f"{design.name}: heads apart, in 1e-6 m", apart * 1e6, 1.0, "" if found.success else found.message)


def results() -> Iterator[Result]:
    """Yield every figure of the solver."""
    yield against_one_factoring(tree(2_000, 200), 25)
    yield against_one_factoring(grid(50), 15)
    yield against_one_factoring(grid(140), 5)
    dry = against_one_factoring(grid(140, tank_every=140), 3)
    yield replace(dry, bound="", kept=True, note="most valves run dry: no bound")
    yield growth((100, 500, 2_000, 8_000, 20_000))
    yield from against_a_root_finder(tree(420, 200, growth=0.55))
