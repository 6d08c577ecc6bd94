"""What must hold surely: also at the worse end of the range that uncertain heights and bores leave a flow."""

from collections.abc import Sequence

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.cancel import CancelCheck
from leadsman.core.design import Design
from leadsman.core.sizing.wanted import ALONE, Must

MET_WITHIN, A_LITTLE_MORE = 1e-3, 1.002


def short_of(sure: Sequence[Must], plan: Design, check_cancelled: CancelCheck) -> dict[tuple[str, str], float]:
    """Return by how many times more must be asked for where the worst of a plan's range falls short.

    By outlet and case; nothing where all that must hold surely does.
    """
    analysis, short = Analysis(plan, check_cancelled=check_cancelled), {}
    outlets = analysis.model.layout.outlets
    for must in sure:
        found = analysis.flow_range(outlets[must.where], together=must.when != ALONE)
        wanted = (must.flow_m3s or 0.0) / must.times
        if found is not None and found.worst < wanted * (1.0 - MET_WITHIN):
            short[must.where, must.when] = wanted / max(found.worst, 0.2 * wanted) * A_LITTLE_MORE
    return short
