"""What all bodies share: their base, what is refused and why, and how a design is named in an address."""

from typing import Literal
from uuid import UUID

from pydantic import BaseModel, ConfigDict, Field


class Schema(BaseModel):
    """Base of the API's own bodies."""

    model_config = ConfigDict(extra="forbid")


class FaultBody(Schema):
    """One thing wrong: where (JSON pointer into the body), what was found, what is allowed."""

    code: str
    path: str
    value: str
    limit: str
    message: str


class Problem(Schema):
    """Why a request was refused."""

    code: str
    message: str
    faults: list[FaultBody] = []


class DesignPath(Schema):
    design_id: UUID


class RevisionPath(Schema):
    design_id: UUID
    number: int = Field(ge=1)


class Health(Schema):
    status: Literal["up"]
    database: bool
