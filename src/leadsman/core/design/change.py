"""A design with a change made to its document."""

from typing import Any

import jsonpatch

from leadsman.core.base.fault import DesignFaults, Fault
from leadsman.core.design import Design
from leadsman.core.design.file import read_design, write_design

JsonPatch = list[dict[str, Any]]


def patched(design: Design, patch: JsonPatch) -> Design:
    """Return a design after a JSON Patch (RFC 6902) of its document.

    Raises:
        DesignFaults: the patch does not fit the document, or what comes of it is no design.
    """
    try:
        document = jsonpatch.apply_patch(write_design(design), patch, in_place=True)
    except jsonpatch.JsonPatchException as error:
        raise DesignFaults(
            [Fault(path="", code="patch", found=str(error), allowed="a change of what is there")]
        ) from None
    return read_design(document)


def with_part(design: Design, kind: str, part_id: str, update: dict[str, Any]) -> Design:
    """Return a design in which fields of one part of a list have other values, which are taken as they are."""
    changed = [part.model_copy(update=update) if part.id == part_id else part for part in getattr(design, kind)]
    return design.model_copy(update={kind: changed})
