"""A vessel filling from its level to full through its float valves, while the tank that feeds it sinks."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import islice, pairwise

import numpy as np
from numpy.polynomial import Chebyshev

from leadsman.core.base.units import DAY_S
from leadsman.core.design import FloatValveOutlet, Vessel
from leadsman.core.design.outlet_law import float_valve
from leadsman.core.design.store import shape_of
from leadsman.core.physics.vessel import level_m
from leadsman.core.steady.case import Case
from leadsman.core.steady.flow import Solved
from leadsman.core.steady.network_model import NetworkModel

LONGEST_REFILL_S = 10 * DAY_S
OPEN_NODES, CLOSING_NODES = 4, 9
FILLINGS_AT_ONCE = 24
QUADRATURE = np.polynomial.legendre.leggauss(24)  # 1/flow grows 20 times while the float closes: still within 1e-9
SAME_LEVEL_M = 1e-9  # levels that differ by rounding alone


@dataclass(frozen=True, kw_only=True)
class Refill:
    """Volume lacking [m3], and the time it takes [s]: None where the vessel never gets there."""

    vessel: Vessel
    full_level_m: float
    volume_m3: float
    time_s: float | None


@dataclass(frozen=True, kw_only=True)
class _Part:
    """A part of the filling without a corner in it: levels from and to [m], and where flows are worked out."""

    low_m: float
    high_m: float
    nodes_m: tuple[float, ...]


class VesselFilling:
    """One vessel to be filled from one tank through all its float valves; what refills the tank meanwhile is left out.

    The flow is worked out at a few levels, the tank lower by what the vessel gained, and interpolated between:
    in parts between where a valve begins to close and has closed, so that no part has a corner. It is full where the
    last valve has it full.
    """

    def __init__(self, outlets: Sequence[FloatValveOutlet], vessel: Vessel, tank: Vessel, model: NetworkModel) -> None:
        self.outlets, self.vessel, self.tank, self.model = outlets, vessel, tank, model
        self.valves = {outlet.id: float_valve(outlet) for outlet in outlets}
        self.trough, self.store = shape_of(vessel), shape_of(tank)
        self.full_m = min(max(valve.full_level_m for valve in self.valves.values()), vessel.brim_m)
        start_m = min(vessel.level_m, self.full_m)
        self.both_m3 = self.store.volume_m3(tank.level_m) + self.trough.volume_m3(start_m)
        closing = [(valve.closes_at_m - valve.band_m, valve.closes_at_m) for valve in self.valves.values()]
        turns = {level for pair in closing for level in pair if start_m < level < self.full_m}
        self.parts = []
        for low, high in pairwise([start_m, *sorted(turns), self.full_m]):
            throttles = any(begins < high and low < ends for begins, ends in closing)
            nodes = _chebyshev_nodes(low, high, CLOSING_NODES if throttles else OPEN_NODES)
            if high - low > SAME_LEVEL_M:
                self.parts.append(_Part(low_m=low, high_m=high, nodes_m=tuple(nodes)))

    def cases(self, standing: Case) -> list[Case]:
        """Return the cases to be solved, in order: its valves by themselves at each level of each part."""
        return [self._case(standing, level) for part in self.parts for level in part.nodes_m]

    def refill(self, solved: Sequence[Solved]) -> Refill | None:
        """Return the refill, given the solved cases; None where nothing runs to begin with."""
        volume_m3 = self.trough.volume_m3(self.full_m) - self.trough.volume_m3(min(self.vessel.level_m, self.full_m))
        flows = [sum(case.used.outlet_flow_m3s(outlet.id) for outlet in self.outlets) for case in solved]
        if flows and flows[0] <= 0.0:
            return None
        total_s, taken = 0.0, 0
        for part in self.parts:
            here = flows[taken : taken + len(part.nodes_m)]
            taken += len(part.nodes_m)
            if min(here) <= 0.0 or self._tank_level_m(part.high_m) <= self.tank.outlet_m:
                return Refill(vessel=self.vessel, full_level_m=self.full_m, volume_m3=volume_m3, time_s=None)
            total_s += self._time_s(part, here)
        return Refill(
            vessel=self.vessel,
            full_level_m=self.full_m,
            volume_m3=volume_m3,
            time_s=total_s if total_s <= LONGEST_REFILL_S else None,
        )

    def _time_s(self, part: _Part, flows_m3s: Sequence[float]) -> float:
        """Return the time [s] that a part takes: surface over flow, summed over its levels between corners."""
        curve = Chebyshev.fit(part.nodes_m, flows_m3s, len(flows_m3s) - 1, domain=[part.low_m, part.high_m])
        corners = [level for level in self.trough.corners_m if part.low_m < level < part.high_m]
        total_s = 0.0
        for low, high in pairwise([part.low_m, *corners, part.high_m]):
            levels = (low + high) / 2.0 + (high - low) / 2.0 * QUADRATURE[0]
            surface = np.array([self.trough.surface_m2(level) for level in levels.tolist()])
            total_s += (high - low) / 2.0 * float((QUADRATURE[1] * surface / curve(levels)).sum())
        return total_s

    def _tank_level_m(self, level: float) -> float:
        return level_m(self.store, max(0.0, self.both_m3 - self.trough.volume_m3(level)))

    def _case(self, standing: Case, level: float) -> Case:
        levels = {**standing.levels_m, self.vessel.id: level, self.tank.id: self._tank_level_m(level)}
        openings = {outlet_id: valve.opening(level) for outlet_id, valve in self.valves.items()}
        return replace(standing.with_openings(openings), levels_m=levels)


def refills(fillings: Sequence[VesselFilling], standing: Case) -> dict[str, Refill]:
    """Return the refill of each filling that runs by the id of each of its outlets.

    The cases of some fillings are solved at once: all at once would hold gigabytes on a large plan.
    """
    answers: dict[str, Refill] = {}
    for some in _batched(fillings, FILLINGS_AT_ONCE):
        batches = [filling.cases(standing) for filling in some]
        wanted = [case for batch in batches for case in batch]
        solved = iter(some[0].model.solve(wanted) if wanted else [])
        for filling, batch in zip(some, batches, strict=True):
            answer = filling.refill(list(islice(solved, len(batch))))
            if answer is not None:
                answers |= {outlet.id: answer for outlet in filling.outlets}
    return answers


def _batched(fillings: Sequence[VesselFilling], count: int) -> Iterator[Sequence[VesselFilling]]:
    return (fillings[begin : begin + count] for begin in range(0, len(fillings), count))


def _chebyshev_nodes(low: float, high: float, count: int) -> list[float]:
    middle, half = (low + high) / 2.0, (high - low) / 2.0
    return [middle - half * float(np.cos(np.pi * (2 * k + 1) / (2 * count))) for k in range(count)]
