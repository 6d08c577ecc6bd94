"""What a plan is held against once it is sized: the worst of a flow's range, and the time in which a trough fills."""

from collections.abc import Sequence

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.cancel import CancelCheck
from leadsman.core.design import Design
from leadsman.core.sizing.wanted import ALONE, FILLING, Must

MET_WITHIN, A_LITTLE_MORE, MOST_AT_ONCE = 1e-3, 1.002, 2.0


def short_of(checked: Sequence[Must], plan: Design, check_cancelled: CancelCheck) -> dict[tuple[str, str], float]:
    """Return by how many times more must be asked for where the worst of a plan's range, or its filling, falls short.

    By outlet and case; nothing where all holds.
    """
    analysis, short = Analysis(plan, check_cancelled=check_cancelled), {}
    outlets = analysis.model.layout.outlets
    for must in checked:
        if must.fills_s is not None:
            refill = analysis.refills.get(must.where)
            takes_s = refill.time_s if refill is not None else None
            if takes_s is not None and takes_s > must.fills_s * (1.0 + MET_WITHIN):
                short[must.where, FILLING] = min(takes_s / must.fills_s, MOST_AT_ONCE) * A_LITTLE_MORE
            continue
        found = analysis.flow_range(outlets[must.where], together=must.when != ALONE)
        wanted = (must.flow_m3s or 0.0) / must.times
        if found is not None and found.worst < wanted * (1.0 - MET_WITHIN):
            short[must.where, must.when] = wanted / max(found.worst, 0.2 * wanted) * A_LITTLE_MORE
    return short
