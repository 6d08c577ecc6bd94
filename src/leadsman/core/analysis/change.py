"""The same plan with a change made to it, analysed."""

import json
from typing import Any

import jsonpatch

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.errors import CoreError


def changed(analysis: Analysis, patch: list[dict[str, Any]]) -> Analysis | None:
    """Return the analysis of the design with a patch made, or None where that is no design."""
    key = json.dumps(patch)
    if key not in analysis.tried:  # two findings may try the same change
        try:
            document = jsonpatch.apply_patch(analysis.variants.document(), patch, in_place=True)
            analysis.tried[key] = Analysis(analysis.variants.design(document), heed=analysis.heed)
        except (CoreError, jsonpatch.JsonPatchException):
            analysis.tried[key] = None
    return analysis.tried[key]
