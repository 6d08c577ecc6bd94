"""Designs to be changed: what is asked, and what comes of it."""

from typing import Annotated, Any, Literal

from pydantic import Field, GetJsonSchemaHandler
from pydantic.json_schema import JsonSchemaValue
from pydantic_core import CoreSchema

from leadsman.api.schemas.base import Schema
from leadsman.core.base.pattern import TEXT_PATTERN
from leadsman.core.design import Design
from leadsman.core.design.edit import Edit
from leadsman.core.design.edit.first_line import FirstLine


class _DescribedAsDesign:
    """Describes parsed JSON as that of a design, for what checks it later."""

    @classmethod
    def __get_pydantic_json_schema__(cls, _schema: CoreSchema, handler: GetJsonSchemaHandler) -> JsonSchemaValue:
        return handler(Design.__pydantic_core_schema__)


UncheckedDesign = Annotated[dict[str, Any], _DescribedAsDesign]


class AskEdit(Schema):
    """A design, and what is to be changed in it: it is checked after that."""

    document: UncheckedDesign
    edits: list[Edit] = Field(min_length=1, max_length=200)


class NewSite(Schema):
    """A site to begin with: its name, what the water starts from, what that is called, and the ground there.

    With `first_line` it has a line to a trough with animals at it.
    """

    site: str = Field(min_length=1, max_length=120, pattern=TEXT_PATTERN)
    start: Literal["tank", "spring box", "pond"]
    name: str = Field(min_length=1, max_length=120, pattern=TEXT_PATTERN)
    ground_m: float = Field(ge=-500, le=9_000)
    first_line: FirstLine | None = None


class EditedBody(Schema):
    """A design after its edits, the ids of the parts that the last one made, and what is to be told of them."""

    document: Design
    made: list[str]
    notes: list[str]


class AskPreview(Schema):
    """A design that is being changed, the number of this request, and the outlet whose way is shown.

    `edits` are made in it before it is checked. `air` are the points that stood open to air in the answer before: with
    them this one comes sooner, and is the same.
    """

    document: UncheckedDesign
    number: int = Field(ge=0)
    edits: list[Edit] = Field(default=[], max_length=200)
    air: list[tuple[str, int]] = Field(default=[], max_length=10_000)
    outlet: str | None = None
