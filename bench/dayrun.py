"""The system over time: a day of the demonstration, a month of fifty troughs, growth, memory, against a root finder."""

import resource
import subprocess
import sys
import time
from collections.abc import Iterator
from dataclasses import replace

import numpy as np

from bench.designs import watered
from bench.measure import Result, at_least, at_most, median_s, million_steps_s
from bench.solver import root_finder
from leadsman.core.dayrun.run import day_run
from leadsman.core.design import Design
from leadsman.core.design.file import read_design, write_design
from leadsman.core.steady.case import case_of
from leadsman.core.steady.solve import model_of
from leadsman.demo import tamsel_ridge

DAY_S, MINUTE_S = 86_400.0, 60.0
USUAL_STEPS_S = 0.02  # what a million plain steps take on the machine that the aims are for
SAMPLED_MINUTES = 100
MONTH_D, LARGE_D = 30, 9


def farm(troughs: int) -> Design:
    """Troughs with a mob to each, and a spring that gives a little more than they drink."""
    document = write_design(watered(troughs))
    spring = {"id": "spring", "kind": "spring", "fills": "tank", "claimed_lpm": 0.6 * troughs}
    return read_design({**document, "inflows": [spring]})


def run_s(design: Design, days: float) -> float:
    """Return how long a run takes [s], all that it loads loaded before."""
    begun = time.perf_counter()
    day_run(design, days * DAY_S, np.linspace(0.0, days * DAY_S, 289).tolist())
    return time.perf_counter() - begun


def results() -> Iterator[Result]:
    """Yield every figure of runs over time."""
    steps_s = million_steps_s()
    demo = tamsel_ridge()
    day_s = median_s(lambda: run_s(demo, 1.0), 5)
    pace = f"aim 300 ms where a million steps take {1e3 * USUAL_STEPS_S:.0f} ms, as here they take {1e3 * steps_s:.0f}"
    yield at_most(
        "the demonstration's day over a million steps",
        day_s / steps_s,
        0.3 / USUAL_STEPS_S,
        f"{1e3 * day_s:.0f} ms; {pace}",
    )
    fifty = farm(50)
    run_s(fifty, 0.1)
    month_s = run_s(fifty, MONTH_D)
    told = f"{month_s:.1f} s; aim 10 s"
    yield at_most("50 troughs, 30 days over a million steps", month_s / steps_s, 10.0 / USUAL_STEPS_S, told)
    each_s = root_each_s(fifty)
    slower = each_s * MONTH_D * DAY_S / MINUTE_S / month_s
    yield at_least("50 troughs, 30 days: scipy.optimize.root each minute over run", slower, 50.0, "100 minutes sampled")
    yield at_most("30 days over 10 days", month_s / run_s(fifty, MONTH_D / 3), 3.0 * 1.15, "at most in step with days")
    few_s, many_s = run_s(farm(25), 2.0), run_s(farm(100), 2.0)
    grown = float(np.log(many_s / few_s) / np.log(4.0))
    yield at_most(
        "growth with troughs, 25 to 100: exponent", grown, 1.2, f"{few_s:.2f} s and {many_s:.2f} s for 2 days"
    )
    yield at_most(
        f"200 troughs, {LARGE_D} days: memory [MB]", large_mb(), 1_000.0, "what is told does not grow with days"
    )


def root_each_s(design: Design) -> float:
    """Return how long scipy.optimize.root takes for one minute's state [s], over states as a run has them."""
    times = np.linspace(0.0, DAY_S, SAMPLED_MINUTES)
    run = day_run(design, DAY_S, times.tolist())
    model, standing = model_of(design), case_of(design)
    taken = []
    for levels in run.levels_m.tolist():
        vessels = [
            vessel.model_copy(update={"level_m": level}) for vessel, level in zip(design.vessels, levels, strict=True)
        ]
        case = replace(case_of(design.model_copy(update={"vessels": vessels})), shut_lines=standing.shut_lines)
        opening = {key: max(x, 1e-2) for key, x in case.openings.items()}
        find, _, _ = root_finder(model, model.loader.cases([replace(case, openings=opening)]))
        begun = time.perf_counter()
        find()
        taken.append(time.perf_counter() - begun)
    return float(np.mean(taken))


def large_mb() -> float:
    """Return the most memory that a run of 200 troughs takes [MB], in a process of its own."""
    done = subprocess.run([sys.executable, "-m", "bench.dayrun"], capture_output=True, text=True, check=True)
    return float(done.stdout)


if __name__ == "__main__":
    run_s(farm(200), LARGE_D)
    print(resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1e3)
