"""What upkeep is asked for with."""

from datetime import date
from typing import Annotated

from pydantic import Field

from leadsman.api.schemas.base import Schema
from leadsman.core.base.unit_system import System
from leadsman.core.design import Design


class AskUpkeep(Schema):
    """A design to keep running, and the day it is where the user is."""

    document: Design
    today: date


class AskLedger(Schema):
    """A design with its log's ledger: from which day the line ran, an hour's worth, and what the line cost."""

    document: Design
    today: date
    begun: date | None = None
    wage: Annotated[float, Field(ge=0, le=10_000)] = 0.0
    price: Annotated[float, Field(ge=0, le=1e8)] | None = None


class FeedQuery(Schema):
    key: Annotated[str, Field(max_length=200)] = ""
    units: System = "metric"


class FeedAddress(Schema):
    """Where a plan's calendar is, from this server's own address on."""

    path: str
