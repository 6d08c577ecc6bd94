"""What the page waits for: the server's answer to an edit of the demonstration, and a check of it."""

import json
from collections.abc import Iterator

import numpy as np
from flask.testing import FlaskClient

from bench.designs import comb
from bench.measure import Result, at_least, at_most, median_s, million_steps_s
from leadsman.api.app import create_app
from leadsman.core.design.file import read_design, write_design
from leadsman.core.steady.case import case_of
from leadsman.core.steady.solve import model_of
from leadsman.demo import tamsel_ridge
from leadsman.settings import Settings

SUCTION_M = 400.0  # of the first line: so long that some lines draw in air


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
    yield from _previews(client)
    yield from _together()


def _previews(client: FlaskClient) -> Iterator[Result]:
    """Yield what the server takes for a preview of 200 outlets, over the machine's own pace."""
    near, far = comb(20, 10), comb(20, 10)
    far["lines"][0] |= {"length_m": SUCTION_M, "points": []}
    for document, what, most in ((near, "all full", 2.5), (far, "lines drawing in air", 7.5)):
        asked = {"document": document, "number": 1}
        asked["air"] = client.post("/api/analyses/preview", json=asked).get_json()["air"]
        body = json.dumps(asked)

        def ask(body: str = body) -> None:
            client.post("/api/analyses/preview", data=body, content_type="application/json")

        pace, taken = million_steps_s(), median_s(ask, 15)
        note = f"{taken * 1e3:.0f} ms"
        yield at_most(f"200 outlets, {what}: a preview over a million steps", taken / pace, most, note)


def _together() -> Iterator[Result]:
    """Yield what is gained where the cases of a plan of 200 outlets are eliminated together."""
    document = comb(20, 10)
    model = model_of(read_design(document))
    solver, net = model.plumbing.solver, model.plumbing.network
    case = case_of(model.layout.design, all_open=True)
    cases = model.loader.cases([case.with_only(outlet.id) for outlet in model.layout.design.outlets])
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
