"""Mobs at many troughs on one network, against a general root finder asked once a minute."""

from collections.abc import Iterator
from dataclasses import replace

import numpy as np

from bench.designs import watered
from bench.measure import Result, at_least, median_s
from bench.solver import root_finder
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.trough_run import TroughRun, trough_runs

SAMPLED_MINUTES = 3


def results(troughs: int = 50) -> Iterator[Result]:
    """Yield the time of a run of all mobs [ms], and how much longer scipy.optimize.root takes each minute of it."""
    analysis = Analysis(watered(troughs))
    given = [watering.run.trough for watering in analysis.waterings if watering.run]
    assert len(given) == troughs
    flow = analysis.state.solved.used
    runs: list[TroughRun] = []

    def run() -> None:
        runs[:] = trough_runs(flow.model, flow.case, given)

    taken = median_s(run, 5)
    minutes = float(runs[0].times_s[-1]) / 60.0
    samples = np.linspace(0.1, 0.9, SAMPLED_MINUTES) * runs[0].times_s[-1]
    each = []
    for time in samples.tolist():
        opening = {}
        for one in runs:
            level = float(np.interp(time, one.times_s, one.levels_m))
            for outlet in one.trough.outlets:
                valve = outlet.valve
                opening[outlet.id] = float(np.clip((valve.closes_at_m - level) / valve.band_m, 1e-2, 1.0))
        case = replace(flow.case, openings={**flow.case.openings, **opening})
        find, _, _ = root_finder(flow.model, flow.model.loader.cases([case]))
        each.append(median_s(find, 1))
    steps = f"{minutes:.0f} minutes in {len(runs[0].times_s)} steps, {taken * 1e3:.0f} ms; aim 50"
    slower = float(np.median(each)) * minutes / taken
    yield at_least(f"{troughs} mobs: scipy.optimize.root each minute over run", slower, 20.0, steps)
