"""A flow with other points open to air as a start: the answer of a start from nothing, in fewer steps."""

import numpy as np
import pytest

from leadsman.core.design.file import read_design
from leadsman.core.steady.network_model import NetworkModel
from leadsman.core.steady.solve import solve
from networks import random_network

SEEDS = range(60)


def test_from_a_flow_with_fewer_points_open_the_answer_is_that_from_nothing_and_comes_sooner() -> None:
    steps = {"nothing": 0, "near": 0}
    for seed in SEEDS:
        full = solve(read_design(random_network(seed)), all_open=True).solved
        if full.opened is None or len(full.opened.model.plumbing.air_points) < 3:
            continue
        last = full.opened.model
        assert isinstance(last, NetworkModel)
        points = last.plumbing.air_points
        for count in (len(points) // 2, len(points)):  # the first of two rounds, and a round in which nothing changed
            first = NetworkModel(last.layout, last.water, last.friction, points[:count])
            before, nothing = first.full_flows([full.opened.case])[0], last.full_flows([full.opened.case])[0]
            near = last.near(before)
            if not (before.converged and nothing.converged):
                continue
            assert near.converged, seed
            assert near.flows_m3s == pytest.approx(nothing.flows_m3s, rel=1e-5, abs=1e-8), (seed, count)
            assert np.array_equal(near.reached, nothing.reached)
            steps["nothing"] += nothing.iterations
            steps["near"] += near.iterations
    assert 0 < steps["near"] < 0.9 * steps["nothing"]
