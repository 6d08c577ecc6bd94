"""Medians, and the line that says what a measured ratio is against its bound."""

import gc
import time
from collections.abc import Callable
from dataclasses import dataclass
from statistics import median

WIDTH = 74
HEAD = f"{'':4} {'what':<{WIDTH}} {'measured':>9}  {'limit':<13} note"


@dataclass(frozen=True)
class Result:
    """One measured figure: a ratio with the bound that it is to keep, or a figure that is only reported."""

    name: str
    value: float
    bound: str = ""
    kept: bool = True
    note: str = ""

    def __str__(self) -> str:
        mark = "" if not self.bound else "ok  " if self.kept else "OVER"
        return f"{mark:4} {self.name:<{WIDTH}} {self.value:>9.2f}  {self.bound:<13} {self.note}"


def at_most(name: str, value: float, bound: float, note: str = "") -> Result:
    """Return a result that is to be no more than a bound."""
    return Result(name, value, f"at most {bound:g}", value <= bound, note)


def at_least(name: str, value: float, bound: float, note: str = "") -> Result:
    """Return a result that is to be no less than a bound."""
    return Result(name, value, f"at least {bound:g}", value >= bound, note)


def million_steps_s() -> float:
    """Return the time [s] that this machine takes for a million steps of a plain loop: what times here are held to."""

    def steps() -> None:
        for _ in range(1_000_000):
            pass

    return median_s(steps, 5)


def median_s(run: Callable[[], object], times: int) -> float:
    """Return the median time [s] of a number of runs, after one that does not count."""
    run()
    taken = []
    gc.disable()
    try:
        for _ in range(times):
            start = time.perf_counter()
            run()
            taken.append(time.perf_counter() - start)
    finally:
        gc.enable()
    return median(taken)
