"""Designs and revisions that are kept."""

from datetime import datetime
from typing import Literal
from uuid import UUID

from pydantic import Field

from leadsman.api.schemas.base import Schema
from leadsman.core.base.pattern import TEXT_PATTERN
from leadsman.core.design import Design
from leadsman.core.report.glance import GlanceReport
from leadsman.core.report.workbench import AnalysisReport


class NewDesign(Schema):
    """A design to keep as revision 1; sent again under the same id, it is kept once."""

    document: Design
    design_id: UUID | None = None


class Save(Schema):
    """A document edited from a revision, and what the one who saves it calls himself.

    `save_id` is any new UUID: a save that is sent again with it gets the answer of the first time.
    """

    base_number: int = Field(ge=1)
    document: Design
    saved_by: str = Field(default="", max_length=60, pattern=TEXT_PATTERN)
    save_id: UUID | None = None


class DesignHeading(Schema):
    """A design in the list; `kept_until` is when one that was deleted is removed for good."""

    id: UUID
    site_name: str
    name: str
    number: int
    saved_at: datetime
    made_up: bool
    kept_until: datetime | None
    glance: GlanceReport | None


class DesignQuery(Schema):
    """A page of the list: how long it is, and after which design it begins, by when that was saved, and its id."""

    length: int = Field(default=50, ge=1, le=200)
    deleted: bool = False
    saved_before: datetime | None = None
    after_id: UUID | None = None


class DesignList(Schema):
    """A page of the designs, last saved first, and how many there are in all."""

    designs: list[DesignHeading]
    count: int


class DeletedBody(Schema):
    """Whether a design is deleted."""

    deleted: bool


class Revision(Schema):
    """One saved document."""

    design_id: UUID
    number: int
    parent_number: int | None
    standing: Literal["kept", "sibling"]
    saved_at: datetime
    saved_by: str = ""
    label: str = ""
    document: Design


class RevisionHeadingBody(Schema):
    number: int
    parent_number: int | None
    standing: Literal["kept", "sibling"]
    saved_at: datetime
    saved_by: str
    label: str


class RevisionLabel(Schema):
    """What a revision is called; nothing where it has no name."""

    label: str = Field(max_length=120, pattern=TEXT_PATTERN)


class RevisionList(Schema):
    """A design's revisions, newest first."""

    revisions: list[RevisionHeadingBody]


class SavedBody(Schema):
    """The number under which the document was kept."""

    number: int


class SavedAnalysis(Schema):
    """What is judged of the document that is kept under a number."""

    number: int
    analysis: AnalysisReport


class Conflict(Schema):
    """Somebody saved first: both versions are kept, the other one is the head."""

    code: Literal["stale"]
    message: str
    kept_as: int
    head: Revision
