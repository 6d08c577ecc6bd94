"""Designs to judge, and what is asked of them."""

from datetime import date
from typing import Annotated

from pydantic import Field

from leadsman.api.schemas.base import Schema
from leadsman.core.base.unit_system import System
from leadsman.core.catalogue import FittingProduct, FloatValveProduct, PartProduct, PipeProduct
from leadsman.core.dayrun.run import LEAST_HOURS
from leadsman.core.design import Design, Fitting, InlinePart
from leadsman.core.design.base import Day
from leadsman.core.report.setting import SettingsReport
from leadsman.formats.job_sheet.content import Paper

DIRECT_HOURS = 72.0  # what runs longer is a job


class Analyse(Schema):
    """A design to judge; nothing is kept."""

    document: Design


class AskInUnits(Schema):
    """A design, and the units of whoever reads what is made of it."""

    document: Design
    units: System = "metric"


class AskComparisons(Schema):
    """A design; the outlet at which taps, troughs and hoses are compared, the tightest where none is said; a bucket."""

    document: Design
    outlet: str | None = None
    bucket_l: Annotated[float, Field(ge=0.1, le=1_000)] = 20.0


class AskSheet(Schema):
    """A design to print as a job sheet: for whom, on which paper, and what it says of itself.

    `revision` is its number where it has one, `is_saved` whether nothing was changed since; `link` the address of the
    plan, which the sheet carries as a code for a phone.
    """

    document: Design
    units: System = "metric"
    paper: Paper = "a4"
    revision: Annotated[int, Field(ge=1, le=10**9)] | None = None
    is_saved: bool = True
    date: Day
    link: Annotated[str, Field(max_length=300, pattern=r"^https?://[\x21-\x7e]+$")] | None = None


class LayingDrawn(Schema):
    """Each line rolled out straight as SVG in the page's colours, by the line's id."""

    drawings: dict[str, str]


class SettingsDrawn(SettingsReport):
    """Floats set out, and of each vessel its section as SVG in the page's colours, by the vessel's id."""

    drawings: dict[str, str]


class AskDay(Schema):
    """A design to run over time from midnight on, in the case that it shows, with its events or without."""

    document: Design
    hours: Annotated[float, Field(ge=LEAST_HOURS, le=DIRECT_HOURS)] = 24.0
    events: bool = True


class AskCourse(Schema):
    """A design, and the two nodes between which its lines are followed."""

    document: Design
    start: str
    end: str


class AskRemedies(Schema):
    """A design, and one finding of it by its code and place."""

    document: Design
    code: str
    where: str


class AskPipes(Schema):
    """A design, one of its lines, and pipes of the user's own to be laid beside the catalogue's."""

    document: Design
    line: str
    own: list[PipeProduct] = Field(default=[], max_length=500)


class AskMixed(Schema):
    """A recipe of a design, how strong its vessel's water is now and is to be, as shares of the recipe's."""

    document: Design
    dosing: Annotated[str, Field(max_length=64)]
    now: float = Field(ge=0, le=10)
    wanted: float = Field(gt=0, le=10)


class AskWinter(Schema):
    """A design with its frost, and the day it is where the user is."""

    document: Design
    today: date


class AskValves(Schema):
    """A design, one of its float valves, and valves of the user's own to be laid beside the catalogue's."""

    document: Design
    outlet: str
    own: list[FloatValveProduct] = Field(default=[], max_length=500)


class FitInLine(Schema):
    """A design, one of its lines, and a fitting or a part that is to sit in it, of the catalogue or the user's own."""

    document: Design
    line: str
    fitting: FittingProduct | None = None
    part: PartProduct | None = None


class Fitted(Schema):
    """The same as a design holds it: what it takes brought to the line's bore."""

    fitting: Fitting | None = None
    part: InlinePart | None = None


class CompareSchools(Schema):
    """A design, and the outlet whose valve is to be compared with a smaller and a larger one."""

    document: Design
    outlet: str


class CompareOptions(Schema):
    """Designs to be laid side by side, each in the case that it shows."""

    documents: Annotated[list[Design], Field(min_length=2, max_length=4)]


class CompareYears(Schema):
    """Two designs, a year of each to be told."""

    document: Design
    other: Design
