"""Every comparison of a plan, in the order in which people ask."""

from collections.abc import Iterator

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.design import OutletBase
from leadsman.core.parts.compare.comparison import Comparison
from leadsman.core.parts.compare.containers import tanks, troughs
from leadsman.core.parts.compare.drinking import many_or_few, trough_or_nipples
from leadsman.core.parts.compare.laying import surface_or_trench
from leadsman.core.parts.compare.pipe import hose_or_pipe, substitutes
from leadsman.core.parts.compare.shelter import seen_or_enclosed, sun_or_dark
from leadsman.core.parts.compare.taps import taps


def comparisons(analysis: Analysis, outlet: OutletBase, bucket_l: float) -> list[Comparison]:
    """Return every comparison that says something of this plan.

    Args:
        outlet: the one that taps, troughs and hoses are compared at.
        bucket_l: what the user's bucket holds [L], above 0.
    """
    return list(_found(analysis, outlet, bucket_l))


def _found(analysis: Analysis, outlet: OutletBase, bucket_l: float) -> Iterator[Comparison]:
    answers = (
        taps(analysis, outlet, bucket_l), troughs(analysis, outlet), tanks(analysis, outlet),
        surface_or_trench(analysis), many_or_few(analysis), hose_or_pipe(analysis, outlet), substitutes(analysis),
        seen_or_enclosed(analysis, outlet), trough_or_nipples(analysis), sun_or_dark(analysis),
    )  # fmt: skip
    yield from (answer for answer in answers if answer is not None)
