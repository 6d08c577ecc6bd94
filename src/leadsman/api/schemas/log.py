"""Entries of the log, as they are sent and read."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from flask_openapi3.models.file import FileStorage
from pydantic import AwareDatetime, ConfigDict, Field

from leadsman.api.schemas.base import FaultBody, Schema
from leadsman.core.design import Design
from leadsman.core.field.entry import LogEntry
from leadsman.core.report.base import Words
from leadsman.core.trouble.kinds import Symptom

MOST_AT_ONCE = 500


class LogSent(Schema):
    """Entries that waited on a phone; each is checked and kept by itself."""

    entries: Annotated[list[dict[str, object]], Field(max_length=MOST_AT_ONCE)]


class RefusedEntry(Schema):
    """An entry that was not kept, by its place among those sent, and why."""

    index: int
    id: str | None
    faults: list[FaultBody]


class LogKept(Schema):
    """Which entries are kept, now or before; which are not."""

    kept: list[UUID]
    refused: list[RefusedEntry]


class KeptEntry(LogEntry):
    """An entry as it is kept; `received_at` is when it got here, and where its photo was taken, if that is kept [°]."""

    received_at: datetime
    has_photo: bool
    latitude_deg: float | None
    longitude_deg: float | None


class EntryPath(Schema):
    design_id: UUID
    entry_id: UUID


class PhotoForm(Schema):
    """A photo of an entry, and whether the place where it was taken is kept beside it."""

    model_config = ConfigDict(extra="forbid", arbitrary_types_allowed=True)

    file: FileStorage
    keep_place: bool = False


class PhotoQuery(Schema):
    """Which size of a photo is wanted."""

    small: bool = False


class PhotoKept(Schema):
    """A photo that is kept, now or before."""

    bytes: int


class LogQuery(Schema):
    """Which entries: of a part, before one that was read last; at most so many."""

    part: str | None = None
    before: AwareDatetime | None = None
    before_id: UUID | None = None
    length: int = Field(default=100, ge=1, le=500)


class LogBody(Schema):
    entries: list[KeptEntry]


class RoundStop(Schema):
    """A plan on a round: for how many days its store lasts by the plan, and when it was looked at last."""

    design_id: UUID
    site_name: str
    name: str
    lasts_days: float | None
    last_look: datetime | None


class RoundBody(Schema):
    """The plans, those that are empty soonest first; those of which that is not known last."""

    stops: list[RoundStop]


class AskLevels(Schema):
    """A vessel whose level is read, how many days back, and how far the farm's clock is ahead of UTC [min]."""

    document: Design
    vessel: Annotated[str, Field(max_length=64)]
    days: Annotated[float, Field(ge=1, le=30)] = 4.0
    utc_offset_min: Annotated[int, Field(ge=-840, le=840)] = 0


class AskExpected(Schema):
    """A vessel, a midnight, and the vessel's level then over its floor [m]."""

    document: Design
    vessel: Annotated[str, Field(max_length=64)]
    midnight: AwareDatetime
    level_m: Annotated[float, Field(ge=-100, le=100)]


class AskTrouble(Schema):
    """Trouble at a part, and what was answered so far: ids of answers by those of their checks."""

    document: Design
    symptom: Symptom
    part: Annotated[str, Field(max_length=64)]
    answers: Annotated[dict[Annotated[str, Field(max_length=200)], Annotated[str, Field(max_length=40)]],
        Field(max_length=200)] = {}  # fmt: skip


class LookedBody(Schema):
    """A part that was looked at: when last, and what its looks in a row say; no words where all is well."""

    part: str
    last_at: datetime
    told: Words


class LooksBody(Schema):
    looks: list[LookedBody]
