"""The same plan with a change made to it, analysed."""

import json

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.errors import CoreError
from leadsman.core.design.change import JsonPatch, patched


def changed(analysis: Analysis, patch: JsonPatch) -> Analysis | None:
    """Return the analysis of the design with a patch made, or None where that is no design."""
    key = json.dumps(patch)
    if key not in analysis.tried:  # two findings may try the same change
        try:
            analysis.tried[key] = Analysis(patched(analysis.document, patch), check_cancelled=analysis.check_cancelled)
        except CoreError:
            analysis.tried[key] = None
    return analysis.tried[key]
