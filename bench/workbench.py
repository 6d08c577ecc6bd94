"""What the page waits for: the server's answer to an edit of the demonstration, and a check of it."""

import json
from collections.abc import Iterator

import numpy as np

from bench.designs import comb
from bench.measure import Result, at_least, median_s
from leadsman.api.app import create_app
from leadsman.core.design import Design
from leadsman.core.design.file import read_design, write_design
from leadsman.core.design.layout import Layout
from leadsman.core.design.reread import Rereader
from leadsman.core.steady.case import case_of
from leadsman.core.steady.network_model import NetworkModel
from leadsman.core.steady.solve import model_of
from leadsman.demo import tamsel_ridge
from leadsman.settings import Settings


def results() -> Iterator[Result]:
    """Yield the server's medians [ms] for the demonstration, with all its states and ranges."""
    design = tamsel_ridge()
    client = create_app(Settings(database_url="postgresql://no-database-is-needed/")).test_client()
    body = {"document": write_design(design)}

    def ask(path: str) -> None:
        assert client.post(path, json=body).status_code == 200

    model, case = model_of(design), case_of(design, all_open=True)
    one = median_s(lambda: model.full_flows([case]), 30)
    edit, check = median_s(lambda: ask("/api/analyses"), 40), median_s(lambda: ask("/api/analyses/rest"), 10)
    yield Result("demonstration: an edit judged, states and ranges [ms]", edit * 1e3, note="aim 30 ms")
    yield Result("demonstration: the same over one state solved", edit / one, note=f"{one * 1e3:.1f} ms")
    yield Result("demonstration: at rest, remedies and mobs too [ms]", check * 1e3)
    yield from _large()


def _whose_tank_moved(design: Design) -> Result:
    """Return what is gained where only a place moved: its network is made of the one before."""
    model = model_of(design)
    place = design.places[0]
    higher = place.model_copy(update={"ground_m": place.ground_m + 1.0})
    after = design.model_copy(update={"places": [higher, *design.places[1:]]})
    assert model.moved_to(after) is not None
    anew = median_s(lambda: NetworkModel(Layout(after), model.water), 10)
    moved = median_s(lambda: model.moved_to(after), 20)
    return at_least("200 outlets: a network made anew over one whose tank moved", anew / moved, 3.0)


def _large() -> Iterator[Result]:
    """Yield what is gained on a plan of 200 outlets: parts read before, moved, and cases eliminated together."""
    document = json.loads(json.dumps(write_design(read_design(comb(20, 10)))))
    yield _whose_tank_moved(read_design(document))
    reader = Rereader()
    fresh = median_s(lambda: Design.model_validate(document), 10)
    again = median_s(lambda: reader.read(document), 10)
    yield at_least("200 outlets: a document read afresh over one read again", fresh / again, 1.5)
    model = model_of(read_design(document))
    solver, net = model.plumbing.solver, model.plumbing.network
    case = case_of(model.layout.design, all_open=True)
    cases = model.loader.cases([case.with_only(one.id) for one in model.layout.design.outlets])
    solution = solver.solve(cases)
    _, slopes = solver.link_losses(cases, solution.flows_m3s)
    conductance = np.where(solution.shut | cases.closed, 0.0, 1.0 / slopes)
    rows, right = np.zeros((cases.count, 0, 3)), np.full((cases.count, net.junctions), 1e-5)
    holds = np.full((cases.count, net.junctions), 1e-6)

    def all_at_once() -> None:
        solver.matrix.solve(conductance, holds, rows, right)

    def one_by_one() -> None:
        for i in range(cases.count):
            solver.matrix.solve(conductance[i : i + 1], holds[i : i + 1], rows[i : i + 1], right[i : i + 1])

    gain = median_s(one_by_one, 5) / median_s(all_at_once, 5)
    yield at_least("200 cases solved one by one over all eliminated together", gain, 2.0)
