"""What is uncertain in a design: an interval for each height, level, bore, roughness, fitting and valve."""

from dataclasses import dataclass

import numpy as np

from leadsman.core.base.array import Floats
from leadsman.core.base.units import m_from_mm
from leadsman.core.design import Design, FloatValveOutlet, Line, OutletBase, Place, Vessel
from leadsman.core.steady.case import Case
from leadsman.core.steady.loading import Figures, likely_figures
from leadsman.core.steady.plumbing import Plumbing

FITTINGS_SHARE = 0.30  # of K; TP-410 says as much of itself, insert fittings scatter more
KV_SHARE = 0.10  # ours, no source: makers seldom state it
AGED_ROUGHNESS_M = 5e-5  # plastic pipe long in service; typical, from memory
JUST_GIVES_M = 1e-6

KINDS = ("place_rise_m", "level_rise_m", "bore_m", "roughness_m", "fitting_factor", "kv_factor")


@dataclass(frozen=True, kw_only=True)
class Intervals:
    """Lowest and highest figures, one row each, and what each column is of: kind, then number within it."""

    low: Figures
    high: Figures
    likely: Figures

    def columns(self) -> list[tuple[str, int]]:
        """Return kind and number of every figure that is uncertain at all."""
        return [
            (kind, column)
            for kind in KINDS
            for column in np.flatnonzero(getattr(self.high, kind)[0] > getattr(self.low, kind)[0]).tolist()
        ]


def intervals(plumbing: Plumbing, case: Case) -> Intervals:
    """Return the intervals of a design in a case.

    Each height within ± its error; roughness new to aged; fittings' K ± 30 %; float valves' Kv ± 10 %; bore
    the nominal one to the mean of what the standard allows; a tank that a line leaves from its outlet to its
    overflow. A vessel that gives nothing, and one that only a float fills, keeps its level.
    """
    likely = likely_figures(plumbing)
    design = plumbing.layout.design
    error = np.array([[place.height_error_m or 0.0 for place in design.places]])
    levels = np.array([_level_interval(plumbing, case, vessel_id) for vessel_id in plumbing.vessels]).reshape(-1, 2)
    bore, rough = (array.copy() for array in (likely.bore_m, likely.roughness_m))
    reach = 0
    for line in design.lines:
        for mean_m, aged_m in _pipes(line, design):
            bore[0, reach] = min(bore[0, reach], mean_m) if mean_m else bore[0, reach]
            rough[0, reach] = max(rough[0, reach], aged_m)
            reach += 1
    fittings, kv = likely.fitting_factor, likely.kv_factor
    k_share = FITTINGS_SHARE * np.array([[bool(line.fittings or line.inline) for line in design.lines]])
    kv_share = KV_SHARE * np.array([[isinstance(outlet, FloatValveOutlet) for outlet in plumbing.to_air]])
    low = Figures(
        place_rise_m=-error,
        level_rise_m=levels[None, :, 0],
        bore_m=bore,
        roughness_m=likely.roughness_m,
        fitting_factor=fittings - k_share,
        kv_factor=kv - kv_share,
        blocked_per_flow2=likely.blocked_per_flow2,
    )
    high = Figures(
        place_rise_m=error,
        level_rise_m=levels[None, :, 1],
        bore_m=likely.bore_m,
        roughness_m=rough,
        fitting_factor=fittings + k_share,
        kv_factor=kv + kv_share,
        blocked_per_flow2=likely.blocked_per_flow2,
    )
    return Intervals(low=low, high=high, likely=likely)


def part_of(plumbing: Plumbing, kind: str, number: int) -> Place | Vessel | OutletBase | Line:
    """Return the part of the design that a figure is of, by kind and number as in `Intervals.columns`."""
    design = plumbing.layout.design
    match kind:
        case "place_rise_m":
            return design.places[number]
        case "level_rise_m":
            return design.vessels[number]
        case "kv_factor":
            return plumbing.to_air[number]
        case "fitting_factor":
            return design.lines[number]
    return design.lines[plumbing.reach_line[number]]


def rows_of(intervals: Intervals, shares: Floats) -> Figures:
    """Return figures at shares of their intervals, 0 lowest to 1 highest.

    Args:
        shares: shape (rows, uncertain figures), in the order of `Intervals.columns`.
    """
    rows = len(shares)
    figures = {kind: np.repeat(getattr(intervals.likely, kind), rows, axis=0) for kind in KINDS}
    for number, (kind, column) in enumerate(intervals.columns()):
        low, high = (float(getattr(bound, kind)[0, column]) for bound in (intervals.low, intervals.high))
        figures[kind][:, column] = low + shares[:, number] * (high - low)
    return Figures(**figures, blocked_per_flow2=intervals.likely.blocked_per_flow2)


def _level_interval(plumbing: Plumbing, case: Case, vessel_id: str) -> tuple[float, float]:
    """Return how far a vessel's level may fall and rise [m]."""
    vessel, level = plumbing.layout.vessels[vessel_id], case.levels_m[vessel_id]
    joined = any(vessel_id in (line.from_, line.to) for line in plumbing.layout.design.lines)
    if not joined or level <= vessel.outlet_m:
        return 0.0, 0.0
    return min(0.0, vessel.outlet_m + JUST_GIVES_M - level), max(0.0, vessel.brim_m - level)


def _pipes(line: Line, design: Design) -> list[tuple[float, float]]:
    """Return mean bore [m], 0 where only the line's own is known, and aged roughness [m] of each reach."""
    if line.runs:
        products = [design.pipe(run.product) for run in line.runs]
        return [(product.mean_bore_m, product.aged_roughness_m) for product in products]
    product = design.pipe(line.product) if line.product else None
    mean_m = product.mean_bore_m if product and line.bore_mm is None else 0.0
    aged_m = product.aged_roughness_m if product else AGED_ROUGHNESS_M
    own_m = m_from_mm(line.roughness_mm) if line.roughness_mm is not None else 0.0
    return [(mean_m, max(aged_m, own_m))]
