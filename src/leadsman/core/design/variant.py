"""Designs made of one by small changes: what they share with it is neither checked nor worked out again."""

import json
from typing import Any

from pydantic import ValidationError

from leadsman.core.base.fault import DesignFaults
from leadsman.core.design import Design
from leadsman.core.design.file import document_faults, write_design
from leadsman.core.design.reread import Rereader


class Variants:
    """A design that others are made of: its document to change, and what reads the changed one."""

    def __init__(self, design: Design) -> None:
        self._written = json.dumps(write_design(design))
        self._reader = Rereader()
        self._reader.know(self.document(), design)

    def document(self) -> Any:
        """Return the document of the design, as parsed JSON of one's own."""
        return json.loads(self._written)

    def design(self, document: Any) -> Design:
        """Return the design that a changed document holds; parts that did not change are the design's own.

        Raises:
            DesignFaults: as `read_design`.
        """
        try:
            return self._reader.read(document)
        except ValidationError as error:
            raise DesignFaults(document_faults(error)) from None
