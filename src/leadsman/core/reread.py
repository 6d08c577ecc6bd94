"""Reading a document that differs little from one that was read before: parts written alike are not checked again."""

import marshal
from collections import OrderedDict
from typing import Any

from leadsman.core.design import Design
from leadsman.core.design.base import Part
from leadsman.core.design.document import PARTS_KNOWN, with_known_parts

MOST_KEPT = 4  # documents of which the parts are kept, those last read
WITHOUT_REFERENCES = 2  # the version of marshal that writes equal things alike
Parts = dict[tuple[str, bytes], Part]


class Rereader:
    """Reads documents, and keeps the parts of the last few by their names."""

    def __init__(self) -> None:
        self._kept: OrderedDict[str, Parts] = OrderedDict()

    def read(self, document: Any) -> Design:
        """Return the design that parsed JSON holds, its parts the very objects of the last one where written alike.

        Raises:
            ValidationError: as `Design.model_validate` does, whatever was read before.
        """
        if not isinstance(document, dict):
            return Design.model_validate(document)
        name = f"{document.get('site')} {document.get('name')}"
        written = {kind: _written(document.get(kind)) for kind in PARTS_KNOWN}
        kept = self._kept.get(name, {})
        known = {kind: [kept.get((kind, one)) for one in parts] for kind, parts in written.items()}
        design = with_known_parts(document, known)
        fresh = {
            (kind, one): part
            for kind, parts in written.items()
            for one, part in zip(parts, getattr(design, kind), strict=True)
        }
        self._kept = OrderedDict([*((one, parts) for one, parts in self._kept.items() if one != name), (name, fresh)])
        while len(self._kept) > MOST_KEPT:
            self._kept.popitem(last=False)
        return design


def _written(parts: Any) -> list[bytes]:
    """Return each part as bytes, which tell 1 from 1.0 and from true as the checks do."""
    return [marshal.dumps(one, WITHOUT_REFERENCES) for one in parts] if isinstance(parts, list) else []
