"""The cheapest plan: the demonstration, a tree of 40 lines with 8 pipes each, and proof against trying all there is."""

import itertools
import resource
from collections.abc import Iterator
from typing import Any

import numpy as np

from bench.measure import Result, at_least, at_most, median_s, million_steps_s
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.design import Design
from leadsman.core.design.file import read_design
from leadsman.core.sizing.problem import parts_of, problem_of
from leadsman.core.sizing.size import size
from leadsman.core.sizing.trials import Trials
from leadsman.demo import tamsel_ridge

USUAL_STEPS_S = 0.02  # what a million plain steps take on the machine that the aims are for
DEMO_S, TREE_S, MOST_MB = 2.0, 10.0, 1_000.0
BORES = ((16.0, 0.6), (20.4, 0.9), (26.2, 1.4), (32.6, 2.2), (40.8, 3.4), (51.4, 5.3), (61.4, 7.6), (73.6, 10.9))


def results() -> Iterator[Result]:
    """Yield how long sizing takes, over what a million plain steps take, and over trying all plans."""
    steps_s = million_steps_s()
    demo = tamsel_ridge()
    demo_s = median_s(lambda: size(demo), 3)
    told = f"{demo_s:.2f} s; aim {DEMO_S:.0f} s"
    yield at_most("the demonstration sized over a million steps", demo_s / steps_s, DEMO_S / USUAL_STEPS_S, told)
    tree = made_up_tree(40, 8)
    gap = size(tree).proven_gap
    tree_s = median_s(lambda: size(tree), 3)
    told = f"{tree_s:.2f} s; aim {TREE_S:.0f} s; gap {gap:.0%}"
    yield at_most("a tree of 40 lines by 8 pipes over a million steps", tree_s / steps_s, TREE_S / USUAL_STEPS_S, told)
    small = made_up_tree(5, 6)
    every_s, proof_s = median_s(lambda: _tried_all(small), 1), median_s(lambda: size(small), 3)
    yield at_least("trying all plans of 5 lines by 6 pipes over proving one", every_s / proof_s, 4.0, "7,776 plans")
    peak_mb = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024.0
    yield at_most("memory of all this [MB]", peak_mb, MOST_MB)


def made_up_tree(lines: int, pipes: int) -> Design:
    """Return a tank over a tree of lines with fixed draws at its ends."""
    chance = np.random.default_rng(lines)
    parents = ["tank"] + [f"p{int(chance.integers(max(0, n - 6), n))}" for n in range(1, lines)]
    ends = [n for n in range(lines) if f"p{n}" not in parents]
    document: dict[str, Any] = {
        "format": "leadsman-design", "version": 1, "name": "Tree", "site": {"name": "Tamsel Ridge", "water_c": 10},
        "places": [{"id": "hill", "east_m": 0, "north_m": 0, "ground_m": 150.0}]
        + [{"id": f"p{n}", "east_m": n, "north_m": 0, "ground_m": round(float(chance.uniform(90, 125)), 1)}
           for n in range(lines)],
        "vessels": [{"id": "tank", "place": "hill", "level_m": 1.0,
                     "shape": {"kind": "upright_cylinder", "diameter_m": 3.0, "height_m": 2.0}}],
        "lines": [{"id": f"l{n}", "from": parents[n], "to": f"p{n}", "bore_mm": 20.4, "roughness_mm": 0.007,
                   "length_m": round(float(chance.uniform(40, 200)), 1)} for n in range(lines)],
        "outlets": [{"id": f"o{n}", "place": f"p{n}", "height_m": 0.5, "kind": "fixed", "min_pressure_kpa": 20.0,
                     "flow_lpm": round(float(chance.uniform(4, 20)), 1)} for n in ends],
        "sizing": {"products": [{"id": f"b{bore}", "bore_mm": bore, "roughness_mm": 0.007, "price_per_m": price}
                                for bore, price in BORES[:pipes]]},
    }  # fmt: skip
    return read_design(document)


def _tried_all(design: Design) -> float:
    """Return the least cost of all plans, each solved on the network."""
    (problem,) = parts_of(problem_of(Analysis(design)))
    trials = Trials(problem)
    rows = np.array(list(itertools.product(*(range(len(one.choices)) for one in problem.slots))), dtype=np.intp)
    works = trials.tried(rows).lacks == 0.0
    return float(trials.costs(rows[works]).min())
