"""Files of surveys, height models and pictures, and what is asked of the ground."""

from flask_openapi3.models.file import FileStorage
from pydantic import ConfigDict, Field

from leadsman.api.schemas.base import Schema
from leadsman.core.design import Design
from leadsman.core.report.background import Pin
from leadsman.core.survey.pinning import MOST_PINS
from leadsman.formats.exporting import Export
from leadsman.formats.importing import ImportAsked
from leadsman.formats.relief_reader import ReliefAsked


class ImportForm(Schema):
    """A file of surveyed things, and what its user says of it."""

    model_config = ConfigDict(extra="forbid", arbitrary_types_allowed=True)

    file: FileStorage
    asked: ImportAsked


class AskProfile(Schema):
    """A design, and the line whose surveyed points are to be filled from the height service."""

    document: Design
    line: str


class ExportAsked(Schema):
    document: Design
    kind: Export


class ReliefForm(Schema):
    """A grid of heights, and what its user says of it."""

    model_config = ConfigDict(extra="forbid", arbitrary_types_allowed=True)

    file: FileStorage
    asked: ReliefAsked


class Pins(Schema):
    """The points that pin a picture."""

    pins: list[Pin] = Field(min_length=2, max_length=MOST_PINS)


class PictureForm(Schema):
    """A picture, and the points that pin it."""

    model_config = ConfigDict(extra="forbid", arbitrary_types_allowed=True)

    file: FileStorage
    pinned: Pins


class AskReach(Schema):
    """A source, the flow wanted at the end, the pipe, and the head that is needed over the ground there."""

    document: Design
    vessel: str
    product: str
    flow_lpm: float = Field(gt=0, le=10_000)
    needs_m: float = Field(ge=0, le=500)


class AskGround(Schema):
    """Spots of the plan, east and north [m]."""

    spots: list[tuple[float, float]] = Field(min_length=1, max_length=2_000)


class GroundBody(Schema):
    """The ground at each of some spots [m on the plan's datum]; null where the height model knows none."""

    ground_m: list[float | None]
