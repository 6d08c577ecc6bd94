"""Outlets that a lower one on the same line leaves without water while it draws."""

from dataclasses import dataclass, replace

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.running import MOST_RANGED_ALONE
from leadsman.core.design import OutletBase

HALF = 0.5


@dataclass(frozen=True, kw_only=True)
class Starved:
    """An outlet and the lower one that takes its water: flows [m3/s] all together, alone, and with the taker shut.

    `enough_m3s` is what it should get: the flow wanted of it, else half of what it gets by itself.
    """

    outlet: OutletBase
    taker: OutletBase
    together_m3s: float
    alone_m3s: float
    without_m3s: float
    enough_m3s: float


def starved_outlets(analysis: Analysis) -> list[Starved]:
    """Return each outlet that has enough alone, not half of it together, and most of it back without one lower outlet.

    Of plans with very many outlets none: each would have to be shut by itself.
    """
    fed = analysis.fed_outlets
    if not analysis.state.converged or not 1 < len(fed) <= MOST_RANGED_ALONE:
        return []
    layout, found = analysis.model.layout, []
    for outlet in fed:
        alone = analysis.flows_alone_m3s[outlet.id]
        together = analysis.answer(outlet).judged_flow_m3s
        enough = analysis.wanted_m3s(outlet) or HALF * alone
        if not together < HALF * enough <= enough <= alone:
            continue
        lower = [
            low
            for low in fed
            if layout.outlet_height_m(low) < layout.outlet_height_m(outlet) and _share_a_line(analysis, low, outlet)
        ]
        cases = [replace(analysis.standing, openings={**analysis.standing.openings, low.id: 0.0}) for low in lower]
        flows = [solved.used.outlet_flow_m3s(outlet.id) for solved in analysis.model.solve(cases)]
        best = max(range(len(lower)), key=lambda i: flows[i], default=None)
        if best is not None and flows[best] >= enough:
            found.append(
                Starved(
                    outlet=outlet,
                    taker=lower[best],
                    together_m3s=together,
                    alone_m3s=alone,
                    without_m3s=flows[best],
                    enough_m3s=enough,
                )
            )
    return found


def _share_a_line(analysis: Analysis, outlet: OutletBase, other: OutletBase) -> bool:
    ways = [
        {line.id for line in route.lines} if (route := analysis.routes[each.id]) else set() for each in (outlet, other)
    ]
    return bool(ways[0] & ways[1])
