"""What a plan needs: the list, the joints and the sheets of the demonstration and of 200 outlets, cold and again."""

import time
from collections.abc import Iterator

from bench.designs import watered
from bench.measure import Result, at_most, median_s, million_steps_s
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.design import Design
from leadsman.core.parts.chain import chain_between
from leadsman.core.report.parts import parts_report
from leadsman.core.report.setting import settings_report
from leadsman.demo import tamsel_ridge
from leadsman.formats.job_sheet.content import SheetAsked
from leadsman.formats.job_sheet.pdf import job_sheet

USUAL_STEPS_S = 0.02  # what a million plain steps take on the machine that the aims are for
AIMS_S = {"the demonstration": 0.5, "200 outlets": 3.0}
SHEETS_S = {"the demonstration": 5.0, "200 outlets": 15.0}  # most of the latter are findings and 200 sheets


def results() -> Iterator[Result]:
    """Yield how long the parts of a plan take, over what a million plain steps take."""
    steps_s = million_steps_s()
    for name, design in (("the demonstration", tamsel_ridge()), ("200 outlets", watered(200))):
        chain_between.cache_clear()
        cold_s = _once_s(design)
        again_s = median_s(lambda design=design: parts_report(design), 5)  # type: ignore[misc]
        told = f"{1e3 * cold_s:.0f} ms, again {1e3 * again_s:.0f} ms; aim {1e3 * AIMS_S[name]:.0f} ms"
        set_s = median_s(lambda design=design: settings_report(Analysis(design)), 3)  # type: ignore[misc]
        told_set = f"{1e3 * set_s:.0f} ms; aim {1e3 * AIMS_S[name]:.0f} ms"
        most = AIMS_S[name] / USUAL_STEPS_S
        yield at_most(f"floats of {name} set out over a million steps", set_s / steps_s, most, told_set)
        sheet_s = median_s(lambda design=design: _sheet(design), 3)  # type: ignore[misc]
        told_sheet = f"{1e3 * sheet_s:.0f} ms; aim {1e3 * SHEETS_S[name]:.0f} ms"
        most_sheet = SHEETS_S[name] / USUAL_STEPS_S
        yield at_most(f"job sheet of {name} over a million steps", sheet_s / steps_s, most_sheet, told_sheet)
        yield at_most(f"parts of {name} over a million steps", cold_s / steps_s, most, told)


def _sheet(design: Design) -> bytes:
    return job_sheet(Analysis(design), SheetAsked(date="2026-12-01"))


def _once_s(design: Design) -> float:
    begun = time.perf_counter()
    parts_report(design)
    return time.perf_counter() - begun
