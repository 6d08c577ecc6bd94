"""Everything in one file, and what became of one that was read."""

from flask_openapi3.models.file import FileStorage
from pydantic import ConfigDict

from leadsman.api.schemas.base import Schema


class ArchiveForm(Schema):
    """An archive as it was exported."""

    model_config = ConfigDict(extra="forbid", arbitrary_types_allowed=True)

    file: FileStorage


class ArchiveRead(Schema):
    """How many plans were added, how many were here already, and how many were added beside ones that differ.

    Of one's own products those that were missing are added; those that differ stay as they are here, and are named.
    """

    added: int
    there: int
    beside: int
    products_added: int
    products_left: list[str]
