"""For how long an outlet gets what it gets now, and what is left once the store is gone: what comes in."""

import math
from dataclasses import dataclass

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.water_system import WaterSystem
from leadsman.core.base.units import DAY_S
from leadsman.core.design import OutletBase


@dataclass(frozen=True, kw_only=True)
class Sustained:
    """A flow that does not last: for how long the store bears it [s], and the most that there is afterwards [m3/s]."""

    lasts_s: float
    then_m3s: float


@dataclass(frozen=True, kw_only=True)
class Store:
    """What can flow to an outlet [m3], what comes into its system [m3/s], all as the document has it."""

    usable_m3: float
    comes_m3s: float

    def lasts_s(self, drawn_m3s: float) -> float | None:
        """Return for how long it bears a draw [s]; None where what comes in keeps up with it."""
        return self.usable_m3 / (drawn_m3s - self.comes_m3s) if drawn_m3s > self.comes_m3s else None


def store_of(analysis: Analysis, system: WaterSystem, outlet: OutletBase) -> Store:
    """Return what an outlet has behind it; flows fall a little as the store does, which is left out of account.

    A source under pressure gives for good what it gives now.
    """
    if (route := analysis.routes.get(outlet.id)) and route.vessel.id in analysis.model.layout.sources:
        return Store(usable_m3=0.0, comes_m3s=math.inf)
    comes_m3s = sum(analysis.brings_m3[inflow.id] for inflow in system.inflows) / DAY_S
    return Store(usable_m3=system.usable_m3(outlet, system.levels_m), comes_m3s=comes_m3s)


def sustained(analysis: Analysis, outlet: OutletBase, *, together: bool) -> Sustained | None:
    """Return for how long an outlet keeps its flow, drawing with all others or by itself; None where it may for good.

    Source: the store's balance, all floats open all the while.
    """
    flow = analysis.state_of(outlet, together).outlets[outlet.id].judged_flow_m3s
    system = analysis.system_of(outlet.id)
    if flow <= 0.0 or system is None:
        return None
    drawn = flow
    if together:
        drawn = sum(analysis.answer(one).judged_flow_m3s for one in analysis.fed_outlets if system.serves(one.id))
    store = store_of(analysis, system, outlet)
    lasts = store.lasts_s(max(drawn, flow))
    return None if lasts is None else Sustained(lasts_s=lasts, then_m3s=min(flow, store.comes_m3s))
